"""Valley as a user starts it: `serve` with its worker, on a free port and in a folder of its own; Debian's Chromium."""

import os
import shutil
import socket
import subprocess
import sys
import time
import urllib.request
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import pytest
from playwright.sync_api import Page, expect

ROOT = Path(__file__).parents[2]
WALTZ = ROOT / "demo/audio/last_tram_waltz.mp3"
CHROMIUM = shutil.which("chromium-headless-shell") or shutil.which("chromium")
QUIET_FLAGS = [
    "--no-sandbox",
    "--disable-gpu",
    "--disable-quic",
    "--no-first-run",
    "--disable-background-networking",
    "--disable-component-update",
    "--disable-sync",
    "--autoplay-policy=no-user-gesture-required",
]
expect.set_options(timeout=60_000)  # three suites share two cores, and the machine may be lent to others for a while


@pytest.fixture(scope="session")
def browser_type_launch_args(browser_type_launch_args: dict[str, Any]) -> dict[str, Any]:
    return browser_type_launch_args | {"executable_path": CHROMIUM, "args": QUIET_FLAGS}


@pytest.fixture(scope="session")
def browser_context_args(browser_context_args: dict[str, Any], base_url: str) -> dict[str, Any]:
    return browser_context_args | {"viewport": {"width": 1280, "height": 800}, "base_url": base_url, "accept_downloads": True}


@pytest.fixture(scope="session")
def base_url(tmp_path_factory: pytest.TempPathFactory) -> Iterator[str]:
    with socket.socket() as probe:
        probe.bind(("127.0.0.1", 0))
        port = probe.getsockname()[1]
    environment = os.environ | {
        "VALLEY_DATA": str(tmp_path_factory.mktemp("valley")),
        "VALLEY_MAX_UPLOAD_MB": "4",
        "DJANGO_SETTINGS_MODULE": "valley_web.config.settings",
    }
    subprocess.run([sys.executable, "manage.py", "migrate", "--verbosity", "0"], env=environment, cwd=ROOT, check=True)
    server = subprocess.Popen([sys.executable, "manage.py", "serve", "--bind", f"127.0.0.1:{port}"], env=environment, cwd=ROOT)
    address = f"http://127.0.0.1:{port}"
    try:
        wait_until_up(address)
        yield address
    finally:
        server.terminate()
        assert server.wait(timeout=120) == 0


def wait_until_up(address: str) -> None:
    deadline = time.monotonic() + 120
    while True:
        try:
            urllib.request.urlopen(f"{address}/api/session", timeout=2)  # noqa: S310 - our own server
            return
        except OSError:
            if time.monotonic() > deadline:
                raise
            time.sleep(0.2)


@pytest.fixture(autouse=True)
def quiet_page(page: Page, base_url: str) -> Iterator[None]:
    """Nothing is asked of any other machine, and nothing goes wrong out of sight."""
    page.set_default_timeout(60_000)
    strangers: list[str] = []
    own = (base_url, "data:", "blob:", "file:", "chrome-extension:", "chrome:")  # the last two are the browser's own viewer of PDF
    troubles: list[str] = []
    page.on("request", lambda r: strangers.append(r.url) if not r.url.startswith(own) else None)
    page.on("pageerror", lambda e: troubles.append(str(e)))
    page.on("console", lambda m: troubles.append(m.text) if m.type == "error" and "status of 4" not in m.text else None)
    yield
    assert strangers == []
    assert troubles == []


@pytest.fixture(scope="session")
def charted(base_url: str, browser: Any) -> str:
    """Address of a song that was added through the interface and heard by the worker."""
    page = browser.new_page(base_url=base_url)
    page.goto("/")
    page.set_input_files("input[type=file]", str(WALTZ))
    line = page.get_by_role("listitem").filter(has=page.get_by_role("link", name="last tram waltz"))
    expect(line).to_contain_text("G major · 3/4", timeout=240_000)  # as it stands once there is a chart; its key alone is told before
    address: str = line.get_by_role("link").first.get_attribute("href") or ""
    page.close()
    return address


@pytest.fixture(autouse=True)
def as_it_was(request: pytest.FixtureRequest, page: Page, quiet_page: None) -> Iterator[None]:
    """The song that the tests share is left as it was found, whatever was tried on it."""
    if "charted" not in request.fixturenames:
        yield
        return
    address = f"/api{request.getfixturevalue('charted')}"
    before = page.request.get(f"{address}/revision").json()["revision"]
    yield
    if page.request.get(f"{address}/revision").json()["revision"] == before:
        return
    page.request.get("/")  # for the token with which a change is signed
    token = next(str(c.get("value")) for c in page.context.cookies() if c.get("name") == "csrftoken")
    answer = page.request.post(f"{address}/revisions/{before}/bring-back", data={"revision": 0}, headers={"X-CSRFToken": token})
    assert answer.ok, answer.text()
