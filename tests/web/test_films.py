"""Films: asked for, made by the worker, watched, stopped, cleared away, made anew when the music changes."""

from typing import Any

import pytest
from django.core.management import call_command

from tests.web.conftest import PageClient
from valley_web.songs import films, storage
from valley_web.songs.doing import Said
from valley_web.songs.jobs import LocalHold, claim_job
from valley_web.songs.models import FilmJob, Song
from valley_web.songs.tasks import FILMING

SMALL = {"kind": "webm", "shape": "720p", "part": 1, "layers": ["keys"], "time": "track", "count_in": False, "speed": 1.5}
TRANSPOSE = {"kind": "transpose_song", "half_steps": 2}


@pytest.fixture
def make(site: PageClient, heard_song: Song) -> Any:
    return lambda **more: site.call("POST", f"songs/{heard_song.pk}/films", SMALL | more)


def test_a_film_is_made_watched_and_cleared_away(site: PageClient, heard_song: Song, make: Any) -> None:
    asked = make()
    assert asked.status_code == 200
    assert (asked.json()["state"], asked.json()["address"]) == ("waiting", "")
    assert make().json()["id"] == asked.json()["id"]  # once
    call_command("work", once=True)
    (film,) = site.get(f"/api/songs/{heard_song.pk}/films").json()
    assert (film["state"], film["fraction"], film["older"]) == ("done", 1.0, False)
    assert film["seconds"] > 1
    taken = site.get(film["address"])
    content = b"".join(taken.streaming_content)
    assert len(content) == film["size"]
    assert content[:4] == b"\x1aE\xdf\xa3"
    assert taken["Content-Type"] == "video/webm" and taken["Content-Disposition"].startswith("attachment")
    part = site.get(film["address"], {"look": "true"}, headers={"Range": "bytes=0-99"})
    assert (part.status_code, len(b"".join(part.streaming_content))) == (206, 100)
    assert part["Content-Disposition"].startswith("inline")
    assert make().json()["address"] == film["address"]  # what is made is not made again
    assert site.call("DELETE", f"films/{film['id']}").status_code == 204
    assert site.get(f"/api/songs/{heard_song.pk}/films").json() == []
    assert not list(storage.film_path("0" * 32).parent.iterdir())
    assert site.get(film["address"]).status_code == 404


def test_a_film_of_an_older_version_says_so_and_makes_room(site: PageClient, heard_song: Song, make: Any) -> None:
    make()
    call_command("work", once=True)
    revision = site.get(f"/api/songs/{heard_song.pk}/chart").json()["revision"]
    answer = site.call("POST", f"songs/{heard_song.pk}/edits", {"revision": revision, "edit": TRANSPOSE})
    assert answer.status_code == 200, answer.content
    assert [f["older"] for f in site.get(f"/api/songs/{heard_song.pk}/films").json()] == [True]
    make()
    call_command("work", once=True)
    assert [f["older"] for f in site.get(f"/api/songs/{heard_song.pk}/films").json()] == [False]
    assert len(list(storage.film_path("0" * 32).parent.iterdir())) == 1


def test_a_waiting_film_is_stopped_at_once_and_a_running_one_when_it_is_told(site: PageClient, heard_song: Song, make: Any) -> None:
    first = make().json()["id"]
    site.call("DELETE", f"films/{first}")
    assert claim_job(FILMING) is None
    make()
    job = claim_job(FILMING)
    assert job is not None
    site.call("DELETE", f"films/{job.pk}")
    job.refresh_from_db()
    assert job.cancel_asked


def test_a_film_that_was_stopped_goes_on(site: PageClient, heard_song: Song, make: Any, monkeypatch: pytest.MonkeyPatch) -> None:
    def list_them() -> list[dict[str, Any]]:
        films_now: list[dict[str, Any]] = site.get(f"/api/songs/{heard_song.pk}/films").json()
        return films_now

    make()
    job = claim_job(FILMING)
    assert job is not None
    kept = films._stretches(job)
    kept.mkdir()
    (kept / "0.webm").write_bytes(b"done")
    site.call("DELETE", f"films/{job.pk}")
    assert not LocalHold(FILMING, job).go_on(Said("Filming", 0.4))
    LocalHold(FILMING, job).cancel()
    (stopped,) = list_them()
    assert (stopped["state"], stopped["goes_on"], stopped["fraction"]) == ("cancelled", True, 0.4)

    gone_on = site.call("POST", f"films/{job.pk}/go-on")
    assert (gone_on.status_code, gone_on.json()["state"]) == (200, "waiting")
    (kept / "0.webm").unlink()  # no film
    call_command("work", once=True)
    (film,) = list_them()
    assert film["state"] == "done" and not film["goes_on"]
    assert not kept.exists()
    assert site.call("POST", f"films/{job.pk}/go-on").json()["state"] == "done"  # nothing to go on with


def test_what_is_done_of_a_stopped_film_is_cleared_away_with_it(site: PageClient, heard_song: Song, make: Any) -> None:
    first = make().json()["id"]
    kept = films._stretches(FilmJob.objects.get())
    kept.mkdir()
    site.call("DELETE", f"films/{first}")
    assert kept.is_dir()
    site.call("DELETE", f"films/{first}")
    assert not kept.exists()
    assert site.get(f"/api/songs/{heard_song.pk}/films").json() == []


def test_a_film_shows_the_song_as_it_was_asked_for(heard_song: Song, make: Any, tmp_path: Any) -> None:
    make()
    job, folder = FilmJob.objects.get(), tmp_path / "film"
    folder.mkdir()
    assert job.revision == Song.objects.get(pk=heard_song.pk).revision
    assert films.film_command(job, folder)[-2] == str(folder)
    assert {p.name for p in folder.iterdir()} == {"song.json", "film.json", "hearing.json"}


def test_one_picture_is_seen_before(site: PageClient, heard_song: Song) -> None:
    answer = site.get(f"/api/songs/{heard_song.pk}/film-look", {"kind": "mp4", "shape": "720p", "layers": ["keys", "chord"], "at": 0.5})
    assert (answer.status_code, answer["Content-Type"], answer.content[:4]) == (200, "image/png", b"\x89PNG")


@pytest.mark.parametrize("wrong", [{"part": 77}, {"layers": []}, {"layers": ["moon"]}, {"rate": 24}, {"kind": "gif"}, {"speed": 9}])
def test_what_cannot_be_filmed_is_refused_at_once(make: Any, wrong: dict[str, object]) -> None:
    answer = make(**wrong)
    assert answer.status_code == 422
    assert answer.json()["title"]
    assert not FilmJob.objects.exists()
