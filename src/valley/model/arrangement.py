"""What each hand plays: grips chord by chord, and the notes in time that come of them."""

from __future__ import annotations

from dataclasses import dataclass
from fractions import Fraction

from valley.errors import ParameterError

LEFT, RIGHT = "left", "right"


@dataclass(frozen=True)
class HandNote:
    """One key under one hand: spelled pitch, MIDI number, what it is in the chord."""

    pitch: str
    midi: int
    member: str = ""


@dataclass(frozen=True)
class Grip:
    """The notes that both hands hold for one chord, from the bottom up."""

    start: Fraction
    duration: Fraction
    label: str
    symbol: str
    left: tuple[HandNote, ...]
    right: tuple[HandNote, ...]
    reach_left_mm: float = 0.0
    reach_right_mm: float = 0.0
    omits: tuple[str, ...] = ()
    why: str = ""

    def __post_init__(self) -> None:
        for hand in (self.left, self.right):
            if any(b.midi <= a.midi for a, b in zip(hand, hand[1:], strict=False)):
                raise ParameterError(f"notes of the {self.symbol} grip must ascend; got {[n.pitch for n in hand]}")

    @property
    def end(self) -> Fraction:
        return self.start + self.duration


@dataclass(frozen=True)
class PlayedNote:
    """A note in time: beats from the chart's first beat."""

    hand: str
    start: Fraction
    duration: Fraction
    midi: int
    pitch: str
    melody: bool = False


@dataclass(frozen=True)
class PartArrangement:
    """One part in one voicing style."""

    part: int
    style: str
    grips: tuple[Grip, ...]
    notes: tuple[PlayedNote, ...]


@dataclass(frozen=True)
class Arrangement:
    """The whole song, part by part in the order of the song."""

    style: str
    hand: str
    keyboard: int
    parts: tuple[PartArrangement, ...]

    def of_part(self, number: int) -> PartArrangement:
        for part in self.parts:
            if part.part == number:
                return part
        raise ParameterError(f"part {number} is not in this arrangement; it holds parts {[p.part for p in self.parts]}")
