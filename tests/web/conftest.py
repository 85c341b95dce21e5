"""A client that sends CSRF tokens as the page does, and songs in every state."""

import io
import json
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import pytest
from django.conf import settings
from django.core.cache import cache
from django.core.files.uploadedfile import SimpleUploadedFile
from django.test import Client

from tests.core.charting.test_from_hearing import HEARING
from tests.sounds import save, song
from valley.formats.hearing_json import dump_hearing
from valley_web.songs.listening import keep_hearing
from valley_web.songs.models import ListeningJob, Song
from valley_web.songs.services import Upload, add_recording


class PageClient(Client):
    """Django's client with CSRF checks on, as a browser with the page open."""

    def __init__(self) -> None:
        super().__init__(enforce_csrf_checks=True, raise_request_exception=False)
        self.get("/")
        self.token = self.cookies["csrftoken"].value

    def call(self, method: str, path: str, body: object = None, **extra: Any) -> Any:
        return self.generic(
            method, f"/api/{path}", json.dumps(body) if body is not None else "", content_type="application/json", headers={"X-CSRFToken": self.token}, **extra
        )

    def change(self, path: str, body: dict[str, Any]) -> Any:
        """Change fields of a song as a window does that has just been loaded: with what stands there now."""
        now = self.get(f"/api/{path}").json()
        return self.call("PATCH", path, body | {"seen": {name: now[name] for name in body}})

    def upload(self, name: str, data: bytes, **fields: str) -> Any:
        return self.post("/api/songs", {"file": SimpleUploadedFile(name, data), **fields}, headers={"X-CSRFToken": self.token})


@pytest.fixture
def site(db: None, built_page: None) -> PageClient:
    return PageClient()


@pytest.fixture
def built_page(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    """A stand-in for the built page, so that the server's tests need no front end."""
    (tmp_path / "index.html").write_text("<!doctype html><title>Valley</title>")
    monkeypatch.setattr(settings, "FRONTEND_DIR", tmp_path)


@pytest.fixture(autouse=True)
def clean_recordings() -> Iterator[None]:
    yield
    for path in (*settings.RECORDINGS_DIR.iterdir(), *settings.FILMS_DIR.iterdir()):
        path.unlink()


@pytest.fixture(scope="session")
def wav_bytes(tmp_path_factory: pytest.TempPathFactory) -> bytes:
    return save(song(["C", "F", "G", "C"]), tmp_path_factory.mktemp("wav") / "a.wav").read_bytes()


@pytest.fixture(autouse=True)
def forgotten_tries() -> None:
    """Wrong passwords of another test hold nobody up."""
    cache.clear()


@pytest.fixture
def new_song(db: None, wav_bytes: bytes) -> Song:
    """Uploaded, in line, not yet heard."""
    return add_recording(Upload("my take.wav", len(wav_bytes), [wav_bytes]))


def hear(job: ListeningJob) -> None:
    """End a job with the tests' own hearing."""
    ListeningJob.objects.filter(pk=job.pk).update(state="running", attempts=1)
    job.refresh_from_db()
    assert keep_hearing(job, dump_hearing(HEARING), [0.5] * 350, "")


@pytest.fixture
def heard_song(new_song: Song) -> Song:
    """Heard and charted, without a worker: the hearing is the tests' own."""
    job = ListeningJob.objects.get(recording=new_song.recording)
    hear(job)
    new_song.refresh_from_db()
    return new_song


@pytest.fixture
def text_file() -> io.BytesIO:
    return io.BytesIO(b"no sound here, only words\n" * 100)
