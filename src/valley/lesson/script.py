"""The lesson's steps from an arrangement, in the chosen schools.

Every step has a key of its own, so that what the creator writes over it finds it again when the music has changed.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace
from itertools import pairwise

from valley.fraction import Fraction
from valley.lesson._teacher import Teacher, line, pitches
from valley.lesson.fuller import make_fuller
from valley.lesson.joints import Joints
from valley.lesson.leads import Leads
from valley.lesson.part_steps import teach_part
from valley.lesson.repeat_steps import teach_repeat
from valley.model.arrangement import LEFT, RIGHT, Arrangement, Grip
from valley.model.chart import Chart, Part
from valley.model.lesson import Lesson, Line, Step
from valley.model.saying import Amount, Counts, KeyName, Member, Names, Numbers, Pitches, Saying, Several, Sound, Value, say
from valley.model.schools import Schools
from valley.phrases import WORDS_A_SECOND, Words
from valley.theory.feel import FEELS, STRAIGHT
from valley.theory.key import Key
from valley.theory.meter import Meter

LADDER = (0.5, 0.7, 0.85, 1.0)
_TUNED_CENTS = 8
_MOST_VARIATIONS = 3
_AROUND = 2  # bars played before and after a seam
_MOST_JOINED = 2  # parts in a row that are played through, where the lesson is not a thorough one


def build_lesson(
    chart: Chart,
    arrangement: Arrangement,
    *,
    order: Sequence[int] = (),
    schools: Schools = Schools(),  # noqa: B008 - frozen
    easier: Arrangement | None = None,
    fuller: Arrangement | None = None,
    plain: Arrangement | None = None,
    patterns: dict[str, tuple[str, str]] | None = None,
    recorded: bool = False,
    thanks: str = "",
) -> Lesson:
    """What you will learn, the key, the chords, every part (repeats by their differences only), how they join, the variations, full speed.

    Parameters
    ----------
    order : numbers of the parts to teach, in that order; all in the song's order if empty. A repeat whose model is not taught before it is taught as new.
    easier, fuller : the same song at those levels, for the variations
    plain : the version that is taught first, where the song as it is played comes last
    patterns : title and summary of each pattern by name
    recorded : there is a recording to play along with
    thanks : who asked for the song, to be thanked at the start
    """
    teacher = Teacher(chart, arrangement, schools, patterns or {}, recorded)
    by_number = {p.number: p for p in chart.parts}
    taught = [by_number[n] for n in order] or list(chart.parts)
    steps = [_opening(teacher, taught, thanks), *_vocabulary(teacher, taught)]
    first = replace(teacher, arrangement=plain) if plain else teacher
    joints, leads = Joints(chart), Leads(first, taught)
    known: list[Part] = []
    for number, part in enumerate(taught, 1):
        part = _after_what_is_known(chart, part, joints.learned)
        known.append(part)
        new = teach_repeat(first, part) if part.same_as else teach_part(first, part)
        steps += [*new, *leads.tell(part)]
        run = joints.learn(part, most=0 if teacher.thorough else _MOST_JOINED, nothing_new=not any(s.plays for s in new), last=number == len(taught))
        if run and schools.joining == "cumulative" and not teacher.short:
            steps.append(_join(teacher, run, part.number))
    if plain:
        steps += make_fuller(teacher, known)
    if not teacher.short:
        steps += _variations(teacher, easier, fuller, taught)
    steps.append(_closing(teacher, taught))
    words = Words(schools)
    return Lesson(chart.title, tuple(_time(teacher, words, s) for s in steps), schools)


def _after_what_is_known(chart: Chart, part: Part, learned: Sequence[int]) -> Part:
    """A repeat of a part that was taught: of its model, or of another repeat of that note for note; new where none was."""
    if part.same_as is None or part.same_as in learned:
        return part
    alike = next((p.number for p in chart.parts if p.same_as == part.same_as and p.kinship == "same" and p.number in learned), None)
    return replace(part, same_as=alike) if alike else replace(part, same_as=None, kinship="new", differences=())


def _time(teacher: Teacher, words: Words, step: Step) -> Step:
    """Speaking by the number of words, playing by the beats that are shown, as often and as slowly as the step says."""
    playing = 0.0
    if step.start is not None and step.end is not None:
        grid = teacher.chart.grid
        playing = step.plays * (grid.seconds(step.end) - grid.seconds(step.start)) / step.speed
    return replace(step, speaking_seconds=round(words.count(step) / WORDS_A_SECOND, 1), playing_seconds=round(playing, 1))


def _opening(t: Teacher, taught: Sequence[Part], thanks: str) -> Step:
    bars, to_learn = sum(p.bars for p in taught), sum(p.new_bars for p in taught)
    what = say("opening", title=t.chart.title, bars=Amount(Fraction(bars), "bar"), learn=to_learn, parts=Amount(Fraction(len(taught)), "part"))
    whole = say("opening all new", title=t.chart.title, bars=Amount(Fraction(bars), "bar"), parts=Amount(Fraction(len(taught)), "part"))
    lines = [
        line(whole if to_learn >= bars else what, kind="what"),
        *([line(say("thanks", who=thanks), kind="thanks")] if thanks else []),
        *([] if t.short else [line(say("sounds"), kind="sounds")]),
        *_keys(t, taught),
        *_counting(t, taught),
    ]
    if not t.short:
        lines.append(_hands_on(t, taught))
    if t.schools.octaves == "words":
        lines.append(line(say("registers", middle=Names(("C",))), kind="landmark"))
    cents = t.chart.tuning_cents
    if abs(cents) >= _TUNED_CENTS:
        lines.append(line(say("tuned above" if cents > 0 else "tuned below", cents=f"{abs(cents):.0f}"), kind="tuning"))
    if t.chart.transposed:
        first = t.chart.keys[0]
        heard = Key.from_pitch_class(first.key.tonic.pitch_class - t.chart.transposed, first.mode)
        said = say("recorded elsewhere", heard=KeyName(str(heard.tonic), heard.mode), key=KeyName(first.tonic, first.mode))
        lines.append(line(said, kind="tuning"))
    lines.append(line(say("caution"), kind="caution"))
    start, end = t.chart.span(taught[0]) if taught else (None, None)
    return Step(say("title opening"), tuple(lines), key="opening", kind="opening", start=start, end=end, plays=0 if t.short else 1)


def _keys(t: Teacher, taught: Sequence[Part]) -> list[Line]:
    """The keys of what is taught, each with its scale."""
    lines: list[Line] = []
    spans = [t.chart.span(p) for p in taught]
    ends = [*[a.start for a in t.chart.keys[1:]], Fraction(len(t.chart.grid.beats))]
    for area, end in zip(t.chart.keys, ends, strict=True):
        if not any(area.start < b and a < end for a, b in spans) and len(t.chart.keys) > 1:
            continue
        key, scale = KeyName(area.tonic, area.mode), Names(tuple(str(n) for n in area.key.scale()))
        bar = max(t.chart.grid.place(area.start)[0], 1)
        said = say("key change", bar=bar, key=key, scale=scale) if lines else say("key", key=key, scale=scale)
        lines.append(line(said, kind="key", beat=area.start))
    return lines


def _counting(t: Teacher, taught: Sequence[Part]) -> list[Line]:
    grid = t.chart.grid
    bars = sorted({bar for p in taught for bar in t.bars(p)} - {0}) or [1]
    meters = [say("meter first", meter=grid.meter_of(bars[0]).name)]
    for before, bar in pairwise(bars):
        if grid.meter_of(bar) != grid.meter_of(before):
            meters.append(say("meter from", meter=grid.meter_of(bar).name, bar=bar))
    lines = [line(say("meter", meter=Several(tuple(meters), "list"), bpm=round(t.chart.bpm)), kind="meter")]
    if grid.feel != STRAIGHT and any(FEELS[grid.feel].pair_in(grid.meter_of(bar)) for bar in bars):
        lines.append(line(say(f"feel {grid.feel}"), kind="feel"))
    if not t.short:
        between = any(n.start.denominator > 1 for p in taught for n in t.arranged(p).notes if not n.grace)
        lines.append(line(say("count", count=Counts(count_bar(grid.meter_of(bars[0]).name, between=between))), kind="count"))
    return lines


def _hands_on(t: Teacher, taught: Sequence[Part]) -> Line:
    """Where to put the hands first, from middle C."""
    first = next((g for p in taught for g in t.arranged(p).grips), None)
    words = t.schools.octaves == "words"
    phrase = "middle words" if words else "middle"
    middle: dict[str, Value] = {"middle": Names(("C",)) if words else Pitches(("C4",))}
    if first and first.left and first.right:
        said = say(phrase, **middle, left=Pitches((first.left[0].pitch,)), right=Pitches((first.right[0].pitch,)))
        return line(said, kind="landmark", beat=first.start)
    return line(say(f"{phrase} alone", **middle), kind="landmark")


def count_bar(name: str, *, between: bool = True) -> tuple[str, ...]:
    """How a bar of a metre is counted in its even division; without ``between`` by its beats, where no key is struck between them.

    >>> count_bar("3/4"), count_bar("6/8"), count_bar("5/8")
    (('1', '&', '2', '&', '3', '&'), ('1', '2', '3', '4', '5', '6'), ('1', '2', '3', '4', '5'))
    >>> count_bar("4/4", between=False), count_bar("6/8", between=False)
    (('1', '2', '3', '4'), ('1', '2', '3', '4', '5', '6'))
    """
    meter = Meter(name)
    parts = 1 if meter.quarters_per_beat < 1 or (meter.division == 2 and not between) else meter.division
    counts = [meter.count(Fraction(i, parts)) for i in range(meter.beats * parts)]
    return tuple(c.split()[-1] for c in counts)


def _vocabulary(t: Teacher, taught: Sequence[Part]) -> list[Step]:
    """The chords by name, and the easy way to see those that have one."""
    seen: dict[str, Grip] = {}
    for part in taught:
        for grip in t.arranged(part).grips:
            seen.setdefault(t.name(grip.chord), grip)
    names = Several(tuple(say("named", chord=Sound(g.chord)) for g in seen.values()), "list")
    lines = [line(say("one chord" if len(seen) == 1 else "chords", count=len(seen), chords=names), kind="chords")] if seen else []
    hints = dict.fromkeys(g.hint for g in seen.values() if g.hint) if not t.short else {}
    lines += [line(hint, kind="hint", item=True) for hint in hints]
    if not t.short:
        lines += _omissions(t, taught)
    lines = lines or [line(say("no chords"), kind="silence")]
    return [Step(say("title chords"), tuple(lines), key="chords", kind="chords")]


def _omissions(t: Teacher, taught: Sequence[Part]) -> list[Line]:
    """Chords of which the hands leave something out that gives them their name; a missing fifth is told only in a thorough lesson."""
    rows: dict[str, set[str]] = {}
    for grip in (g for p in taught for g in t.arranged(p).grips):
        name = t.name(grip.chord)
        rows[name] = rows.get(name, set(grip.omits)) & set(grip.omits)
    told = {name: sorted(omits) for name, omits in rows.items() if omits and (t.thorough or omits != {"fifth"})}
    return [
        line(say("goes without", chord=name, omits=Several(tuple(say("member", member=Member(o)) for o in omits), "list")), kind="omission", item=True)
        for name, omits in told.items()
    ]


def _join(t: Teacher, run: Sequence[int], new: int) -> Step:
    """Parts in a row; but in a thorough lesson only the bars around where they meet are played."""
    spans = {p.number: t.chart.span(p) for p in t.chart.parts if p.number in run}
    said = say("join", first=run[0], last=run[-1]) if len(run) > 2 else say("join two", first=run[0], last=run[-1])
    start, end = min(a for a, _ in spans.values()), max(b for _, b in spans.values())
    if not t.thorough:
        seams = [a for number, (a, _) in spans.items() if number - 1 in spans and new in (number, number - 1)]
        around = _AROUND * max(t.chart.grid.meter_at(s).beats for s in seams)
        start, end = max(start, min(seams) - around), min(end, max(seams) + around)
    return Step(say("title join"), (line(said, kind="join", beat=start),), key=f"join/{'-'.join(map(str, run))}", kind="join", start=start, end=end)


def _variations(t: Teacher, easier: Arrangement | None, fuller: Arrangement | None, taught: Sequence[Part]) -> list[Step]:
    """For small hands and for a bigger finish: the first grips that differ from what was taught."""
    lines = []
    for phrase, other in (("small hands", easier), ("big finish", fuller)):
        if other is None:
            continue
        different: dict[Saying, Grip] = {}
        for part in taught:
            for a, b in zip(t.arranged(part).grips, other.of_part(part.number).grips, strict=False):
                b = _proposed_hands(t, part, b)
                if [n.midi for n in _proposed_hands(t, part, a).notes] != [n.midi for n in b.notes]:
                    different.setdefault(_tell_other(b), b)
        if different:
            most = _MOST_VARIATIONS if t.thorough else 1
            more = len(different) > most
            told = Several(tuple(different)[:most], "rows")
            lines.append(line(say(f"{phrase} and so on" if more else phrase, words=told), kind=phrase))
    return [Step(say("title variations"), tuple(lines), key="variations", kind="variations")] if lines else []


def _proposed_hands(t: Teacher, part: Part, grip: Grip) -> Grip:
    """A grip without the hand whose notes there are the creator's own: what it strikes one after the other is no handful that could be smaller."""
    own = {n.hand for n in t.arranged(part).notes if n.source != "proposed" and not n.grace and grip.start <= n.start < grip.end}
    return replace(grip, left=() if LEFT in own else grip.left, right=() if RIGHT in own else grip.right)


