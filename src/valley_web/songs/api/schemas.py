"""What the browser gets and sends. Musical texts arrive ready to show: the browser holds no rules of music."""

from datetime import datetime
from typing import Literal

from ninja import Schema


class JobOut(Schema):
    id: int
    state: Literal["waiting", "running", "done", "failed", "cancelled"]
    stage: str
    fraction: float
    found: list[str]
    error: str


class SongOut(Schema):
    """A song on the shelf. ``standing`` says where it is on its way, ``next_step`` what to do about it."""

    id: int
    title: str
    demo: bool
    standing: Literal["waiting", "listening", "heard", "charted", "failed", "unheard"]
    next_step: str
    facts: str
    doubts: int
    original_name: str
    recording_id: int
    duration: float
    warning: str
    job: JobOut | None
    style: str
    hand: str
    keyboard: int
    added_at: datetime
    changed_at: datetime


class SongChangeIn(Schema):
    title: str | None = None
    style: str | None = None
    hand: str | None = None
    keyboard: int | None = None


class SessionOut(Schema):
    signed_in: bool
    name: str
    max_upload_bytes: int
    max_seconds: float


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
    readings: list[ReadingOut]


class MelodyOut(Schema):
    start_beats: float
    duration_beats: float
    midi: int
    pitch: str


class KeyOut(Schema):
    start_beats: float
    bar: int
    name: str
    signature: str
    scale: list[str]


class BarOut(Schema):
    number: int
    start_beats: float
    beats: int
    start_sec: float
    end_sec: float
    part: int


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


class VocabularyOut(Schema):
    symbol: str
    times: int
    notes: list[str]
    function: str


class ChartOut(Schema):
    title: str
    revision: int
    can_undo: bool
    can_redo: bool
    last_change: str
    meter: str
    beats_per_bar: int
    bpm: float
    tuning: str
    headline: str
    beats: list[float]
    bars: list[BarOut]
    keys: list[KeyOut]
    chords: list[ChordOut]
    melody: list[MelodyOut]
    parts: list[PartOut]
    doubts: list[int]
    vocabulary: list[VocabularyOut]
    bars_to_learn: int


class ChordIn(Schema):
    """``revision`` is the one the change was made on, so that a stale window is found out."""

    revision: int
    start: str
    text: str


class ChordPreviewOut(Schema):
    ok: bool
    symbol: str
    notes: list[str]
    midi: list[int]
    message: str


class RevisionOut(Schema):
    number: int
    what: str
    actor: str
    made_at: datetime
    current: bool
