"""Keeping: how Valley stands, copies of everything, one song as one file."""

import re
from datetime import datetime
from pathlib import Path
from typing import BinaryIO, cast
from urllib.parse import quote

from django.conf import settings
from django.db import connection
from django.http import HttpRequest, HttpResponse
from ninja import File, Router, Schema, Status
from ninja.files import UploadedFile

from valley.errors import FormatError
from valley_web.common.auth import name_actor
from valley_web.common.errors import Unfit
from valley_web.common.problems import Problem
from valley_web.keeping.backup import Backup, list_backups, make_backup
from valley_web.keeping.health import look_after
from valley_web.keeping.song_file import ENDING, dump_song_file, read_song_file
from valley_web.songs.deeds import note_deed
from valley_web.songs.selectors import get_song

router = Router()
PROBLEMS = {frozenset({400, 404, 409, 413, 422, 507}): Problem}


class HealthOut(Schema):
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
    troubles: list[str]


class BackupOut(Schema):
    name: str
    made: datetime
    songs: int
    files: int
    size: int
    missing: int
    place: str


class ReadInOut(Schema):
    id: int
    title: str


def _show(backup: Backup) -> BackupOut:
    return BackupOut(
        name=backup.path.name,
        made=backup.made,
        songs=backup.songs,
        files=backup.files,
        size=backup.size,
        missing=len(backup.missing),
        place=str(backup.path),
    )


@router.get("/health", response=HealthOut)
def get_health(request: HttpRequest) -> HealthOut:
    """How Valley stands."""
    return HealthOut.from_orm(look_after())


@router.get("/backups", response=list[BackupOut])
def get_backups(request: HttpRequest) -> list[BackupOut]:
    """Copies of everything, the newest first."""
    return [_show(b) for b in list_backups(settings.BACKUPS_DIR)]


@router.post("/backups", response={201: BackupOut, **PROBLEMS})
def keep_copy(request: HttpRequest) -> Status[BackupOut]:
    """Make a copy of everything, while Valley runs."""
    try:
        made = make_backup(settings.DATA_DIR, settings.BACKUPS_DIR, database=Path(connection.settings_dict["NAME"]))
    except FormatError as error:
        raise Unfit(str(error), "The database may be damaged; see the README on how to bring a copy back.") from error
    note_deed("made a copy of everything", actor=name_actor(request))
    return Status(201, _show(made))


@router.get("/songs/{song_id}/song-file", include_in_schema=False)
def take_song_file(request: HttpRequest, song_id: int) -> HttpResponse:
    """The whole song as one file, with its history."""
    song = get_song(song_id)
    response = HttpResponse(dump_song_file(song), content_type="application/zip")
    name = f"{song.title}{ENDING}"
    plain = re.sub(r"[^A-Za-z0-9 ._-]", "_", name)
    response["Content-Disposition"] = f"attachment; filename=\"{plain}\"; filename*=UTF-8''{quote(name)}"
    return response


@router.post("/songs/from-file", response={201: ReadInOut, **PROBLEMS})
def read_in(request: HttpRequest, file: File[UploadedFile]) -> Status[ReadInOut]:
    """A song from its file, with its history, as a song of its own."""
    try:
        song = read_song_file(cast(BinaryIO, file.file), actor=name_actor(request))
    except FormatError as error:
        raise Unfit(str(error), "Take the file from its Valley again.") from error
    return Status(201, ReadInOut(id=song.pk, title=song.title))
