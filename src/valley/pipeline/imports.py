"""A song with all that was chosen for it, from whatever holds one."""

from __future__ import annotations

import json
from dataclasses import dataclass, field
from pathlib import Path

from valley.formats.lesson_json import FORMAT as LESSON_FORMAT
from valley.formats.lesson_json import read_lesson
from valley.model.chart import Chart
from valley.model.choices import Choices
from valley.model.lesson import Teaching
from valley.pipeline.charts import IMPORTS, read_any_chart


@dataclass(frozen=True)
class Imported:
    """A chart, and, where the file is a lesson of Valley's own, what was chosen for hands, lesson and order."""

    chart: Chart
    choices: Choices = field(default_factory=Choices)
    teaching: Teaching = field(default_factory=Teaching)
    order: tuple[int, ...] = ()


def is_notes(name: str) -> bool:
    """Whether a file is read rather than listened to, by its name.

    >>> is_notes("song.MusicXML"), is_notes("song.mp3")
    (True, False)
    """
    return Path(name).suffix.lower() in IMPORTS


def read_any_song(data: bytes, name: str) -> Imported:
    """As ``read_any_chart``, with the choices that lesson.json brings.

    Raises
    ------
    FormatError
        naming the file's fault and the place in it
    """
    chart = read_any_chart(data, name)
    if Path(name).suffix.lower() == ".json":
        content = json.loads(data.decode("utf-8-sig"))
        if content.get("format") == LESSON_FORMAT:
            document = read_lesson(content)
            return Imported(chart, document.choices, Teaching(document.lesson.schools, document.edits), document.order)
    return Imported(chart)
