"""Reasons for the logbook are measured: each holds where it is given, and none is given where nothing got better."""

from dataclasses import replace

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.charts import choose
from valley.arranging.arrange import arrange
from valley.arranging.decisions import explain_change, find_changed
from valley.edits import ChangeGrip, Edit, SetChord, SetHands, TakeLink
from valley.formats.chord_chart import parse_chord_chart
from valley.fraction import Fraction as F
from valley.model.arrangement import Arrangement
from valley.model.chart import Chart, Reading
from valley.model.choices import Choices
from valley.pipeline.decisions import Decision, find_decision
from valley.song import SongState

CHART = parse_chord_chart("| C | F | G | C | Am | Dm | G7 | C |")
CHOICES = Choices(style="root-and-chord")
NOW = arrange(CHART, CHOICES)


def take(start: int, left: tuple[int, ...], right: tuple[int, ...], base: Choices = CHOICES) -> Choices:
    return choose(CHART, base, ChangeGrip(F(start), "take", left=left, right=right))[0]


def keys(arrangement: Arrangement, start: int) -> tuple[tuple[int, ...], tuple[int, ...]]:
    grip = next(g for p in arrangement.parts for g in p.grips if g.start == start)
    return tuple(n.midi for n in grip.left), tuple(n.midi for n in grip.right)


def test_nothing_changed_has_no_reason() -> None:
    assert explain_change(CHART, NOW, NOW) == ""
    assert find_changed(NOW, NOW) == ()


def test_a_grip_brought_near_keeps_the_hands_still() -> None:
    around = take(8, *keys(NOW, 8), take(0, *keys(NOW, 0)))  # the neighbours stay, so that they do not come along
    left, right = keys(NOW, 4)
    near = arrange(CHART, take(4, left, right, around))
    far = arrange(CHART, take(4, left, tuple(m + 12 for m in right), around))
    assert "to keep the hands still" in explain_change(CHART, far, near)
    assert "still" not in explain_change(CHART, near, far)


def test_a_smaller_stretch_is_told_in_millimetres() -> None:
    wide = arrange(CHART, take(0, (36, 48, 52), (60, 64, 67)))
    narrow = arrange(CHART, take(0, (48, 52), (60, 64, 67)))
    assert "for a smaller stretch (" in explain_change(CHART, wide, narrow)


def test_hands_that_no_longer_touch_are_told() -> None:
    near = arrange(CHART, take(0, (48, 55, 59), (60, 64, 67)))
    free = arrange(CHART, take(0, (48, 55), (60, 64, 67)))
    assert "run into each other" in explain_change(CHART, near, free)


@settings(max_examples=40)
@given(st.sampled_from([0, 4, 8, 16]), st.integers(-12, 12))
def test_a_change_is_never_called_stiller_both_ways(start: int, by: int) -> None:
    left, right = keys(NOW, start)
    moved = tuple(m + by for m in right)
    if left and moved[0] <= left[-1]:
        return
    other = arrange(CHART, take(start, left, moved))
    there, back = explain_change(CHART, NOW, other), explain_change(CHART, other, NOW)
    assert not ("still" in there and "still" in back)
    assert not ("smaller" in there and "smaller" in back)


def told(chart: Chart, after: Choices, edit: Edit, what: str) -> Decision:
    found = find_decision(SongState(chart, CHOICES), SongState(chart, after), edit, what)
    assert found is not None
    return found


def test_the_creators_own_reason_goes_before_any_other() -> None:
    edit = ChangeGrip(F(0), "drop", hand="right", midi=keys(NOW, 0)[1][0], reason="sounds thin on my upright")
    after, what = choose(CHART, CHOICES, edit)
    assert told(CHART, after, edit, what) == Decision(what, "sounds thin on my upright", 1, "change_grip 0")
    plain = replace(edit, reason="")
    assert told(CHART, after, plain, what).what == what


@pytest.mark.parametrize("edit", [SetHands(pedal=False), TakeLink(F(4), "walk")])
def test_what_changes_no_grip_is_told_without_a_reason(edit: SetHands | TakeLink) -> None:
    after, what = choose(CHART, CHOICES, edit)
    assert told(CHART, after, edit, what).reason == ""


def test_a_corrected_chord_tells_how_sure_the_listening_was() -> None:
    first = replace(CHART.chords[0], confidence=0.52, readings=(Reading("C:maj", 0.52), Reading("A:min", 0.41)))
    heard = replace(CHART, chords=(first, *CHART.chords[1:]))
    assert told(heard, CHOICES, SetChord(F(0), "Am"), "x").reason == "where the listening was 52% sure of C"
    assert told(CHART, CHOICES, SetChord(F(0), "Am"), "x").reason == ""
    assert told(heard, CHOICES, SetChord(F(1, 3), "Am"), "x").reason == ""
