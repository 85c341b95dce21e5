"""A copy of everything, made while Valley runs, and the way back from it.

A backup is a folder: the database by SQLite's own online copy, every recording that the database names, and a list of all files with their
SHA-256. It is written beside its place and gets its name last, so that a folder with that name is whole. Recordings never change once they are
stored, so they are linked where the disk can do that, and take no room of their own.
"""

import contextlib
import ctypes
import hashlib
import json
import os
import shutil
import sqlite3
from collections.abc import Callable
from dataclasses import dataclass
from datetime import datetime
from pathlib import Path
from typing import Any

from django.utils import timezone

from valley.errors import FormatError

FORMAT, VERSION = "valley-backup", 1
DATABASE, FOLDER, MANIFEST = "valley.sqlite3", "recordings", "manifest.json"
_EXCHANGE, _HERE = 2, -100  # of renameat2(2): swap two names at once, relative to the working folder
Told = Callable[[str], None]


@dataclass(frozen=True)
class Backup:
    """A backup that is there: when it was made, how many songs and files it holds, their bytes, and recordings that were already gone."""

    path: Path
    made: datetime
    songs: int
    files: int
    size: int
    missing: tuple[str, ...]


def sum_of(path: Path) -> str:
    digest = hashlib.sha256()
    with path.open("rb") as file:
        while chunk := file.read(2**20):
            digest.update(chunk)
    return digest.hexdigest()


def make_backup(data: Path, target: Path, tell: Told = lambda words: None, *, database: Path | None = None) -> Backup:
    """Write a backup of a data folder into ``target``, under a name that says when; ``database`` is its database, where it has another name.

    Raises
    ------
    OSError
        the disk is full, or ``target`` cannot be written; nothing is left behind
    FormatError
        the copy does not hold what the database says of it
    """
    now = timezone.now()
    name = f"valley-{now:%Y-%m-%d-%H%M%S}"
    whole, part = target / name, target / f".{name}.part"
    number = 1
    while whole.exists() or part.exists():
        number += 1
        whole, part = target / f"{name}-{number}", target / f".{name}-{number}.part"
    (part / FOLDER).mkdir(parents=True)
    try:
        tell("Copying the database")
        _copy_database(database or data / DATABASE, part / DATABASE)
        songs, recordings = _look(part / DATABASE)
        missing = []
        for i, (stored, sha256) in enumerate(recordings, 1):
            tell(f"Recording {i} of {len(recordings)}")
            if not _take(data / FOLDER / stored, part / FOLDER / stored, sha256):
                missing.append(stored)
        rows = [{"name": str(p.relative_to(part)), "bytes": p.stat().st_size, "sha256": sum_of(p)} for p in sorted(part.rglob("*")) if p.is_file()]
        manifest = {"format": FORMAT, "version": VERSION, "made": now.isoformat(), "songs": songs, "missing": missing, "files": rows}
        _write(part / MANIFEST, json.dumps(manifest, indent=1).encode())
        os.replace(part, whole)
    except BaseException:
        shutil.rmtree(part, ignore_errors=True)
        raise
    return read_backup(whole)


def _copy_database(source: Path, target: Path) -> None:
    try:
        with contextlib.closing(sqlite3.connect(f"file:{source}?mode=ro", uri=True, timeout=20)) as here, contextlib.closing(sqlite3.connect(target)) as there:
            here.backup(there)  # in one step, from one moment: between steps every write would make it begin anew
            there.execute("PRAGMA journal_mode=DELETE")
    except sqlite3.Error as error:
        raise FormatError(f"the database {source.name} cannot be copied: {error}") from error
    check_database(target)
    with target.open("rb") as file:
        os.fsync(file.fileno())


def check_database(path: Path) -> None:
    """FormatError where a database is damaged, with what SQLite says of it."""
    try:
        with contextlib.closing(sqlite3.connect(f"file:{path}?mode=ro", uri=True)) as found:
            said = [str(row[0]) for row in found.execute("PRAGMA integrity_check").fetchmany(3)]
    except sqlite3.DatabaseError as error:
        said = [str(error)]
    if said != ["ok"]:
        raise FormatError(f"{path.name} is damaged: {'; '.join(said)}")


def _look(database: Path) -> tuple[int, list[tuple[str, str]]]:
    """How many songs there are, and every recording with its sum."""
    with contextlib.closing(sqlite3.connect(f"file:{database}?mode=ro", uri=True)) as found:
        songs = int(found.execute("SELECT COUNT(*) FROM songs_song WHERE deleted_at IS NULL").fetchone()[0])
        rows = found.execute("SELECT stored_name, sha256 FROM songs_recording ORDER BY id").fetchall()
    return songs, [(str(name), str(sha256)) for name, sha256 in rows]


