"""Beat-synchronous treble and bass chroma from note activations (after Mauch & Dixon 2010)."""

from __future__ import annotations

import numpy as np
import numpy.typing as npt

from valley.errors import ParameterError

Floats = npt.NDArray[np.float32]
Doubles = npt.NDArray[np.float64]

LOW_MIDI = 24  # of the first activation column
_COMPRESSION = 0.44  # brings out the softer notes of a chord
_BASS_CONTRAST = 1.5  # and undoes it for the bass, of which there is one


def _weights(fade_in: tuple[int, int], fade_out: tuple[int, int], notes: int) -> Doubles:
    midi = np.arange(LOW_MIDI, LOW_MIDI + notes)
    return np.asarray(np.interp(midi, (*fade_in, *fade_out), (0.0, 1.0, 1.0, 0.0)))


_COLUMNS = 32


def average_between(values: Floats, edges: Doubles) -> Doubles:
    """Mean of ``values`` (frames × n) in each interval between ``edges`` (frames): shape (len(edges) - 1, n).

    Parameters
    ----------
    values : shape (frames, n)
    edges : frames at which intervals meet, ascending
    """
    if len(edges) < 2:
        raise ParameterError(f"edges={edges!r} must hold at least two frame numbers")
    index = np.clip(np.round(edges).astype(int), 0, len(values))
    length = np.maximum(index[1:] - index[:-1], 1)[:, None]
    out = np.empty((len(index) - 1, values.shape[1]))
    summed = np.zeros((len(values) + 1, _COLUMNS))
    for i in range(0, values.shape[1], _COLUMNS):  # some at a time: half an hour has no room for sums of them all
        some = values[:, i : i + _COLUMNS]
        np.cumsum(some, axis=0, dtype=np.float64, out=summed[1:, : some.shape[1]])
        out[:, i : i + _COLUMNS] = (summed[index[1:], : some.shape[1]] - summed[index[:-1], : some.shape[1]]) / length
    return out


def compute_beat_chroma(activations: Floats, edges: Doubles, *, moved: int = 0) -> tuple[Doubles, Doubles, Doubles]:
    """Treble chroma, bass chroma and level of each interval.

    Parameters
    ----------
    activations : shape (frames, notes), column 0 is MIDI 24
    edges : frame numbers, ascending; interval i runs from edge i to edge i + 1
    moved : half steps by which the registers of treble and bass are moved

    Returns
    -------
    treble, bass : shape (intervals, 12), unit length where there is sound
    level : shape (intervals,), mean activation
    """
    notes = activations.shape[1]
    averaged = np.maximum(average_between(activations, edges), 0) ** _COMPRESSION
    fold = np.zeros((notes, 12))
    fold[np.arange(notes), (np.arange(notes) + LOW_MIDI) % 12] = 1
    treble = (averaged * _weights((37 + moved, 47 + moved), (79 + moved, 92 + moved), notes)) @ fold
    bass = (averaged**_BASS_CONTRAST * _weights((24 + moved, 30 + moved), (43 + moved, 55 + moved), notes)) @ fold
    level = averaged.sum(1)

    def unit(x: Doubles) -> Doubles:
        return np.asarray(x / np.maximum(np.linalg.norm(x, axis=1, keepdims=True), 1e-9))

    return unit(treble), unit(bass), level
