"""How usual each chord and each move from one chord to the next is in a key, counted over songs whose keys are known.

A key is heard in its moves more than in its chords: D to G is at home in four keys, D7 to G in two (after K. Noland & M. Sandler, "Key
Estimation Using a Hidden Markov Model", ISMIR 2006, where pairs of chords are observed). Moves that were seen seldom lean on how usual the second
chord is by itself (C. Zhai & J. Lafferty, "A Study of Smoothing Methods for Language Models", 2004: Dirichlet prior).
"""

from __future__ import annotations

from functools import cache
from importlib.resources import files

import numpy as np
import numpy.typing as npt

from valley.theory.chord import Chord

Doubles = npt.NDArray[np.float64]
Ints = npt.NDArray[np.int64]

KINDS = ("major", "major seventh", "seventh", "minor", "minor seventh", "diminished", "neither")
_SEEN_ANYWAY = 0.1  # of all that was counted, spread over all chords
_LEANS = 30.0  # moves that say as much as how usual the second chord is


def kind_of(chord: Chord) -> int:
    """What a chord is where keys are concerned: its place in ``KINDS``."""
    members = chord.quality.members
    if -3 in members and -6 in members:
        return 5
    if 4 in members:
        return 1 if 5 in members else 2 if -2 in members else 0
    if -3 in members:
        return 4 if -2 in members else 3
    return 6


def places_of(chord: Chord, tonics: Ints) -> Ints:
    """A chord seen from each of some tonics (pitch classes): half steps above it and its kind in one number, below 12 times the kinds."""
    places: Ints = (chord.root.pitch_class - tonics) % 12 * len(KINDS) + kind_of(chord)
    return places


@cache
def chord_chances() -> Doubles:
    """Log probability of a chord in a major and in a minor key, by its ``places_of``; shape (2, places)."""
    seen = _counted()[0]
    room = _SEEN_ANYWAY * seen.sum(1, keepdims=True)
    chances: Doubles = np.log((seen + room / seen.shape[1]) / (seen.sum(1, keepdims=True) + room))
    return chances


@cache
def move_chances() -> Doubles:
    """Log probability of the chord that follows, by the places of both; shape (2, places, places)."""
    seen = _counted()[1]
    chances: Doubles = np.log((seen + _LEANS * np.exp(chord_chances())[:, None, :]) / (seen.sum(2, keepdims=True) + _LEANS))
    return chances


def _counted() -> tuple[Doubles, Doubles]:
    """Chords and moves as ``training/count_moves.py`` counted them."""
    with np.load(str(files("valley.listening") / "networks" / "moves.npz")) as kept:
        return kept["chords"].astype(np.float64), kept["moves"].astype(np.float64)
