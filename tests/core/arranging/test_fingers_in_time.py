"""Fingers of notes in time: what one place of the hand takes, wide handfuls, no finger twice."""

from collections.abc import Sequence
from fractions import Fraction
from itertools import combinations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from valley.arranging.fingering import finger_grip
from valley.arranging.fingers_in_time import finger_notes
from valley.arranging.reach import HANDS
from valley.model.arrangement import PlayedNote
from valley.theory.pitch import parse_pitch


def strokes(text: str, side: str = "right", length: Fraction = Fraction(1, 2)) -> list[PlayedNote]:
    """ "F#4 A4 | D5": one stroke after the other."""
    rows = [stroke.split() for stroke in text.split("|")]
    return [PlayedNote(side, i * length, length, parse_pitch(pitch)[1], pitch) for i, row in enumerate(rows) for pitch in row]


def fingers(notes: Sequence[PlayedNote]) -> str:
    """By stroke, from its lowest key up."""
    found = finger_notes(notes, HANDS["medium"])
    starts = sorted({n.start for n in found})
    return " ".join("".join(str(n.finger or "-") for n in sorted(found, key=lambda n: n.midi) if n.start == at) for at in starts)


@pytest.mark.parametrize(
    ("figure", "side", "expected"),
    [
        ("F#4 A4 | D5 | F#4 A4 | D5", "right", "12 5 12 5"),
        ("G4 | C5 E5 | G4 | C5 E5", "right", "1 35 1 35"),
        ("C3 | E3 G3 | E3 G3", "left", "5 31 31"),
        ("C2 | E3 G3 C4 | C2 | E3 G3 C4", "left", "5 531 5 531"),  # a bass under its chords
        ("C4 E4 G4 | A4 | B4 | C5 | D5 | E5", "right", "135 1 2 3 4 5"),  # a line after a chord begins anew
    ],
)
def test_a_broken_handful_is_fingered_as_it_is_held(figure: str, side: str, expected: str) -> None:
    assert fingers(strokes(figure, side)) == expected


@pytest.mark.parametrize(
    ("keys", "side", "expected"),
    [
        ((45, 52, 61), "left", (5, 2, 1)),  # A E C sharp, a tenth: rolled, but with the thumb on top all the same
        ((44, 52, 59), "left", (5, 2, 1)),
        ((48, 55, 64), "right", (1, 2, 5)),
        ((48, 60), "left", (5, 1)),
        ((48, 64), "right", (1, 5)),
    ],
)
def test_wide_handfuls_have_thumb_and_fifth_finger(keys: tuple[int, ...], side: str, expected: tuple[int, ...]) -> None:
    assert finger_grip(keys, side) == expected


@given(st.sets(st.integers(36, 84), min_size=2, max_size=5), st.sampled_from(["left", "right"]))
def test_what_spans_an_octave_or_more_has_thumb_and_fifth_finger(keys: set[int], side: str) -> None:
    row = sorted(keys)
    found = finger_grip(row, side)
    if row[-1] - row[0] >= 12:
        assert {found[0], found[-1]} == {1, 5}
    assert list(found) == sorted(set(found), reverse=side == "left")


@given(st.lists(st.sets(st.integers(55, 79), min_size=1, max_size=3), min_size=1, max_size=12))
def test_no_finger_is_on_two_keys_of_a_stroke(rows: list[set[int]]) -> None:
    notes = [PlayedNote("right", Fraction(i), Fraction(1), midi, "C4") for i, row in enumerate(rows) for midi in sorted(row)]
    found = finger_notes(notes, HANDS["medium"])
    assert [(n.start, n.midi) for n in found] == [(n.start, n.midi) for n in notes]
    for a, b in combinations(found, 2):
        if a.start == b.start and a.finger and b.finger:
            assert (a.midi < b.midi) == (a.finger < b.finger)


def test_a_grace_note_beside_a_handful_takes_no_finger_from_it() -> None:
    """A stroke that has no grip of its own is fingered by itself."""
    grace = PlayedNote("right", Fraction(1), Fraction(1), 65, "F4", grace=True)
    notes = [*strokes("C4 E4 G4", length=Fraction(1)), grace, PlayedNote("right", Fraction(1), Fraction(1), 64, "E4")]
    found = finger_notes(notes, HANDS["medium"])
    assert [n.finger for n in sorted(found, key=lambda n: n.midi) if n.start == 0] == [1, 3, 5]
