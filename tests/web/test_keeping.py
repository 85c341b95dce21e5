"""Copies of everything and the way back, one song as one file, what is cleared away, and how Valley says that it stands."""

import contextlib
import hashlib
import io
import json
import os
import random
import signal
import sqlite3
import subprocess
import sys
import time
import uuid
import zipfile
from datetime import timedelta
from pathlib import Path
from typing import Any

import pytest
from django.conf import settings
from django.core.files.uploadedfile import SimpleUploadedFile
from django.utils import timezone

from tests.web.conftest import PageClient
from valley.errors import FormatError
from valley_web.common.running import hold, is_running
from valley_web.keeping.backup import list_backups, make_backup, restore_backup, verify_backup
from valley_web.keeping.orphans import clear_orphans
from valley_web.songs import storage
from valley_web.songs.models import Recording, Revision, Song
from valley_web.songs.selectors import get_state


def fill(data: Path, songs: int = 3) -> Path:
    """A data folder as Valley keeps it, with as much of the database as a backup looks at."""
    (data / "recordings").mkdir(parents=True)
    with contextlib.closing(sqlite3.connect(data / "valley.sqlite3")) as database, database:
        database.execute("PRAGMA journal_mode=WAL")
        database.execute("CREATE TABLE songs_song (id INTEGER PRIMARY KEY, title TEXT, deleted_at TEXT)")
        database.execute("CREATE TABLE songs_recording (id INTEGER PRIMARY KEY, stored_name TEXT, sha256 TEXT)")
        for n in range(songs):
            content = random.Random(n).randbytes(200_000)
            name = uuid.UUID(int=n + 1).hex
            (data / "recordings" / name).write_bytes(content)
            database.execute("INSERT INTO songs_song (title) VALUES (?)", (f"Song {n}",))
            database.execute("INSERT INTO songs_recording (stored_name, sha256) VALUES (?, ?)", (name, hashlib.sha256(content).hexdigest()))
    return data


def titles(data: Path) -> list[str]:
    with contextlib.closing(sqlite3.connect(data / "valley.sqlite3")) as database:
        return [row[0] for row in database.execute("SELECT title FROM songs_song ORDER BY id")]


def test_a_copy_is_whole_and_brings_everything_back(tmp_path: Path) -> None:
    data = fill(tmp_path / "data")
    with contextlib.closing(sqlite3.connect(data / "valley.sqlite3")) as open_all_the_while:
        open_all_the_while.execute("UPDATE songs_song SET title = 'Renamed' WHERE id = 1")
        open_all_the_while.commit()
        made = make_backup(data, tmp_path / "copies")
        again = make_backup(data, tmp_path / "copies")
    assert made.path != again.path
    assert (made.songs, made.files, made.missing) == (3, 4, ())
    assert [b.path for b in list_backups(tmp_path / "copies")][0] == again.path
    assert verify_backup(made.path) == made
    with contextlib.closing(sqlite3.connect(data / "valley.sqlite3")) as database, database:
        database.execute("DELETE FROM songs_song")
    before = restore_backup(made.path, data)
    assert titles(data) == ["Renamed", "Song 1", "Song 2"]
    assert titles(before) == []
    assert len(list((data / "recordings").iterdir())) == 3
    assert {p.name for p in tmp_path.iterdir()} == {"data", "copies", before.name}


@pytest.mark.parametrize("harm", ["recording", "database", "gone", "manifest", "list"])
def test_a_damaged_copy_is_told_and_restores_nothing(tmp_path: Path, harm: str) -> None:
    data = fill(tmp_path / "data")
    copy = make_backup(data, tmp_path / "copies").path
    recording = next((copy / "recordings").iterdir())
    if harm == "recording":
        recording.unlink()
        recording.write_bytes(b"other")
    elif harm == "database":
        content = bytearray((copy / "valley.sqlite3").read_bytes())
        content[-200:] = b"\xff" * 200
        (copy / "valley.sqlite3").write_bytes(content)
    elif harm == "gone":
        recording.unlink()
    elif harm == "manifest":
        (copy / "manifest.json").write_text("{")
    else:
        manifest = json.loads((copy / "manifest.json").read_text())
        manifest["files"][0]["name"] = "../../data/valley.sqlite3"
        (copy / "manifest.json").write_text(json.dumps(manifest))
    with pytest.raises(FormatError):
        restore_backup(copy, data)
    assert titles(data) == ["Song 0", "Song 1", "Song 2"]


