"""What a lesson teaches and how long it takes: parts in any order, split into lessons of about so many minutes.

The minutes rest on how such lessons go: every new bar is said hand by hand and played slowly a few times, a repeat is
told by its differences and played once. The figures are averages and are shown as "about".
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from valley.errors import ParameterError
from valley.model.chart import Chart, Part

OPENING_SECONDS, CLOSING_SECONDS = 75.0, 30.0
SECONDS_A_NEW_BAR = 14.0  # naming the grips and notes of both hands
SLOW_PLAYS, SLOW = 3.0, 0.6  # times a new bar is played, and at what share of the tempo
SECONDS_A_DIFFERENCE = 9.0


@dataclass(frozen=True)
class PartPlan:
    """``minutes`` to teach a part; ``must`` is False for what is only a repeat."""

    number: int
    minutes: float
    must: bool


@dataclass(frozen=True)
class LessonPlan:
    """One lesson of a series: its parts in teaching order and about how many minutes."""

    index: int
    parts: tuple[int, ...]
    minutes: float


def time_part(chart: Chart, part: Part) -> PartPlan:
    """About how long one part takes to teach."""
    start, end = chart.span(part)
    seconds = chart.grid.seconds(end) - chart.grid.seconds(start)
    new = part.new_bars / max(part.bars, 1)
    teaching = part.new_bars * SECONDS_A_NEW_BAR + new * seconds * SLOW_PLAYS / SLOW + len(part.differences) * SECONDS_A_DIFFERENCE
    return PartPlan(part.number, round((teaching + seconds) / 60, 1), part.new_bars > 0)


def plan_lessons(chart: Chart, *, order: Sequence[int] = (), minutes: float = 0.0) -> tuple[LessonPlan, ...]:
    """Split the teaching into lessons.

    Parameters
    ----------
    order : numbers of the parts to teach, in the order to teach them; all in the song's order if empty
    minutes : about how long one lesson may be; 0 for all in one

    Raises
    ------
    ParameterError
        a part is not in the song or is named twice, or the minutes are too few for any part
    """
    wanted = list(order) or [p.number for p in chart.parts]
    by_number = {p.number: p for p in chart.parts}
    unknown = [n for n in wanted if n not in by_number]
    if unknown or len(set(wanted)) != len(wanted):
        raise ParameterError(f"order={wanted} must name parts 1 to {len(chart.parts)}, each once")
    if minutes and minutes < 2:
        raise ParameterError(f"minutes={minutes} is too short for a lesson; give at least 2")
    frame = (OPENING_SECONDS + CLOSING_SECONDS) / 60
    lessons: list[LessonPlan] = []
    inside: list[int] = []
    spent = frame
    for number in wanted:
        length = time_part(chart, by_number[number]).minutes
        if minutes and inside and spent + length > minutes * 1.1:
            lessons.append(LessonPlan(len(lessons) + 1, tuple(inside), round(spent, 1)))
            inside, spent = [], frame
        inside.append(number)
        spent += length
    if inside:
        lessons.append(LessonPlan(len(lessons) + 1, tuple(inside), round(spent, 1)))
    return tuple(lessons)
