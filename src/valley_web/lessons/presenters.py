"""Arrangements made ready to show."""

from valley.arranging.pattern_library import PATTERNS
from valley.arranging.patterns import count_form, write_slots
from valley.arranging.reach import hand_named, key_range, keyboard_range, white_keys
from valley.lesson.edits import split_steps
from valley.lesson.moves import describe_move
from valley.lesson.script import LADDER
from valley.model.arrangement import Grip, HandNote, Link, PartArrangement, PlayedNote
from valley.model.chart import Chart
from valley.model.lesson import Finding, Step
from valley.model.pattern import Form, Pattern
from valley.model.schools import school_options
from valley.pipeline.handouts import Work
from valley_web.lessons.api.schemas import (
    ArrangementOut,
    CandidateOut,
    FindingOut,
    FormOut,
    GripOut,
    HandNoteOut,
    LeftOutOut,
    LessonOut,
    LinkOut,
    MatterOut,
    PartArrangementOut,
    PatternOut,
    PlayedNoteOut,
    SettingsOut,
    StepOut,
    StrokeOut,
)
from valley_web.lessons.services import Voiced
from valley_web.songs.models import ChartRevision, Song


def show_pattern(pattern: Pattern) -> PatternOut:
    return PatternOut(
        name=pattern.name, title=pattern.title, summary=pattern.summary, own=pattern.name not in PATTERNS, forms=[_show_form(f) for f in pattern.forms]
    )


def _show_form(form: Form) -> FormOut:
    return FormOut(meter=form.meter, left=write_slots(form.left), right=write_slots(form.right), cell=str(form.cell), strokes=show_strokes(form))


def show_strokes(form: Form) -> list[StrokeOut]:
    return [StrokeOut(count=c, hand=h, keys=k) for c, h, k in count_form(form)]


def show_arrangement(voiced: Voiced) -> ArrangementOut:
    choices, hand = voiced.choices, hand_named(voiced.choices.hand)
    lowest, highest = keyboard_range(choices.keyboard)
    frame = key_range(choices.frame) if choices.frame else (lowest, highest)
    return ArrangementOut(
        revision=voiced.revision,
        last_change=voiced.last_change,
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
            own_patterns=[show_pattern(p) for p in choices.patterns],
        ),
        comfort_mm=hand.comfort_mm,
        most_mm=hand.most_mm,
        lowest=lowest,
        highest=highest,
        frame_low=frame[0],
        frame_high=frame[1],
        parts=[_show_part(voiced, part, hand.most_mm, frame) for part in voiced.arrangement.parts],
    )


def _show_part(voiced: Voiced, part: PartArrangement, most: float, frame: tuple[int, int]) -> PartArrangementOut:
    own = voiced.choices.of_part(part.part)
    single = {p.start: p.pattern for p in voiced.choices.chord_patterns}
    labels = [c.label for c in voiced.chart.chords]
    grips = [
        _show_grip(voiced.chart, before, grip, most, frame, single.get(grip.start, ""), labels.count(grip.label) - 1)
        for before, grip in zip((None, *part.grips), part.grips, strict=False)
    ]
    return PartArrangementOut(
        part=part.part,
        style=part.style,
        level=part.level,
        pattern=part.pattern,
        own_style=any((own.style, own.level, own.pattern)),
        drop_last=own.drop_last,
        lead_in=own.lead_in,
        ending=own.ending,
        grips=grips,
        notes=[_show_note(n) for n in part.notes],
        links=[_show_link(voiced.chart, k) for k in part.links],
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
        hint=grip.hint,
        caution=grip.caution,
        move=describe_move(before, grip) if before else "",
        pattern=pattern,
        twins=twins,
    )


def _show_hand(hand: tuple[HandNote, ...], held: set[int]) -> list[HandNoteOut]:
    return [HandNoteOut(pitch=n.pitch, midi=n.midi, member=n.member, finger=n.finger, optional=n.optional, kept=n.midi in held) for n in hand]


def _show_note(n: PlayedNote) -> PlayedNoteOut:
    return PlayedNoteOut(
        hand=n.hand,
        start_beats=float(n.start),
        duration_beats=float(n.duration),
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
        words=link.words,
        easy_words=link.easy_words,
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


def show_lesson(work: Work, song: Song, revision: ChartRevision) -> LessonOut:
    groups = split_steps(work.lesson, song.lesson_minutes)
    options = school_options()
    generated = {s.key: s.title for s in work.generated.steps}
    gone = [LeftOutOut(key=e.key, title=e.title or generated.get(e.key, e.key)) for e in work.edits if e.left_out]
    return LessonOut(
        revision=revision.number,
        last_change=revision.what,
        steps=[_show_step(s) for s in work.lesson.steps],
        left_out=gone,
        lessons=[[s.key for s in group] for group in groups],
        seconds=work.lesson.seconds,
        tempi=[round(work.chart.bpm * share) for share in LADDER],
        matters=[MatterOut(name=m, school=getattr(work.schools, m), schools=list(schools)) for m, schools in options.items()],
        findings=[show_finding(f) for f in work.findings],
        errors=sum(f.severity == "error" for f in work.findings),
        ready=song.ready_at is not None,
        ready_despite=song.ready_despite,
    )


def _show_step(step: Step) -> StepOut:
    return StepOut(
        key=step.key,
        kind=step.kind,
        title=step.title,
        lines=list(step.lines),
        part=step.part,
        start_beats=None if step.start is None else float(step.start),
        end_beats=None if step.end is None else float(step.end),
        hands=step.hands,
        speed=step.speed,
        plays=step.plays,
        speaking_seconds=step.speaking_seconds,
        playing_seconds=step.playing_seconds,
        edited=step.edited,
        stale=step.stale,
    )


def show_finding(finding: Finding) -> FindingOut:
    return FindingOut(
        check=finding.check,
        severity=finding.severity,
        sentence=finding.sentence,
        part=finding.part,
        bar=finding.bar,
        start=None if finding.start is None else str(finding.start),
        step=finding.step,
        mend=finding.mend,
        mend_words=finding.mend_words,
    )
