"""Values that are built quickly are the values that they were."""

from __future__ import annotations

import copy
from dataclasses import FrozenInstanceError, dataclass, field, fields, replace

import pytest

from valley.arranging.styles import Hold, Moment, Shape
from valley.fraction import Fraction
from valley.model.arrangement import Grip, HandNote, Pedal, PlayedNote
from valley.theory.chord import parse_symbol
from valley.values import copied, derived, quick

NOTE = PlayedNote("left", Fraction(1, 2), Fraction(3, 2), 48, "C3", optional=True)
VALUES = [
    NOTE,
    HandNote("C4", 60, "root", 1),
    Pedal(Fraction(0), Fraction(4)),
    Hold((48, 55), 0.5),
    Shape((48,), (64, 67)),
    Moment(parse_symbol("G7"), 67),
    Grip(Fraction(0), Fraction(4), parse_symbol("C"), (HandNote("C3", 48),), (HandNote("E4", 64), HandNote("G4", 67))),
]


@pytest.mark.parametrize("value", VALUES, ids=lambda v: type(v).__name__)
def test_a_quick_value_is_a_frozen_dataclass_like_any_other(value: object) -> None:
    given = {f.name: getattr(value, f.name) for f in fields(value)}  # type: ignore[arg-type]
    kind = type(value)
    assert kind(**given) == kind(*given.values()) == replace(value) == copy.deepcopy(value) == value  # type: ignore[type-var]
    assert hash(kind(**given)) == hash(value)
    with pytest.raises(FrozenInstanceError):
        setattr(value, next(iter(given)), 1)
    with pytest.raises(TypeError):
        kind(**given, nothing=1)
    with pytest.raises(TypeError):
        kind()


def test_what_is_checked_when_it_is_built_is_still_checked() -> None:
    with pytest.raises(ValueError, match="ascend"):
        Grip(Fraction(0), Fraction(4), parse_symbol("C"), (), (HandNote("G4", 67), HandNote("E4", 64)))


def test_only_plain_classes_can_be_quick() -> None:
    with pytest.raises(TypeError, match=r"Many\.notes"):

        @quick
        @dataclass(frozen=True)
        class Many:
            notes: list[int] = field(default_factory=list)


def test_a_copy_has_what_was_changed_and_what_was_worked_out() -> None:
    assert NOTE.end == 2
    other = copied(NOTE, finger=3)
    assert other == replace(NOTE, finger=3)
    assert NOTE.finger is None
    assert other.end == 2


def test_what_is_derived_is_worked_out_once() -> None:
    asked = []

    class Song:
        @derived
        def bars(self) -> int:
            """How many."""
            asked.append(self)
            return 8

    song = Song()
    assert (song.bars, song.bars, len(asked)) == (8, 8, 1)
    assert Song.bars.__doc__ == "How many."