def _take(source: Path, target: Path, sha256: str) -> bool:
    """Link or copy one recording; False where it is not there, or not what it was."""
    if not source.is_file() or sum_of(source) != sha256:
        return False
    try:
        os.link(source, target)
    except OSError:
        shutil.copy2(source, target)
    return True


def _write(path: Path, content: bytes) -> None:
    with path.open("wb") as file:
        file.write(content)
        file.flush()
        os.fsync(file.fileno())


def read_backup(path: Path) -> Backup:
    """What a backup says of itself, or FormatError."""
    try:
        manifest: dict[str, Any] = json.loads((path / MANIFEST).read_text("utf-8"))
        if manifest["format"] != FORMAT or manifest["version"] > VERSION:
            raise FormatError(f"{path} is a {manifest['format']} of version {manifest['version']}; this Valley reads {FORMAT} up to version {VERSION}")
        files = manifest["files"]
        size, missing = sum(int(f["bytes"]) for f in files), tuple(manifest["missing"])
        return Backup(path, datetime.fromisoformat(manifest["made"]), int(manifest["songs"]), len(files), size, missing)
    except (OSError, ValueError, KeyError, TypeError) as error:
        raise FormatError(f"{path} is no backup of Valley: {MANIFEST} cannot be read ({error})") from error


def list_backups(target: Path) -> list[Backup]:
    """Every whole backup in a folder, the newest first."""
    found = []
    for path in sorted(target.glob("valley-*"), reverse=True) if target.is_dir() else []:
        with contextlib.suppress(FormatError):
            found.append(read_backup(path))
    return sorted(found, key=lambda b: b.made, reverse=True)


def verify_backup(path: Path, tell: Told = lambda words: None) -> Backup:
    """Hold every file against its sum, and the database against itself; FormatError names the first that is wrong."""
    found = read_backup(path)
    rows = json.loads((path / MANIFEST).read_text("utf-8"))["files"]
    for i, row in enumerate(rows, 1):
        tell(f"Checking file {i} of {len(rows)}")
        file = (path / str(row["name"])).resolve()
        if path.resolve() not in file.parents or not file.is_file():
            raise FormatError(f"{row['name']} is missing from {path}; the backup is not whole")
        if sum_of(file) != row["sha256"]:
            raise FormatError(f"{row['name']} in {path} is not what was backed up: its bytes have changed")
    check_database(path / DATABASE)
    return found


def restore_backup(path: Path, data: Path, tell: Told = lambda words: None) -> Path:
    """Put a backup in the place of a data folder, which is kept under another name; gives that name.

    The backup is checked, written to a new folder beside the data folder, and the two change names in one step where the system can: whatever
    happens, the old state or the restored one is there. Valley must not be running.
    """
    verify_backup(path, tell)
    data.parent.mkdir(parents=True, exist_ok=True)
    fresh = data.with_name(f"{data.name}.restoring")
    shutil.rmtree(fresh, ignore_errors=True)
    (fresh / FOLDER).mkdir(parents=True)
    tell("Writing the restored folder")
    shutil.copy2(path / DATABASE, fresh / DATABASE)
    for file in (path / FOLDER).iterdir():
        try:
            os.link(file, fresh / FOLDER / file.name)
        except OSError:
            shutil.copy2(file, fresh / FOLDER / file.name)
    key = data / "secret_key"
    if key.is_file():
        shutil.copy2(key, fresh / key.name)  # who is signed in stays so
    for file in fresh.rglob("*"):
        if file.is_file():
            with file.open("rb") as opened:
                os.fsync(opened.fileno())
    before = data.with_name(f"{data.name}.before-{timezone.now():%Y-%m-%d-%H%M%S}")
    if data.exists():
        if not _swap(fresh, data):
            os.rename(data, before)
            os.rename(fresh, data)
            return before
        os.rename(fresh, before)
    else:
        os.rename(fresh, data)
    return before


def _swap(one: Path, other: Path) -> bool:
    """Two folders change names at once; False where this system cannot."""
    try:
        library = ctypes.CDLL(None, use_errno=True)
        done: int = library.renameat2(_HERE, os.fsencode(one), _HERE, os.fsencode(other), _EXCHANGE)
    except (OSError, AttributeError):
        return False
    return done == 0
