"""lesson.json: a whole song in one document – chart, choices, what the hands play, the lesson's steps and what was written over them. See
docs/formats/lesson.md."""

from __future__ import annotations

from dataclasses import dataclass, field
from typing import Any

from valley.errors import FormatError
from valley.formats._codec import from_plain, to_plain
from valley.formats.arrangement_json import dump_arrangement, read_arrangement
from valley.formats.chart_json import dump_chart, read_chart
from valley.formats.choices_json import dump_choices, read_choices
from valley.model.arrangement import Arrangement
from valley.model.chart import Chart
from valley.model.choices import Choices
from valley.model.lesson import Lesson, StepEdit

FORMAT, VERSION = "valley-lesson", 1


@dataclass(frozen=True)
class _Edits:
    edits: tuple[StepEdit, ...] = ()


@dataclass(frozen=True)
class Document:
    """Everything that a lesson is made of."""

    chart: Chart
    choices: Choices
    arrangement: Arrangement
    lesson: Lesson
    edits: tuple[StepEdit, ...] = ()
    order: tuple[int, ...] = field(default=())


def dump_lesson(document: Document) -> dict[str, Any]:
    return {
        "format": FORMAT,
        "version": VERSION,
        "chart": dump_chart(document.chart),
        "choices": dump_choices(document.choices),
        "arrangement": dump_arrangement(document.arrangement),
        "lesson": to_plain(document.lesson, Lesson),
        "edits": to_plain(_Edits(document.edits), _Edits)["edits"],
        "order": list(document.order),
    }


def read_lesson(data: object) -> Document:
    """A Document from plain data; FormatError names the place that is wrong."""
    if not isinstance(data, dict) or data.get("format") != FORMAT:
        found = data.get("format") if isinstance(data, dict) else type(data).__name__
        raise FormatError(f"format={found!r} must be {FORMAT!r}; this is another kind of file")
    if data.get("version") != VERSION:
        raise FormatError(f"version={data.get('version')!r} of {FORMAT} cannot be read here; this Valley reads version {VERSION}")
    missing = [name for name in ("chart", "choices", "arrangement", "lesson") if name not in data]
    if missing:
        raise FormatError(f"{FORMAT} is malformed: {missing[0]} is missing")
    return Document(
        read_chart(data["chart"]),
        read_choices(data["choices"]),
        read_arrangement(data["arrangement"]),
        from_plain(data["lesson"], Lesson, "lesson"),
        from_plain({"edits": data.get("edits", [])}, _Edits, "edits").edits,
        tuple(int(n) for n in data.get("order", [])),
    )
