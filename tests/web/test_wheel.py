"""One wheel holds everything: unpacked somewhere else it serves page, demo songs and API, keeps its data where the computer keeps those, and stops."""

import json
import os
import signal
import socket
import subprocess
import sys
import time
import urllib.request
import zipfile
from collections.abc import Iterator
from pathlib import Path

import pytest

ROOT = Path(__file__).parents[2]


@pytest.fixture(scope="module")
def unpacked(tmp_path_factory: pytest.TempPathFactory) -> Path:
    folder = tmp_path_factory.mktemp("wheel")
    subprocess.run([ROOT / "tools/make_wheel.sh", folder], check=True, capture_output=True)
    (wheel,) = folder.glob("valley-*.whl")
    with zipfile.ZipFile(wheel) as archive:
        archive.extractall(folder / "site")
    return folder / "site"


@pytest.fixture
def home(tmp_path: Path) -> Path:
    (tmp_path / "home").mkdir()
    return tmp_path / "home"


@pytest.mark.parametrize("package", ["valley", "valley_web"])
def test_whatever_lies_beside_the_code_comes_along(unpacked: Path, package: str) -> None:
    """A new kind of file that a module reads must be named for the wheel as well."""
    here = {str(p.relative_to(ROOT / "src")) for p in (ROOT / "src" / package).rglob("*") if p.is_file() and "__pycache__" not in p.parts}
    assert any(name.endswith(".npz") for name in here) or package == "valley_web"
    assert here - {str(p.relative_to(unpacked)) for p in unpacked.rglob("*") if p.is_file()} == set()


def elsewhere(unpacked: Path, home: Path) -> dict[str, str]:
    """Surroundings in which nothing points to this working copy."""
    kept = {k: v for k, v in os.environ.items() if not k.startswith(("VALLEY_", "DJANGO_", "XDG_"))}
    return kept | {"PYTHONPATH": str(unpacked), "HOME": str(home)}


@pytest.fixture
def served(unpacked: Path, home: Path) -> Iterator[tuple[str, subprocess.Popen[str]]]:
    with socket.socket() as probe:
        probe.bind(("127.0.0.1", 0))
        bind = f"127.0.0.1:{probe.getsockname()[1]}"
    command = [sys.executable, "-m", "valley_web.config.command", "serve", "--bind", bind, "--no-browser"]
    process = subprocess.Popen(command, cwd=home, env=elsewhere(unpacked, home), stdout=subprocess.PIPE, stderr=subprocess.STDOUT, text=True)
    try:
        yield f"http://{bind}", process
    finally:
        process.kill()
        process.communicate()


def read(address: str) -> bytes:
    for _ in range(240):
        try:
            with urllib.request.urlopen(address, timeout=30) as answer:  # noqa: S310 - our own server
                return bytes(answer.read())
        except OSError:
            time.sleep(0.5)
    raise AssertionError(f"{address} does not answer")


def test_it_serves_the_page_from_anywhere_and_stops(served: tuple[str, subprocess.Popen[str]], home: Path) -> None:
    address, process = served
    page = read(f"{address}/").decode()
    script = next(part for part in page.split('"') if part.endswith(".js"))
    assert len(read(f"{address}{script}")) > 10_000
    assert json.loads(read(f"{address}/api/health"))["songs"] == 0
    kept = home / ".local/share/valley"
    assert (kept / "valley.sqlite3").exists() and not list(home.glob("*.sqlite3"))
    process.send_signal(signal.SIGTERM)
    said, _ = process.communicate(timeout=60)
    assert process.returncode == 0 and f"Songs and recordings are kept in {kept}" in said


def test_its_command_line_and_demo_songs_are_inside(unpacked: Path, home: Path) -> None:
    run = [sys.executable, "-m", "valley_web.config.command", "arrange", str(unpacked / "valley_web/demo/charts/oats_and_iron.txt")]
    done = subprocess.run(run, cwd=home, env=elsewhere(unpacked, home), capture_output=True, text=True, check=True)
    assert "Bm" in done.stdout
    audio = {p.stem for p in (unpacked / "valley_web/demo/audio").iterdir()}
    assert audio == {p.stem for p in (ROOT / "demo/audio").iterdir()}
