"""What leads into a part lies in the part before it: it is told once both are known."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, field

from valley.lesson._teacher import Teacher
from valley.lesson.part_steps import link_step
from valley.model.chart import Part
from valley.model.lesson import Step


@dataclass
class Leads:
    """The parts that are taught, and those that are known so far."""

    teacher: Teacher
    taught: Sequence[Part]
    _known: list[Part] = field(default_factory=list)
    _told: set[int] = field(default_factory=set)

    def tell(self, part: Part) -> list[Step]:
        """One more part is known: what now leads from a known part into another, or in from one that is not taught."""
        self._known.append(part)
        steps: list[Step] = []
        for later in self._known:
            if later.number in self._told or not self._can_be_told(later):
                continue
            before = range(min(self.teacher.bars(later), default=0))
            steps += link_step(self.teacher, later, before, f"part-{later.number}/lead")
            self._told.add(later.number)
        return steps

    def _can_be_told(self, part: Part) -> bool:
        before = part.number - 1
        return before in {p.number for p in self._known} or before not in {p.number for p in self.taught}
