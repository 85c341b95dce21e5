"""Every change to a song's state: one endpoint for edits, and moving along the versions. Each answers with where the song stands."""

from django.http import HttpRequest
from ninja import Router

from valley.errors import ValleyError
from valley_web.common.auth import name_actor
from valley_web.common.problems import Problem
from valley_web.lessons import presenters, services
from valley_web.lessons.api.schemas import EditedOut, EditIn, ShowIn, SpreadIn, View
from valley_web.songs import changes
from valley_web.songs.models import Song
from valley_web.songs.presenters import show_offer, show_song_chart
from valley_web.songs.selectors import Versions, get_song, get_work, state_of
from valley_web.songs.shown import carry_shown, make_patch, shown_as

router = Router()
PROBLEMS = {frozenset({400, 404, 409, 422}): Problem}


def _edited(song: Song, show: View, before: int, have: int = 0) -> EditedOut:
    """The song after a change from version ``before``: what is looked at, and the chart where it is another."""
    versions = Versions(song, before, have)
    revision = versions.current
    answer = EditedOut(
        revision=revision.number,
        last_change=revision.what,
        can_undo=revision.parent > 0,
        can_redo=versions.redo > 0,
        offer=show_offer(versions.offer),
    )
    if show == "chart" or _chart_changed(versions, before):
        known = shown_as(versions[have]) if have else None
        chart = show_song_chart(versions)
        if known:
            answer.patch = make_patch(known, chart)
        else:
            answer.chart = chart
    elif have:
        carry_shown(versions[have], revision)
    if show == "chart":
        return answer
    work = get_work(song)
    try:
        if show == "hands":
            answer.arrangement = presenters.show_arrangement(work, work.linked, revision)
        else:
            answer.lesson = presenters.show_lesson(work, services.check_work(work), song, revision)
    except ValleyError:  # the change stands; the page asks for the hands and is told what does not fit
        return answer
    return answer


def _chart_changed(versions: Versions, before: int) -> bool:
    if before == versions.current.number:
        return False
    then, now = state_of(versions[before]).chart, state_of(versions.current).chart
    return then is not now and then != now


@router.post("/songs/{song_id}/edits", response={200: EditedOut, **PROBLEMS})
def edit_song(request: HttpRequest, song_id: int, body: EditIn) -> EditedOut:
    """Do an edit, here and, if wished, at the same place of other parts."""
    song = get_song(song_id)
    changes.edit_song(song, base=body.revision, edit=body.edit, spread=body.spread, actor=name_actor(request), key=body.key)
    return _edited(song, body.show, body.revision, body.have)


@router.post("/songs/{song_id}/spread", response={200: EditedOut, **PROBLEMS})
def spread_change(request: HttpRequest, song_id: int, body: SpreadIn) -> EditedOut:
    """Make the last edit in other parts as well."""
    song = get_song(song_id)
    changes.spread_change(song, base=body.revision, parts=body.parts, actor=name_actor(request))
    return _edited(song, body.show, body.revision)


@router.post("/songs/{song_id}/undo", response={200: EditedOut, **PROBLEMS})
def undo(request: HttpRequest, song_id: int, body: ShowIn) -> EditedOut:
    song = get_song(song_id)
    before = song.revision
    changes.step_back(song, base=body.revision, actor=name_actor(request))
    return _edited(song, body.show, before)


@router.post("/songs/{song_id}/redo", response={200: EditedOut, **PROBLEMS})
def redo(request: HttpRequest, song_id: int, body: ShowIn) -> EditedOut:
    song = get_song(song_id)
    before = song.revision
    changes.step_forward(song, base=body.revision, actor=name_actor(request))
    return _edited(song, body.show, before)


@router.post("/songs/{song_id}/revisions/{number}/bring-back", response={200: EditedOut, **PROBLEMS})
def bring_back(request: HttpRequest, song_id: int, number: int, body: ShowIn) -> EditedOut:
    """Make an earlier version the current one; undo leads back."""
    song = get_song(song_id)
    before = song.revision
    changes.bring_back(song, number, base=body.revision, actor=name_actor(request))
    return _edited(song, body.show, before)
