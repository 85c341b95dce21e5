"""What the pulse network looks at, frame by frame, and how it is run: where beats and bars begin.

A temporal convolutional network over onset strengths and the trained ear's beginnings (after M. Davies & S. Böck,
"Temporal Convolutional Networks for Musical Audio Beat Tracking", EUSIPCO 2019), which gives for every frame the
probability of a beat and of a downbeat; the bar-pointer model decides.
"""

from __future__ import annotations

from itertools import pairwise

import numpy as np
import numpy.typing as npt

from valley.errors import ParameterError
from valley.listening._networks import load_network
from valley.listening.ear import LOW_MIDI, PITCHES, Heard

Floats = npt.NDArray[np.float32]

SIGNS = 14
_LOW, _HIGH = LOW_MIDI, LOW_MIDI + PITCHES
_EDGES = (44, 60, 76)  # between four registers
# The network looks several times: with the edges of registers moved so many half steps, and at another speed (as if the frames were so many times as many). No
# note then hangs on which side of one edge it lies, and what was played a little higher, slower or faster is read the same.
_LOOKS = ((0, 1.0), (-3, 0.94), (-3, 1.06), (3, 0.94), (3, 1.06))


def view_pulse(onsets: Floats, heard: Heard, *, moved: int = 0) -> Floats:
    """Signs of a pulse in every frame: shape (frames, 14).

    Onset strength in four bands; beginnings in four registers, of the tune and of the bass; change of pitch classes, of
    the bass and of the number of notes over a beat or so.

    Parameters
    ----------
    onsets : shape (frames, 4)
    heard : the trained ear's probabilities, as many frames
    moved : half steps by which the edges between registers are moved
    """
    if abs(len(onsets) - len(heard.sounds)) > 2:
        raise ParameterError(f"{len(onsets)} frames of onsets and {len(heard.sounds)} of notes must be equal in number")
    n = min(len(onsets), len(heard.sounds))
    edges = (_LOW, *(edge + moved for edge in _EDGES), _HIGH)
    begins = np.stack([heard.begins[:n, lo - LOW_MIDI : hi - LOW_MIDI].sum(1) for lo, hi in pairwise(edges)], axis=1)
    lines = np.stack([heard.tune_begins[:n].sum(1), heard.bass_begins[:n].sum(1)], axis=1)
    octaves = heard.sounds[:n].reshape(n, -1, 12).max(1)
    low = heard.bass[:n].reshape(n, -1, 12).max(1)
    changes = np.stack([_change(octaves, 8), _change(octaves, 24), _change(low, 12), np.abs(np.gradient(heard.sounds[:n].sum(1)))], axis=1)
    return np.concatenate([np.log1p(onsets[:n]), np.minimum(begins, 4), np.minimum(lines, 2), changes], axis=1).astype(np.float32)


def _change(values: Floats, span: int) -> Floats:
    """How different the ``span`` frames after each frame are from those before."""
    summed = np.concatenate([np.zeros((1, values.shape[1])), np.cumsum(values, axis=0, dtype=np.float64)])
    index = np.arange(len(values))
    a, b = np.maximum(index - span, 0), np.minimum(index + span, len(values))
    before = (summed[index] - summed[a]) / np.maximum(index - a, 1)[:, None]
    after = (summed[b] - summed[index]) / np.maximum(b - index, 1)[:, None]
    return np.asarray(np.abs(after - before).mean(1) * 4, np.float32)


def hear_pulse(signs: Floats) -> Floats:
    """Probability of a beat and of a downbeat in every frame: shape (frames, 2).

    Parameters
    ----------
    signs : from ``view_pulse``
    """
    if signs.ndim != 2 or signs.shape[1] != SIGNS:
        raise ParameterError(f"signs has shape {signs.shape}; it must be frames × {SIGNS}")
    return np.asarray(load_network("pulse")(signs=signs[None])[0].T)


def follow_pulse(onsets: Floats, heard: Heard) -> Floats:
    """The mean of what the network says in several looks at the same music: shape (frames, 2), as ``hear_pulse``.

    Parameters
    ----------
    as of ``view_pulse``
    """
    said = []
    for moved, speed in _LOOKS:
        signs = view_pulse(onsets, heard, moved=moved)
        said.append(_resample(hear_pulse(_resample(signs, round(speed * len(signs)))), len(signs)))
    return np.asarray(np.mean(said, axis=0), np.float32)


def _resample(rows: Floats, count: int) -> Floats:
    """The same course in another number of frames."""
    if count == len(rows):
        return rows
    place, frames = np.linspace(0, len(rows) - 1, count), np.arange(len(rows))
    return np.stack([np.interp(place, frames, column) for column in rows.T], axis=1).astype(np.float32)
