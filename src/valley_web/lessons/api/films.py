"""Films of a song: what stands beside the hands, made in the background."""

from typing import Literal

from django.http import HttpRequest, HttpResponse
from ninja import Query, Router, Schema
from pydantic import Field

from valley.errors import ValleyError
from valley.formats.stage import LAYERS, SHAPES, USUAL
from valley.pipeline.film import KINDS, TIMES, Film, draw_moment
from valley_web.common.auth import name_actor
from valley_web.common.errors import Gone, Unfit
from valley_web.common.problems import Problem
from valley_web.common.ranges import serve_with_ranges
from valley_web.songs import films, storage
from valley_web.songs.models import FilmJob, Song
from valley_web.songs.selectors import get_song, get_work

router = Router()
PROBLEMS = {frozenset({400, 404, 409, 422}): Problem}


class FilmIn(Schema):
    """A film that is asked for."""

    kind: Literal["webm", "mov", "mp4"]
    shape: Literal["1080p", "720p", "upright"] = "1080p"
    part: int = Field(0, ge=0, le=2000)
    rate: int = Field(30, ge=30, le=60, multiple_of=30)
    time: Literal["recording", "track"] = "recording"
    speed: float = Field(1.0, ge=0.25, le=1.5)
    count_in: bool = True
    metronome: bool = False
    mirrored: bool = False
    layers: list[Literal["ground", "keys", "fingers", "names", "chord", "next", "count", "rail", "cue"]] = Field(list(USUAL), max_length=9)

    def made(self) -> Film:
        try:
            return Film(**self.dict() | {"layers": tuple(dict.fromkeys(self.layers))})
        except ValleyError as error:
            raise Unfit(str(error), "Choose again.", kind="film") from error


class LookIn(FilmIn):
    """A moment of a film: ``at`` a share of it."""

    at: float = Field(0.3, ge=0, le=1)


class FilmOut(Schema):
    id: int
    name: str
    state: str
    stage: str
    fraction: float
    error: str
    size: int
    seconds: float
    goes_on: bool = Field(description="stopped or broken off: it can go on after what is done")
    older: bool = Field(description="made of an older version of the song")
    address: str = Field(description="where its file lies; empty until it is made")


class FilmChoicesOut(Schema):
    """Each with its name and what it is."""

    kinds: list[tuple[str, str]]
    shapes: list[tuple[str, str]]
    times: list[tuple[str, str]]
    layers: list[tuple[str, str]]
    usual: list[str]


def _show(song: Song, job: FilmJob) -> FilmOut:
    return FilmOut(
        id=job.pk,
        name=job.file_name,
        state=job.state,
        stage=job.stage,
        fraction=job.fraction,
        error=job.error,
        size=job.size,
        seconds=job.seconds,
        goes_on=films.can_go_on(job),
        older=job.revision != song.revision,
        address=f"/api/films/{job.pk}/file" if films.is_there(job) else "",
    )


@router.get("/films/choices", response=FilmChoicesOut)
def get_film_choices(request: HttpRequest) -> FilmChoicesOut:
    """What a film can be and show."""
    sizes = [(name, f"{w} × {h}{', for phones' if h > w else ''}") for name, (w, h) in SHAPES.items()]
    kinds = [(name, row[3]) for name, row in KINDS.items()]
    return FilmChoicesOut(kinds=kinds, shapes=sizes, times=list(TIMES.items()), layers=list(LAYERS.items()), usual=list(USUAL))


@router.get("/songs/{song_id}/films", response={200: list[FilmOut], **PROBLEMS})
def list_films(request: HttpRequest, song_id: int) -> list[FilmOut]:
    """Films that wait, are being made, can be taken or can go on, the newest first."""
    song = get_song(song_id)
    return [_show(song, job) for job in films.list_films(song)]


@router.post("/songs/{song_id}/films", response={200: FilmOut, **PROBLEMS})
def make_film(request: HttpRequest, song_id: int, body: FilmIn) -> FilmOut:
    """Put a film in line; one that is made already is given back."""
    song = get_song(song_id)
    try:
        return _show(song, films.start_film(song, body.made(), actor=name_actor(request)))
    except ValleyError as error:
        raise Unfit(str(error), "Choose one part, or another voicing.", kind="film") from error


@router.delete("/films/{film_id}", response={204: None, **PROBLEMS})
def drop_film(request: HttpRequest, film_id: int) -> tuple[int, None]:
    """Stop a film, or clear a finished one away."""
    films.drop_film(film_id, actor=name_actor(request))
    return 204, None


@router.post("/films/{film_id}/go-on", response={200: FilmOut, **PROBLEMS})
def go_on_with_film(request: HttpRequest, film_id: int) -> FilmOut:
    """Make the rest of a film that was stopped or broke off."""
    job = films.go_on_with(film_id)
    return _show(job.song, job)


@router.get("/songs/{song_id}/film-look", include_in_schema=False)
def look_at_film(request: HttpRequest, song_id: int, look: Query[LookIn]) -> HttpResponse:
    """One picture of a film before it is made, as PNG."""
    film = FilmIn(**look.dict(exclude={"at"})).made()
    try:
        return HttpResponse(draw_moment(get_work(get_song(song_id)), film, look.at), content_type="image/png")
    except ValleyError as error:
        raise Unfit(str(error), "Choose one part, or another voicing.", kind="film") from error


@router.get("/films/{film_id}/file", include_in_schema=False)
def take_film(request: HttpRequest, film_id: int, look: bool = False) -> HttpResponse:
    """A film's file: to keep, or with ``look`` to be seen in the page."""
    job = FilmJob.objects.select_related("song").filter(pk=film_id, song__deleted_at=None).first()
    if job is None or not films.is_there(job):
        raise Gone("This film is not kept any more.", "Make it again: it takes about half as long as it plays.")
    content_type = KINDS[str(job.wanted["kind"])][2]
    response = serve_with_ranges(storage.film_path(job.stored_name), content_type, request.headers.get("Range"))
    title = "".join(c if c.isascii() and (c.isalnum() or c in " -_") else "_" for c in job.song.title)
    response["Content-Disposition"] = f'{"inline" if look else "attachment"}; filename="{title} {job.file_name}"'
    return response  # type: ignore[return-value]
