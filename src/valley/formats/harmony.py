"""Chord symbols of MusicXML: a kind with degrees that are added, altered or taken away, and the text that is printed."""

from __future__ import annotations

from collections.abc import Iterable
from typing import Final, NamedTuple

from valley.theory._chord_table import Quality
from valley.theory.quality import SHORTHAND, combine, degrees_of, read_suffix

# MusicXML's kinds by Harte's shorthands.
KINDS: Final = {
    "5": "power",
    "maj": "major",
    "min": "minor",
    "dim": "diminished",
    "aug": "augmented",
    "sus2": "suspended-second",
    "sus4": "suspended-fourth",
    "maj6": "major-sixth",
    "min6": "minor-sixth",
    "7": "dominant-seventh",
    "maj7": "major-seventh",
    "min7": "minor-seventh",
    "minmaj7": "minor-major-seventh",
    "hdim7": "half-diminished-seventh",
    "dim7": "diminished-seventh",
    "9": "dominant-ninth",
    "maj9": "major-ninth",
    "min9": "minor-ninth",
    "11": "dominant-11th",
    "min11": "minor-11th",
    "13": "dominant-13th",
}
_READ: Final = {kind: SHORTHAND[name] for name, kind in KINDS.items()} | {
    "dominant": "1 3 5 b7",
    "half-diminished": "1 b3 b5 b7",
    "major-minor": "1 b3 5 7",
    "augmented-seventh": "1 3 #5 b7",
    "major-11th": "1 3 5 7 9 11",
    "major-13th": "1 3 5 7 9 13",
    "minor-13th": "1 b3 5 b7 9 13",
}
_SIGNS: Final = {-2: "bb", -1: "b", 0: "", 1: "#"}


class Step(NamedTuple):
    """A degree that differs from the kind: "add", "alter" or "subtract", its number, and half steps (an added seventh is small by itself)."""

    how: str
    number: int
    alter: int


def write_kind(quality: Quality) -> tuple[str, tuple[Step, ...]]:
    """The kind of a quality and what differs from it.

    >>> write_kind(read_suffix("7b9")), write_kind(read_suffix("7b5"))
    (('dominant-seventh', (Step(how='add', number=9, alter=-1),)), ('dominant-seventh', (Step(how='alter', number=5, alter=-1),)))
    """
    wanted = set(degrees_of(quality))
    for changed, steps in _ways(wanted):
        names = [name for name in KINDS if set(SHORTHAND[name].split()) <= changed and (name != "5" or changed == {"1", "5"})]
        if names:
            best = max(names, key=lambda n: len(SHORTHAND[n].split()))
            rest = [d for d in degrees_of(quality) if d in changed - set(SHORTHAND[best].split())]
            return KINDS[best], (*steps, *(_added(d) for d in rest))
    raise AssertionError(quality)


def _ways(wanted: set[str]) -> Iterable[tuple[set[str], tuple[Step, ...]]]:
    """A quality as it is, with its fifth put right, and with what it does without."""
    yield wanted, ()
    steps: list[Step] = []
    whole = set(wanted)
    for other, alter in (("b5", -1), ("#5", 1)):
        if other in wanted and "5" not in wanted:
            whole = whole - {other} | {"5"}
            steps.append(Step("alter", 5, alter))
    yield whole, tuple(steps)
    for number, names in ((3, ("3", "b3")), (5, ("5",))):
        if not whole & set(names):
            whole = whole | {names[0]}
            steps.append(Step("subtract", number, 0))
    yield whole, tuple(steps)


def _added(degree: str) -> Step:
    number = int(degree.lstrip("b#"))
    alter = degree.count("#") - degree.count("b")
    return Step("add", number, alter + 1 if number == 7 else alter)


def read_kind(kind: str, text: str, steps: Iterable[Step]) -> Quality | None:
    """The quality of a chord symbol, None where neither kind nor text is known.

    Where text and kind say different things, the text holds, for it is what people read; but a text that leaves out the degrees beside it is
    completed by them.

    >>> read_kind("minor", "", ()).suffix, read_kind("dominant", "7", [Step("add", 11, 1)]).suffix
    ('m', '7#11')
    """
    said = read_suffix(text) if text.strip() else None
    meant = _apply(set(_READ[kind].split()), steps) if kind in _READ else None
    if said is None or meant is None:
        return meant or said
    return meant if set(said.members) < set(meant.members) else said


def _apply(degrees: set[str], steps: Iterable[Step]) -> Quality | None:
    for step in steps:
        here = next((d for d in degrees if d.lstrip("b#") == str(step.number)), None)
        if step.how == "add":
            alter = min(0, step.alter - 1) if step.number == 7 else step.alter
            degrees.add(f"{_SIGNS.get(alter, '')}{step.number}")
        elif here is not None:
            degrees.discard(here)
            if step.how == "alter":
                degrees.add(f"{_SIGNS.get(step.alter + here.count('#') - here.count('b'), '')}{step.number}")
    return combine(degrees)
