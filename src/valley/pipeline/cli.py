"""The command line: ``valley hear FILE`` and ``valley lesson FILE --to DIR``. It only parses and prints."""

from __future__ import annotations

import argparse
import json
import os
import shutil
import sys
from collections.abc import Callable, Iterator, Sequence
from contextlib import contextmanager
from pathlib import Path

from tqdm import tqdm

from valley import __version__
from valley.arranging.reach import KEYBOARDS, hand_named
from valley.arranging.styles import STYLES
from valley.audio.decode import MAX_SECONDS
from valley.errors import ValleyError
from valley.formats.hearing_json import dump_hearing, save_hearing
from valley.pipeline.listen import listen
from valley.pipeline.progress import Listener, Progress
from valley.pipeline.teach import make_lesson, save_handouts

BAD_INPUT = 2


def build_parser() -> argparse.ArgumentParser:
    parser = argparse.ArgumentParser(prog="valley", description="From a recorded song to a two-handed piano lesson.")
    parser.add_argument("--version", action="version", version=f"valley {__version__}")
    commands = parser.add_subparsers(required=True, metavar="COMMAND")

    hear = commands.add_parser("hear", help="listen to a recording and write what was heard")
    hear.add_argument("file", type=Path, metavar="FILE", help="mp3, m4a, ogg, opus, flac, wav or a video")
    hear.add_argument("--out", type=Path, metavar="hearing.json", help="where to write; standard output without it")
    hear.set_defaults(run=run_hear)

    lesson = commands.add_parser("lesson", help="listen, arrange, and write sheet music, MIDI and the lesson's text")
    lesson.add_argument("file", type=Path, metavar="FILE")
    lesson.add_argument("--to", type=Path, required=True, metavar="DIR", help="folder for the files; made if it is not there")
    lesson.add_argument("--style", default="block-and-melody", choices=STYLES, help="voicing style")
    lesson.add_argument("--hand", default="medium", metavar="small|medium|large|MM", help="widest span of a hand")
    lesson.add_argument("--keyboard", type=int, default=88, choices=KEYBOARDS, help="number of keys")
    lesson.add_argument("--title", help="the song's name; the file's name without it")
    lesson.set_defaults(run=run_lesson)
    for command in (hear, lesson):
        command.add_argument("--longest", type=float, default=MAX_SECONDS / 60, metavar="MINUTES", help="refuse longer recordings")
    return parser


def run_hear(args: argparse.Namespace) -> None:
    if args.out and not args.out.absolute().parent.is_dir():
        raise ValleyError(f"There is no folder {str(args.out.parent)!r} to write {args.out.name!r} into; make it first.")
    with watch_progress() as listener:
        hearing = listen(args.file, max_seconds=args.longest * 60, listener=listener)
    if args.out:
        save_hearing(hearing, args.out)
    else:
        json.dump(dump_hearing(hearing), sys.stdout, ensure_ascii=False, indent=1)
        sys.stdout.write("\n")


def run_lesson(args: argparse.Namespace) -> None:
    hand = hand_named(args.hand)
    if args.to.exists() and not args.to.is_dir():
        raise ValleyError(f"{str(args.to)!r} is a file, not a folder; choose another place for the lesson.")
    with watch_progress() as listener:
        hearing = listen(args.file, max_seconds=args.longest * 60, listener=listener)
    made = make_lesson(hearing, args.title or args.file.stem.replace("_", " "), style=args.style, hand=hand, keyboard=args.keyboard)
    args.to.mkdir(parents=True, exist_ok=True)
    for path in save_handouts(made, args.to):
        sys.stdout.write(f"{path}\n")


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


def main(argv: Sequence[str] | None = None) -> int:
    """Run one command; the exit status is 2 for bad input, with one sentence on standard error."""
    args = build_parser().parse_args(argv)
    run: Callable[[argparse.Namespace], None] = args.run
    try:
        run(args)
    except ValleyError as error:
        sys.stderr.write(f"valley: {error}\n")
        return BAD_INPUT
    except OSError as error:
        sys.stderr.write(f"valley: {error.strerror or error}: {error.filename or 'the output'}; nothing was left half written.\n")
        return 1
    except KeyboardInterrupt:
        sys.stderr.write("valley: stopped; nothing was written.\n")
        return 130
    except BrokenPipeError:
        os.dup2(os.open(os.devnull, os.O_WRONLY), sys.stdout.fileno())
    return 0


if __name__ == "__main__":
    sys.exit(main())
