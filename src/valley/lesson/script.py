"""The lesson's steps from an arrangement, in the chosen schools.

Every step has a key of its own, so that what the creator writes over it finds it again when the music has changed.
"""

from __future__ import annotations

import re
from collections.abc import Sequence
from dataclasses import dataclass, replace
from fractions import Fraction

from valley.lesson.moves import count_changed, describe_move, join_names
from valley.lesson.phrases import Speaker
from valley.model.arrangement import Arrangement, Grip, HandNote, PartArrangement, PlayedNote
from valley.model.chart import Chart, Part
from valley.model.lesson import Lesson, Step
from valley.model.schools import Schools
from valley.theory.chord import parse_harte
from valley.theory.names import name_chord, name_note, name_pitch, rename_pitches
from valley.theory.pitch import PitchName

WORDS_A_SECOND = 2.3  # of someone who explains while playing
_SLOW = 0.5
LADDER = (0.5, 0.7, 0.85, 1.0)


@dataclass(frozen=True)
class _Teacher:
    """What every step needs: the music, the schools, and the voice."""

    chart: Chart
    arrangement: Arrangement
    schools: Schools
    speaker: Speaker
    pattern_summaries: dict[str, tuple[str, str]]

    def say(self, phrase: str, /, **values: object) -> str:
        return self.speaker.say(phrase, **values)

    def pitch(self, text: str) -> str:
        s = self.schools
        return name_pitch(text, naming=s.naming, flats=s.flats, spelling=s.spelling, octaves=s.octaves)

    def pitches(self, notes: Sequence[HandNote]) -> str:
        return join_names([self.pitch(n.pitch) + ("*" if n.optional else "") for n in notes])

    def note(self, name: PitchName) -> str:
        s = self.schools
        return name_note(name, naming=s.naming, flats=s.flats, spelling=s.spelling)

    def chord(self, label: str) -> str:
        chord, s = parse_harte(label), self.schools
        if chord is None:
            return "no chord"
        return name_chord(
            chord,
            naming=s.naming,
            flats=s.flats,
            spelling=s.spelling,
            added=s.added,
            suspended=s.suspended,
            major_seventh=s.major_seventh,
            half_diminished=s.half_diminished,
            inversions=s.inversions,
        )

    def renamed(self, sentence: str) -> str:
        s = self.schools
        return rename_pitches(sentence, naming=s.naming, flats=s.flats, spelling=s.spelling, octaves=s.octaves)

    def place(self, beat: Fraction) -> tuple[int, str]:
        return self.chart.grid.place(beat)[0], self.chart.grid.count(beat)


def build_lesson(
    chart: Chart,
    arrangement: Arrangement,
    *,
    order: Sequence[int] = (),
    schools: Schools = Schools(),  # noqa: B008 - frozen
    language: str = "en",
    easier: Arrangement | None = None,
    fuller: Arrangement | None = None,
    patterns: dict[str, tuple[str, str]] | None = None,
) -> Lesson:
    """What you will learn, the key, the chords, every part (repeats by their differences only), how they join, the variations, full speed.

    Parameters
    ----------
    order : numbers of the parts to teach, in that order; all in the song's order if empty. A repeat whose model is not taught before it is taught as new.
    easier, fuller : the same song at those levels, for the variations
    patterns : title and summary of each pattern by name
    """
    teacher = _Teacher(chart, arrangement, schools, Speaker(language), patterns or {})
    by_number = {p.number: p for p in chart.parts}
    taught = [by_number[n] for n in order] or list(chart.parts)
    steps = [_opening(teacher, taught), _vocabulary(teacher)]
    learned: list[int] = []
    for part in taught:
        if part.same_as and not {part.same_as, *_family(chart, part.same_as)} & set(learned):
            part = replace(part, same_as=None, kinship="new", differences=())
        steps += _repeat(teacher, part) if part.same_as else _part(teacher, part)
        if not (part.same_as and part.kinship == "same"):
            learned.append(part.number)
            if len(learned) > 1 and schools.joining == "cumulative":
                steps.append(_join(teacher, learned))
    steps += _variations(teacher, easier, fuller)
    steps.append(_closing(teacher, taught))
    return Lesson(chart.title, tuple(_time(teacher, s) for s in steps), schools)


