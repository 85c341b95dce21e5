"""From a song's current chart and choices to what its hands play, its lesson and its files. What is made is computed when it is asked for."""

from collections.abc import Sequence
from dataclasses import dataclass, replace
from fractions import Fraction
from typing import Literal

from valley.arranging.arrange import arrange, list_candidates
from valley.arranging.changes import ChangeGrip, PlayedGrip, TakePlayed
from valley.arranging.performance import Performance, grips_played, hold_against
from valley.charting.edits.chords import SetChord
from valley.charting.parts import relate_parts
from valley.errors import ParameterError, ValleyError
from valley.formats.chart_json import read_chart
from valley.formats.choices_json import read_choices, read_teaching
from valley.formats.engraving import engrave
from valley.formats.musicxml import dump_musicxml
from valley.lesson.edits import change_step, forget_edit
from valley.lesson.proof import Claim, read_proof
from valley.model.arrangement import Arrangement, Grip
from valley.model.chart import Chart, MelodyNote
from valley.model.choices import Choices
from valley.model.lesson import StepEdit, Teaching
from valley.model.schools import school_options
from valley.pipeline.charts import place_played, read_any_score
from valley.pipeline.handouts import Handout, Work, follow_schools, handout_named, make_frames, make_zip
from valley_web.common.problems import ProblemError
from valley_web.songs.models import ChartRevision, LogEntry, Song
from valley_web.songs.selectors import find_order, get_hearing, get_revision
from valley_web.songs.services import change_chart, change_choices, change_teaching, mark_ready, replace_chart


@dataclass(frozen=True)
class Voiced:
    """A song's chart, what was chosen for the hands, and what they play."""

    chart: Chart
    choices: Choices
    arrangement: Arrangement
    revision: int
    last_change: str


@dataclass(frozen=True)
class SetSchool:
    """Follow a school in one matter."""

    matter: str
    school: str
    kind: Literal["school"] = "school"


@dataclass(frozen=True)
class ChangeStep:
    """Write over a step, leave it out, move it behind another ("" is the beginning), or add one of one's own."""

    key: str
    kind: Literal["step"] = "step"
    title: str = ""
    lines: list[str] | None = None
    left_out: bool = False
    after: str | None = None
    added: bool = False


@dataclass(frozen=True)
class ForgetStep:
    """Let a step say again what Valley says."""

    key: str
    kind: Literal["forget"] = "forget"


LessonEdit = SetSchool | ChangeStep | ForgetStep


def get_work(song: Song, revision: ChartRevision | None = None) -> Work:
    """A song with every choice, ready to make anything of it."""
    revision = revision or get_revision(song)
    chart, teaching = read_chart(revision.document), read_teaching(revision.teaching)
    return Work(chart, read_choices(revision.choices), teaching.schools, find_order(song, chart), teaching.edits, get_hearing(song))


def get_played(song: Song, chart: Chart) -> tuple[MelodyNote, ...]:
    hearing = get_hearing(song)
    return place_played(hearing, chart.grid) if hearing else ()


def voice_song(song: Song, *, with_links: bool = False, choices: Choices | None = None) -> Voiced:
    """The current chart, voiced as chosen, or as ``choices`` say instead."""
    revision = get_revision(song)
    chart = read_chart(revision.document)
    chosen = choices or read_choices(revision.choices)
    chosen = follow_schools(chosen, read_teaching(revision.teaching).schools)
    try:
        return Voiced(chart, chosen, arrange(chart, chosen, played=get_played(song, chart), with_links=with_links), revision.number, revision.what)
    except ValleyError as error:
        raise ProblemError(422, str(error), kind="voicing") from error


def find_candidates(song: Song, start: Fraction) -> tuple[Chart, tuple[tuple[Grip, float], ...]]:
    """Other grips for one chord, and the movement each asks for."""
    revision = get_revision(song)
    chart = read_chart(revision.document)
    return chart, list_candidates(chart, read_choices(revision.choices), start, played=get_played(song, chart))


def hold_performance(song: Song, name: str, data: bytes) -> tuple[Performance, TakePlayed]:
    """A played file against what the hands play now, and the edit that would take its grips."""
    score = read_any_score(data, name)
    voiced = voice_song(song)
    held = hold_against(voiced.chart, voiced.arrangement, score.notes)
    return held, TakePlayed(tuple(PlayedGrip(*row) for row in grips_played(voiced.chart, held.struck)))


def teach_song(song: Song) -> Work:
    """The song with its lesson made, or the reason why it cannot be."""
    work = get_work(song)
    try:
        _ = work.lesson
    except ValleyError as error:
        raise ProblemError(422, str(error), kind="voicing") from error
    return work


