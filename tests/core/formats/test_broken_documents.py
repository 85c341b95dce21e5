"""Documents that somebody's tool or hand has spoiled: each leaf in turn is another thing, and what comes is one sentence with a place, or a sound value."""

from __future__ import annotations

import copy
import json
from collections.abc import Callable, Iterator
from typing import Any

import pytest

from tests.charts import C_MAJOR, chart_of, make_work
from valley.errors import FormatError
from valley.formats.arrangement_json import dump_arrangement, read_arrangement
from valley.formats.chart_json import dump_chart, read_chart
from valley.formats.choices_json import dump_choices, dump_settings, dump_teaching, read_choices, read_settings, read_teaching
from valley.formats.lesson_json import dump_lesson, read_lesson
from valley.formats.song_json import dump_song, read_song
from valley.model.choices import Choices, ChosenNote, GripChoice, LinkChoice, PartChoice
from valley.model.lesson import StepEdit
from valley.pipeline.handouts import document_of

CHART = chart_of(["C", "F/A", "N", "G7"], tune=[(0, 1, 72), (1, 1, 74)], parts=[(1, 2, None), (3, 2, None)])
GRIP = GripChoice(CHART.chords[0].start, C_MAJOR, (ChosenNote(48, finger=5),), (ChosenNote(64), ChosenNote(67, True)), "mine")
CHOICES = Choices(style="octaves", parts=(PartChoice(2, level="easier"),), grips=(GRIP,), taken_links=(LinkChoice(CHART.chords[1].start, "walk", "full"),))
WORK = make_work(CHART, CHOICES, edits=(StepEdit("part-1/both", lines=("Slowly.",), over=("x",)),))

DOCUMENTS: dict[str, tuple[Any, Callable[[Any], object]]] = {
    "chart": (dump_chart(CHART), read_chart),
    "choices": (dump_choices(CHOICES), read_choices),
    "teaching": (dump_teaching(WORK.song.teaching), read_teaching),
    "settings": (dump_settings(WORK.song.settings), read_settings),
    "song": (dump_song(WORK.song), read_song),
    "arrangement": (dump_arrangement(WORK.arrangement), read_arrangement),
    "lesson": (dump_lesson(document_of(WORK)), read_lesson),
}
JUNK: tuple[Any, ...] = (None, "wild", -5, 10**9, 0.5, True, [], {}, ["x"], {"a": 1}, "1/0", "N", "")
MOST = 90  # leaves of one document; the rest are more of the same


def leaves(data: Any, path: tuple[str | int, ...] = ()) -> Iterator[tuple[str | int, ...]]:
    """Every place in a document that holds no other, the first three of a list standing for all."""
    items = data.items() if isinstance(data, dict) else enumerate(data[:3]) if isinstance(data, list) else ()
    found = False
    for key, value in items:
        found = True
        yield from leaves(value, (*path, key))
    if not found:
        yield path


def spoiled(data: Any, path: tuple[str | int, ...], value: Any) -> Any:
    out = copy.deepcopy(data)
    place = out
    for step in path[:-1]:
        place = place[step]
    place[path[-1]] = value
    return out


@pytest.mark.parametrize("name", DOCUMENTS)
def test_what_was_written_is_read(name: str) -> None:
    data, read = DOCUMENTS[name]
    assert read(json.loads(json.dumps(data))) is not None


@pytest.mark.parametrize("name", DOCUMENTS)
@pytest.mark.parametrize("junk", JUNK, ids=repr)
def test_a_spoiled_leaf_is_told_or_harmless(name: str, junk: Any) -> None:
    data, read = DOCUMENTS[name]
    told = 0
    paths = [p for p in leaves(data) if name != "lesson" or p[0] == "lesson"]  # the rest of a lesson are documents that stand here themselves
    for path in paths[:MOST]:
        if not path:
            continue
        try:
            read(spoiled(data, path, junk))
        except FormatError as error:
            told += 1
            assert str(error).strip()
            assert "Traceback" not in str(error)
    assert told or name == "settings"


@pytest.mark.parametrize("name", DOCUMENTS)
def test_a_missing_field_is_told_with_its_name_or_has_its_usual_value(name: str) -> None:
    data, read = DOCUMENTS[name]
    for field in list(data):
        less = {k: v for k, v in data.items() if k != field}
        try:
            read(less)
        except FormatError as error:
            assert field in str(error) or field in ("format", "version"), (field, str(error))


@pytest.mark.parametrize("name", DOCUMENTS)
@pytest.mark.parametrize("other", [{"version": 99}, {"format": "somebody-else"}, {"version": "one"}, {"version": None}], ids=str)
def test_another_kind_or_a_later_version_is_refused(name: str, other: dict[str, Any]) -> None:
    data, read = DOCUMENTS[name]
    with pytest.raises(FormatError):
        read(data | other)


@pytest.mark.parametrize("name", DOCUMENTS)
@pytest.mark.parametrize("whole", [[], "text", 7, True, ["format"]], ids=repr)
def test_what_is_no_document_is_refused(name: str, whole: Any) -> None:
    _, read = DOCUMENTS[name]
    if whole or name not in ("choices", "teaching", "settings"):  # nothing at all stands for the usual choices
        with pytest.raises(FormatError):
            read(whole)
