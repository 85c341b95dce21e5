"""Counts that are named: how long a chord lasts, where it falls, sums, how a bar is counted."""

from __future__ import annotations

import re
from fractions import Fraction

from valley.lesson.proof._desk import Desk
from valley.lesson.proof._words import read_count, read_number, say_number
from valley.theory.naming import AGREES, CONTRADICTS


def judge_length(desk: Desk, match: re.Match[str]) -> None:
    said = read_number(match[1])
    every = re.search(r"\b(?:each|every|all|most)\b", desk.text[max(0, desk.offset + match.start() - 24) : desk.offset + match.start(1)], re.IGNORECASE)
    grips = desk.meant()
    if not grips or every or not (desk.context.grips or desk.context.bars):
        return
    unit = desk.scope.chart.grid.meter_at(grips[0].start).beats if match[2].startswith("bar") else 1
    lengths = {g.duration for g in grips}
    if said * unit in lengths:
        desk.claim(match.start(1), match.end(2), "count", AGREES)
        return
    right = min(lengths, key=lambda n: abs(n - said * unit))
    words = f"{say_number(right)} beat{'' if right <= 1 else 's'}"
    desk.claim(match.start(1), match.end(2), "count", CONTRADICTS, words, f"{grips[0].symbol} lasts {words} there")


def judge_place(desk: Desk, match: re.Match[str]) -> None:
    grips = [g for g in desk.meant() if desk.context.bars or desk.context.grips]
    if not grips:
        return
    grid = desk.scope.chart.grid
    inside = [g for g in grips if not desk.context.bars or grid.place(g.start)[0] in desk.context.bars] or grips
    said = str(read_count(match[1])) + (" &" if match[2] else "")
    counts = [grid.count(g.start) for g in inside]
    tune = [grid.count(n.start) for n in desk.scope.chart.melody if desk.context.bars and grid.place(n.start)[0] in desk.context.bars]
    if said in counts or (not desk.context.grips and said in tune):
        desk.claim(match.start(1), match.end(), "count", AGREES)
    else:
        desk.claim(match.start(1), match.end(), "count", CONTRADICTS, counts[0], f"{inside[0].symbol} comes on {counts[0]}")


def judge_sum(desk: Desk, match: re.Match[str]) -> None:
    unit = {"e": Fraction(1, 2), "q": Fraction(1), "h": Fraction(2), "s": Fraction(1, 4)}[match[2][0]]
    total = read_number(match[1]) * unit * (2 if match[3] else 1)
    said = read_number(match[4])
    expected = "" if total == said else f"{say_number(total)} beats"
    desk.claim(match.start(), match.end(), "count", AGREES if not expected else CONTRADICTS, expected, f"they are {expected}" if expected else "")


def judge_counting(desk: Desk, match: re.Match[str]) -> None:
    numbers = [int(n) for n in re.findall(r"\d", match[1])]
    meter = desk.scope.chart.grid.meter_of(desk.context.bars[0] if desk.context.bars else 1)
    most = meter.beats * (3 if meter.division == 3 else 1)
    end = match.start(1) + len(match[1].rstrip(" ,"))
    last = max(numbers)
    if last in (most, 2 * most) or (meter.division == 3 and last in (meter.beats, 2 * meter.beats)):
        desk.claim(match.start(1), end, "count", AGREES)
    elif len(numbers) > 1:
        desk.claim(match.start(1), end, "count", CONTRADICTS, f"to {most}", f"a bar of {meter.name} is counted to {most}")
