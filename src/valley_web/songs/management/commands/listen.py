"""A listener on this machine for a Valley elsewhere: it is called through the broker and hands back what it hears."""

import os
from argparse import ArgumentParser
from typing import Any

from django.conf import settings
from django.core.management.base import BaseCommand, CommandError

from valley_web.common.supervised import end_with_supervisor
from valley_web.songs.calls import QUEUE


class Command(BaseCommand):
    help = "Listen to recordings for a Valley on another machine; VALLEY_BROKER, VALLEY_SERVER and VALLEY_LISTENER_KEY say where (see docs/growing.md)."

    def add_arguments(self, parser: ArgumentParser) -> None:
        parser.add_argument("--once", action="store_true", help="stop when nobody calls any more")

    def handle(self, *args: Any, once: bool, **options: Any) -> None:
        missing = [name for name in ("VALLEY_BROKER", "VALLEY_SERVER", "VALLEY_LISTENER_KEY") if not os.environ.get(name)]
        if missing:
            raise CommandError(f"Set {', '.join(missing)} first; docs/growing.md says to what.")
        try:
            import django_rq
            from django_tasks_rq import Job
            from rq import SimpleWorker
        except ImportError as error:
            raise CommandError("What calls listeners is not installed: pip install 'valley[listeners]'") from error
        queue = django_rq.get_queue(QUEUE, job_class=Job)
        end_with_supervisor()
        self.stdout.write(f"Listening for {settings.SERVER}  (Ctrl-C stops it when the recording in hand is heard)")
        self.stdout.flush()
        # The heavy work is done by a child of its own (see ``doing``), so the worker needs no fork.
        SimpleWorker([queue], connection=queue.connection, job_class=Job).work(burst=once, with_scheduler=False)
