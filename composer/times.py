"""When everything sounds: a clock that breathes, notes that do not collide, and the rows of the truth in seconds."""

from __future__ import annotations

from itertools import groupby
from random import Random
from typing import Any

import numpy as np
import numpy.typing as npt

from composer.genres import Genre
from composer.song import Note
from valley.theory.chord import Chord
from valley.theory.key import Key

Times = npt.NDArray[np.float64]
"""Seconds of every beat."""
Wall = tuple[str, int, int, Key]
"""A section's name, its first beat, the beat it ends at, and its key."""


def clock(rng: Random, style: Genre, genre: str, bpm: float, beats_a_bar: int, total: int) -> Times:
    """Seconds of every beat: slow drift, rubato by phrases, a held end."""
    beat = 60 / bpm
    drift = 0.0
    rubato = style.rubato * rng.random()
    period = 4 * beats_a_bar
    out = [rng.uniform(0.1, 1.2)]
    slow_end = rng.random() < 0.5
    for i in range(total + 2):
        drift = max(-0.05, min(0.05, 0.92 * drift + rng.gauss(0, style.drift * 0.5)))
        length = beat * (1 + drift)
        phase = (i % period) / period
        length *= 1 + rubato * (0.12 * (2 * abs(phase - 0.5)) ** 2 - 0.04)
        if genre == "hymn" and rubato > 0.05 and i % period >= period - 1:
            length *= 1.25
        if slow_end and i >= total - beats_a_bar:
            length *= 1 + 0.12 * (i - total + beats_a_bar + 1) / beats_a_bar
        out.append(out[-1] + length)
    return np.array(out)


def key_rows(walls: list[Wall], times: Times) -> list[dict[str, Any]]:
    """Keys as they follow each other."""
    rows: list[dict[str, Any]] = []
    for _, a, b, key in walls:
        if rows and (rows[-1]["tonic"], rows[-1]["mode"]) == (str(key.tonic), key.mode):
            rows[-1]["end"] = round(times[b], 4)
        else:
            rows.append({"start": round(times[a], 4), "end": round(times[b], 4), "tonic": str(key.tonic), "mode": key.mode})
    return rows


def chord_rows(chords: list[Chord | None], times: Times) -> list[dict[str, Any]]:
    """Chords as they follow each other, silence before the first beat."""
    rows: list[dict[str, Any]] = [{"start": 0.0, "end": round(times[0], 4), "label": "N"}]
    i = 0
    for chord, group in groupby(chords):
        n = len(list(group))
        rows.append({"start": round(times[i], 4), "end": round(times[i + n], 4), "label": chord.to_harte() if chord else "N"})
        i += n
    return rows


def section_rows(walls: list[Wall], times: Times) -> list[dict[str, Any]]:
    """Sections, each with the first of its name."""
    first: dict[str, int] = {}
    rows = []
    for j, (name, a, b, _) in enumerate(walls):
        rows.append({"start": round(times[a], 4), "end": round(times[b], 4), "label": name, "same_as": first.get(name)})
        first.setdefault(name, j)
    return rows


def without_overlaps(notes: list[Note]) -> list[Note]:
    """No two soundings of one key at once in the same part family: the later cuts the earlier."""
    out: list[Note] = []
    last: dict[tuple[str, int], Note] = {}
    for note in sorted(notes, key=lambda n: n.start):
        before = last.get((note.part, note.midi))
        if before is not None and before.end > note.start - 0.01:
            if note.start - before.start < 0.03:
                continue
            before.end = max(before.start + 0.03, note.start - 0.01)
        last[note.part, note.midi] = note
        out.append(note)
    return out


def mark_lines(notes: list[Note]) -> None:
    """On one instrument the same key in two parts sounds once; keep the tune's note."""
    rank = {"melody": 0, "bass": 1, "left": 2, "right": 3}
    notes.sort(key=lambda n: (round(n.start, 2), rank.get(n.part, 4)))
    held: dict[int, Note] = {}
    kept = []
    for note in notes:
        before = held.get(note.midi)
        if before is not None and note.start - before.start < 0.04:
            continue
        if before is not None and before.end > note.start - 0.01:
            before.end = note.start - 0.01
        held[note.midi] = note
        kept.append(note)
    notes[:] = [n for n in kept if n.end > n.start + 0.02]
