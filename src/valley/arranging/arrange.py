"""Chart → Arrangement: moments from chords and tune, shapes chosen, notes spelled, fingered, set in time, joined.

The register is the song's: the tune sounds in the chart's octave, the basses in one band of the keyboard, whatever the key.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from functools import lru_cache

from valley.arranging.fingering import finger_grip
from valley.arranging.fingers_in_time import finger_notes
from valley.arranging.links import Joint, lead_in, make_room, propose_links, take
from valley.arranging.passages import Placed, free_links, lay_passages, place_passages
from valley.arranging.pattern_library import pattern_named
from valley.arranging.reach import Hand, hand_named, key_range, keyboard_range, span_mm
from valley.arranging.reasons import explain_grip
from valley.arranging.room import keep_apart
from valley.arranging.sounding import hold_on
from valley.arranging.styles import EASIER, FULLER, STANDARD, Limits, Moment, Shape, Style, check_level, style_named
from valley.arranging.timing import Timing, set_in_time
from valley.arranging.tune import companion_of, octaves_of_tune, place_tune, share_out
from valley.arranging.views import describe, view_grips
from valley.arranging.voicing import USUAL, Weights, choose_shapes, pool_shapes, rate_move, weigh
from valley.errors import ParameterError
from valley.fraction import Fraction
from valley.model.arrangement import LEFT, RIGHT, Arrangement, Grip, HandNote, Link, PartArrangement, Pedal, PlayedNote
from valley.model.chart import Chart, ChartChord, MelodyNote, Part
from valley.model.choices import Choices, ChosenNote, GripChoice, PartChoice
from valley.model.rows import with_next
from valley.theory.chord import Chord, symbol_of

_HEARD_AROUND = Fraction(1, 4)  # beats by which struck keys may be off the chord's start


_KEPT = 1024  # parts as they were arranged last: a correction touches one of them, and a lesson asks for each at three levels


@dataclass(frozen=True)
class _Ask:
    """One part's settings, resolved; it holds nothing else, so that what is arranged follows from it alone and may be kept."""

    chart: Chart  # with this part's chords and notes only
    part: Part
    own: PartChoice
    style: Style
    level: str
    pattern: str
    hand: Hand
    lowest: int
    highest: int
    octaves: int
    choices: Choices  # what concerns this part
    weights: Weights
    placed: tuple[Placed, ...]  # what is written over it
    played: tuple[MelodyNote, ...]

    def limits(self) -> Limits:
        return Limits(self.hand, self.lowest, self.highest)


def arrange(
    chart: Chart,
    choices: Choices = Choices(),  # noqa: B008 - frozen
    *,
    played: Sequence[MelodyNote] = (),
    weights: Weights = USUAL,
    with_links: bool = False,
) -> Arrangement:
    """What both hands play in every part of a chart.

    Parameters
    ----------
    choices : style, level, hand, keyboard, camera frame, patterns, and every grip that the creator set
    played : the keys that were struck in the recording, on the chart's grid, for the style "as-recorded"
    with_links : list every link that could be played, not only those that are

    Raises
    ------
    ParameterError
        an unknown style, level, hand, keyboard, frame or pattern, or a chord that nothing fits; says what to change
    """
    parts: list[PartArrangement] = []
    for ask in _ask(chart, choices, weights, played):
        part = _arrange_part(ask, with_links)
        start = chart.span(ask.part)[0]
        early = [n for n in part.notes if n.start < start]
        if early and parts:  # a lead-in takes the last beats of the part before, but not from what was written there
            taken = {p.hand for p in place_passages(chart, choices.passages, chart.parts[len(parts) - 1], parts[-1].level) if p.end > early[0].start}
            part = replace(part, notes=tuple(n for n in part.notes if n.start >= start or n.hand not in taken))
            parts[-1] = replace(parts[-1], notes=tuple(make_room(parts[-1].notes, [n for n in early if n.hand not in taken])))
            parts[-1] = replace(parts[-1], grips=view_grips(parts[-1].grips, parts[-1].notes, ask.hand))
        parts.append(part)
    return Arrangement(choices.style, choices.hand, choices.keyboard, tuple(parts), choices.level, choices.frame)


