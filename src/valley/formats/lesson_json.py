"""lesson.json: a whole song in one document – its state, what the hands play, and the lesson's steps as data. See docs/formats/lesson.md."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

from valley.errors import FormatError
from valley.formats._codec import from_plain, open_document, to_plain
from valley.formats.arrangement_json import dump_arrangement, read_arrangement
from valley.formats.choices_json import FORMAT as CHOICES
from valley.formats.choices_json import SETTINGS_FORMAT, SETTINGS_VERSION, TEACHING_FORMAT, TEACHING_VERSION
from valley.formats.song_json import FORMAT as SONG
from valley.formats.song_json import VERSION as SONG_VERSION
from valley.formats.song_json import dump_song, read_song
from valley.model.arrangement import Arrangement
from valley.model.lesson import Lesson
from valley.song.state import SongState

FORMAT, VERSION = "valley-lesson", 2


@dataclass(frozen=True)
class Document:
    """A song's state with what was made of it when it was written."""

    song: SongState
    arrangement: Arrangement
    lesson: Lesson


def dump_lesson(document: Document) -> dict[str, Any]:
    return {
        "format": FORMAT,
        "version": VERSION,
        "song": dump_song(document.song),
        "arrangement": dump_arrangement(document.arrangement),
        "lesson": to_plain(document.lesson, Lesson),
    }


def read_lesson(data: object) -> Document:
    """A Document from plain data; FormatError names the place that is wrong."""
    fields = open_document(data, FORMAT, VERSION, {1: _fold_parts})
    missing = [name for name in ("song", "arrangement", "lesson") if name not in fields]
    if missing:
        raise FormatError(f"{FORMAT} is malformed: {missing[0]} is missing")
    return Document(read_song(fields["song"]), read_arrangement(fields["arrangement"]), from_plain(fields["lesson"], Lesson, "lesson"))


def _fold_parts(fields: dict[str, Any]) -> dict[str, Any]:
    """Version 1 had chart, choices, edits and order side by side, and its lesson in sentences."""
    missing = [name for name in ("chart", "choices", "arrangement", "lesson") if name not in fields]
    if missing:
        raise FormatError(f"{FORMAT} is malformed: {missing[0]} is missing")
    lesson = fields["lesson"]
    teaching = {"format": TEACHING_FORMAT, "version": TEACHING_VERSION, "schools": lesson.get("schools", {}), "edits": fields.get("edits", [])}
    settings = {"format": SETTINGS_FORMAT, "version": SETTINGS_VERSION, "order": fields.get("order", [])}
    choices = fields["choices"] or {"format": CHOICES, "version": 1}
    song = {"format": SONG, "version": SONG_VERSION, "chart": fields["chart"], "choices": choices, "teaching": teaching, "settings": settings}
    return {"song": song, "arrangement": fields["arrangement"], "lesson": lesson | {"steps": [_fold_step(s) for s in lesson["steps"]]}}


def _fold_step(step: dict[str, Any]) -> dict[str, Any]:
    """Sentences as they stood; lines that were set in were items."""
    lines = [{"said": [_own(text.strip())], "kind": "own", "item": text.startswith("  ")} for text in step["lines"]]
    return step | {"title": _own(step["title"]), "lines": lines}


def _own(text: str) -> dict[str, Any]:
    return {"phrase": "own", "values": [["text", text]]}
