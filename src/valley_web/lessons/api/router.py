"""Choices of voicing, the hands of a song, its lesson and its files."""

import re
from dataclasses import replace
from fractions import Fraction
from urllib.parse import quote

from django.http import HttpRequest, HttpResponse
from ninja import Router

from valley.arranging.pattern_library import PATTERNS
from valley.arranging.patterns import check_form, make_form
from valley.arranging.reach import HANDS, KEYBOARDS
from valley.arranging.styles import LEVELS, STYLES, check_level, style_named
from valley.errors import ValleyError
from valley.formats.keyboard_svg import dump_keyboard_svg
from valley_web.common.auth import name_actor
from valley_web.common.problems import Problem, ProblemError
from valley_web.lessons import presenters, services
from valley_web.lessons.api.schemas import (
    ArrangementOut,
    CandidateOut,
    ChoicesOut,
    HandoutOut,
    HandoutsOut,
    HandsEditIn,
    PatternCheckIn,
    PatternCheckOut,
    StepOut,
    StyleOut,
)
from valley_web.songs.selectors import get_song
from valley_web.songs.services import change_choices

router = Router()
PROBLEMS = {frozenset({400, 404, 422}): Problem}
CAUTION = (
    "Songs, recordings and sheet music belong to someone. Note what permission you hold, and check the law where you live "
    "before you publish any of this."
)


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
        now = services.voice_song(song).choices
        other = replace(now, style=style_named(style).name if style else now.style, level=check_level(level) if level else now.level, parts=(), grips=())
        return presenters.show_arrangement(services.voice_song(song, choices=other))
    return presenters.show_arrangement(services.voice_song(song, with_links=True))


@router.post("/songs/{song_id}/hands/edits", response={200: ArrangementOut, **PROBLEMS})
def change_hands(request: HttpRequest, song_id: int, change: HandsEditIn) -> ArrangementOut:
    """Change a setting, a grip, a pattern or a link; undo takes it back."""
    change_choices(get_song(song_id), base=change.revision, edit=change.edit, actor=name_actor(request))
    return presenters.show_arrangement(services.voice_song(get_song(song_id), with_links=True))


@router.get("/songs/{song_id}/hands/candidates", response={200: list[CandidateOut], **PROBLEMS})
def list_candidates(request: HttpRequest, song_id: int, start: Fraction) -> list[CandidateOut]:
    """Other grips for the chord at a beat, side by side with reach and movement."""
    _, rows = services.find_candidates(get_song(song_id), start)
    return [presenters.show_candidate(grip, movement, set()) for grip, movement in rows]


@router.get("/songs/{song_id}/hands/picture.svg", include_in_schema=False)
def picture_grip(request: HttpRequest, song_id: int, start: Fraction, ground: bool = True) -> HttpResponse:
    """A keyboard picture of one grip, both hands."""
    song = get_song(song_id)
    for part in services.voice_song(song).arrangement.parts:
        for grip in part.grips:
            if grip.start == start:
                response = HttpResponse(dump_keyboard_svg(grip, transparent=not ground), content_type="image/svg+xml")
                response["Content-Disposition"] = f"attachment; filename=\"{re.sub(r'[^A-Za-z0-9_-]', '_', grip.symbol)}.svg\""
                return response
    raise ProblemError(404, f"No grip begins at beat {start}.", "The chart may have changed; choose the grip again.")


@router.post("/patterns/check", response={200: PatternCheckOut, **PROBLEMS})
def check_pattern(request: HttpRequest, body: PatternCheckIn) -> PatternCheckOut:
    """Does a pattern fill its bar, and how is it counted?"""
    try:
        form = make_form(body.meter, body.left, body.right)
        message = check_form(form)
    except ValleyError as error:
        return PatternCheckOut(ok=False, message=str(error), strokes=[])
    return PatternCheckOut(ok=not message, message=message or "It fills the bar.", strokes=presenters.show_strokes(form))


@router.get("/songs/{song_id}/handouts", response={200: HandoutsOut, **PROBLEMS})
def list_handouts(request: HttpRequest, song_id: int) -> HandoutsOut:
    """Files to download, and the lesson to read."""
    song = get_song(song_id)
    files = [HandoutOut(name=h.name, title=h.title, summary=h.summary, address=f"/api/songs/{song.pk}/handouts/{h.name}") for h in services.HANDOUTS]
    steps = [StepOut(title=s.title, lines=list(s.lines), part=s.part) for s in services.teach_song(song).steps]
    return HandoutsOut(files=files, steps=steps, caution=CAUTION)


@router.get("/songs/{song_id}/handouts/{name}", include_in_schema=False)
def download_handout(request: HttpRequest, song_id: int, name: str) -> HttpResponse:
    song = get_song(song_id)
    handout = services.handout_named(name)
    response = HttpResponse(handout.make(song), content_type=handout.content_type)
    shown = f"{song.title} {handout.name}"
    plain = re.sub(r"[^A-Za-z0-9 ._-]", "_", shown)
    response["Content-Disposition"] = f"attachment; filename=\"{plain}\"; filename*=UTF-8''{quote(shown)}"
    return response