def _family(chart: Chart, number: int) -> set[int]:
    return {p.number for p in chart.parts if p.same_as == number and p.kinship == "same"}


def _count_bars(n: int) -> str:
    return "1 bar" if n == 1 else f"{n} bars"


def _time(teacher: _Teacher, step: Step) -> Step:
    """Speaking by the number of words, playing by the beats that are shown, as often and as slowly as the step says."""
    words = sum(len(line.split()) for line in (step.title, *step.lines))
    playing = 0.0
    if step.start is not None and step.end is not None:
        grid = teacher.chart.grid
        playing = step.plays * (grid.seconds(step.end) - grid.seconds(step.start)) / step.speed
    return replace(step, speaking_seconds=round(words / WORDS_A_SECOND, 1), playing_seconds=round(playing, 1))


def _opening(t: _Teacher, taught: Sequence[Part]) -> Step:
    chart, grid = t.chart, t.chart.grid
    to_learn = sum(p.new_bars for p in taught)
    parts = "1 part" if len(taught) == 1 else f"{len(taught)} parts"
    lines = [t.say("opening", title=chart.title, bars=_count_bars(sum(p.bars for p in taught)), learn=to_learn, parts=parts), t.say("sounds")]
    for i, area in enumerate(chart.keys):
        scale = " ".join(t.note(n) for n in area.key.scale())
        name = f"{t.note(area.key.tonic)} {area.key.mode}"
        bar = max(grid.place(area.start)[0], 1)
        lines.append(t.say("key change", bar=bar, key=name, scale=scale) if i else t.say("key", key=name, scale=scale))
    changes = [f"{c.meter} from bar {grid.place(Fraction(c.beat))[0]}" for c in grid.changes]
    lines.append(t.say("metre", metre=join_names([grid.meter, *changes]), bpm=round(chart.bpm)))
    lines.append(t.say("count", count=", ".join(count_bar(grid.metre.name))))
    first = next((g for p in t.arrangement.parts for g in p.grips), None)
    middle = {"c4": "C4", "c3": "C3", "words": "the one with the name"}[t.schools.octaves]
    if first and first.left and first.right:
        lines.append(t.say("middle", name=middle, left=t.pitch(first.left[0].pitch), right=t.pitch(first.right[0].pitch)))
    else:
        lines.append(t.say("middle alone", name=middle))
    if abs(chart.tuning_cents) >= 8:
        lines.append(t.say("tuning", cents=f"{abs(chart.tuning_cents):.0f}", side="above" if chart.tuning_cents > 0 else "below"))
    lines.append(t.say("caution"))
    start, end = (chart.span(taught[0])[0], chart.span(taught[0])[1]) if taught else (None, None)
    return Step("What you will learn", tuple(lines), key="opening", kind="opening", start=start, end=end)


def count_bar(meter: str) -> tuple[str, ...]:
    """How a bar of a metre is counted in its even division.

    >>> count_bar("3/4"), count_bar("6/8")
    (('1', '&', '2', '&', '3', '&'), ('1', '2', '3', '4', '5', '6'))
    """
    from valley.theory.metre import Metre

    metre = Metre(meter)
    step = Fraction(1, metre.division)
    counts = [metre.count(i * step) for i in range(metre.beats * metre.division)]
    return tuple(c.split()[-1] for c in counts)


def _vocabulary(t: _Teacher) -> Step:
    """Each chord once, with the notes of both hands where it first occurs."""
    seen: dict[str, Grip] = {}
    for part in t.arrangement.parts:
        for grip in part.grips:
            seen.setdefault(grip.label, grip)
    tune_alone = all(len(g.right) <= 1 for g in seen.values())  # then the right hand's note is the tune's, not the chord's
    lines = [_say_grip(t, grip, with_right=not tune_alone) + (f" {grip.hint}" if grip.hint else "") for grip in seen.values()]
    if any(n.optional for g in seen.values() for n in g.notes):
        lines.append(t.say("stars"))
    return Step("The chords", tuple(lines) or (t.say("no chords"),), key="chords", kind="chords")