def _ask(chart: Chart, choices: Choices, weights: Weights, played: Sequence[MelodyNote]) -> list[_Ask]:
    hand = hand_named(choices.hand)
    lowest, highest = keyboard_range(choices.keyboard)
    if choices.frame:
        low, high = key_range(choices.frame)
        lowest, highest = max(lowest, low), min(highest, high)
    natural = octaves_of_tune(chart.melody)
    asks = []
    for part in chart.parts:
        own = choices.of_part(part.number)
        model = choices.of_part(part.same_as) if part.same_as else own  # a repeat goes like its model unless told otherwise
        tune = own.tune or model.tune or choices.tune
        level = check_level(own.level or model.level or choices.level)
        asks.append(
            _Ask(
                chart.only(part),
                Part(part.number, part.start_bar, part.bars),
                own,
                style_named(own.style or model.style or choices.style),
                level,
                pattern_named(own.pattern or model.pattern or choices.pattern, choices.patterns).name,
                hand,
                lowest,
                highest,
                natural if tune == "auto" else int(tune),
                _concerning(choices, *chart.span(part)),
                weights,
                place_passages(chart, choices.passages, part, level),
                tuple(_near(played, *chart.span(part))),
            )
        )
    return asks


def _concerning(choices: Choices, start: Fraction, end: Fraction) -> Choices:
    """The choices that concern one part; what is set for parts and written over them stands by itself."""
    grips = tuple(g for g in choices.grips if start <= g.start < end)
    links = tuple(k for k in choices.taken_links if start <= k.start < end)
    pedals = tuple(p for p in choices.pedals if p.start < end and p.end > start)
    # That some pedal is written somewhere leaves the other parts without one; the first of them stands for that.
    return replace(choices, parts=(), passages=(), grips=grips, taken_links=links, pedals=pedals or choices.pedals[:1])


def _near(played: Sequence[MelodyNote], start: Fraction, end: Fraction) -> Sequence[MelodyNote]:
    return played and [n for n in played if n.start < end + _HEARD_AROUND and n.end >= start - _HEARD_AROUND]


@lru_cache(maxsize=_KEPT)
def _arrange_part(ask: _Ask, with_links: bool = False) -> PartArrangement:
    chart, part = ask.chart, ask.part
    sounding = [(c, chord) for c in chart.chords_of(part) if (chord := c.chord) is not None]
    if ask.own.drop_last and len(sounding) > 1:
        sounding = sounding[:-1]
    end = sounding[-1][0].end if sounding else chart.span(part)[1]
    tune: tuple[MelodyNote, ...] = ()
    if ask.style.melody != "none" or not sounding:  # where no chord sounds, the tune is all there is to play
        tune = place_tune([n for n in chart.melody_of(part) if n.start < end or not ask.own.drop_last], ask.octaves, ask.lowest, ask.highest)
    moments = _find_moments(ask, sounding, tune)
    shapes, fixed, notices = _choose(ask, sounding, moments)
    if ask.own.ending == "octaves" and shapes and len(shapes) - 1 not in fixed:
        shapes[-1] = _full_ending(ask, moments[-1], shapes[-2] if len(shapes) > 1 else None)
    grips: list[Grip] = []
    for i, ((place, chord), shape) in enumerate(zip(sounding, shapes, strict=True)):
        grips.append(_spell_grip(ask, place, chord, shape, grips[-1] if grips else None, fixed.get(i), moments[i]))
    timing = Timing(chart, ask.choices, ask.style, ask.level, ask.pattern, ask.hand, ask.lowest, ask.highest, ask.own.ending == "rolled")
    notes = set_in_time(timing, grips, tune, notices)
    links, notes = _join(ask, grips, notes, with_links)
    notes = keep_apart(lay_passages(chart, notes, ask.placed), grips, ask.lowest)
    if not ask.choices.pedal:
        notes = hold_on(notes, grips)
    notes = [n.fingered(n.finger, by_hand=True) if n.finger else n for n in notes]  # until here only the creator's own stand
    if ask.choices.fingers:
        notes = finger_notes(notes, ask.hand)
    notes.sort(key=lambda n: (n.start, n.hand, n.voice, n.midi))
    links = free_links(links, ask.placed)
    views = view_grips(grips, notes, ask.hand)
    return PartArrangement(part.number, ask.style.name, views, tuple(notes), ask.level, ask.pattern, links, _pedals(ask, grips), tuple(notices))


