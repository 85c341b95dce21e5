"""Mends are edits: each can be applied as it stands, and what it was proposed for is then gone."""

from __future__ import annotations

import json
from dataclasses import replace

import pytest
from hypothesis import HealthCheck, assume, given, settings

from tests.charts import C_MAJOR, chart_of
from tests.songs import random_songs
from valley.checking import ERROR, NOTE, WARNING, Finding, check_all, check_song, room_of
from valley.checking.chart import CHECKS as CHART_CHECKS
from valley.checking.hands import CHECKS as HANDS_CHECKS
from valley.checking.lesson import CHECKS as LESSON_CHECKS
from valley.checking.notes import CHECKS as NOTES_CHECKS
from valley.edits import apply_edit
from valley.errors import ValleyError
from valley.formats.edit_json import dump_edit, read_edit
from valley.fraction import Fraction as F
from valley.model.choices import Choices, ChosenNote, GripChoice
from valley.song import SongState, Work


def found_in(song: SongState) -> tuple[Finding, ...]:
    return check_song(Work(song))


def place_of(finding: Finding) -> tuple[object, ...]:
    return finding.check, finding.start, finding.part, finding.step


@given(random_songs())
@settings(max_examples=40, suppress_health_check=list(HealthCheck))
def test_every_mend_can_be_made_and_its_finding_is_gone(song: SongState) -> None:
    try:
        found = found_in(song)
    except ValleyError:  # such hands cannot play it at all
        assume(False)
    for finding in found:
        if finding.mend is None:
            continue
        assert read_edit(json.loads(json.dumps(dump_edit(finding.mend.edit)))) == finding.mend.edit
        mended, said = apply_edit(song, finding.mend.edit)
        assert said
        assert (*place_of(finding), finding.sentence) not in {(*place_of(f), f.sentence) for f in found_in(mended)}, finding.sentence


@given(random_songs())
@settings(max_examples=30, suppress_health_check=list(HealthCheck))
def test_findings_say_where_and_what_and_come_gravest_first(song: SongState) -> None:
    try:
        found = found_in(song)
    except ValleyError:
        assume(False)
    order = {ERROR: 0, WARNING: 1, NOTE: 2}
    assert [order[f.severity] for f in found] == sorted(order[f.severity] for f in found)
    for finding in found:
        assert finding.sentence.endswith(".") and finding.sentence[0].isupper() or finding.sentence.startswith("“")
        assert finding.about in ("chart", "parts", "hands", "lesson")
        assert finding.part is None or 1 <= finding.part <= len(song.chart.parts)
        assert finding.start is None or 0 <= finding.start <= len(song.chart.grid.beats)
        assert finding.mend is None or finding.mend.words


WRONG = GripChoice(F(0), C_MAJOR, (ChosenNote(48),), (ChosenNote(61), ChosenNote(64), ChosenNote(67)))
OTHER = GripChoice(F(16), C_MAJOR, (ChosenNote(48),), (ChosenNote(64), ChosenNote(67), ChosenNote(72)))
SONG = SongState(chart_of(["C", "F", "G", "C"] * 2, parts=[(1, 4, None), (5, 4, 1)]), Choices(style="root-and-chord"))


@pytest.mark.parametrize(
    ("grip", "check", "words"),
    [(WRONG, "name", "take Valley's grip"), (OTHER, "twin", "play it as in bar 1")],
    ids=["a wrong note", "a repeat played otherwise"],
)
def test_one_press_sets_a_grip_right(grip: GripChoice, check: str, words: str) -> None:
    spoiled = replace(SONG, choices=replace(SONG.choices, grips=(grip,)))
    finding = next(f for f in found_in(spoiled) if f.check == check)
    assert finding.about == "hands" and finding.severity == ERROR
    assert finding.mend is not None and finding.mend.words == words
    mended, _ = apply_edit(spoiled, finding.mend.edit)
    assert not [f for f in found_in(mended) if f.check == check]
    assert not [f for f in found_in(mended) if f.severity == ERROR]


def test_one_press_sets_the_spelling_right() -> None:
    song = SongState(chart_of(["F", "Bb", "F", "A#"], key=("F", "major")), Choices(style="root-and-chord"))
    finding = next(f for f in found_in(song) if f.check == "spelling")
    assert finding.mend is not None
    mended, said = apply_edit(song, finding.mend.edit)
    assert [str(c.chord.root) for c in mended.chart.chords if c.chord] == ["F", "Bb", "F", "Bb"]
    assert "Bb" in said
    assert not [f for f in found_in(mended) if f.check == "spelling"]


def test_one_press_declares_what_a_repeat_differs_in() -> None:
    chart = chart_of(["C", "F", "G", "C", "C", "Dm", "G", "C"], parts=[(1, 4, None), (5, 4, 1)])
    hidden = replace(chart, parts=(chart.parts[0], replace(chart.parts[1], kinship="same", differences=(), new_bars=0)))
    song = SongState(hidden, Choices(style="root-and-chord"))
    finding = next(f for f in found_in(song) if f.check == "repeat")
    assert finding.mend is not None and "Dm instead of F" in finding.sentence
    mended, _ = apply_edit(song, finding.mend.edit)
    assert [d.kind for d in mended.chart.parts[1].differences] == ["chords"]
    assert not [f for f in found_in(mended) if f.check == "repeat"]


def test_a_chart_alone_is_checked_without_hands() -> None:
    chart = chart_of(["C", "F"])
    assert check_all(chart) == ()
    assert {f.about for f in check_all(replace(chart, chords=chart.chords[:1]))} == {"chart"}


def test_the_room_is_that_of_hand_keyboard_and_camera() -> None:
    room = room_of(Choices(hand="small", keyboard="61", frame="C3-C5"))
    assert room.keyboard == (36, 96)
    assert room.frame == (48, 72)
    assert room.comfort_mm < room.most_mm == 168
    assert room_of(Choices(keyboard="88")).frame == room_of(Choices(keyboard="88")).keyboard == (21, 108)


def test_every_check_says_what_it_looks_for() -> None:
    for check in (*CHART_CHECKS, *HANDS_CHECKS, *NOTES_CHECKS, *LESSON_CHECKS):
        assert check.__doc__ and check.__doc__.endswith(".")
        assert check.__name__.startswith("check_")
