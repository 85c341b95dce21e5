"""What nobody needs any more is cleared away: parts of uploads that broke off, files without a row, songs deleted a month ago."""

import contextlib
import shutil
import time
import uuid
from datetime import timedelta
from pathlib import Path

from django.conf import settings
from django.utils import timezone

from valley_web.songs.models import FilmJob, Job, ListeningJob, Recording, Song

UNTOUCHED = 24 * 3600  # seconds: what was written to in the last day may be in use
KEPT_DELETED = timedelta(days=30)


def clear_orphans() -> int:
    """Clear away what is left over; gives the bytes that came free. Nothing that a row names, or that was touched in the last day, is taken."""
    free = 0
    for song in Song.objects.filter(deleted_at__lt=timezone.now() - KEPT_DELETED):
        song.delete()  # its rows with it; its files are without a row now, and go below
    known = {*Recording.objects.values_list("stored_name", flat=True), *FilmJob.objects.exclude(stored_name="").values_list("stored_name", flat=True)}
    for folder in (settings.RECORDINGS_DIR, settings.FILMS_DIR):
        for path in folder.iterdir():
            with contextlib.suppress(ValueError):
                if uuid.UUID(path.name).hex == path.name and path.name not in known:
                    free += _clear(path)
    if not _anyone_works():
        free += sum(_clear(path) for path in settings.UPLOAD_DIR.iterdir())
    return free


def _anyone_works() -> bool:
    return any(model._default_manager.filter(state=Job.State.RUNNING).exists() for model in (ListeningJob, FilmJob))


def _clear(path: Path) -> int:
    """Remove a file or folder that has long been left alone; gives its bytes."""
    try:
        if time.time() - path.stat().st_mtime < UNTOUCHED:
            return 0
        size = sum(p.stat().st_size for p in path.rglob("*") if p.is_file()) if path.is_dir() else path.stat().st_size
        if path.is_dir():
            shutil.rmtree(path)
        else:
            path.unlink()
    except OSError:
        return 0  # another took it, or it is in use after all
    return size
