"""Where the notes say that bars begin."""

import numpy as np
import pytest

from valley.listening.accents import FEATURES, BeatNote, hear_accents, in_beats, stack, view_beats
from valley.listening.downbeats import find_bars

# A hymn of our own: chords by their lowest note and three above, a beat each; every fourth bar comes to rest on a long chord.
CHORDS = {"C": (48, 64, 67, 72), "F": (41, 65, 69, 72), "G": (43, 62, 67, 71), "Am": (45, 64, 69, 72), "Dm": (50, 65, 69, 74), "G7": (43, 65, 67, 71)}


def hymn(bars: list[str], pickup: int) -> tuple[list[BeatNote], int]:
    notes, at = [], float(pickup)
    if pickup:
        notes += [BeatNote(at - 1, at, m) for m in CHORDS["G"]]
    for bar in bars:
        names = bar.split()
        for i, name in enumerate(names):
            beats = 4 / len(names)
            notes += [BeatNote(at + i * beats, at + (i + 1) * beats, m) for m in CHORDS[name]]
        at += 4
    return notes, int(at)


BARS = ["C G C F", "Dm G7 C G", "Am Dm G7 F", "C G", "F C Dm G", "Am F C G7", "F Dm G G7", "C"] * 2


@pytest.mark.parametrize("pickup", [0, 1, 2, 3])
def test_a_hymn_without_drums_is_counted_by_its_notes(pickup: int) -> None:
    notes, count = hymn(BARS, pickup)
    odds = hear_accents(notes, count)
    assert odds.shape == (count,)
    assert max(range(4), key=lambda k: float(odds[k::4].mean())) == pickup % 4


def test_what_the_notes_say_decides_only_what_is_open() -> None:
    notes, count = hymn(BARS, 1)
    nothing, odds = np.zeros(count), hear_accents(notes, count)
    flat = np.full(count, 0.3)
    assert set(find_bars(nothing, nothing, flat, odds, (-0.2, -0.2), 100).downbeats[2:-2] % 4) == {1}
    sure = np.full(count, 0.02)
    sure[3::4] = 0.98
    assert set(find_bars(nothing, nothing, sure, odds, (-0.2, -0.2), 100).downbeats % 4) == {3}


def test_notes_are_counted_in_beats_also_before_and_behind_them() -> None:
    beats = np.array([10.0, 20.0, 40.0])
    assert in_beats([(5.0, 10.0, 60), (15.0, 30.0, 61), (50.0, 80.0, 62)], beats) == [BeatNote(-0.5, 0.0, 60), BeatNote(0.5, 1.5, 61), BeatNote(2.5, 4.0, 62)]
    assert in_beats([], beats) == []


def test_what_happens_at_a_beat() -> None:
    rows = view_beats([BeatNote(0.0, 1.0, 43), BeatNote(0.05, 2.0, 67), BeatNote(1.0, 2.0, 48), BeatNote(1.5, 2.0, 72)], 3)
    assert rows.shape == (3, FEATURES)
    assert rows[0, 5] == pytest.approx(1.95)  # the upper note is a long one
    assert rows[1, 8] == rows[1, 9] == 1  # the bass moves, a fourth up
    assert rows[:, 12].tolist() == [0, 0, 1]  # nothing begins on the third beat
    assert np.isfinite(stack(view_beats([], 5))).all()
