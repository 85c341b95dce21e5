"""Songs, jobs, charts: thin functions over services and selectors."""

from django.conf import settings
from django.db.models import Q
from django.http import HttpRequest
from ninja import File, Form, Router, Status
from ninja.files import UploadedFile

from valley.charting.compare import compare_charts
from valley.errors import FormatError, ParameterError
from valley.fraction import Fraction
from valley.pipeline.readers import ENDINGS, SCORE_ENDINGS, is_notes
from valley.theory.chord import close_pitches, complete_symbol, parse_symbol
from valley.theory.naming import name_notes
from valley_web.common.auth import name_actor
from valley_web.common.pages import Limit
from valley_web.common.problems import Problem
from valley_web.songs import changes, listening, presenters, selectors, services
from valley_web.songs.api.schemas import (
    ChangeOut,
    ChartOut,
    ChordPreviewOut,
    JobOut,
    NamedOut,
    RevisionOut,
    RevisionsOut,
    SessionOut,
    SongChangeIn,
    SongOut,
    StandingOut,
    VersionNameIn,
)
from valley_web.songs.models import Revision

router = Router()
PROBLEMS = {frozenset({400, 404, 409, 413, 422, 507}): Problem}


@router.get("/session", response=SessionOut)
def get_session(request: HttpRequest) -> SessionOut:
    """Who is here, and the limits of what can be added."""
    return SessionOut(
        signed_in=request.user.is_authenticated,
        name=name_actor(request),
        max_upload_bytes=settings.MAX_UPLOAD_BYTES,
        score_endings=list(SCORE_ENDINGS),
        max_seconds=settings.MAX_RECORDING_SECONDS,
        note_endings=list(ENDINGS),
    )


@router.post("/songs", response={201: SongOut, **PROBLEMS})
def add_song(
    request: HttpRequest, file: File[UploadedFile], title: Form[str] = "", again: Form[bool] = False, to: Form[int | None] = None, base: Form[int] = 0
) -> Status[SongOut]:
    """Add a recording, to which Valley listens by itself, or a file of notes or chords.

    With ``to`` it goes to a song that is here already, of which version ``base`` was seen.
    """
    upload = services.Upload(file.name or "", file.size or 0, file.chunks())
    given = selectors.get_song(to) if to else None
    if is_notes(upload.name):
        song = services.import_song(upload, title=title, actor=name_actor(request), to=given, base=base)
    else:
        song = services.add_recording(upload, title=title, again=again, actor=name_actor(request), to=given)
    return Status(201, presenters.show_song(selectors.get_song(song.pk)))


@router.get("/songs/{song_id}", response={200: SongOut, **PROBLEMS})
def get_song(request: HttpRequest, song_id: int) -> SongOut:
    return presenters.show_song(selectors.get_song(song_id))


@router.patch("/songs/{song_id}", response={200: SongOut, **PROBLEMS})
def change_song(request: HttpRequest, song_id: int, change: SongChangeIn) -> SongOut:
    services.change_song(selectors.get_song(song_id), actor=name_actor(request), **{"seen": {}, **change.dict(exclude_unset=True)})
    return presenters.show_song(selectors.get_song(song_id))


@router.delete("/songs/{song_id}", response={204: None, **PROBLEMS})
def delete_song(request: HttpRequest, song_id: int) -> Status[None]:
    services.delete_song(selectors.get_song(song_id), actor=name_actor(request))
    return Status(204, None)


@router.post("/songs/{song_id}/restore", response={200: SongOut, **PROBLEMS})
def restore_song(request: HttpRequest, song_id: int) -> SongOut:
    services.restore_song(song_id, actor=name_actor(request))
    return presenters.show_song(selectors.get_song(song_id))


@router.post("/songs/{song_id}/copy", response={201: SongOut, **PROBLEMS})
def copy_song(request: HttpRequest, song_id: int) -> Status[SongOut]:
    """Another song that begins as this one is now: for another key, another level, another series."""
    copy = services.copy_song(selectors.get_song(song_id), actor=name_actor(request))
    return Status(201, presenters.show_song(selectors.get_song(copy.pk)))


@router.post("/songs/{song_id}/listen", response={200: JobOut, **PROBLEMS})
def listen_again(request: HttpRequest, song_id: int) -> JobOut:
    return presenters.show_job(listening.start_listening(selectors.get_song(song_id), actor=name_actor(request)))


