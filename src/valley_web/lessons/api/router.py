"""Choices of voicing, the hands of a song, its lesson and its files."""

import re
from typing import TypeVar
from urllib.parse import quote

from django.http import HttpRequest, HttpResponse, StreamingHttpResponse
from ninja import File, Form, Query, Router
from ninja.files import UploadedFile

from valley.arranging.pattern_library import PATTERNS
from valley.arranging.patterns import check_form, make_form
from valley.arranging.reach import HANDS, KEYBOARDS
from valley.arranging.styles import LEVELS, STYLES
from valley.errors import ValleyError
from valley.formats.keyboard_svg import dump_keyboard_svg
from valley.fraction import Fraction
from valley.pipeline.handouts import HANDOUTS
from valley_web.common.auth import name_actor
from valley_web.common.errors import Gone, TooMuch
from valley_web.common.framing import let_be_framed
from valley_web.common.pages import Limit
from valley_web.common.problems import Problem
from valley_web.lessons import presenters, services
from valley_web.lessons.api.schemas import (
    ArrangementOut,
    BarCloseOut,
    BarFaultOut,
    CandidateOut,
    ChoicesOut,
    ClaimOut,
    FindingOut,
    HandoutOut,
    HandoutsOut,
    LessonOut,
    LogIn,
    LogOut,
    LogPageOut,
    PatternCheckIn,
    PatternCheckOut,
    PerformanceOut,
    ProofIn,
    ProofOut,
    ReadyIn,
    SlipsOut,
    SlowedIn,
    StyleOut,
    TrackIn,
)
from valley_web.lessons.close_bar import show_bar
from valley_web.songs.changes import edit_song
from valley_web.songs.logbook import read_log
from valley_web.songs.models import Song
from valley_web.songs.selectors import get_revision, get_song, get_work
from valley_web.songs.services import MOST_BYTES_OF_NOTES

router = Router()
_LONGEST_WORDS = 200_000  # letters: the captions of a film of two hours
PROBLEMS = {frozenset({400, 404, 409, 422}): Problem}
CAUTION = "Songs, recordings and sheet music belong to someone. Note what permission you hold, and check the law where you live before you publish any of this."


@router.get("/choices", response=ChoicesOut)
def get_choices(request: HttpRequest) -> ChoicesOut:
    """Voicing styles, levels, hands, keyboards and patterns to choose from."""
    styles = [StyleOut(name=s.name, title=s.title, summary=s.summary) for s in STYLES.values()]
    patterns = [presenters.show_pattern(p) for p in PATTERNS.values()]
    return ChoicesOut(styles=styles, levels=list(LEVELS), hands=list(HANDS), keyboards=[str(k) for k in KEYBOARDS], patterns=patterns)


@router.get("/songs/{song_id}/arrangement", response={200: ArrangementOut, **PROBLEMS})
def get_arrangement(request: HttpRequest, song_id: int, style: str = "", level: str = "") -> ArrangementOut:
    """What both hands play in every part, as chosen; with ``style`` or ``level`` as it would be in another voicing, to compare."""
    song = get_song(song_id)
    if style or level:
        work = services.try_voicing(song, style=style, level=level)
        return presenters.show_arrangement(work, services.voice(work), get_revision(song))
    work = get_work(song)
    return presenters.show_arrangement(work, services.voice(work, with_links=True), get_revision(song))


@router.post("/songs/{song_id}/hands/performance", response={200: PerformanceOut, **PROBLEMS})
def hold_performance(request: HttpRequest, song_id: int, file: File[UploadedFile], take: Form[bool] = False, revision: Form[int] = 0) -> PerformanceOut:
    """Compare a played MIDI file with the arrangement; with ``take`` its grips become those of the song."""
    song = get_song(song_id)
    if (file.size or 0) > MOST_BYTES_OF_NOTES:
        raise TooMuch(f"{file.name!r} is too large for a file of notes.", "Is it a recording? Export the performance as MIDI.")
    held, edit = services.hold_performance(song, file.name or "", file.read())
    if take:
        edit_song(song, base=revision or song.revision, edit=edit, actor=name_actor(request))
    faults = [BarFaultOut(bar=f.bar, words=f.words) for f in held.faults]
    return PerformanceOut(notes=held.notes, found=held.found, faults=faults, grips=len(edit.grips), taken=take)


