"""Fingers on paper: fewer, and none that a reader would have to guess."""

from dataclasses import replace

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.charts import chart_of, random_charts
from valley.arranging.arrange import arrange
from valley.arranging.pattern_library import PATTERNS
from valley.arranging.styles import STYLES
from valley.formats.musicxml import dump_musicxml
from valley.formats.printed_fingers import thin_fingers
from valley.fraction import Fraction as F
from valley.model.arrangement import HANDS, Arrangement, PartArrangement, PlayedNote
from valley.model.chart import Chart
from valley.model.choices import Choices


def read_fingers(part: PartArrangement, hand: str) -> list[int | None]:
    """The fingers of a hand as a player has them: a key in reach has the finger that lies on it; a grip without numbers goes as the one before."""
    on: dict[int, int] = {}  # key → finger
    read: list[int | None] = []
    before: list[int] = []
    strokes: dict[tuple[F, bool], list[PlayedNote]] = {}
    for n in sorted((n for n in part.notes if n.hand == hand), key=lambda n: (n.start, not n.grace, n.midi)):
        strokes.setdefault((n.start, not n.grace), []).append(n)
    for struck in strokes.values():
        keys = [n.midi for n in struck]
        if any(n.finger for n in struck):
            fingers = [n.finger for n in struck]
        elif all(k in on for k in keys):
            fingers = [on[k] for k in keys]
        else:
            fingers = [*before] if len(before) == len(keys) else [None] * len(keys)
        read += fingers
        now = {k: f for k, f in zip(keys, fingers, strict=True) if f is not None}
        if now:
            taken = set(now.values())
            if any(on.get(k, f) != f for k, f in now.items()) or any(f in taken and k not in now for k, f in on.items()):
                on = {}
            on |= now
            before = list(now.values())
    return read


def printed(arrangement: Arrangement) -> int:
    return sum(n.finger is not None for p in arrangement.parts for n in p.notes)


@given(chart=random_charts(), style=st.sampled_from(sorted(STYLES)), pattern=st.sampled_from(sorted(PATTERNS)))
@settings(max_examples=150)
def test_every_finger_can_be_read(chart: Chart, style: str, pattern: str) -> None:
    whole = arrange(chart, Choices(style=style, pattern=pattern))
    thin = thin_fingers(whole)
    for before, after in zip(whole.parts, thin.parts, strict=True):
        for hand in HANDS:
            true = [n.finger for n in sorted((n for n in before.notes if n.hand == hand), key=lambda n: (n.start, not n.grace, n.midi))]
            assert [r for r, t in zip(read_fingers(after, hand), true, strict=True) if t is not None] == [t for t in true if t is not None]
        assert [replace(n, finger=None) for n in before.notes] == [replace(n, finger=None) for n in after.notes]
    assert printed(thin) <= printed(whole)


def test_a_hand_that_stays_is_told_once_and_a_new_place_anew() -> None:
    chart = chart_of(["C", "C", "F", "F"], tune=[(i, 1, [60, 62, 64, 62, 60, 64, 62, 60, 65, 67, 69, 67, 65, 69, 67, 65][i]) for i in range(16)])
    whole = arrange(chart, Choices(style="root-and-chord"))
    thin = thin_fingers(whole)
    left = [(n.pitch, n.finger) for n in thin.parts[0].notes if n.hand == "left"]
    assert left == [("C2", 5), ("C3", 1), ("C2", None), ("C3", None), ("F2", None), ("F3", None), ("F2", None), ("F3", None)]
    text = dump_musicxml(chart, whole).decode()
    assert text.count("<fingering") == printed(whole)
    assert dump_musicxml(chart, whole, to_print=True).decode().count("<fingering") == printed(thin) < printed(whole)


@pytest.mark.parametrize("parts", [[(1, 2, None), (3, 2, 1)]])
def test_every_part_can_be_read_by_itself_and_what_was_set_by_hand_is_always_there(parts: list[tuple[int, int, int | None]]) -> None:
    chart = chart_of(["C", "C", "C", "C"], parts=parts)
    whole = arrange(chart, Choices())
    assert all(p.notes[0].finger is not None for p in thin_fingers(whole).parts)
    by_hand = replace(whole, parts=tuple(replace(p, notes=tuple(n.fingered(n.finger, by_hand=n.start >= F(4)) for n in p.notes)) for p in whole.parts))
    assert all(n.finger is not None for p in thin_fingers(by_hand).parts for n in p.notes if n.finger_set)