def _tell_other(grip: Grip) -> Saying:
    chord = Sound(grip.chord)
    if grip.left and grip.right:
        return say("chord as", chord=chord, left=pitches(grip.left), right=pitches(grip.right))
    return say("chord as left", chord=chord, left=pitches(grip.left)) if grip.left else say("chord as right", chord=chord, right=pitches(grip.right))


def _closing(t: Teacher, taught: Sequence[Part]) -> Step:
    ladder = tuple(round(round(t.chart.bpm) * share) for share in LADDER)
    route = Numbers(tuple(p.number for p in taught), in_order=True)
    said = [say("whole", route=route) if len(taught) > 1 else say("whole part")]
    if not t.short:
        said.append(say("ladder", ladder=Numbers(ladder, in_order=True)))
    said.append(say("full speed recorded" if t.recorded else "full speed"))
    left = tuple(p.number for p in t.chart.parts if p.number not in {q.number for q in taught})
    if left:
        said.append(say("next", parts=Numbers(left)))
    spans = [t.chart.span(p) for p in taught]
    start, end = (min(a for a, _ in spans), max(b for _, b in spans)) if spans else (None, None)
    lines = tuple(line(s, kind=s.phrase) for s in said)
    return Step(say("title closing"), lines, key="closing", kind="closing", start=start, end=end)
