"""Counts, lengths and chords in a row, out of words."""

from __future__ import annotations

import re
from fractions import Fraction

from valley.lesson.student import english as lang
from valley.model.chart import Grid
from valley.theory.meter import Meter


def read_count(text: str, meter: Meter) -> Fraction:
    """Beats from the bar line (or from where the counting begins) to a place as it is counted.

    >>> read_count("2 and", Meter("4/4")), read_count("5", Meter("6/8")), read_count("3/8 of a count after 1", Meter("4/4"))
    (Fraction(3, 2), Fraction(4, 3), Fraction(3, 8))
    """
    between = re.fullmatch(r"(\d+/\d+) of a count after (\d+)", text)
    if between:
        counts = Fraction(between[1]) + int(between[2]) - 1
    else:
        beat, _, rest = text.partition(" ")
        counts = int(beat) - 1 + (Fraction(*lang.BETWEEN[rest]) if rest else Fraction(0))
    return Fraction(counts) / (3 if meter.division == 3 else 1)


def read_amount(text: str, unit: str) -> Fraction | None:
    """How many of a unit: "2 beats and a half"."""
    for words, (a, b) in lang.SHARES.items():
        if text in (f"{words} a {unit}", f"{words} of a {unit}"):
            return Fraction(a, b)
    found = re.fullmatch(rf"(a|\d+) {unit}s?(?: and (.+))?", text)
    if found:
        whole = 1 if found[1] == "a" else int(found[1])
        rest = lang.SHARES.get(found[2]) if found[2] else (0, 1)
        return whole + (Fraction(*rest) if rest else Fraction(found[2]))
    found = re.fullmatch(rf"(\d+/\d+) of a {unit}", text)
    return Fraction(found[1]) if found else None


def read_length(text: str, bar: Fraction) -> Fraction | None:
    """Beats."""
    bars = read_amount(text, "bar")
    return bars * bar if bars is not None else read_amount(text, "beat")


def read_times(text: str | None) -> int:
    return 1 if not text else 2 if text == "twice" else int(text.split()[0])


def read_distance(way: str | None, size: str | None) -> int:
    """Half steps from "up", "an octave and a fifth"."""
    if not way or not size:
        return 0
    total = 0
    for word in re.split(r" and ", size):
        total += lang.INTERVALS[re.sub(r"^an? ", "", word.strip())]
    return total if way == "up" else -total


def read_progression(text: str, times: int, bar: Fraction) -> list[tuple[str, Fraction]]:
    """Chords by name with their beats, in order."""
    rows: list[tuple[str, Fraction]] = []
    for run in text.split("; then "):
        each = re.fullmatch(r"(.+), ([^,]+) each", run)
        single = re.fullmatch(r"(.+?) for (.+)", run)
        if each:
            length = read_length(each[2], bar)
            names = [n for part in each[1].split(", ") for n in part.split(" and ")]
        elif single:
            length, names = read_length(single[2], bar), [single[1]]
        else:
            length, names = None, []
        if length is None:
            raise ValueError(f"a learner does not understand {run!r}")
        rows += [(name, length) for name in names]
    return rows * times


def bar_beats(grid: Grid, bar: int) -> Fraction:
    return Fraction(grid.meter_of(bar).beats)
