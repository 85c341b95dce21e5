"""Values that could not be are never built, whatever way they come: broken documents are refused in one sentence with its place, or read as they stand."""

from __future__ import annotations

import json
from dataclasses import replace
from typing import Any

import pytest
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from tests.charts import C_MAJOR, chart_of
from tests.songs import random_songs
from valley.errors import FormatError, ParameterError
from valley.formats.chart_json import read_chart
from valley.formats.hearing_json import read_hearing
from valley.formats.song_json import dump_song, read_song
from valley.fraction import Fraction as F
from valley.model.chart import ChartChord, Cue, Grid, KeyArea, MelodyNote, Part
from valley.model.choices import Choices, ChosenNote, GripChoice, PartChoice
from valley.model.hearing import HeardChord, Reading
from valley.model.lesson import Settings, StepEdit
from valley.model.schools import Schools
from valley.song import SongState

CHART = chart_of(["C", "F", "C", "F"], tune=[(0, 1, 60), (1, 1, 62)], parts=[(1, 2, None), (3, 2, 1)])
GARBAGE: tuple[Any, ...] = (None, True, -1, 0, 10**9, 1e308, float("nan"), float("inf"), "", "zzz", "-4", "1/0", "9" * 40, [], {}, [[]], {"a": 1}, "\ud800")


def leaves(document: Any, path: tuple[Any, ...] = ()) -> list[tuple[Any, ...]]:
    """Where something stands in a document: every key and index."""
    rows = document.items() if isinstance(document, dict) else enumerate(document) if isinstance(document, list) else ()
    return [p for key, value in rows for p in ((*path, key), *leaves(value, (*path, key)))]


def put(document: Any, path: tuple[Any, ...], value: Any) -> None:
    for key in path[:-1]:
        document = document[key]
    document[path[-1]] = value


@settings(max_examples=250, suppress_health_check=list(HealthCheck))
@given(st.data(), random_songs())
def test_a_song_is_read_back_whole_and_a_broken_one_is_one_sentence(data: st.DataObject, song: SongState) -> None:
    document = json.loads(json.dumps(dump_song(song)))
    assert read_song(document) == song
    path = data.draw(st.sampled_from(leaves(document)))
    put(document, path, data.draw(st.sampled_from(GARBAGE)))
    try:
        read = read_song(document)
    except FormatError as error:
        assert "\n" not in str(error) and len(str(error)) > 20
    else:
        assert read_song(dump_song(read)) == read


@pytest.mark.parametrize(
    ("build", "words"),
    [
        (lambda: ChartChord(F(0), F(0), C_MAJOR), "longer than 0"),
        (lambda: ChartChord(F(-1), F(1), C_MAJOR), "start=-1 must be 0 or later"),
        (lambda: ChartChord(F(0), F(1), C_MAJOR, 1.5), "confidence=1.5 must lie between 0 and 1"),
        (lambda: MelodyNote(F(0), F(1), 999), "midi=999 must be a key number"),
        (lambda: MelodyNote(F(0), F(-4), 60), "duration=-4 must be longer than 0"),
        (lambda: KeyArea(F(0), "C", "wild"), "mode='wild' must be"),
        (lambda: Cue(F(0), " "), "text=' ' must hold a word"),
        (lambda: Part(1, 1, 10**9), "bars=1000000000 must be"),
        (lambda: Part(1, 1, 1, kinship="zzz"), "kinship='zzz' must be one of"),
        (lambda: Grid((0.0, float("nan")), "4/4"), "must be a finite number"),
        (lambda: Grid((0.0, 0.0), "4/4"), "must ascend"),
        (lambda: Grid((0.0, 1.0), "4/4", 4), "pickup=4"),
        (lambda: Reading("C:wild", 0.5), "'C:wild' is no chord label"),
        (lambda: HeardChord(2.0, 1.0, "C:maj", 0.5), "end=1.0 must not come before"),
        (lambda: ChosenNote(60, finger=6), "finger=6 must be 1"),
        (lambda: GripChoice(F(0), C_MAJOR, (), ()), "at least one"),
        (lambda: GripChoice(F(0), None, (ChosenNote(60),), ()), "a rest has no grip"),
        (lambda: GripChoice(F(0), C_MAJOR, (ChosenNote(60), ChosenNote(48)), ()), "from the bottom up"),
        (lambda: Choices(bass="loud"), "bass='loud' must be one of"),
        (lambda: StepEdit("chords", lines=("",)), "say something"),
        (lambda: Schools(naming="tonic"), "naming='tonic' must be one of"),
        (lambda: Settings((1, 1)), "name each part once"),
        (lambda: Settings(minutes=1), "minutes=1 must be 0 for all in one"),
        (lambda: replace(CHART, title="x", bpm=float("inf")), "bpm=inf"),
        (lambda: replace(CHART, melody=(CHART.melody[1], CHART.melody[0])), "must ascend"),
        (lambda: replace(CHART, melody=(replace(CHART.melody[0], duration=F(2)), CHART.melody[1])), "before the next"),
        (lambda: replace(CHART, parts=(CHART.parts[1], CHART.parts[0])), "must ascend"),
        (lambda: replace(CHART, parts=(replace(CHART.parts[0], same_as=1), CHART.parts[1])), "an earlier part"),
        (lambda: replace(CHART, parts=(CHART.parts[0], replace(CHART.parts[1], start_bar=99))), "lie in the song"),
        (lambda: SongState(CHART, Choices(style="grand")), "style='grand' must be one of"),
        (lambda: SongState(CHART, Choices(pattern="mine")), "pattern"),
        (lambda: SongState(CHART, Choices(hand="huge")), "hand='huge'"),
        (lambda: SongState(CHART, Choices(parts=(PartChoice(3),))), "one of the song's 2 parts"),
        (lambda: SongState(CHART, settings=Settings((3,))), "name parts 1 to 2"),
    ],
)
def test_values_that_could_not_be_are_refused_with_value_and_cause(build: Any, words: str) -> None:
    with pytest.raises((ParameterError, FormatError)) as refused:
        build()
    assert words in str(refused.value)