@router.get("/songs/{song_id}/hands/candidates", response={200: list[CandidateOut], **PROBLEMS})
def list_candidates(request: HttpRequest, song_id: int, start: Fraction) -> list[CandidateOut]:
    """Other grips for the chord at a beat, side by side with reach and movement."""
    return [presenters.show_candidate(grip, movement, set()) for grip, movement in services.find_candidates(get_song(song_id), start)]


@router.get("/songs/{song_id}/hands/bar", response={200: BarCloseOut, **PROBLEMS})
def see_bar(request: HttpRequest, song_id: int, start: Fraction) -> BarCloseOut:
    """The bar in which a beat lies, seen close: what each hand plays, as counts and notes."""
    work = get_work(get_song(song_id))
    services.voice(work)
    return show_bar(work, start)


@router.get("/songs/{song_id}/hands/picture.svg", include_in_schema=False)
def picture_grip(request: HttpRequest, song_id: int, start: Fraction, ground: bool = True) -> HttpResponse:
    """A keyboard picture of one grip, both hands."""
    song = get_song(song_id)
    for part in services.voice(get_work(song)).parts:
        for grip in part.grips:
            if grip.start == start:
                response = HttpResponse(dump_keyboard_svg(grip, transparent=not ground), content_type="image/svg+xml")
                response["Content-Disposition"] = f'attachment; filename="{re.sub(r"[^A-Za-z0-9_-]", "_", grip.symbol)}.svg"'
                return response
    raise Gone(f"No grip begins at beat {start}.", "The chart may have changed; choose the grip again.")


@router.post("/patterns/check", response={200: PatternCheckOut, **PROBLEMS})
def check_pattern(request: HttpRequest, body: PatternCheckIn) -> PatternCheckOut:
    """Does a pattern fill its bar, and how is it counted?"""
    try:
        form = make_form(body.meter, body.left, body.right)
        message = check_form(form)
    except ValleyError as error:
        return PatternCheckOut(ok=False, message=str(error), strokes=[])
    return PatternCheckOut(ok=not message, message=message or "It fills the bar.", strokes=presenters.show_strokes(form))


@router.get("/songs/{song_id}/lesson", response={200: LessonOut, **PROBLEMS})
def get_lesson(request: HttpRequest, song_id: int) -> LessonOut:
    """The steps of the lesson with what was found in song, hands and words."""
    return _lesson(get_song(song_id))


def _lesson(song: Song) -> LessonOut:
    work = services.teach_song(song)
    return presenters.show_lesson(work, services.check_work(work), song, get_revision(song))


@router.get("/songs/{song_id}/findings", response={200: list[FindingOut], **PROBLEMS})
def list_findings(request: HttpRequest, song_id: int) -> list[FindingOut]:
    """What the checks find in chart, hands and lesson, for the margins of every page."""
    return [presenters.show_finding(f) for f in services.find_faults(get_song(song_id))]


@router.post("/songs/{song_id}/lesson/ready", response={200: LessonOut, **PROBLEMS})
def set_ready(request: HttpRequest, song_id: int, body: ReadyIn) -> LessonOut:
    """Mark the lesson ready to film, or not; with errors open only when they are known."""
    services.set_ready(get_song(song_id), ready=body.ready, despite=body.despite, actor=name_actor(request))
    return _lesson(get_song(song_id))


@router.post("/songs/{song_id}/proof", response={200: ProofOut, **PROBLEMS})
def proof_words(request: HttpRequest, song_id: int, body: ProofIn) -> ProofOut:
    """What words or captions claim about the song, each claim held against what the hands play."""
    how = {"naming": body.naming, "octaves": body.octaves, "language": body.language}
    said, claims = services.proof_words(get_song(song_id), body.text[:_LONGEST_WORDS], **how)
    rows = [
        ClaimOut(
            text=c.text,
            start=c.start,
            end=c.end,
            kind=c.kind,
            verdict=c.verdict,
            expected=c.expected,
            message=c.message,
            sure=c.sure,
            seconds=said.seconds(c.start),
        )
        for c in claims
    ]
    return ProofOut(text=said.text, timed=bool(said.cues), claims=rows)


