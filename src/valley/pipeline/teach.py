"""Hearing → chart → arrangement → lesson, and the files handed out."""

from __future__ import annotations

from dataclasses import dataclass
from pathlib import Path

from valley.arranging.arrange import arrange
from valley.charting.from_hearing import make_chart
from valley.formats.chart_json import save_chart
from valley.formats.hearing_json import save_hearing
from valley.formats.lesson_text import save_lesson_text
from valley.formats.midi import save_midi
from valley.formats.musicxml import save_musicxml
from valley.lesson.script import build_lesson
from valley.model.arrangement import Arrangement
from valley.model.chart import Chart
from valley.model.choices import Choices
from valley.model.hearing import Hearing
from valley.model.lesson import Lesson
from valley.pipeline.charts import place_played


@dataclass(frozen=True)
class Made:
    """Every stage of one song."""

    hearing: Hearing
    chart: Chart
    arrangement: Arrangement
    lesson: Lesson


def make_lesson(hearing: Hearing, title: str, choices: Choices = Choices()) -> Made:  # noqa: B008 - frozen
    """From what was heard to the lesson, without any correction."""
    chart = make_chart(hearing, title)
    arrangement = arrange(chart, choices, played=place_played(hearing, chart.grid))
    return Made(hearing, chart, arrangement, build_lesson(chart, arrangement))


def save_handouts(made: Made, folder: Path) -> list[Path]:
    """Write hearing.json, chart.json, song.musicxml, song.mid and lesson.txt, each whole or not at all."""
    paths = [folder / name for name in ("hearing.json", "chart.json", "song.musicxml", "song.mid", "lesson.txt")]
    save_hearing(made.hearing, paths[0])
    save_chart(made.chart, paths[1])
    save_musicxml(made.chart, made.arrangement, paths[2])
    save_midi(made.chart, made.arrangement, paths[3])
    save_lesson_text(made.lesson, paths[4])
    return paths