@router.post("/jobs/{job_id}/cancel", response={200: JobOut, **PROBLEMS})
def cancel_job(request: HttpRequest, job_id: int) -> JobOut:
    return presenters.show_job(listening.cancel_listening(job_id, actor=name_actor(request)))


@router.get("/songs/{song_id}/revision", response={200: StandingOut, **PROBLEMS})
def get_standing(request: HttpRequest, song_id: int) -> StandingOut:
    """The current version, and when anything was changed: small, for windows that ask whether another has changed the song."""
    revision, changed_at = selectors.get_standing(song_id)
    return StandingOut(revision=revision, changed_at=changed_at)


@router.get("/songs/{song_id}/loudness", response={200: list[float], **PROBLEMS})
def get_loudness(request: HttpRequest, song_id: int) -> list[float]:
    """Twenty levels a second, 0 to 1, for drawing."""
    recording = selectors.get_recording(selectors.get_song(song_id))
    levels: list[float] = recording.loudness if recording else []
    return levels


@router.get("/songs/{song_id}/chart", response={200: ChartOut, **PROBLEMS})
def get_chart(request: HttpRequest, song_id: int) -> ChartOut:
    return presenters.show_song_chart(selectors.Versions(selectors.get_song(song_id)))


@router.get("/songs/{song_id}/chart/named", response={200: list[NamedOut], **PROBLEMS})
def name_played(request: HttpRequest, song_id: int, midi: str, beat: Fraction) -> list[NamedOut]:
    """Names for played keys, ranked, in the key at a beat; ``midi`` lists key numbers with commas."""
    chart = selectors.get_chart(selectors.get_song(song_id))
    try:
        keys = [int(k) for k in midi.split(",") if k]
    except ValueError as error:
        raise ParameterError(f"midi={midi!r} must be key numbers with commas, such as 60,64,67") from error
    named = name_notes(keys, chart.key_at(beat))
    return [NamedOut(symbol=n.chord.to_symbol(), label=n.chord.to_harte(), why=n.why) for n in named]


@router.get("/songs/{song_id}/revisions", response={200: RevisionsOut, **PROBLEMS})
def list_revisions(request: HttpRequest, song_id: int, limit: Limit = 60) -> RevisionsOut:
    """The versions of the chart, the newest first, at most ``limit`` of them; the first, and those that have a name, all the same."""
    song = selectors.get_song(song_id)
    all_of_it = Revision.objects.filter(song=song).defer("state", "edit")
    newest = all_of_it.order_by("-number")[:limit]
    oldest = min((r.number for r in newest), default=0)
    kept = all_of_it.filter(number__lt=oldest).filter(~Q(name="") | Q(number=1)).order_by("-number")[:limit]
    rows = [
        RevisionOut(number=r.number, what=r.what, name=r.name, actor=r.actor, made_at=r.made_at, current=r.number == song.revision, kept_aside=r.kept_aside)
        for r in [*newest, *kept]
    ]
    return RevisionsOut(versions=rows, total=all_of_it.count())


@router.patch("/songs/{song_id}/revisions/{number}", response={204: None, **PROBLEMS})
def name_version(request: HttpRequest, song_id: int, number: int, body: VersionNameIn) -> Status[None]:
    changes.name_version(selectors.get_song(song_id), number, body.name, seen=body.seen, actor=name_actor(request))
    return Status(204, None)


@router.get("/songs/{song_id}/revisions/{number}/changes", response={200: list[ChangeOut], **PROBLEMS})
def list_changes(request: HttpRequest, song_id: int, number: int, to: int) -> list[ChangeOut]:
    """Every difference between two versions, in words."""
    song = selectors.get_song(song_id)
    old, new = (selectors.get_state(song, n).chart for n in (number, to))
    return [ChangeOut(bar=c.bar, what=c.what) for c in compare_charts(old, new)]


@router.get("/chord", response=ChordPreviewOut)
def preview_chord(request: HttpRequest, text: str) -> ChordPreviewOut:
    """How a typed chord is understood, with a close grip to hear it by."""
    try:
        chord = parse_symbol(text)
    except FormatError as error:
        return ChordPreviewOut(ok=False, symbol="", notes=[], midi=[], message=str(error), completions=list(complete_symbol(text)))
    if chord is None:
        return ChordPreviewOut(ok=True, symbol="no chord", notes=[], midi=[], message="", completions=[])
    return ChordPreviewOut(
        ok=True,
        symbol=chord.to_symbol(),
        notes=[str(n) for n in chord.members()],
        midi=list(close_pitches(chord)),
        message="",
        completions=list(complete_symbol(text)),
    )
