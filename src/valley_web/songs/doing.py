"""Doing one claimed job: a child process does the work, and what it says is passed on. Knows no database: see ``Hold``."""

import errno
import json
import logging
import queue
import subprocess
import tempfile
import threading
import time
from dataclasses import dataclass, field
from pathlib import Path
from typing import Protocol

HEARTBEAT_SECONDS = 1.0
logger = logging.getLogger(__name__)


@dataclass
class Said:
    """What a child has said so far: its stage and share of the whole, all that it found, and a warning about the file."""

    stage: str = ""
    fraction: float = 0.0
    found: list[str] = field(default_factory=list)
    warning: str = ""

    def hear(self, line: str) -> bool:
        """Take in one line; True where something was found."""
        message = json.loads(line)
        self.stage, self.fraction = message["words"], message["fraction"]
        if not message["found"]:
            return False
        self.found = [*self.found, message["found"]][-40:]
        if message["stage"] == "decode":
            self.warning = message["found"]
        return True


class Hold(Protocol):
    """A claimed job as whoever does it sees it, wherever it is kept. What is told after another worker has taken it over is of no effect."""

    def make_command(self, folder: Path) -> list[str]:
        """The child's command; what it makes goes into the folder."""

    def go_on(self, said: Said) -> bool:
        """Keep the job, and pass on what was said; False where it is to be stopped, or is another's by now."""

    def keep(self, folder: Path, warning: str) -> None:
        """It is done: take over what the child made."""

    def fail(self, why: str) -> None:
        """It cannot be done, and a sentence says why."""

    def cancel(self) -> None:
        """It was stopped as asked."""

    def try_again(self, errors: str) -> None:
        """The child broke off, and this is the end of what it said."""

    def put_back(self, *, full: bool = False) -> None:
        """In line again, as nobody's fault; ``full`` where the disk is, so that it waits for room."""


def do_job(hold: Hold, workplace: Path) -> None:
    """Do one claimed job to its end: done, failed, cancelled, or left to another worker.

    Where the worker is stopped meanwhile, the job goes back in line at once; where the disk is full, it waits for room.
    """
    try:
        with tempfile.TemporaryDirectory(dir=workplace) as folder:
            _do(hold, Path(folder))
    except KeyboardInterrupt:
        hold.put_back()
        raise
    except Exception as error:
        if not _is_full(error):
            raise
        logger.warning("no room for a job: %s", error)
        hold.put_back(full=True)


def _is_full(error: Exception) -> bool:
    """A full disk, as the system says it, and as the database does."""
    if isinstance(error, OSError) and error.errno is not None:
        return error.errno in (errno.ENOSPC, errno.EDQUOT)
    return "disk is full" in str(error)


def _do(hold: Hold, folder: Path) -> None:
    said = Said()
    command = hold.make_command(folder)
    with subprocess.Popen(command, stdin=subprocess.DEVNULL, stdout=subprocess.PIPE, stderr=subprocess.PIPE, text=True) as child:
        try:
            stopped = _follow(hold, child, said)
        except BaseException:
            child.kill()
            raise
        errors = child.stderr.read()[-2000:] if child.stderr else ""
    if stopped:
        hold.cancel()
    elif child.returncode == 0:
        hold.keep(folder, said.warning)
    elif child.returncode == 2:
        hold.fail(errors.strip().splitlines()[-1] if errors.strip() else "It could not be done, and nothing was said why.")
    else:
        logger.error("the child of a job ended with %s: %s", child.returncode, errors)
        hold.try_again(errors)


def _follow(hold: Hold, child: "subprocess.Popen[str]", said: Said) -> bool:
    """Pass on progress until the child ends; True where it was stopped on request."""
    beat = 0.0
    lines = _read_lines(child)
    while True:
        try:
            line = lines.get(timeout=HEARTBEAT_SECONDS)
        except queue.Empty:
            line = None
        if line == "":
            break
        found = bool(line) and said.hear(line or "")
        if found or time.monotonic() - beat > HEARTBEAT_SECONDS:
            beat = time.monotonic()
            if not hold.go_on(said):
                child.kill()
                child.wait()
                return True
    child.wait()
    return False


def _read_lines(child: "subprocess.Popen[str]") -> "queue.Queue[str]":
    """The child's lines as they come, and an empty one at the end; read in a thread, so that waiting can time out."""
    lines: queue.Queue[str] = queue.Queue()

    def read() -> None:
        for line in child.stdout or ():
            lines.put(line)
        lines.put("")

    threading.Thread(target=read, daemon=True).start()
    return lines
