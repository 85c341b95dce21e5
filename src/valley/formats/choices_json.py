"""choices.json, teaching.json and settings: what the creator chose for the hands and for the lesson, versioned. See docs/formats/arrangement.md."""

from __future__ import annotations

from typing import Any

from valley.formats._codec import dump_document, read_document
from valley.model.choices import Choices
from valley.model.lesson import Settings, Teaching

FORMAT, VERSION = "valley-choices", 3
TEACHING_FORMAT, TEACHING_VERSION = "valley-teaching", 1
SETTINGS_FORMAT, SETTINGS_VERSION = "valley-settings", 1


def dump_choices(choices: Choices) -> dict[str, Any]:
    """Plain data; beats are texts, chords Harte's labels."""
    return dump_document(choices, Choices, FORMAT, VERSION)


def read_choices(data: object) -> Choices:
    """Choices from plain data, the usual ones from nothing (version 2 had no passages); FormatError names the place that is wrong."""
    return read_document(data, Choices, FORMAT, VERSION, {1: _fold_labels, 2: lambda old: old}) if data else Choices()


def _fold_labels(fields: dict[str, Any]) -> dict[str, Any]:
    """Version 1 called the chord of a grip its label."""
    return fields | {"grips": [{("chord" if k == "label" else k): v for k, v in g.items()} for g in fields.get("grips", ())]}


def dump_teaching(teaching: Teaching) -> dict[str, Any]:
    return dump_document(teaching, Teaching, TEACHING_FORMAT, TEACHING_VERSION)


def read_teaching(data: object) -> Teaching:
    """Schools and step edits from plain data, the usual ones from nothing."""
    return read_document(data, Teaching, TEACHING_FORMAT, TEACHING_VERSION) if data else Teaching()


def dump_settings(settings: Settings) -> dict[str, Any]:
    return dump_document(settings, Settings, SETTINGS_FORMAT, SETTINGS_VERSION)


def read_settings(data: object) -> Settings:
    """What the lessons hold from plain data, the usual from nothing."""
    return read_document(data, Settings, SETTINGS_FORMAT, SETTINGS_VERSION) if data else Settings()
