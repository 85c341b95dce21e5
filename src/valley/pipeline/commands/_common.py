"""What the commands share: progress on a terminal, options, and where results go."""

from __future__ import annotations

import argparse
import json
import shutil
import sys
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path
from typing import Any

from valley.errors import ValleyError
from valley.pipeline import MAX_MINUTES
from valley.pipeline.progress import Listener, Progress


def add_longest(command: argparse.ArgumentParser) -> None:
    command.add_argument("--longest", type=float, default=MAX_MINUTES, metavar="MINUTES", help="refuse longer recordings")


def check_folder_of(out: Path | None) -> None:
    """Say at once, before any long work, that there is no folder to write into."""
    if out and str(out) != "-" and not out.absolute().parent.is_dir():
        raise ValleyError(f"There is no folder {str(out.parent)!r} to write {out.name!r} into; make it first.")


def put_json(data: Any, out: Path | None) -> None:
    """Into a file, whole or not at all; on standard output without one (or for "-")."""
    if out and str(out) != "-":
        from valley.formats._codec import save_json

        save_json(data, out)
        return
    json.dump(data, sys.stdout, ensure_ascii=False, indent=1)
    sys.stdout.write("\n")


def say(text: str = "") -> None:
    sys.stdout.write(f"{text}\n")


@contextmanager
def watch_progress() -> Iterator[Listener]:
    """A bar on a terminal; warnings always; nothing else where no one watches."""
    warnings: list[str] = []

    def keep_warnings(progress: Progress) -> None:
        if progress.stage == "decode" and progress.found:
            warnings.append(progress.found)

    if not sys.stderr.isatty():
        yield keep_warnings
    else:
        from tqdm import tqdm

        # The size is given, because tqdm draws nothing on a terminal that says it has none.
        columns, rows = shutil.get_terminal_size()
        with tqdm(total=100, bar_format="{desc:28} {bar} {n:3.0f} %", leave=False, ncols=min(100, columns), nrows=rows) as bar:

            def show(progress: Progress) -> None:
                keep_warnings(progress)
                bar.set_description_str(progress.words, refresh=False)
                bar.n = round(100 * progress.fraction)
                bar.refresh()

            yield show
    for warning in warnings:
        sys.stderr.write(f"valley: {warning}\n")


def add_json(command: argparse.ArgumentParser) -> None:
    command.add_argument("--json", type=Path, nargs="?", const=Path("-"), metavar="OUT", help="write JSON instead, to OUT or standard output")
