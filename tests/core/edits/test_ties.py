"""Keys held over a bar line: made so by one key, and left so when another note of their bar is changed."""

import pytest

from tests.charts import chart_of
from valley.edits import ChangePlayed, WritePassage, apply_edit
from valley.fraction import Fraction as F
from valley.model.choices import Choices
from valley.model.passage import WrittenNote
from valley.song import SongState, Work

# G2 and C3 in the first bar, C3 held into the second, where A2 follows.
NOTES = (WrittenNote(F(1), F(1), 43), WrittenNote(F(2), F(4), 48), WrittenNote(F(6), F(2), 45))


def keys(song: SongState, hand: str) -> list[tuple[F, F, int]]:
    return sorted((n.start, n.duration, n.midi) for p in Work(song).arrangement.parts for n in p.notes if n.hand == hand)


def song() -> SongState:
    return SongState(chart_of(["C", "F", "G", "C"]), Choices(style="block-and-melody"))


def test_a_note_is_lengthened_over_the_bar_line() -> None:
    before = keys(song(), "left")
    (_, _, midi) = before[0]
    after, said = apply_edit(song(), ChangePlayed(F(0), "left", midi, lasting=F(6)))
    assert (F(0), F(6), midi) in keys(after, "left") and "bar 1" in said
    assert [row for row in keys(after, "left") if row[0] >= 8 or row[2] != midi] == [row for row in before if row[0] >= 8 or row[2] != midi]


@pytest.mark.parametrize(
    "edit", [ChangePlayed(F(1), "left", 43, finger=4), ChangePlayed(F(6), "left", 45, lasting=F(1)), ChangePlayed(F(1), "left", 43, remove=True)]
)
def test_what_is_tied_stays_tied_when_its_bar_is_changed(edit: ChangePlayed) -> None:
    tied, _ = apply_edit(song(), WritePassage(F(0), "left", F(8), NOTES))
    assert (F(2), F(4), 48) in keys(tied, "left")
    after, _ = apply_edit(tied, edit)
    assert (F(2), F(4), 48) in keys(after, "left")


def test_no_note_goes_on_after_the_song() -> None:
    (_, _, midi) = next(row for row in keys(song(), "left") if row[0] == 12)
    after, _ = apply_edit(song(), ChangePlayed(F(12), "left", midi, lasting=F(9)))
    assert (F(12), F(4), midi) in keys(after, "left")
