"""The logs: lines of JSON about what happened, and nothing about whom."""

import json
import logging
import logging.config
from collections.abc import Iterator
from pathlib import Path

import pytest
from django.conf import settings

from tests.web.conftest import PageClient
from valley_web.common.logs import describe_logging
from valley_web.songs.models import Song


@pytest.fixture
def folder(tmp_path: Path) -> Iterator[Path]:
    logging.config.dictConfig(describe_logging(tmp_path, "web-server", "ERROR"))
    yield tmp_path
    for handler in logging.getLogger().handlers:
        handler.close()
    logging.config.dictConfig(settings.LOGGING)


def read(folder: Path) -> list[dict[str, object]]:
    return [json.loads(line) for line in (folder / "web-server.log").read_text("utf-8").splitlines()]


def test_changes_and_refusals_are_told_by_their_pattern(site: PageClient, heard_song: Song, folder: Path) -> None:
    site.change(f"songs/{heard_song.pk}", {"title": "A Secret Title"})
    site.get("/api/shelf?q=somebody@example.org")
    site.get("/api/songs/987654?who=somebody")
    site.get("/look/abcdefgh-secret-key")
    lines = read(folder)
    assert [(line["route"], line["status"]) for line in lines] == [
        ("PATCH api/songs/<song_id>", 200),
        ("GET api/songs/<song_id>", 404),
        ("GET look/<str:token>", 404),
    ]
    assert all(isinstance(line["ms"], int) for line in lines)
    text = json.dumps(lines)
    assert not [word for word in ("Secret", "somebody", "secret-key", "987654", "127.0.0.1") if word in text]


def test_a_fault_is_told_with_its_place_and_not_with_its_address(site: PageClient, heard_song: Song, folder: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    def break_off(*_: object) -> None:
        raise RuntimeError("broken")

    monkeypatch.setattr("valley_web.songs.api.router.presenters.show_song", break_off)
    assert site.get(f"/api/songs/{heard_song.pk}?who=somebody").status_code == 500
    fault = next(line for line in read(folder) if line["levelname"] == "ERROR")
    assert fault["message"] == "500 GET api/songs/<song_id>"
    assert "RuntimeError: broken" in str(fault["exc_info"])
    assert "somebody" not in json.dumps(fault)


def test_files_are_turned_over(folder: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    handler = next(h for h in logging.getLogger().handlers if isinstance(h, logging.handlers.RotatingFileHandler))
    monkeypatch.setattr(handler, "maxBytes", 4000)
    for i in range(400):
        logging.getLogger("valley").warning("line %d", i)
    files = sorted(folder.iterdir())
    assert 2 <= len(files) <= 6
    assert all(f.stat().st_size <= 4200 for f in files)
