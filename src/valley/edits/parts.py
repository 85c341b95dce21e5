"""Corrections of the parts: split, merge, move an edge, name, mark a repeat or part ways with one."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import Literal

from valley.charting.parts import relate_parts
from valley.edits._edit import ChartEdit, Edit
from valley.edits._renumber import renumbered
from valley.errors import ParameterError
from valley.model.chart import Chart, MelodyNote, Part
from valley.model.choices import PartChoice
from valley.song.state import SongState

LONGEST_NAME = 40


def _find(chart: Chart, number: int) -> int:
    if not 1 <= number <= len(chart.parts):
        raise ParameterError(f"number={number} must be one of the {len(chart.parts)} parts")
    return number - 1


def _ordered(chart: Chart, parts: list[Part]) -> tuple[Chart, dict[int, int]]:
    """Parts in order of their bars, numbered from 1, and the new number of each; links to repeated parts follow, those to later ones fall away."""
    ordered = sorted(parts, key=lambda p: p.start_bar)
    new = {p.number: i + 1 for i, p in enumerate(ordered) if p.number}
    out = []
    for i, p in enumerate(ordered):
        model = new.get(p.same_as) if p.same_as else None
        out.append(replace(p, number=i + 1, same_as=model if model is not None and model < i + 1 else None))
    return relate_parts(chart, out), new


class PartsEdit(Edit):
    """Changes which parts there are; all that hangs on their numbers follows."""

    def divide(self, chart: Chart) -> tuple[Chart, dict[int, int], str]:
        """The chart, the new number of each part that is still there, and what was done."""
        raise NotImplementedError

    def apply(self, song: SongState, played: Sequence[MelodyNote] = ()) -> tuple[SongState, str]:
        chart, numbers, said = self.divide(song.chart)
        return renumbered(song, chart, numbers), said


@dataclass(frozen=True)
class SplitPart(PartsEdit):
    """Begin a new part at a bar."""

    bar: int
    kind: Literal["split_part"] = "split_part"

    def divide(self, chart: Chart) -> tuple[Chart, dict[int, int], str]:
        part = next((p for p in chart.parts if p.start_bar < self.bar <= p.end_bar), None)
        if part is None:
            raise ParameterError(f"bar={self.bar} must lie inside a part, after its first bar; a part already begins there or none is there")
        first = replace(part, bars=self.bar - part.start_bar)
        second = Part(0, self.bar, part.end_bar - self.bar + 1)
        rest = [p for p in chart.parts if p is not part]
        changed, numbers = _ordered(chart, [*rest, first, second])
        return changed, numbers, f"part {part.number} split at bar {self.bar}"

    def apply(self, song: SongState, played: Sequence[MelodyNote] = ()) -> tuple[SongState, str]:
        """What was chosen for the part holds for both halves; its lead-in stays with the first, its ending goes to the second."""
        done, said = super().apply(song, played)
        half = next(p for p in done.chart.parts if p.start_bar == self.bar).number
        first = done.choices.of_part(half - 1)
        second = replace(first, part=half, lead_in=False)
        first = replace(first, drop_last=False, ending="")
        others = [p for p in done.choices.parts if p.part not in (half - 1, half)]
        kept = [p for p in (first, second) if p != PartChoice(p.part)]
        return replace(done, choices=replace(done.choices, parts=tuple(sorted([*others, *kept], key=lambda p: p.part)))), said


@dataclass(frozen=True)
class MergePart(PartsEdit):
    """Join a part to the one before it."""

    number: int
    kind: Literal["merge_part"] = "merge_part"

    def divide(self, chart: Chart) -> tuple[Chart, dict[int, int], str]:
        i = _find(chart, self.number)
        if i == 0:
            raise ParameterError("part 1 has no part before it; merge part 2 instead")
        before, here = chart.parts[i - 1], chart.parts[i]
        joined = replace(before, bars=before.bars + here.bars, name=before.name or here.name)
        rest = [replace(p, same_as=before.number) if p.same_as == here.number else p for p in chart.parts if p not in (before, here)]
        changed, numbers = _ordered(chart, [*rest, joined])
        return changed, numbers, f"part {here.number} joined to part {before.number}"


@dataclass(frozen=True)
class MovePart(ChartEdit):
    """Let a part begin at another bar; the part before gives or takes the bars."""

    number: int
    bar: int
    kind: Literal["move_part"] = "move_part"

    def correct(self, chart: Chart) -> tuple[Chart, str]:
        i = _find(chart, self.number)
        if i == 0:
            raise ParameterError("part 1 begins with the song; move where part 2 begins instead")
        before, here = chart.parts[i - 1], chart.parts[i]
        if not before.start_bar < self.bar <= here.end_bar:
            raise ParameterError(f"bar={self.bar} must lie between {before.start_bar + 1} and {here.end_bar}, or a part would be empty; merge parts instead")
        moved = [replace(before, bars=self.bar - before.start_bar), replace(here, start_bar=self.bar, bars=here.end_bar - self.bar + 1)]
        return _ordered(chart, [*[p for p in chart.parts if p not in (before, here)], *moved])[0], f"part {here.number} begins at bar {self.bar}"


@dataclass(frozen=True)
class RenamePart(ChartEdit):
    """Intro, verse, lift, chorus, bridge, riff, or any name of one's own; an empty name takes it away."""

    number: int
    name: str
    kind: Literal["rename_part"] = "rename_part"

    def correct(self, chart: Chart) -> tuple[Chart, str]:
        i = _find(chart, self.number)
        name = " ".join(self.name.split())
        if len(name) > LONGEST_NAME:
            raise ParameterError(f"a name of {len(name)} letters is too long; {LONGEST_NAME} at most")
        parts = [replace(p, name=name) if p.number == i + 1 else p for p in chart.parts]
        return _ordered(chart, parts)[0], f"part {i + 1} is called {name}" if name else f"part {i + 1} has no name"


@dataclass(frozen=True)
class MarkRepeat(ChartEdit):
    """Say that a part repeats an earlier one; None parts ways: it is taught as new."""

    number: int
    same_as: int | None
    kind: Literal["mark_repeat"] = "mark_repeat"

    def correct(self, chart: Chart) -> tuple[Chart, str]:
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
        return _ordered(chart, parts)[0], said


@dataclass(frozen=True)
class DeclareRepeats(ChartEdit):
    """Hold every repeat against its model and say how it differs."""

    kind: Literal["declare_repeats"] = "declare_repeats"

    def correct(self, chart: Chart) -> tuple[Chart, str]:
        return relate_parts(chart, chart.parts), "the differences of repeats declared"