def _pedals(ask: _Ask, grips: Sequence[Grip]) -> tuple[Pedal, ...]:
    """Pedal as it was written, else with every chord."""
    if not ask.choices.pedal:
        return ()
    if not ask.choices.pedals:
        return tuple(Pedal(g.start, g.end) for g in grips)
    first, last = ask.chart.span(ask.part)
    return tuple(Pedal(max(p.start, first), min(p.end, last), written=True) for p in ask.choices.pedals if p.start < last and p.end > first)


def _find_moments(ask: _Ask, sounding: Sequence[tuple[ChartChord, Chord]], tune: Sequence[MelodyNote]) -> list[Moment]:
    """The tune at every chord – a note that starts with it or is held into it – and the lowest it touches meanwhile."""
    moments = []
    doubling = STANDARD if ask.level == EASIER else ask.level  # the easier version is measured against the standard one, in the same room
    over = share_out([n for n in tune if not n.grace], [(c.start, c.end) for c, _ in sounding])
    struck = share_out(ask.played, [(c.start - _HEARD_AROUND, c.start + _HEARD_AROUND) for c, _ in sounding])
    for (place, chord), during, heard in zip(sounding, over, struck, strict=True):
        key = ask.chart.key_at(place.start)
        companions = [k for n in during for k in companion_of(n.midi, ask.style, doubling, chord, key)]
        low = min((*[n.midi for n in during], *companions), default=None)
        top = during[0].midi if during and during[0].start <= place.start else None
        keys = tuple(sorted({n.midi for n in heard if abs(n.start - place.start) <= _HEARD_AROUND}))
        edge = place.start in (sounding[0][0].start, sounding[-1][0].start)
        moments.append(Moment(_with_bass(chord, ask.choices.bass), top, low, keys, edge))
    return moments


def _with_bass(chord: Chord, bass: str) -> Chord:
    return chord if bass == "slash" else Chord(chord.root, chord.quality)


def _choose(ask: _Ask, sounding: Sequence[tuple[ChartChord, Chord]], moments: Sequence[Moment]) -> tuple[list[Shape], dict[int, GripChoice], list[str]]:
    """Shapes around the grips that the creator set; sentences about settings that no longer fit."""
    notices: list[str] = []
    chosen = {g.start: g for g in ask.choices.grips}
    fixed: dict[int, GripChoice] = {}
    shapes: dict[int, Shape] = {}
    for i, (place, _) in enumerate(sounding):
        grip = chosen.get(place.start)
        if grip is None:
            continue
        if grip.chord != place.chord:
            bar = ask.chart.grid.place(place.start)[0]
            notices.append(f"Bar {bar}: the grip that was set here was for another chord ({symbol_of(grip.chord)}) and is not used; set it anew or let it go.")
            continue
        fixed[i] = grip
        shapes[i] = Shape(_keys(grip.left), _keys(grip.right))
    try:
        return choose_shapes(moments, ask.style, ask.limits(), ask.weights, level=ask.level, fixed=shapes), fixed, notices
    except ParameterError as error:
        for i, (place, chord) in enumerate(sounding):
            if i not in fixed:
                _check_room(ask, place, chord, moments[i], error)
        raise


