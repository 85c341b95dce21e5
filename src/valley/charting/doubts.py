"""Where to look first: doubtful chords in order of doubt and of how much of the song hangs on them."""

from __future__ import annotations

from valley.charting.twins import find_twins
from valley.model.chart import Chart

DOUBTFUL_BELOW = 0.7  # of chords said to be less sure than this, one in three or more is wrong


def find_doubts(chart: Chart, *, below: float = DOUBTFUL_BELOW) -> tuple[int, ...]:
    """Indices of chords to check; locked ones are done.

    The order is by doubt times the number of places that one answer settles: a chord in a repeated part counts for
    every repeat that has the same chord there.
    """
    rated = []
    for i, chord in enumerate(chart.chords):
        if chord.locked or chord.confidence >= below:
            continue
        places = 1 + sum(t.same for t in find_twins(chart, chord.start))
        rated.append((-(1 - chord.confidence) * places, i))
    return tuple(i for _, i in sorted(rated))
