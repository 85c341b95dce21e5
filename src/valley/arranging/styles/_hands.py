"""The building blocks of styles: what one hand commonly holds. Each gives holds for a chord, whatever the other hand does."""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Sequence
from itertools import combinations

from valley.arranging.styles._style import EASIER, FULLER, Hold, Limits, Moment, close_shapes, colours, core_members, fifth_of, pitches_of, roof_of
from valley.theory.chord import Chord

_BASS_LOW, _BASS_HIGH = 33, 55
_THIRDS = (4, -3)  # on the line of fifths
_GRINDS = 4.0  # a half step above the lowest key of a grip


def _basses(moment: Moment, limits: Limits, low: int = _BASS_LOW, high: int = _BASS_HIGH) -> Iterator[int]:
    roof = min(roof_of(moment, high), limits.highest)
    found = pitches_of(moment.chord.bass.pitch_class, max(limits.lowest, low), roof)
    yield from found or pitches_of(moment.chord.bass.pitch_class, limits.lowest, max(roof, limits.lowest + 11))


def single_bass(moment: Moment, limits: Limits) -> Iterator[Hold]:
    """The bass alone."""
    for bass in _basses(moment, limits):
        yield Hold((bass,))


def octave(moment: Moment, limits: Limits) -> Iterator[Hold]:
    """The bass with its octave; the lower note may be left out."""
    roof = min(roof_of(moment, 57), limits.highest)
    for bass in _basses(moment, limits, 28, 45):
        if bass + 12 <= roof:
            yield Hold((bass, bass + 12), optional=(bass,))


def fifth(moment: Moment, limits: Limits) -> Iterator[Hold]:
    """Bass and the fifth above it; where that is no chord note, the bass with its octave."""
    roof = min(roof_of(moment, 60), limits.highest)
    members = {n.pitch_class for n in moment.chord.members()}
    for bass in _basses(moment, limits):
        uppers = [bass + step for step in (7, 6, 8) if (bass + step) % 12 in members and bass + step <= roof]
        if uppers:
            yield Hold((bass, uppers[0]))
        elif bass + 12 <= roof:
            yield Hold((bass, bass + 12))


def fifth_and_octave(moment: Moment, limits: Limits) -> Iterator[Hold]:
    """Bass, fifth and octave; the fifth may be left out."""
    roof = min(roof_of(moment, 62), limits.highest)
    members = {n.pitch_class for n in moment.chord.members()}
    for bass in _basses(moment, limits, 31, 48):
        uppers = [bass + step for step in (7, 6, 8) if (bass + step) % 12 in members]
        if uppers and bass + 12 <= roof:
            yield Hold((bass, uppers[0], bass + 12), optional=(uppers[0],))
        elif bass + 12 <= roof:
            yield Hold((bass, bass + 12), cost=0.5)


def bass_and_fifth(moment: Moment, limits: Limits, level: str) -> Iterator[Hold]:
    """The left hand under a doubled tune: bass and fifth, the bass alone when easier, the octave on top when fuller."""
    if level == FULLER:
        yield from fifth_and_octave(moment, limits)
    if level != EASIER:
        yield from fifth(moment, limits)
    for hold in single_bass(moment, limits):
        yield Hold(hold.notes, cost=0.0 if level == EASIER else 7.0)


def third(moment: Moment, limits: Limits) -> Iterator[Hold]:
    """Bass and the chord note a third above it, or the nearest wider one."""
    roof = min(roof_of(moment, 64), limits.highest)
    members = {n.pitch_class for n in moment.chord.members()}
    for bass in _basses(moment, limits, 48, 59):
        for place, step in enumerate((4, 3, 5, 6, 2, 7, 8, 9)):
            if (bass + step) % 12 in members and bass + step <= roof:
                yield Hold((bass, bass + step), cost=0.4 * max(0, place - 1))
                break


def tenth(moment: Moment, limits: Limits, *, with_fifth: bool) -> Iterator[Hold]:
    """Bass and the tenth – or the ninth where the chord has one –, open; the fifth stands between them as a bridge."""
    roof = min(roof_of(moment, 66), limits.highest)
    chord = moment.chord
    members = {n.pitch_class for n in chord.members()}
    ninth = chord.root.up(2).pitch_class if 2 in chord.quality.members else None
    for bass in _basses(moment, limits, 33, 50):
        wide = [bass + step for step in (14, 16, 15, 17) if (bass + step) % 12 in members and ((bass + step) % 12 == ninth or step != 14)]
        bridge = [bass + step for step in (7, 6, 8) if (bass + step) % 12 in members]
        for upper in wide[:2]:
            if upper <= roof:
                inner = tuple(bridge[:1]) if with_fifth else ()
                yield Hold((bass, *inner, upper), optional=inner)


def shell(moment: Moment, limits: Limits) -> Iterator[Hold]:
    """Bass and seventh, or bass and third: what tells the chord, and no more."""
    roof = min(roof_of(moment, 62), limits.highest)
    telling = [pc for pc in colours(moment.chord) if pc != fifth_of(moment.chord)][:2] or colours(moment.chord)[:1]
    for bass in _basses(moment, limits, 40, 55):
        for place, pc in enumerate(telling):
            upper = bass + (pc - bass) % 12
            if bass < upper <= roof:
                yield Hold((bass, upper), cost=0.2 * place)


