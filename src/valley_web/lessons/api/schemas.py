"""Arrangements, lessons and hand-outs for the browser."""

from datetime import datetime
from typing import Annotated, Literal

from pydantic import ConfigDict, Field

from valley.audio.stretch import FASTEST, SLOWEST
from valley.edits import Edit, MeanThis
from valley.pipeline.practice import Track
from valley.pipeline.slowed import Slowed
from valley_web.songs.api.schemas import ChartOut, ChartPatchOut, Schema, TwinOut


class BarFaultOut(Schema):
    bar: int
    words: str


class PerformanceOut(Schema):
    """A performance held against the arrangement; ``grips`` could be taken as they were played."""

    notes: int
    found: float
    faults: list[BarFaultOut]
    grips: int
    taken: bool


class StyleOut(Schema):
    name: str
    title: str
    summary: str


class StrokeOut(Schema):
    count: str
    hand: str
    keys: str


class FormOut(Schema):
    """A pattern in one metre: as text, and counted."""

    meter: str
    left: str
    right: str
    cell: str
    strokes: list[StrokeOut]


class PatternOut(Schema):
    name: str
    title: str
    summary: str
    own: bool
    forms: list[FormOut]


class ChoicesOut(Schema):
    styles: list[StyleOut]
    levels: list[str]
    hands: list[str]
    keyboards: list[str]
    patterns: list[PatternOut]


class HandNoteOut(Schema):
    pitch: str
    midi: int
    member: str
    finger: int | None
    optional: bool
    kept: bool


class BarNoteOut(Schema):
    """A note of the bar; ``start`` in beats of the song and ``duration`` exactly, ``start_beats`` from the bar's beginning."""

    start: str
    duration: str
    start_beats: float
    duration_beats: float
    midi: int
    pitch: str
    grace: bool
    rings: bool
    optional: bool
    finger: int | None


class HandBarOut(Schema):
    """One hand in a bar: as counts and notes, and whether the creator's own notes stand there; ``holds`` says where they hold."""

    hand: str
    text: str
    written: bool
    holds: str
    notes: list[BarNoteOut]


class BarCloseOut(Schema):
    """A bar seen close: what each hand plays in it; ``thirds``: its beats divide by three; ``before`` and ``after``: beats of the bars beside it."""

    bar: int
    start: str
    duration: str
    duration_beats: float
    counts: list[str]
    thirds: bool
    before: str | None
    after: str | None
    repeated: bool
    hands: list[HandBarOut]


class GripOut(Schema):
    start: str
    start_beats: float
    duration_beats: float
    bar: int
    beat: float
    count: str
    symbol: str
    inversion: str
    left: list[HandNoteOut]
    right: list[HandNoteOut]
    reach_left_mm: float
    reach_right_mm: float
    white_left: int
    white_right: int
    strained: bool
    collides: bool
    outside: bool
    locked: bool
    omits: list[str]
    why: str
    hint: str
    caution: str
    move: str
    pattern: str
    twins: int


class PlayedNoteOut(Schema):
    hand: str
    start_beats: float
    duration_beats: float
    sounds_beats: float
    midi: int
    pitch: str
    melody: bool
    finger: int | None
    rings: bool
    link: bool
    grace: bool


class LinkOut(Schema):
    kind: str
    start: str
    start_beats: float
    duration_beats: float
    hand: str
    bar: int
    words: str
    easy_words: str
    has_easier: bool
    taken: str
    midi: list[int]


class PartArrangementOut(Schema):
    part: int
    style: str
    level: str
    pattern: str
    own_style: bool
    tune: str | None
    drop_last: bool
    lead_in: bool
    ending: str
    grips: list[GripOut]
    notes: list[PlayedNoteOut]
    links: list[LinkOut]
    notices: list[str]


class SettingsOut(Schema):
    style: str
    level: str
    hand: str
    keyboard: str
    frame: str
    pattern: str
    bass: str
    links: str
    pedal: bool
    fingers: bool
    tune: str
    own_patterns: list[PatternOut]


class ArrangementOut(Schema):
    revision: int
    last_change: str
    settings: SettingsOut
    comfort_mm: float
    most_mm: float
    lowest: int
    highest: int
    frame_low: int
    frame_high: int
    parts: list[PartArrangementOut]


class CandidateOut(Schema):
    """Another grip for a chord: its notes, reach, and the semitones that all fingers travel to and from it."""

    left: list[HandNoteOut]
    right: list[HandNoteOut]
    reach_left_mm: float
    reach_right_mm: float
    movement: float
    omits: list[str]
    why: str


class PatternCheckIn(Schema):
    meter: str
    left: str
    right: str


class PatternCheckOut(Schema):
    """Whether a pattern fills its bar, in a sentence, and how it is counted."""

    ok: bool
    message: str
    strokes: list[StrokeOut]


class LineNoteOut(Schema):
    """A note that a line speaks for."""

    start_beats: float
    hand: str
    pitch: str


class LineOut(Schema):
    """A line in words, and what it speaks of; an ``item`` is one of several under a heading."""

    text: str
    kind: str
    item: bool
    beat: float | None
    hands: str
    notes: list[LineNoteOut]


class StepOut(Schema):
    """A step of the lesson; ``seconds`` are reckoned, or ``rehearsed``. ``start_beats`` and ``end_beats`` are what is shown and played."""

    key: str
    kind: str
    title: str
    lines: list[LineOut]
    part: int | None
    start_beats: float | None
    end_beats: float | None
    hands: str
    speed: float
    plays: int
    speaking_seconds: float
    playing_seconds: float
    edited: bool
    stale: bool
    rehearsed: bool