def _keys(notes: Sequence[ChosenNote]) -> tuple[int, ...]:
    return tuple(sorted(n.midi for n in notes))


def _full_ending(ask: _Ask, moment: Moment, before: Shape | None) -> Shape:
    """The last chord as a big finish, as near as may be to the grip before."""
    finish = style_named("big-finish")
    weights = weigh(finish, FULLER, ask.weights)
    pool = pool_shapes(moment, finish, ask.limits(), weights, FULLER)
    return min(pool, key=lambda s: s.cost + (rate_move(before, s, weights) if before else 0.0))


def _check_room(ask: _Ask, place: ChartChord, chord: Chord, moment: Moment, error: ParameterError) -> None:
    """Name the chord that nothing fits by its own name and bar."""
    try:
        pool_shapes(moment, ask.style, ask.limits(), weigh(ask.style, ask.level, ask.weights), ask.level)
    except ParameterError:
        bar = ask.chart.grid.place(place.start)[0]
        raise ParameterError(
            f"Bar {bar}: {chord.to_symbol()} has no shape in style {ask.style.name!r} for a {ask.hand.name} hand between keys "
            f"{ask.lowest} and {ask.highest}; choose a wider hand, a larger keyboard or camera frame, or another style"
        ) from error


def _spell_grip(ask: _Ask, place: ChartChord, chord: Chord, shape: Shape, before: Grip | None, choice: GripChoice | None, moment: Moment) -> Grip:
    """A shape where it stands; the only fingers on it are those that the creator set."""
    key = ask.chart.key_at(place.start)
    stars = set(shape.optional)
    set_by_hand: dict[tuple[str, int], ChosenNote] = {}
    if choice:
        set_by_hand = {(hand, n.midi): n for hand, notes in ((LEFT, choice.left), (RIGHT, choice.right)) for n in notes}

    def spell(keys: tuple[int, ...], hand: str) -> tuple[HandNote, ...]:
        out = []
        for midi in keys:
            own = set_by_hand.get((hand, midi))
            star = own.optional if own else midi in stars
            out.append(HandNote(chord.name_of(midi % 12, key).at(midi), midi, chord.member_word(midi % 12), own.finger if own else None, star))
        return tuple(out)

    left, right = spell(shape.left, LEFT), spell(shape.right, RIGHT)
    why = (
        f"Set by you{f': {choice.reason}' if choice.reason else ''}."
        if choice
        else explain_grip(chord, left, right, before, ask.style, shape.said, tune=moment.melody is not None)
    )
    return Grip(place.start, place.duration, chord, left, right, why=why, hint=ask.style.says(chord), locked=choice is not None)


def _join(ask: _Ask, grips: Sequence[Grip], notes: list[PlayedNote], with_links: bool) -> tuple[tuple[Link, ...], list[PlayedNote]]:
    """The proposals between the grips, those that are taken played."""
    if not (with_links or ask.choices.links == "all" or ask.choices.taken_links or ask.own.lead_in):
        return (), notes
    grid = ask.chart.grid
    tune = [n for n in notes if n.melody]
    over = share_out(tune, [(g.start, g.end) for g in grips])
    joints = [
        Joint(g, after, ask.chart.key_at(g.start), here, ask.hand, ask.lowest, ask.highest, grid.meter_at(g.start).division == 3)
        for (g, after), here in zip(with_next(grips), over, strict=True)
    ]
    taken = {(k.start, k.kind): k.form for k in ask.choices.taken_links}
    links: list[Link] = []
    until = {LEFT: Fraction(-1), RIGHT: Fraction(-1)}
    for link in propose_links(joints):
        form = taken.get((link.start, link.kind), "")
        hands = (LEFT, RIGHT) if link.hand == "both" else (link.hand,)
        if not form and ask.choices.links == "all" and all(link.start >= until[h] for h in hands):
            form = "full"
        if form:
            link = replace(link, taken=form)
            notes = take(notes, link)
            for h in hands:
                until[h] = link.start + link.duration
        if form or with_links:
            links.append(link)
    if ask.own.lead_in and grips:
        notes = [*lead_in(replace(joints[0], tune=tune), grips[0].start, min(Fraction(2), grips[0].start)), *notes]
    return tuple(links), notes


