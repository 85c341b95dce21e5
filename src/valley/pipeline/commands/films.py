"""``valley film``: what stands beside the hands, as a film."""

from __future__ import annotations

import argparse
import sys
from dataclasses import replace
from pathlib import Path

from valley.errors import ParameterError
from valley.formats.stage import LAYERS, SHAPES, USUAL
from valley.model.choices import Choices
from valley.pipeline.charts import load_work
from valley.pipeline.commands._common import check_folder_of
from valley.pipeline.commands.hands import add_choices, read_choices
from valley.pipeline.film import KINDS, TIMES, Film, save_film
from valley.song.work import Work


def add_film(film: argparse.ArgumentParser) -> None:
    film.add_argument("chart", type=Path, metavar="CHART")
    film.add_argument("--out", type=Path, required=True, metavar="FILE", help="its ending says how: " + "; ".join(f".{k} {row[3]}" for k, row in KINDS.items()))
    film.add_argument("--shape", choices=tuple(SHAPES), default="1080p", help="; ".join(f"{n}: {w} × {h}" for n, (w, h) in SHAPES.items()))
    film.add_argument("--part", type=int, default=0, metavar="N", help="the whole song without it")
    film.add_argument("--rate", type=int, choices=(30, 60), default=30, help="pictures a second")
    film.add_argument("--time", choices=tuple(TIMES), default="recording", help="; ".join(f"{n}: {words}" for n, words in TIMES.items()))
    film.add_argument("--speed", type=float, default=1.0, metavar="SHARE", help="of the song's own, in time with a practice track")
    film.add_argument("--show", nargs="+", choices=tuple(LAYERS), default=list(USUAL), metavar="LAYER", help=", ".join(LAYERS))
    film.add_argument("--mirrored", action="store_true", help="the low keys at the right")
    film.add_argument("--no-count-in", action="store_true", help="begin at once")
    film.add_argument("--metronome", action="store_true", help="with a click on every beat, where there is sound")
    add_choices(film)
    film.set_defaults(run=run_film)


def run_film(args: argparse.Namespace) -> None:
    check_folder_of(args.out)
    kind = args.out.suffix.lower().removeprefix(".")
    if kind not in KINDS:
        raise ParameterError(f"{args.out.name!r} must end in {', '.join(f'.{k}' for k in KINDS)}")
    wanted = Film(
        kind,
        args.shape,
        args.part,
        args.rate,
        args.time,
        args.speed,
        not args.no_count_in,
        args.metronome,
        args.mirrored,
        tuple(dict.fromkeys(args.show)),
    )
    work = load_work(args.chart)
    if work.song.choices == Choices():
        work = Work(replace(work.song, choices=read_choices(args)), work.hearing)
    shown = -1

    def tell(words: str, share: float) -> None:
        nonlocal shown
        if sys.stderr.isatty() and round(100 * share) > shown:
            shown = round(100 * share)
            sys.stderr.write(f"\r{words} {shown} %")

    save_film(work, wanted, args.out, tell)
    if shown >= 0:
        sys.stderr.write("\n")
