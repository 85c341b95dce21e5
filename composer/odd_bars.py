"""Songs that drop beats: a bar at a section's end is cut short, as bands do before a chorus."""

from __future__ import annotations

from random import Random
from typing import Any

from composer.song import Note, Song


def drop_beats(song: Song, rng: Random) -> Song:
    """The same song with one to three bars cut short, each the last of a section; the truth follows."""
    beats_a_bar = round((len(song.beats) - 1) / max(1, len(song.downbeats) - 1))
    ends = [row["end"] for row in song.sections[:-1]]
    cuts = sorted(rng.sample(ends, min(len(ends), rng.choice([1, 1, 2, 3]))), reverse=True)
    for end in cuts:
        dropped = {2: 1, 3: 1}.get(beats_a_bar, rng.choice([2, 2, 2, 1]))
        before = [b for b in song.beats if b < end - 0.01]
        song = _cut(song, before[-dropped], end)
    song.details["dropped"] = len(cuts)
    return song


def _cut(song: Song, a: float, b: float) -> Song:
    """Without what lies between two times (s)."""

    def moved(t: float) -> float:
        return t if t <= a else max(a, t - (b - a))

    def rows(old: list[dict[str, Any]]) -> list[dict[str, Any]]:
        new = [r | {"start": round(moved(r["start"]), 4), "end": round(moved(r["end"]), 4)} for r in old]
        return [r for r in new if r["end"] > r["start"] + 0.01]

    def inside(t: float) -> bool:
        return a - 0.02 <= t < b - 0.02

    song.notes = [
        Note(moved(n.start), max(moved(n.start) + 0.03, moved(n.end) if n.end > b else min(n.end, a)), n.midi, n.loud, n.part)
        for n in song.notes
        if not inside(n.start)
    ]
    song.beats = [moved(t) for t in song.beats if not inside(t)]
    song.downbeats = [moved(t) for t in song.downbeats if not inside(t)]
    song.keys, song.chords, song.sections = rows(song.keys), rows(song.chords), rows(song.sections)
    song.end = moved(song.end)
    return song
