"""``valley lesson FILE --to DIR``."""

from __future__ import annotations

import argparse
from pathlib import Path

from valley.arranging.reach import hand_named
from valley.errors import ValleyError
from valley.pipeline.charts import title_of
from valley.pipeline.commands._common import Commands, add_longest, say, watch_progress
from valley.pipeline.commands.hands import add_choices, read_choices
from valley.pipeline.listen import listen
from valley.pipeline.teach import make_lesson, save_handouts


def add(commands: Commands[argparse.ArgumentParser]) -> None:
    lesson = commands.add_parser("lesson", help="listen, arrange, and write sheet music, MIDI and the lesson's text")
    lesson.add_argument("file", type=Path, metavar="FILE")
    lesson.add_argument("--to", type=Path, required=True, metavar="DIR", help="folder for the files; made if it is not there")
    add_choices(lesson)
    lesson.add_argument("--title", help="the song's name; the file's name without it")
    add_longest(lesson)
    lesson.set_defaults(run=run_lesson)


def run_lesson(args: argparse.Namespace) -> None:
    choices = read_choices(args)
    hand_named(choices.hand)
    if args.to.exists() and not args.to.is_dir():
        raise ValleyError(f"{str(args.to)!r} is a file, not a folder; choose another place for the lesson.")
    with watch_progress() as listener:
        hearing = listen(args.file, max_seconds=args.longest * 60, listener=listener)
    made = make_lesson(hearing, args.title or title_of(args.file), choices)
    args.to.mkdir(parents=True, exist_ok=True)
    for path in save_handouts(made, args.to):
        say(str(path))