@pytest.mark.parametrize(
    ("path", "value", "words"),
    [
        (("chords", 0, "label"), "C:wild", "chords.0.chord: 'C:wild' is no chord label"),
        (("parts", 0, "kinship"), "zzz", "parts.0"),
        (("melody", 0, "midi"), 999, "melody.0"),
        (("melody", 0, "duration"), "-4", "melody.0"),
        (("grid", "beats"), [0.0], "grid"),
    ],
)
def test_a_foreign_file_that_breaks_a_rule_says_where(path: tuple[Any, ...], value: object, words: str) -> None:
    """Such files were stored once, and the song answered 422 or 500 for good."""
    document = old_chart()
    put(document, path, value)
    with pytest.raises(FormatError) as refused:
        read_chart(document)
    assert words in str(refused.value)


def old_chart() -> dict[str, Any]:
    """A chart as version 1 wrote it."""
    return {
        "format": "valley-chart",
        "version": 1,
        "title": "Old",
        "grid": {"beats": [0.5 * i for i in range(8)], "meter": "4/4", "pickup": 0, "changes": []},
        "keys": [{"start": "0", "tonic": "C", "mode": "major", "confidence": 1.0}],
        "chords": [
            {"start": "0", "duration": "4", "label": "C:maj/3", "confidence": 0.9, "readings": [{"label": "C:maj/3", "probability": 0.9}], "locked": True},
            {"start": "4", "duration": "4", "label": "F:maj", "confidence": 0.4, "readings": [], "locked": False},
        ],
        "melody": [{"start": "0", "duration": "1", "midi": 60, "confidence": 1.0, "locked": False, "grace": False}],
        "parts": [
            {"number": 1, "start_bar": 1, "bars": 1, "name": "verse", "same_as": None, "kinship": "new", "differences": [], "new_bars": 1, "moved": 0},
            {"number": 2, "start_bar": 2, "bars": 1, "name": "", "same_as": 1, "kinship": "varied", "differences": ["bar 2: F"], "new_bars": 1, "moved": 0},
        ],
        "tuning_cents": 0.0,
        "bpm": 120.0,
        "cues": [{"start": "2", "text": "river"}],
    }


def test_a_chart_of_version_1_is_folded_over() -> None:
    chart = read_chart(old_chart())
    assert [c.symbol for c in chart.chords] == ["C/E", "F"]
    assert chart.chords[0].locked and chart.cues == (Cue(F(2), "river"),) and chart.parts[0].name == "verse"
    assert chart.parts[1].differences[0].kind == "chords"


def test_a_hearing_that_cannot_be_is_refused() -> None:
    with pytest.raises(FormatError, match="this is another kind of file"):
        read_hearing({"format": "valley-chart"})
