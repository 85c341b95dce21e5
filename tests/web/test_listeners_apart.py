"""A listener as it is started on another machine: with a broker, a server and folders of its own; killed in the middle, and another comes."""

import os
import socket
import subprocess
import sys
import time
from collections.abc import Callable, Iterator
from pathlib import Path
from typing import Any

import pytest
import requests

from tests.sounds import save, song

ROOT = Path(__file__).parents[2]


def free_port() -> int:
    with socket.socket() as probe:
        probe.bind(("127.0.0.1", 0))
        return int(probe.getsockname()[1])


Start = Callable[..., "subprocess.Popen[bytes]"]


@pytest.fixture
def start() -> Iterator[Start]:
    """Starts a process that ends with the test."""
    running: list[subprocess.Popen[bytes]] = []

    def begin(*command: str, environment: dict[str, str] | None = None) -> "subprocess.Popen[bytes]":
        running.append(subprocess.Popen(command, cwd=ROOT, env=environment, stdout=subprocess.DEVNULL, stderr=subprocess.DEVNULL))
        return running[-1]

    yield begin
    for process in running:
        process.kill()
        process.wait()


def wait_for(seen: Callable[[], Any], what: str, seconds: float = 120) -> Any:
    deadline = time.monotonic() + seconds
    while True:
        try:
            if found := seen():
                return found
        except (requests.RequestException, KeyError):
            pass
        assert time.monotonic() < deadline, what
        time.sleep(0.1)


def test_a_listener_killed_in_the_middle_is_followed_by_another(tmp_path: Path, start: Start) -> None:
    broker, web = free_port(), free_port()
    address = f"http://127.0.0.1:{web}"
    start("redis-server", "--port", str(broker), "--save", "")
    common = {"DJANGO_SETTINGS_MODULE": "valley_web.config.settings", "VALLEY_BROKER": f"redis://127.0.0.1:{broker}/0", "VALLEY_LISTENER_KEY": "k" * 40}
    server = os.environ | common | {"VALLEY_DATA": str(tmp_path / "server")}
    away = os.environ | common | {"VALLEY_DATA": str(tmp_path / "listener"), "VALLEY_SERVER": address}
    subprocess.run([sys.executable, "manage.py", "migrate", "--verbosity", "0"], cwd=ROOT, env=server, check=True)
    start(sys.executable, "manage.py", "serve", "--bind", f"127.0.0.1:{web}", environment=server)
    page = requests.Session()
    wait_for(lambda: page.get(f"{address}/", timeout=5).ok, "the server does not start")
    sound = save(song(["C", "F", "G", "C"] * 3), tmp_path / "take.wav").read_bytes()
    added = page.post(f"{address}/api/songs", files={"file": ("take.wav", sound)}, headers={"X-CSRFToken": page.cookies["csrftoken"]}, timeout=30)
    assert added.status_code == 201

    def job() -> dict[str, Any]:
        found: dict[str, Any] = page.get(f"{address}/api/songs/{added.json()['id']}", timeout=5).json()["job"]
        return found

    time.sleep(1.5)
    assert job()["state"] == "waiting", "with a broker nobody listens beside the database"
    first = start(sys.executable, "manage.py", "listen", environment=away)
    wait_for(lambda: job()["state"] == "running" and job()["fraction"] > 0, "nobody listens")
    first.kill()
    start(sys.executable, "manage.py", "listen", environment=away)
    wait_for(lambda: job()["state"] == "done", "nobody took it over")
    versions = page.get(f"{address}/api/songs/{added.json()['id']}/revisions", timeout=5).json()
    assert [v["what"] for v in versions["versions"]] == ["Heard in the recording"]
    assert not list((tmp_path / "listener/recordings").iterdir()), "the recording stays with the server"
    assert not (tmp_path / "listener/valley.sqlite3").exists(), "and so do the data"


def test_what_is_missing_is_said(tmp_path: Path) -> None:
    environment = os.environ | {"DJANGO_SETTINGS_MODULE": "valley_web.config.settings", "VALLEY_DATA": str(tmp_path), "VALLEY_SERVER": "http://x"}
    done = subprocess.run([sys.executable, "manage.py", "listen"], cwd=ROOT, env=environment, capture_output=True, text=True, check=False)
    assert done.returncode == 1
    assert "Set VALLEY_BROKER, VALLEY_LISTENER_KEY first" in done.stderr
