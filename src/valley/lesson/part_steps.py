"""A part taught as new: each hand for itself, then together, its pattern, its links."""

from __future__ import annotations

from collections.abc import Container, Iterator, Sequence
from dataclasses import replace

from valley.fraction import Fraction
from valley.lesson._teacher import Teacher, line
from valley.lesson.telling.hand_bars import bars_of, merged, place
from valley.lesson.telling.progression import tell_progression
from valley.lesson.telling.tell_bars import tell_strokes
from valley.lesson.telling.tell_hand import HandLines, heading, tell_hand
from valley.model.arrangement import LEFT, RIGHT, Link
from valley.model.chart import Part
from valley.model.lesson import Line, LineNote, Step
from valley.model.saying import Numbers, Saying, Several, own_words, say

_ALONE = {"short": (0, 1.0), "usual": (1, 0.9), "thorough": (2, 0.5)}  # how often a hand is played alone, at what share of the tempo
_BOTH = {"short": (1, 0.8), "usual": (1, 0.75), "thorough": (3, 0.5)}
_PATTERNED = 0.85  # the pattern on chords that are known
_MOST_LISTED = 6


def name_part(part: Part) -> Saying:
    return say("title named part", number=part.number, name=part.name) if part.name else say("title part", number=part.number)


def titled(kind: str, part: Part) -> Saying:
    return say(f"title {kind}", part=Several((name_part(part),)))


def base_step(t: Teacher, part: Part) -> Step:
    start, end = t.chart.span(part)
    return Step(name_part(part), (), part.number, start=start, end=end)


def introduce(part: Part) -> Line:
    named = Several((name_part(part),))
    said = say("part bars", part=named, first=part.start_bar, last=part.end_bar) if part.bars > 1 else say("part bar", part=named, first=part.start_bar)
    return line(said, kind="part")


def progression_line(t: Teacher, part: Part) -> Line:
    """The chords of a part in one sentence."""
    meters = {t.chart.grid.meter_of(bar).beats for bar in t.bars(part)}
    bar = Fraction(meters.pop()) if len(meters) == 1 else Fraction(0)
    rows = t.rows(part)
    return line(tell_progression([(chord, length) for chord, _, length in rows], bar), kind="progression", beat=t.chart.span(part)[0])


def teach_part(t: Teacher, part: Part) -> list[Step]:
    """Every step of a part that is new."""
    arranged = t.arranged(part)
    patterned = arranged.pattern != "held"
    manner = replace(t.manner, blocks_first=t.manner.blocks_first and patterned)  # a figure of the creator's own is no variant of blocks
    hands = {hand: tell_hand(t.hand(hand, "plain"), t.stretch(part), t.memory, manner) for hand in (RIGHT, LEFT)}
    intro = [introduce(part)]
    if arranged.grips:
        intro.append(progression_line(t, part))
    else:
        intro.append(line(say("part sings" if arranged.notes else "part rests"), kind="silence", beat=t.chart.span(part)[0]))
    intro += [*star_line(t, part), *_cues(t, part)]
    steps = list(_hand_steps(t, part, hands, intro))
    figures = [row for hand in (LEFT, RIGHT) if hands[hand].figures for row in (heading(hand), *hands[hand].figures)]
    if figures:
        lines = (*name_pattern(t, part), *figures)
        step = replace(
            base_step(t, part),
            title=titled("pattern", part),
            lines=lines,
            key=f"part-{part.number}/pattern",
            kind="pattern",
            speed=0.7 if t.thorough else _PATTERNED,
        )
        steps.append(step)
    steps += link_step(t, part, t.bars(part), f"part-{part.number}/links")
    if arranged.pedals and part.number == t.chart.parts[0].number:
        pedal = line(
            say("pedal written" if arranged.pedals[0].written else "pedal"),
            *([say("without pedal")] if t.thorough else []),
            kind="pedal",
            beat=t.chart.span(part)[0],
        )
        steps.append(replace(base_step(t, part), title=say("title pedal"), lines=(pedal,), key="pedal", kind="pedal", plays=1 if t.thorough else 0))
    return steps


def _hand_steps(t: Teacher, part: Part, hands: dict[str, HandLines], intro: list[Line]) -> Iterator[Step]:
    """Each hand for itself and then both, or both at once; the first begins with the part's introduction."""
    base, key = base_step(t, part), f"part-{part.number}"
    (alone, pace), (both, speed) = _ALONE[t.schools.length], _BOTH[t.schools.length]
    playing = [hand for hand in (RIGHT, LEFT) if hands[hand].keys]
    if t.schools.hands == "right-left-together":
        for hand in playing:
            lines = (*intro, *hands[hand].keys)
            yield replace(base, title=titled(hand, part), kind=hand, hands=hand, speed=pace, plays=alone, lines=lines, key=f"{key}/{hand}")
            intro = []
        lines = (*intro, line(say("together"), kind="heading"), *meetings(t, part)) if len(playing) == 2 else tuple(intro)
    else:
        lines = (*intro, *[row for hand in reversed(playing) for row in (heading(hand), *hands[hand].keys)], *meetings(t, part))
    if lines:
        yield replace(base, title=titled("both", part), lines=lines, key=f"{key}/both", kind="both", speed=speed, plays=both)


