"""Requests that no page sends are refused at once, whatever they hold."""

import json

import pytest

from tests.web.conftest import PageClient
from valley_web.songs.models import Song


@pytest.mark.parametrize("start", ["1e9999999", "-1e99999", "1/0", "nan", "9" * 5000, "\ud800"])
def test_numbers_that_would_fill_the_memory_are_refused(site: PageClient, heard_song: Song, start: str) -> None:
    edit = {"kind": "set_chord", "start": start, "text": "Dm7"}
    response = site.call("POST", f"songs/{heard_song.pk}/edits", {"revision": 1, "edit": edit})
    assert response.status_code in (400, 422), response.content
    assert response.json()["title"]
    heard_song.refresh_from_db()
    assert heard_song.revision == 1


@pytest.mark.parametrize("body", ['{"revision": NaN}', '{"revision": 1e99999}', "[" * 20_000, '{"a":' * 3000 + "1" + "}" * 3000, "\x00"])
def test_bodies_that_are_no_json_are_refused(site: PageClient, heard_song: Song, body: str) -> None:
    headers = {"X-CSRFToken": site.cookies["csrftoken"].value} if "csrftoken" in site.cookies else {}
    response = site.post(f"/api/songs/{heard_song.pk}/edits", body, content_type="application/json", headers=headers)
    assert response.status_code in (400, 403, 422)


def test_an_address_with_such_a_number_is_refused(site: PageClient, heard_song: Song) -> None:
    for start in ("1e9999999", "1/0", "nan"):
        response = site.get(f"/api/songs/{heard_song.pk}/hands/bar", {"start": start})
        assert response.status_code in (400, 422), start


def test_words_may_hold_any_number(site: PageClient, heard_song: Song) -> None:
    edit = {"kind": "write_step", "key": "opening", "lines": ["Bar 1 at 1.5e3 or a 12e4 of it."]}
    response = site.call("POST", f"songs/{heard_song.pk}/edits", {"revision": 1, "show": "lesson", "edit": edit})
    assert response.status_code == 200, json.dumps(response.json())[:200]
