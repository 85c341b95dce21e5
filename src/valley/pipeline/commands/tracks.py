"""``valley track``: what the hands play, as sound."""

from __future__ import annotations

import argparse
from dataclasses import replace
from pathlib import Path

from valley.audio.packing import KINDS
from valley.errors import ParameterError
from valley.formats._codec import save_bytes
from valley.model.choices import Choices
from valley.pipeline.charts import load_work
from valley.pipeline.commands._common import check_folder_of, say
from valley.pipeline.commands.hands import add_choices, read_choices
from valley.pipeline.practice import MIXES, Track, dump_track
from valley.pipeline.slowed import CAUTION, Slowed, dump_slowed
from valley.song.work import Work


def add_track(track: argparse.ArgumentParser) -> None:
    track.add_argument("chart", type=Path, metavar="CHART")
    track.add_argument("--out", type=Path, required=True, metavar="FILE", help=f"its ending says how: {', '.join(KINDS)}")
    track.add_argument("--mix", choices=tuple(MIXES), default="both", help="; ".join(f"{name}: {words}" for name, words in MIXES.items()))
    track.add_argument("--part", type=int, default=0, metavar="N", help="the whole song without it")
    track.add_argument("--speed", type=float, default=1.0, metavar="SHARE", help="of the song's own, 0.25 to 1.5")
    track.add_argument("--no-count-in", action="store_true", help="begin at once")
    track.add_argument("--recording", type=Path, metavar="SOUND", help="the recording itself, slower at its own pitch, for your own rehearsal only")
    track.add_argument("--metronome", action="store_true", help="with a click on every beat")
    add_choices(track)
    track.set_defaults(run=run_track)


def run_track(args: argparse.Namespace) -> None:
    check_folder_of(args.out)
    kind = args.out.suffix.lower().removeprefix(".")
    if kind not in KINDS:
        raise ParameterError(f"{args.out.name!r} must end in {', '.join(f'.{k}' for k in KINDS)}")
    if args.recording:
        slowed = Slowed(args.part, args.speed, not args.no_count_in, kind)
        save_bytes(dump_slowed(args.recording, load_work(args.chart).chart, slowed), args.out)
        say(CAUTION)
        return
    wanted = Track(args.mix, args.part, args.speed, not args.no_count_in, args.metronome, kind)
    work = load_work(args.chart)
    if work.song.choices == Choices():
        work = Work(replace(work.song, choices=read_choices(args)), work.hearing)
    save_bytes(dump_track(work.chart, work.arrangement, wanted), args.out)
