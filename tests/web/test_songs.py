"""The shelf and recordings: adding, finding, changing, deleting, bringing back."""

from typing import Any

import pytest
from django.conf import settings
from django.test import Client
from pytest_django import DjangoAssertNumQueries

from tests.web.conftest import PageClient
from valley_web.songs import storage
from valley_web.songs.models import ListeningJob, Recording, Song
from valley_web.songs.services import Upload, add_recording, title_from


def test_a_recording_becomes_a_song_in_line(site: PageClient, wav_bytes: bytes) -> None:
    response = site.upload("Blue Ladder_take 2.wav", wav_bytes)
    assert response.status_code == 201
    body = response.json()
    assert body["title"] == "Blue Ladder take 2"
    assert body["standing"] == "waiting"
    assert body["job"]["state"] == "waiting"
    recording = Recording.objects.get()
    assert recording.content_type == "audio/wav"
    assert storage.path_of(recording.stored_name).read_bytes() == wav_bytes


@pytest.mark.parametrize(
    ("name", "title"),
    [
        ("../../etc/passwd.mp3", "passwd"),
        ("C:\\music\\tune.mp3", "tune"),
        ("  .mp3", "Untitled song"),
        ("夜の歌 ♪.mp3", "夜の歌 ♪"),
        ("a" * 400 + ".mp3", "a" * 200),
        ("tab\tname\n.wav", "tab name"),
        ("", "Untitled song"),
        ("x'; DROP TABLE.mp3", "x'; DROP TABLE"),
    ],
)
def test_names_are_only_ever_shown(name: str, title: str) -> None:
    assert title_from(name) == title


def test_odd_names_never_become_paths(site: PageClient, wav_bytes: bytes) -> None:
    assert site.upload("../../../escape.wav", wav_bytes).status_code == 201
    assert not (settings.DATA_DIR.parent / "escape.wav").exists()
    assert len(Recording.objects.get().stored_name) == 32


def test_the_same_file_twice_is_noticed_and_can_be_meant(site: PageClient, wav_bytes: bytes) -> None:
    first = site.upload("one.wav", wav_bytes).json()
    again = site.upload("two.wav", wav_bytes)
    assert again.status_code == 409
    assert again.json()["kind"] == "twin"
    assert again.json()["data"]["song"] == first["id"]
    assert len(list(settings.RECORDINGS_DIR.iterdir())) == 1
    assert site.upload("two.wav", wav_bytes, again="true").status_code == 201
    assert Song.objects.count() == 2


def test_an_empty_file_is_refused_in_a_sentence(site: PageClient) -> None:
    response = site.upload("empty.mp3", b"")
    assert response.status_code == 400
    assert "empty (0 bytes)" in response.json()["title"]
    assert Song.objects.count() == 0


def test_too_large_a_file_is_refused_before_it_is_stored(site: PageClient, wav_bytes: bytes, settings: Any) -> None:
    settings.MAX_UPLOAD_BYTES = -1_000_000
    response = site.upload("large.wav", wav_bytes)
    assert response.status_code == 413
    assert "larger than" in response.json()["title"]
    assert Song.objects.count() == 0


def test_a_full_disk_is_said_and_nothing_is_lost(site: PageClient, wav_bytes: bytes, heard_song: Song, monkeypatch: pytest.MonkeyPatch) -> None:
    def full(*args: object) -> None:
        raise OSError(28, "No space left on device")

    monkeypatch.setattr(storage.os, "fsync", full)
    response = site.upload("late.wav", wav_bytes + b"\0", again="true")
    assert response.status_code == 507
    assert "disk is full" in response.json()["title"]
    assert Song.objects.count() == 1
    assert not list(settings.UPLOAD_DIR.glob("*.part"))
    assert site.get(f"/api/songs/{heard_song.pk}/chart").status_code == 200


