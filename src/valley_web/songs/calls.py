"""Calling for somebody to listen, through the framework's interface for tasks.

The rows of ``ListeningJob`` are the truth: who waits, who holds which under which lease. A call only says that something waits, so that one too
many is of no effect, and one that is lost is made again. By itself nobody needs to be called: the worker beside the database looks every half
second. With a broker (``VALLEY_BROKER``) calls go there, and whoever hears one, on whatever machine, claims the oldest job from the server.
See docs/growing.md.
"""

import logging
import time

from django.conf import settings
from django.db import transaction
from django.db.models import Q
from django.utils import timezone
from django_tasks import task

from valley_web.songs.models import ListeningJob

QUEUE = "listening"
CALL_AGAIN_AFTER = 15.0  # seconds: a call may be lost with its broker, or with the listener that heard it
logger = logging.getLogger(__name__)


@task(queue_name=QUEUE)
def hear_next() -> bool:
    """Listen to the recording that has waited longest; False where none waits. Runs wherever the call is heard."""
    from valley_web.songs.listener import hear_oldest

    return hear_oldest()


def call_for_listeners() -> None:
    """Say that a recording waits, as soon as that is on the disk."""
    transaction.on_commit(_call)


def _call() -> None:
    """A broker that cannot be reached stops nobody's work: the worker calls again."""
    try:
        hear_next.enqueue()
    except Exception as error:  # whatever the broker's own library raises
        logger.warning("no listener could be called (%s); it is tried again", type(error).__name__)


class Caller:
    """Calls again for what waits, or whose listener is gone: kept by the worker beside the database."""

    def __init__(self) -> None:
        self._called: dict[tuple[int, int], float] = {}

    def call_again(self) -> int:
        """One call for each job that is due and was not called for lately; gives how many."""
        if not settings.BROKER:
            return 0
        now = timezone.now()
        lapsed = Q(state=ListeningJob.State.RUNNING, lease_until__lt=now)
        due = Q(state=ListeningJob.State.WAITING) & (Q(not_before=None) | Q(not_before__lte=now))
        waiting = list(ListeningJob.objects.filter(due | lapsed).order_by("id").values_list("id", "attempts")[:500])
        clock = time.monotonic()
        late = [job for job in waiting if clock - self._called.get(job, -CALL_AGAIN_AFTER) >= CALL_AGAIN_AFTER]
        self._called = {job: clock if job in late else self._called[job] for job in waiting}
        for _ in late:
            _call()
        return len(late)
