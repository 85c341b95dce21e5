"""The background worker: takes up one job after the other."""

import signal
import time
from argparse import ArgumentParser
from typing import Any

from django.core.management.base import BaseCommand

from valley_web.common.supervised import end_with_supervisor
from valley_web.songs.calls import Caller
from valley_web.songs.tasks import work_once


class Command(BaseCommand):
    help = "Listen to recordings and make films that wait; runs until it is stopped."

    def add_arguments(self, parser: ArgumentParser) -> None:
        parser.add_argument("--once", action="store_true", help="stop when nothing waits")

    def handle(self, *args: Any, once: bool, **options: Any) -> None:
        signal.signal(signal.SIGTERM, signal.default_int_handler)
        end_with_supervisor()
        caller = Caller()
        try:
            while True:
                caller.call_again()
                if work_once():
                    continue
                if once:
                    return
                time.sleep(0.5)
        except KeyboardInterrupt:
            return  # the job's lease runs out, and the next worker takes it up
