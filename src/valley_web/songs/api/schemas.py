"""What the browser gets and sends. Musical texts arrive ready to show: the browser holds no rules of music."""

from datetime import date, datetime
from typing import Any, Literal

from pydantic import BaseModel


class Schema(BaseModel):
    """Plain pydantic: a chart has thousands of small values, and ninja's own base costs a getter for each."""


class JobOut(Schema):
    id: int
    state: Literal["waiting", "running", "done", "failed", "cancelled"]
    stage: str
    fraction: float
    found: list[str]
    error: str


Standing = Literal["waiting", "listening", "heard", "charted", "failed", "unheard", "wanted"]


class SongOut(Schema):
    """A song on the shelf. ``standing`` says where it is on its way, ``next_step`` what to do about it."""

    id: int
    title: str
    demo: bool
    standing: Standing
    charted: bool
    next_step: str
    facts: str
    doubts: int
    original_name: str
    recording_id: int | None
    duration: float
    warning: str
    job: JobOut | None
    rights: str
    stage: int
    stage_name: str
    votes: int
    wanted: str
    promised_for: date | None
    corrections: int
    bars: int
    bars_to_learn: int
    added_at: datetime
    changed_at: datetime


class SongFieldsIn(Schema):
    title: str | None = None
    rights: str | None = None
    wanted: str | None = None
    promised_for: date | None = None


class SongChangeIn(SongFieldsIn):
    """What is to be changed, and what stood there when it was: another window's words are not written over."""

    seen: SongFieldsIn = SongFieldsIn()


class SessionOut(Schema):
    signed_in: bool
    name: str
    max_upload_bytes: int
    score_endings: list[str]  # of files that hold notes as they are played
    max_seconds: float
    note_endings: list[str]


class ReadingOut(Schema):
    label: str
    symbol: str
    probability: float
    notes: list[str]
    why: str


class ChordOut(Schema):
    """``start`` and ``duration`` are exact beats as texts; bar and beat count from 1."""

    start: str
    duration: str
    start_beats: float
    duration_beats: float
    bar: int
    beat: float
    label: str
    symbol: str
    spoken: str
    notes: list[str]
    midi: list[int]
    confidence: float
    locked: bool
    doubtful: bool
    heard_otherwise: str
    readings: list[ReadingOut]


class MelodyOut(Schema):
    """``place`` and ``lasts`` in words: "bar 3, on 2 and", "a beat and a half"."""

    place: str
    lasts: str
    start: str
    duration: str
    start_beats: float
    duration_beats: float
    midi: int
    pitch: str
    grace: bool
    locked: bool


class CueOut(Schema):
    start: str
    start_beats: float
    text: str


class KeyOut(Schema):
    start: str
    start_beats: float
    tonic: str
    mode: str
    bar: int
    name: str
    signature: str
    scale: list[str]


class AgreementOut(Schema):
    """How far the chart explains the sound of a bar, 0 to 1; null where the chart says nothing."""

    whole: float
    chords: float | None
    bass: float | None
    tune: float | None
    words: str


class BarOut(Schema):
    number: int
    start_beats: float
    beats: int
    meter: str
    start_sec: float
    end_sec: float
    part: int
    agreement: AgreementOut | None


class PartOut(Schema):
    number: int
    name: str
    start_bar: int
    end_bar: int
    bars: int
    start_beats: float
    end_beats: float
    same_as: int | None
    kinship: str
    differences: list[str]
    pattern: list[str]
    words: str
    must: bool


class NeighbourOut(Schema):
    symbol: str
    times: int
    common: list[str]


class VocabularyOut(Schema):
    """One chord in one key; ``unusual`` says why it stands out there, or is empty."""

    key: str
    symbol: str
    times: int
    bars: list[int]
    notes: list[str]
    function: str
    roman: str
    unusual: str
    after: list[NeighbourOut]


class SuggestionOut(Schema):
    """A part that could be taught as a repeat of another."""

    number: int
    model: int
    why: str


class TwinOut(Schema):
    """The same place in another part; ``now`` says what stands there where it is not the same."""

    part: int
    bar: int
    same: bool
    now: str


class SwingOut(Schema):
    """From one beat to another the first of each pair of notes lasts the share ``long`` of it; ``pair`` is how many beats the two take."""

    start_beats: float
    end_beats: float
    pair: float
    long: float


class LevelOut(Schema):
    """Another way to count the song: the edit that does it, tempo and metre then, and how likely it is by ear, where that is known."""

    kind: Literal["halve_tempo", "double_tempo", "three_as_one", "one_as_three"]
    bpm: float
    meter: str
    odds: float | None


class ChartOut(Schema):
    """``offer`` lists the repeats to which the last change could be spread."""

    title: str
    revision: int
    can_undo: bool
    can_redo: bool
    last_change: str
    offer: list[TwinOut]
    meter: str
    feel: str
    swing: list[SwingOut]  # empty where the song is played straight
    beats_per_bar: int
    bpm: float
    odds: float | None  # how likely this tempo is by ear
    levels: list[LevelOut]
    tuning: str
    transposed: int
    headline: str
    beats: list[float]
    bars: list[BarOut]
    keys: list[KeyOut]
    chords: list[ChordOut]
    melody: list[MelodyOut]
    cues: list[CueOut]
    parts: list[PartOut]
    doubts: list[int]
    vocabulary: list[VocabularyOut]
    bars_to_learn: int
    suggestions: list[SuggestionOut]
    lesson_order: list[int]
    lesson_minutes: float
    thanks: str  # who is thanked for asking


class SpliceOut(Schema):
    """Of a list: from ``at`` on ``gone`` rows go, and ``rows`` come in their place."""

    at: int
    gone: int
    rows: list[Any]


class ChartPatchOut(Schema):
    """What makes the present chart of the one that was told of version ``base``."""

    base: int
    fields: dict[str, Any]
    rows: dict[str, SpliceOut]


class NamedOut(Schema):
    """A name for played notes, with the reason."""

    symbol: str
    label: str
    why: str


class ChordPreviewOut(Schema):
    ok: bool
    symbol: str
    notes: list[str]
    midi: list[int]
    message: str
    completions: list[str]


class RevisionOut(Schema):
    number: int
    what: str
    name: str
    actor: str
    made_at: datetime
    current: bool
    kept_aside: bool


class StandingOut(Schema):
    """Which version of a song is the current one, and when anything about it was changed last."""

    revision: int
    changed_at: datetime


class RevisionsOut(Schema):
    """The newest versions and those with a name, and how many there are in all."""

    versions: list[RevisionOut]
    total: int


class VersionNameIn(Schema):
    name: str
    seen: str = ""  # the name that it had


class ChangeOut(Schema):
    """One difference between two versions; bar 0 stands for the whole song."""

    bar: int
    what: str
