"""The shelf, requests, viewers' comments, corrections, times and the calendar: thin functions over services and selectors."""

from datetime import date

from django.http import HttpRequest, HttpResponse
from django.utils import timezone
from ninja import Router, Status

from valley.formats.calendar_ics import dump_ics
from valley.records.calendar import Week
from valley.records.way import stage_named
from valley_web.common.auth import name_actor
from valley_web.common.pages import Limit
from valley_web.common.problems import Problem
from valley_web.records import presenters, selectors, services
from valley_web.records.api.schemas import (
    AskingChangeIn,
    AskingIn,
    CalendarOut,
    CloseIn,
    CommentsIn,
    CorrectionIn,
    FetchedOut,
    MarkIn,
    MergeIn,
    PostOut,
    RecordsOut,
    RequestIn,
    ShelfOut,
    TakeIn,
    TimeIn,
    WeekIn,
    WeekOut,
)
from valley_web.records.models import ViewerComment
from valley_web.songs.api.schemas import SongOut
from valley_web.songs.presenters import show_song
from valley_web.songs.selectors import get_song, search_shelf

router = Router()
PROBLEMS = {frozenset({400, 404, 409, 422}): Problem}


def _records(song_id: int) -> RecordsOut:
    return presenters.show_records(get_song(song_id))


@router.get("/shelf", response={200: ShelfOut, **PROBLEMS})
def list_shelf(request: HttpRequest, q: str = "", stage: str = "", order: str = "newest", deleted: bool = False, offset: int = 0, limit: int = 60) -> ShelfOut:
    """Songs and requests as one list of work in hand: searched, at one stage, in an order; with ``deleted`` what was taken off."""
    at = stage_named(stage) if stage else None
    return presenters.show_shelf(search_shelf(q, stage=at, order=order, deleted=deleted, offset=max(0, offset), limit=min(max(1, limit), 200)))


@router.post("/requests", response={201: SongOut, **PROBLEMS})
def note_request(request: HttpRequest, body: RequestIn) -> Status[SongOut]:
    """Note a request; a song that is here already gets the vote."""
    song = services.note_request(body.title, body.handle, note=body.note, apart=body.apart, actor=name_actor(request))
    return Status(201, show_song(get_song(song.pk)))


@router.get("/songs/{song_id}/records", response={200: RecordsOut, **PROBLEMS})
def get_records(request: HttpRequest, song_id: int) -> RecordsOut:
    """Who asks for a song, how far it is on its way, what viewers report."""
    return _records(song_id)


@router.post("/songs/{song_id}/askings", response={200: RecordsOut, **PROBLEMS})
def add_asking(request: HttpRequest, song_id: int, body: AskingIn) -> RecordsOut:
    services.add_asking(get_song(song_id), body.handle.strip() or "a viewer", note=body.note, actor=name_actor(request))
    return _records(song_id)


@router.patch("/askings/{asking_id}", response={200: RecordsOut, **PROBLEMS})
def change_asking(request: HttpRequest, asking_id: int, body: AskingChangeIn) -> RecordsOut:
    return _records(services.change_asking(asking_id, actor=name_actor(request), **{"seen": {}, **body.dict(exclude_unset=True)}).pk)


@router.delete("/askings/{asking_id}", response={200: RecordsOut, **PROBLEMS})
def drop_asking(request: HttpRequest, asking_id: int) -> RecordsOut:
    return _records(services.drop_asking(asking_id, actor=name_actor(request)).pk)


@router.post("/songs/{song_id}/merge", response={200: RecordsOut, **PROBLEMS})
def merge_requests(request: HttpRequest, song_id: int, body: MergeIn) -> RecordsOut:
    """Let a request's viewers go over to another song; ``part`` undoes it."""
    services.merge_requests(get_song(song_id), get_song(body.into), actor=name_actor(request))
    return _records(body.into)


@router.post("/songs/{song_id}/part/{request_id}", response={200: RecordsOut, **PROBLEMS})
def part_again(request: HttpRequest, song_id: int, request_id: int) -> RecordsOut:
    services.part_again(get_song(song_id), request_id, actor=name_actor(request))
    return _records(song_id)


