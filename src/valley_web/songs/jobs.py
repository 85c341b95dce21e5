"""Long work in the background. The worker claims a job under a lease, lets a child process do it (see ``doing``), and passes on
what the child says: bytes that were uploaded are decoded in a child only.

If the child dies, the job fails or is tried again; if the worker dies, its lease runs out and the next worker
takes the job up. What the kinds of work differ in is their ``Trade``. See docs/adr/0003-jobs.md.
"""

import logging
from collections.abc import Callable
from dataclasses import dataclass
from datetime import timedelta
from pathlib import Path
from typing import Any, Generic, TypeVar

from django.conf import settings
from django.db import transaction
from django.db.models import Q, QuerySet
from django.utils import timezone

from valley.errors import ValleyError
from valley_web.songs.doing import Said, do_job
from valley_web.songs.models import Job

J = TypeVar("J", bound=Job)
State = Job.State
LEASE = timedelta(seconds=20)
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


@dataclass(frozen=True)
class LocalHold(Generic[J]):
    """A claimed job that is done beside the database (see ``doing.Hold``)."""

    trade: Trade[J]
    job: J

    def make_command(self, folder: Path) -> list[str]:
        return self.trade.command(self.job, folder)

    def go_on(self, said: Said) -> bool:
        mine = held(self.job)
        now: dict[str, Any] = {"stage": said.stage[:60], "fraction": said.fraction, "found": said.found} if said.stage else {}
        return bool(mine.update(lease_until=timezone.now() + LEASE, **now)) and not mine.filter(cancel_asked=True).exists()

    def keep(self, folder: Path, warning: str) -> None:
        """What cannot be kept ends the job, not the worker: the job says why."""
        try:
            self.trade.keep(self.job, folder, warning)
        except ValleyError as error:
            logger.warning("nothing can be kept of job %s: %s", self.job.pk, error)
            self.fail(f"{self.trade.unfit}: {error}")

    def fail(self, why: str) -> None:
        finish(self.job, State.FAILED, why)

    def cancel(self) -> None:
        finish(self.job, State.CANCELLED)

    def try_again(self, errors: str) -> None:
        """The later the oftener the child itself broke off; ``claim_job`` gives it up after a few times."""
        logger.error("job %s broke off: %s", self.job.pk, errors[-500:])
        wait = BACK_OFF * 2**self.job.failures
        held(self.job).update(state=State.WAITING, lease_until=None, failures=self.job.failures + 1, not_before=timezone.now() + wait)

    def put_back(self, *, full: bool = False) -> None:
        waits: dict[str, Any] = {"stage": "The disk is full: it goes on when there is room", "not_before": timezone.now() + UNTIL_ROOM} if full else {}
        held(self.job).update(state=State.WAITING, lease_until=None, **waits)


def run_job(trade: Trade[J], job: J) -> None:
    """Do one claimed job to its end, here."""
    do_job(LocalHold(trade, job), settings.UPLOAD_DIR)


def held(job: Job) -> QuerySet[Job]:
    """The job's row as long as this worker holds it; no row where another has taken it over."""
    rows: QuerySet[Job] = type(job)._default_manager.filter(pk=job.pk, attempts=job.attempts, state=State.RUNNING)
    return rows


def finish(job: Job, state: str, error: str = "") -> None:
    """Close the job, unless another worker has taken it over meanwhile."""
    held(job).update(state=state, error=error.removeprefix("valley: ")[:400], finished_at=timezone.now())
