"""Left hand plain triads on their roots, right hand the tune: what a beginner reads off the chord's name."""

from collections.abc import Iterator
from dataclasses import replace

from valley.arranging.styles import _hands
from valley.arranging.styles._style import EASIER, FULLER, Hold, Limits, Moment, Style
from valley.theory.chord import Chord
from valley.theory.quality import combine, degrees_of

_TRIAD = frozenset(("1", "b3", "3", "2", "4", "b5", "5", "#5"))


def left(moment: Moment, limits: Limits, level: str) -> Iterator[Hold]:
    plain = replace(moment, chord=_triad(moment.chord))
    yield from _hands.under_the_tune(plain, limits, 2 if level == EASIER else 3)
    if level == FULLER:
        yield from (Hold(h.notes, cost=h.cost - 2.0) for h in _hands.block(moment, limits, 4))


def _triad(chord: Chord) -> Chord:
    """A chord without what stands above its fifth; its bass stays."""
    quality = combine(d for d in degrees_of(chord.quality) if d in _TRIAD) or chord.quality
    return Chord(chord.root, quality, chord.bass_interval)


def right(moment: Moment, limits: Limits, level: str) -> Iterator[Hold]:
    yield from _hands.tune_alone(moment, limits)


STYLE = Style(
    name="root-blocks",
    title="Plain triads below, tune above",
    summary="Left hand every chord as its plain triad from the root up, right hand the tune by itself. For a first song.",
    melody="line",
    left=left,
    right=right,
)