def _say_grip(t: _Teacher, grip: Grip, *, with_right: bool = True) -> str:
    place = f" ({grip.inversion})" if grip.inversion not in ("", "root position") and t.schools.inversions == "slash" else ""
    hands = []
    if grip.left:
        hands.append(f"left {t.pitches(grip.left)}")
    if grip.right and with_right:
        hands.append(f"right {t.pitches(grip.right)}")
    without = f", without its {join_names(grip.omits)}" if grip.omits and with_right else ""
    return f"{t.chord(grip.label)}{place}{without}: {'; '.join(hands)}."


def _name_part(part: Part) -> str:
    return f"Part {part.number}" + (f", {part.name}" if part.name else "")


def _say_bars(part: Part) -> str:
    return f"bars {part.start_bar} to {part.end_bar}" if part.bars > 1 else f"bar {part.start_bar}"


def _part(t: _Teacher, part: Part) -> list[Step]:
    """A part taught as new: hand by hand or chord by chord, then together, its pattern, its links."""
    arranged = t.arrangement.of_part(part.number)
    start, end = t.chart.span(part)
    title = _name_part(part)
    base = Step(title, (), part.number, start=start, end=end)
    steps: list[Step] = []
    patterned = arranged.pattern != "held"
    intro = [t.say("part", title=title, bars=_say_bars(part))]
    if patterned and t.schools.order == "pattern-first":
        intro += _say_pattern(t, arranged, "pattern now")
    key = f"part-{part.number}"
    if t.schools.hands == "right-left-together":
        right = _right_hand(t, arranged)
        if right:
            alone = replace(base, title=f"{title}: right hand", kind="right", hands="right", speed=_SLOW, plays=2)
            steps.append(replace(alone, lines=(*intro, *right), key=f"{key}/right"))
            intro = []
        left = _left_hand(t, arranged)
        if left:
            alone = replace(base, title=f"{title}: left hand", kind="left", hands="left", speed=_SLOW, plays=2)
            steps.append(replace(alone, lines=(*intro, *left), key=f"{key}/left"))
            intro = []
    lines = [*intro, t.say("together" if t.schools.hands == "right-left-together" else "both"), *_chords(t, arranged)]
    steps.append(replace(base, title=f"{title}: both hands", lines=tuple(lines), key=f"{key}/both", kind="both", speed=_SLOW, plays=3))
    if patterned and t.schools.order == "block-first":
        words = tuple(_say_pattern(t, arranged, "pattern"))
        steps.append(replace(base, title=f"{title}: the pattern", lines=words, key=f"{key}/pattern", kind="pattern", speed=0.7, plays=2))
    links = _links(t, arranged)
    if links:
        steps.append(replace(base, title=f"{title}: what joins the chords", lines=tuple(links), key=f"{key}/links", kind="links", speed=0.7))
    if arranged.pedals and part is t.chart.parts[0]:
        steps.append(replace(base, title="The pedal", lines=(t.say("pedal"),), key="pedal", kind="pedal", speed=0.7))
    return steps


def _right_hand(t: _Teacher, arranged: PartArrangement) -> list[str]:
    """The tune bar by bar with its counts, ups and downs; or the chords where no tune is played."""
    tune = [n for n in arranged.notes if n.melody and not n.grace]
    if not tune:
        rows = [g for g in arranged.grips if g.right]
        return [t.say("right chords"), *[f"  {_where(t, g)}: {t.pitches(g.right)}." for g in rows]] if rows else []
    bars: dict[int, list[PlayedNote]] = {}
    for note in tune:
        bars.setdefault(t.chart.grid.place(note.start)[0], []).append(note)
    lines = [t.say("right tune")]
    before: PlayedNote | None = None
    for bar, notes in bars.items():
        said = []
        for note in notes:
            said.append(_say_tune_note(t, note, before))
            before = note
        lines.append(f"  Bar {bar}: {', '.join(said)}.")
    return lines


