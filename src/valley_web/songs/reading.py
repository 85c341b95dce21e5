"""Files of notes, read: short ones here, long ones in a process of their own, with bounds, so that no file holds up or brings down the others' server."""

import io
import json
import os
import subprocess
import sys
import zipfile
from threading import BoundedSemaphore
from typing import Any

from valley.errors import FormatError
from valley.formats.score_json import read_score
from valley.formats.song_json import read_song
from valley.model.score import Score
from valley.pipeline.readers import read_any_score, read_any_song
from valley.song import SongState

SHORT = 64_000  # bytes; some thirty bars of MusicXML, read at once: starting a process takes longer
SECONDS = 60  # of computing that a long file may take; 2,000 bars take ten
_PATIENCE = 3.0  # times as long by the clock, where others compute as well
_ONE_THREAD = {"OPENBLAS_NUM_THREADS": "1", "OMP_NUM_THREADS": "1"}  # each thread of many cores would set memory aside, within the same bound
_AT_A_TIME = BoundedSemaphore(2)


def read_song_file(data: bytes, name: str) -> SongState:
    """The song in a file of notes or chords; FormatError names the file's fault."""
    return read_any_song(data, name) if _weigh(data) <= SHORT else read_song(_read_apart("song", data, name))


def read_performance(data: bytes, name: str) -> Score:
    """The notes of a MusicXML or MIDI file, as they are played."""
    return read_any_score(data, name) if _weigh(data) <= SHORT else read_score(_read_apart("score", data, name))


def _weigh(data: bytes) -> int:
    """Bytes, of what is packed once it is unpacked."""
    if data[:2] != b"PK":
        return len(data)
    try:
        with zipfile.ZipFile(io.BytesIO(data)) as archive:
            return sum(entry.file_size for entry in archive.infolist())
    except zipfile.BadZipFile:
        return len(data)


def _read_apart(what: str, data: bytes, name: str, *, seconds: int = SECONDS) -> Any:
    with _AT_A_TIME:
        try:
            done = subprocess.run(
                _child(what, name, seconds), input=data, capture_output=True, timeout=seconds * _PATIENCE, check=False, env=os.environ | _ONE_THREAD
            )
        except subprocess.TimeoutExpired as error:
            raise FormatError(_too_long(name, seconds)) from error
    if done.returncode == 0:
        return json.loads(done.stdout)
    told = done.stderr.decode(errors="replace").strip().splitlines()
    if done.returncode == 2 and told:
        raise FormatError(told[-1])
    raise FormatError(_too_long(name, seconds) if done.returncode < 0 else f"{name!r} cannot be read: it is damaged, or takes more memory than there is")


def _child(what: str, name: str, seconds: int) -> list[str]:
    return [sys.executable, "-m", "valley.pipeline.read_child", what, name, str(seconds)]


def _too_long(name: str, seconds: int) -> str:
    return f"{name!r} takes more than {seconds} seconds to read; a longer song is read in several files"
