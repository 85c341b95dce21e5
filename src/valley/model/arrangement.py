"""What each hand plays: grips chord by chord, and the notes in time that come of them."""

from __future__ import annotations

from dataclasses import dataclass

from valley.errors import ParameterError
from valley.fraction import Fraction
from valley.model.saying import Saying
from valley.theory.chord import Chord
from valley.values import copied, derived, quick

LEFT, RIGHT = "left", "right"
HANDS = (LEFT, RIGHT)


@quick
@dataclass(frozen=True)
class HandNote:
    """One key under one hand: spelled pitch, MIDI number, what it is in the chord, finger (1 is the thumb), starred or not."""

    pitch: str
    midi: int
    member: str = ""
    finger: int | None = None
    optional: bool = False


@quick
@dataclass(frozen=True)
class Grip:
    """The keys that both hands hold or touch while one chord lasts, from the bottom up: a view of the notes in time, never a second truth.

    ``start`` and ``duration`` are beats. ``hint`` is the easy way to see it, ``caution`` what to mind; ``locked`` means that the creator set it.
    """

    start: Fraction
    duration: Fraction
    chord: Chord
    left: tuple[HandNote, ...]
    right: tuple[HandNote, ...]
    reach_left_mm: float = 0.0
    reach_right_mm: float = 0.0
    omits: tuple[str, ...] = ()
    why: str = ""
    hint: Saying | None = None
    caution: str = ""
    inversion: str = ""
    locked: bool = False

    def __post_init__(self) -> None:
        for hand in (self.left, self.right):
            if any(b.midi <= a.midi for a, b in zip(hand, hand[1:], strict=False)):
                raise ParameterError(f"notes of the {self.symbol} grip must ascend; got {[n.pitch for n in hand]}")

    @property
    def label(self) -> str:
        """Harte's text of its chord."""
        return self.chord.to_harte()

    @property
    def symbol(self) -> str:
        """Its chord as a player reads it."""
        return self.chord.to_symbol()

    @derived
    def end(self) -> Fraction:
        return self.start + self.duration

    @property
    def notes(self) -> tuple[HandNote, ...]:
        return (*self.left, *self.right)


@quick
@dataclass(frozen=True)
class PlayedNote:
    """A note in time: beats from the chart's first beat.

    ``rings`` notes are held on, by finger or pedal, until the chord changes, though they are written as long as they stand
    alone; ``voice`` 2 is a second line of the same hand; ``link`` notes join two chords; a grace note takes no time of its own; ``optional`` notes are
    starred; what ``crosses`` was asked to lie beyond the other hand; ``source`` is where it came from: "proposed" by Valley, or "written",
    "imported" or "played" by the creator; ``finger_set``: its finger is the creator's own.
    """

    hand: str
    start: Fraction
    duration: Fraction
    midi: int
    pitch: str
    melody: bool = False
    finger: int | None = None
    accent: bool = False
    rings: bool = False
    voice: int = 1
    link: bool = False
    grace: bool = False
    optional: bool = False
    source: str = "proposed"
    crosses: bool = False
    finger_set: bool = False

    @derived
    def end(self) -> Fraction:
        return self.start + self.duration

    def fingered(self, finger: int | None, *, by_hand: bool = False) -> PlayedNote:
        """The same note with a finger."""
        return copied(self, finger=finger, finger_set=by_hand or self.finger_set)


@dataclass(frozen=True)
class Link:
    """What joins two chords: a proposal until it is taken. ``easier`` are its notes in the easy form, ``words`` and ``easy_words`` say both."""

    kind: str
    start: Fraction
    duration: Fraction
    hand: str
    notes: tuple[PlayedNote, ...]
    words: Saying
    easier: tuple[PlayedNote, ...]
    easy_words: Saying
    taken: str = ""  # "" | "full" | "easier"


@quick
@dataclass(frozen=True)
class Pedal:
    """The pedal goes down at ``start`` and up at ``end``, in beats: just after the chord and with the next, or exactly there where it is ``written``."""

    start: Fraction
    end: Fraction
    written: bool = False


@dataclass(frozen=True)
class PartArrangement:
    """One part in one voicing style, level and pattern. ``notices`` are sentences about what could not be done as asked."""

    part: int
    style: str
    grips: tuple[Grip, ...]
    notes: tuple[PlayedNote, ...]
    level: str = "standard"
    pattern: str = "held"
    links: tuple[Link, ...] = ()
    pedals: tuple[Pedal, ...] = ()
    notices: tuple[str, ...] = ()


@dataclass(frozen=True)
class Arrangement:
    """The whole song, part by part in the order of the song."""

    style: str
    hand: str
    keyboard: str
    parts: tuple[PartArrangement, ...]
    level: str = "standard"
    frame: str = ""

    def of_part(self, number: int) -> PartArrangement:
        for part in self.parts:
            if part.part == number:
                return part
        raise ParameterError(f"part {number} is not in this arrangement; it holds parts {[p.part for p in self.parts]}")
