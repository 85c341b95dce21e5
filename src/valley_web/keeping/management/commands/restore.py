"""Back to a copy: what is there now is kept under another name."""

from argparse import ArgumentParser
from pathlib import Path
from typing import Any

from django.conf import settings
from django.core.management import call_command
from django.core.management.base import BaseCommand, CommandError
from django.db import connections

from valley.errors import ValleyError
from valley_web.common.running import is_running
from valley_web.keeping.backup import restore_backup


class Command(BaseCommand):
    help = "Put a copy in the place of what is there now, which is kept beside it. Valley must be stopped first."

    def add_arguments(self, parser: ArgumentParser) -> None:
        parser.add_argument("copy", type=Path, help="a folder that backup made, such as backups/valley-2026-11-30-120000")

    def handle(self, *args: Any, copy: Path, **options: Any) -> None:
        if is_running(settings.DATA_DIR):
            raise CommandError("Valley is running on this data. Stop it first (Ctrl-C), then restore.")
        connections.close_all()
        try:
            before = restore_backup(copy.resolve(), settings.DATA_DIR, lambda words: self.stdout.write(words))
        except (ValleyError, OSError) as error:
            raise CommandError(f"{error}. What you had is untouched.") from error
        call_command("migrate", verbosity=0)
        self.stdout.write(f"Restored. What was there before is kept in {before}; remove it when you are sure.")
