"""``valley hear FILE``."""

from __future__ import annotations

import argparse
from pathlib import Path

from valley.formats.hearing_json import dump_hearing
from valley.pipeline.commands._common import add_longest, check_folder_of, put_json, watch_progress


def add_hear(hear: argparse.ArgumentParser) -> None:
    hear.add_argument("file", type=Path, metavar="FILE", help="mp3, m4a, ogg, opus, flac, wav or a video")
    hear.add_argument("--out", type=Path, metavar="hearing.json", help="where to write; standard output without it")
    add_longest(hear)
    hear.set_defaults(run=run_hear)


def run_hear(args: argparse.Namespace) -> None:
    from valley.pipeline.listen import listen

    check_folder_of(args.out)
    with watch_progress() as listener:
        hearing = listen(args.file, max_seconds=args.longest * 60, listener=listener)
    put_json(dump_hearing(hearing), args.out)
