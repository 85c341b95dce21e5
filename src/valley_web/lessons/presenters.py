"""Arrangements made ready to show."""

from collections.abc import Sequence

from valley.arranging.pattern_library import PATTERNS
from valley.arranging.patterns import all_forms, count_form, write_slots
from valley.arranging.reach import hand_named, key_range, keyboard_range, white_keys
from valley.arranging.sounding import sounding_end
from valley.checking import Finding, closed_findings
from valley.edits import MeanThis
from valley.fraction import Fraction
from valley.lesson.moves import describe_move
from valley.lesson.plan import plan_lessons, time_parts
from valley.lesson.script import LADDER
from valley.model.arrangement import Arrangement, Grip, HandNote, Link, PartArrangement, PlayedNote
from valley.model.chart import Chart
from valley.model.lesson import Line, Step
from valley.model.pattern import Form, Pattern
from valley.model.school_words import MATTERS, say_school
from valley.model.schools import school_options
from valley.phrases import Words
from valley.song import Work
from valley_web.lessons.api.schemas import (
    ArrangementOut,
    CandidateOut,
    ClosedOut,
    FindingOut,
    FormOut,
    GripOut,
    HandNoteOut,
    LeftOutOut,
    LessonOut,
    LessonPlanOut,
    LineNoteOut,
    LineOut,
    LinkOut,
    MatterOut,
    MendOut,
    PartArrangementOut,
    PartTimeOut,
    PatternOut,
    PlayedNoteOut,
    SchoolOut,
    SettingsOut,
    StepOut,
    StrokeOut,
)
from valley_web.songs.models import Revision, Song


def show_pattern(pattern: Pattern) -> PatternOut:
    return PatternOut(
        name=pattern.name, title=pattern.title, summary=pattern.summary, own=pattern.name not in PATTERNS, forms=[_show_form(f) for f in all_forms(pattern)]
    )


def _show_form(form: Form) -> FormOut:
    return FormOut(meter=form.meter, left=write_slots(form.left), right=write_slots(form.right), cell=str(form.cell), strokes=show_strokes(form))


def show_strokes(form: Form) -> list[StrokeOut]:
    return [StrokeOut(count=c, hand=h, keys=k) for c, h, k in count_form(form)]


def show_arrangement(work: Work, arrangement: Arrangement, revision: Revision) -> ArrangementOut:
    choices, hand = work.choices, hand_named(work.choices.hand)
    lowest, highest = keyboard_range(choices.keyboard)
    frame = key_range(choices.frame) if choices.frame else (lowest, highest)
    return ArrangementOut(
        revision=revision.number,
        last_change=revision.what,
        settings=SettingsOut(
            style=choices.style,
            level=choices.level,
            hand=choices.hand,
            keyboard=choices.keyboard,
            frame=choices.frame,
            pattern=choices.pattern,
            bass=choices.bass,
            links=choices.links,
            pedal=choices.pedal,
            fingers=choices.fingers,
            tune=choices.tune,
            own_patterns=[show_pattern(p) for p in choices.patterns],
        ),
        comfort_mm=hand.comfort_mm,
        most_mm=hand.most_mm,
        lowest=lowest,
        highest=highest,
        frame_low=frame[0],
        frame_high=frame[1],
        parts=[_show_part(work, part, hand.most_mm, frame) for part in arrangement.parts],
    )


def _show_part(work: Work, part: PartArrangement, most: float, frame: tuple[int, int]) -> PartArrangementOut:
    own = work.choices.of_part(part.part)
    single = {p.start: p.pattern for p in work.choices.chord_patterns}
    chords = [c.chord for c in work.chart.chords]
    grips = [
        _show_grip(work.chart, before, grip, most, frame, single.get(grip.start, ""), chords.count(grip.chord) - 1)
        for before, grip in zip((None, *part.grips), part.grips, strict=False)
    ]
    return PartArrangementOut(
        part=part.part,
        style=part.style,
        level=part.level,
        pattern=part.pattern,
        own_style=any((own.style, own.level, own.pattern)),
        tune=own.tune,
        drop_last=own.drop_last,
        lead_in=own.lead_in,
        ending=own.ending,
        grips=grips,
        notes=[_show_note(part, n) for n in part.notes],
        links=[_show_link(work.chart, k) for k in part.links],
        notices=list(part.notices),
    )


def _show_grip(chart: Chart, before: Grip | None, grip: Grip, most: float, frame: tuple[int, int], pattern: str, twins: int) -> GripOut:
    bar, beat = chart.grid.place(grip.start)
    held = {n.midi for n in before.notes} if before else set()
    left, right = ([n.midi for n in hand] for hand in (grip.left, grip.right))
    return GripOut(
        start=str(grip.start),
        start_beats=float(grip.start),
        duration_beats=float(grip.duration),
        bar=max(bar, 0),
        beat=float(beat) + 1,
        count=chart.grid.count(grip.start),
        symbol=grip.symbol,
        inversion=grip.inversion,
        left=_show_hand(grip.left, held),
        right=_show_hand(grip.right, held),
        reach_left_mm=grip.reach_left_mm,
        reach_right_mm=grip.reach_right_mm,
        white_left=white_keys(left),
        white_right=white_keys(right),
        strained=bool(grip.caution),
        collides=bool(left and right and left[-1] >= right[0]),
        outside=any(not frame[0] <= n.midi <= frame[1] for n in grip.notes) or max(grip.reach_left_mm, grip.reach_right_mm) > most,
        locked=grip.locked,
        omits=list(grip.omits),
        why=grip.why,
        hint=Words().say(grip.hint) if grip.hint else "",
        caution=grip.caution,
        move=describe_move(before, grip) if before else "",
        pattern=pattern,
        twins=twins,
    )


