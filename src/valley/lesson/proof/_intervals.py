"""Intervals between two notes that are named: "A and D sharp, which is a tritone", "G and B, that's a third"."""

from __future__ import annotations

import re
from collections.abc import Sequence

from valley.lesson.proof._desk import Desk
from valley.lesson.proof._facts import Fact, fact, settle
from valley.lesson.proof._playing import bars_here, strokes_of
from valley.lesson.proof._scope import Found
from valley.theory.naming import AGREES
from valley.theory.pitch import PitchName

# Steps on the line of fifths upwards, for every name that an interval goes by.
_BY_NAME = {
    "octave": (0,), "unison": (0,),
    "minor second": (-5,), "half step": (-5, 7), "semitone": (-5, 7), "major second": (2,), "whole step": (2, -10), "whole tone": (2, -10), "tone": (2, -10),
    "second": (-5, 2),
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


def judge_leap(desk: Desk, match: re.Match[str]) -> None:
    """ "It then falls a fifth to D flat": from the note that was told last."""
    before = [r for r in desk.named if r.end <= match.start() and not r.is_chord] or [r for r in desk.context.last_told if r.start < 0]
    after = next((r for r in desk.named if r.start >= match.end() and not r.is_chord), None)
    if not before or after is None or desk.sentence[match.end() : after.start].strip():
        return
    if any(c.start == desk.offset + after.start and c.verdict != AGREES for c in desk.context.claims):
        return  # it is the note that is another
    verb = match["verb"].lower()
    falls = match["way"] == "down" or verb.startswith(("fall", "drop", "come"))
    rises = match["way"] == "up" or verb.startswith(("rise", "climb"))
    low, high = (after.name, before[-1].name) if falls else (before[-1].name, after.name)
    up = high.fifths - low.fifths
    fits = {up} if falls or rises else {up, -up}
    right = name_interval(low, high)
    settle(desk, match, "said", bool(fits & set(_BY_NAME[match["said"].lower()])), right, f"it is a {right}", "note")


def judge_between(desk: Desk, match: re.Match[str]) -> None:
    """ "There's a tenth between the A and the C sharp": the two notes that are named then, however far apart."""
    rows = _two_after(desk, match, ("and", "and the", "and a", "and an", "to", "up to"))
    if not rows:
        return
    said = match["said"].lower()
    up = rows[1].name.fifths - rows[0].name.fifths
    right = name_interval(rows[0].name, rows[1].name)
    right = next((far for far, near in _WIDE.items() if near == right), right) if said in _WIDE else right
    settle(desk, match, "said", bool({up, -up} & set(_BY_NAME[_WIDE.get(said, said)])), right, f"it is a {right}", "note")


_WIDE = {"ninth": "second", "tenth": "third", "eleventh": "fourth", "twelfth": "fifth", "thirteenth": "sixth"}
_LINK = r"(?P<link>,?\s*(?:which is|which makes|that's|that’s|that is|so that's|it's|are|is|make))"


def judge_handfuls(desk: Desk, match: re.Match[str]) -> None:
    """ "All the left hand does is play fifths": two keys at a time, most of them so far apart."""
    strokes = [keys for bar in bars_here(desk) for _, keys in strokes_of(desk, bar, match["hand"].lower())]
    gaps = [(max(keys) - min(keys)) % 12 for keys in strokes if len(keys) == 2]
    if len(gaps) * 2 <= len(strokes) or not gaps:
        return
    usual = max(set(gaps), key=gaps.count)
    right = next(name for name, sizes in _GAPS.items() if usual in sizes)
    said = match["said"].lower().removesuffix("s")
    settle(desk, match, "said", usual in _GAPS[said], f"{right}s", f"most of them are {right}s", "note")


_GAPS = {"octave": (0,), "second": (1, 2), "third": (3, 4), "fourth": (5,), "fifth": (7, 6), "sixth": (8, 9), "seventh": (10, 11)}


def judge_way_between(desk: Desk, match: re.Match[str]) -> None:
    """ "Goes up a semitone from B to C": between the two notes that are named then."""
    rows = _two_after(desk, match, ("to", "up to", "down to"))
    if not rows:
        return
    up = (rows[1].name.fifths - rows[0].name.fifths) * (1 if match["way"].lower() == "up" else -1)
    said = match["said"].lower()
    right = _step_named(up, ("semitone", "tone", *_BY_NAME) if "tone" in said else ("half step", "whole step", *_BY_NAME))
    settle(desk, match, "said", up in _BY_NAME[said], right, f"it is a {right}", "note")


def _two_after(desk: Desk, match: re.Match[str], joined: Sequence[str]) -> list[Found]:
    """The two notes that stand right behind the words, with one of these between them; nothing else."""
    rows = [r for r in desk.named if r.start >= match.end() and not r.is_chord][:2]
    stands = len(rows) == 2 and not desk.sentence[match.end() : rows[0].start].strip()
    return rows if stands and desk.sentence[rows[0].end : rows[1].start].strip() in joined else []


def _step_named(up: int, names: Sequence[str]) -> str:
    """The first of the names that a step goes by."""
    return next((name for name in names if up in _BY_NAME[name]), "step")


def judge_pairs(desk: Desk, match: re.Match[str]) -> None:
    """ "In thirds: G and B, A and C": the pairs that are named then, from the lower note up."""
    rows = [r for r in desk.named if r.start >= match.end() and not r.is_chord]
    pairs = [(a, b) for a, b in zip(rows[::2], rows[1::2], strict=False) if desk.sentence[a.end : b.start].strip() in ("and", "with")]
    if len(pairs) < 2:
        return
    names = [name_interval(a.name, b.name) for a, b in pairs]
    usual = max(set(names), key=names.count)
    said = match["said"].lower().removesuffix("s")
    settle(desk, match, "said", said == usual or (said == "tenth" and usual == "third"), f"{usual}s", f"they are {usual}s", "note")


_LEAP = r"(?P<verb>falls?|drops?|jumps?|leaps?|goes|go|climbs?|rises?|moves?|comes?)(?: (?P<way>up|down))?(?: by)?"
INTERVALS: tuple[Fact, ...] = (
    (fact(rf"\ban? (?P<said>{_NAMES}|{'|'.join(_WIDE)}) between (?:(?-i:an?) |the )?"), judge_between),
    (fact(rf"\b(?P<way>up|down) (?:by )?an? (?P<said>{_NAMES}) from (?:(?-i:an?) |the )?"), judge_way_between),
    (
        fact(
            r"\b(?P<hand>left|right) hand\b[^.;,]{0,16}?\b(?:plays?|playing|has|is|does)\s+(?:just |only |all )*"
            r"(?P<said>octaves|thirds|fourths|fifths|sixths)\b"
        ),
        judge_handfuls,
    ),
    (fact(rf"\b(?:is|it's|it’s|that's|just|only|with) (?:just |only )?(?-i:an?) (?P<said>{_NAMES})(?:, | from |: )(?:the )?"), judge_between),
    (fact(r"\bin (?P<said>thirds|sixths|fifths|fourths|tenths)\b(?=\s*[,:])"), judge_pairs),
    (fact(rf"\b{_LEAP} an? (?P<said>{_NAMES})(?: (?:up|down))? to (?:(?-i:an?) |the |that )?"), judge_leap),
    (fact(rf"{_LINK} (?-i:an?) (?:interval of an? )?(?P<said>{_NAMES})\b(?! (?:inversion|chord))"), judge_interval),
)