def _say_tune_note(t: _Teacher, note: PlayedNote, before: PlayedNote | None) -> str:
    """A note of the tune with its count: "up to", "down to", "again"; off the beat only where every note is aligned."""
    name = t.pitch(note.pitch)
    way = ""
    if before is not None:
        way = "again " if note.midi == before.midi else "up to " if note.midi > before.midi else "down to "
    finger = f", finger {note.finger}" if note.finger and t.schools.fingering == "shown" and before is None else ""
    if t.schools.alignment == "anchors" and note.start.denominator > 1:
        return f"{way}{name}"
    return f"{way}{name} ({t.chart.grid.count(note.start)}{finger})"


def _left_hand(t: _Teacher, arranged: PartArrangement) -> list[str]:
    """Block by block, and which note of the tune each chord falls on."""
    rows = [g for g in arranged.grips if g.left]
    if not rows:
        return []
    tune = [n for n in arranged.notes if n.melody and not n.grace]
    lines = [t.say("left")]
    for grip in rows:
        meets = ""
        if tune:
            note = next((n for n in tune if n.start == grip.start), None)
            chord, count = t.chord(grip.label), t.chart.grid.count(grip.start)
            meets = " " + (t.say("meets", chord=chord, note=t.pitch(note.pitch), count=count) if note else t.say("alone", chord=chord, count=count))
        lines.append(f"  {_where(t, grip)}: {t.pitches(grip.left)}.{_say_fingers(t, grip.left)}{meets}")
    return lines


def _say_fingers(t: _Teacher, notes: Sequence[HandNote]) -> str:
    if t.schools.fingering == "hidden" or len(notes) < 2 or any(n.finger is None for n in notes):
        return ""
    return f" Fingers {', '.join(str(n.finger) for n in notes)}."


def _where(t: _Teacher, grip: Grip) -> str:
    bar, count = t.place(grip.start)
    return f"Bar {max(bar, 1)} on {count}"


def _chords(t: _Teacher, arranged: PartArrangement) -> list[str]:
    """Every grip with its count, how long it lasts, what stays and what moves."""
    lines = []
    for before, grip in zip((None, *arranged.grips), arranged.grips, strict=False):
        bar, count = t.place(grip.start)
        move = ""
        if before:
            changed = count_changed(before, grip)
            number = t.say("none changed") if not changed else t.say("one changed") if changed == 1 else t.say("changed", count=changed)
            move = f" {t.renamed(describe_move(before, grip))} {number}"
        lines.append(f"  Bar {max(bar, 1)}, on {count}: {_say_grip(t, grip)} {t.say('hold', beats=say_beats(grip.duration))}{move}")
    return lines


def say_beats(beats: Fraction) -> str:
    """A length as it is said.

    >>> say_beats(Fraction(1)), say_beats(Fraction(3, 2)), say_beats(Fraction(4, 3))
    ('1 beat', '1 1/2 beats', '1 1/3 beats')
    """
    whole, rest = divmod(beats, 1)
    number = f"{whole} {rest}" if whole and rest else str(rest or whole)
    return f"{number} beat{'' if 0 < beats <= 1 else 's'}"


def _say_pattern(t: _Teacher, arranged: PartArrangement, key: str) -> list[str]:
    title, summary = t.pattern_summaries.get(arranged.pattern, (arranged.pattern, ""))
    lines = [t.say(key, pattern=title.lower(), summary=summary)]
    if arranged.grips:
        first = arranged.grips[0]
        starts = sorted({n.start for n in arranged.notes if first.start <= n.start < first.end and not n.melody})
        counts = [t.chart.grid.count(s) for s in starts]
        lines.append(t.say("pattern count", chord=t.chord(first.label), count=", ".join(counts)))
        longest = max(g.duration for g in arranged.grips)
        for short in sorted({g.duration for g in arranged.grips if g.duration < longest}):
            lines.append(t.say("pattern short", beats=say_beats(short), share=_share(short / longest)))
    return [*lines, *[t.renamed(n) for n in arranged.notices]]


_SHARES = {
    Fraction(1, 2): "half",
    Fraction(1, 4): "a quarter",
    Fraction(3, 4): "three quarters",
    Fraction(1, 3): "a third",
    Fraction(2, 3): "two thirds",
}


