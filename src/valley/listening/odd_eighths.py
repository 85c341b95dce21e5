"""Bars of five or seven eighths: where beats of two and three eighths go by turns, the eighth is counted.

A beat tracker wants equal beats, and in 7/8 there are none but the eighths: it counts every second eighth, across the bar lines, or whole bars of five. So
beats that can be split into eighths are split, and bars of seven and five are held against bars of six, eight and ten by the same signs that place every
downbeat (see ``downbeats``; groups of beats after J. London, "Hearing in Time", 2004).
"""

from __future__ import annotations

from typing import Final

import numpy as np
import numpy.typing as npt

from valley.listening._bar_lines import Shape, place_bar_lines
from valley.listening._beat_places import between_beats
from valley.listening.downbeats import Bars, count_bars, rate_places

Doubles = npt.NDArray[np.float64]
Floats = npt.NDArray[np.float32]

_ODD: Final = (Shape(7, 0.0, 4), Shape(7, 0.0, 3), Shape(5, 0.0, 3), Shape(5, 0.0, 2))
_EVEN: Final = (Shape(8, 0.0, 4), Shape(6, -0.1, None), Shape(6, -0.1, 3), Shape(4, -0.1, 2), Shape(10, -0.3, 6), Shape(10, -0.3, 4))
_SLOWEST, _FASTEST = 180.0, 330.0  # eighths a minute
_CLEARLY: Final = 0.05  # how much likelier a beat odd bars must be: in 113 pieces in other metres at most -0.1, in ten in these at least 0.15
_STRETCH: Final = 56  # beats over which bars are counted through
_STRUCK: Final = 0.45  # how evenly eighths are struck where bars were taken for beats: elsewhere at most 0.35, there from 0.58


def split_into_eighths(beats: Doubles, bpm: float, pulse: Floats, begins: Doubles) -> Doubles | None:
    """Places of the eighths in frames, where beats can be split into them; None where they cannot.

    Parameters
    ----------
    beats : beat places in frames
    bpm : beats a minute
    pulse : probability of a beat, shape (frames,)
    begins : how much begins, shape (frames,)
    """
    if bpm >= _SLOWEST:
        return beats
    if _SLOWEST <= 2 * bpm <= _FASTEST:
        return np.sort(np.concatenate([beats, between_beats(beats, pulse)]))
    bars = [(beats, 5, 5.0), (beats, 7, 7.0), (beats[::2], 7, 3.5), (beats[1::2], 7, 3.5)]  # a bar was taken for a beat, or for two
    split = [_split(bar, parts, begins) for bar, parts, rate in bars if _SLOWEST <= rate * bpm <= _FASTEST and len(bar) > 1]
    sure, eighths = max(split, key=lambda row: row[0], default=(0.0, beats))
    return eighths if sure > _STRUCK else None


def _split(bars: Doubles, parts: int, begins: Doubles) -> tuple[float, Doubles]:
    """Bars in equal parts, and how evenly these are struck: how weak the weakest is, times how much stronger they are than what lies between them."""
    length = np.diff(bars)[:, None]
    places = bars[:-1, None] + length * np.arange(parts) / parts

    def strength(at: Doubles) -> Doubles:
        i = np.clip(np.round(at).astype(int), 1, len(begins) - 2)
        return np.asarray(np.mean([begins[i + k] for k in (-1, 0, 1)], axis=(0, 1)))

    struck, between = strength(places), strength(places + length / (2 * parts))
    return float(struck.min() / (struck.max() + 1e-9) * struck.mean() / (between.mean() + 1e-9)), np.append(places.ravel(), bars[-1])


def find_odd_bars(evidence: Doubles, backbeat: Doubles, downbeat: Doubles) -> Bars | None:
    """Bars of seven or five eighths, where they fit clearly better than others.

    Parameters
    ----------
    evidence, backbeat : shape (eighths,), from ``rate_beats``
    downbeat : shape (eighths,), probability of a downbeat, from the pulse network
    """
    odd = [rate_places(shape, evidence, backbeat, downbeat) for shape in _ODD]
    even = [rate_places(shape, evidence, backbeat, downbeat) for shape in _EVEN]
    if not len(evidence) or _count_through(odd, _ODD) < _count_through(even, _EVEN) + _CLEARLY:
        return None
    found = place_bar_lines(odd, _ODD)
    return count_bars(found, _ODD, odd, "{}/8")


def _count_through(emissions: list[Doubles], shapes: tuple[Shape, ...]) -> float:
    """What the likeliest of these bars is worth a beat, where it begins anew every few bars."""

    def worth(emission: Doubles, beats: int) -> float:
        t = np.arange(len(emission))
        turns = np.stack([emission[t, (t + turn) % beats] for turn in range(beats)])
        return float(np.add.reduceat(turns, t[::_STRETCH], axis=1).max(0).sum() / len(emission))

    return max(worth(e, s.beats) + s.prior for e, s in zip(emissions, shapes, strict=True))
