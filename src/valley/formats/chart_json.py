"""chart.json: the project's own document of a chart, versioned. See docs/formats/chart.md."""

from __future__ import annotations

from pathlib import Path
from typing import Any

from valley.formats._codec import dump_document, load_json, read_document, save_json
from valley.model.chart import Chart

CHART_FORMAT, VERSION = "valley-chart", 1


def dump_chart(chart: Chart) -> dict[str, Any]:
    """Plain data; beats are exact fractions written as texts ("7/2")."""
    return dump_document(chart, Chart, CHART_FORMAT, VERSION)


def read_chart(data: object) -> Chart:
    """A Chart from plain data; FormatError names the place that is wrong."""
    return read_document(data, Chart, CHART_FORMAT, VERSION)


def load_chart(path: str | Path) -> Chart:
    return read_chart(load_json(path))


def save_chart(chart: Chart, path: str | Path) -> None:
    save_json(dump_chart(chart), path)
