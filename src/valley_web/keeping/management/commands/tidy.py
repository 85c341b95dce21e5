"""Clear away what nobody needs any more; done by ``serve`` at its start and once a day."""

from typing import Any

from django.core.management.base import BaseCommand

from valley_web.keeping.orphans import clear_orphans


class Command(BaseCommand):
    help = "Clear away what is left over: parts of uploads that broke off, files without a song, songs deleted a month ago."

    def handle(self, *args: Any, **options: Any) -> None:
        free = clear_orphans()
        if free:
            self.stdout.write(f"{free / 2**20:.0f} MB came free.")
