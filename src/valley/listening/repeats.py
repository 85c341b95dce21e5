"""Passages that repeat are heard together: their chroma is pooled bar by bar before chords are decoded.

After M. Mauch, K. Noland & S. Dixon, "Using Musical Structure to Enhance Automatic Chord Transcription", ISMIR
2009. A bar that truly differs from its counterpart (their similarity is low) is left to speak for itself, so that
a changed chord in a repeat is not lost.
"""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np
import numpy.typing as npt

from valley.errors import ParameterError
from valley.listening.sections import SectionRun

Doubles = npt.NDArray[np.float64]
Floats = npt.NDArray[np.float32]

_ALIKE = 0.6  # similarity of two bars from which they are pooled


def find_counterparts(sections: Sequence[SectionRun], similarity: Doubles) -> dict[int, list[int]]:
    """For each bar, the bars that stand at its place in the section's repeats and sound like it.

    Parameters
    ----------
    sections : over the bars
    similarity : shape (bars, bars), harmony of every two bars, 1 for equal ones
    """
    counterparts: dict[int, list[int]] = {}
    for run in sections:
        twins = [s for s in sections if s.group == run.group and s is not run]
        for bar in range(run.start, run.end):
            place = bar - run.start
            places = [t.start + place for t in twins if place < t.end - t.start]
            counterparts[bar] = [other for other in places if similarity[bar, other] >= _ALIKE]
    return counterparts


def pool_repeats(views: Floats, bar_starts: Sequence[int], counterparts: dict[int, list[int]]) -> Floats:
    """Each interval averaged with the same place of the bar's counterparts.

    Parameters
    ----------
    views : shape (intervals, …)
    bar_starts : first interval of each bar, and the interval after the last bar
    counterparts : from ``find_counterparts``

    Returns
    -------
    array of the same shape
    """
    if len(bar_starts) and bar_starts[-1] > len(views):
        raise ParameterError(f"bar_starts ends at {bar_starts[-1]}, beyond the {len(views)} intervals")
    pooled = views.copy()
    for bar, others in counterparts.items():
        start, end = bar_starts[bar], bar_starts[bar + 1]
        alike = [views[bar_starts[o] : bar_starts[o + 1]] for o in others if bar_starts[o + 1] - bar_starts[o] == end - start]
        pooled[start:end] = np.mean([views[start:end], *alike], axis=0)
    return pooled
