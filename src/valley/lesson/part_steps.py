"""A part taught as new: hand by hand or chord by chord, then together, its pattern, its links."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import replace
from fractions import Fraction

from valley.lesson._teacher import Teacher, grip_notes, line, pitches, tell_grip
from valley.lesson.moves import count_changed, tell_move
from valley.model.arrangement import LEFT, RIGHT, Grip, HandNote, PartArrangement, PlayedNote
from valley.model.chart import Part
from valley.model.lesson import Line, LineNote, Step
from valley.model.saying import Amount, Counts, Numbers, Saying, Several, Sound, Value, own_words, say

_SLOW = 0.5
_SHARES = {
    Fraction(1, 2): "half",
    Fraction(1, 4): "quarter",
    Fraction(3, 4): "three quarters",
    Fraction(1, 3): "third",
    Fraction(2, 3): "two thirds",
}


def name_part(part: Part) -> Saying:
    return say("title named part", number=part.number, name=part.name) if part.name else say("title part", number=part.number)


def _titled(kind: str, part: Part) -> Saying:
    return say(f"title {kind}", part=Several((name_part(part),)))


def teach_part(t: Teacher, part: Part) -> list[Step]:
    """Every step of a part that is new."""
    arranged = t.arrangement.of_part(part.number)
    start, end = t.chart.span(part)
    base = Step(name_part(part), (), part.number, start=start, end=end)
    patterned = arranged.pattern != "held" and bool(arranged.grips)
    intro = [_introduce(part)]
    if not arranged.grips:
        intro.append(line(say("part sings" if arranged.notes else "part rests"), kind="silence", beat=start))
    if patterned and t.schools.order == "pattern-first":
        intro += _pattern(t, arranged, "pattern now")
    key = f"part-{part.number}"
    steps = list(_hands_alone(t, arranged, part, base, intro)) if t.schools.hands == "right-left-together" else []
    lines = [] if steps else [*intro]
    if arranged.grips:
        lines += [line(say("together" if t.schools.hands == "right-left-together" else "both"), kind="heading"), *_chords(t, arranged)]
    if lines:
        steps.append(replace(base, title=_titled("both", part), lines=tuple(lines), key=f"{key}/both", kind="both", speed=_SLOW, plays=3))
    if patterned and t.schools.order == "block-first":
        words = tuple(_pattern(t, arranged, "pattern"))
        steps.append(replace(base, title=_titled("pattern", part), lines=words, key=f"{key}/pattern", kind="pattern", speed=0.7, plays=2))
    links = _links(t, arranged)
    if links:
        steps.append(replace(base, title=_titled("links", part), lines=tuple(links), key=f"{key}/links", kind="links", speed=0.7))
    if arranged.pedals and part.number == t.chart.parts[0].number:
        pedal = line(say("pedal"), kind="pedal", beat=start)
        steps.append(replace(base, title=say("title pedal"), lines=(pedal,), key="pedal", kind="pedal", speed=0.7))
    return steps


def _hands_alone(t: Teacher, arranged: PartArrangement, part: Part, base: Step, intro: list[Line]) -> Iterator[Step]:
    """Each hand for itself; the first begins with the part's introduction."""
    for kind, lines in (("right", _right_hand(t, arranged)), ("left", _left_hand(t, arranged))):
        if lines:
            alone = replace(base, title=_titled(kind, part), kind=kind, hands=kind, speed=_SLOW, plays=2)
            yield replace(alone, lines=(*intro, *lines), key=f"part-{part.number}/{kind}")
            intro = []


def _introduce(part: Part) -> Line:
    named = Several((name_part(part),))
    said = say("part bars", part=named, first=part.start_bar, last=part.end_bar) if part.bars > 1 else say("part bar", part=named, first=part.start_bar)
    return line(said, kind="part")


def _right_hand(t: Teacher, arranged: PartArrangement) -> list[Line]:
    """The tune bar by bar with its counts, ups and downs; or the chords where no tune is played."""
    tune = [n for n in arranged.notes if n.melody and not n.grace]
    if not tune:
        rows = [g for g in arranged.grips if g.right]
        told = [_grip_line(t.at("place", g.start, notes=pitches(g.right)), g, RIGHT) for g in rows]
        return [line(say("right chords"), kind="heading", hands=RIGHT), *told] if rows else []
    bars: dict[int, list[PlayedNote]] = {}
    for note in tune:
        bars.setdefault(t.chart.grid.place(note.start)[0], []).append(note)
    lines = [line(say("right tune"), kind="heading", hands=RIGHT)]
    before: PlayedNote | None = None
    for bar, notes in bars.items():
        said = []
        for note in notes:
            said.append(_tell_tune_note(t, note, before))
            before = note
        row = Several(tuple(said))
        spoken = say("tune bar", bar=bar, notes=row) if bar >= 1 else say("tune pickup", notes=row)
        speaks_for = [LineNote(n.start, RIGHT, n.pitch) for n in notes]
        lines.append(line(spoken, kind="tune", beat=notes[0].start, hands=RIGHT, notes=speaks_for, item=True))
    return lines