def block(moment: Moment, limits: Limits, most: int, *, low: int = 43, high: int = 69, turned: bool = False) -> Iterator[Hold]:
    """The chord in close position on its bass; ``turned``: in any inversion, but for a slash bass and where the part begins and ends."""
    chord = moment.chord
    bass = chord.bass.pitch_class
    members = core_members(chord, most)
    if bass not in members:
        members = [bass, *members[: max(1, most - 1)]]
    top = min(roof_of(moment, high), limits.highest)
    fixed = not turned or moment.edge or bool(chord.bass_interval)
    fewer = [pc for pc in members if pc != chord.root.up(2).pitch_class] if len(chord.quality.members) > 4 else []
    flat = (bass + 1) % 12  # a half step above the bass grinds: better on top of the chord, or left out
    without = [pc for pc in members if pc != flat] if flat in members else []
    for row, cost in ((members, 0.0), (fewer, 0.5), (without, 0.5)):  # a ninth beside its root and third is a handful of seconds
        for notes in close_shapes(row, max(limits.lowest, low), top):
            if notes[0] % 12 == bass or not fixed:
                yield Hold(notes, cost=cost + 1.6 * (notes[0] % 12 != bass) + _GRINDS * (notes[1:2] == (notes[0] + 1,)))
            if without and row is without and notes[0] % 12 == bass and notes[-1] < notes[0] + 13 <= top:
                yield Hold((*notes, notes[0] + 13))
                yield Hold((notes[0], *notes[2:], notes[0] + 13), cost=0.3)


def under_the_tune(moment: Moment, limits: Limits, most: int, *, turned: bool = False) -> Iterator[Hold]:
    """The block chord, with fewer notes where the tune leaves no room for it; bass and fifth, or the bass alone, where it dips into the chord's room."""
    found = list(block(moment, limits, most, turned=turned))
    for fewer in (3, 2):
        if not any(limits.fits(h.notes) for h in found) and fewer < most:
            found = list(block(moment, limits, fewer, turned=turned))
    yield from found
    if most > 2:
        yield from (Hold(h.notes, cost=5.0) for h in fifth(moment, limits))
    yield from dipping(moment, limits)


def dipping(moment: Moment, limits: Limits) -> Iterator[Hold]:
    """For a tune that dips into the chord's room: the bass alone, as low as needed."""
    for hold in _basses(moment, limits, 28, 55):
        yield Hold((hold,), cost=6.0)


def _without_third(classes: Sequence[int], chord: Chord) -> list[int]:
    return [pc for pc in classes if pc not in {chord.root.up(i).pitch_class for i in _THIRDS}]


def leads_on(chord: Chord, midi: int) -> bool:
    """Whether a note pulls to its neighbour: the third of a dominant, sevenths and altered notes; those are not doubled."""
    fifths = {name.pitch_class: interval for interval, name in zip(chord.quality.members, chord.members(), strict=True)}.get(midi % 12, 0)
    return fifths in (-2, 5, -5, 6, 8, -6, -9) or (fifths == 4 and -2 in chord.quality.members)


def close_chord(
    moment: Moment, limits: Limits, most: int, *, low: int = 52, high: int = 79, double: bool = False, left_has_third: bool = False
) -> Iterator[Hold]:
    """The chord above the bass in any close position; doubled, its lowest note comes back on top and may be left out, but no note that leads on. Of a
    chord with a ninth and more the root may be left to the bass; the third, where the left hand may have it."""
    chord = moment.chord
    members = core_members(chord, most)
    rows = [members]
    if len(chord.quality.members) > 4 and most > 2:
        rows.append([pc for pc in core_members(chord, most + 1) if pc != chord.root.pitch_class][:most])
    if left_has_third and len(members) > 2:
        rows.append(_without_third(core_members(chord, most + 1), chord))
    for notes in (n for row in rows for n in close_shapes(row, max(limits.lowest, low), min(limits.highest, high))):
        if not double:
            yield Hold(notes)
        elif notes[0] + 12 <= limits.highest and len(notes) < 5 and not leads_on(chord, notes[0]):
            yield Hold((*notes, notes[0] + 12), optional=(notes[0] + 12,))


def tune_alone(moment: Moment, limits: Limits) -> Iterable[Hold]:
    return (Hold(() if moment.melody is None else (moment.melody,)),)


def tune_over(
    moment: Moment,
    limits: Limits,
    counts: tuple[int, ...],
    *,
    low: int = 55,
    near: int = 12,
    closest: int = 2,
    any_member: bool = False,
    left_has_third: bool = False,
) -> Iterator[Hold]:
    """The tune's note on top of so many chord notes within an octave; the close chord where the tune rests. ``any_member``: also of those that a
    full chord does without."""
    classes = core_members(moment.chord, 4)
    if left_has_third and len(classes) > 1:
        classes = _without_third(classes, moment.chord)
    if any_member and moment.melody is not None:
        classes = [*classes, *(n.pitch_class for n in moment.chord.members() if n.pitch_class not in classes)]
    if moment.melody is None:
        for notes in close_shapes(classes[: max(1, max(counts))], max(low, limits.lowest), min(limits.highest, 76)):
            yield Hold(notes)
        return
    top = moment.melody
    under = sorted(n for pc in classes for n in pitches_of(pc, max(limits.lowest, top - near), top - closest))
    for count in counts:
        for lower in combinations(under, count):
            if all(b - a >= 3 or a > 60 for a, b in zip(lower, lower[1:], strict=False)):
                thin = 0.9 * (max(counts) - count)
                inner = tuple(lower[1:2]) if count > 1 else ()
                yield Hold((*lower, top), cost=thin + 0.6 * (top - lower[-1] < 3), optional=inner)
    yield Hold((top,), cost=1.2 * max(counts))
