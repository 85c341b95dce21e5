"""One song as one file, with its history: to keep, to send to another Valley, to read in again as a song of its own.

A zip with song.json (title, rights, wishes, every version with what made it, log, what was heard), evidence.npz and the recording under the name
that it came with.
"""

import io
import json
import zipfile
from collections.abc import Iterator
from datetime import datetime
from pathlib import Path, PurePosixPath
from typing import Any, BinaryIO

from django.conf import settings
from django.db import transaction
from django.utils.dateparse import parse_datetime

from valley.errors import FormatError, ValleyError
from valley.formats.edit_json import read_edit
from valley.formats.hearing_json import read_hearing
from valley.formats.song_json import read_song
from valley.theory.amounts import require_plain_numbers
from valley_web.songs import storage, way
from valley_web.songs.deeds import note_deed
from valley_web.songs.models import HearingRecord, LogEntry, Recording, Revision, Song
from valley_web.songs.selectors import get_state

FORMAT, VERSION = "valley-song-file", 1
ENDING = ".valley.zip"
_DOCUMENT, _EVIDENCE = "song.json", "evidence.npz"
_MOST_JSON = 200 * 2**20
_MOST_EVIDENCE = 20 * 2**20
_MOST_VERSIONS = 5000
_SONG = ("title", "rights", "wanted", "stage", "first_choices", "created_at")
_VERSION = ("number", "parent", "state", "what", "name", "edit", "kept_aside", "actor", "made_at")
_LOG = ("kind", "text", "bar", "count", "revision", "about", "actor", "made_at")
_RECORDING = ("original_name", "content_type", "size", "sha256", "duration", "warning", "loudness", "actor")


def _row(item: Any, fields: tuple[str, ...]) -> dict[str, Any]:
    found = {name: getattr(item, name) for name in fields}
    return {name: value.isoformat() if isinstance(value, datetime) else value for name, value in found.items()}


def dump_song_file(song: Song) -> bytes:
    """The whole song as a zip.

    Parameters
    ----------
    song : one that is on the shelf
    """
    recording = Recording.objects.filter(song=song).first()
    heard = HearingRecord.objects.filter(recording=recording).first() if recording else None
    document = {
        "format": FORMAT,
        "version": VERSION,
        "song": _row(song, _SONG) | {"revision": song.revision},
        "versions": [_row(r, _VERSION) for r in Revision.objects.filter(song=song)],
        "log": [_row(entry, _LOG) for entry in LogEntry.objects.filter(song=song)],
        "recording": _row(recording, _RECORDING) if recording else None,
        "hearing": heard.document if heard else None,
    }
    buffer = io.BytesIO()
    with zipfile.ZipFile(buffer, "w", zipfile.ZIP_DEFLATED) as archive:
        archive.writestr(_DOCUMENT, json.dumps(document, ensure_ascii=False))
        if heard and heard.evidence:
            archive.writestr(_EVIDENCE, bytes(heard.evidence), zipfile.ZIP_STORED)
        if recording and storage.path_of(recording.stored_name).is_file():
            archive.write(storage.path_of(recording.stored_name), f"recording/{PurePosixPath(recording.original_name).name}", zipfile.ZIP_STORED)
    return buffer.getvalue()


def read_song_file(file: BinaryIO, *, actor: str) -> Song:
    """A new song with everything that a file holds, or FormatError and nothing at all.

    Parameters
    ----------
    file : of ``dump_song_file``
    actor : who reads it in
    """
    try:
        with zipfile.ZipFile(file) as archive:
            document = _read_document(archive)
            evidence = _take(archive, _EVIDENCE, _MOST_EVIDENCE) if _EVIDENCE in archive.namelist() else b""
            return _keep(document, evidence, archive, actor)
    except FormatError:
        raise
    except (ValleyError, zipfile.BadZipFile, zipfile.LargeZipFile, NotImplementedError, RuntimeError, EOFError, KeyError, TypeError, ValueError) as error:
        raise FormatError(f"this is no song file of Valley, or it is damaged: {error}") from error


