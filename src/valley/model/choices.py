"""What the creator chose for the hands. Nothing here is computed; everything that is not chosen has a default."""

from __future__ import annotations

import re
from dataclasses import dataclass
from itertools import pairwise, product

from valley.fraction import Fraction
from valley.model._rules import MaybeChord, require, require_ascending, require_key, require_one_of, require_span
from valley.model.passage import LEVELS, Passage
from valley.model.pattern import Pattern
from valley.theory.chord import Chord

BASSES, LINKS, ENDINGS, FORMS = ("slash", "root"), ("chosen", "all"), ("", "octaves", "rolled"), ("full", "easier")
TUNES = ("auto", "-2", "-1", "0", "1", "2")
HANDS = ("left", "right")
MOST_KEYS = 5  # of one hand


def require_place(start: Fraction) -> None:
    require(start >= 0, "start", start, "be 0 or later; beats are counted from the song's first")


@dataclass(frozen=True)
class ChosenNote:
    midi: int
    optional: bool = False
    finger: int | None = None

    def __post_init__(self) -> None:
        require_key(self.midi)
        require(self.finger is None or 1 <= self.finger <= 5, "finger", self.finger, "be 1 (thumb) to 5")


@dataclass(frozen=True)
class GripChoice:
    """A grip as the creator set it, for this chord, which begins at this beat."""

    start: Fraction
    chord: MaybeChord
    left: tuple[ChosenNote, ...]
    right: tuple[ChosenNote, ...]
    reason: str = ""

    def __post_init__(self) -> None:
        require_place(self.start)
        require(isinstance(self.chord, Chord), "chord", self.chord, "be a chord; a rest has no grip")
        for name, hand in (("left", self.left), ("right", self.right)):
            keys = [n.midi for n in hand]
            require(len(keys) <= MOST_KEYS and keys == sorted(set(keys)), name, keys, "be up to five keys from the bottom up")
        require(bool(self.left or self.right), "notes", "none", "be at least one; use no chord for a rest")


@dataclass(frozen=True)
class LinkChoice:
    """A link that is played, in full or the easier way."""

    start: Fraction
    kind: str
    form: str = "full"

    def __post_init__(self) -> None:
        require_place(self.start)
        require_one_of("form", self.form, FORMS)


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
    tune: str | None = None

    def __post_init__(self) -> None:
        require(self.part >= 1, "part", self.part, "be 1 or more")
        require_one_of("ending", self.ending, ENDINGS)
        if self.tune is not None:
            require_one_of("tune", self.tune, TUNES)


@dataclass(frozen=True)
class ChordPattern:
    """A pattern for one chord only."""

    start: Fraction
    pattern: str

    def __post_init__(self) -> None:
        require_place(self.start)


@dataclass(frozen=True)
class PedalMark:
    """Where the pedal goes down and comes up, in beats of the song, as a score or a player has it."""

    start: Fraction
    end: Fraction

    def __post_init__(self) -> None:
        require_span(self.start, self.end - self.start)


@dataclass(frozen=True)
class Meant:
    """A finding that the creator means as it is: its check, where it is, what it says (see ``gist_of``), and why."""

    check: str
    start: Fraction | None
    says: str
    reason: str = ""

    def __post_init__(self) -> None:
        if self.start is not None:
            require_place(self.start)
        require(bool(self.says), "says", self.says, "be what the finding says")

    @property
    def place(self) -> tuple[str, Fraction | None, str]:
        return self.check, self.start, self.says


def gist_of(sentence: str) -> str:
    """What a finding says without the numbers of bars and how often it comes, which change while it stays the same finding.

    >>> gist_of("Bar 5, G: both hands play D4 (and in 3 more places).")
    'bar, G: both hands play D4.'
    """
    return re.sub(r" \(and in \d+ more places?\)", "", re.sub(r"\b[Bb]ars? \d+(?:(?: to | and |–)\d+)?", "bar", sentence))


@dataclass(frozen=True)
class Choices:
    """The song's settings and every single decision.

    ``bass``: "slash" follows the bass of slash chords, "root" keeps the root. ``frame``: keys that the camera shows, such as
    "C2-C6". ``links``: which proposals are played: "chosen" ones only, or "all". ``tune``: by how many octaves the tune is moved from where the
    chart has it; "auto" leaves it there unless it lies where no right hand plays a tune. ``pedals`` are those of a score or a player; where there are
    none, the pedal changes with the chords.
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
    tune: str = "auto"
    parts: tuple[PartChoice, ...] = ()
    grips: tuple[GripChoice, ...] = ()
    taken_links: tuple[LinkChoice, ...] = ()
    chord_patterns: tuple[ChordPattern, ...] = ()
    patterns: tuple[Pattern, ...] = ()
    passages: tuple[Passage, ...] = ()
    meant: tuple[Meant, ...] = ()
    pedals: tuple[PedalMark, ...] = ()

    def __post_init__(self) -> None:
        require_one_of("bass", self.bass, BASSES)
        require_one_of("links", self.links, LINKS)
        require_one_of("tune", self.tune, TUNES)
        require_ascending("parts", (p.part for p in self.parts))
        require_ascending("grips", (g.start for g in self.grips))
        require_ascending("pedals", (p.start for p in self.pedals))
        for down, again in pairwise(self.pedals):
            require(down.end <= again.start, "start", again.start, f"be {down.end} or later, where the pedal comes up")
        require_ascending("chord patterns", (p.start for p in self.chord_patterns))
        links = [(k.start, k.kind) for k in self.taken_links]
        require(len(set(links)) == len(links), "taken_links", len(links), "name each link once")
        for hand, level in product(HANDS, LEVELS):
            mine = [p for p in self.passages if p.hand == hand and p.level == level]
            for before, after in pairwise(mine):
                require(before.end <= after.start, "start", after.start, f"be {before.end} or later, where the {hand} hand's passage before it ends")
        names = [p.name for p in self.patterns]
        require(len(set(names)) == len(names), "patterns", names, "have names of their own")

    def of_part(self, number: int) -> PartChoice:
        return next((p for p in self.parts if p.part == number), PartChoice(number))
