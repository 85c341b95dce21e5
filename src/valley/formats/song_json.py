"""A song's state as one document: what a version of a song is kept as, and the heart of lesson.json."""

from __future__ import annotations

import json
from typing import Any

from valley.errors import FormatError, ValleyError
from valley.formats._codec import open_document
from valley.formats.chart_json import dump_chart, read_chart, write_chart
from valley.formats.choices_json import dump_choices, dump_settings, dump_teaching, read_choices, read_settings, read_teaching
from valley.song.state import SongState

FORMAT, VERSION = "valley-song", 1


def dump_song(song: SongState) -> dict[str, Any]:
    """Plain data: four documents, each with a version of its own."""
    return {
        "format": FORMAT,
        "version": VERSION,
        "chart": dump_chart(song.chart),
        "choices": dump_choices(song.choices),
        "teaching": dump_teaching(song.teaching),
        "settings": dump_settings(song.settings),
    }


def write_song(song: SongState) -> str:
    """What ``dump_song`` gives, as JSON: its chart, nearly all of it, is written without being made into dicts first."""
    rest = {"choices": dump_choices(song.choices), "teaching": dump_teaching(song.teaching), "settings": dump_settings(song.settings)}
    return f'{{"format": "{FORMAT}", "version": {VERSION}, "chart": {write_chart(song.chart)}, {json.dumps(rest)[1:]}'


def read_song(data: object) -> SongState:
    """A song's state from plain data; FormatError names the place that is wrong."""
    fields = open_document(data, FORMAT, VERSION)
    if "chart" not in fields:
        raise FormatError(f"{FORMAT} is malformed: chart is missing")
    chart, choices = read_chart(fields["chart"]), read_choices(fields.get("choices"))
    teaching, settings = read_teaching(fields.get("teaching")), read_settings(fields.get("settings"))
    try:
        return SongState(chart, choices, teaching, settings)
    except ValleyError as error:
        raise FormatError(f"{FORMAT} is malformed: {error}") from error
