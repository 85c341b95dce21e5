"""The chords that the listening can name, as arrays: one row a chord."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cache

import numpy as np
import numpy.typing as npt

from valley.theory._chord_table import BY_HARTE
from valley.theory.chord import Chord
from valley.theory.pitch import PitchName

Doubles = npt.NDArray[np.float64]

# Cost of naming a quality at all, in nats a beat: rarer chords must explain the sound better.
# Then the basses that occur besides the root, as places on the line of fifths, and their extra cost.
_ROWS: tuple[tuple[str, float, tuple[int, ...], float], ...] = (
    ("maj", 0.0, (4, 1), 0.35),
    ("min", 0.0, (-3, 1, -2), 0.5),
    ("7", 0.29, (4, 1, -2), 0.5),
    ("maj7", 0.29, (4, 5), 0.5),
    ("min7", 0.25, (-3, 1, -2), 0.5),
    ("sus4", 1.18, (), 0.0),
    ("sus2", 1.51, (), 0.0),
    ("dim", 0.75, (-3,), 0.5),
    ("aug", 0.92, (), 0.0),
    ("hdim7", 0.5, (-3, -6), 0.6),
    ("dim7", 0.67, (), 0.0),
    ("minmaj7", 0.92, (), 0.0),
    ("maj6", 0.83, (), 0.0),
    ("min6", 0.67, (), 0.0),
    ("9", 0.67, (), 0.0),
    ("maj9", 0.63, (), 0.0),
    ("min9", 0.58, (), 0.0),
    ("maj(9)", 0.75, (), 0.0),
    ("min(9)", 0.83, (), 0.0),
    ("sus4(b7)", 0.67, (), 0.0),
    ("5", 1.77, (), 0.0),
)
# How strongly each member sounds in the treble, by its interval on the line of fifths.
# Sevenths weigh more than they sound: they decide between a triad and its seventh chord.
_STRENGTH = {0: 1.0, 4: 0.9, -3: 0.9, 1: 1.0, -1: 0.9, -6: 0.9, 8: 0.9, -2: 1.3, 5: 1.0, -9: 0.8, 3: 0.7, 2: 0.85}
_FLOOR = 0.053


@dataclass(frozen=True)
class Vocabulary:
    """``chords[i]`` sounds ``treble[i]`` over bass ``bass[i]`` at a cost of ``cost[i]``; the last row is no chord."""

    chords: tuple[Chord | None, ...]
    treble: Doubles
    bass: npt.NDArray[np.int_]
    cost: Doubles
    notes: npt.NDArray[np.bool_]

    def __len__(self) -> int:
        return len(self.chords)


@cache
def load_vocabulary() -> Vocabulary:
    """Every quality on every root, in the positions that occur, and N."""
    chords: list[Chord | None] = []
    treble, bass, cost, notes = [], [], [], []
    for harte, price, basses, bass_price in _ROWS:
        quality = BY_HARTE[harte]
        for root in range(12):
            name = PitchName((root * 7 + 5) % 12 - 5)
            for interval in (0, *basses):
                row = np.full(12, _FLOOR)
                held = np.zeros(12, bool)
                for member in quality.members:
                    pc = name.up(member).pitch_class
                    row[pc] = _STRENGTH[member]
                    held[pc] = True
                chord = Chord(name, quality, interval)
                held[chord.bass.pitch_class] = True
                row[chord.bass.pitch_class] = max(row[chord.bass.pitch_class], 0.6)
                chords.append(chord)
                treble.append(row / np.linalg.norm(row))
                bass.append(chord.bass.pitch_class)
                cost.append(price + (bass_price if interval else 0.0))
                notes.append(held)
    chords.append(None)
    treble.append(np.full(12, 1 / np.sqrt(12)))
    bass.append(0)
    cost.append(1.2)
    notes.append(np.zeros(12, bool))
    return Vocabulary(tuple(chords), np.array(treble), np.array(bass), np.array(cost), np.array(notes))
