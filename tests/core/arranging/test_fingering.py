"""Fingerings against the textbook: scales and arpeggios of every key in both hands, and grips."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from valley.arranging.fingering import finger_grip, finger_line
from valley.arranging.reach import HANDS, span_mm
from valley.errors import ParameterError

MAJOR, NATURAL, HARMONIC = (0, 2, 4, 5, 7, 9, 11, 12), (0, 2, 3, 5, 7, 8, 10, 12), (0, 2, 3, 5, 7, 8, 11, 12)
# One octave from the tonic up, right hand and left hand, as method books print them.
_WHITE, _LEFT = "12312345", "54321321"
SCALES = {
    "C": (_WHITE, _LEFT),
    "G": (_WHITE, _LEFT),
    "D": (_WHITE, _LEFT),
    "A": (_WHITE, _LEFT),
    "E": (_WHITE, _LEFT),
    "B": (_WHITE, "43214321"),
    "F#": ("23412312", "43213214"),
    "Db": ("23123412", "32143213"),
    "Ab": ("34123123", "32143213"),
    "Eb": ("31234123", "32143213"),
    "Bb": ("41231234", "32143213"),
    "F": ("12341234", _LEFT),
}
MINOR_SCALES = {
    "C": (_WHITE, _LEFT),
    "G": (_WHITE, _LEFT),
    "D": (_WHITE, _LEFT),
    "A": (_WHITE, _LEFT),
    "E": (_WHITE, _LEFT),
    "B": (_WHITE, "43214321"),
    "F#": ("34123123", "43213214"),
    "Db": ("34123123", "32143213"),
    "Ab": ("34123123", "32132143"),
    "Eb": ("31234123", "21432132"),
    "Bb": ("41231234", "21321432"),
    "F": ("12341234", _LEFT),
}
# Two octaves of the triad from its root.
_R, _L4, _L3 = "1231235", "5421421", "5321321"
ARPEGGIOS = {
    "C": (_R, _L4),
    "G": (_R, _L4),
    "F": (_R, _L4),
    "D": (_R, _L3),
    "A": (_R, _L3),
    "E": (_R, _L3),
    "B": (_R, _L3),
    "F#": (_R, _L3),
    "Db": ("4124124", "2142142"),
    "Ab": ("4124124", "2142142"),
    "Eb": ("4124124", "2142142"),
    "Bb": ("4124124", "3213213"),
}
MINOR_ARPEGGIOS = {
    "C": (_R, _L4),
    "G": (_R, _L4),
    "F": (_R, _L4),
    "D": (_R, _L4),
    "A": (_R, _L4),
    "E": (_R, _L4),
    "B": (_R, _L4),
    "Eb": (_R, _L4),
    "Db": ("4124124", "2142142"),
    "Ab": ("4124124", "2142142"),
    "F#": ("4124124", "2142142"),
    "Bb": ("2312312", "3213213"),
}
PITCHES = {"C": 0, "Db": 1, "D": 2, "Eb": 3, "E": 4, "F": 5, "F#": 6, "G": 7, "Ab": 8, "A": 9, "Bb": 10, "B": 11}


def said(notes: list[int], hand: str) -> str:
    return "".join(map(str, finger_line(notes, hand)))


@pytest.mark.parametrize("tonic", PITCHES)
@pytest.mark.parametrize("kind", ["major", "natural", "harmonic"])
def test_scales_as_method_books_print_them(tonic: str, kind: str) -> None:
    steps = {"major": MAJOR, "natural": NATURAL, "harmonic": HARMONIC}[kind]
    right, left = (SCALES if kind == "major" else MINOR_SCALES)[tonic]
    if (tonic, kind) == ("Ab", "harmonic"):
        left = "32143213"  # the raised seventh is a white key, which takes the thumb
    notes = [60 + PITCHES[tonic] + s for s in steps]
    lower = [n - 12 for n in notes]
    assert (said(notes, "right"), said(lower, "left")) == (right, left)
    assert (said(notes[::-1], "right"), said(lower[::-1], "left")) == (right[::-1], left[::-1])


@pytest.mark.parametrize("tonic", PITCHES)
@pytest.mark.parametrize("third", [4, 3])
def test_arpeggios_over_two_octaves(tonic: str, third: int) -> None:
    right, left = (ARPEGGIOS if third == 4 else MINOR_ARPEGGIOS)[tonic]
    notes = [60 + PITCHES[tonic] + s for s in (0, third, 7, 12, 12 + third, 19, 24)]
    assert (said(notes, "right"), said([n - 24 for n in notes], "left")) == (right, left)


def test_two_octaves_of_a_scale_repeat_the_fingers() -> None:
    notes = [60 + o + s for o in (0, 12) for s in MAJOR[:-1]] + [84]
    assert said(notes, "right") == "123123412312345" and said([n - 24 for n in notes], "left") == "543213214321321"


@pytest.mark.parametrize(
    ("notes", "right", "left"),
    [
        ([60, 64, 67], (1, 3, 5), (5, 3, 1)),  # root position
        ([64, 67, 72], (1, 2, 5), (5, 3, 1)),  # first inversion
        ([67, 72, 76], (1, 3, 5), (5, 2, 1)),  # second inversion
        ([60, 72], (1, 5), (5, 1)),
        ([60, 64, 67, 72], (1, 2, 3, 5), (5, 4, 2, 1)),
        ([62, 66, 69, 74], (1, 2, 3, 5), (5, 3, 2, 1)),
    ],
)
def test_grips(notes: list[int], right: tuple[int, ...], left: tuple[int, ...]) -> None:
    assert finger_grip(notes, "right") == right
    assert finger_grip(notes, "left") == left


def test_five_notes_a_hand_is_the_most() -> None:
    with pytest.raises(ParameterError, match="five at most"):
        finger_grip([60, 62, 64, 65, 67, 69], "right")


def test_a_tune_within_five_keys_keeps_the_hand_still() -> None:
    assert said([60, 62, 64, 62, 60, 64, 67, 65], "right") == "12321354"
    assert said([60, 60, 60], "right") in ("111", "222", "333")


@given(st.lists(st.integers(48, 84), min_size=1, max_size=30))
def test_every_line_gets_fingers_that_cross_only_over_the_thumb(notes: list[int]) -> None:
    for hand, sign in (("right", 1), ("left", -1)):
        fingers = finger_line(notes, hand)
        assert len(fingers) == len(notes) and set(fingers) <= {1, 2, 3, 4, 5}
        for a, b, x, y in zip(fingers, fingers[1:], notes, notes[1:], strict=False):
            if x != y and abs(x - y) <= 4 and (b - a) * (y - x) * sign < 0:
                assert 1 in (a, b)  # the thumb goes under, or a finger over it


@given(st.sets(st.integers(48, 60), min_size=1, max_size=5))
def test_grips_use_fingers_in_order(keys: set[int]) -> None:
    notes = sorted(keys)
    if span_mm(notes) <= HANDS["medium"].most_mm:
        right, left = finger_grip(notes, "right"), finger_grip(notes, "left")
        assert list(right) == sorted(set(right)) and list(left) == sorted(set(left), reverse=True)


@pytest.mark.parametrize("root", range(48, 60))
def test_triads_and_sevenths_have_a_teachers_fingers_on_every_root(root: int) -> None:
    for third, fifth in ((4, 7), (3, 7), (3, 6)):
        close = [root, root + third, root + fifth]
        assert (finger_grip(close, "right"), finger_grip(close, "left")) == ((1, 3, 5), (5, 3, 1))
        first = [*close[1:], root + 12]
        assert (finger_grip(first, "right"), finger_grip(first, "left")) == ((1, 2, 5), (5, 3, 1)) or fifth == 6
    assert finger_grip([root, root + 4, root + 7, root + 10], "right") == (1, 2, 3, 5)
