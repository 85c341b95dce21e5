"""What every check of the hands leans on: the room that there is, a finding at a grip, what the creator wrote over it."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from valley.checking.finding import Finding, Mend, Severity, bar_at
from valley.edits import ChangeGrip
from valley.model.arrangement import Arrangement, Grip, PartArrangement, PlayedNote
from valley.model.chart import Chart


@dataclass(frozen=True)
class Room:
    """What hands, keyboard and camera allow, in millimetres and MIDI numbers, and whether the left hand keeps the roots whatever bass is written."""

    comfort_mm: float
    most_mm: float
    keyboard: tuple[int, int]
    frame: tuple[int, int]
    keeps_roots: bool = False


def each_grip(arrangement: Arrangement) -> Iterator[tuple[PartArrangement, Grip]]:
    for part in arrangement.parts:
        for grip in part.grips:
            yield part, grip


def find_at(chart: Chart, check: str, severity: Severity, part: PartArrangement, grip: Grip, words: str, mend: Mend | None = None, alike: str = "") -> Finding:
    bar = bar_at(chart, grip.start)
    return Finding(check, "hands", severity, f"Bar {bar}, {grip.symbol}: {words}.", part.part, bar, grip.start, mend=mend, alike=alike)


def written_over(part: PartArrangement, grip: Grip) -> list[PlayedNote]:
    """What the creator wrote, imported or played while a chord lasts."""
    return [n for n in part.notes if n.source != "proposed" and n.start < grip.end and n.end > grip.start]


def release(part: PartArrangement, grip: Grip, words: str = "take Valley's grip") -> Mend | None:
    """Valley's own grip again, where the creator set one and wrote nothing over it."""
    return Mend(ChangeGrip(grip.start, "release"), words) if grip.locked and not written_over(part, grip) else None