@router.get("/songs/{song_id}/log", response={200: LogPageOut, **PROBLEMS})
def list_log(request: HttpRequest, song_id: int, limit: Limit = 80) -> LogPageOut:
    """The logbook of a song, the newest line first, at most ``limit`` lines."""
    log = read_log(get_song(song_id), limit)
    lines = [LogOut.model_validate(line) for line in log.lines]
    return LogPageOut(lines=lines, total=log.total, slips=[SlipsOut(bar=bar, times=times) for bar, times in log.slips])


@router.post("/songs/{song_id}/log", response={200: LogPageOut, **PROBLEMS})
def write_log(request: HttpRequest, song_id: int, lines: list[LogIn]) -> LogPageOut:
    """Write lines into the logbook."""
    song = get_song(song_id)
    services.write_log(song, [(e.kind, e.text, e.bar, e.count) for e in lines], actor=name_actor(request))
    return list_log(request, song_id)


@router.get("/songs/{song_id}/score", response={200: list[str], **PROBLEMS})
def get_score(request: HttpRequest, song_id: int, part: int | None = None, width: int = 2100) -> list[str]:
    """The sheet music as SVG, page by page; of one part where it is named."""
    return list(services.draw_score(get_song(song_id), part, min(max(width, 800), 4000)))


@router.get("/songs/{song_id}/handouts", response={200: HandoutsOut, **PROBLEMS})
def list_handouts(request: HttpRequest, song_id: int) -> HandoutsOut:
    """Files to download."""
    song = get_song(song_id)
    work = get_work(song)
    files = [
        HandoutOut(name=h.name, title=h.title, summary=h.summary, kind=h.kind, address=f"/api/songs/{song.pk}/handouts/{h.name}")
        for h in HANDOUTS
        if h.name != "hearing.json" or work.hearing
    ]
    return HandoutsOut(files=files, caution=CAUTION, parts=[p.number for p in work.chart.parts])


@router.get("/songs/{song_id}/practice", include_in_schema=False)
def play_practice(request: HttpRequest, song_id: int, track: Query[TrackIn]) -> HttpResponse:
    """A practice track as sound: to keep, or with ``look`` to be heard in the page."""
    song = get_song(song_id)
    name, content_type, content = services.make_track(song, track.made())
    return _as_file(f"{song.title}, {name}", content_type, content, inline=track.look)


@router.get("/songs/{song_id}/slowed", include_in_schema=False)
def play_slowed(request: HttpRequest, song_id: int, wanted: Query[SlowedIn]) -> HttpResponse:
    """The recording itself, slower, for the creator's own rehearsal: to keep, or with ``look`` to be heard in the page."""
    song = get_song(song_id)
    name, content_type, content = services.slow_recording(song, wanted.made())
    return _as_file(f"{song.title}, {name}", content_type, content, inline=wanted.look)


@router.get("/songs/{song_id}/handouts/all.zip", include_in_schema=False)
def download_all(request: HttpRequest, song_id: int, only: str = "") -> StreamingHttpResponse:
    """Every hand-out in one file, or those named in ``only`` (commas between), sent as they are made."""
    song = get_song(song_id)
    pieces = services.pack_handouts(song, [name for name in only[:2000].split(",") if name])
    response = StreamingHttpResponse(pieces, content_type="application/zip")
    return _named(response, f"{song.title} all.zip", inline=False)


@router.get("/songs/{song_id}/handouts/{name}", include_in_schema=False)
def download_handout(request: HttpRequest, song_id: int, name: str, look: bool = False) -> HttpResponse:
    """A file to keep; with ``look`` to be shown in the browser."""
    song = get_song(song_id)
    file_name, content_type, content = services.make_handout(song, name)
    response = _as_file(f"{song.title} {file_name}", content_type, content, inline=look)
    return let_be_framed(request, response) if look else response


def _as_file(name: str, content_type: str, content: bytes, *, inline: bool) -> HttpResponse:
    """Bytes under a name, also for browsers that know plain letters only."""
    return _named(HttpResponse(content, content_type=content_type), name, inline=inline)


Answer = TypeVar("Answer", HttpResponse, StreamingHttpResponse)


def _named(response: Answer, name: str, *, inline: bool) -> Answer:
    plain = re.sub(r"[^A-Za-z0-9 ._-]", "_", name)
    response["Content-Disposition"] = f"{'inline' if inline else 'attachment'}; filename=\"{plain}\"; filename*=UTF-8''{quote(name)}"
    return response
