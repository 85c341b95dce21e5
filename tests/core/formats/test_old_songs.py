"""Songs of before, with everything that a creator set and everything that could not be: all that can be kept is kept."""

from __future__ import annotations

from typing import Any

import pytest

from tests.core.model.test_construction import old_chart
from valley.errors import FormatError
from valley.formats.old_songs import fold_song
from valley.formats.song_json import read_song
from valley.fraction import Fraction as F

CHOICES: dict[str, Any] = {
    "format": "valley-choices",
    "version": 1,
    "style": "shell",
    "level": "easier",
    "parts": [{"part": 2, "style": "octaves"}, {"part": 9, "level": "fuller"}],
    "grips": [{"start": "0", "label": "C:maj/3", "left": [{"midi": 40}], "right": [{"midi": 60, "optional": True, "finger": 2}], "reason": "mine"}],
    "taken_links": [{"start": "0", "kind": "walk", "form": "easier"}],
}
TEACHING: dict[str, Any] = {
    "format": "valley-teaching",
    "version": 1,
    "schools": {"naming": "german"},
    "edits": [{"key": "chords", "title": "Ours", "lines": ["Two chords."], "over": ["  x"]}],
}


def test_everything_that_a_creator_set_is_there() -> None:
    song = read_song(fold_song(old_chart(), CHOICES, TEACHING, [2, 1], 8.0))
    assert [(c.symbol, c.locked) for c in song.chart.chords] == [("C/E", True), ("F", False)]
    assert (song.choices.style, song.choices.level, song.choices.parts[0].style) == ("shell", "easier", "octaves")
    assert len(song.choices.parts) == 1  # part 9 was joined to another long ago
    grip = song.choices.grips[0]
    assert (grip.start, grip.reason, grip.right[0].finger, grip.right[0].optional) == (F(0), "mine", 2, True)
    assert song.choices.taken_links[0].form == "easier"
    assert song.teaching.schools.naming == "german" and song.teaching.edits[0].lines == ("Two chords.",)
    assert (song.settings.order, song.settings.minutes) == ((2, 1), 8.0)


def test_nothing_chosen_is_the_usual() -> None:
    song = read_song(fold_song(old_chart(), {}, {}, [], 0.0))
    assert song.choices.style == "block-and-melody" and song.teaching.edits == ()


def test_impossible_values_are_set_right_and_the_rest_stays() -> None:
    """Labels that nobody can read, kinships, notes and lengths that could not be were stored, and the song answered 500 for good."""
    document = old_chart()
    document["chords"][1]["label"] = "C:wild"
    document["chords"][0]["readings"].append({"label": "Q", "probability": 3})
    document["parts"][1]["kinship"] = "zzz"
    document["melody"] += [
        {"start": "1", "duration": "-4", "midi": 62},
        {"start": "2", "duration": "1", "midi": 999},
        {"start": "3", "duration": "9", "midi": 64},
        {"start": "4", "duration": "1", "midi": 65},
    ]
    document["cues"].append({"start": "3", "text": " "})
    song = read_song(fold_song(document, CHOICES | {"grips": [*CHOICES["grips"], {"start": "4", "label": "N", "left": [], "right": []}]}, {}, [9], 1.0))
    assert [c.symbol for c in song.chart.chords] == ["C/E", "no chord"]
    assert [(n.start, n.duration, n.midi) for n in song.chart.melody] == [(0, 1, 60), (3, 1, 64), (4, 1, 65)]
    assert len(song.chart.cues) == 1 and song.chart.parts[1].same_as == 1
    assert song.choices.grips[0].reason == "mine" and song.settings.order == () and song.settings.minutes == 0


def test_a_style_that_is_no_more_lets_the_grips_stand() -> None:
    song = read_song(fold_song(old_chart(), CHOICES | {"style": "grand"}, {}, [], 0.0))
    assert song.choices.style == "block-and-melody" and song.choices.grips[0].reason == "mine"


def test_a_chart_without_a_grid_is_said_to_be_none() -> None:
    document = old_chart()
    document["grid"]["beats"] = [0.0, 0.0]
    with pytest.raises(FormatError, match="beats must ascend"):
        fold_song(document, {}, {}, [], 0.0)