def test_a_failed_save_leaves_no_file_behind(db: None, wav_bytes: bytes, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(ListeningJob.objects, "create", lambda **kw: (_ for _ in ()).throw(RuntimeError("broken")))
    with pytest.raises(RuntimeError, match="broken"):
        add_recording(Upload("a.wav", len(wav_bytes), [wav_bytes]))
    assert list(settings.RECORDINGS_DIR.iterdir()) == []
    assert Song.objects.count() == 0


def test_the_shelf_takes_few_queries_however_full(
    site: PageClient, heard_song: Song, wav_bytes: bytes, django_assert_num_queries: DjangoAssertNumQueries
) -> None:
    for i in range(8):
        add_recording(Upload(f"{i}.wav", len(wav_bytes), [wav_bytes]), again=True)
    with django_assert_num_queries(6):  # counts, numbers, songs, jobs, past times, new comments
        songs = [row["song"] for row in site.get("/api/shelf").json()["rows"]]
    assert len(songs) == 9
    heard = next(s for s in songs if s["id"] == heard_song.pk)
    assert heard["facts"].startswith("C major, then D major · 4/4 · 120")


def test_a_song_is_renamed_removed_and_brought_back(site: PageClient, heard_song: Song) -> None:
    path = f"songs/{heard_song.pk}"
    changed = site.change(path, {"title": "Evening"}).json()
    assert changed["title"] == "Evening"
    assert site.change(path, {"rights": " My own song. "}).json()["rights"] == "My own song."
    assert site.get(f"/api/{path}/chart").json()["title"] == "Evening"
    assert site.call("DELETE", path).status_code == 204
    assert site.get(f"/api/{path}").status_code == 404
    assert site.get("/api/shelf").json()["rows"] == []
    assert [r["song"]["id"] for r in site.get("/api/shelf?deleted=true").json()["rows"]] == [heard_song.pk]
    assert site.call("POST", f"{path}/restore").json()["title"] == "Evening"


def test_a_copy_is_a_song_of_its_own_with_its_own_file(site: PageClient, heard_song: Song) -> None:
    made = site.call("POST", f"songs/{heard_song.pk}/copy")
    assert made.status_code == 201, made.json()
    copy = Song.objects.get(pk=made.json()["id"])
    assert (copy.title, copy.revision, copy.bars) == ("my take (copy)", 1, heard_song.bars)
    assert copy.recording.stored_name != heard_song.recording.stored_name and copy.recording.sha256 == heard_song.recording.sha256
    edit = {"revision": 1, "edit": {"kind": "transpose_song", "half_steps": 2}}
    chart = site.call("POST", f"songs/{copy.pk}/edits", edit).json()["chart"]
    assert chart["transposed"] == 2 and "the recording sounds 2 half steps lower" in chart["headline"]
    there = site.get(f"/api/songs/{heard_song.pk}/chart").json()
    assert there["transposed"] == 0 and there["bars"][0]["agreement"] == chart["bars"][0]["agreement"]
    site.call("DELETE", f"songs/{heard_song.pk}")
    assert site.get(f"/recordings/{copy.recording.pk}").status_code == 200


def test_a_title_that_is_empty_is_refused(site: PageClient, heard_song: Song) -> None:
    assert site.change(f"songs/{heard_song.pk}", {"title": "  "}).status_code == 422
    heard_song.refresh_from_db()
    assert (heard_song.title, heard_song.revision) == ("my take", 1)


@pytest.mark.parametrize("change", [{"minutes": 1}, {"order": [9]}, {"order": [1, 1]}])
def test_plans_that_make_no_sense_are_refused(site: PageClient, heard_song: Song, change: dict[str, object]) -> None:
    response = site.call("POST", f"songs/{heard_song.pk}/edits", {"revision": 1, "edit": {"kind": "plan_lessons"} | change})
    assert response.status_code == 422
    heard_song.refresh_from_db()
    assert heard_song.revision == 1


def test_a_plan_is_part_of_the_song_and_is_undone_with_it(site: PageClient, heard_song: Song) -> None:
    path = f"songs/{heard_song.pk}"
    planned = site.call("POST", f"{path}/edits", {"revision": 1, "edit": {"kind": "plan_lessons", "order": [2, 1], "minutes": 5}}).json()["chart"]
    assert (planned["lesson_order"], planned["lesson_minutes"]) == ([2, 1], 5)
    split = site.call("POST", f"{path}/edits", {"revision": 2, "edit": {"kind": "split_part", "bar": 2}}).json()["chart"]
    assert split["lesson_order"] == [3, 1]  # part 2 is part 3 now
    site.call("POST", f"{path}/undo", {})
    assert site.call("POST", f"{path}/undo", {}).json()["chart"]["lesson_order"] == [1, 2]


def test_what_is_not_here_says_where_to_go(site: PageClient) -> None:
    for path in ("songs/99", "songs/99/chart", "songs/99/handouts"):
        response = site.get(f"/api/{path}")
        assert response.status_code == 404
        assert response["Content-Type"] == "application/problem+json"
        assert "shelf" in response.json()["detail"]
    assert site.call("POST", "jobs/99/cancel").status_code == 404
    assert site.call("POST", "songs/99/restore").status_code == 404


def test_recordings_can_be_sought_in(site: PageClient, heard_song: Song, wav_bytes: bytes) -> None:
    address = f"/recordings/{heard_song.recording.pk}"

    def fetch(header: str | None = None) -> Any:
        return site.get(address, headers={"Range": header} if header else {})

    whole = fetch()
    assert whole.status_code == 200
    assert whole["Accept-Ranges"] == "bytes"
    assert b"".join(whole.streaming_content) == wav_bytes
    part = fetch("bytes=100-199")
    assert part.status_code == 206
    assert part["Content-Range"] == f"bytes 100-199/{len(wav_bytes)}"
    assert b"".join(part.streaming_content) == wav_bytes[100:200]
    assert b"".join(fetch("bytes=-50").streaming_content) == wav_bytes[-50:]
    assert b"".join(fetch(f"bytes={len(wav_bytes) - 10}-").streaming_content) == wav_bytes[-10:]
    refused = fetch(f"bytes={len(wav_bytes)}-")
    assert refused.status_code == 416
    assert refused["Content-Range"] == f"bytes */{len(wav_bytes)}"
    assert fetch("bytes=junk").status_code == 200


def test_answers_are_compressed_and_recordings_are_not(site: PageClient, heard_song: Song) -> None:
    chart = site.get(f"/api/songs/{heard_song.pk}/chart", headers={"accept-encoding": "gzip"})
    assert chart["Content-Encoding"] == "gzip" and len(chart.content) < 20_000
    piece = site.get(f"/recordings/{heard_song.recording.pk}", headers={"accept-encoding": "gzip", "range": "bytes=100-1099"})
    assert piece.status_code == 206 and not piece.has_header("Content-Encoding")
    assert len(b"".join(piece.streaming_content)) == 1000  # type: ignore[attr-defined]


def test_removed_songs_are_not_played(site: PageClient, heard_song: Song) -> None:
    site.call("DELETE", f"songs/{heard_song.pk}")
    assert site.get(f"/recordings/{heard_song.recording.pk}").status_code == 404


def test_the_page_comes_for_every_address_of_its_own(site: PageClient, client: Client) -> None:
    for path in ("/", "/songs/3/survey", "/anything"):
        assert b"<title>Valley" in site.get(path).content
    assert site.get("/api/nothing").status_code == 404
