"""The board: a row a chord with both hands' keys, the way each hand goes from the row above, and what makes it easy to find.

Of a repeat only the rows that differ are there: its part points to its model.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from valley.lesson.moves import tell_way
from valley.model.arrangement import Arrangement, Grip, HandNote
from valley.model.chart import Chart, Part
from valley.model.saying import Saying, Several, say
from valley.theory.pitch import BLACK_KEYS

UP, DOWN, STAY, NEW = "up", "down", "stay", ""


@dataclass(frozen=True)
class BoardRow:
    """A chord: the first bar and count where it comes, both hands' keys, and where each hand goes to get there ("up", "down", "stay" or "" at first)."""

    grip: Grip
    bar: int
    left_goes: str
    right_goes: str
    hints: tuple[Saying, ...]


@dataclass(frozen=True)
class BoardPart:
    """A part's rows; of a repeat those that differ from the part that it repeats. ``times``: how often the rows are played in a row."""

    part: Part
    rows: tuple[BoardRow, ...]
    times: int = 1


def make_board(chart: Chart, arrangement: Arrangement) -> tuple[BoardPart, ...]:
    """The rows of every part, those that come again in a row once."""
    found = []
    for part in chart.parts:
        grips = arrangement.of_part(part.number).grips
        model = chart.parts[part.same_as - 1] if part.same_as else None
        known = {(g.start - chart.span(model)[0], g.label, _keys(g)) for g in arrangement.of_part(model.number).grips} if model else set()
        size = len(grips) if model else _cycle(grips)
        rows: list[BoardRow] = []
        before: Grip | None = None
        for grip in grips[:size]:
            new = before is None or _keys(grip) != _keys(before) or grip.chord != before.chord
            if new and (grip.start - chart.span(part)[0], grip.label, _keys(grip)) not in known:
                rows.append(_row(chart, before, grip))
            before = grip
        found.append(BoardPart(part, tuple(rows), len(grips) // size if size else 1))
    return tuple(found)


def _keys(grip: Grip) -> tuple[tuple[int, ...], tuple[int, ...]]:
    return tuple(n.midi for n in grip.left), tuple(n.midi for n in grip.right)


def _cycle(grips: Sequence[Grip]) -> int:
    """How many grips there are before they come again."""
    rows = [(g.label, g.duration, _keys(g)) for g in grips]
    return next((n for n in range(1, len(rows) // 2 + 1) if len(rows) % n == 0 and rows == rows[:n] * (len(rows) // n)), len(rows))


def _row(chart: Chart, before: Grip | None, grip: Grip) -> BoardRow:
    bar = max(1, chart.grid.place(grip.start)[0])
    left = _goes(before.left, grip.left) if before else NEW
    right = _goes(before.right, grip.right) if before else NEW
    return BoardRow(grip, bar, left, right, tuple(_hints(before, grip)))


def _goes(old: Sequence[HandNote], new: Sequence[HandNote]) -> str:
    """Where a hand goes: by the middle of what it holds."""
    if not old or not new:
        return NEW
    if [n.midi for n in old] == [n.midi for n in new]:
        return STAY
    middle = sum(n.midi for n in new) / len(new) - sum(n.midi for n in old) / len(old)
    return UP if middle > 0 else DOWN if middle < 0 else STAY


def _hints(before: Grip | None, grip: Grip) -> list[Saying]:
    """All black keys; the same shape, one key, the thumb; the easy way to see the chord."""
    hints = []
    keys = [n.midi % 12 in BLACK_KEYS for n in grip.notes]
    if len(keys) > 1 and all(keys):
        hints.append(say("all black"))
    for hand, old, new in (("left", before.left if before else (), grip.left), ("right", before.right if before else (), grip.right)):
        way = tell_way(old, new) if len(old) > 1 and len(new) > 1 else None
        if way and way.phrase in ("way same shape", "way one key", "way thumb stays", "way steps up", "way steps down"):
            hints.append(say(f"{hand} hint", way=Several((way,))))
    if grip.hint:
        hints.append(grip.hint)
    return hints
