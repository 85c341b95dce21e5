"""For listeners on other machines: they claim a recording, fetch it, say how far they are, and hand back what they heard.

They show a key of their own (``VALLEY_LISTENER_KEY``); without one nobody is let in. What they say is of effect only while they hold the job.
"""

import json
import secrets
from pathlib import Path, PurePath
from tempfile import TemporaryDirectory
from typing import Any, Literal

from django.conf import settings
from django.http import FileResponse, HttpRequest
from ninja import File, Form, Router, Schema, Status
from ninja.files import UploadedFile
from ninja.security import HttpBearer
from pydantic import Field

from valley.errors import FormatError
from valley_web.common.errors import Gone, TooMuch
from valley_web.common.problems import Problem
from valley_web.songs import storage
from valley_web.songs.doing import Said
from valley_web.songs.jobs import LocalHold, claim_job, held
from valley_web.songs.listener import MADE
from valley_web.songs.models import ListeningJob
from valley_web.songs.tasks import LISTENING

PROBLEMS = {frozenset({400, 401, 404, 413, 422, 507}): Problem}
_MOST_BYTES = 64 * 2**20  # of one file that was made in listening


class ListenerKey(HttpBearer):
    """The key that listeners were given."""

    def authenticate(self, request: HttpRequest, token: str) -> str | None:
        """Who shows it, or nobody."""
        known = settings.LISTENER_KEY
        return "listener" if known and secrets.compare_digest(token.encode(), known.encode()) else None


router = Router(auth=ListenerKey())


class ClaimOut(Schema):
    """A job that is held from now on; ``claim`` is the number by which its holder is known."""

    id: int
    claim: int
    name: str
    ending: str
    most_seconds: float


class ProgressIn(Schema):
    stage: str = Field("", max_length=200)
    fraction: float = Field(0.0, ge=0, le=1)
    found: list[str] = Field([], max_length=40)


class GoOnOut(Schema):
    go_on: bool


class EndIn(Schema):
    how: Literal["failed", "cancelled", "broke off", "put back", "full"]
    words: str = Field("", max_length=2000)


def _hold(job_id: int, claim: int) -> LocalHold[ListeningJob]:
    job = ListeningJob.objects.select_related("recording__song").filter(pk=job_id).first()
    if job is None:
        raise Gone()
    job.attempts = claim  # whoever shows another number than the row has holds nothing
    return LocalHold(LISTENING, job)


@router.post("/listeners/claim", response={200: ClaimOut, 204: None, **PROBLEMS}, include_in_schema=False)
def claim_recording(request: HttpRequest) -> Status[Any]:
    """The recording that has waited longest; 204 where none waits."""
    job = claim_job(LISTENING)
    if job is None:
        return Status(204, None)
    recording = job.recording
    shown = ClaimOut(
        id=job.pk,
        claim=job.attempts,
        name=recording.original_name,
        ending=PurePath(recording.stored_name).suffix,
        most_seconds=settings.MAX_RECORDING_SECONDS,
    )
    return Status(200, shown)


@router.get("/listeners/jobs/{job_id}/{claim}/recording", include_in_schema=False)
def fetch_recording(request: HttpRequest, job_id: int, claim: int) -> FileResponse:
    """The sound, for who holds the job."""
    hold = _hold(job_id, claim)
    if not held(hold.job).exists():
        raise Gone("This job is another's by now.")
    return FileResponse(storage.path_of(hold.job.recording.stored_name).open("rb"), content_type="application/octet-stream")


@router.post("/listeners/jobs/{job_id}/{claim}/progress", response={200: GoOnOut, **PROBLEMS}, include_in_schema=False)
def tell_progress(request: HttpRequest, job_id: int, claim: int, body: ProgressIn) -> GoOnOut:
    """How far it is; keeps the job another while."""
    return GoOnOut(go_on=_hold(job_id, claim).go_on(Said(body.stage, body.fraction, [f[:300] for f in body.found])))


@router.post("/listeners/jobs/{job_id}/{claim}/hearing", response={204: None, **PROBLEMS}, include_in_schema=False)
def hand_back(
    request: HttpRequest,
    job_id: int,
    claim: int,
    hearing: File[UploadedFile],
    loudness: File[UploadedFile],
    evidence: File[UploadedFile],
    warning: Form[str] = "",
) -> Status[None]:
    """What was heard: kept once, and only from who holds the job."""
    with TemporaryDirectory(dir=settings.UPLOAD_DIR) as folder:
        for name, file in zip(MADE, (hearing, loudness, evidence), strict=True):
            if (file.size or 0) > _MOST_BYTES:
                raise TooMuch(f"{name} has {(file.size or 0) // 2**20} MB.", f"{_MOST_BYTES // 2**20} MB is the most that a hearing takes.")
            (Path(folder) / name).write_bytes(file.read())
        try:
            _hold(job_id, claim).keep(Path(folder), warning[:300])
        except (json.JSONDecodeError, UnicodeDecodeError, KeyError, TypeError) as error:
            raise FormatError(f"what was handed back is no hearing: {error}") from error
    return Status(204, None)


@router.post("/listeners/jobs/{job_id}/{claim}/end", response={204: None, **PROBLEMS}, include_in_schema=False)
def end_job(request: HttpRequest, job_id: int, claim: int, body: EndIn) -> Status[None]:
    """It came to nothing here, and why."""
    hold = _hold(job_id, claim)
    if body.how == "failed":
        hold.fail(body.words)
    elif body.how == "cancelled":
        hold.cancel()
    elif body.how == "broke off":
        hold.try_again(body.words)
    else:
        hold.put_back(full=body.how == "full")
    return Status(204, None)
