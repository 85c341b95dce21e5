"""Records as the browser gets and sends them; times and dates arrive in words where they are only read."""

from datetime import date, datetime
from typing import Literal

from pydantic import BaseModel, Field

from valley_web.songs.api.schemas import SongOut


class Schema(BaseModel):
    """Plain pydantic, as for songs."""


class ShelfRowOut(Schema):
    """A song with the work that is left until it is out: minutes, and in words with their range."""

    song: SongOut
    minutes_left: float
    time_left: str


class StageOut(Schema):
    name: str
    songs: int


class ShelfOut(Schema):
    rows: list[ShelfRowOut]
    total: int
    stages: list[StageOut]
    new_comments: int


class RequestIn(Schema):
    title: str = Field(max_length=200)
    handle: str = Field("", max_length=80)
    note: str = Field("", max_length=500)
    apart: bool = False


class AskingOut(Schema):
    id: int
    handle: str
    note: str
    votes: int
    promise: str
    asked_at: datetime
    came_from: int | None
    came_from_title: str


class AskingIn(Schema):
    handle: str = Field(max_length=80)
    note: str = Field("", max_length=500)


class AskingFieldsIn(Schema):
    note: str | None = None
    promise: str | None = None


class AskingChangeIn(AskingFieldsIn):
    """What is to be changed, and what stood there when it was."""

    seen: AskingFieldsIn = AskingFieldsIn()


class WaymarkOut(Schema):
    """One stage: when it was reached, minutes spent, and, ahead, the estimate in words."""

    stage: int
    name: str
    deed: str
    reached_at: datetime | None
    spent: float
    estimate: str
    estimate_minutes: float
    looked_back: int


class CorrectionOut(Schema):
    id: int
    handle: str
    text: str
    bar: int | None
    step: str
    step_title: str
    state: Literal["open", "mended", "kept"]
    answer: str
    weighed: str
    made_at: datetime


class RecordsOut(Schema):
    song: SongOut
    askings: list[AskingOut]
    way: list[WaymarkOut]
    corrections: list[CorrectionOut]
    time_left: str
    out_on: date | None
    late_days: int


class MarkIn(Schema):
    stage: int = Field(ge=0, le=8)
    reached: bool = True
    seen: int | None = Field(None, ge=0, le=8, description="how far the song was seen to be; needed to take a mark back")


class TimeIn(Schema):
    stage: int = Field(ge=1, le=8)
    minutes: float
    by_hand: bool = False


class MergeIn(Schema):
    into: int


class CorrectionIn(Schema):
    text: str = Field(max_length=2000)
    handle: str = Field("", max_length=80)
    bar: int | None = Field(None, ge=0, le=2000)
    step: str = ""
    comment: int | None = None


class CloseIn(Schema):
    state: Literal["open", "mended", "kept"]
    seen: Literal["open", "mended", "kept"]  # the state that it had
    answer: str = Field("", max_length=500)


class CommentOut(Schema):
    id: int
    handle: str
    text: str
    likes: int
    under: str
    under_id: int | None
    posted_at: datetime
    why: str
    bar: int | None
    place: str
    weighed: str


class GroupOut(Schema):
    """Comments that ask for one song; ``known_id`` is the song or request that it is taken for."""

    title: str
    known_id: int | None
    known_stage: str
    votes: int
    viewers: int
    spellings: list[str]
    comments: list[CommentOut]


class PostOut(Schema):
    groups: list[GroupOut]
    corrections: list[CommentOut]
    others: list[CommentOut]
    total_groups: int  # of which the above are the first
    total_corrections: int
    total_others: int
    dealt_with: int


class FetchedOut(Schema):
    fetched: int


class TakeIn(Schema):
    title: str = Field(max_length=200)
    comments: list[int]
    song: int | None = None


class CommentsIn(Schema):
    comments: list[int]


class WeekOut(Schema):
    minutes: list[float] = Field(min_length=7, max_length=7)
    film: list[int]
    publish: list[int]
    off: list[date]


class WeekIn(WeekOut):
    """The week as it is wanted, and as it was seen before."""

    seen: WeekOut


class SlotOut(Schema):
    song_id: int
    title: str
    stage: int
    deed: str
    minutes: float
    words: str
    done: bool


class DayOut(Schema):
    day: date
    free: float
    film: bool
    publish: bool
    off: bool
    slots: list[SlotOut]


class PlannedOut(Schema):
    song_id: int
    title: str
    votes: int
    promised_for: date | None
    out_on: date | None
    late_days: int
    time_left: str


class CalendarOut(Schema):
    days: list[DayOut]
    songs: list[PlannedOut]
    week: WeekOut
    minutes_total: float
