"""A copy of everything, while Valley runs or not."""

from argparse import ArgumentParser
from pathlib import Path
from typing import Any

from django.conf import settings
from django.core.management.base import BaseCommand, CommandError

from valley.errors import ValleyError
from valley_web.keeping.backup import make_backup, verify_backup


class Command(BaseCommand):
    help = "Make a copy of everything: songs with their history, recordings, records. Valley may go on running."

    def add_arguments(self, parser: ArgumentParser) -> None:
        parser.add_argument("folder", nargs="?", type=Path, default=settings.BACKUPS_DIR, help="where copies go; best on another disk")
        parser.add_argument("--check", type=Path, metavar="COPY", help="only hold a copy that is there against its sums")

    def handle(self, *args: Any, folder: Path, check: Path | None, **options: Any) -> None:
        try:
            if check is not None:
                found = verify_backup(check.resolve())
                self.stdout.write(f"{check} is whole: {found.songs} songs, {found.files} files.")
                return
            made = make_backup(settings.DATA_DIR, folder.resolve())
        except (ValleyError, OSError) as error:
            raise CommandError(f"{error}. Nothing was left half done.") from error
        self.stdout.write(f"{made.path}: {made.songs} songs, {made.files} files, {made.size / 2**20:.0f} MB.")
        if made.missing:
            self.stderr.write(f"{len(made.missing)} recordings were gone or damaged and are not in it: {', '.join(made.missing[:5])}")
