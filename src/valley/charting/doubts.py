"""Where to look first: doubtful chords in order of doubt and of how much of the song hangs on them."""

from __future__ import annotations

from collections import Counter

from valley.charting.parts import bar_chords, sound_of
from valley.model.chart import Chart, ChartChord

DOUBTFUL_BELOW = 0.7  # of chords said to be less sure than this, one in three or more is wrong


def is_doubtful(chord: ChartChord, *, below: float = DOUBTFUL_BELOW) -> bool:
    """Whether a chord is to be checked; one that is locked is done."""
    return not chord.locked and chord.confidence < below


def find_doubts(chart: Chart, *, below: float = DOUBTFUL_BELOW) -> tuple[int, ...]:
    """Indices of chords to check.

    The order is by doubt times the number of places that one answer settles: a chord in a repeated part counts for
    every repeat that has the same chord there.
    """
    doubtful = [(i, chord) for i, chord in enumerate(chart.chords) if is_doubtful(chord, below=below)]
    if not doubtful:
        return ()
    settles = _count_places(chart)
    rated = [(-(1 - chord.confidence) * settles.get(max(chart.chord_places[i][0], 1), 1), i) for i, chord in doubtful]
    return tuple(i for _, i in sorted(rated))


def _count_places(chart: Chart) -> dict[int, int]:
    """In how many repeats of its part, itself among them, each bar sounds the same; a repeat that lies higher is heard at the part's own height."""
    heard = {}
    for part in chart.parts:
        for offset in range(part.bars):
            sound = tuple((at, sound_of(chord, -part.moved)) for at, chord in bar_chords(chart, part, offset))
            heard[part.start_bar + offset] = (part.same_as or part.number, offset, sound)
    often = Counter(heard.values())
    return {bar: often[row] for bar, row in heard.items()}
