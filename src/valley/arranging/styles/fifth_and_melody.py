"""Left hand bass and fifth; right hand the tune with chord notes under it where the chord changes."""

from __future__ import annotations

from collections.abc import Iterator
from itertools import combinations

from valley.arranging.styles._style import Limits, Moment, Shape, Style, close_shapes, core_members, pair_shapes, pitches_of


def _left_hands(moment: Moment, limits: Limits) -> list[tuple[int, ...]]:
    """Bass with the fifth of the chord above it, or with its octave where the fifth would not be the chord's."""
    chord = moment.chord
    roof = 60 if moment.ceiling is None else min(60, moment.ceiling - 1)
    lefts: list[tuple[int, ...]] = []
    for bass in pitches_of(chord.bass.pitch_class, max(limits.lowest, 33), roof):
        uppers = {bass + (pc - bass) % 12 for pc in (n.pitch_class for n in chord.members()) if (pc - bass) % 12 in (6, 7, 8)}
        lefts += [(bass, upper) for upper in sorted(uppers) if upper <= roof]
        if not uppers and bass + 12 <= roof:
            lefts.append((bass, bass + 12))
    return lefts or [(bass,) for bass in pitches_of(chord.bass.pitch_class, limits.lowest, roof)]


def _right_hands(moment: Moment, limits: Limits) -> list[tuple[int, ...]]:
    """The tune's note on top of one or two chord notes within reach; the close chord where the tune rests."""
    classes = core_members(moment.chord, 3)
    if moment.melody is None:
        roof = min(limits.highest, 76)
        return list(close_shapes(classes, 55, roof))
    top = moment.melody
    under = sorted(n for pc in classes for n in pitches_of(pc, top - 12, top - 3))
    pairs = [(*p, top) for p in combinations(under, 2) if p[1] - p[0] >= 3 or p[0] > 60]
    return [*pairs, *[(n, top) for n in under], (top,)]


def propose(moment: Moment, limits: Limits) -> Iterator[Shape]:
    for shape in pair_shapes(_left_hands(moment, limits), _right_hands(moment, limits), limits):
        sounding = {n % 12 for n in (*shape.left, *shape.right)}
        third, *colour = core_members(moment.chord, 3)
        thin = {1: 3.0, 2: 0.8}.get(len(shape.right), 0.0)
        lost = 6.0 * (third not in sounding) + sum(1.2 for pc in colour if pc not in sounding)
        yield Shape(shape.left, shape.right, cost=thin + lost)


STYLE = Style(
    name="fifth-and-melody",
    title="Fifth below, tune over chord notes",
    summary="Left hand bass and fifth, right hand the tune with one or two chord notes under it. Fuller, still calm.",
    melody="top",
    propose=propose,
)
