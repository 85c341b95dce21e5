"""``valley chart`` and ``valley parts``."""

from __future__ import annotations

import argparse
from pathlib import Path
from typing import Any

from valley.formats.chart_json import dump_chart
from valley.model.chart import Chart, Part
from valley.phrases.differences import say_differences
from valley.pipeline.charts import load_chart, load_song
from valley.pipeline.commands._common import add_json, add_longest, check_folder_of, put_json, say, watch_progress


def add_chart(chart: argparse.ArgumentParser) -> None:
    chart.add_argument("file", type=Path, metavar="FILE|hearing.json", help="a recording, hearing.json, chart.json or a chord chart as text")
    chart.add_argument("--out", type=Path, metavar="chart.json", help="where to write; standard output without it")
    add_longest(chart)
    chart.set_defaults(run=run_chart)


def add_parts(parts: argparse.ArgumentParser) -> None:
    parts.add_argument("chart", type=Path, metavar="chart.json", help="chart.json, hearing.json or a chord chart as text")
    add_json(parts)
    parts.set_defaults(run=run_parts)


def run_chart(args: argparse.Namespace) -> None:
    check_folder_of(args.out)
    with watch_progress() as listener:
        chart = load_chart(args.file, max_minutes=args.longest, listener=listener)
    put_json(dump_chart(chart), args.out)


def run_parts(args: argparse.Namespace) -> None:
    check_folder_of(args.json)
    chart = load_song(args.chart).chart
    listed = list_parts(chart)
    if args.json:
        put_json(listed, args.json)
        return
    for part in listed["parts"]:
        name = f" {part['name']}" if part["name"] else ""
        span = f"bars {part['start_bar']}–{part['end_bar']}" if part["bars"] > 1 else f"bar {part['start_bar']}"
        repeats = f", {_KINSHIP[part['kinship']]} part {part['same_as']}" if part["same_as"] else ""
        say(f"{part['number']}{name}: {span}, {part['key']}{repeats}")
        say(f"   {' | '.join(part['chords'])}")
        for words in part["differences"]:
            say(f"   - {words}")
    say(f"{listed['bars_to_learn']} bars to learn, {listed['bars_to_play']} bars to play.")


_KINSHIP = {"same": "the same as", "moved": "at another pitch than", "chords": "with the chords of", "varied": "a variant of", "new": "like"}


def list_parts(chart: Chart) -> dict[str, Any]:
    """Every part with its bars, kin and differences, and the sums; beats as texts."""
    return {
        "title": chart.title,
        "parts": [_show_part(chart, part) for part in chart.parts],
        "bars_to_learn": sum(p.new_bars for p in chart.parts),
        "bars_to_play": chart.grid.bars,
    }


def _show_part(chart: Chart, part: Part) -> dict[str, Any]:
    start, end = chart.span(part)
    bars = []
    for bar in range(part.start_bar, part.end_bar + 1):
        bars.append(" ".join(c.symbol for c in chart.sounding_in(bar)) or "–")
    family = part.same_as or part.number
    return {
        "number": part.number,
        "name": part.name,
        "start_bar": part.start_bar,
        "end_bar": part.end_bar,
        "bars": part.bars,
        "start_beat": str(start),
        "duration_beat": str(end - start),
        "seconds": round(chart.grid.seconds(end) - chart.grid.seconds(start), 3),
        "key": str(chart.key_at(start)),
        "chords": bars,
        "occurrences": [p.number for p in chart.parts if family in (p.number, p.same_as)],
        "same_as": part.same_as,
        "kinship": part.kinship,
        "moved": part.moved,
        "differences": list(say_differences(part.differences)),
        "bars_to_learn": part.new_bars,
        "bars_to_play": part.bars,
    }
