"""Where the notes themselves say that a bar begins: long notes, the bass's steps and cadences, harmony that changes, lines that come to rest.

Music without drums is counted by its notes. A small network, taught on scores that people wrote, looks at six beats to either side and tells how likely
each is a bar's first (signs of metre after D. Temperley, "The Cognition of Basic Musical Structures", 2001: length, bass, harmony, and parallel stretches).
"""

from __future__ import annotations

from collections.abc import Sequence
from functools import cache
from importlib.resources import files
from typing import Final, NamedTuple

import numpy as np
import numpy.typing as npt

Doubles = npt.NDArray[np.float64]

AROUND: Final = 6  # beats seen to either side
_NEAR: Final = 0.17  # of a beat within which a note begins on it
_LONGEST: Final = 4.0  # beats; longer notes say no more
FEATURES: Final = 13


class BeatNote(NamedTuple):
    """A note in beats from the first one."""

    start: float
    end: float
    midi: int


def in_beats(notes: Sequence[tuple[float, float, int]], beats: Doubles) -> list[BeatNote]:
    """Notes (start, end, MIDI number) counted in beats; before the first and behind the last by their nearest length.

    Parameters
    ----------
    notes : starts and ends in the unit of ``beats``
    beats : where the beats are, ascending, at least two
    """
    index = np.arange(len(beats))
    before, after = beats[1] - beats[0], beats[-1] - beats[-2]

    def place(at: Doubles) -> Doubles:
        inside = np.interp(at, beats, index)
        return np.asarray(np.where(at < beats[0], (at - beats[0]) / before, np.where(at > beats[-1], index[-1] + (at - beats[-1]) / after, inside)))

    starts, ends = place(np.array([n[0] for n in notes])), place(np.array([n[1] for n in notes]))
    return [BeatNote(float(s), float(e), n[2]) for s, e, n in zip(starts, ends, notes, strict=True)]


def view_beats(notes: Sequence[BeatNote], count: int) -> Doubles:
    """What begins, sounds and changes at every beat, shape (beats, 13).

    Parameters
    ----------
    notes : what is played
    count : how many beats there are
    """
    out = np.zeros((count, FEATURES))
    chroma = np.zeros((count + 1, 12))
    bass, top = np.full(count + 1, -1.0), np.full(count + 1, -1.0)
    begun: list[list[BeatNote]] = [[] for _ in range(count)]
    for note in notes:
        at = round(note.start)
        if abs(note.start - at) <= _NEAR and 0 <= at < count:
            begun[at].append(note)
        elif 0 <= int(note.start) < count:
            out[int(note.start), 1] += 1
        for b in range(max(0, int(np.floor(note.start + 1e-3))), min(count, int(np.ceil(note.end - _NEAR)))):
            share = min(note.end, b + 1) - max(note.start, b)
            chroma[b, note.midi % 12] += share
            if note.start <= b + _NEAR and note.end > b + _NEAR:
                bass[b] = note.midi if bass[b] < 0 else min(bass[b], note.midi)
                top[b] = max(top[b], note.midi)
    unit = chroma / np.maximum(np.linalg.norm(chroma, axis=1, keepdims=True), 1e-9)
    for b, here in enumerate(begun):
        lengths = [min(_LONGEST, n.end - n.start) for n in here]
        low = [n for n in here if n.midi == bass[b]]
        high = [n for n in here if n.midi == top[b]]
        out[b, 0] = len(here)
        out[b, 2] = float(np.mean(lengths)) if here else 0.0
        out[b, 3] = max(lengths, default=0.0)
        out[b, 4] = min(_LONGEST, low[0].end - low[0].start) if low else 0.0
        out[b, 5] = min(_LONGEST, high[0].end - high[0].start) if high else 0.0
        if b:
            out[b, 6] = 1 - float(unit[b] @ unit[b - 1])
            out[b, 7] = 1 - float(unit[max(0, b - 2) : b].mean(0) @ unit[b : b + 2].mean(0))
            step = bass[b] - bass[b - 1] if bass[b] >= 0 and bass[b - 1] >= 0 else 0.0
            out[b, 8] = float(step != 0)
            out[b, 9] = float(step % 12 == 5)  # a fourth up or a fifth down, as in a close
            out[b, 10] = min(12.0, abs(step)) / 12
            out[b, 11] = min(12.0, abs(top[b] - top[b - 1])) / 12 if top[b] >= 0 and top[b - 1] >= 0 else 0.0
        out[b, 12] = float(not here)
    out[:, 0] /= max(1e-9, float(out[:, 0].mean()))
    out[:, 1] /= max(1e-9, float(out[:, 1].mean()))
    return out


def stack(view: Doubles) -> Doubles:
    """Each beat with those around it, shape (beats, 13 × 13); nothing before the first and behind the last, which is said by a sign."""
    count = len(view)
    inside = np.concatenate([view, np.ones((count, 1))], axis=1)
    padded = np.pad(inside, ((AROUND, AROUND), (0, 0)))
    return np.concatenate([padded[k : k + count] for k in range(2 * AROUND + 1)], axis=1)


@cache
def _weights() -> tuple[tuple[Doubles, Doubles], ...]:
    with np.load(str(files("valley.listening") / "networks" / "accents.npz")) as kept:
        return tuple((kept[f"w{i}"].astype(np.float64), kept[f"b{i}"].astype(np.float64)) for i in range(len(kept.files) // 2))


def hear_accents(notes: Sequence[BeatNote], count: int) -> Doubles:
    """Log odds that each beat is a bar's first, shape (beats,).

    Parameters
    ----------
    notes : what is played
    count : how many beats there are
    """
    x = stack(view_beats(notes, count))
    layers = _weights()
    for w, b in layers[:-1]:
        x = np.maximum(x @ w + b, 0)
    w, b = layers[-1]
    return np.asarray((x @ w + b)[:, 0])
