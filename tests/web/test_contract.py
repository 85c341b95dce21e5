"""The API's description is a file in the repository, and the browser's types are made of it."""

import json
import shutil
import subprocess
from pathlib import Path

import pytest
from django.core.management import call_command

from valley_web.records.management.commands.load_demo import DEMO_SONGS, PAST_LESSONS, REQUESTS
from valley_web.songs.models import ListeningJob, Song
from valley_web.songs.services import Upload, add_recording

ROOT = Path(__file__).parents[2]


def test_the_description_is_current(tmp_path: Path) -> None:
    call_command("export_openapi_schema", api="valley_web.config.api.api", indent=1, sorted=True, output=str(tmp_path / "openapi.json"))
    assert json.loads((tmp_path / "openapi.json").read_text()) == json.loads((ROOT / "docs/openapi.json").read_text()), "run: make types"


def test_the_browsers_types_are_current(tmp_path: Path) -> None:
    tool = ROOT / "frontend/node_modules/.bin/openapi-typescript"
    assert tool.exists(), "run: make setup"
    assert shutil.which("node")
    subprocess.run([str(tool), str(ROOT / "docs/openapi.json"), "-o", str(tmp_path / "schema.d.ts")], check=True, capture_output=True, cwd=ROOT / "frontend")
    assert (tmp_path / "schema.d.ts").read_text() == (ROOT / "frontend/src/api/schema.d.ts").read_text(), "run: make types"


@pytest.mark.django_db
def test_no_model_change_lacks_its_migration() -> None:
    call_command("makemigrations", check=True, dry_run=True, verbosity=0)


@pytest.mark.django_db
def test_demo_songs_are_added_once_and_leave_others_alone(wav_bytes: bytes, monkeypatch: pytest.MonkeyPatch) -> None:
    from valley_web.records.management.commands import load_demo

    own = add_recording(Upload("mine.wav", len(wav_bytes), [wav_bytes]), title="Mine")
    ListeningJob.objects.all().delete()
    monkeypatch.setattr(load_demo, "call_command", lambda *a, **k: None)
    call_command("load_demo", verbosity=0)
    call_command("load_demo", verbosity=0)
    assert Song.objects.count() == 1 + len(DEMO_SONGS) + len(PAST_LESSONS) + len(REQUESTS)
    assert Song.objects.get(title="Lantern Street").votes == 5
    assert Song.objects.get(demo="oats_and_iron").corrections == 1
    assert ListeningJob.objects.count() == sum(heard for *_, heard in DEMO_SONGS)
    own.refresh_from_db()
    assert own.title == "Mine"
    demo = Song.objects.get(demo="last_tram_waltz")
    assert not demo.recording.jobs.exists()
