"""What the worker knows how to do: hear recordings, and make films."""

import json
import sys
from pathlib import Path
from typing import Any

from django.conf import settings

from valley_web.songs import storage
from valley_web.songs.calls import hear_next
from valley_web.songs.films import film_command, keep_film
from valley_web.songs.jobs import Trade, claim_job, run_job
from valley_web.songs.listening import keep_hearing
from valley_web.songs.models import FilmJob, ListeningJob

CHILD = [sys.executable, "-m", "valley.pipeline.child"]


def _hear(job: ListeningJob, folder: Path) -> list[str]:
    source = storage.path_of(job.recording.stored_name)
    return [*CHILD, str(source), job.recording.original_name, str(folder), str(settings.MAX_RECORDING_SECONDS)]


def keep_heard(job: ListeningJob, folder: Path, warning: str) -> None:
    document: dict[str, Any] = json.loads((folder / "hearing.json").read_text("utf-8"))
    loudness: list[float] = json.loads((folder / "loudness.json").read_text("utf-8"))
    keep_hearing(job, document, loudness, warning, evidence=(folder / "evidence.npz").read_bytes())


def _unheard(often: int, last: str) -> str:
    return f"Listening broke off {often} times{last}. The file may be damaged; try another copy of it."


def _unfilmed(often: int, last: str) -> str:
    return f"Filming broke off {often} times{last}. Choose one part or a smaller size."


LISTENING = Trade(ListeningJob, _hear, lambda *job: keep_heard(*job), _unheard, "It was heard, but no chart can be made of it")
FILMING = Trade(FilmJob, film_command, keep_film, _unfilmed, "The film could not be kept")


def work_once() -> bool:
    """Do the next job, recordings first; False where none waits. With a broker recordings are heard by whoever is called."""
    if not settings.BROKER and hear_next.call():
        return True
    filmed = claim_job(FILMING)
    if filmed is not None:
        run_job(FILMING, filmed)
        return True
    return False
