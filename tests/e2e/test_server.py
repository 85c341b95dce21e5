"""The server as it is started: slow clients, a closed terminal, a second start, a death."""

import os
import signal
import socket
import subprocess
import sys
import time
import urllib.request
from collections.abc import Iterator
from pathlib import Path
from urllib.parse import urlsplit

import pytest

from tests.e2e.conftest import ROOT, wait_until_up


def free_port() -> int:
    with socket.socket() as probe:
        probe.bind(("127.0.0.1", 0))
        return int(probe.getsockname()[1])


def children_of(pid: int) -> list[int]:
    return [int(p) for p in Path(f"/proc/{pid}/task/{pid}/children").read_text().split()]


def alive(pid: int) -> bool:
    try:
        return "Z" not in Path(f"/proc/{pid}/stat").read_text().rsplit(")", 1)[1][:3]
    except FileNotFoundError:
        return False


@pytest.fixture
def supervisor(tmp_path: Path, base_url: str) -> Iterator[tuple[subprocess.Popen[str], str]]:
    """A server of its own, with the account book of the others' left alone."""
    environment = os.environ | {"VALLEY_DATA": str(tmp_path), "DJANGO_SETTINGS_MODULE": "valley_web.config.settings"}
    subprocess.run([sys.executable, "manage.py", "migrate", "--verbosity", "0"], env=environment, cwd=ROOT, check=True)
    bind = f"127.0.0.1:{free_port()}"
    command = [sys.executable, "manage.py", "serve", "--bind", bind]
    process = subprocess.Popen(command, env=environment, cwd=ROOT, stderr=subprocess.PIPE, text=True)
    try:
        wait_until_up(f"http://{bind}")
        yield process, bind
    finally:
        process.kill()
        process.wait()


def test_half_sent_requests_take_no_place_for_long(base_url: str) -> None:
    address = urlsplit(base_url)
    idle = []
    for _ in range(60):
        client = socket.create_connection((address.hostname, address.port))
        client.sendall(b"POST /api/songs HTTP/1.1\r\nHost: 127.0.0.1\r\nContent-Length: 100000\r\n\r\nhalf")
        idle.append(client)
    try:
        began = time.monotonic()
        with urllib.request.urlopen(f"{base_url}/api/session", timeout=50) as answer:  # noqa: S310 - our own server
            assert answer.status == 200
        assert time.monotonic() - began < 48  # two rounds of patience: without it, never
    finally:
        for client in idle:
            client.close()


def test_whatever_ends_the_supervisor_ends_its_children(supervisor: tuple[subprocess.Popen[str], str]) -> None:
    process, bind = supervisor
    second = subprocess.run([sys.executable, "manage.py", "serve", "--bind", bind], cwd=ROOT, capture_output=True, text=True, timeout=60, check=False)
    assert second.returncode == 1 and "Valley may be running there already" in second.stderr
    children = children_of(process.pid)
    assert len(children) == 2
    os.kill(children[1], signal.SIGKILL)  # the worker dies; the web server goes on, and another worker comes
    time.sleep(2.5)
    assert process.poll() is None and alive(children[0])
    again = children_of(process.pid)
    assert len(again) == 2 and again[1] != children[1]
    process.send_signal(signal.SIGHUP)
    assert process.wait(timeout=60) == 0
    assert not any(alive(c) for c in again)


def test_a_supervisor_killed_outright_takes_its_children_along(supervisor: tuple[subprocess.Popen[str], str]) -> None:
    process, _ = supervisor
    children = children_of(process.pid)
    process.kill()
    process.wait()
    deadline = time.monotonic() + 20
    while any(alive(c) for c in children) and time.monotonic() < deadline:
        time.sleep(0.1)
    assert not any(alive(c) for c in children)
