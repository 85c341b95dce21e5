"""What every step needs: the music, the schools, and how places, notes and grips become lines."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from fractions import Fraction

from valley.model.arrangement import LEFT, RIGHT, Arrangement, Grip, HandNote, PlayedNote
from valley.model.chart import Chart
from valley.model.lesson import Line, LineNote
from valley.model.saying import Counts, Pitches, Saying, Several, Sound, Value, say
from valley.model.schools import Schools


@dataclass(frozen=True)
class Teacher:
    """The song as it is taught. ``patterns``: title and summary of each pattern by name."""

    chart: Chart
    arrangement: Arrangement
    schools: Schools
    patterns: dict[str, tuple[str, str]]

    def place(self, beat: Fraction) -> tuple[int, str]:
        """Bar and count of a beat; bar 0 is the pickup."""
        return self.chart.grid.place(beat)[0], self.chart.grid.count(beat)

    def at(self, phrase: str, beat: Fraction, **values: Value) -> Saying:
        """A saying with its bar and count; what stands before bar 1 says so."""
        bar, count = self.place(beat)
        if bar < 1:
            return say(f"{phrase} pickup", count=Counts((count,)), **values)
        return say(phrase, bar=bar, count=Counts((count,)), **values)


def pitches(notes: Sequence[HandNote | PlayedNote]) -> Pitches:
    """Keys from the bottom up, with stars."""
    starred = tuple(n.pitch for n in notes if isinstance(n, HandNote) and n.optional)
    return Pitches(tuple(n.pitch for n in notes), starred)


def grip_notes(grip: Grip, hands: Sequence[str] = (LEFT, RIGHT)) -> tuple[LineNote, ...]:
    """The notes that a line speaks for when it tells a grip."""
    rows = ((LEFT, grip.left), (RIGHT, grip.right))
    return tuple(LineNote(grip.start, hand, n.pitch) for hand, notes in rows if hand in hands for n in notes)


def tell_grip(t: Teacher, grip: Grip, *, with_right: bool = True) -> Saying:
    """The chord, its position, what it goes without, and each hand's keys."""
    hands = [say("left holds", notes=pitches(grip.left))] if grip.left else []
    hands += [say("right holds", notes=pitches(grip.right))] if grip.right and with_right else []
    placed = grip.inversion not in ("", "root position") and t.schools.inversions == "slash"
    values: dict[str, Value] = {"chord": Sound(grip.chord), "hands": Several(tuple(hands), "rows")}
    phrase = "grip"
    if placed:
        phrase, values["inversion"] = "grip placed", grip.inversion
    if grip.omits and with_right:
        phrase, values["omits"] = f"{phrase} without", Several(tuple(say("own", text=o) for o in grip.omits), "list")
    return say(phrase, **values)


def line(*said: Saying, kind: str = "", beat: Fraction | None = None, hands: str = "", notes: Sequence[LineNote] = (), item: bool = False) -> Line:
    return Line(said, kind, beat, hands, tuple(notes), item)
