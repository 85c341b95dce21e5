"""Long work in the background. The worker claims a job under a lease, lets a child process do it, and passes on what
the child says: bytes that were uploaded are decoded in a child only.

If the child dies, the job fails or is tried again; if the worker dies, its lease runs out and the next worker
takes the job up. What the kinds of work differ in is their ``Trade``. See docs/adr/0003-jobs.md.
"""

import errno
import json
import logging
import queue
import subprocess
import tempfile
import threading
import time
from collections.abc import Callable
from dataclasses import dataclass
from datetime import timedelta
from pathlib import Path
from typing import Any, Generic, TypeVar

from django.conf import settings
from django.db import OperationalError, transaction
from django.db.models import Q, QuerySet
from django.utils import timezone

from valley.errors import ValleyError
from valley_web.songs.models import Job

J = TypeVar("J", bound=Job)
State = Job.State
LEASE = timedelta(seconds=20)
HEARTBEAT_SECONDS = 1.0
MAX_FAILURES = 3
MAX_ATTEMPTS = 200  # claims: far more than any series of stops and power cuts
BACK_OFF = timedelta(seconds=2)  # doubled with every failure
UNTIL_ROOM = timedelta(seconds=30)
logger = logging.getLogger(__name__)


@dataclass(frozen=True)
class Trade(Generic[J]):
    """One kind of work.

    ``command`` gives the child's command for a job that works in a folder; ``keep`` takes over what the child left there, and with it the
    warning that it gave; ``given_up`` says, with how often and at what it broke off, why a job is not tried again; ``unfit`` begins the
    sentence where what was made cannot be kept.
    """

    model: type[J]
    command: Callable[[J, Path], list[str]]
    keep: Callable[[J, Path, str], None]
    given_up: Callable[[int, str], str]
    unfit: str


def claim_job(trade: Trade[J]) -> J | None:
    """The oldest job of a trade that waits or whose worker is gone. A job that keeps dying is given up."""
    now = timezone.now()
    with transaction.atomic():
        lapsed = Q(state=State.RUNNING, lease_until__lt=now)
        due = Q(state=State.WAITING) & (Q(not_before=None) | Q(not_before__lte=now))
        job = trade.model._default_manager.select_for_update().filter(due | lapsed).order_by("id").first()
        if job is None:
            return None
        if job.cancel_asked or job.failures >= MAX_FAILURES or job.attempts >= MAX_ATTEMPTS:
            job.state = State.CANCELLED if job.cancel_asked else State.FAILED
            last = f", last at “{job.stage}”" if job.stage else ""
            job.error = "" if job.cancel_asked else trade.given_up(max(job.failures, 1), last)
            job.finished_at = now
            job.save()
            return None
        job.state, job.attempts, job.lease_until = State.RUNNING, job.attempts + 1, now + LEASE
        job.stage, job.fraction, job.found, job.not_before = "Getting ready", 0.0, [], None
        job.save()
        return job


def run_job(trade: Trade[J], job: J) -> None:
    """Do one claimed job to its end: done, failed, cancelled, or left to another worker.

    Where the worker is stopped meanwhile, the job goes back in line at once; where the disk is full, it waits for room.
    """
    try:
        _run(trade, job)
    except KeyboardInterrupt:
        put_back(job)
        raise
    except (OSError, OperationalError) as error:
        if not _is_full(error):
            raise
        logger.warning("no room for job %s: %s", job.pk, error)
        put_back(job, stage="The disk is full: it goes on when there is room", not_before=timezone.now() + UNTIL_ROOM)


def _is_full(error: Exception) -> bool:
    return (isinstance(error, OSError) and error.errno in (errno.ENOSPC, errno.EDQUOT)) or "full" in str(error)


def put_back(job: Job, **fields: Any) -> None:
    """In line again, as nobody's fault."""
    held(job).update(state=State.WAITING, lease_until=None, **fields)


def _run(trade: Trade[J], job: J) -> None:
    with tempfile.TemporaryDirectory(dir=settings.UPLOAD_DIR) as folder:
        with subprocess.Popen(trade.command(job, Path(folder)), stdout=subprocess.PIPE, stderr=subprocess.PIPE, text=True) as child:
            try:
                warning, cancelled = _follow(job, child)
            except BaseException:
                child.kill()
                raise
            errors = child.stderr.read()[-2000:] if child.stderr else ""
        if cancelled:
            finish(job, State.CANCELLED)
        elif child.returncode == 0:
            _keep_or_say_why(trade, job, Path(folder), warning)
        elif child.returncode == 2:
            finish(job, State.FAILED, errors.strip().splitlines()[-1] if errors.strip() else "It could not be done, and nothing was said why.")
        else:
            logger.error("child of job %s ended with %s: %s", job.pk, child.returncode, errors)
            _retry(job)


def _follow(job: Job, child: "subprocess.Popen[str]") -> tuple[str, bool]:
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
            mine = held(job)
            if not mine.update(lease_until=timezone.now() + LEASE, **update) or mine.filter(cancel_asked=True).exists():
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


def _keep_or_say_why(trade: Trade[J], job: J, folder: Path, warning: str) -> None:
    """What cannot be kept ends the job, not the worker: the job says why."""
    try:
        trade.keep(job, folder, warning)
    except ValleyError as error:
        logger.warning("nothing can be kept of job %s: %s", job.pk, error)
        finish(job, State.FAILED, f"{trade.unfit}: {error}")


def held(job: Job) -> QuerySet[Job]:
    """The job's row as long as this worker holds it; no row where another has taken it over."""
    rows: QuerySet[Job] = type(job)._default_manager.filter(pk=job.pk, attempts=job.attempts, state=State.RUNNING)
    return rows


def finish(job: Job, state: str, error: str = "") -> None:
    """Close the job, unless another worker has taken it over meanwhile."""
    held(job).update(state=state, error=error.removeprefix("valley: ")[:400], finished_at=timezone.now())


def _retry(job: Job) -> None:
    """Back in line, the later the oftener the child itself broke off; ``claim_job`` gives it up after a few times."""
    wait = BACK_OFF * 2**job.failures
    mine = held(job)
    mine.update(state=State.WAITING, lease_until=None, failures=job.failures + 1, not_before=timezone.now() + wait)