def _share(part: Fraction) -> str:
    return _SHARES.get(part, str(part))


def _links(t: _Teacher, arranged: PartArrangement) -> list[str]:
    lines = []
    for link in arranged.links:
        if link.taken:
            bar, count = t.place(link.start)
            lines.append(f"  Bar {bar}, on {count}: {t.say('link', words=t.renamed(link.words if link.taken == 'full' else link.easy_words))}")
            if link.taken == "full" and link.easy_words:
                lines.append(f"  {t.say('easier link', words=t.renamed(link.easy_words))}")
    return lines


def _repeat(t: _Teacher, part: Part) -> list[Step]:
    start, end = t.chart.span(part)
    key = f"part-{part.number}/repeat"
    if part.kinship == "same":
        line = t.say("same", number=part.number, model=part.same_as)
        return [Step(_name_part(part), (line,), part.number, key=key, kind="repeat", start=start, end=end)]
    if part.kinship == "moved":
        lines = [t.say("moved", number=part.number, model=part.same_as, how="; ".join(part.differences) or "every chord moved")]
    else:
        lines = [t.say("one difference" if len(part.differences) == 1 else "differences", number=part.number, model=part.same_as)]
        lines += [f"  {d}." for d in part.differences]
    arranged = t.arrangement.of_part(part.number)
    changed = {int(number) for words in part.differences for number in re.findall(r"\bbar (\d+)", words)}
    for grip in arranged.grips:
        bar, count = t.place(grip.start)
        if bar in changed or part.kinship == "moved":
            lines.append(f"  Bar {bar}, on {count}: {_say_grip(t, grip)}")
    return [Step(f"{_name_part(part)}, a repeat", tuple(lines), part.number, key=key, kind="repeat", start=start, end=end, speed=0.7)]


def _join(t: _Teacher, learned: list[int]) -> Step:
    spans = [t.chart.span(p) for p in t.chart.parts if p.number in learned]
    line = t.say("join", parts=join_names([str(n) for n in learned]))
    key, start, end = f"join/{'-'.join(map(str, learned))}", min(a for a, _ in spans), max(b for _, b in spans)
    return Step("Join the parts", (line,), key=key, kind="join", start=start, end=end, speed=0.85)


def _variations(t: _Teacher, easier: Arrangement | None, fuller: Arrangement | None) -> list[Step]:
    """For small hands and for a bigger finish: the first grips that differ from what was taught."""
    lines = []
    for key, other in (("small hands", easier), ("big finish", fuller)):
        if other is None:
            continue
        told = [
            f"{t.chord(b.label)} as left {t.pitches(b.left) or 'nothing'}, right {t.pitches(b.right) or 'the tune'}"
            for ours, theirs in zip(t.arrangement.parts, other.parts, strict=True)
            for a, b in zip(ours.grips, theirs.grips, strict=False)
            if [n.midi for n in a.notes] != [n.midi for n in b.notes]
        ]
        different = list(dict.fromkeys(told))
        if different:
            lines.append(t.say(key, words="; ".join(different[:3]) + (", and so on" if len(different) > 3 else "")))
    return [Step("Smaller and bigger", tuple(lines), key="variations", kind="variations")] if lines else []


def _closing(t: _Teacher, taught: Sequence[Part]) -> Step:
    bpm = round(t.chart.bpm)
    ladder = ", ".join(str(round(bpm * share)) for share in LADDER)
    route = ", ".join(str(p.number) for p in taught)
    lines = [t.say("whole", route=route), t.say("ladder", ladder=ladder), t.say("full speed")]
    left = [p for p in t.chart.parts if p.number not in {q.number for q in taught}]
    if left:
        lines.append(t.say("next", words=f"parts {join_names([str(p.number) for p in left])} are still to learn"))
    spans = [t.chart.span(p) for p in taught]
    start, end = (min(a for a, _ in spans), max(b for _, b in spans)) if spans else (None, None)
    return Step("All of it", tuple(lines), key="closing", kind="closing", start=start, end=end)
