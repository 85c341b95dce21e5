"""What the creator chose for the hands. Nothing here is computed; everything that is not chosen has a default."""

from __future__ import annotations

from dataclasses import dataclass
from fractions import Fraction

from valley.model.pattern import Pattern


@dataclass(frozen=True)
class ChosenNote:
    midi: int
    optional: bool = False
    finger: int | None = None


@dataclass(frozen=True)
class GripChoice:
    """A grip as the creator set it, for the chord of this label that begins at this beat."""

    start: Fraction
    label: str
    left: tuple[ChosenNote, ...]
    right: tuple[ChosenNote, ...]
    reason: str = ""


@dataclass(frozen=True)
class LinkChoice:
    """A link that is played, in full or the easier way."""

    start: Fraction
    kind: str
    form: str = "full"


@dataclass(frozen=True)
class PartChoice:
    """What one part has for itself; None is as the song has it. ``ending``: "", "octaves" or "rolled"."""

    part: int
    style: str | None = None
    level: str | None = None
    pattern: str | None = None
    drop_last: bool = False
    lead_in: bool = False
    ending: str = ""


@dataclass(frozen=True)
class ChordPattern:
    """A pattern for one chord only."""

    start: Fraction
    pattern: str


@dataclass(frozen=True)
class Choices:
    """The song's settings and every single decision.

    ``bass``: "slash" follows the bass of slash chords, "root" keeps the root. ``frame``: keys that the camera shows, such as
    "C2-C6". ``links``: which proposals are played: "chosen" ones only, or "all".
    """

    style: str = "block-and-melody"
    level: str = "standard"
    hand: str = "medium"
    keyboard: str = "88"
    frame: str = ""
    pattern: str = "held"
    bass: str = "slash"
    links: str = "chosen"
    pedal: bool = True
    fingers: bool = True
    parts: tuple[PartChoice, ...] = ()
    grips: tuple[GripChoice, ...] = ()
    taken_links: tuple[LinkChoice, ...] = ()
    chord_patterns: tuple[ChordPattern, ...] = ()
    patterns: tuple[Pattern, ...] = ()

    def of_part(self, number: int) -> PartChoice:
        return next((p for p in self.parts if p.part == number), PartChoice(number))
