"""Checks of a chart, an arrangement and a lesson: each gives findings with place, severity, a sentence, and a mend where one is sure.

A new check is a function here and its name in ``CHART_CHECKS``, ``ARRANGEMENT_CHECKS`` or ``LESSON_CHECKS``.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator, Sequence
from dataclasses import replace
from fractions import Fraction

from valley.errors import FormatError
from valley.lesson.proof import CONTRADICTS, read_proof
from valley.model.arrangement import Arrangement, Grip, PartArrangement
from valley.model.chart import Chart, ChartChord
from valley.model.lesson import Finding, Lesson
from valley.theory.chord import NO_CHORD, parse_harte
from valley.theory.naming import judge_claim
from valley.theory.pitch import parse_pitch

ERROR, WARNING, NOTE = "error", "warning", "note"
_ORDER = {ERROR: 0, WARNING: 1, NOTE: 2}


def _bar(chart: Chart, beat: Fraction) -> int:
    return max(1, chart.grid.place(beat)[0])


def _part_at(chart: Chart, beat: Fraction) -> int | None:
    return next((p.number for p in chart.parts if chart.span(p)[0] <= beat < chart.span(p)[1]), None)


# --- the chart ------------------------------------------------------------------------------------------------------


def check_labels(chart: Chart) -> Iterator[Finding]:
    """Every chord can be read."""
    for chord in chart.chords:
        try:
            parse_harte(chord.label)
        except FormatError as error:
            yield Finding("label", ERROR, f"Bar {_bar(chart, chord.start)}: {error}.", _part_at(chart, chord.start), _bar(chart, chord.start), chord.start)


def check_spelling(chart: Chart) -> Iterator[Finding]:
    """One name for one sound within a key: sharps and flats are not mixed."""
    seen: dict[tuple[str, int], ChartChord] = {}
    for chord in chart.chords:
        parsed = _parse(chord.label)
        if parsed is None:
            continue
        key = chart.key_at(chord.start)
        right = parsed.respelled(key)
        first = seen.setdefault((str(key), parsed.root.pitch_class), chord)
        other = _parse(first.label)
        if other is not None and other.root != parsed.root:
            yield _spelling(
                chart,
                chord,
                f"{parsed.to_symbol()} here and {other.to_symbol()} in bar {_bar(chart, first.start)} are one sound under two names",
                right.to_symbol(),
            )
        elif right.root != parsed.root and abs(parsed.root.fifths - key.tonic.fifths) > 7:
            yield _spelling(chart, chord, f"{parsed.to_symbol()} is written {right.to_symbol()} in {key}", right.to_symbol())


def _spelling(chart: Chart, chord: ChartChord, words: str, right: str) -> Finding:
    bar = _bar(chart, chord.start)
    return Finding(
        "spelling", WARNING, f"Bar {bar}: {words}.", _part_at(chart, chord.start), bar, chord.start, "", f"respell:{chord.start}:{right}", f"write {right}"
    )


def check_arithmetic(chart: Chart) -> Iterator[Finding]:
    """The chords fill the bars, from the first beat to the last."""
    if not chart.chords:
        yield Finding("arithmetic", ERROR, "The chart has no chords.")
        return
    end, last = Fraction(len(chart.grid.beats)), chart.chords[-1]
    if chart.chords[0].start != 0:
        yield Finding("arithmetic", ERROR, f"The first chord begins at beat {chart.chords[0].start}; the chart begins at 0.", 1, 1, chart.chords[0].start)
    if last.end != end:
        more = "beyond" if last.end > end else "before"
        bar = _bar(chart, last.start)
        yield Finding(
            "arithmetic",
            WARNING,
            f"Bar {bar}: the last chord ends at beat {last.end}, {more} the last beat, {end}.",
            _part_at(chart, last.start),
            bar,
            last.start,
        )
    covered = 0
    for part in sorted(chart.parts, key=lambda p: p.start_bar):
        if part.start_bar != covered + 1:
            words = f"Part {part.number} begins in bar {part.start_bar}, but the part before it ends in bar {covered}"
            yield Finding("arithmetic", ERROR, f"{words}.", part.number, part.start_bar)
        covered = part.end_bar
    if chart.parts and covered != chart.grid.bars:
        yield Finding("arithmetic", ERROR, f"The parts end in bar {covered}; the song has {chart.grid.bars} bars.", chart.parts[-1].number, covered)


def check_repeats(chart: Chart, compare: Callable[[Chart, int], tuple[str, ...]] | None = None) -> Iterator[Finding]:
    """What is said of a repeat is true: its differences are declared. ``compare`` gives the real ones of a part."""
    for part in chart.parts:
        if part.same_as is None or compare is None:
            continue
        if part.same_as not in {p.number for p in chart.parts if p.number < part.number}:
            words = f"Part {part.number} is said to repeat part {part.same_as}, which does not come before it"
            yield Finding("repeat", ERROR, f"{words}.", part.number, part.start_bar)
            continue
        told, real = set(part.differences), compare(chart, part.number)
        for words in real:
            if words not in told:
                yield Finding(
                    "repeat",
                    ERROR,
                    f"Part {part.number} is said to be part {part.same_as} again, but {words}.",
                    part.number,
                    part.start_bar,
                    chart.span(part)[0],
                    "",
                    f"relate:{part.number}",
                    "declare the difference",
                )


def check_doubts(chart: Chart) -> Iterator[Finding]:
    """Chords that the listening was unsure of and nobody has looked at."""
    unsure = [c for c in chart.chords if not c.locked and c.confidence < 0.5 and c.label != NO_CHORD]
    if unsure:
        bars = sorted({_bar(chart, c.start) for c in unsure})
        listed = ", ".join(map(str, bars[:8])) + (" …" if len(bars) > 8 else "")
        count = f"{len(unsure)} chord{'s are' if len(unsure) > 1 else ' is'}"
        yield Finding(
            "doubts", NOTE, f"{count} less than half sure and not looked at: bar{'s' if len(bars) > 1 else ''} {listed}.", None, bars[0], unsure[0].start
        )


def _parse(label: str):  # type: ignore[no-untyped-def]  # a chord or None
    try:
        return parse_harte(label)
    except FormatError:
        return None


# --- the arrangement ------------------------------------------------------------------------------------------------


def _grips(arrangement: Arrangement) -> Iterator[tuple[PartArrangement, Grip]]:
    for part in arrangement.parts:
        for grip in part.grips:
            yield part, grip


def _find(chart: Chart, check: str, severity: str, part: PartArrangement, grip: Grip, words: str, mend: str = "", mend_words: str = "") -> Finding:
    bar = _bar(chart, grip.start)
    return Finding(check, severity, f"Bar {bar}, {grip.symbol}: {words}.", part.part, bar, grip.start, "", mend, mend_words)


def check_names(chart: Chart, arrangement: Arrangement, limits: Limits) -> Iterator[Finding]:  # noqa: ARG001 - all checks are called alike
    """What a grip is called fits the notes it holds."""
    for part, grip in _grips(arrangement):
        chord = _parse(grip.label)
        if chord is None:
            continue
        melody = {n.midi % 12 for n in part.notes if n.melody and n.start <= grip.start < n.end}
        keys = [n.midi for n in grip.notes if n.midi % 12 in chord.pitch_classes() or n.midi % 12 not in melody]
        verdict, words = judge_claim(chord, keys, chart.key_at(grip.start))
        extra = {k % 12 for k in keys} - chord.pitch_classes()
        third_lost = any(i in chord.quality.members for i in (4, -3)) and not {
            n.pitch_class for i, n in zip(chord.quality.members, chord.members(), strict=True) if i in (4, -3)
        } & {k % 12 for k in keys}
        if extra:
            yield _find(chart, "name", ERROR, part, grip, words, f"release:{grip.start}", "take Valley's grip")
        elif verdict == CONTRADICTS and third_lost and grip.right:
            covered = {n.midi % 12 for n in part.notes if grip.start <= n.start < grip.end}
            lost = {n.pitch_class for n in chord.members()} - covered
            if lost:
                yield _find(chart, "name", WARNING if grip.locked else NOTE, part, grip, words)
        for note in grip.notes:
            if parse_pitch(note.pitch)[1] != note.midi:
                right = chord.name_of(note.midi % 12, chart.key_at(grip.start)).at(note.midi)
                yield _find(
                    chart,
                    "pitch",
                    ERROR,
                    part,
                    grip,
                    f"{note.pitch} is the wrong name for key {note.midi}, which is {right}",
                    f"release:{grip.start}",
                    f"write {right}",
                )


def check_order(chart: Chart, arrangement: Arrangement, limits: Limits) -> Iterator[Finding]:  # noqa: ARG001
    """Names and octave numbers ascend as the hand does, and are spelled as the key and chord have them."""
    for part, grip in _grips(arrangement):
        chord, key = _parse(grip.label), chart.key_at(grip.start)
        for hand in (grip.left, grip.right):
            for a, b in zip(hand, hand[1:], strict=False):
                if b.midi <= a.midi:
                    yield _find(chart, "order", ERROR, part, grip, f"{b.pitch} stands above {a.pitch} in the hand but does not lie above it")
        for note in grip.notes:
            right = chord.name_of(note.midi % 12, key) if chord else key.spell(note.midi % 12)
            name = parse_pitch(note.pitch)[0]
            if name.pitch_class == right.pitch_class and name != right:
                yield _find(chart, "spelling", WARNING, part, grip, f"{note.pitch} is written {right.at(note.midi)} here")


def check_reach(chart: Chart, arrangement: Arrangement, limits: Limits) -> Iterator[Finding]:
    """No hand is asked for more than it spans."""
    for part, grip in _grips(arrangement):
        for hand, reach in (("left", grip.reach_left_mm), ("right", grip.reach_right_mm)):
            if reach > limits.most_mm + 0.05:
                words = f"the {hand} hand would span {reach:.0f} mm, and this hand spans {limits.most_mm:.0f}"
                yield _find(chart, "reach", ERROR, part, grip, words, f"release:{grip.start}", "take Valley's grip")
            elif reach > limits.comfort_mm:
                yield _find(chart, "stretch", WARNING, part, grip, f"the {hand} hand spans {reach:.0f} mm, more than the comfortable {limits.comfort_mm:.0f}")


def check_collision(chart: Chart, arrangement: Arrangement, limits: Limits) -> Iterator[Finding]:  # noqa: ARG001
    """The hands do not stand on each other."""
    for part, grip in _grips(arrangement):
        if grip.left and grip.right and grip.left[-1].midi >= grip.right[0].midi:
            words = f"the left hand's {grip.left[-1].pitch} stands on the right hand's {grip.right[0].pitch}"
            yield _find(chart, "collision", ERROR, part, grip, words, f"release:{grip.start}", "take Valley's grip")


def check_room(chart: Chart, arrangement: Arrangement, limits: Limits) -> Iterator[Finding]:
    """Every note is on the keyboard and in the picture."""
    for part in arrangement.parts:
        told: set[int] = set()
        for note in part.notes:
            bar = _bar(chart, note.start)
            if not limits.lowest <= note.midi <= limits.highest and bar not in told:
                told.add(bar)
                words = f"Bar {bar}: {note.pitch} is not on a keyboard of {arrangement.keyboard} keys"
                yield Finding("keyboard", ERROR, f"{words}.", part.part, bar, note.start)
            elif not limits.frame_low <= note.midi <= limits.frame_high and bar not in told:
                told.add(bar)
                yield Finding("frame", WARNING, f"Bar {bar}: {note.pitch} lies outside what the camera shows, {arrangement.frame}.", part.part, bar, note.start)


def check_holds(chart: Chart, arrangement: Arrangement, limits: Limits) -> Iterator[Finding]:  # noqa: ARG001
    """Patterns fit, and what is struck for a chord does not last beyond it."""
    for part in arrangement.parts:
        for notice in part.notices:
            start = chart.span(next(p for p in chart.parts if p.number == part.part))[0]
            yield Finding("pattern", WARNING, notice if notice.endswith(".") else f"{notice}.", part.part, _bar(chart, start), start)
        tune = {(n.hand, n.start, n.duration) for n in part.notes if n.melody}  # what goes along with a held note of the tune
        for grip in part.grips:
            struck = [n for n in part.notes if not n.melody and not n.link and grip.start <= n.start < grip.end]
            late = next((n for n in struck if n.end > grip.end and (n.hand, n.start, n.duration) not in tune), None)
            if late is not None:
                yield _find(chart, "hold", ERROR, part, grip, f"{late.pitch} is held to beat {late.end}, the chord ends at {grip.end}")


def check_twins(chart: Chart, arrangement: Arrangement, limits: Limits) -> Iterator[Finding]:  # noqa: ARG001
    """A repeat that is taught as the same is played the same."""
    for part in chart.parts:
        if part.same_as is None or part.kinship != "same":
            continue
        try:
            ours, theirs = arrangement.of_part(part.number), arrangement.of_part(part.same_as)
        except ValueError:
            continue
        for a, b in zip(ours.grips, theirs.grips, strict=False):
            if [n.midi for n in a.notes] != [n.midi for n in b.notes] and (a.locked or b.locked):
                words = f"part {part.number} is taught as part {part.same_as} again, but the grip differs from bar {_bar(chart, b.start)}"
                yield _find(chart, "twin", ERROR, ours, a, words, f"spread:{b.start}", f"play it as in bar {_bar(chart, b.start)}")


# --- the lesson -----------------------------------------------------------------------------------------------------


def check_taught(chart: Chart, arrangement: Arrangement, lesson: Lesson) -> Iterator[Finding]:  # noqa: ARG001
    """Every part is taught, or left out on purpose."""
    taught = {s.part for s in lesson.steps if s.part is not None}
    for part in chart.parts:
        if part.number not in taught and part.same_as not in taught:
            yield Finding("taught", WARNING, f"Part {part.number} is never taught.", part.number, part.start_bar, chart.span(part)[0])


def check_stale(chart: Chart, arrangement: Arrangement, lesson: Lesson) -> Iterator[Finding]:  # noqa: ARG001
    """Words that were written before the music changed."""
    for step in lesson.steps:
        if step.stale:
            yield Finding("stale", WARNING, f"“{step.title}”: the music has changed since you wrote these words.", step.part, None, step.start, step.key)


def check_words(chart: Chart, arrangement: Arrangement, lesson: Lesson) -> Iterator[Finding]:
    """What the creator wrote agrees with what is played."""
    s = lesson.schools
    for step in lesson.steps:
        if not step.edited:
            continue
        prefix = f"Part {step.part}. " if step.part else ""
        for claim in read_proof(prefix + "\n".join(step.lines), chart, arrangement, naming=s.naming, octaves="c3" if s.octaves == "c3" else "c4"):
            if claim.verdict == CONTRADICTS and claim.start >= len(prefix):
                right = f" – {claim.expected}" if claim.expected else ""
                yield Finding("words", ERROR, f"“{step.title}”: “{claim.text}”: {claim.message}{right}.", step.part, None, step.start, step.key)


class Limits:
    """What hands, keyboard and camera allow, in millimetres and MIDI numbers."""

    def __init__(self, comfort_mm: float, most_mm: float, keyboard: tuple[int, int], frame: tuple[int, int]) -> None:
        self.comfort_mm, self.most_mm = comfort_mm, most_mm
        self.lowest, self.highest = keyboard
        self.frame_low, self.frame_high = frame


CHART_CHECKS = (check_labels, check_spelling, check_arithmetic, check_doubts)
ARRANGEMENT_CHECKS = (check_names, check_order, check_reach, check_collision, check_room, check_holds, check_twins)
LESSON_CHECKS = (check_taught, check_stale, check_words)


def check_all(
    chart: Chart,
    arrangement: Arrangement | None = None,
    lesson: Lesson | None = None,
    limits: Limits | None = None,
    *,
    compare: Callable[[Chart, int], tuple[str, ...]] | None = None,
) -> tuple[Finding, ...]:
    """Every finding, the gravest first, then in the order of the song.

    Parameters
    ----------
    limits : needed with an arrangement
    compare : the real differences of a repeat, by its part number
    """
    found: list[Finding] = [f for check in CHART_CHECKS for f in check(chart)]
    found += check_repeats(chart, compare)
    if arrangement is not None and limits is not None:
        found += [f for check in ARRANGEMENT_CHECKS for f in check(chart, arrangement, limits)]
        if lesson is not None:
            found += [f for lesson_check in LESSON_CHECKS for f in lesson_check(chart, arrangement, lesson)]
    return tuple(sorted(_thin(found), key=lambda f: (_ORDER[f.severity], f.start if f.start is not None else Fraction(-1), f.check)))


def _thin(found: Sequence[Finding]) -> list[Finding]:
    """One finding for a stretch that comes in every repeat of a chord: the first, with how often it comes."""
    kept: dict[tuple[str, str], Finding] = {}
    times: dict[tuple[str, str], int] = {}
    out: list[Finding] = []
    for f in found:
        if f.check != "stretch":
            out.append(f)
            continue
        key = (f.check, f.sentence.split(": ", 1)[-1] + f.sentence.split(",", 1)[-1])
        kept.setdefault(key, f)
        times[key] = times.get(key, 0) + 1
    for key, f in kept.items():
        more = f" (and in {times[key] - 1} more places)" if times[key] > 1 else ""
        out.append(replace(f, sentence=f.sentence[:-1] + more + "."))
    return out
