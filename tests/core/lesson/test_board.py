"""The board of grips: every change of grip has a row, arrows are true, repeats are short."""

from __future__ import annotations

from hypothesis import HealthCheck, assume, given, settings

from tests.charts import chart_of, make_work
from tests.songs import random_songs
from valley.errors import ValleyError
from valley.lesson.board import DOWN, STAY, UP, make_board
from valley.model.choices import Choices
from valley.phrases import Words
from valley.pipeline.handouts import handout_named
from valley.song import SongState, Work


def middle(notes: tuple[int, ...]) -> float:
    return sum(notes) / len(notes)


def test_rows_arrows_and_hints() -> None:
    chart = chart_of(["C", "F", "F", "Gb", "C", "F", "F", "C"], parts=[(1, 4, None), (5, 4, 1)])
    first, again = make_board(chart, make_work(chart, Choices(style="root-blocks")).arrangement)
    assert [r.grip.symbol for r in first.rows] == ["C", "F", "Gb"]  # the second F is the same grip
    assert [r.bar for r in first.rows] == [1, 2, 4]
    assert (first.rows[0].left_goes, first.rows[1].left_goes, first.rows[2].left_goes) == ("", UP, UP)
    said = [Words().say(h) for h in first.rows[1].hints]
    assert "left: the same shape, up a fourth" in said
    assert [(r.grip.symbol, r.left_goes) for r in again.rows] == [("C", DOWN)]


def test_all_black_keys_are_pointed_out_and_cycles_counted() -> None:
    chart = chart_of(["F#", "G#m"] * 4, key=("F#", "major"))
    [part] = make_board(chart, make_work(chart, Choices(style="fifth-and-melody")).arrangement)
    assert (part.times, len(part.rows)) == (4, 2)
    assert "all black keys" in [Words().say(h) for h in part.rows[0].hints]


@given(random_songs())
@settings(max_examples=25, suppress_health_check=list(HealthCheck))
def test_arrows_point_where_the_hand_goes(song: SongState) -> None:
    try:
        arrangement = Work(song).arrangement
    except ValleyError:
        assume(False)
    for part in make_board(song.chart, arrangement):
        before = {g.start: b for b, g in zip(arrangement.of_part(part.part.number).grips, arrangement.of_part(part.part.number).grips[1:], strict=False)}
        for row in part.rows:
            if row.left_goes not in (UP, DOWN):
                continue
            old, new = (tuple(n.midi for n in g.left) for g in (before[row.grip.start], row.grip))
            assert (middle(new) > middle(old)) == (row.left_goes == UP)
            assert STAY not in (UP, DOWN)


def test_board_and_stand_are_printed() -> None:
    work = make_work(chart_of(["C", "F/A", "Gm7", "Bb"] * 3, parts=[(1, 4, None), (5, 4, 1), (9, 4, 1)]), Choices(style="full-melody", level="fuller"))
    for name in ("board.pdf", "stand.pdf"):
        assert handout_named(name).make(work).startswith(b"%PDF")
