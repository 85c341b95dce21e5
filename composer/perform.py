"""A score written by people becomes a performance: how loud, how long, how far off the beat, with the truth of what was played.

The scores are plain notes in beats, as ``training/read_scores.py`` writes them. Chords are judged only on beats whose sounding notes
are exactly one chord; elsewhere the truth says X.
"""

from __future__ import annotations

from dataclasses import dataclass
from random import Random
from typing import Any

import numpy as np
import numpy.typing as npt

from composer.song import Note, Song
from composer.times import mark_lines, without_overlaps
from valley.listening._vocabulary import load_vocabulary
from valley.theory.chord import Chord

Times = npt.NDArray[np.float64]
SECONDS = (40.0, 70.0)  # of an excerpt
_TEMPI = {  # words at the head of a score, and beats a minute that they may mean
    "presto": (140, 190),
    "allegro": (104, 160),
    "vivace": (120, 176),
    "moderato": (84, 116),
    "menuet": (96, 150),
    "andante": (60, 92),
    "allegretto": (92, 126),
    "adagio": (46, 66),
    "largo": (44, 60),
    "lento": (44, 62),
}


@dataclass(frozen=True)
class Company:
    """Who plays a family: programs of the upper voice, the inner ones and the bass; tempo without a word; how free the time is."""

    sets: tuple[tuple[int, int, int], ...]
    bpm: tuple[int, int]
    rubato: float
    alone: float = 0.0  # chance that a piano plays it


FAMILIES = {
    "chorale": Company(
        ((19, 19, 19), (16, 16, 16), (20, 20, 20), (52, 52, 52), (53, 52, 53), (48, 48, 48), (61, 61, 61), (73, 71, 70), (49, 48, 43)), (56, 108), 0.5, 0.3
    ),
    "quartet": Company(((40, 41, 42), (40, 40, 42), (48, 48, 48), (49, 48, 43), (68, 71, 70), (73, 71, 70), (6, 6, 6)), (72, 138), 0.5, 0.5),
    "choir": Company(((52, 52, 52), (53, 53, 53), (48, 48, 48), (19, 19, 19), (73, 71, 70)), (56, 96), 0.4, 0.25),
    "piano": Company(((0, 0, 0),), (66, 126), 1.0, 1.0),
    "dance": Company(((40, 40, 40), (73, 73, 73), (21, 21, 21), (22, 22, 22), (24, 24, 24), (105, 105, 105), (74, 74, 74)), (92, 130), 0.1, 0.2),
}


def perform(piece: dict[str, Any], seed: int) -> Song:
    """An excerpt, played.

    Parameters
    ----------
    piece : family, meter, voices, mark, bars and notes, times in quarters
    seed : decides excerpt, players, tempo and expression
    """
    rng = Random(seed)
    company = FAMILIES[piece["family"]]
    alone = rng.random() < company.alone
    low, high = next((t for word, t in _TEMPI.items() if word in piece["mark"].lower()), company.bpm)
    bars = [b for b in piece["bars"] if b["beats"]]
    beat = float(np.median([b["beat"] for b in bars]))
    bpm = rng.uniform(low, high) / (1.3 if beat >= 1.5 else 1.0) * (1.5 if beat < 1 else 1.0)
    wanted = rng.uniform(*SECONDS)
    count = max(4, round(wanted * bpm / 60 / (sum(len(b["beats"]) for b in bars) / len(bars))))
    first = rng.randrange(0, max(1, len(bars) - count + 1)) if rng.random() < 0.6 else 0
    chosen = bars[first : first + count]
    begin, end = chosen[0]["start"], chosen[-1]["start"] + chosen[-1]["length"]
    at = np.array([b["start"] + q for b in chosen for q in b["beats"]] + [end])
    starts = np.cumsum([0, *[len(b["beats"]) for b in chosen]])[:-1]
    downbeats = [int(s) for s, b in zip(starts, chosen, strict=True) if b["first"]]
    times = _breathe(rng, at, bpm, company.rubato * rng.random())
    picked = [n for n in piece["notes"] if begin - 1e-6 <= n[0] < end - 1e-6]
    notes = _play(rng, picked, at, times, piece["voices"], alone=alone)
    if alone:
        mark_lines(notes)
    notes = without_overlaps(notes)
    programs = dict(zip(("melody", "chords", "bass"), (0, 0, 0) if alone else rng.choice(company.sets), strict=True))
    family = "piano" if alone and piece["family"] not in ("chorale", "dance") else {"chorale": "hymn"}.get(piece["family"], piece["family"])
    return Song(
        name=f"Score {seed}",
        genre=family,
        seed=seed,
        meter=piece["meter"],
        bpm=60 / float(np.median(np.diff(times))),
        beats=times[:-1].tolist(),
        downbeats=[float(times[i]) for i in downbeats],
        end=float(times[-1]),
        keys=[],
        chords=_chords(picked, at, times),
        sections=[],
        notes=notes,
        programs=programs,
        levels={"chords": rng.uniform(0.6, 1.0), "melody": rng.uniform(0.75, 1.1), "bass": rng.uniform(0.6, 1.0)},
        sung=False,
        swing=0.0,
        details={"tune_judged": piece["family"] in ("chorale", "dance"), "bass_judged": piece["family"] in ("chorale", "quartet", "choir") and not alone},
    )


