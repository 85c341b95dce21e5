"""Counts, lengths and chords in a row, out of words."""

from __future__ import annotations

import re

from valley.fraction import Fraction
from valley.lesson.student.english import ENGLISH
from valley.lesson.student.language import Language
from valley.theory.meter import Meter


def read_count(text: str, meter: Meter, lang: Language = ENGLISH) -> Fraction:
    """Beats from the bar line (or from where the counting begins) to a place as it is counted.

    >>> read_count("2 and", Meter("4/4")), read_count("5", Meter("6/8")), read_count("3/8 of a count after 1", Meter("4/4"))
    (Fraction(3, 2), Fraction(4, 3), Fraction(3, 8))
    """
    counts: Fraction
    between = re.fullmatch(lang.share_after, text)
    if between:
        counts = Fraction(between["share"]) + int(between["beat"]) - 1
    else:
        beat, _, rest = text.partition(" ")
        counts = int(beat) - 1 + (Fraction(*lang.between[rest]) if rest else Fraction(0))
    return counts / (3 if meter.division == 3 else 1)


def read_amount(text: str, unit: str, lang: Language = ENGLISH) -> Fraction | None:
    """How many of a unit: "2 beats and a half"."""
    if text == lang.halves[unit]:
        return Fraction(1, 2)
    found = re.fullmatch(lang.with_share.format(unit=lang.units[unit]), text)
    if found:
        return int(found["whole"]) + _share(found["share"], lang)
    found = re.fullmatch(lang.share_of, text)
    return _share(found["share"], lang) if found and re.fullmatch(lang.units[unit], found["unit"]) else None


def _share(text: str | None, lang: Language) -> Fraction:
    if not text:
        return Fraction(0)
    return Fraction(*lang.shares[text]) if text in lang.shares else Fraction(text)


def read_length(text: str, bar: Fraction, lang: Language = ENGLISH) -> Fraction | None:
    """Beats."""
    if text == lang.one_bar:
        return bar
    bars = read_amount(text, "bar", lang)
    return bars * bar if bars is not None else read_amount(text, "beat", lang)


_TIMES = {"twice": 2, "zweimal": 2, "dreimal": 3, "viermal": 4}


def read_times(text: str | None) -> int:
    """
    >>> read_times("twice"), read_times("3 times"), read_times(None)
    (2, 3, 1)
    """
    return 1 if not text else _TIMES.get(text) or int(re.match(r"\d+", text)[0])  # type: ignore[index]  # the pattern let only numbers through


def read_distance(way: str | None, size: str | None, lang: Language = ENGLISH) -> int:
    """Half steps from "up", "an octave and a fifth"."""
    if not way or not size:
        return 0
    total = sum(lang.intervals[word.strip()] for word in size.split(lang.also))
    return total if way == lang.up else -total


def read_progression(text: str, times: int, bar: Fraction, lang: Language = ENGLISH) -> list[tuple[str, Fraction]]:
    """Chords by name with their beats, in order."""
    rows: list[tuple[str, Fraction]] = []
    for run in text.split(lang.then):
        each, single = re.fullmatch(lang.run_each, run), re.fullmatch(lang.run_one, run)
        length = read_length(each["length"], bar, lang) if each else read_length(single["length"], bar, lang) if single else None
        if length is None:
            raise ValueError(f"a learner does not understand {run!r}")
        names = split_names(each["chords"], lang) if each else [single["chord"]] if single else []
        rows += [(name, length) for name in names]
    return rows * times


def split_names(text: str, lang: Language = ENGLISH) -> list[str]:
    """ "C, F and G" name by name."""
    return [name for part in text.split(", ") for name in part.split(lang.also)]