def _grip_line(said: Saying, grip: Grip, hand: str, more: Sequence[Saying] = ()) -> Line:
    return line(said, *more, kind=hand, beat=grip.start, hands=hand, notes=grip_notes(grip, (hand,)), item=True)


def _tell_tune_note(t: Teacher, note: PlayedNote, before: PlayedNote | None) -> Saying:
    """A note of the tune with its count: "up to", "down to", "again"; off the beat only where every note is aligned."""
    way = "first"
    if before is not None:
        way = "again" if note.midi == before.midi else "up to" if note.midi > before.midi else "down to"
    values: dict[str, Value] = {"pitch": pitches([note])}
    phrase = "note"
    if t.schools.alignment != "anchors" or note.start.denominator == 1:
        phrase, values["count"] = "note counted", Counts((t.chart.grid.count(note.start),))
        if note.finger and t.schools.fingering == "shown" and before is None:
            phrase, values["finger"] = "note fingered", note.finger
    return say(way, note=Several((say(phrase, **values),)))


def _left_hand(t: Teacher, arranged: PartArrangement) -> list[Line]:
    """Block by block, and which note of the tune each chord falls on."""
    rows = [g for g in arranged.grips if g.left]
    if not rows:
        return []
    tune = [n for n in arranged.notes if n.melody and not n.grace]
    lines = [line(say("left"), kind="heading", hands=LEFT)]
    for grip in rows:
        more = _tell_fingers(t, grip.left)
        if tune:
            note = next((n for n in tune if n.start == grip.start), None)
            chord, count = Sound(grip.chord), Counts((t.chart.grid.count(grip.start),))
            more.append(say("meets", chord=chord, note=pitches([note]), count=count) if note else say("alone", chord=chord, count=count))
        lines.append(_grip_line(t.at("place", grip.start, notes=pitches(grip.left)), grip, LEFT, more))
    return lines


def _tell_fingers(t: Teacher, notes: Sequence[HandNote]) -> list[Saying]:
    fingers = tuple(n.finger for n in notes if n.finger is not None)
    if t.schools.fingering == "hidden" or len(notes) < 2 or len(fingers) < len(notes):
        return []
    return [say("fingers", fingers=Numbers(fingers, in_order=True))]


def _chords(t: Teacher, arranged: PartArrangement) -> list[Line]:
    """Every grip with its count, how long it lasts, what stays and what moves."""
    lines = []
    for before, grip in zip((None, *arranged.grips), arranged.grips, strict=False):
        said = [t.at("at", grip.start, said=Several((tell_grip(t, grip),))), say("hold", beats=Amount(grip.duration, "beat"))]
        if before:
            changed = count_changed(before, grip)
            number = say("none changed") if not changed else say("one changed") if changed == 1 else say("changed", count=changed)
            said += [*tell_move(before, grip), number]
        lines.append(line(*said, kind="grip", beat=grip.start, hands="both", notes=grip_notes(grip), item=True))
    return lines


def _pattern(t: Teacher, arranged: PartArrangement, phrase: str) -> list[Line]:
    title, summary = t.patterns.get(arranged.pattern, (arranged.pattern, ""))
    lines = [line(say(phrase, pattern=title.lower(), summary=summary), kind="pattern")]
    if arranged.grips:
        first = arranged.grips[0]
        starts = sorted({n.start for n in arranged.notes if first.start <= n.start < first.end and not n.melody})
        counts = Counts(tuple(t.chart.grid.count(s) for s in starts))
        lines.append(line(say("pattern count", chord=Sound(first.chord), count=counts), kind="pattern", beat=first.start))
        longest = max(g.duration for g in arranged.grips)
        lines += [line(_tell_share(short, longest), kind="pattern") for short in sorted({g.duration for g in arranged.grips if g.duration < longest})]
    return [*lines, *[line(own_words(notice), kind="notice") for notice in arranged.notices]]


def _tell_share(short: Fraction, longest: Fraction) -> Saying:
    beats = Amount(short, "beat")
    share = short / longest
    return say(f"pattern {_SHARES[share]}", beats=beats) if share in _SHARES else say("pattern share", beats=beats, share=str(share))


def _links(t: Teacher, arranged: PartArrangement) -> list[Line]:
    lines = []
    for link in arranged.links:
        if not link.taken:
            continue
        full = link.taken == "full"
        played = link.notes if full else link.easier
        notes = [LineNote(n.start, n.hand, n.pitch) for n in played]
        said = t.at("at", link.start, said=Several((link.words if full else link.easy_words,)))
        lines.append(line(said, kind="link", beat=link.start, hands=link.hand, notes=notes, item=True))
        if full:
            lines.append(line(say("easier", words=Several((link.easy_words,))), kind="easier link", beat=link.start, hands=link.hand, item=True))
    return lines