def change_lesson(song: Song, *, base: int, edit: LessonEdit, actor: str) -> None:
    """Follow another school, or change a step."""

    def make(revision: ChartRevision) -> tuple[Teaching, str]:
        teaching = read_teaching(revision.teaching)
        if isinstance(edit, SetSchool):
            options = school_options()
            if edit.school not in options.get(edit.matter, ()):
                raise ParameterError(f"{edit.matter}={edit.school!r} must be one of {', '.join(options.get(edit.matter, options))}")
            schools = replace(teaching.schools, **{edit.matter: edit.school})  # type: ignore[arg-type]  # checked against the matter's schools above
            return replace(teaching, schools=schools), f"{edit.matter.replace('_', ' ')}: {edit.school}"
        if isinstance(edit, ForgetStep):
            return replace(teaching, edits=forget_edit(teaching.edits, edit.key)), f"step {edit.key} as Valley says it"
        lesson = get_work(song, revision).generated
        lines = None if edit.lines is None else tuple(edit.lines)
        change = StepEdit(edit.key, edit.title, lines, (), edit.left_out, edit.after, edit.added)
        edits = change_step(teaching.edits, lesson, change)
        done = "added" if edit.added else "left out" if edit.left_out else "moved" if edit.after is not None else "rewritten"
        return replace(teaching, edits=edits), f"step {edit.title or edit.key} {done}"

    change_teaching(song, base=base, make=make, actor=actor)


def mend_finding(song: Song, *, base: int, mend: str, actor: str) -> None:
    """Do what a finding proposes."""
    kind, _, rest = mend.partition(":")
    if kind == "respell":
        start, _, symbol = rest.partition(":")
        change_chart(song, base=base, edit=SetChord(start=Fraction(start), text=symbol), actor=actor)
    elif kind == "relate":
        chart = read_chart(get_revision(song).document)
        replace_chart(song, relate_parts(chart, chart.parts), "the differences of repeats declared", actor=actor)
    elif kind == "release":
        change_choices(song, base=base, edit=ChangeGrip(start=Fraction(rest), action="release"), actor=actor)
    elif kind == "spread":
        grips = [g for p in voice_song(song).arrangement.parts for g in p.grips if g.start == Fraction(rest)]
        if not grips:
            raise ProblemError(404, f"No grip begins at beat {rest}.", "The chart may have changed; look at the findings again.")
        left, right = (tuple(n.midi for n in hand) for hand in (grips[0].left, grips[0].right))
        change_choices(song, base=base, edit=ChangeGrip(start=Fraction(rest), action="take", left=left, right=right, everywhere="repeats"), actor=actor)
    else:
        raise ProblemError(422, f"There is no mend called {mend!r}.", "Look at the findings again.")


def set_ready(song: Song, *, ready: bool, despite: bool, actor: str) -> None:
    errors = sum(f.severity == "error" for f in teach_song(song).findings) if ready else 0
    mark_ready(song, errors=errors, ready=ready, despite=despite, actor=actor)


def proof_words(song: Song, text: str, *, naming: str, octaves: str) -> tuple[Claim, ...]:
    voiced = voice_song(song)
    return read_proof(text, voiced.chart, voiced.arrangement, naming=naming, octaves=octaves)


def draw_score(song: Song, part: int | None, width: int) -> tuple[str, ...]:
    """The sheet music, whole or of one part, as SVG pages."""
    voiced = voice_song(song)
    chart = voiced.chart
    bars = None
    if part is not None:
        found = next((p for p in chart.parts if p.number == part), None)
        if found is None:
            raise ProblemError(404, f"Part {part} is not in this song.", f"It has parts 1 to {len(chart.parts)}.")
        first = 0 if chart.grid.pickup else 1
        bars = (found.start_bar - first + 1 if found.start_bar > 1 else 1, found.end_bar - first + 1)
    # Bars are counted as they are played; a part is cut out of the score before anything is folded.
    return engrave(dump_musicxml(chart, voiced.arrangement, fold=bars is None), bars=bars, width=width)


def make_handout(song: Song, name: str) -> tuple[str, str, bytes]:
    """File name, content type and content of a hand-out; "all.zip" is everything, "frames-2.zip" the frames of part 2."""
    work = get_work(song)
    try:
        if name == "all.zip":
            return name, "application/zip", make_zip(work)
        if name.startswith("frames-") and name.removesuffix(".zip")[7:].isdigit():
            return name, "application/zip", make_frames(work, int(name.removesuffix(".zip")[7:]))
        handout: Handout = handout_named(name)
        return handout.name, handout.content_type, handout.make(work)
    except ParameterError as error:
        raise ProblemError(404, str(error), "Choose another hand-out.") from error
    except ValleyError as error:
        raise ProblemError(422, str(error), kind="voicing") from error


def write_log(song: Song, lines: Sequence[tuple[str, str, int | None, int]], *, actor: str) -> None:
    """Lines of the logbook: kind, words, bar, how often."""
    words = [(kind, " ".join(text.split())[:500], bar, count) for kind, text, bar, count in lines]
    if not words or any(not text for _, text, _, _ in words):
        raise ProblemError(422, "The line is empty.", "Write what you want to remember.")
    LogEntry.objects.bulk_create([LogEntry(song=song, kind=kind, text=text, bar=bar, count=max(1, count), actor=actor) for kind, text, bar, count in words])
