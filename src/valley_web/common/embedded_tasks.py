"""The framework's tasks without a broker: the worker beside the database looks for itself what waits there."""

from typing import Any

from django.utils import timezone
from django_tasks import TaskResult, TaskResultStatus
from django_tasks.backends.base import BaseTaskBackend
from django_tasks.utils import get_random_id


class Embedded(BaseTaskBackend):
    """Nobody is called: the worker beside the database looks for itself."""

    def enqueue(self, task: Any, args: Any, kwargs: Any) -> TaskResult[Any]:
        """Says that the task waits; the row does so already."""
        self.validate_task(task)
        return TaskResult(
            task=task,
            id=get_random_id(),
            status=TaskResultStatus.READY,
            enqueued_at=timezone.now(),
            started_at=None,
            last_attempted_at=None,
            finished_at=None,
            args=list(args),
            kwargs=dict(kwargs),
            backend=self.alias,
            errors=[],
            worker_ids=[],
        )