class MendOut(Schema):
    """The edit that sets a finding right, to be sent as it is, and what it does."""

    edit: Annotated[Edit, Field(discriminator="kind")]
    words: str


class FindingOut(Schema):
    """``about`` says on which page it is shown."""

    check: str
    about: Literal["chart", "parts", "hands", "lesson"]
    severity: str
    sentence: str
    part: int | None
    bar: int | None
    start: str | None
    step: str
    mend: MendOut | None
    meant: MeanThis  # the edit that closes it; a reason may be added


class ClosedOut(Schema):
    """A finding that the creator means as it is, why, and the edit that opens it again."""

    sentence: str
    reason: str
    open: MeanThis


class SchoolOut(Schema):
    """A school of teaching, and how a teacher says it."""

    name: str
    words: str


class MatterOut(Schema):
    """A matter on which schools differ, the school followed, and all there are."""

    name: str
    words: str
    school: str
    schools: list[SchoolOut]


class LeftOutOut(Schema):
    key: str
    title: str


class LessonPlanOut(Schema):
    """One lesson of a series, with its steps by their keys."""

    index: int
    parts: list[int]
    steps: list[str]
    minutes: float


class PartTimeOut(Schema):
    part: int
    minutes: float


class LessonOut(Schema):
    revision: int
    last_change: str
    steps: list[StepOut]
    left_out: list[LeftOutOut]
    lessons: list[LessonPlanOut]
    part_times: list[PartTimeOut]
    seconds: float
    tempi: list[int]
    matters: list[MatterOut]
    findings: list[FindingOut]
    closed: list[ClosedOut]
    errors: int
    ready: bool
    ready_despite: int


class ReadyIn(Schema):
    ready: bool
    despite: bool = False


class ProofIn(Schema):
    text: str
    naming: str = "letters"
    octaves: str = "c4"
    language: str = "en"


class ClaimOut(Schema):
    """``sure``: of what contradicts, what is a slip in all likelihood; the rest is to be listened to again."""

    text: str
    start: int
    end: int
    kind: str
    verdict: str
    expected: str
    message: str
    sure: bool
    seconds: float | None = None


class ProofOut(Schema):
    """``text`` is what was read: of captions what is said in them; ``timed``: claims have the second at which they are said."""

    text: str
    timed: bool
    claims: list[ClaimOut]


class LogIn(Schema):
    """A line for the logbook; ``bar`` and ``count`` for slips at the keyboard."""

    kind: Literal["note", "decision", "slip"] = "note"
    text: str
    bar: int | None = Field(None, ge=0, le=2000)
    count: int = Field(1, ge=1, le=10_000)


class LogOut(Schema):
    model_config = ConfigDict(from_attributes=True)

    id: int
    kind: str
    text: str
    bar: int | None
    count: int
    made_at: datetime


class SlipsOut(Schema):
    """How often the fingers slipped in a bar."""

    bar: int
    times: int


class LogPageOut(Schema):
    """The newest lines of a logbook, of how many, and the bars that slip most."""

    lines: list[LogOut]
    total: int
    slips: list[SlipsOut]


class HandoutOut(Schema):
    name: str
    title: str
    summary: str
    kind: str
    address: str


class HandoutsOut(Schema):
    files: list[HandoutOut]
    caution: str
    parts: list[int]


View = Literal["chart", "hands", "lesson"]


class EditIn(Schema):
    """``revision`` is the one the edit was made on, so that a stale window is found out; ``spread`` lists other parts; ``show`` what is looked at.

    ``key`` is the page's own name for the edit: one that is sent again because its answer was lost is done once. ``have`` is the version whose chart
    the page holds: the answer may then be a patch of it.
    """

    revision: int
    edit: Annotated[Edit, Field(discriminator="kind")]
    spread: list[int] = []
    show: View = "chart"
    key: str = Field("", max_length=40)
    have: int = 0


class SpreadIn(Schema):
    revision: int
    parts: list[int]
    show: View = "chart"


class ShowIn(Schema):
    """``revision``: the version that was seen when it was asked for; 0 where whatever stands there is meant."""

    show: View = "chart"
    revision: int = Field(0, ge=0)


class EditedOut(Schema):
    """Where the song stands after a change, with what is looked at made anew; the chart always where it changed: whole, or as a patch of what was shown."""

    revision: int
    last_change: str
    can_undo: bool
    can_redo: bool
    offer: list[TwinOut]
    chart: ChartOut | None = None
    patch: ChartPatchOut | None = None
    arrangement: ArrangementOut | None = None
    lesson: LessonOut | None = None


class TrackIn(Schema):
    """A practice track that is asked for; ``look`` to hear it in the page."""

    mix: Literal["both", "left", "right", "ears", "along"] = "both"
    part: int = Field(0, ge=0, le=2000)
    speed: float = Field(1.0, ge=0.25, le=1.5)
    count_in: bool = True
    metronome: bool = False
    kind: Literal["mp3", "flac", "opus"] = "mp3"
    look: bool = False

    def made(self) -> Track:
        return Track(self.mix, self.part, self.speed, self.count_in, self.metronome, self.kind)


class SlowedIn(Schema):
    """The recording that is asked for, slower; ``look`` to hear it in the page."""

    part: int = Field(0, ge=0, le=2000)
    speed: float = Field(0.7, ge=SLOWEST, le=FASTEST)
    count_in: bool = True
    kind: Literal["mp3", "flac", "opus"] = "mp3"
    look: bool = False

    def made(self) -> Slowed:
        return Slowed(self.part, self.speed, self.count_in, self.kind)