def _take(archive: zipfile.ZipFile, name: str, most: int) -> bytes:
    with archive.open(name) as inside:
        content = inside.read(most + 1)
    if len(content) > most:
        raise FormatError(f"{name} holds more than {most // 2**20} MB")
    return content


def _read_document(archive: zipfile.ZipFile) -> dict[str, Any]:
    text = _take(archive, _DOCUMENT, _MOST_JSON).decode("utf-8")
    require_plain_numbers(text)
    document: dict[str, Any] = json.loads(text)
    if document["format"] != FORMAT or not 1 <= int(document["version"]) <= VERSION:
        raise FormatError(f"{document['format']} of version {document['version']} is not read here; {FORMAT} up to version {VERSION} is")
    if len(document["versions"]) > _MOST_VERSIONS:
        raise FormatError(f"{len(document['versions'])} versions are more than the {_MOST_VERSIONS} that are read")
    for version in document["versions"]:
        read_song(version["state"])  # what is kept must be readable for good
        if version["edit"] is not None:
            read_edit(version["edit"])
    numbers = [int(v["number"]) for v in document["versions"]]
    if len(set(numbers)) != len(numbers) or (document["song"]["revision"] and int(document["song"]["revision"]) not in numbers):
        raise FormatError("its versions are not numbered as they must be; the file was changed")
    if document["hearing"] is not None:
        read_hearing(document["hearing"])
    return document


def _keep(document: dict[str, Any], evidence: bytes, archive: zipfile.ZipFile, actor: str) -> Song:
    stored = ""
    told = document["recording"]
    try:
        if told:
            name = next((n for n in archive.namelist() if n.startswith("recording/")), "")
            if not name:
                raise FormatError("the recording that it speaks of is not in it")
            stored, size, sha256 = storage.store_file(_pieces(archive, name))
            if sha256 != told["sha256"]:
                raise FormatError("the recording in it is damaged: its bytes are not those that were kept")
        with transaction.atomic():
            song = _create(document, told, stored, evidence, actor)
            note_deed("read in with its history", actor=actor, song=song)
        return song
    except BaseException:
        if stored:
            storage.drop_file(stored)
        raise


def _pieces(archive: zipfile.ZipFile, name: str) -> Iterator[bytes]:
    left = int(settings.MAX_UPLOAD_BYTES)
    with archive.open(name) as inside:
        while chunk := inside.read(2**20):
            left -= len(chunk)
            if left < 0:
                raise FormatError(f"its recording is larger than {settings.MAX_UPLOAD_BYTES // 2**20} MB")
            yield chunk


def _create(document: dict[str, Any], told: dict[str, Any] | None, stored: str, evidence: bytes, actor: str) -> Song:
    row = document["song"]
    song = Song.objects.create(
        title=str(row["title"])[:200] or "Untitled song",
        rights=str(row["rights"])[:1000],
        wanted=str(row["wanted"])[:300],
        stage=max(0, min(int(row["stage"]), 50)),
        first_choices=dict(row["first_choices"]),
        revision=int(row["revision"]),
    )
    for version in document["versions"]:
        fields = {name: version[name] for name in _VERSION} | {"made_at": parse_datetime(str(version["made_at"])), "actor": str(version["actor"])[:150]}
        Revision.objects.create(song=song, **fields | {"what": str(version["what"])[:300], "name": str(version["name"])[:80]})
    for entry in document["log"]:
        fields = {name: entry[name] for name in _LOG} | {"made_at": parse_datetime(str(entry["made_at"])), "actor": str(entry["actor"])[:150]}
        LogEntry.objects.create(song=song, **fields | {"text": str(entry["text"])[:500], "about": str(entry["about"])[:80]})
    if told:
        fields = {name: told[name] for name in _RECORDING} | {"actor": actor, "original_name": Path(str(told["original_name"])).name[:255]}
        fields |= {"stored_name": stored, "content_type": storage.guess_type(stored), "size": storage.path_of(stored).stat().st_size}
        recording = Recording.objects.create(song=song, **fields)
        if document["hearing"] is not None:
            HearingRecord.objects.create(recording=recording, document=document["hearing"], evidence=evidence)
    if song.revision:
        way.note_chart(song, get_state(song).chart)
    return song
