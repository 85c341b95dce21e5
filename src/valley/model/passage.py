"""A passage: what the creator wrote for one hand over a stretch of time. It stands over everything that Valley would propose there."""

from __future__ import annotations

from bisect import bisect_left
from dataclasses import dataclass
from itertools import pairwise

from valley.fraction import Fraction
from valley.model._rules import require, require_key, require_one_of, require_span
from valley.theory.pitch import parse_pitch
from valley.values import derived

LEVELS = ("easier", "standard", "fuller")
SOURCES = ("written", "imported", "played")
MOST_NOTES = 20_000  # of one passage; half an hour of one hand


@dataclass(frozen=True)
class WrittenNote:
    """A note of a passage: ``start`` in beats from where the passage begins; ``pitch`` as it is spelled, "" as key and chord have it.

    ``optional`` notes are starred; a grace takes no time of its own; ``rings`` notes are held on by finger or pedal; ``voice`` 2 is a second line
    of the same hand.
    """

    start: Fraction
    duration: Fraction
    midi: int
    pitch: str = ""
    finger: int | None = None
    optional: bool = False
    accent: bool = False
    grace: bool = False
    rings: bool = False
    voice: int = 1

    def __post_init__(self) -> None:
        require_span(self.start, self.duration)
        require_key(self.midi)
        require(self.finger is None or 1 <= self.finger <= 5, "finger", self.finger, "be 1 (thumb) to 5")
        require(1 <= self.voice <= 2, "voice", self.voice, "be 1 or 2; a hand plays two lines at most")
        require(not self.pitch or parse_pitch(self.pitch)[1] == self.midi, "pitch", self.pitch, f"sound as key {self.midi}")

    @derived
    def end(self) -> Fraction:
        return self.start + self.duration


@dataclass(frozen=True)
class Passage:
    """Notes of one hand from ``start`` on, in beats of the song, for ``duration`` beats; without notes the hand rests.

    ``times`` says in which occurrences of its part it holds besides its own: those with these numbers, or every one (None). In a repeat at another
    pitch it lies as far away as the repeat does. ``level`` is the one it was written for; at another it is thinned or added to, unless that has a passage of
    its own there.
    """

    hand: str
    start: Fraction
    duration: Fraction
    notes: tuple[WrittenNote, ...]
    times: tuple[int, ...] | None = ()
    source: str = "written"
    level: str = "standard"

    def __post_init__(self) -> None:
        require_one_of("hand", self.hand, ("left", "right"))
        require_span(self.start, self.duration)
        require_one_of("source", self.source, SOURCES)
        require_one_of("level", self.level, LEVELS)
        require(len(self.notes) <= MOST_NOTES, "notes", len(self.notes), f"be {MOST_NOTES} at most")
        require(self.times is None or all(t >= 1 for t in self.times), "times", self.times, "be numbers of parts")
        rows = [(n.start, n.voice, n.midi) for n in self.notes if not n.grace]
        require(len(set(rows)) == len(rows), "notes", len(rows), "strike a key once at a time")
        for note in self.notes:
            inside = note.start < self.duration and (note.grace or note.end <= self.duration)
            require(inside, "start", note.start, f"lie with its length of {note.duration} in the passage, which lasts {self.duration} beats")

    @derived
    def end(self) -> Fraction:
        return self.start + self.duration

    @derived
    def _starts(self) -> tuple[Fraction, ...]:
        """Where the notes begin; empty where they do not stand in that order."""
        starts = tuple(n.start for n in self.notes)
        return starts if all(a <= b for a, b in pairwise(starts)) else ()

    def between(self, start: Fraction, end: Fraction) -> tuple[WrittenNote, ...]:
        """The notes that begin from one beat of the passage on and before another; found at once however long it is."""
        if not self._starts:
            return tuple(n for n in self.notes if start <= n.start < end)
        return self.notes[bisect_left(self._starts, start) : bisect_left(self._starts, end)]
