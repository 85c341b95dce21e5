"""How long lessons are: one measure, of words and playing."""

import pytest

from tests.charts import chart_of, make_work
from valley.errors import ParameterError
from valley.lesson.plan import plan_lessons, time_parts
from valley.model.lesson import Lesson
from valley.model.schools import LENGTHS, Schools

VERSE = ["C", "G", "Am", "F", "C", "G", "F", "C"]
CHART = chart_of([*VERSE * 2, "Dm", "G", "Dm", "G", *VERSE], parts=[(1, 8, None), (9, 4, None), (13, 4, 1)], tune=[(i, 1, 64 + i % 7) for i in range(40)])


def lesson(length: str = "usual") -> Lesson:
    return make_work(CHART, schools=Schools(length=length), order=(2, 1, 3)).lesson


def test_a_part_takes_as_long_as_its_steps() -> None:
    made = lesson()
    minutes = time_parts(made)
    assert list(minutes) == [2, 1, 3]
    assert minutes[1] > minutes[2] > minutes[3] > 0
    assert minutes[1] == round(sum(s.seconds for s in made.steps if s.part == 1) / 60, 1)
    assert sum(minutes.values()) < made.seconds / 60


def test_a_series_is_cut_before_parts_and_holds_every_step_once() -> None:
    made = lesson()
    assert [p.parts for p in plan_lessons(made, 0)] == [(2, 1, 3)]
    series = plan_lessons(made, 2.5)
    assert len(series) > 1
    assert [key for p in series for key in p.steps] == [s.key for s in made.steps]
    assert sum(p.minutes for p in series) == pytest.approx(made.seconds / 60, abs=0.3)
    with pytest.raises(ParameterError, match="at least 2"):
        plan_lessons(made, 1)


def test_short_is_shorter_than_usual_and_thorough_longer() -> None:
    short, usual, thorough = (lesson(length).seconds for length in ("short", "usual", "thorough"))
    assert short < usual < thorough
    assert set(LENGTHS) == {"short", "usual", "thorough"}
