"""Intervals between two notes that are named: "A and D sharp, which is a tritone", "G and B, that's a third"."""

from __future__ import annotations

import re

from valley.lesson.proof._desk import Desk
from valley.lesson.proof._facts import Fact, fact, settle
from valley.theory.pitch import PitchName

# Steps on the line of fifths upwards, for every name that an interval goes by.
_BY_NAME = {
    "octave": (0,), "unison": (0,),
    "minor second": (-5,), "half step": (-5, 7), "semitone": (-5, 7), "major second": (2,), "whole step": (2, -10), "whole tone": (2, -10), "second": (-5, 2),
    "minor third": (-3,), "major third": (4,), "third": (-3, 4), "perfect fourth": (-1,), "fourth": (-1, 6), "augmented fourth": (6,), "tritone": (6, -6),
    "perfect fifth": (1,), "diminished fifth": (-6,), "fifth": (1, -6), "minor sixth": (-4,), "major sixth": (3,), "sixth": (-4, 3),
    "minor seventh": (-2,), "major seventh": (5,), "seventh": (-2, 5),
}  # fmt: skip
_PLAIN = ("octave", "second", "third", "fourth", "fifth", "sixth", "seventh")
_NAMES = "|".join(sorted(_BY_NAME, key=len, reverse=True))


def judge_interval(desk: Desk, match: re.Match[str]) -> None:
    """The interval from the lower to the upper of the two notes just named, or the other way round."""
    rows = [r for r in desk.named if r.end <= match.start("link") and not r.is_chord][-2:]
    if (
        len(rows) < 2
        or desk.sentence[rows[1].end : match.start("link")].strip(" ,")
        or not re.fullmatch(r",?\s*(?:and|to|up to|down to|with)\s+(?:an?\s+|the\s+)?", desk.sentence[rows[0].end : rows[1].start])
    ):
        return
    up = rows[1].name.fifths - rows[0].name.fifths
    fits = {up, -up} & set(_BY_NAME[match["said"].lower()])
    settle(desk, match, "said", bool(fits), name_interval(rows[0].name, rows[1].name), f"it is a {name_interval(rows[0].name, rows[1].name)}", "note")


def name_interval(low: PitchName, high: PitchName) -> str:
    """The plain name of the interval upwards: a third, a sixth.

    >>> from valley.theory.pitch import parse_name
    >>> name_interval(parse_name("G"), parse_name("B")), name_interval(parse_name("A"), parse_name("D#"))
    ('third', 'fourth')
    """
    letters = "CDEFGAB"
    return _PLAIN[(letters.index(high.letter) - letters.index(low.letter)) % 7]


_LINK = r"(?P<link>,?\s*(?:which is|which makes|that's|that’s|that is|so that's|it's|are|is|make))"
INTERVALS: tuple[Fact, ...] = ((fact(rf"{_LINK} (?-i:an?) (?:interval of an? )?(?P<said>{_NAMES})\b(?! (?:inversion|chord))"), judge_interval),)
