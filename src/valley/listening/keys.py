"""Keys and key changes from the chords, not from chroma alone.

Each chord speaks for a key by how usual it is there, which separates relative major and minor by the
weight of their tonic chords and dominants, and each move from chord to chord by how usual that is (``moves``); a hidden
Markov model over 24 keys finds the regions, changes being rare (after K. Noland & M. Sandler, "Key Estimation Using a
Hidden Markov Model", ISMIR 2006), but less so where a part of the song begins. The last and first chords and authentic cadences add to their tonic.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from itertools import pairwise

import numpy as np
import numpy.typing as npt

from valley.errors import ParameterError
from valley.listening._sticky import follow_sticky
from valley.listening.moves import chord_chances, move_chances, places_of
from valley.theory.chord import Chord
from valley.theory.key import Key

Doubles = npt.NDArray[np.float64]

# How usual a chord is in a key: semitones above the tonic, and whether its third is major or minor.
_MAJOR = {
    (0, "M"): 0.27,
    (5, "M"): 0.18,
    (7, "M"): 0.20,
    (9, "m"): 0.13,
    (2, "m"): 0.08,
    (4, "m"): 0.05,
    (10, "M"): 0.02,
    (5, "m"): 0.015,
    (2, "M"): 0.015,
    (4, "M"): 0.012,
    (9, "M"): 0.006,
    (11, "m"): 0.008,
    (3, "M"): 0.006,
    (8, "M"): 0.008,
    (7, "m"): 0.006,
    (0, "m"): 0.006,
}
_MINOR = {
    (0, "m"): 0.29,
    (8, "M"): 0.16,
    (10, "M"): 0.13,
    (3, "M"): 0.12,
    (5, "m"): 0.11,
    (7, "M"): 0.08,
    (7, "m"): 0.05,
    (2, "m"): 0.025,
    (5, "M"): 0.012,
    (0, "M"): 0.006,
    (1, "M"): 0.008,
    (11, "m"): 0.005,
    (9, "m"): 0.004,
    (2, "M"): 0.004,
}
_RARE = 0.0025
_KEY_CHANGE, _AT_PART = 24.0, 8.0  # nats, within a part and where one begins
_USUAL_PACE = 0.4  # chord changes an interval; where they are quicker, as many pass through near keys that the music stays in
_EDGE_GAIN, _CADENCE_GAIN = 1.5, 0.8
_CHROMA_WEIGHT = 0.6
_CHORD_WEIGHT, _MOVE_WEIGHT = 0.1, 0.5  # of chords and moves as they were counted


@dataclass(frozen=True)
class KeyRun:
    """A key over intervals ``start`` to ``end`` (exclusive)."""

    start: int
    end: int
    key: Key
    confidence: float


def _third(chord: Chord) -> str:
    if 4 in chord.quality.members:
        return "M"
    return "m" if -3 in chord.quality.members else "?"


def rate_keys(chords: list[Chord | None], treble: Doubles) -> Doubles:
    """Log likelihood of the 24 keys in every interval: shape (intervals, 24), majors from C first, then minors.

    Parameters
    ----------
    chords : the chord of each interval, None where none sounds
    treble : chroma, shape (intervals, 12)
    """
    if len(chords) != len(treble):
        raise ParameterError(f"{len(chords)} chords and {len(treble)} chroma rows must be equal in number")
    out = np.zeros((len(chords), 24))
    tables = (_MAJOR, _MINOR)
    cache: dict[tuple[int, str], Doubles] = {}
    for t, chord in enumerate(chords):
        if chord is None:
            continue
        root, third = chord.root.pitch_class, _third(chord)
        if (root, third) not in cache:
            row = np.zeros(24)
            for k in range(24):
                table = tables[k // 12]
                degree = (root - k) % 12
                wanted = [third] if third != "?" else ["M", "m"]
                row[k] = np.log(max(sum(table.get((degree, w), 0.0) for w in wanted) / len(wanted), _RARE))
            cache[root, third] = row
        out[t] += 0.5 * cache[root, third]
    scales = np.zeros((24, 12))
    for k in range(24):
        key = Key.from_pitch_class(k % 12, "major" if k < 12 else "minor")
        for name in key.scale():
            scales[k, name.pitch_class] = 1
        scales[k, k % 12] += 0.3
    out += _CHROMA_WEIGHT * (treble**2) @ scales.T
    return out


def find_keys(chords: list[Chord | None], treble: Doubles, starts: Sequence[int] = ()) -> list[KeyRun]:
    """Key regions over the intervals.

    Parameters
    ----------
    chords : one an interval; None where none sounds
    treble : shape (intervals, 12), unit-length chroma
    starts : intervals with which parts begin; there the key changes most
    """
    if not chords:
        return []
    score = rate_keys(chords, treble) + _rate_moves(chords)
    _add_tonic_signs(score, chords)
    price = np.full(len(score), _KEY_CHANGE)
    price[[start for start in starts if start < len(price)]] = min(_KEY_CHANGE, _AT_PART * max(1.0, _pace(chords) / _USUAL_PACE))
    path = follow_sticky(score, price)
    edges = [0, *(np.nonzero(np.diff(path))[0] + 1).tolist(), len(path)]
    runs = []
    for a, b in zip(edges, edges[1:], strict=False):
        total = 0.25 * score[a:b].sum(0)
        share = np.exp(total - total.max())
        k = int(path[a])
        runs.append(KeyRun(a, b, Key.from_pitch_class(k % 12, "major" if k < 12 else "minor"), float(share[k] / share.sum())))
    return runs


def _pace(chords: list[Chord | None]) -> float:
    """How often the chord changes, an interval."""
    sounding = [c for c in chords if c is not None]
    return sum(a != b for a, b in pairwise(sounding)) / max(1, len(sounding))


def _rate_moves(chords: list[Chord | None]) -> Doubles:
    """Log likelihood of the 24 keys by the chords as they were counted, and by the moves between them; shape (intervals, 24)."""
    out, usual, follows = np.zeros((len(chords), 24)), chord_chances(), move_chances()
    tonics, modes = np.tile(np.arange(12), 2), np.repeat((0, 1), 12)
    last: Chord | None = None
    for t, chord in enumerate(chords):
        if chord is None:
            continue
        here = places_of(chord, tonics)
        out[t] = _CHORD_WEIGHT * usual[modes, here]
        if last is not None and chord != last:
            out[t] += _MOVE_WEIGHT * follows[modes, places_of(last, tonics), here]
        last = chord
    return out


def _add_tonic_signs(score: Doubles, chords: list[Chord | None]) -> None:
    """First and last chord, and dominant to tonic, speak for their key."""
    sounding = [t for t, c in enumerate(chords) if c is not None]
    if not sounding:
        return
    for t, gain in ((sounding[0], 0.5 * _EDGE_GAIN), (sounding[-1], 2 * _EDGE_GAIN)):
        chord = chords[t]
        if chord is not None and _third(chord) != "?":
            score[t, chord.root.pitch_class + (0 if _third(chord) == "M" else 12)] += gain
    for before, after in zip(sounding, sounding[1:], strict=False):
        first, second = chords[before], chords[after]
        if first is None or second is None or first == second:
            continue
        fifth_down = (second.root.pitch_class - first.root.pitch_class) % 12 == 5
        if fifth_down and 4 in first.quality.members and 5 not in first.quality.members and _third(second) != "?":
            seventh = 2.0 if -2 in first.quality.members else 1.0
            score[after, second.root.pitch_class + (0 if _third(second) == "M" else 12)] += _CADENCE_GAIN * seventh