def test_a_recording_that_is_gone_is_told_and_the_rest_is_kept(tmp_path: Path) -> None:
    data = fill(tmp_path / "data")
    lost = next((data / "recordings").iterdir())
    lost.unlink()
    made = make_backup(data, tmp_path / "copies")
    assert made.missing == (lost.name,)
    assert verify_backup(made.path).files == 3


def test_killed_at_any_instant_a_copy_is_whole_or_not_there_and_the_data_are_the_old_or_the_restored_ones(tmp_path: Path) -> None:
    data = fill(tmp_path / "data", songs=6)
    good = make_backup(data, tmp_path / "good").path
    chance = random.Random(5)
    code = "import sys; from pathlib import Path; from valley_web.keeping.backup import *; a, b, c = map(Path, sys.argv[1:]); "
    code += "make_backup(a, b); restore_backup(c, a)"
    environment = os.environ | {"DJANGO_SETTINGS_MODULE": "tests.web.settings"}
    for _ in range(6):
        child = subprocess.Popen([sys.executable, "-c", code, str(data), str(tmp_path / "copies"), str(good)], env=environment)
        time.sleep(chance.uniform(0.25, 0.9))
        child.send_signal(signal.SIGKILL)
        child.wait()
        assert titles(data) == [f"Song {n}" for n in range(6)]
        assert len(list((data / "recordings").iterdir())) == 6
        for copy in list_backups(tmp_path / "copies"):
            assert verify_backup(copy.path).files == 7


def test_who_serves_a_folder_holds_it(tmp_path: Path) -> None:
    assert not is_running(tmp_path)
    held = hold(tmp_path)
    assert is_running(tmp_path)
    held.close()
    assert not is_running(tmp_path)


def send(site: PageClient, content: bytes) -> Any:
    return site.post("/api/songs/from-file", {"file": SimpleUploadedFile("a.valley.zip", content)}, headers={"X-CSRFToken": site.token})


def test_a_song_goes_into_one_file_and_comes_back_with_its_history(site: PageClient, heard_song: Song) -> None:
    path = f"songs/{heard_song.pk}"
    revision = site.get(f"/api/{path}/chart").json()["revision"]
    site.call("POST", f"{path}/edits", {"revision": revision, "edit": {"kind": "transpose_song", "half_steps": 2}})
    site.call("POST", f"{path}/log", {"text": "slower in the bridge"})
    site.change(path, {"rights": "asked, granted"})
    answer = site.get(f"/api/{path}/song-file")
    assert answer.status_code == 200 and ".valley.zip" in answer["Content-Disposition"]
    made = send(site, answer.content)
    assert made.status_code == 201, made.content
    first, other = Song.objects.get(pk=heard_song.pk), Song.objects.get(pk=made.json()["id"])
    assert (other.title, other.rights, other.revision, other.facts) == (first.title, first.rights, first.revision, first.facts)
    assert get_state(other) == get_state(first)
    kept = ("number", "parent", "what", "state", "edit", "made_at")
    assert list(Revision.objects.filter(song=other).values_list(*kept)) == list(Revision.objects.filter(song=first).values_list(*kept))
    assert list(other.log.values_list("text", flat=True)) == list(first.log.values_list("text", flat=True))
    recordings = [Recording.objects.get(song=s) for s in (first, other)]
    assert recordings[0].stored_name != recordings[1].stored_name
    assert storage.path_of(recordings[0].stored_name).read_bytes() == storage.path_of(recordings[1].stored_name).read_bytes()
    assert site.call("POST", f"songs/{other.pk}/undo", {"show": "chart"}).status_code == 200  # its history can be walked
    assert site.get(f"/api/songs/{other.pk}/lesson").status_code == 200


