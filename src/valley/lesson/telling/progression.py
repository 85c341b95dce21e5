"""The chords of a part in one sentence: those of one length together, what comes again counted."""

from __future__ import annotations

from collections.abc import Sequence

from valley.fraction import Fraction
from valley.model._rules import MaybeChord
from valley.model.saying import Length, Saying, Several, Sound, Times, Value, say

Row = tuple[MaybeChord, Fraction]
"""A chord, or none, and for how many beats."""


def tell_progression(rows: Sequence[Row], bar: Fraction) -> Saying:
    """ "C, G, Am and F, a bar each; all that twice". ``bar``: beats of a bar, 0 where the metre changes."""
    times, cell = _cycle(rows)
    runs: list[list[Row]] = []
    for row in cell:
        if runs and runs[-1][0][1] == row[1]:
            runs[-1].append(row)
        else:
            runs.append([row])
    said = tuple(_tell_run(run, bar) for run in runs)
    values: dict[str, Value] = {"chords": Several(said, "then")}
    if times > 1:
        return say("progression times", **values, times=Times(times))
    return say("progression", **values)


def _tell_run(run: Sequence[Row], bar: Fraction) -> Saying:
    length = Length(run[0][1], bar)
    if len(run) == 1:
        return say("one chord for", chord=Sound(run[0][0]), length=length)
    chords = Several(tuple(say("named", chord=Sound(chord)) for chord, _ in run), "list")
    return say("chords each", chords=chords, length=length)


def _cycle(rows: Sequence[Row]) -> tuple[int, Sequence[Row]]:
    for size in range(1, len(rows) // 2 + 1):
        if len(rows) % size == 0 and list(rows) == list(rows[:size]) * (len(rows) // size) and (size > 1 or len(rows) > 2):
            return len(rows) // size, rows[:size]
    return 1, rows
