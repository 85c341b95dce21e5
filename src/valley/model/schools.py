"""The schools of teaching that a lesson follows; practitioners disagree, so each matter is a choice."""

from __future__ import annotations

from dataclasses import dataclass, fields
from functools import cache
from typing import Literal, get_args, get_type_hints

from valley.errors import ParameterError
from valley.model._rules import require_one_of

LENGTHS = ("usual", "short", "thorough")


@dataclass(frozen=True)
class Schools:
    """``language``: of lessons and hand-outs. ``order``: block chords and tune first, the pattern later; or the real pattern from the start; or
    every part in blocks and the patterns at the end; or the whole song at the easier level, without patterns and written bars, and then as it is played.

    ``hands``: right alone, left alone, together; or both chord by chord. ``length``: how much is said and how often it is shown. ``joining``: 1, 1+2,
    1+2+3, or the whole at the end. ``alignment``: every note counted, or only those on the beat.
    """

    language: Literal["en", "fr", "de", "es"] = "en"
    order: Literal["block-first", "pattern-first", "pattern-last", "plain-first"] = "block-first"
    hands: Literal["right-left-together", "chord-by-chord"] = "right-left-together"
    length: Literal["usual", "short", "thorough"] = "usual"
    joining: Literal["cumulative", "at-the-end"] = "cumulative"
    bass: Literal["slash", "root"] = "slash"
    naming: Literal["letters", "syllables", "german"] = "letters"
    flats: Literal["written", "spoken"] = "written"
    spelling: Literal["strict", "simple"] = "strict"
    added: Literal["add9", "add2"] = "add9"
    suspended: Literal["sus2", "2"] = "sus2"
    major_seventh: Literal["maj7", "M7", "Δ7"] = "maj7"
    half_diminished: Literal["m7b5", "ø7"] = "m7b5"
    inversions: Literal["slash", "words"] = "slash"
    octaves: Literal["c4", "c3", "words"] = "c4"
    fingering: Literal["shown", "hidden"] = "shown"
    alignment: Literal["every-note", "anchors"] = "every-note"

    def __post_init__(self) -> None:
        for matter, schools in school_options().items():
            require_one_of(matter, getattr(self, matter), schools)


@cache
def school_options() -> dict[str, tuple[str, ...]]:
    """Every matter with its schools, the usual one first.

    >>> school_options()["octaves"]
    ('c4', 'c3', 'words')
    """
    hints = get_type_hints(Schools)
    return {f.name: get_args(hints[f.name]) for f in fields(Schools)}


def read_schools(text: str) -> Schools:
    """Schools from "naming=german, octaves=c3"; a bare school's name will do where only one matter has it.

    Raises
    ------
    ParameterError
        names the matter and its schools
    """
    options, chosen = school_options(), {}
    for word in text.replace(",", " ").split():
        matter, _, school = word.partition("=")
        if not school:
            matter, school = next((m for m, schools in options.items() if word in schools), ""), word
        if matter not in options:
            raise ParameterError(f"school {word!r} is not known; matters are {', '.join(options)}")
        if school not in options[matter]:
            raise ParameterError(f"{matter}={school!r} must be one of {', '.join(options[matter])}")
        chosen[matter] = school
    return Schools(**chosen)  # type: ignore[arg-type]  # each value was checked against its matter's schools
