"""A bass that walks down or up under a right hand that stays where it is."""

from collections.abc import Iterator

from valley.arranging.styles import _hands
from valley.arranging.styles._style import EASIER, FULLER, Hold, Limits, Moment, Style, pitches_of


def left(moment: Moment, limits: Limits, level: str) -> Iterator[Hold]:
    """Any chord note may be the bass, so that it can go by step; a slash bass, and the first and last of a part, stay what they are."""
    chord = moment.chord
    allowed = [chord.bass] if chord.bass_interval or moment.edge else list(chord.members())
    for rank, name in enumerate(allowed):
        for bass in pitches_of(name.pitch_class, max(limits.lowest, 36), min(limits.highest, 55)):
            turned = 0.6 * (rank > 0)
            if level == FULLER and bass - 12 >= max(28, limits.lowest):
                yield Hold((bass - 12, bass), cost=turned, optional=(bass - 12,))
            yield Hold((bass,), cost=turned + (1.0 if level == FULLER else 0.0))


def right(moment: Moment, limits: Limits, level: str) -> Iterator[Hold]:
    yield from _hands.close_chord(moment, limits, {EASIER: 2, FULLER: 4}.get(level, 3), low=55, high=76, left_has_third=level != EASIER)


STYLE = Style(
    name="held-right",
    title="Walking bass, still right hand",
    summary="The bass goes down or up by step, also over other chord notes than the root, while the right hand keeps as many keys as the chords allow.",
    melody="none",
    turns=True,
    left=left,
    right=right,
    weights={"kept": 3.5, "walk": 2.2},
)
