"""What the chord network looks at, interval by interval: twelve pitch classes seen in several ways."""

from __future__ import annotations

import numpy as np
import numpy.typing as npt

from valley.errors import ParameterError
from valley.listening.chroma import average_between, compute_beat_chroma
from valley.listening.ear import LOW_MIDI, Heard

Floats = npt.NDArray[np.float32]
Doubles = npt.NDArray[np.float64]

VIEWS = 10  # ways in which each pitch class is seen, before the song's own context is added
CONTEXTS = 4
TREBLE = 8  # the view that holds the templates' treble chroma
# Half steps by which the registers are moved where the network looks several times: no note then hangs on which side of one edge it lies, and what was heard a
# little higher or lower is read the same.
_MOVED = (-2, 0, 2)
MIDDLE = _MOVED.index(0)


def view_harmony(heard: Heard, activations: Floats, edges: Doubles, *, moved: int = 0) -> Floats:
    """Pitch classes of each interval, seen in ten ways.

    Parameters
    ----------
    heard : the trained ear's probabilities
    activations : shape (frames, notes), column 0 is MIDI 24, from the harmonic templates
    edges : frame numbers, ascending
    moved : half steps by which the edges between registers are moved

    Returns
    -------
    array, shape (intervals, 10, 12)
        sounding in the high, middle and low register; beginning anywhere; the lowest sounding note; the bass line and its
        beginnings; the tune; treble and bass chroma of the templates
    """
    return _view(heard, activations, edges, _view_lines(heard, edges), moved)


def view_harmony_anew(heard: Heard, activations: Floats, edges: Doubles) -> Floats:
    """The same with the registers where they are, a little lower and a little higher: shape (intervals, 3, 10, 12), ``MIDDLE`` is where they are.

    Parameters
    ----------
    as of ``view_harmony``
    """
    lines = _view_lines(heard, edges)
    return np.stack([_view(heard, activations, edges, lines, moved) for moved in _MOVED], axis=1)


def _view_lines(heard: Heard, edges: Doubles) -> list[Doubles]:
    """The views that know no registers."""
    return [
        _fold(average_between(heard.begins, edges)) * 4,
        _fold(average_between(_lowest(heard.sounds), edges)),
        _fold(average_between(heard.bass, edges)),
        _fold(average_between(heard.bass_begins, edges)) * 4,
        _fold(average_between(heard.tune, edges)),
    ]


def _view(heard: Heard, activations: Floats, edges: Doubles, lines: list[Doubles], moved: int) -> Floats:
    if len(heard.sounds) != len(activations):
        raise ParameterError(f"{len(heard.sounds)} frames of notes and {len(activations)} of activations must be equal in number")
    registers = ((60, 88), (47, 66), (LOW_MIDI, 52))
    rows = [_fold(average_between(_within(heard.sounds, max(LOW_MIDI, lo + moved), hi + moved), edges)) for lo, hi in registers]
    treble, bass, _ = compute_beat_chroma(activations, edges, moved=moved)
    return np.stack([*rows, *lines, treble, bass], axis=1).astype(np.float32)


def add_context(views: Floats) -> Floats:
    """The views with what surrounds them: the last and next eight intervals and the whole song, shape (intervals, 14, 12).

    Parameters
    ----------
    views : shape (intervals, 10, 12): the harmony of each interval by pitch class
    """
    pitch = views[:, 0] + views[:, 1]
    summed = np.concatenate([np.zeros((1, 12), np.float32), np.cumsum(pitch, axis=0)])
    n = len(views)
    index = np.arange(n)
    before, after = np.maximum(index - 8, 0), np.minimum(index + 9, n)
    past = (summed[index] - summed[before]) / np.maximum(index - before, 1)[:, None]
    coming = (summed[after] - summed[index + 1]) / np.maximum(after - index - 1, 1)[:, None]
    whole = np.broadcast_to(pitch.mean(0), pitch.shape)
    low = np.broadcast_to(views[:, 4].mean(0), pitch.shape)
    return np.concatenate([views, np.stack([past, coming, whole, low], axis=1)], axis=1).astype(np.float32)


def _within(sounds: Floats, low: int, high: int) -> Floats:
    out = np.zeros_like(sounds)
    out[:, low - LOW_MIDI : high - LOW_MIDI] = sounds[:, low - LOW_MIDI : high - LOW_MIDI]
    return out


def _lowest(sounds: Floats) -> Floats:
    """Probability of each pitch that it sounds and none below it does."""
    silent = np.cumprod(1 - sounds, axis=1)
    out = sounds.copy()
    out[:, 1:] *= silent[:, :-1]
    return out


def _fold(values: Doubles) -> Doubles:
    """Octaves folded: a pitch class sounds where any of its octaves does."""
    pitches = values.shape[1]
    full = np.zeros((len(values), -(-pitches // 12) * 12))
    full[:, :pitches] = np.clip(values, 0, 1)
    missing = np.prod(1 - full.reshape(len(values), -1, 12), axis=1)
    return np.roll(1 - missing, LOW_MIDI % 12, axis=1)
