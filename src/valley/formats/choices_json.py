"""choices.json and teaching.json: what the creator chose for the hands and for the lesson, versioned. See docs/formats/arrangement.md."""

from __future__ import annotations

from typing import Any

from valley.formats._codec import dump_document, read_document
from valley.model.choices import Choices
from valley.model.lesson import Teaching

FORMAT, VERSION = "valley-choices", 1
TEACHING_FORMAT = "valley-teaching"


def dump_choices(choices: Choices) -> dict[str, Any]:
    """Plain data; beats are texts."""
    return dump_document(choices, Choices, FORMAT, VERSION)


def read_choices(data: object) -> Choices:
    """Choices from plain data, the usual ones from nothing; FormatError names the place that is wrong."""
    return read_document(data, Choices, FORMAT, VERSION) if data else Choices()


def dump_teaching(teaching: Teaching) -> dict[str, Any]:
    return dump_document(teaching, Teaching, TEACHING_FORMAT, VERSION)


def read_teaching(data: object) -> Teaching:
    """Schools and step edits from plain data, the usual ones from nothing."""
    return read_document(data, Teaching, TEACHING_FORMAT, VERSION) if data else Teaching()
