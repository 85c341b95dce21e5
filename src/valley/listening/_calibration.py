"""Confidences that mean something: of the items said to be 80–90 % sure, 80–90 % are right.

Each kind of item has its raw figure – a mean probability, a margin – mapped by a rising line through points that were read
off made-up songs and the development songs (docs/listening.md has the table as measured).
"""

from __future__ import annotations

import numpy as np

from valley.errors import ParameterError

# Raw figure → share that was right, for each kind of item.
_POINTS: dict[str, tuple[tuple[float, ...], tuple[float, ...]]] = {
    "tune": ((0.0, 0.45, 0.52, 0.6, 0.68, 0.75, 0.85, 1.0), (0.1, 0.45, 0.51, 0.6, 0.8, 0.89, 0.93, 0.95)),
    "bass": ((0.0, 0.66, 0.82, 0.86, 1.0), (0.1, 0.79, 0.945, 0.98, 0.985)),
    "notes": ((0.6, 0.63, 0.66, 0.69, 0.735, 0.765, 0.8, 0.85, 0.9), (0.5, 0.72, 0.88, 0.91, 0.945, 0.96, 0.985, 0.995, 0.997)),
    "keys": ((0.0, 0.67, 0.84, 0.94, 1.0), (0.1, 0.5, 0.8, 0.87, 0.96)),
    "sections": ((0.5, 0.64, 0.74, 0.9, 1.0), (0.25, 0.42, 0.66, 0.78, 0.8)),
    "beats": ((0.0, 0.3, 0.65, 0.75, 1.0), (0.2, 0.6, 0.93, 0.985, 0.99)),
    "meter": ((0.0, 0.27, 0.45, 1.0), (0.4, 0.8, 0.95, 0.97)),
}


def calibrate(kind: str, raw: float) -> float:
    """The share of items with this raw figure that is right, to three places.

    Parameters
    ----------
    kind : what is rated: a row of the table
    raw : the figure that the task gives, 0 to 1

    >>> 0 <= calibrate("tune", 0.7) <= 1
    True
    """
    if kind not in _POINTS:
        raise ParameterError(f"kind={kind!r} must be one of {', '.join(_POINTS)}")
    places, shares = _POINTS[kind]
    return round(float(np.interp(raw, places, shares)), 3)
