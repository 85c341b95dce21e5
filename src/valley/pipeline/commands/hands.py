"""``valley arrange`` and ``valley played``."""

from __future__ import annotations

import argparse
from collections.abc import Sequence
from dataclasses import fields, replace
from math import isfinite
from pathlib import Path

from valley.arranging.arrange import arrange
from valley.arranging.performance import hold_against
from valley.arranging.reach import hand_named
from valley.arranging.styles import LEVELS, STYLES
from valley.arranging.voicing import USUAL, Weights
from valley.errors import ParameterError
from valley.formats.arrangement_json import dump_arrangement
from valley.formats.hearing_json import load_hearing
from valley.model.arrangement import Arrangement
from valley.model.chart import Chart
from valley.model.choices import Choices
from valley.pipeline.charts import load_chart, load_work
from valley.pipeline.commands._common import add_json, add_longest, check_folder_of, put_json, say, watch_progress
from valley.pipeline.readers import read_any_score
from valley.song.work import place_played


def add_arrange(arranged: argparse.ArgumentParser) -> None:
    arranged.add_argument("chart", type=Path, metavar="CHART", help="chart.json, hearing.json, a chord chart as text, or a recording")
    add_choices(arranged)
    arranged.add_argument("--weight", action="append", default=[], metavar="NAME=VALUE", help="what counts otherwise, such as kept=3; see docs/hands.md")
    arranged.add_argument("--played", type=Path, metavar="hearing.json", help="the hearing whose struck notes the style as-recorded takes")
    add_json(arranged)
    add_longest(arranged)
    arranged.set_defaults(run=run_arrange)


def add_played(played: argparse.ArgumentParser) -> None:
    played.add_argument("performance", type=Path, metavar="PERFORMANCE.mid")
    played.add_argument("--chart", type=Path, required=True, metavar="CHART")
    add_choices(played)
    add_json(played)
    add_longest(played)
    played.set_defaults(run=run_played)


def add_choices(command: argparse.ArgumentParser) -> None:
    """The options by which hands are chosen, the same for every command that arranges."""
    command.add_argument("--style", default="block-and-melody", choices=STYLES, metavar="NAME", help="voicing style; valley styles lists them")
    command.add_argument("--level", default="standard", choices=LEVELS)
    command.add_argument("--hand", default="medium", metavar="small|medium|large|MM", help="a hand's span, or thumb to each finger such as 120,150,168,178")
    command.add_argument("--keyboard", default="88", metavar="49|61|73|76|88", help="number of keys, or the lowest and highest key such as E1-G7")
    command.add_argument("--frame", default="", metavar="C2-C6", help="the keys that the camera shows")
    command.add_argument("--pattern", default="held", metavar="NAME", help="accompaniment pattern; valley patterns lists them")
    command.add_argument("--bass", default="slash", choices=("slash", "root"), help="follow slash basses, or keep the root")
    command.add_argument("--links", action="store_true", help="play the walks, fills and other links that fit")


def read_choices(args: argparse.Namespace) -> Choices:
    return Choices(
        style=args.style,
        level=args.level,
        hand=args.hand,
        keyboard=args.keyboard,
        frame=args.frame,
        pattern=args.pattern,
        bass=args.bass,
        links="all" if args.links else "chosen",
    )


def run_arrange(args: argparse.Namespace) -> None:
    check_folder_of(args.json)
    choices, weights = read_choices(args), read_weights(args.weight)
    hand_named(choices.hand)
    with watch_progress() as listener:
        work = load_work(args.chart, max_minutes=args.longest, listener=listener)
    played = place_played(load_hearing(args.played), work.chart.grid) if args.played else work.played
    arrangement = arrange(work.chart, choices, played=played, weights=weights)
    if args.json:
        put_json(dump_arrangement(arrangement), args.json)
    else:
        _print(work.chart, arrangement)


def read_weights(texts: Sequence[str]) -> Weights:
    """The usual weights with some changed.

    >>> read_weights(["kept=3"]).kept
    3.0
    """
    names = [f.name for f in fields(Weights)]
    changed: dict[str, float] = {}
    for text in texts:
        name, _, value = text.partition("=")
        try:
            changed[name] = float(value)
        except ValueError:
            raise ParameterError(f"weight {text!r} must be a name and a number, such as kept=3") from None
        if name not in names or not isfinite(changed[name]):
            raise ParameterError(f"weight {text!r} must be a finite number for one of {', '.join(names)}")
    return replace(USUAL, **changed)


def _print(chart: Chart, arrangement: Arrangement) -> None:
    for part in arrangement.parts:
        say(f"Part {part.part}, {STYLES[part.style].title}, {part.level}")
        for grip in part.grips:
            bar, count = chart.grid.place(grip.start)[0], chart.grid.count(grip.start)
            hands = [" ".join(n.pitch + ("*" if n.optional else "") for n in hand) or "–" for hand in (grip.left, grip.right)]
            say(f"  bar {bar} on {count}: {grip.symbol:8} left {hands[0]:16} right {hands[1]:20} {grip.why}")
        for notice in part.notices:
            say(f"  ! {notice}")


def run_played(args: argparse.Namespace) -> int:
    check_folder_of(args.json)
    choices = read_choices(args)
    score = read_any_score(args.performance.read_bytes(), args.performance.name)
    chart = load_chart(args.chart, max_minutes=args.longest)
    held = hold_against(chart, arrange(chart, choices), score.notes)
    if args.json:
        put_json(
            {
                "notes": held.notes,
                "found": round(held.found, 4),
                "bars": [{"bar": f.bar, "missing": f.missing, "extra": f.extra, "timing": round(f.timing, 3)} for f in held.faults],
                "struck": [{"start_beat": str(s.start), "midi": s.midi, "hand": s.hand, "right": s.right} for s in held.struck],
            },
            args.json,
        )
    else:
        for fault in held.faults:
            say(f"bar {fault.bar}: {fault.words}")
        say(f"{held.found:.0%} of {held.notes} notes were struck.")
    return 1 if held.faults else 0
