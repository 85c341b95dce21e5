"""Corrections of the parts: split, merge, move an edge, name, mark a repeat or part ways with one."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import Literal

from valley.charting.parts import relate_parts
from valley.errors import ParameterError
from valley.model.chart import Chart, Part

LONGEST_NAME = 40


def _find(chart: Chart, number: int) -> int:
    if not 1 <= number <= len(chart.parts):
        raise ParameterError(f"number={number} must be one of the {len(chart.parts)} parts")
    return number - 1


def _renumber(chart: Chart, parts: list[Part]) -> Chart:
    """Parts in order of their bars, numbered from 1; links to repeated parts follow, those to later ones fall away."""
    ordered = sorted(parts, key=lambda p: p.start_bar)
    new = {p.number: i + 1 for i, p in enumerate(ordered) if p.number}
    out = []
    for i, p in enumerate(ordered):
        model = new.get(p.same_as) if p.same_as else None
        out.append(replace(p, number=i + 1, same_as=model if model is not None and model < i + 1 else None))
    return relate_parts(chart, out)


@dataclass(frozen=True)
class SplitPart:
    """Begin a new part at a bar."""

    bar: int
    kind: Literal["split_part"] = "split_part"

    def apply(self, chart: Chart) -> tuple[Chart, str]:
        part = next((p for p in chart.parts if p.start_bar < self.bar <= p.end_bar), None)
        if part is None:
            raise ParameterError(f"bar={self.bar} must lie inside a part, after its first bar; a part already begins there or none is there")
        first = replace(part, bars=self.bar - part.start_bar)
        second = Part(0, self.bar, part.end_bar - self.bar + 1)
        rest = [p for p in chart.parts if p is not part]
        return _renumber(chart, [*rest, first, second]), f"part {part.number} split at bar {self.bar}"


@dataclass(frozen=True)
class MergePart:
    """Join a part to the one before it."""

    number: int
    kind: Literal["merge_part"] = "merge_part"

    def apply(self, chart: Chart) -> tuple[Chart, str]:
        i = _find(chart, self.number)
        if i == 0:
            raise ParameterError("part 1 has no part before it; merge part 2 instead")
        before, here = chart.parts[i - 1], chart.parts[i]
        joined = replace(before, bars=before.bars + here.bars, name=before.name or here.name)
        rest = [replace(p, same_as=before.number) if p.same_as == here.number else p for p in chart.parts if p not in (before, here)]
        return _renumber(chart, [*rest, joined]), f"part {here.number} joined to part {before.number}"


@dataclass(frozen=True)
class MovePart:
    """Let a part begin at another bar; the part before gives or takes the bars."""

    number: int
    bar: int
    kind: Literal["move_part"] = "move_part"

    def apply(self, chart: Chart) -> tuple[Chart, str]:
        i = _find(chart, self.number)
        if i == 0:
            raise ParameterError("part 1 begins with the song; move where part 2 begins instead")
        before, here = chart.parts[i - 1], chart.parts[i]
        if not before.start_bar < self.bar <= here.end_bar:
            raise ParameterError(f"bar={self.bar} must lie between {before.start_bar + 1} and {here.end_bar}, or a part would be empty; merge parts instead")
        moved = [replace(before, bars=self.bar - before.start_bar), replace(here, start_bar=self.bar, bars=here.end_bar - self.bar + 1)]
        return _renumber(chart, [*[p for p in chart.parts if p not in (before, here)], *moved]), f"part {here.number} begins at bar {self.bar}"


@dataclass(frozen=True)
class RenamePart:
    """Intro, verse, lift, chorus, bridge, riff, or any name of one's own; an empty name takes it away."""

    number: int
    name: str
    kind: Literal["rename_part"] = "rename_part"

    def apply(self, chart: Chart) -> tuple[Chart, str]:
        i = _find(chart, self.number)
        name = " ".join(self.name.split())
        if len(name) > LONGEST_NAME:
            raise ParameterError(f"a name of {len(name)} letters is too long; {LONGEST_NAME} at most")
        parts = [replace(p, name=name) if p.number == i + 1 else p for p in chart.parts]
        return _renumber(chart, parts), f"part {i + 1} is called {name}" if name else f"part {i + 1} has no name"


@dataclass(frozen=True)
class MarkRepeat:
    """Say that a part repeats an earlier one; None parts ways: it is taught as new."""

    number: int
    same_as: int | None
    kind: Literal["mark_repeat"] = "mark_repeat"

    def apply(self, chart: Chart) -> tuple[Chart, str]:
        i = _find(chart, self.number)
        model = self.same_as
        if model is not None:
            root = chart.parts[_find(chart, model)]
            model = root.same_as or root.number
            if model >= self.number:
                raise ParameterError(f"part {self.number} can only repeat an earlier part, not part {self.same_as}")
        children = [p.number for p in chart.parts if p.same_as == self.number]
        heir = model if model is not None else None
        parts = []
        for p in chart.parts:
            if p.number == i + 1:
                parts.append(replace(p, same_as=model))
            elif p.number in children and heir is not None:
                parts.append(replace(p, same_as=heir))
            else:
                parts.append(p)
        said = f"part {self.number} repeats part {model}" if model is not None else f"part {self.number} stands on its own"
        return _renumber(chart, parts), said
