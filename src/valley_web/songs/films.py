"""Films of a song: asked for, made by the worker, kept until the music changes."""

import json
import shutil
import sys
from dataclasses import asdict
from pathlib import Path

from django.db import transaction
from django.utils import timezone

from valley.formats._codec import from_plain
from valley.formats.hearing_json import dump_hearing
from valley.formats.song_json import write_song
from valley.pipeline.film import Film, plan_film
from valley_web.common.errors import Gone
from valley_web.songs import storage
from valley_web.songs.deeds import note_deed
from valley_web.songs.jobs import held
from valley_web.songs.models import FilmJob, Song
from valley_web.songs.selectors import get_hearing, get_state, get_work

State = FilmJob.State
_CHILD = [sys.executable, "-m", "valley.pipeline.film_child"]
_KEPT = 6  # films of a song whose files are kept


def start_film(song: Song, film: Film, *, actor: str) -> FilmJob:
    """Put a film in line, once: one that is made already, or on its way, is given back as it is."""
    plan_film(get_work(song), film)  # says at once what cannot be filmed
    wanted = json.loads(json.dumps(asdict(film)))
    with transaction.atomic():
        same = FilmJob.objects.filter(song=song, revision=song.revision, wanted=wanted, state__in=[State.WAITING, State.RUNNING, State.DONE])
        known = next((job for job in same if job.state != State.DONE or is_there(job)), None)
        return known or FilmJob.objects.create(song=song, revision=song.revision, wanted=wanted, file_name=film.name, actor=actor)


def is_there(job: FilmJob) -> bool:
    """Whether its file can be taken."""
    return bool(job.stored_name) and storage.film_path(job.stored_name).is_file()


def can_go_on(job: FilmJob) -> bool:
    """Whether it was stopped or broke off."""
    return job.state == State.FAILED or (job.state == State.CANCELLED and _stretches(job).is_dir())


def _stretches(job: FilmJob) -> Path:
    return storage.stretches_of_film(json.dumps([job.song_id, job.revision, job.wanted], sort_keys=True))


def list_films(song: Song) -> list[FilmJob]:
    """Those that wait, run, can be taken or can go on, the newest first."""
    busy = (State.WAITING, State.RUNNING)
    return [job for job in FilmJob.objects.filter(song=song)[:40] if job.state in busy or is_there(job) or can_go_on(job)][:20]


def go_on_with(job_id: int) -> FilmJob:
    """Put a film that was stopped or broke off back in line: what is done of it is not done again."""
    with transaction.atomic():
        job = _find(job_id)
        if can_go_on(job):
            job.state, job.cancel_asked, job.failures, job.error = State.WAITING, False, 0, ""
            job.not_before = job.finished_at = job.lease_until = None
            job.save()
        return job


def _find(job_id: int) -> FilmJob:
    job = FilmJob.objects.select_for_update().select_related("song").filter(pk=job_id, song__deleted_at=None).first()
    if job is None:
        raise Gone()
    return job


def drop_film(job_id: int, *, actor: str) -> None:
    """Stop a film that waits or is being made; one that is finished, or was stopped before, is cleared from the disk: it can be made again."""
    with transaction.atomic():
        job = _find(job_id)
        stops = job.state in (State.WAITING, State.RUNNING)
        if job.state == State.RUNNING:
            job.cancel_asked = True
        else:
            job.state, job.finished_at = State.CANCELLED, job.finished_at or timezone.now()
        name, job.stored_name = job.stored_name, ""
        job.save()
        note_deed("stopped a film" if stops else "cleared a film away", actor=actor, song=job.song)
    if not stops:
        shutil.rmtree(_stretches(job), ignore_errors=True)
    if name:
        storage.film_path(name).unlink(missing_ok=True)


def film_command(job: FilmJob, folder: Path) -> list[str]:
    """The child's command; what it films is the song as it was when the film was asked for."""
    song = job.song
    (folder / "song.json").write_text(write_song(get_state(song, job.revision)), "utf-8")
    if hearing := get_hearing(song):
        (folder / "hearing.json").write_text(json.dumps(dump_hearing(hearing)), "utf-8")
    from_plain(job.wanted, Film, "film")
    (folder / "film.json").write_text(json.dumps(job.wanted), "utf-8")
    return [*_CHILD, str(folder), str(_stretches(job))]


def keep_film(job: FilmJob, folder: Path, warning: str) -> None:
    """Take over what the child made; films of older versions of the music, and the oldest of many, make room."""
    seconds = float(json.loads((folder / "made.json").read_text("utf-8"))["seconds"])
    name, size = storage.keep_film_file(folder / "film")
    shutil.rmtree(_stretches(job), ignore_errors=True)
    done = {"state": State.DONE, "fraction": 1.0, "stored_name": name, "size": size, "seconds": seconds, "error": "", "finished_at": timezone.now()}
    if not held(job).update(**done):
        storage.film_path(name).unlink(missing_ok=True)
        return
    mine = FilmJob.objects.filter(song_id=job.song_id, state=State.DONE).exclude(stored_name="")
    for old in [*mine.filter(revision__lt=job.revision), *mine.filter(revision__gte=job.revision)[_KEPT:]]:
        storage.film_path(old.stored_name).unlink(missing_ok=True)
        FilmJob.objects.filter(pk=old.pk).update(stored_name="")
