"""At which level a musician would count: the beats that were followed, every second one, twice as many, or dotted ones.

Weighed by signs of its own, after the beats are found (the level of the beat apart from its places, as in A. Klapuri, A. Eronen & J. Astola,
"Analysis of the Meter of Acoustic Musical Signals", IEEE TASLP 2006).
"""

from __future__ import annotations

from collections.abc import Callable

import numpy as np
import numpy.typing as npt

from valley.listening._beat_places import between_beats
from valley.listening.downbeats import measure_triple

Floats = npt.NDArray[np.float32]
Doubles = npt.NDArray[np.float64]

MIN_BPM, MAX_BPM = 42.0, 212.0
_FPS = 50.0
_SLOWEST_COMPOUND, _FASTEST_COMPOUND = 42.0, 126.0  # dotted beats a minute
_USUAL_COMPOUND, _SURE, _SURER = 84.0, 0.7, 0.85  # faster ones, jigs, must be heard more surely against the beats counted first
_SECOND_BEAT = 0.65
_SLOW_COMPOUND = 52.0  # dotted beats a minute, of which eighths may be counted
# How much more surely a bar begins on every third beat than on all, and on every sixth than on every third: of 35 fast waltzes at most 1.23.
_IN_THREES, _IN_SIXES = 2.0, 1.24
_COUNTED = (30.0, 250.0)  # beats a minute that a musician may count; nothing else is offered
_TWICE, _LEVEL_ODDS = 0.78, 10.0  # how strong, against a beat, a beat midway must be heard to be one, and how much that decides
_BACKBEAT_ODDS = 4.5  # what a strong backbeat midway adds, and a weak one takes
# Of eighteen songs that were counted half as fast at most .05 in the twelve where that was right, from .15 in the six where it was not; one in question has .1.
_DIVIDED, _DIVIDED_ODDS = 0.12, 4.0
# Of 47 songs between whose beats less than that share of a beat begins, sixteen were counted by halves: odds of 1.4 at most, the others from 2.2 but for two.
_ALONE, _ALONE_ODDS = 0.13, 1.7
_FEW = 8  # beats, of which no half is taken
_MIDDLE_BPM, _MIDDLE_ODDS = 78.0, 0.5  # where a slower beat and its double are as usual, and how much an octave of tempo tells where nothing else does


def choose_level(beats: Doubles, activation: Doubles, downbeat: Floats, envelopes: Floats, begins: Doubles) -> tuple[Doubles, tuple[float, float, float]]:
    """Beats at another rate where the evidence says so; and how likely are this level, its half and its double.

    Parameters
    ----------
    beats : beat places in frames
    activation, downbeat : probability of a beat and of a downbeat, shape (frames,)
    envelopes : onset strength by band from low to high, shape (frames, 4)
    begins : how much begins, shape (frames,)
    """

    def share(odds: float) -> float:
        return float(1 / (1 + np.exp(-odds)))

    def halved(places: Doubles) -> tuple[Doubles, float]:
        slower = _stronger_half(places, activation)
        return slower, -_twice_as_fast(slower, activation, envelopes) + _rate_division(places, downbeat, begins)

    bpm = _FPS * 60 / float(np.median(np.diff(beats)))
    dotted = _dotted(beats, activation)
    if dotted is None and not _are_divided(beats, begins):
        dotted = _three_as_one(beats, downbeat)
    if dotted is not None:
        beats = dotted
    elif bpm * 2 <= MAX_BPM and _twice_as_fast(beats, activation, envelopes) > 0:
        beats = np.sort(np.concatenate([beats, between_beats(beats, activation)]))
    elif bpm / 2 >= MIN_BPM and len(beats) > _FEW:
        slower, odds = halved(beats)
        if odds > 0:
            beats = slower
    bpm = _FPS * 60 / float(np.median(np.diff(beats)))
    double = share(_twice_as_fast(beats, activation, envelopes)) if 2 * bpm <= _COUNTED[1] else 0.0
    half = share(halved(beats)[1]) if len(beats) > _FEW and bpm / 2 >= _COUNTED[0] else 0.0
    here = (1 - double) * (1 - half)
    total = here + double + half + 1e-9
    return beats, (here / total, half / total, double / total)


def _rate_division(beats: Doubles, downbeat: Floats, begins: Doubles) -> float:
    """Evidence (log odds) that beats are halves of slower ones, by what begins between them.

    If much does, they are beats; if hardly anything does, and bars are not of three, they are halves.
    """
    if _are_divided(beats, begins):
        return -_DIVIDED_ODDS
    between = max(strength(beats, share, begins) for share in (1 / 3, 1 / 2, 2 / 3))
    alone = between < _ALONE * strength(beats, 0.0, begins)
    return _ALONE_ODDS if alone and _find_threes(beats, downbeat) is None else 0.0


