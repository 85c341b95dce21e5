"""Listening in the background. The worker claims a job under a lease, lets a child process do the work, and
passes on what the child says. Uploaded bytes are decoded in the child only.

If the child dies, the job fails or is tried again; if the worker dies, its lease runs out and the next worker
takes the job up. See docs/adr/0003-jobs.md.
"""

import errno
import json
import logging
import queue
import subprocess
import sys
import tempfile
import threading
import time
from datetime import timedelta
from pathlib import Path
from typing import Any

from django.conf import settings
from django.db import OperationalError, transaction
from django.db.models import Q
from django.utils import timezone

from valley.errors import ValleyError
from valley_web.songs import storage
from valley_web.songs.listening import keep_hearing
from valley_web.songs.models import ListeningJob

State = ListeningJob.State
LEASE = timedelta(seconds=20)
HEARTBEAT_SECONDS = 1.0
MAX_FAILURES = 3
MAX_ATTEMPTS = 200  # claims: far more than any series of stops and power cuts
BACK_OFF = timedelta(seconds=2)  # doubled with every failure
UNTIL_ROOM = timedelta(seconds=30)
_CHILD = [sys.executable, "-m", "valley.pipeline.child"]
logger = logging.getLogger(__name__)


def claim_job() -> ListeningJob | None:
    """The oldest job that waits or whose worker is gone. A job that keeps dying is given up."""
    now = timezone.now()
    with transaction.atomic():
        lapsed = Q(state=State.RUNNING, lease_until__lt=now)
        due = Q(state=State.WAITING) & (Q(not_before=None) | Q(not_before__lte=now))
        job = ListeningJob.objects.select_for_update().filter(due | lapsed).order_by("id").first()
        if job is None:
            return None
        if job.cancel_asked or job.failures >= MAX_FAILURES or job.attempts >= MAX_ATTEMPTS:
            job.state = State.CANCELLED if job.cancel_asked else State.FAILED
            last = f", last at “{job.stage}”" if job.stage else ""
            often = max(job.failures, 1)
            job.error = "" if job.cancel_asked else f"Listening broke off {often} times{last}. The file may be damaged; try another copy of it."
            job.finished_at = now
            job.save()
            return None
        job.state, job.attempts, job.lease_until = State.RUNNING, job.attempts + 1, now + LEASE
        job.stage, job.fraction, job.found, job.not_before = "Getting ready", 0.0, [], None
        job.save()
        return job


def run_job(job: ListeningJob) -> None:
    """Do one claimed job to its end: done, failed, cancelled, or left to another worker.

    Where the worker is stopped meanwhile, the job goes back in line at once; where the disk is full, it waits for room.
    """
    try:
        _run(job)
    except KeyboardInterrupt:
        _put_back(job)
        raise
    except (OSError, OperationalError) as error:
        if not _is_full(error):
            raise
        logger.warning("no room for job %s: %s", job.pk, error)
        _put_back(job, stage="The disk is full: it goes on when there is room", not_before=timezone.now() + UNTIL_ROOM)


def _is_full(error: Exception) -> bool:
    return (isinstance(error, OSError) and error.errno in (errno.ENOSPC, errno.EDQUOT)) or "full" in str(error)


def _put_back(job: ListeningJob, **fields: Any) -> None:
    """In line again, as nobody's fault."""
    ListeningJob.objects.filter(pk=job.pk, attempts=job.attempts, state=State.RUNNING).update(state=State.WAITING, lease_until=None, **fields)


def _run(job: ListeningJob) -> None:
    with tempfile.TemporaryDirectory(dir=settings.UPLOAD_DIR) as folder:
        source = storage.path_of(job.recording.stored_name)
        command = [*_CHILD, str(source), job.recording.original_name, folder, str(settings.MAX_RECORDING_SECONDS)]
        with subprocess.Popen(command, stdout=subprocess.PIPE, stderr=subprocess.PIPE, text=True) as child:
            try:
                warning, cancelled = _follow(job, child)
            except BaseException:
                child.kill()
                raise
            errors = child.stderr.read()[-2000:] if child.stderr else ""
        if cancelled:
            _finish(job, State.CANCELLED)
        elif child.returncode == 0:
            _keep_or_say_why(job, Path(folder), warning)
        elif child.returncode == 2:
            _finish(job, State.FAILED, errors.strip().splitlines()[-1] if errors.strip() else "The file could not be read.")
        else:
            logger.error("listening child of job %s ended with %s: %s", job.pk, child.returncode, errors)
            _retry(job)


def _follow(job: ListeningJob, child: "subprocess.Popen[str]") -> tuple[str, bool]:
    """Pass on progress until the child ends; gives its warning, and whether it was stopped on request."""
    warning, beat = "", 0.0
    update: dict[str, Any] = {}
    lines = _read_lines(child)
    while True:
        try:
            line = lines.get(timeout=HEARTBEAT_SECONDS)
        except queue.Empty:
            line = None
        if line == "":
            break
        if line:
            message = json.loads(line)
            update |= {"stage": message["words"], "fraction": message["fraction"]}
            if message["found"]:
                job.found = [*job.found, message["found"]][-40:]
                update["found"] = job.found
                warning = message["found"] if message["stage"] == "decode" else warning
        if time.monotonic() - beat > HEARTBEAT_SECONDS or "found" in update:
            beat = time.monotonic()
            held = ListeningJob.objects.filter(pk=job.pk, state=State.RUNNING, attempts=job.attempts)
            if not held.update(lease_until=timezone.now() + LEASE, **update) or held.filter(cancel_asked=True).exists():
                child.kill()
                child.wait()
                return warning, True
            update = {}
    child.wait()
    return warning, False


def _read_lines(child: "subprocess.Popen[str]") -> "queue.Queue[str]":
    """The child's lines as they come, and an empty one at the end; read in a thread, so that waiting can time out."""
    lines: queue.Queue[str] = queue.Queue()

    def read() -> None:
        for line in child.stdout or ():
            lines.put(line)
        lines.put("")

    threading.Thread(target=read, daemon=True).start()
    return lines


def _keep_or_say_why(job: ListeningJob, folder: Path, warning: str) -> None:
    """A hearing that no chart can be made of ends the job, not the worker: the song says why."""
    try:
        _keep(job, folder, warning)
    except ValleyError as error:
        logger.warning("no chart can be made of job %s: %s", job.pk, error)
        _finish(job, State.FAILED, f"It was heard, but no chart can be made of it: {error}")


def _keep(job: ListeningJob, folder: Path, warning: str) -> None:
    document: dict[str, Any] = json.loads((folder / "hearing.json").read_text("utf-8"))
    loudness: list[float] = json.loads((folder / "loudness.json").read_text("utf-8"))
    keep_hearing(job, document, loudness, warning, evidence=(folder / "evidence.npz").read_bytes())


def _finish(job: ListeningJob, state: str, error: str = "") -> None:
    """Close the job, unless another worker has taken it over meanwhile."""
    ListeningJob.objects.filter(pk=job.pk, attempts=job.attempts, state=State.RUNNING).update(
        state=state, error=error.removeprefix("valley: ")[:400], finished_at=timezone.now()
    )


def _retry(job: ListeningJob) -> None:
    """Back in line, the later the oftener the listening itself broke off; ``claim_job`` gives it up after a few times."""
    wait = BACK_OFF * 2**job.failures
    held = ListeningJob.objects.filter(pk=job.pk, attempts=job.attempts, state=State.RUNNING)
    held.update(state=State.WAITING, lease_until=None, failures=job.failures + 1, not_before=timezone.now() + wait)