def _show_hand(hand: tuple[HandNote, ...], held: set[int]) -> list[HandNoteOut]:
    return [HandNoteOut(pitch=n.pitch, midi=n.midi, member=n.member, finger=n.finger, optional=n.optional, kept=n.midi in held) for n in hand]


def _show_note(part: PartArrangement, n: PlayedNote) -> PlayedNoteOut:
    return PlayedNoteOut(
        hand=n.hand,
        start_beats=float(n.start),
        duration_beats=float(n.duration),
        sounds_beats=float(sounding_end(part, n) - n.start),
        midi=n.midi,
        pitch=n.pitch,
        melody=n.melody,
        finger=n.finger,
        rings=n.rings,
        link=n.link,
        grace=n.grace,
    )


def _show_link(chart: Chart, link: Link) -> LinkOut:
    return LinkOut(
        kind=link.kind,
        start=str(link.start),
        start_beats=float(link.start),
        duration_beats=float(link.duration),
        hand=link.hand,
        bar=max(1, chart.grid.place(link.start)[0]),
        words=Words().say(link.words),
        easy_words=Words().say(link.easy_words),
        has_easier=bool(link.easier),
        taken=link.taken,
        midi=[n.midi for n in link.notes],
    )


def show_candidate(grip: Grip, movement: float, held: set[int]) -> CandidateOut:
    return CandidateOut(
        left=_show_hand(grip.left, held),
        right=_show_hand(grip.right, held),
        reach_left_mm=grip.reach_left_mm,
        reach_right_mm=grip.reach_right_mm,
        movement=movement,
        omits=list(grip.omits),
        why=grip.why,
    )


def _show_matter(name: str, school: str, schools: Sequence[str]) -> MatterOut:
    return MatterOut(name=name, words=MATTERS[name], school=school, schools=[SchoolOut(name=s, words=say_school(s)) for s in schools])


def show_lesson(work: Work, findings: Sequence[Finding], song: Song, revision: Revision) -> LessonOut:
    teaching, words = work.song.teaching, Words(work.song.teaching.schools)
    plans = plan_lessons(work.lesson, work.song.settings.minutes)
    generated = {s.key: words.title(s) for s in work.generated.steps}
    gone = [LeftOutOut(key=e.key, title=e.title or generated.get(e.key, e.key)) for e in teaching.edits if e.left_out]
    return LessonOut(
        revision=revision.number,
        last_change=revision.what,
        steps=[_show_step(words, s) for s in work.lesson.steps],
        left_out=gone,
        lessons=[LessonPlanOut(index=p.index, parts=list(p.parts), steps=list(p.steps), minutes=p.minutes) for p in plans],
        part_times=[PartTimeOut(part=number, minutes=minutes) for number, minutes in time_parts(work.lesson).items()],
        seconds=work.lesson.seconds,
        tempi=[round(work.chart.bpm * share) for share in LADDER],
        matters=[_show_matter(m, getattr(teaching.schools, m), schools) for m, schools in school_options().items()],
        findings=[show_finding(f) for f in findings],
        closed=[ClosedOut(sentence=f.sentence, reason=why, open=MeanThis(f.start, f.check, f.sentence, again=True)) for f, why in closed_findings(work)],
        errors=sum(f.severity == "error" for f in findings),
        ready=song.ready_at is not None,
        ready_despite=song.ready_despite,
    )


def _show_step(words: Words, step: Step) -> StepOut:
    return StepOut(
        key=step.key,
        kind=step.kind,
        title=words.title(step),
        lines=[_show_line(line, text) for line, text in zip(step.lines, words.lines(step), strict=True)],
        part=step.part,
        start_beats=_beats(step.start),
        end_beats=_beats(step.end),
        hands=step.hands,
        speed=step.speed,
        plays=step.plays,
        speaking_seconds=step.speaking_seconds,
        playing_seconds=step.playing_seconds,
        edited=step.edited,
        stale=step.stale,
        rehearsed=step.rehearsed,
    )


def _show_line(line: Line, text: str) -> LineOut:
    notes = [LineNoteOut(start_beats=float(n.start), hand=n.hand, pitch=n.pitch) for n in line.notes]
    return LineOut(text=text, kind=line.kind, item=line.item, beat=_beats(line.beat), hands=line.hands, notes=notes)


def _beats(beat: Fraction | None) -> float | None:
    return None if beat is None else float(beat)


def show_finding(finding: Finding) -> FindingOut:
    return FindingOut(
        check=finding.check,
        about=finding.about,
        severity=finding.severity,
        sentence=finding.sentence,
        part=finding.part,
        bar=finding.bar,
        start=None if finding.start is None else str(finding.start),
        step=finding.step,
        mend=MendOut(edit=finding.mend.edit, words=finding.mend.words) if finding.mend else None,
        meant=MeanThis(finding.start, finding.check, finding.sentence),
    )