def _are_divided(beats: Doubles, begins: Doubles) -> bool:
    """Whether the beats are played in halves or in thirds: where what was followed are halves of beats, hardly anything begins between them."""
    return max(abs(share) for share in measure_triple(begins, beats)) > _DIVIDED


def _twice_as_fast(beats: Doubles, activation: Doubles, envelopes: Floats) -> float:
    """Evidence (log odds, up to scale) that the true beat is twice as fast as ``beats`` (frames).

    Speaks for it: the pulse network hears beats midway, nearly as sure as the beats; midpoints are strong in the high band, where a backbeat
    sounds; and, a little, a tempo so slow that its double is the more usual.
    """
    high = envelopes[:, 3].astype(np.float64)
    backbeat = min(strength(beats, 0.5, high) / (strength(beats, 0.0, high) + 1e-6), 1.5)
    midway = strength(beats, 0.5, activation) / (strength(beats, 0.0, activation) + 1e-3)
    usual = 2 * _MIDDLE_ODDS * np.log2(_MIDDLE_BPM * float(np.median(np.diff(beats))) / (60 * _FPS))
    return float(_LEVEL_ODDS * (midway - _TWICE) + _BACKBEAT_ODDS * (backbeat - 0.5) + usual)


def _dotted(beats: Doubles, activation: Doubles) -> Doubles | None:
    """Beats one and a half times as long where the pulse says so: two eighths were counted where a compound beat has three."""
    bpm = _FPS * 60 / float(np.median(np.diff(beats)))
    if not _SLOWEST_COMPOUND <= bpm * 2 / 3 <= _FASTEST_COMPOUND or len(beats) < 12:
        return None
    around = np.convolve(activation, np.ones(4) / 4, mode="same")  # a sure beat is broad as well as high

    def mean_at(places: Doubles) -> float:
        return float(around[places.astype(int).clip(0, len(around) - 1)].mean())

    eighths = np.sort(np.concatenate([beats, 0.5 * (beats[:-1] + beats[1:])]))
    strength = [mean_at(eighths[k::3]) for k in range(3)]
    best = int(np.argmax(strength))
    others = (sum(strength) - strength[best]) / 2
    sure = _SURE if bpm * 2 / 3 <= _USUAL_COMPOUND else _SURER
    if strength[best] > 1.22 * others and strength[best] > sure * mean_at(beats) and _has_second_beat(mean_at, eighths, best):
        return eighths[best::3]
    return None


def _three_as_one(beats: Doubles, downbeat: Floats) -> Doubles | None:
    """Every third beat where bars have six: a slow 6/8 was counted by its eighths. In a fast waltz one bar is as surely begun as the next."""
    bpm = _FPS * 60 / float(np.median(np.diff(beats)))
    if not _SLOWEST_COMPOUND <= bpm / 3 <= _SLOW_COMPOUND:
        return None
    found = _find_threes(beats, downbeat)
    return beats[found[0] :: 3] if found is not None and found[1] > _IN_SIXES else None


def _find_threes(beats: Doubles, downbeat: Floats) -> tuple[int, float] | None:
    """Which of three beats begins a bar, and how much more surely on every second time; None where bars do not go in threes."""
    if len(beats) < 12:
        return None
    i = np.round(beats).astype(int).clip(2, len(downbeat) - 3)
    begun = np.max([downbeat[i + k] for k in (-2, -1, 0, 1, 2)], axis=0)
    sixths = np.array([begun[k::6].mean() for k in range(6)])
    thirds = (sixths[:3] + sixths[3:]) / 2
    first = int(sixths.argmax())
    third = float(thirds[first % 3])
    return (first % 3, float(sixths[first]) / third) if third > _IN_THREES * begun.mean() else None


def _has_second_beat(mean_at: Callable[[Doubles], float], eighths: Doubles, first: int) -> bool:
    """Whether the fourth eighth of six is heard about as surely as the third and fifth: in six eighths it is a beat, in a waltz it lies between two."""
    sixths = [mean_at(eighths[k::6]) for k in range(6)]
    strongest = max((first, first + 3), key=lambda k: sixths[k])
    third, fourth, fifth = (sixths[(strongest + k) % 6] for k in (2, 3, 4))
    return fourth > _SECOND_BEAT * max(third, fifth)


def _stronger_half(beats: Doubles, activation: Doubles) -> Doubles:
    """Every second beat, those that are heard more strongly."""
    return max((beats[k::2] for k in (0, 1)), key=lambda p: float(activation[p.astype(int).clip(0, len(activation) - 1)].mean()))


def strength(beats: Doubles, share: float, curve: Doubles) -> float:
    """Mean of a curve's nearby peaks at a share of the way between beats (in frames)."""
    i = np.clip(np.round(beats[:-1] + share * np.diff(beats)).astype(int), 2, len(curve) - 3)
    return float(np.mean(np.max([curve[i + k] for k in (-2, -1, 0, 1, 2)], axis=0)))
