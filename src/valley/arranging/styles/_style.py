"""What a voicing style is: for one chord it proposes holds for each hand; the choice over the whole part is made elsewhere."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Mapping
from dataclasses import dataclass, field, replace

from valley.arranging.reach import Hand, widest_mm
from valley.model.saying import Saying
from valley.theory.chord import Chord
from valley.values import quick

EASIER, STANDARD, FULLER = LEVELS = ("easier", "standard", "fuller")
MOST_FINGERS = 5


@dataclass(frozen=True)
class Limits:
    """What hands, keyboard and camera frame allow; lowest and highest are MIDI numbers."""

    hand: Hand
    lowest: int
    highest: int

    def fits(self, notes: tuple[int, ...]) -> bool:
        return self.inside(notes) and self.reaches(notes)

    def inside(self, notes: tuple[int, ...]) -> bool:
        return not notes or (notes[0] >= self.lowest and notes[-1] <= self.highest)

    def reaches(self, notes: tuple[int, ...]) -> bool:
        return len(notes) < 2 or (len(notes) <= MOST_FINGERS and widest_mm(notes[-1] - notes[0]) <= self.hand.most_mm)


@quick
@dataclass(frozen=True)
class Moment:
    """A chord where it occurs. ``melody`` is the tune's note sounding at its start, ``ceiling`` the lowest note the tune touches
    while it lasts (the left hand stays below), ``played`` the keys that were heard struck there; ``edge``: the part begins or ends with it."""

    chord: Chord
    melody: int | None = None
    ceiling: int | None = None
    played: tuple[int, ...] = ()
    edge: bool = False


@quick
@dataclass(frozen=True)
class Hold:
    """Keys for one hand, ascending. ``cost`` is what the style holds against it; ``optional`` notes are starred; ``said`` tells of a
    substitution that was made for the hand."""

    notes: tuple[int, ...]
    cost: float = 0.0
    optional: tuple[int, ...] = ()
    said: str = ""


@quick
@dataclass(frozen=True)
class Shape:
    """Both hands together: MIDI numbers, ascending in each."""

    left: tuple[int, ...]
    right: tuple[int, ...]
    cost: float = 0.0
    optional: tuple[int, ...] = ()
    said: str = ""


Propose = Callable[[Moment, Limits, str], Iterable[Hold]]


def say_nothing(chord: Chord) -> Saying | None:
    return None


@dataclass(frozen=True)
class Style:
    """A voicing style.

    melody : "none" (the tune is not played), "line" (right hand alone) or "top" (over chord notes)
    companion : what goes along under every note of the tune: "", "third", "sixth" or "octave"
    repeated : the notes under the tune are struck again on every half beat
    turns : the lowest note may be another one than the chart's bass, as the summary says
    weights : by name, what counts otherwise than usual in the choice (``voicing.Weights``)
    says : a sentence about a chord in this style
    """

    name: str
    title: str
    summary: str
    melody: str
    left: Propose
    right: Propose
    companion: str = ""
    repeated: bool = False
    turns: bool = False
    weights: Mapping[str, float] = field(default_factory=dict)
    says: Callable[[Chord], Saying | None] = say_nothing

    def __hash__(self) -> int:
        return hash(self.name)


def pitches_of(pitch_class: int, low: int, high: int) -> range:
    """MIDI numbers of a pitch class within a range.

    >>> list(pitches_of(0, 48, 72))
    [48, 60, 72]
    """
    return range(low + (pitch_class - low) % 12, high + 1, 12)


_RANK = {4: 0, -3: 0, -1: 0, -2: 1, 5: 1, -9: 1, 3: 2, 2: 2, 0: 3, -6: 2, 8: 2, 1: 4}


def core_members(chord: Chord, most: int) -> list[int]:
    """Pitch classes to keep when only ``most`` notes are played: third and seventh before root, fifth last.

    >>> from valley.theory.chord import parse_harte
    >>> core_members(parse_harte("C:9"), 3)
    [4, 10, 2]
    """
    members = chord.quality.members
    rank = _RANK | {2: 0} if 2 in members and len(members) == 3 else _RANK
    kept = sorted(members, key=lambda i: rank.get(i, 3))[:most]
    return [chord.root.up(i).pitch_class for i in kept]


def colours(chord: Chord) -> list[int]:
    """Pitch classes of all members but the root, the telling ones first."""
    return [pc for pc in core_members(chord, 7) if pc != chord.root.pitch_class]


def fifth_of(chord: Chord) -> int | None:
    """The chord's fifth above its root, perfect or altered; None where it has none."""
    interval = next((i for i in chord.quality.members if i in (1, -6, 8)), None)
    return None if interval is None else chord.root.up(interval).pitch_class


def close_shapes(pitch_classes: Iterable[int], low: int, high: int) -> Iterable[tuple[int, ...]]:
    """Every close position (all notes within an octave) of a set of pitch classes whose notes lie in range.

    >>> list(close_shapes([0, 4, 7], 60, 72))
    [(60, 64, 67), (64, 67, 72)]
    """
    wanted = sorted(set(pitch_classes))
    for bottom_class in wanted:
        for bottom in pitches_of(bottom_class, low, high):
            notes = tuple(sorted(bottom + (pc - bottom) % 12 for pc in wanted))
            if notes[-1] <= high:
                yield notes


def roof_of(moment: Moment, usual: int) -> int:
    """The highest key the left hand may take under the tune."""
    return usual if moment.ceiling is None else min(usual, moment.ceiling - 1)


def ease(hold: Hold, limits: Limits, chord: Chord) -> Iterable[Hold]:
    """The hold itself where the hand spans it; else what players do instead, each with its sentence.

    In the order in which they are tried: drop a doubling, leave out the fifth, bring the top note down an octave, keep what is
    within reach of the lowest note.
    """
    if limits.reaches(hold.notes):
        yield hold
        return
    notes, classes = hold.notes, [n % 12 for n in hold.notes]
    doubled = next((n for n in reversed(notes) if classes.count(n % 12) > 1), None)
    if doubled is not None:
        fewer = tuple(n for n in notes if n != doubled)
        yield from ease(replace(hold, notes=fewer, cost=hold.cost + 0.5, said=_say(hold, "the doubling is dropped")), limits, chord)
        return
    if len(notes) > 1 and notes[-1] - notes[0] > 12:
        yield from ease(replace(hold, notes=notes[:-1], cost=hold.cost + 0.7, said=_say(hold, "the top note is left to the other hand")), limits, chord)
    lowered = tuple(sorted({*notes[:-1], notes[-1] - 12}))
    if lowered[0] == notes[0] and len(lowered) == len(notes):
        yield from ease(replace(hold, notes=lowered, cost=hold.cost + 1.8, said=_say(hold, "the top note comes down an octave")), limits, chord)
        return
    fifth = fifth_of(chord)
    if fifth in classes[1:]:
        kept = tuple(n for i, n in enumerate(notes) if i == 0 or n % 12 != fifth)
        yield from ease(replace(hold, notes=kept, cost=hold.cost + 0.7, said=_say(hold, "the fifth is left out")), limits, chord)
        return
    if len(notes) > 1:
        yield from ease(replace(hold, notes=notes[:-1], cost=hold.cost + 2.0, said=_say(hold, "the top note is left to the other hand")), limits, chord)


def _say(hold: Hold, words: str) -> str:
    return f"{hold.said}, {words}" if hold.said and words not in hold.said else words
