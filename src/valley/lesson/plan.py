"""How long a lesson takes, part by part and lesson by lesson: measured on its words and on what is played, the same figure wherever it is shown."""

from __future__ import annotations

from dataclasses import dataclass

from valley.lesson.overlay import split_steps
from valley.model.lesson import Lesson


@dataclass(frozen=True)
class LessonPlan:
    """One lesson of a series: its parts in teaching order, the keys of its steps, and about how many minutes."""

    index: int
    parts: tuple[int, ...]
    steps: tuple[str, ...]
    minutes: float


def time_parts(lesson: Lesson) -> dict[int, float]:
    """Minutes of each part that has steps of its own."""
    found: dict[int, float] = {}
    for step in lesson.steps:
        if step.part is not None:
            found[step.part] = found.get(step.part, 0.0) + step.seconds / 60
    return {number: round(minutes, 1) for number, minutes in found.items()}


def plan_lessons(lesson: Lesson, minutes: float) -> tuple[LessonPlan, ...]:
    """The lesson as a series of about so many minutes each; 0 for all in one.

    Raises
    ------
    ParameterError
        the minutes are too few for any part
    """
    plans = []
    for index, steps in enumerate(split_steps(lesson, minutes), 1):
        parts = tuple(dict.fromkeys(s.part for s in steps if s.part is not None))
        plans.append(LessonPlan(index, parts, tuple(s.key for s in steps), round(sum(s.seconds for s in steps) / 60, 1)))
    return tuple(plans)
