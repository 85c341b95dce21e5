"""Matters in which teachers differ, and their schools, as a teacher says them."""

from __future__ import annotations

from typing import Final

MATTERS: Final = {
    "language": "language",
    "order": "order",
    "hands": "hands",
    "length": "length",
    "joining": "joining",
    "bass": "bass",
    "naming": "notes",
    "flats": "signs",
    "spelling": "spelling",
    "added": "added ninth",
    "suspended": "second",
    "major_seventh": "major seventh",
    "half_diminished": "half-diminished",
    "inversions": "inversions",
    "octaves": "middle C",
    "fingering": "fingers",
    "alignment": "counting",
}
_SCHOOLS: Final = {  # what is not here is written as it is: "add9", "Δ7"
    "en": "English",
    "fr": "français",
    "de": "Deutsch",
    "es": "español",
    "block-first": "blocks first, pattern later",
    "pattern-first": "the pattern from the start",
    "pattern-last": "patterns when all parts are known",
    "plain-first": "the whole song plain, then fuller",
    "right-left-together": "right, left, together",
    "chord-by-chord": "both, chord by chord",
    "cumulative": "1, then 1 and 2, …",
    "at-the-end": "the whole at the end",
    "root": "keeps the root",
    "syllables": "do re mi",
    "german": "German letters",
    "written": "B♭",
    "spoken": "B flat",
    "strict": "strict, as on paper",
    "simple": "the easy name",
    "words": "in words",
    "c4": "C4",
    "c3": "C3",
    "hidden": "left to the player",
    "every-note": "every note",
    "anchors": "only on the beat",
}


def say_school(school: str) -> str:
    """A school in words.

    >>> say_school("plain-first"), say_school("add9")
    ('the whole song plain, then fuller', 'add9')
    """
    return _SCHOOLS.get(school, school)
