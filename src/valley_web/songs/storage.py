"""Recordings on disk: written whole or not at all, under names that we choose."""

import hashlib
import os
import uuid
from collections.abc import Iterable, Iterator
from pathlib import Path

from django.conf import settings

# What a browser is told, by what the file begins with; the upload's own claims are not trusted.
_SIGNATURES: tuple[tuple[int, bytes, str], ...] = (
    (0, b"ID3", "audio/mpeg"),
    (0, b"\xff\xfb", "audio/mpeg"),
    (0, b"\xff\xf3", "audio/mpeg"),
    (0, b"OggS", "audio/ogg"),
    (0, b"fLaC", "audio/flac"),
    (8, b"WAVE", "audio/wav"),
    (4, b"ftyp", "audio/mp4"),
    (0, b"\x1aE\xdf\xa3", "audio/webm"),
)


def store_file(chunks: Iterable[bytes]) -> tuple[str, int, str]:
    """Write chunks to a new file; gives (stored name, size, sha256)."""
    name = uuid.uuid4().hex
    target = settings.RECORDINGS_DIR / name
    temporary = settings.UPLOAD_DIR / f"{name}.part"
    digest, size = hashlib.sha256(), 0
    try:
        with temporary.open("wb") as file:
            for chunk in chunks:
                file.write(chunk)
                digest.update(chunk)
                size += len(chunk)
            file.flush()
            os.fsync(file.fileno())
        os.replace(temporary, target)
    except BaseException:
        temporary.unlink(missing_ok=True)
        raise
    return name, size, digest.hexdigest()


def path_of(stored_name: str) -> Path:
    """Where a stored recording lies; only names that we made are taken."""
    return Path(settings.RECORDINGS_DIR) / uuid.UUID(stored_name).hex


def film_path(stored_name: str) -> Path:
    """Where a film lies; only names that we made are taken."""
    return Path(settings.FILMS_DIR) / uuid.UUID(stored_name).hex


def keep_film_file(source: Path) -> tuple[str, int]:
    """Take over a finished film; gives (stored name, size)."""
    name = uuid.uuid4().hex
    with source.open("rb") as file:
        os.fsync(file.fileno())
    os.replace(source, film_path(name))
    return name, film_path(name).stat().st_size


def stretches_of_film(wanted: str) -> Path:
    """Where the stretches of a film lie that is not finished, by what was asked for; what is left alone for a day is cleared like every unfinished file."""
    return Path(settings.UPLOAD_DIR) / f"film-{hashlib.sha256(wanted.encode()).hexdigest()[:32]}"


def read_chunks(stored_name: str, size: int = 2**20) -> Iterator[bytes]:
    """A stored file piece by piece."""
    with path_of(stored_name).open("rb") as file:
        while chunk := file.read(size):
            yield chunk


def drop_file(stored_name: str) -> None:
    path_of(stored_name).unlink(missing_ok=True)


def guess_type(stored_name: str) -> str:
    """Content type from the file's first bytes."""
    with path_of(stored_name).open("rb") as file:
        head = file.read(16)
    for offset, magic, kind in _SIGNATURES:
        if head[offset : offset + len(magic)] == magic:
            return kind
    return "application/octet-stream"
