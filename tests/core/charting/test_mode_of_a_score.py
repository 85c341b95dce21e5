"""A signature has two keys: which of them a score is in, where it does not say."""

from __future__ import annotations

import pytest

from valley.charting.from_score import chart_score
from valley.fraction import Fraction
from valley.model.score import Score, ScoreNote


@pytest.mark.parametrize(
    ("chords", "last", "key"),
    [
        (("C:maj", "A:min7", "F:maj"), 69, "C major"),  # begins on its tonic, ends elsewhere, and the tune ends on A
        (("A:min", "F:maj", "C:maj"), 72, "C major"),  # ends on it
        (("D:min", "E:7", "A:min"), 69, "A minor"),
        (("A:min", "D:min", "E:7"), 71, "A minor"),
        ((), 57, "A minor"),  # without chords the lowest note at the end tells
        ((), 60, "C major"),
    ],
)
def test_the_chords_at_its_ends_tell_before_its_last_note(chords: tuple[str, ...], last: int, key: str) -> None:
    notes = tuple(ScoreNote(Fraction(4 * i), Fraction(4), 64) for i in range(2)) + (ScoreNote(Fraction(8), Fraction(4), last),)
    harmonies = tuple((Fraction(4 * i), label) for i, label in enumerate(chords))
    score = Score("Song", notes, ((Fraction(0), "4/4"),), ((Fraction(0), 0, ""),), harmonies=harmonies)
    assert str(chart_score(score).keys[0].key) == key