@pytest.mark.parametrize("harm", ["text", "empty", "json", "format", "state", "sound", "numbers", "nan"])
def test_a_song_file_that_is_none_is_refused_and_leaves_nothing(site: PageClient, heard_song: Song, harm: str) -> None:
    content = site.get(f"/api/songs/{heard_song.pk}/song-file").content
    with zipfile.ZipFile(io.BytesIO(content)) as archive:
        files = {name: archive.read(name) for name in archive.namelist()}
    document = json.loads(files["song.json"])
    if harm == "format":
        document["format"] = "another"
    if harm == "state":
        document["versions"][0]["state"]["chart"]["chords"] = "wild"
    if harm == "numbers":
        document["versions"].append(document["versions"][0])
    files["song.json"] = b"{" if harm == "json" else json.dumps(document).encode()
    if harm == "nan":
        files["song.json"] = files["song.json"].replace(b'"revision": 1', b'"revision": NaN')
    if harm == "sound":
        name = next(n for n in files if n.startswith("recording/"))
        files[name] = files[name][:-10] + b"0123456789"
    buffer = io.BytesIO()
    with zipfile.ZipFile(buffer, "w") as archive:
        for name, inside in files.items() if harm != "empty" else ():
            archive.writestr(name, inside)
    before = Song.objects.count(), len(list(settings.RECORDINGS_DIR.iterdir()))
    answer = send(site, b"only words" if harm == "text" else buffer.getvalue())
    assert answer.status_code == 422, answer.content
    assert answer.json()["title"]
    assert (Song.objects.count(), len(list(settings.RECORDINGS_DIR.iterdir()))) == before


def test_what_is_left_over_is_cleared_away_and_what_is_in_use_is_not(heard_song: Song) -> None:
    used = storage.path_of(Recording.objects.get(song=heard_song).stored_name)
    stray, young, foreign = (settings.RECORDINGS_DIR / name for name in (uuid.uuid4().hex, uuid.uuid4().hex, "notes.txt"))
    part = settings.UPLOAD_DIR / "x.part"
    for path in (stray, young, foreign, part):
        path.write_bytes(b"x" * 1000)
    long_ago = time.time() - 3 * 24 * 3600
    for path in (stray, foreign, part, used):
        os.utime(path, (long_ago, long_ago))
    assert clear_orphans() == 2000
    assert used.exists() and young.exists() and foreign.exists()
    assert not stray.exists() and not part.exists()
    Song.objects.filter(pk=heard_song.pk).update(deleted_at=timezone.now() - timedelta(days=29))
    clear_orphans()
    assert Song.objects.filter(pk=heard_song.pk).exists()
    Song.objects.filter(pk=heard_song.pk).update(deleted_at=timezone.now() - timedelta(days=31))
    clear_orphans()
    assert not Song.objects.filter(pk=heard_song.pk).exists()
    assert not used.exists()


def test_how_it_stands_is_told(site: PageClient, heard_song: Song, tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(settings, "BACKUPS_DIR", tmp_path / "copies")
    monkeypatch.setattr(settings, "DATA_DIR", fill(tmp_path / "data"))
    told = site.get("/api/health").json()
    assert (told["songs"], told["last_backup"]) == (1, None)
    assert told["recordings"] > 0 and told["database"] > 0 and told["disk_free"] > 0
    assert "No copy of your work has been made yet." in told["troubles"]
    assert site.call("POST", "backups").status_code == 201
    assert site.get("/api/backups").json()[0]["place"].startswith(str(tmp_path))
    told = site.get("/api/health").json()
    assert told["last_backup"] and not [t for t in told["troubles"] if "No copy" in t]
