"""Chords: trained networks rate a rich vocabulary with its basses, a hidden Markov model over beats decides.

The two networks see the pitch classes of each interval in several ways, with their surroundings and the whole song's, and
treat all twelve keys alike (cf. B. McFee & J. P. Bello, "Structured Training for Large-Vocabulary Chord Recognition",
ISMIR 2017). Chords in the key are favoured once the key is known, and changes are favoured on downbeats (after M. Mauch,
"Automatic Chord Transcription from Audio Using Computational Models of Musical Context", PhD thesis, 2010). The same
ratings, summed over a chord's beats, give its readings and their probabilities.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
import numpy.typing as npt

from valley.errors import ParameterError
from valley.listening._networks import load_network
from valley.listening._sticky import follow_sticky
from valley.listening._vocabulary import Vocabulary, load_vocabulary
from valley.listening.harmony import add_context
from valley.theory.key import Key

Doubles = npt.NDArray[np.float64]
Floats = npt.NDArray[np.float32]

_NETWORKS = ("chords", "chords_again")  # taught on other songs each: the mean of what they say errs less than either
_CERTAINTY_OF_NETWORK = 1.0
_CHANGE_COST = 3.7  # nats, on an ordinary beat
_DOWNBEAT_GAIN, _HALF_BAR_GAIN = 2.25, 0.57
_OUT_OF_KEY = 0.56  # nats a beat for each chord note outside the scale
_DOMINANT_GAIN = 0.5  # for a seventh chord on the fifth step; half of it where it leads to another step of a major key
_READINGS = 5
_CERTAINTY, _DEPENDENCE = 0.7, 0.7  # calibration of the readings' probabilities


@dataclass(frozen=True)
class ChordRun:
    """A chord over intervals ``start`` to ``end`` (exclusive), with readings as (vocabulary row, probability)."""

    start: int
    end: int
    row: int
    readings: tuple[tuple[int, float], ...]


def rate_chords(views: Floats, level: Doubles) -> Doubles:
    """Log probability of every vocabulary row in every interval: shape (intervals, rows).

    Parameters
    ----------
    views : shape (intervals, 10, 12), from ``view_harmony``
    level : shape (intervals,); how much sounds, so that silence is heard as no chord
    """
    if views.ndim != 3 or len(views) != len(level):
        raise ParameterError(f"views {views.shape} and level {level.shape} must have one interval each")
    seen = add_context(views)[None]
    fit = _CERTAINTY_OF_NETWORK * np.mean([load_network(name)(views=seen)[0] for name in _NETWORKS], axis=0).astype(np.float64)
    quiet = level < 0.12 * np.median(level)
    fit[quiet, -1] = fit[quiet].max(1) + 4.0
    return np.asarray(fit)


def rate_chords_together(views: Floats, level: Doubles) -> Doubles:
    """The mean of the ratings over several looks at the same intervals: shape (intervals, rows).

    Parameters
    ----------
    views : shape (intervals, looks, 10, 12), from ``view_harmony_anew``
    level : as of ``rate_chords``
    """
    return np.asarray(np.mean([rate_chords(views[:, i], level) for i in range(views.shape[1])], axis=0))


def weigh_by_key(keys: list[Key], rows: Vocabulary | None = None) -> Doubles:
    """Cost of each vocabulary row in each interval's key: shape (intervals, rows).

    Parameters
    ----------
    keys : the key of each interval
    rows : the vocabulary; the one that ships without it
    """
    vocabulary = rows or load_vocabulary()
    costs: dict[Key, Doubles] = {}
    for key in set(keys):
        scale = np.zeros(12, bool)
        scale[[n.pitch_class for n in key.scale()]] = True
        outside = (vocabulary.notes & ~scale).astype(np.float64)
        if key.mode == "minor":  # the leading note belongs to minor as well, where the dominant wants it
            outside[:, (key.tonic.pitch_class - 1) % 12] *= 0.4
        costs[key] = _OUT_OF_KEY * outside.sum(1) - _DOMINANT_GAIN * _rate_dominants(key, vocabulary)
    return np.array([costs[k] for k in keys])


def _rate_dominants(key: Key, vocabulary: Vocabulary) -> Doubles:
    """How much a dominant seventh is to be expected of each row: 1 on the fifth step, less where it leads elsewhere."""
    expected = np.zeros(len(vocabulary))
    for row, chord in enumerate(vocabulary.chords):
        if chord is None or chord.quality.harte not in ("7", "9") or chord.bass_interval not in (0, 4):
            continue  # with its fifth or seventh in the bass it passes, and is not to be expected
        degree = key.degree(chord.root.pitch_class)
        if degree == 7:
            expected[row] = 1.0
        elif key.mode == "major" and degree in (2, 4, 9) and chord.quality.harte == "7":
            expected[row] = 0.5
    return expected


def change_costs(positions: npt.NDArray[np.int_], beats_per_bar: int) -> Doubles:
    """Cost of a new chord at each interval, from its place in the bar (0 = downbeat).

    Parameters
    ----------
    positions : place of each interval in its bar, 0 is the downbeat, -1 unknown
    beats_per_bar : beats in a bar
    """
    cost = np.full(len(positions), _CHANGE_COST)
    cost[positions == 0] -= _DOWNBEAT_GAIN
    if beats_per_bar == 4:
        cost[positions == 2] -= _HALF_BAR_GAIN
    return cost


def decode_chords(fit: Doubles, change: Doubles) -> list[ChordRun]:
    """The likeliest chords, joined where they stay, with the best readings of each.

    Parameters
    ----------
    fit : shape (intervals, rows), log likelihoods
    change : shape (intervals,), cost of beginning a new chord there
    """
    if len(fit) != len(change):
        raise ParameterError(f"fit has {len(fit)} intervals, change {len(change)}; they must be equal")
    path = follow_sticky(fit, change)
    edges = [0, *(np.nonzero(np.diff(path))[0] + 1).tolist(), len(path)]
    runs = []
    for a, b in zip(edges, edges[1:], strict=False):
        share = _weigh_readings(fit[a:b])
        best = np.argsort(-share)[:_READINGS].tolist()
        row = int(path[a])
        order = [row, *[i for i in best if i != row]][:_READINGS]
        runs.append(ChordRun(a, b, row, tuple((i, float(share[i])) for i in order)))
    return runs


def _weigh_readings(fit: Doubles) -> Doubles:
    """Probabilities of all rows for one stretch of intervals, shape (rows,).

    Neighbouring intervals of one sound are not independent witnesses, so their sum is divided by a power of their
    number; both constants make stated and true frequency agree on the development songs (docs/listening.md).
    """
    total = _CERTAINTY * fit.sum(0) / len(fit) ** _DEPENDENCE
    weight = np.exp(total - total.max())
    return np.asarray(weight / weight.sum())
