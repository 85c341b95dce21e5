"""Patterns: one for a chord, and those that the creator writes."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, field, replace
from typing import ClassVar, Literal

from valley.arranging.pattern_library import PATTERNS, pattern_named
from valley.arranging.patterns import PatternError, check_pattern, make_form
from valley.edits._edit import HandsEdit
from valley.fraction import Fraction
from valley.model.chart import MelodyNote
from valley.model.choices import Choices, ChordPattern
from valley.model.pattern import Pattern
from valley.song.state import SongState


@dataclass(frozen=True)
class SetChordPattern(HandsEdit):
    """A pattern for one chord; an empty name gives it back to the part's."""

    start: Fraction
    pattern: str
    kind: Literal["set_chord_pattern"] = "set_chord_pattern"
    PLACES: ClassVar[tuple[str, ...]] = ("start",)

    def choose(self, song: SongState, played: Sequence[MelodyNote]) -> tuple[Choices, str]:
        choices = song.choices
        said = f"pattern “{pattern_named(self.pattern, choices.patterns).title}”" if self.pattern else "the pattern of its part"
        others = [p for p in choices.chord_patterns if p.start != self.start]
        new = [ChordPattern(self.start, self.pattern)] if self.pattern else []
        bar = song.chart.grid.place(self.start)[0]
        rows = tuple(sorted([*others, *new], key=lambda p: p.start))
        return replace(choices, chord_patterns=rows), f"bar {bar}: {said}"


@dataclass(frozen=True)
class WritePattern(HandsEdit):
    """A pattern of the creator's own, one form; without strokes it is taken away."""

    name: str
    kind: Literal["write_pattern"] = "write_pattern"
    title: str = ""
    meter: str = "4/4"
    left: str = ""
    right: str = ""
    cell: Fraction = field(default_factory=Fraction)
    runs_on: bool | None = None

    def choose(self, song: SongState, played: Sequence[MelodyNote]) -> tuple[Choices, str]:
        choices, name = song.choices, "-".join(self.name.lower().split())
        if not name:
            raise PatternError("the pattern has no name; give it one to find it by")
        if name in PATTERNS:
            raise PatternError(f"{name!r} is one of Valley's own patterns; give yours another name")
        mine = next((p for p in choices.patterns if p.name == name), Pattern(name, self.title or self.name, "Your own.", ()))
        others = tuple(p for p in choices.patterns if p.name != name)
        forms = tuple(f for f in mine.forms if f.meter != self.meter)
        if not self.left.strip() and not self.right.strip():
            kept = replace(mine, forms=forms)
            used = name in (choices.pattern, *(p.pattern for p in choices.parts), *(p.pattern for p in choices.chord_patterns))
            if not forms and used:
                raise PatternError(f"pattern {name!r} is in use; choose another where it is used, then take it away")
            return replace(choices, patterns=(*others, kept) if forms else others), f"pattern {name} taken away in {self.meter}"
        new = replace(mine, title=self.title or mine.title, forms=(*forms, make_form(self.meter, self.left, self.right, self.cell)))
        if self.runs_on is not None:
            new = replace(new, runs_on=self.runs_on)
        wrong = check_pattern(new)
        if wrong:
            raise PatternError(wrong[0])
        return replace(choices, patterns=(*others, new)), f"pattern {name} written for {self.meter}"
