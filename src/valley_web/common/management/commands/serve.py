"""Start Valley: the web server and the listening worker, each started again if it dies, both stopped together."""

import contextlib
import os
import signal
import socket
import subprocess
import sys
import threading
import time
import webbrowser
from argparse import ArgumentParser
from typing import Any

from django.conf import settings
from django.contrib.auth import get_user_model
from django.core.management import call_command
from django.core.management.base import BaseCommand, CommandError
from django.db import connections

from valley_web.common.auth import is_loopback
from valley_web.common.running import hold
from valley_web.common.supervised import SIGN


class Command(BaseCommand):
    help = "Run the web server and the worker until Ctrl-C."

    def add_arguments(self, parser: ArgumentParser) -> None:
        parser.add_argument("--bind", default=settings.BIND, help="address:port; loopback unless you say otherwise")
        parser.add_argument("--demo", action="store_true", help="put the demo songs on the shelf first")
        parser.add_argument("--no-browser", action="store_true", help="do not open the browser")

    def handle(self, *args: Any, bind: str, demo: bool = False, no_browser: bool = False, **options: Any) -> None:
        host = bind.rpartition(":")[0]
        if demo:
            call_command("load_demo", stdout=self.stdout)
        environment = os.environ | {"VALLEY_BIND": bind, "DJANGO_SETTINGS_MODULE": os.environ.get("DJANGO_SETTINGS_MODULE", "valley_web.config.settings")}
        if not is_loopback(host):
            if not get_user_model().objects.filter(is_active=True).exists():
                raise CommandError(
                    f"{bind} can be reached from other machines, so Valley asks for a sign-in there: first run 'python manage.py createsuperuser'."
                )
            environment["VALLEY_REQUIRE_LOGIN"] = "1"
            named = _own_names() if host in ("0.0.0.0", "[::]") else [host]  # noqa: S104 - compared, not bound
            environment["VALLEY_HOSTS"] = ",".join(dict.fromkeys(filter(None, [*os.environ.get("VALLEY_HOSTS", "").split(","), *named])))
            self.stdout.write(f"It answers to {environment['VALLEY_HOSTS']}; for other names set VALLEY_HOSTS.")
        web = [sys.executable, "-m", "valley_web.common.web_server", bind]
        worker = [sys.executable, "-m", "django", "work"]
        browser = is_loopback(host) and not no_browser and sys.stdout.isatty()
        self.keep_running({"web server": web, "worker": worker}, environment, bind, browser=browser)

    def keep_running(self, commands: dict[str, list[str]], environment: dict[str, str], bind: str, *, browser: bool = False) -> None:
        _refuse_taken(bind)
        stopping = _hear_stops()
        children = {name: _Child(name, command, environment) for name, command in commands.items()}
        self.stdout.write(f"Valley is at http://{bind}/  (Ctrl-C stops it)")
        self.stdout.flush()
        self.stdout.write(f"Songs and recordings are kept in {settings.DATA_DIR}")
        if browser:
            threading.Thread(target=_open_browser, args=(bind,), daemon=True).start()
        held = hold(settings.DATA_DIR)
        try:
            due = time.monotonic()
            while not stopping.is_set():
                if time.monotonic() >= due:
                    due += _DAY
                    self.tidy()
                time.sleep(0.3)
                for child in children.values():
                    if said := child.revive():
                        self.stderr.write(said)
        finally:
            for child in children.values():
                child.stop()
            for child in children.values():
                child.wait()
            held.close()

    def tidy(self) -> None:
        """What is left over goes; where that fails, it is told, and everything else goes on."""
        try:
            call_command("tidy", stdout=self.stdout)
        except Exception as error:
            self.stderr.write(f"Nothing was cleared away: {error}")
        finally:
            connections.close_all()


def _hear_stops() -> threading.Event:
    """What is set when Valley is asked to stop; by SIGHUP too, which comes where the terminal is closed, on systems that have it."""
    stopping = threading.Event()
    for name in ("SIGTERM", "SIGINT", "SIGHUP"):
        if hasattr(signal, name):
            signal.signal(getattr(signal, name), lambda *_: stopping.set())
    return stopping


def _own_names() -> list[str]:
    """What this machine is called in its network: its name, and its addresses."""
    name = socket.gethostname()
    try:
        addresses = {str(row[4][0]) for row in socket.getaddrinfo(name, None)}
    except OSError:
        addresses = set()
    return [name, f"{name}.local", *sorted(a if ":" not in a else f"[{a}]" for a in addresses)]


def _open_browser(bind: str) -> None:
    """The page in the browser, as soon as the server answers; on a machine without one nothing happens."""
    host, _, port = bind.rpartition(":")
    for _ in range(60):
        with contextlib.suppress(OSError), socket.create_connection((host.strip("[]"), int(port)), timeout=1):
            webbrowser.open(f"http://{bind}/")
            return
        time.sleep(0.5)


def _refuse_taken(bind: str) -> None:
    """Say so where the address is in use, before anything is started."""
    host, _, port = bind.rpartition(":")
    family = socket.AF_INET6 if ":" in host else socket.AF_INET
    with socket.socket(family) as probe:
        probe.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
        try:
            probe.bind((host.strip("[]"), int(port)))
        except (OSError, ValueError) as error:
            raise CommandError(
                f"{bind} cannot be used ({error}); Valley may be running there already. Open http://{bind}/, or choose another address with --bind."
            ) from error


class _Child:
    """A process that is started again when it dies, the later the oftener it does; it never outlives its parent."""

    def __init__(self, name: str, command: list[str], environment: dict[str, str]) -> None:
        self._name, self._command = name, command
        self._environment = environment | {SIGN: "1", "VALLEY_PART": name.replace(" ", "-")}
        self._wait, self._due = _FIRST_WAIT, 0.0
        self._start()

    def _start(self) -> None:
        self._started = time.monotonic()
        self._process = subprocess.Popen(self._command, env=self._environment, stdin=subprocess.PIPE)

    def revive(self) -> str:
        """Start it again where it is dead and its time has come; gives what is to be told."""
        status = self._process.poll()
        if status is None:
            return ""
        now = time.monotonic()
        if not self._due:
            lived = now - self._started
            self._wait = _FIRST_WAIT if lived > _LONG_LIFE else min(2 * self._wait, _LONGEST_WAIT)
            self._due = now + self._wait
            return f"The {self._name} stopped (exit status {status}) and is started again in {self._wait:.0f} s."
        if now >= self._due:
            self._due = 0.0
            self._start()
        return ""

    def stop(self) -> None:
        if self._process.poll() is None:
            self._process.terminate()

    def wait(self) -> None:
        try:
            self._process.wait(timeout=10)
        except subprocess.TimeoutExpired:
            self._process.kill()


_FIRST_WAIT, _LONGEST_WAIT, _LONG_LIFE = 0.5, 60.0, 30.0  # seconds
_DAY = 24 * 3600.0  # seconds
