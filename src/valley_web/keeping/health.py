"""How Valley stands: what waits, how full the disk is, how much memory is taken, when a copy was made, which versions run."""

import platform
import shutil
import sys
from dataclasses import dataclass
from datetime import datetime, timedelta
from importlib.metadata import version
from pathlib import Path

import django
import psutil
from django.conf import settings
from django.db import connection
from django.utils import timezone

from valley_web.keeping.backup import Backup, list_backups
from valley_web.songs.models import FilmJob, Job, ListeningJob, Song

LONG_WAIT = timedelta(minutes=10)
TIGHT = 2 * 2**30  # bytes: with less room than that a long recording may not fit


@dataclass(frozen=True)
class Health:
    """Sizes in bytes. ``troubles`` are sentences about what needs the owner's hand."""

    waiting: int
    running: int
    failed: int
    songs: int
    deleted: int
    disk_free: int
    database: int
    recordings: int
    films: int
    backups: int
    memory: int
    last_backup: datetime | None
    versions: dict[str, str]
    troubles: tuple[str, ...]


def look_after() -> Health:
    """The state of things, now."""
    backups = list_backups(settings.BACKUPS_DIR)
    free = shutil.disk_usage(settings.DATA_DIR).free
    counted = {state: _count(state) for state in (Job.State.WAITING, Job.State.RUNNING, Job.State.FAILED)}
    return Health(
        waiting=counted[Job.State.WAITING],
        running=counted[Job.State.RUNNING],
        failed=counted[Job.State.FAILED],
        songs=Song.objects.filter(deleted_at=None).count(),
        deleted=Song.objects.exclude(deleted_at=None).count(),
        disk_free=free,
        database=_size_of_database(),
        recordings=_size(settings.RECORDINGS_DIR),
        films=_size(settings.FILMS_DIR),
        backups=sum(b.size for b in backups),
        memory=_memory(),
        last_backup=backups[0].made if backups else None,
        versions={"Valley": version("valley"), "Django": django.get_version(), "Python": platform.python_version(), "system": sys.platform},
        troubles=tuple(_find_troubles(free, backups)),
    )


def _count(state: str) -> int:
    return sum(model._default_manager.filter(state=state).count() for model in (ListeningJob, FilmJob))


def _size(folder: Path) -> int:
    return sum(p.stat().st_size for p in folder.iterdir() if p.is_file())


def _size_of_database() -> int:
    with connection.cursor() as cursor:
        cursor.execute("SELECT page_count * page_size FROM pragma_page_count(), pragma_page_size()")
        return int(cursor.fetchone()[0])


def _memory() -> int:
    """Of the server's process, resident."""
    return int(psutil.Process().memory_info().rss)


def _find_troubles(free: int, backups: list[Backup]) -> list[str]:
    found = []
    if free < TIGHT:
        found.append(f"Only {free / 2**30:.1f} GB are left on the disk. Make room: clear films away, or move older copies to another disk.")
    waiting = ListeningJob.objects.filter(state=Job.State.WAITING, not_before=None).order_by("id").first()
    if waiting and timezone.now() - waiting.made_at > LONG_WAIT and not _count(Job.State.RUNNING):
        minutes = int((timezone.now() - waiting.made_at).total_seconds() // 60)
        who = "broker and listeners" if settings.BROKER else "the worker"
        found.append(f"A recording has waited {minutes} minutes and nobody listens: look whether {who} run.")
    if not backups:
        found.append("No copy of your work has been made yet.")
    if backups and backups[0].missing:
        found.append(f"{len(backups[0].missing)} recordings could not be copied: their files are gone or damaged.")
    return found
