"""Every address of the API: what is not there is told, what makes no sense is refused, and nothing answers with a fault of its own."""

from __future__ import annotations

import json
import re
from pathlib import Path
from typing import Any

import pytest

from tests.web.conftest import PageClient
from valley_web.songs.models import Song

DESCRIPTION = json.loads((Path(__file__).parents[2] / "docs/openapi.json").read_text("utf-8"))
ADDRESSES = [(method.upper(), path) for path, ways in DESCRIPTION["paths"].items() for method in ways]
NUMBERS = re.compile(r"\{(\w+)\}")
TEXTS = {"name": "lesson.txt"}


def fill(path: str, number: int) -> str:
    return NUMBERS.sub(lambda m: TEXTS.get(m[1], str(number)), path).removeprefix("/api/")


def about_one(path: str) -> bool:
    return "{" in path


@pytest.mark.parametrize(("method", "path"), [(m, p) for m, p in ADDRESSES if about_one(p)], ids=lambda x: str(x))
def test_what_is_not_there_is_told(site: PageClient, method: str, path: str) -> None:
    answer = site.call(method, fill(path, 987_654), body_for(method, path))
    assert answer.status_code in (404, 422), answer.content[:300]
    if answer.status_code == 404:
        assert answer.json()["title"]


@pytest.mark.parametrize(("method", "path"), [(m, p) for m, p in ADDRESSES if m not in ("GET", "DELETE")], ids=lambda x: str(x))
@pytest.mark.parametrize("junk", [None, [], {"revision": "x"}, {"edit": 5, "minutes": "many", "title": 7}, "text"], ids=repr)
def test_what_makes_no_sense_is_refused(site: PageClient, heard_song: Song, method: str, path: str, junk: Any) -> None:
    answer = site.call(method, fill(path, heard_song.pk), junk)
    assert answer.status_code < 500, answer.content[:300]
    if answer.status_code >= 400:
        assert json.loads(answer.content)


@pytest.mark.parametrize("path", [p for m, p in ADDRESSES if m == "GET"])
def test_what_can_be_looked_at_answers(site: PageClient, heard_song: Song, path: str) -> None:
    answer = site.get(f"/{path.lstrip('/')}" if not about_one(path) else f"/api/{fill(path, heard_song.pk)}")
    assert answer.status_code < 500
    assert answer.status_code != 404 or "job" in path or "revision" in path or "named" in path, path


def body_for(method: str, path: str) -> dict[str, Any] | None:
    """A body that is well formed, so that the answer is about what is missing."""
    schema = DESCRIPTION["paths"][path][method.lower()].get("requestBody", {}).get("content", {}).get("application/json", {}).get("schema", {})
    name = schema.get("$ref", "").rpartition("/")[2]
    known: dict[str, dict[str, Any]] = {
        "EditIn": {"revision": 1, "edit": {"kind": "rename_song", "title": "x"}},
        "SpreadIn": {"revision": 1, "parts": [1]},
        "ShowIn": {},
    }
    return known.get(name, {}) if method != "GET" else None


@pytest.mark.parametrize(
    ("path", "body"),
    [
        ("post/aside", {"comments": [2**70]}),
        ("songs/{}/corrections", {"text": "bar 2 is wrong", "bar": 2**70}),
        ("songs/{}/corrections", {"text": "bar 2 is wrong", "bar": -3}),
        ("songs/{}/log", {"kind": "slip", "text": "slipped", "bar": -3}),
        ("songs/{}/log", {"kind": "slip", "text": "slipped", "count": -1}),
    ],
)
def test_numbers_that_are_none_of_ours_are_refused(site: PageClient, heard_song: Song, path: str, body: dict[str, Any]) -> None:
    answer = site.call("POST", path.format(heard_song.pk), body)
    assert answer.status_code == 422, answer.content
    assert answer.json()["title"]