def meetings(t: Teacher, part: Part) -> list[Line]:
    """Where the hands do not fall together as the chords begin: there a learner stumbles."""
    if t.short:
        return []
    notes = t.arranged(part).notes
    tune = {n.start for n in notes if n.melody and not n.grace and n.hand == RIGHT}
    starts = sorted({n.start for n in notes if n.hand == LEFT} & {g.start for g in t.arranged(part).grips})
    if not tune or not starts:
        return []
    alone = [s for s in starts if s not in tune]
    if not alone:
        return [line(say("all meet"), kind="meeting")]
    if len(alone) == len(starts):
        return [line(say("none meet"), kind="meeting")]
    bars = tuple(dict.fromkeys(max(t.place(s)[0], 1) for s in alone))
    if len(bars) > _MOST_LISTED and not t.thorough:
        return [line(say("some meet"), kind="meeting")]
    return [line(say("meet but in bar" if len(bars) == 1 else "meet but in bars", bars=Numbers(bars)), kind="meeting")]


def _cues(t: Teacher, part: Part) -> list[Line]:
    """The creator's own words by which a place is found."""
    start, end = t.chart.span(part)
    here = [c for c in t.chart.cues if start <= c.start < end]
    if not here:
        return []
    said = Several(tuple(t.at("cue", c.start, text=c.text) for c in here), "list")
    return [line(say("cues", cues=said), kind="cues", beat=here[0].start)]


def star_line(t: Teacher, part: Part) -> list[Line]:
    """What may be left out is told so; once."""
    optional = any(n.optional for n in t.arranged(part).notes)
    return [line(say("stars"), kind="stars")] if optional and not t.short and t.memory.first_time("stars") else []


def name_pattern(t: Teacher, part: Part) -> list[Line]:
    """The pattern of a part by its name, and what the creator is to know of it."""
    arranged = t.arranged(part)
    lines = []
    if arranged.pattern != "held" and not t.memory.first_time(f"pattern {arranged.pattern}"):
        lines.append(line(say("pattern again"), kind="pattern"))
    elif arranged.pattern in t.patterns and arranged.pattern != "held":
        title, summary = t.patterns[arranged.pattern]
        lines.append(line(say("pattern", pattern=title.lower(), summary=summary), kind="pattern"))
    elif arranged.pattern != "held":
        lines.append(line(say("pattern alone"), kind="pattern"))
    told = arranged.notices if t.schools.language == "en" and not t.short else ()  # they are for the creator, and in English only
    return [*lines, *[line(own_words(notice), kind="notice") for notice in told]]


def link_step(t: Teacher, part: Part, bars: Container[int], key: str) -> list[Step]:
    """What joins the chords in some bars, as a step; none where nothing does."""
    links = tuple(_links(t, part, bars))
    if not links:
        return []
    first = min(row.beat for row in links if row.beat is not None)  # what leads into a part begins before it
    base = replace(base_step(t, part), title=titled("links", part), kind="links", speed=0.85, plays=0 if t.short else 1)
    return [replace(base, lines=links, key=key, start=min(first, t.chart.span(part)[0]))]


def _links(t: Teacher, part: Part, bars: Container[int]) -> Iterator[Line]:
    """What joins the chords, added to what is known; with its easier way."""
    arranged, grid = t.arranged(part), t.chart.grid
    taken = sorted((k for k in arranged.links if k.taken), key=lambda k: k.start)
    for hand in (RIGHT, LEFT):
        told = t.hand(hand, "all")
        added = [n for n in arranged.notes if n.link and n.hand == hand]
        for bar, strokes in sorted((b, s) for b, s in bars_of(place(grid, added)).items() if b in bars):
            here = [n for n in added if grid.place(n.start)[0] == bar]
            where = say("bar n", bar=bar) if bar >= 1 else say("before bar 1")
            said = [say(f"{hand} adds", where=Several((where,)), strokes=tell_strokes(told, bar, strokes))]
            mine = [k for k in taken if k.hand in (hand, "both") and any(k.start <= n.start < k.start + k.duration for n in here)]
            said += [w for k in mine if grid.place(k.start)[0] == bar for w in _why(k, short=t.short)]
            yield Line(tuple(said), "link", here[0].start, hand, tuple(LineNote(n.start, hand, n.pitch) for n in here), item=True)
            known = t.memory.bars[hand]
            known[bar] = merged(known.get(bar, ()), strokes)


def _why(link: Link, *, short: bool) -> Sequence[Saying]:
    if short:
        return []
    words = [link.words if link.taken == "full" else link.easy_words]
    return [*words, say("easier", words=Several((link.easy_words,)))] if link.taken == "full" else words