def _breathe(rng: Random, at: Times, bpm: float, freedom: float) -> Times:
    """Seconds of every beat: phrases of four bars or so that hurry and linger, drift, and a slower end."""
    gaps = np.diff(at)
    usual = float(np.median(gaps))
    phrase = rng.choice([8, 12, 16])
    lengths, drift = [], 0.0
    for i, gap in enumerate(gaps):
        drift = 0.93 * drift + rng.gauss(0, 0.006 + 0.012 * freedom)
        phase = (i % phrase) / phrase
        bend = freedom * (0.14 * (2 * abs(phase - 0.5)) ** 2 - 0.05)
        end = 0.3 * max(0.0, (i - len(gaps) + 5) / 5) * freedom
        lengths.append(gap / usual * 60 / bpm * (1 + max(-0.12, min(0.12, drift)) + bend + end))
    return np.asarray(rng.uniform(0.1, 1.0) + np.concatenate([[0.0], np.cumsum(lengths)]))


def _play(rng: Random, picked: list[list[float]], at: Times, times: Times, voices: int, *, alone: bool) -> list[Note]:
    """Notes with their own loudness, length and looseness: the tune above, the beat a little, phrases that swell."""
    total = float(at[-1] - at[0])
    points = np.linspace(0, total, max(3, round(total / 8)) + 1)
    swell = np.array([rng.uniform(0.35, 0.8) for _ in points]) if alone else np.array([rng.uniform(0.55, 0.85) for _ in points])
    top = {round(n[0], 3): 0.0 for n in picked}
    for n in picked:
        top[round(n[0], 3)] = max(top[round(n[0], 3)], n[2])
    bring_out, tight, touch = rng.uniform(0.0, 0.18), rng.uniform(0.003, 0.014), rng.uniform(0.75, 1.0)
    spread = rng.uniform(0.0, 0.012) if alone else 0.004
    beats = {round(float(b), 3) for b in at}
    notes = []
    for start, length, midi, voice in picked:
        own = start + length * (touch if length <= 1 else 0.5 + 0.5 * touch)
        a = float(np.interp(start, at, times)) + rng.gauss(0, tight)
        loud = float(np.interp(start - at[0], points, swell)) + rng.gauss(0, 0.05)
        highest = midi >= top[round(start, 3)]
        loud += bring_out if highest else 0.0
        loud += 0.05 if round(start, 3) in beats else -0.03
        a += 0.0 if highest else rng.uniform(0, spread)
        part = "melody" if voice == 0 else "bass" if voice == voices - 1 else "alto" if voice == 1 else "tenor"
        b = float(np.interp(own, at, times))
        notes.append(Note(max(0.02, a), max(a + 0.05, b), int(midi), max(0.12, min(1.0, loud)), part))
    return notes


def _chords(picked: list[list[float]], at: Times, times: Times) -> list[dict[str, Any]]:
    """The chord of every beat whose notes are exactly one, else X; equal neighbours joined."""
    vocabulary = load_vocabulary()
    known: dict[tuple[frozenset[int], int], Chord] = {}
    for chord in vocabulary.chords:
        if chord is not None:
            pcs = frozenset(n.pitch_class for n in chord.members())
            known.setdefault((pcs, chord.bass.pitch_class), chord)
    rows: list[dict[str, Any]] = [{"start": 0.0, "end": round(float(times[0]), 4), "label": "N"}]
    for i, (a, b) in enumerate(zip(at, at[1:], strict=False)):
        share: dict[int, float] = {}
        begun: dict[int, float] = {}
        lowest = 999
        for start, length, midi, _ in picked:
            over = min(b, start + length) - max(a, start)
            if over <= 1e-6:
                continue
            pc = int(midi) % 12
            share[pc] = share.get(pc, 0.0) + over / (b - a)
            if start <= a + 1e-6:
                begun[pc] = max(begun.get(pc, 0.0), over / (b - a))
                lowest = min(lowest, int(midi))
        present = frozenset([pc for pc, s in share.items() if s >= 0.6] + [pc for pc, s in begun.items() if s >= 0.45])
        chord = known.get((present, lowest % 12)) if lowest < 999 and len(present) >= 3 else None
        label = chord.to_harte() if chord else "X"
        row = {"start": round(float(times[i]), 4), "end": round(float(times[i + 1]), 4), "label": label}
        if rows[-1]["label"] == label:
            rows[-1]["end"] = row["end"]
        else:
            rows.append(row)
    return rows
