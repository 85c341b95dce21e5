"""Start Valley: the web server and the listening worker, each started again if it dies, both stopped together."""

import os
import signal
import subprocess
import sys
import time
from argparse import ArgumentParser
from typing import Any

from django.conf import settings
from django.contrib.auth import get_user_model
from django.core.management.base import BaseCommand, CommandError

from valley_web.common.auth import is_loopback


class Command(BaseCommand):
    help = "Run the web server and the worker until Ctrl-C."

    def add_arguments(self, parser: ArgumentParser) -> None:
        parser.add_argument("--bind", default=settings.BIND, help="address:port; loopback unless you say otherwise")

    def handle(self, *args: Any, bind: str, **options: Any) -> None:
        host = bind.rpartition(":")[0]
        environment = os.environ | {"VALLEY_BIND": bind, "DJANGO_SETTINGS_MODULE": os.environ.get("DJANGO_SETTINGS_MODULE", "valley_web.config.settings")}
        if not is_loopback(host):
            if not get_user_model().objects.filter(is_active=True).exists():
                raise CommandError(
                    f"{bind} can be reached from other machines, so Valley asks for a sign-in there: first run 'python manage.py createsuperuser'."
                )
            environment["VALLEY_REQUIRE_LOGIN"] = "1"
            if host not in ("0.0.0.0", "[::]"):  # noqa: S104 - compared, not bound
                environment["VALLEY_HOSTS"] = ",".join(filter(None, [os.environ.get("VALLEY_HOSTS"), host]))
        web = [
            sys.executable,
            "-m",
            "gunicorn",
            "valley_web.config.wsgi",
            "-k",
            "gthread",
            "--workers",
            "1",
            "--threads",
            "16",
            "--timeout",
            "0",
            "--no-control-socket",
            "--bind",
            bind,
            "--log-level",
            "warning",
        ]
        worker = [sys.executable, "-m", "django", "work"]
        self.keep_running({"web server": web, "worker": worker}, environment, bind)

    def keep_running(self, commands: dict[str, list[str]], environment: dict[str, str], bind: str) -> None:
        stopping = False

        def stop(signum: int, frame: object) -> None:
            nonlocal stopping
            stopping = True

        signal.signal(signal.SIGTERM, stop)
        signal.signal(signal.SIGINT, stop)
        processes = {name: subprocess.Popen(command, env=environment) for name, command in commands.items()}
        started = dict.fromkeys(commands, time.monotonic())
        self.stdout.write(f"Valley is at http://{bind}/  (Ctrl-C stops it)")
        self.stdout.flush()
        while not stopping:
            time.sleep(0.3)
            for name, process in processes.items():
                if process.poll() is None or stopping:
                    continue
                if time.monotonic() - started[name] < 2:  # dies at once: starting it again would not help
                    self.stderr.write(f"The {name} stopped at once (exit status {process.returncode}); is {bind} in use?")
                    stopping = True
                    break
                self.stderr.write(f"The {name} stopped (exit status {process.returncode}) and is started again.")
                processes[name] = subprocess.Popen(commands[name], env=environment)
                started[name] = time.monotonic()
        for process in processes.values():
            if process.poll() is None:
                process.terminate()
        for process in processes.values():
            try:
                process.wait(timeout=10)
            except subprocess.TimeoutExpired:
                process.kill()