@router.post("/songs/{song_id}/way", response={200: RecordsOut, **PROBLEMS})
def mark_way(request: HttpRequest, song_id: int, body: MarkIn) -> RecordsOut:
    """Set a waymark, or take it and those after it back."""
    services.mark_way(get_song(song_id), body.stage, reached=body.reached, seen=body.seen, actor=name_actor(request))
    return _records(song_id)


@router.post("/songs/{song_id}/time", response={204: None, **PROBLEMS})
def spend_time(request: HttpRequest, song_id: int, body: TimeIn) -> Status[None]:
    """Minutes of work towards a stage; pages report them by themselves."""
    services.spend_time(get_song(song_id), body.stage, body.minutes, by_hand=body.by_hand, actor=name_actor(request))
    return Status(204, None)


@router.post("/songs/{song_id}/corrections", response={200: RecordsOut, **PROBLEMS})
def note_correction(request: HttpRequest, song_id: int, body: CorrectionIn) -> RecordsOut:
    comment = ViewerComment.objects.filter(pk=body.comment).first() if body.comment else None
    services.note_correction(get_song(song_id), body.text, handle=body.handle, bar=body.bar, step=body.step, comment=comment, actor=name_actor(request))
    return _records(song_id)


@router.patch("/corrections/{correction_id}", response={200: RecordsOut, **PROBLEMS})
def close_correction(request: HttpRequest, correction_id: int, body: CloseIn) -> RecordsOut:
    song = services.close_correction(correction_id, body.state, seen=body.seen, answer=body.answer, actor=name_actor(request))
    return _records(song.pk)


@router.get("/post", response=PostOut)
def get_post(request: HttpRequest, limit: Limit = 40) -> PostOut:
    """What viewers wrote and nobody has dealt with: requests by song, reports of mistakes, the rest; at most ``limit`` of each."""
    return presenters.show_post(selectors.read_post(), limit)


@router.post("/post/fetch", response={200: FetchedOut, **PROBLEMS})
def fetch_post(request: HttpRequest) -> FetchedOut:
    return FetchedOut(fetched=services.fetch_comments(actor=name_actor(request)))


@router.post("/post/take", response={200: PostOut, **PROBLEMS})
def take_request(request: HttpRequest, body: TakeIn, limit: Limit = 40) -> PostOut:
    """Take comments as requests for one song."""
    song = get_song(body.song) if body.song else None
    services.take_request(body.title, body.comments, song=song, actor=name_actor(request))
    return presenters.show_post(selectors.read_post(), limit)


@router.post("/post/aside", response=PostOut)
def set_aside(request: HttpRequest, body: CommentsIn, limit: Limit = 40) -> PostOut:
    services.set_aside(body.comments, actor=name_actor(request))
    return presenters.show_post(selectors.read_post(), limit)


@router.post("/post/back", response=PostOut)
def bring_back(request: HttpRequest, body: CommentsIn, limit: Limit = 40) -> PostOut:
    """Undo: the comments are new again, and what was made of them is taken away."""
    services.bring_back_comments(body.comments, actor=name_actor(request))
    return presenters.show_post(selectors.read_post(), limit)


@router.get("/calendar", response=CalendarOut)
def get_calendar(request: HttpRequest, start: date | None = None) -> CalendarOut:
    """What to work on when, from today or a day."""
    return presenters.show_calendar(start or timezone.localdate())


@router.put("/calendar/week", response={200: CalendarOut, **PROBLEMS})
def set_week(request: HttpRequest, body: WeekIn) -> CalendarOut:
    """The hours there are, days for filming and publishing, days off."""
    services.set_week(_week(body), seen=_week(body.seen), actor=name_actor(request))
    return presenters.show_calendar(timezone.localdate())


def _week(given: WeekOut) -> Week:
    return Week(tuple(given.minutes), frozenset(given.film), frozenset(given.publish), frozenset(given.off))


@router.get("/calendar.ics", include_in_schema=False)
def download_calendar(request: HttpRequest) -> HttpResponse:
    """The plan for any other calendar."""
    plan, songs = selectors.plan_calendar(timezone.localdate())
    text = dump_ics([(s.day, s.song, s.stage, s.minutes) for s in plan.slots], {pk: s.title for pk, s in songs.items()})
    response = HttpResponse(text, content_type="text/calendar; charset=utf-8")
    response["Content-Disposition"] = 'attachment; filename="valley.ics"'
    return response
