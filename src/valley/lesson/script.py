"""The lesson's steps from an arrangement, in the chosen schools.

Every step has a key of its own, so that what the creator writes over it finds it again when the music has changed.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace
from fractions import Fraction

from valley.lesson._teacher import Teacher, grip_notes, line, pitches, tell_grip
from valley.lesson.part_steps import teach_part
from valley.lesson.repeat_steps import teach_repeat
from valley.model.arrangement import Arrangement, Grip
from valley.model.chart import Chart, Part
from valley.model.lesson import Lesson, Line, Step
from valley.model.saying import Amount, Counts, KeyName, Names, Numbers, Pitches, Saying, Several, Sound, say
from valley.model.schools import Schools
from valley.phrases import WORDS_A_SECOND, Words
from valley.theory.meter import Meter

LADDER = (0.5, 0.7, 0.85, 1.0)
_TUNED_CENTS = 8
_MOST_VARIATIONS = 3


def build_lesson(
    chart: Chart,
    arrangement: Arrangement,
    *,
    order: Sequence[int] = (),
    schools: Schools = Schools(),  # noqa: B008 - frozen
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
    teacher = Teacher(chart, arrangement, schools, patterns or {})
    by_number = {p.number: p for p in chart.parts}
    taught = [by_number[n] for n in order] or list(chart.parts)
    steps = [_opening(teacher, taught), _vocabulary(teacher)]
    learned: list[int] = []
    for part in taught:
        if part.same_as and not {part.same_as, *_family(chart, part.same_as)} & set(learned):
            part = replace(part, same_as=None, kinship="new", differences=())
        steps += teach_repeat(teacher, part) if part.same_as else teach_part(teacher, part)
        if not (part.same_as and part.kinship == "same"):
            learned.append(part.number)
            if len(learned) > 1 and schools.joining == "cumulative":
                steps.append(_join(teacher, learned))
    steps += _variations(teacher, easier, fuller)
    steps.append(_closing(teacher, taught))
    words = Words(schools)
    return Lesson(chart.title, tuple(_time(teacher, words, s) for s in steps), schools)


def _family(chart: Chart, number: int) -> set[int]:
    return {p.number for p in chart.parts if p.same_as == number and p.kinship == "same"}


def _time(teacher: Teacher, words: Words, step: Step) -> Step:
    """Speaking by the number of words, playing by the beats that are shown, as often and as slowly as the step says."""
    playing = 0.0
    if step.start is not None and step.end is not None:
        grid = teacher.chart.grid
        playing = step.plays * (grid.seconds(step.end) - grid.seconds(step.start)) / step.speed
    return replace(step, speaking_seconds=round(words.count(step) / WORDS_A_SECOND, 1), playing_seconds=round(playing, 1))


def _opening(t: Teacher, taught: Sequence[Part]) -> Step:
    bars, to_learn = sum(p.bars for p in taught), sum(p.new_bars for p in taught)
    what = say("opening", title=t.chart.title, bars=Amount(Fraction(bars), "bar"), learn=to_learn, parts=Amount(Fraction(len(taught)), "part"))
    lines = [line(what, kind="what"), line(say("sounds"), kind="sounds"), *_keys(t), *_counting(t), _hands_on(t)]
    cents = t.chart.tuning_cents
    if abs(cents) >= _TUNED_CENTS:
        lines.append(line(say("tuned above" if cents > 0 else "tuned below", cents=f"{abs(cents):.0f}"), kind="tuning"))
    lines.append(line(say("caution"), kind="caution"))
    start, end = t.chart.span(taught[0]) if taught else (None, None)
    return Step(say("title opening"), tuple(lines), key="opening", kind="opening", start=start, end=end)


def _keys(t: Teacher) -> list[Line]:
    lines = []
    for i, area in enumerate(t.chart.keys):
        key, scale = KeyName(area.tonic, area.mode), Names(tuple(str(n) for n in area.key.scale()))
        bar = max(t.chart.grid.place(area.start)[0], 1)
        said = say("key change", bar=bar, key=key, scale=scale) if i else say("key", key=key, scale=scale)
        lines.append(line(said, kind="key", beat=area.start))
    return lines


def _counting(t: Teacher) -> list[Line]:
    grid = t.chart.grid
    meters = [say("meter first", meter=grid.meter)]
    meters += [say("meter from", meter=c.meter, bar=grid.place(Fraction(c.beat))[0]) for c in grid.changes]
    return [
        line(say("meter", meter=Several(tuple(meters), "list"), bpm=round(t.chart.bpm)), kind="meter"),
        line(say("count", count=Counts(count_bar(grid.main_meter.name))), kind="count"),
    ]


def _hands_on(t: Teacher) -> Line:
    """Where to put the hands first, from middle C."""
    first = next((g for p in t.arrangement.parts for g in p.grips), None)
    words = t.schools.octaves == "words"
    phrase = "middle words" if words else "middle"
    middle: dict[str, Pitches] = {} if words else {"middle": Pitches(("C4",))}
    if first and first.left and first.right:
        said = say(phrase, **middle, left=Pitches((first.left[0].pitch,)), right=Pitches((first.right[0].pitch,)))
        return line(said, kind="landmark", beat=first.start)
    return line(say(f"{phrase} alone", **middle), kind="landmark")


def count_bar(name: str) -> tuple[str, ...]:
    """How a bar of a metre is counted in its even division.

    >>> count_bar("3/4"), count_bar("6/8")
    (('1', '&', '2', '&', '3', '&'), ('1', '2', '3', '4', '5', '6'))
    """
    meter = Meter(name)
    step = Fraction(1, meter.division)
    counts = [meter.count(i * step) for i in range(meter.beats * meter.division)]
    return tuple(c.split()[-1] for c in counts)


def _vocabulary(t: Teacher) -> Step:
    """Each chord once, with the notes of both hands where it first occurs."""
    seen: dict[str, Grip] = {}
    for part in t.arrangement.parts:
        for grip in part.grips:
            seen.setdefault(grip.label, grip)
    tune_alone = all(len(g.right) <= 1 for g in seen.values())  # then the right hand's note is the tune's, not the chord's
    lines = []
    for grip in seen.values():
        said = [tell_grip(t, grip, with_right=not tune_alone), *([grip.hint] if grip.hint else [])]
        lines.append(line(*said, kind="chord", beat=grip.start, hands="left" if tune_alone else "both", notes=grip_notes(grip)))
    if any(n.optional for g in seen.values() for n in g.notes):
        lines.append(line(say("stars"), kind="stars"))
    return Step(say("title chords"), tuple(lines) or (line(say("no chords"), kind="silence"),), key="chords", kind="chords")


def _join(t: Teacher, learned: Sequence[int]) -> Step:
    spans = [t.chart.span(p) for p in t.chart.parts if p.number in learned]
    said = say("join", parts=Numbers(tuple(learned)))
    key, start, end = f"join/{'-'.join(map(str, learned))}", min(a for a, _ in spans), max(b for _, b in spans)
    return Step(say("title join"), (line(said, kind="join", beat=start),), key=key, kind="join", start=start, end=end, speed=0.85)


def _variations(t: Teacher, easier: Arrangement | None, fuller: Arrangement | None) -> list[Step]:
    """For small hands and for a bigger finish: the first grips that differ from what was taught."""
    lines = []
    for phrase, other in (("small hands", easier), ("big finish", fuller)):
        if other is None:
            continue
        different: dict[Saying, Grip] = {}
        for ours, theirs in zip(t.arrangement.parts, other.parts, strict=True):
            for a, b in zip(ours.grips, theirs.grips, strict=False):
                if [n.midi for n in a.notes] != [n.midi for n in b.notes]:
                    different.setdefault(_tell_other(b), b)
        if different:
            more = len(different) > _MOST_VARIATIONS
            told = Several(tuple(different)[:_MOST_VARIATIONS], "rows")
            lines.append(line(say(f"{phrase} and so on" if more else phrase, words=told), kind=phrase))
    return [Step(say("title variations"), tuple(lines), key="variations", kind="variations")] if lines else []


def _tell_other(grip: Grip) -> Saying:
    chord = Sound(grip.chord)
    if grip.left and grip.right:
        return say("chord as", chord=chord, left=pitches(grip.left), right=pitches(grip.right))
    return say("chord as left", chord=chord, left=pitches(grip.left)) if grip.left else say("chord as right", chord=chord, right=pitches(grip.right))


def _closing(t: Teacher, taught: Sequence[Part]) -> Step:
    ladder = tuple(round(round(t.chart.bpm) * share) for share in LADDER)
    route = Numbers(tuple(p.number for p in taught), in_order=True)
    said = [say("whole", route=route), say("ladder", ladder=Numbers(ladder, in_order=True)), say("full speed")]
    left = tuple(p.number for p in t.chart.parts if p.number not in {q.number for q in taught})
    if left:
        said.append(say("next", parts=Numbers(left)))
    spans = [t.chart.span(p) for p in taught]
    start, end = (min(a for a, _ in spans), max(b for _, b in spans)) if spans else (None, None)
    lines = tuple(line(s, kind=s.phrase) for s in said)
    return Step(say("title closing"), lines, key="closing", kind="closing", start=start, end=end)
