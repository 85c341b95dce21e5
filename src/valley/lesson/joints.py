"""Which parts are joined when: across a boundary that a learner has not crossed yet, with all that adjoins it."""

from __future__ import annotations

from dataclasses import dataclass, field

from valley.model.chart import Chart, Part

_FEW = 2  # two parts are joined before the whole is played at speed


@dataclass
class Joints:
    """What is learned so far of a song, and which boundaries have been crossed."""

    chart: Chart
    learned: list[int] = field(default_factory=list)
    _crossed: set[tuple[int, int]] = field(default_factory=set)

    def learn(self, part: Part, *, most: int = 0, nothing_new: bool = False, last: bool = False) -> tuple[int, ...]:
        """One more part is learned. The run of learned parts around it that is worth playing through, or nothing.

        It is worth playing where a boundary is new: "1 and 2", "1 to 3". A repeat note for note brings the boundaries of its model; a part with
        ``nothing_new`` is joined along with the next; the ``last`` of all is joined as the whole song is played, unless it leaves a gap.
        ``most``: so many parts at most, up to this one and the next; 0 for all that adjoin.
        """
        self.learned.append(part.number)
        run = self._run(part.number)
        if nothing_new or (last and len(run) == len(self.learned) > _FEW):
            return ()
        new = {(self._model(a), self._model(b)) for a, b in zip(run, run[1:], strict=False)} - self._crossed
        self._crossed |= new
        if most and new:
            at = run.index(part.number)
            run = run[max(0, at - most + 1) : at + 2]
        return run if new else ()

    def _run(self, number: int) -> tuple[int, ...]:
        known = set(self.learned)
        first = last = number
        while first - 1 in known:
            first -= 1
        while last + 1 in known:
            last += 1
        return tuple(range(first, last + 1))

    def _model(self, number: int) -> int:
        part = self.chart.parts[number - 1]
        return part.same_as if part.same_as and part.kinship == "same" else number
