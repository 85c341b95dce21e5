"""chart.json: the project's own document of a chart, versioned. See docs/formats/chart.md."""

from __future__ import annotations

from pathlib import Path
from typing import Any

from valley.charting.parts import relate_parts
from valley.formats._codec import dump_document, from_plain, load_json, open_document, save_json, write_document
from valley.model.chart import Chart

CHART_FORMAT, VERSION = "valley-chart", 2


def dump_chart(chart: Chart) -> dict[str, Any]:
    """Plain data; beats are exact fractions written as texts ("7/2"), chords as Harte's labels."""
    return dump_document(chart, Chart, CHART_FORMAT, VERSION)


def write_chart(chart: Chart) -> str:
    """The same document, written as JSON."""
    return write_document(chart, Chart, CHART_FORMAT, VERSION)


def read_chart(data: object) -> Chart:
    """A Chart from plain data; FormatError names the place that is wrong."""
    old = isinstance(data, dict) and data.get("version") == 1
    chart = from_plain(open_document(data, CHART_FORMAT, VERSION, {1: _fold_labels}), Chart, CHART_FORMAT)
    return relate_parts(chart, chart.parts) if old else chart  # version 1 kept differences as sentences


def _fold_labels(fields: dict[str, Any]) -> dict[str, Any]:
    """Version 1 called a chord's text its label, and told the differences of repeats in words."""
    chords = [{("chord" if k == "label" else k): v for k, v in c.items()} for c in fields["chords"]]
    parts = [{k: v for k, v in p.items() if k != "differences"} for p in fields.get("parts", ())]
    return fields | {"chords": chords, "parts": parts}


def load_chart(path: str | Path) -> Chart:
    return read_chart(load_json(path))


def save_chart(chart: Chart, path: str | Path) -> None:
    save_json(dump_chart(chart), path)
