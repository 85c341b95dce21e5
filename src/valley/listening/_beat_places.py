"""Places of beats, moved to what is heard near by."""

from __future__ import annotations

import numpy as np
import numpy.typing as npt

Floats = npt.NDArray[np.float32]
Doubles = npt.NDArray[np.float64]

_NEAREST = 0.5  # of their distance before: as near as two beats may come when they are moved to what is heard


def between_beats(beats: Doubles, activation: Doubles | Floats) -> Doubles:
    """One place midway between any two beats (frames), where a peak of the activation is near, on that."""
    middle = 0.5 * (beats[:-1] + beats[1:])
    near = refine(middle.round().astype(int), np.asarray(activation, np.float64))
    return np.where(np.abs(near - middle) < 0.25 * np.diff(beats), near, middle)


def refine(frames: npt.NDArray[np.int_], activation: Doubles) -> Doubles:
    """Beats moved to the activation's nearby peak (to parts of a frame), then evened out lightly."""
    out = frames.astype(np.float64)
    for i, f in enumerate(frames):
        lo, hi = max(1, f - 2), min(len(activation) - 1, f + 4)
        if hi - lo < 2:
            continue
        peak = lo + int(activation[lo:hi].argmax())
        if activation[peak] < 0.3 or not 0 < peak < len(activation) - 1:
            continue
        a, b, c = activation[peak - 1 : peak + 2]
        bend = a - 2 * b + c
        out[i] = peak + (0.5 * (a - c) / bend if bend < -1e-9 else 0.0)
    if len(out) > 4:
        middle = out.copy()
        middle[1:-1] = 0.25 * out[:-2] + 0.5 * out[1:-1] + 0.25 * out[2:]
        out = np.where(np.abs(middle - out) < 3, middle, out)
    return _in_order(out, frames.astype(np.float64))


def _in_order(moved: Doubles, before: Doubles) -> Doubles:
    """Moved beats, but those that came too near to a neighbour, or past it, stay where they were: a loud off-beat close by draws them there.

    ``before`` ascends; so does what is given back.
    """
    out = moved.copy()
    gaps = np.diff(before)
    while len(out) > 1:
        near = np.flatnonzero(np.diff(out) < _NEAREST * gaps)
        near = near[(out[near] != before[near]) | (out[near + 1] != before[near + 1])]
        if len(near) == 0:
            return out
        for i in (near, near + 1):
            out[i] = before[i]
    return out
