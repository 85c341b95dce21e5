"""A disk that fills up while somebody works: the database itself has no room for another page."""

from collections.abc import Iterator
from contextlib import contextmanager
from typing import Any

import pytest
from django.db import OperationalError, connection

from tests.web.conftest import PageClient
from valley_web.songs.models import Revision, Song


@contextmanager
def no_more_room() -> Iterator[None]:
    """SQLite's own bound on its file, which answers as a full disk does."""
    with connection.cursor() as cursor:
        cursor.execute("VACUUM")  # pages that other tests left free would be room
        cursor.execute("PRAGMA page_count")
        cursor.execute(f"PRAGMA max_page_count = {cursor.fetchone()[0]}")
        try:
            yield
        finally:
            cursor.execute("PRAGMA max_page_count = 1073741823")


@pytest.mark.django_db(transaction=True)
@pytest.mark.parametrize("what", ["a correction", "a line of the log", "a request"])
def test_what_finds_no_room_is_told_and_what_was_saved_stays(site: PageClient, heard_song: Song, what: str) -> None:
    path = f"songs/{heard_song.pk}"

    def write(number: int) -> Any:
        if what == "a correction":
            return site.call("POST", f"{path}/edits", {"revision": 1 + number, "edit": {"kind": "rename_song", "title": f"Title {number}"}})
        if what == "a line of the log":
            return site.call("POST", f"{path}/log", [{"kind": "note", "text": f"{number} " * 100}] * 20)
        return site.call("POST", "requests", {"title": f"Wanted {number} " + "x" * 150, "handle": "@a", "apart": True})

    with no_more_room():
        answers = [write(n) for n in range(60)]  # the last pages fill up first
    codes = [a.status_code for a in answers]
    full = next(n for n, code in enumerate(codes) if code == 507)
    assert all(code < 300 for code in codes[:full])
    assert answers[full].json()["title"] == "The disk is full."
    assert site.get(f"/api/{path}/chart").status_code == 200
    if what == "a correction":
        assert Revision.objects.filter(song=heard_song).count() == 1 + full
    with connection.cursor() as cursor:
        cursor.execute("PRAGMA integrity_check")
        assert cursor.fetchone()[0] == "ok"
    assert write(full).status_code < 300, "with room again it goes on"


@pytest.mark.parametrize(("words", "status"), [("database is locked", 503), ("no such table: songs_song", 500)])
def test_other_troubles_of_the_database_are_told_apart(site: PageClient, heard_song: Song, monkeypatch: pytest.MonkeyPatch, words: str, status: int) -> None:
    def fail(*_: object, **__: object) -> None:
        raise OperationalError(words)

    monkeypatch.setattr("valley_web.songs.api.router.services.change_song", fail)
    assert site.change(f"songs/{heard_song.pk}", {"rights": "mine"}).status_code == status
