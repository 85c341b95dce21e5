"""The keys that were heard struck when the chord began, shared between the hands where they lie."""

from collections.abc import Iterator

from valley.arranging.styles import _hands
from valley.arranging.styles._style import EASIER, FULLER, Hold, Limits, Moment, Style

_PARTING = 60  # what lies below is rather the left hand's


def _split(moment: Moment) -> tuple[tuple[int, ...], tuple[int, ...]]:
    """Cut the heard keys at their widest gap near the middle of the keyboard."""
    keys = tuple(sorted(set(moment.played)))
    if len(keys) < 2:
        return (keys, ()) if keys and keys[0] < _PARTING else ((), keys)
    places = range(1, len(keys))
    cut = max(places, key=lambda i: keys[i] - keys[i - 1] - 0.8 * abs((keys[i] + keys[i - 1]) / 2 - _PARTING))
    return keys[:cut], keys[cut:]


def _thin(notes: tuple[int, ...], level: str, *, keep_top: bool) -> Iterator[Hold]:
    """All the keys, or for smaller hands the outer ones."""
    most = {EASIER: 2, FULLER: 5}.get(level, 4)
    if len(notes) > most:
        outer = (notes[-most:] if keep_top else notes[:most]) if most > 2 else (notes[0], notes[-1])
        yield Hold(tuple(outer), optional=tuple(outer[1:-1]))
    elif notes:
        yield Hold(notes, optional=notes[1:-1])
    if len(notes) > 1:
        yield Hold((notes[-1],) if keep_top else (notes[0],), cost=4.0)


def left(moment: Moment, limits: Limits, level: str) -> Iterator[Hold]:
    heard = _split(moment)[0]
    yield from _thin(heard, level, keep_top=False)
    if not heard:
        yield from _hands.single_bass(moment, limits)


def right(moment: Moment, limits: Limits, level: str) -> Iterator[Hold]:
    heard = _split(moment)[1]
    yield from _thin(heard, level, keep_top=True)
    if not moment.played:
        yield from _hands.close_chord(moment, limits, {EASIER: 3, FULLER: 4}.get(level, 3))
    elif not heard:
        yield Hold(())


STYLE = Style(
    name="as-recorded",
    title="As recorded",
    summary="The keys that were heard in the recording when each chord begins, thinned where a hand cannot hold them. A plain grip where nothing was heard.",
    melody="none",
    turns=True,
    left=left,
    right=right,
    weights={"far": 0.0, "centre": 0.0, "muddy": 0.0, "low_third": 0.0, "cluster": 0.0, "move": 0.1, "crowded": 0.2},
)