def list_candidates(
    chart: Chart,
    choices: Choices,
    start: Fraction,
    *,
    played: Sequence[MelodyNote] = (),
    at_most: int = 6,
    weights: Weights = USUAL,
) -> tuple[tuple[Grip, float], ...]:
    """Other grips for the chord at a beat, the best for its place first, each with the movement that it asks for (from the grip before
    and to the grip after, in semitones of all fingers)."""
    for ask in _ask(chart, choices, weights, played):
        first, last = chart.span(ask.part)
        if not first <= start < last:
            continue
        now = _arrange_part(replace(ask, choices=replace(ask.choices, links="chosen")))
        index = next((i for i, g in enumerate(now.grips) if g.start <= start < g.end), None)
        if index is None:
            return ()
        return _candidates(ask, now, index, at_most)
    return ()


def _candidates(ask: _Ask, now: PartArrangement, index: int, at_most: int) -> tuple[tuple[Grip, float], ...]:
    place = next(c for c in ask.chart.chords_of(ask.part) if c.start == now.grips[index].start)
    chord = now.grips[index].chord
    tune = place_tune(ask.chart.melody_of(ask.part), ask.octaves, ask.lowest, ask.highest) if ask.style.melody != "none" else ()
    moment = _find_moments(ask, [(place, chord)], tune)[0]
    weights = weigh(ask.style, ask.level, ask.weights)

    def shape_of(grip: Grip) -> Shape:
        return Shape(tuple(n.midi for n in grip.left), tuple(n.midi for n in grip.right))

    before = shape_of(now.grips[index - 1]) if index else None
    after = shape_of(now.grips[index + 1]) if index + 1 < len(now.grips) else None
    found: dict[tuple[tuple[int, ...], tuple[int, ...]], tuple[float, Shape]] = {}
    for level in ("easier", "standard", "fuller"):
        for shape in pool_shapes(moment, ask.style, ask.limits(), weights, level):
            cost = shape.cost + (rate_move(before, shape, weights) if before else 0) + (rate_move(shape, after, weights) if after else 0)
            found.setdefault((shape.left, shape.right), (cost, shape))
    best = sorted(found.values(), key=lambda row: (row[0], row[1].left, row[1].right))[:at_most]
    rows = []
    for _, shape in best:
        moved = sum(_travel(a, b) for a, b in ((before, shape), (shape, after)) if a and b)
        grip = _spell_grip(ask, place, chord, shape, now.grips[index - 1] if index else None, None, moment)
        grip = describe(grip, (span_mm(shape.left), span_mm(shape.right)), ask.hand)
        rows.append((_finger_grip(grip, ask) if ask.choices.fingers else grip, moved))
    return tuple(rows)


def _finger_grip(grip: Grip, ask: _Ask) -> Grip:
    def fingered(notes: tuple[HandNote, ...], hand: str) -> tuple[HandNote, ...]:
        return tuple(replace(n, finger=f) for n, f in zip(notes, finger_grip([n.midi for n in notes], hand, ask.hand), strict=True))

    return replace(grip, left=fingered(grip.left, LEFT), right=fingered(grip.right, RIGHT))


def _travel(one: Shape, other: Shape) -> float:
    return float(sum(min((abs(k - j) for j in a), default=0) for a, b in ((one.left, other.left), (one.right, other.right)) for k in b))


__all__ = ["arrange", "list_candidates"]
