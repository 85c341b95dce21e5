"""Where viewers point, and what they set right, held against a chart."""

from dataclasses import replace

import pytest

from tests.core.charting.test_from_hearing import HEARING
from valley.charting.from_hearing import make_chart
from valley.records.places import Place, find_place, find_set_right, read_symbol, says_fault
from valley.records.weigh import weigh_correction

CHART = make_chart(HEARING, "Test")


@pytest.mark.parametrize(
    ("text", "place"),
    [
        ("bar 12", Place(12, None, None, None, "bar 12")),
        ("in Measure 3, part 2", Place(3, None, 2, None, "bar 3, part 2")),
        ("the 9th bar", Place(9, None, None, None, "bar 9")),
        ("m. 7", Place(7, None, None, None, "bar 7")),
        ("step #4 at 1:02:03", Place(None, 4, None, 3723, "step 4, 1:02:03")),
        ("3/4 time, 12 bars", Place()),
    ],
)
def test_places_are_found(text: str, place: Place) -> None:
    assert find_place(text) == place
    assert bool(place) == bool(place.words)


@pytest.mark.parametrize(
    ("text", "wanted", "said"),
    [
        ("should be F sharp minor instead of F sharp", ("F#m",), ("F#",)),
        ("you say B-flat but it is B", ("B",), ("Bb",)),
        ("A better chord would be Am7", ("Am7",), ()),
        ("that's Bbmaj7, not Bb major", ("Bbmaj7",), ("Bb",)),
        ("it's D/F#", ("D/F#",), ()),
        ("I love it", (), ()),
        ("Every Good Boy", (), ()),
    ],
)
def test_what_is_set_right(text: str, wanted: tuple[str, ...], said: tuple[str, ...]) -> None:
    assert find_set_right(text) == (wanted, said)


def test_praise_is_no_fault() -> None:
    assert not says_fault("bar 7 is so beautiful")
    assert says_fault("bar 7 should be Am")


def test_symbols_that_are_none_are_not_read() -> None:
    assert read_symbol("Hm") is None
    assert read_symbol("Am7/G") is not None


def symbols(bar: int) -> str:

    return " ".join(c.symbol for c in CHART.sounding_in(bar))


def test_the_chart_says_whether_a_viewer_is_right() -> None:
    there = symbols(1).split()[0]
    assert "is there already" in weigh_correction(CHART, 1, (there,), ("Ebm",))
    assert "the viewer hears Ebm. Listen" in weigh_correction(CHART, 1, ("Ebm",), (there,))
    assert weigh_correction(CHART, 999, (), ()).startswith("There is no bar 999")
    assert weigh_correction(CHART, None, ("Am",), ()) == ""
    assert weigh_correction(CHART, 1, (), ()) == f"Bar 1 has {symbols(1)} in your chart."


def test_single_notes_are_looked_for_in_chord_and_tune() -> None:
    silent = replace(CHART, melody=())
    said = weigh_correction(silent, 1, ("E", "F#"), ())
    assert "E sounds there" in said or symbols(1) != "C"
