"""The lesson: ordered steps to say and show. Their lines are data; ``phrases`` makes words of them."""

from __future__ import annotations

from dataclasses import dataclass, field
from typing import Literal

from valley.fraction import Fraction
from valley.model._rules import require, require_finite, require_one_of
from valley.model.saying import Saying, own_words
from valley.model.schools import Schools

Hands = Literal["left", "right", "both"]
STEP_HANDS = ("left", "right", "both")
SHORTEST_STEP, LONGEST_STEP = 1.0, 3600.0  # seconds of a step at a rehearsal: less is a page turned over, more was left standing


@dataclass(frozen=True)
class LineNote:
    """A note that a line speaks for: where it begins in beats, which hand plays it, its spelled pitch."""

    start: Fraction
    hand: str
    pitch: str


@dataclass(frozen=True)
class Line:
    """One line of a step: the sentences said in it, and what they speak of.

    ``kind`` is what sort of line it is ("tune", "grip", "left", "repeat", …), ``beat`` where its music begins, ``hands`` whose it is,
    ``notes`` what it speaks for. An ``item`` is one of several of its kind under a heading.
    """

    said: tuple[Saying, ...]
    kind: str = ""
    beat: Fraction | None = None
    hands: str = ""
    notes: tuple[LineNote, ...] = ()
    item: bool = False


OWN = "own"  # the kind of a line that nobody but the creator says


def own_line(text: str) -> Line:
    """A line in the creator's own words."""
    return Line((own_words(text),), kind=OWN)


@dataclass(frozen=True)
class Step:
    """One thing to say and show. ``lines`` are spoken in order; ``part`` is None where the whole song is meant.

    ``key`` tells a step from the others for good ("part-2/left"); ``start`` and ``end`` are the beats that are shown and played; ``hands`` which hand plays.
    ``edited`` lines are the creator's own; ``stale`` says that the music has changed since they were written; ``notes`` are then those for which the
    words under them spoke. ``rehearsed`` seconds were taken at a rehearsal, the others are reckoned.
    """

    title: Saying
    lines: tuple[Line, ...]
    part: int | None = None
    key: str = ""
    kind: str = ""
    start: Fraction | None = None
    end: Fraction | None = None
    hands: str = "both"
    speed: float = 1.0
    plays: int = 1
    speaking_seconds: float = 0.0
    playing_seconds: float = 0.0
    edited: bool = False
    stale: bool = False
    notes: tuple[LineNote, ...] = ()
    rehearsed: bool = False

    def __post_init__(self) -> None:
        require_one_of("hands", self.hands, STEP_HANDS)
        require(0 < self.speed <= 4, "speed", self.speed, "be a share of the tempo, more than 0 and at most 4")
        require_finite("seconds", self.seconds)

    @property
    def seconds(self) -> float:
        return self.speaking_seconds + self.playing_seconds


@dataclass(frozen=True)
class Lesson:
    title: str
    steps: tuple[Step, ...]
    schools: Schools = field(default_factory=Schools)

    @property
    def seconds(self) -> float:
        return sum(s.seconds for s in self.steps)


@dataclass(frozen=True)
class StepEdit:
    """What the creator did to a step: other words (written over ``over``, the generated ones), left out, or moved after another step.

    ``title`` and ``lines`` of a step that Valley did not make are the whole step; its ``over`` is empty.
    """

    key: str
    title: str = ""
    lines: tuple[str, ...] | None = None
    over: tuple[str, ...] = ()
    left_out: bool = False
    after: str | None = None
    added: bool = False

    def __post_init__(self) -> None:
        require(bool(self.key), "key", self.key, "name a step")
        says = self.lines is None or any(text.strip() for text in self.lines)
        require(says, "lines", self.lines, "say something: the step would say nothing; leave it out instead")


@dataclass(frozen=True)
class StepTime:
    """How long a step took at a rehearsal, and how long it was reckoned to take then, both in seconds: the time goes along when its words change."""

    key: str
    seconds: float
    reckoned: float

    def __post_init__(self) -> None:
        require(bool(self.key), "key", self.key, "name a step")
        require(SHORTEST_STEP <= self.seconds <= LONGEST_STEP, "seconds", self.seconds, f"be {SHORTEST_STEP:g} to {LONGEST_STEP:g} seconds for one step")
        require(0 <= self.reckoned <= 10 * LONGEST_STEP, "reckoned", self.reckoned, "be what the step was reckoned to take, in seconds")


@dataclass(frozen=True)
class Teaching:
    """How a song is taught: the schools followed, what the creator did to the steps, and how long they took at a rehearsal."""

    schools: Schools = field(default_factory=Schools)
    edits: tuple[StepEdit, ...] = ()
    times: tuple[StepTime, ...] = ()

    def __post_init__(self) -> None:
        for name, rows in (("edits", self.edits), ("times", self.times)):
            keys = [row.key for row in rows]
            require(len(set(keys)) == len(keys), name, keys, "name each step once")


LONGEST_THANKS = 120  # letters: four or five names


@dataclass(frozen=True)
class Settings:
    """What the song's lessons teach.

    ``order``: parts in the order to teach them, empty for all; ``minutes``: about how long one lesson may be, 0 for all in one;
    ``thanks``: who asked for the song, as they are to be thanked, empty for nobody.
    """

    order: tuple[int, ...] = ()
    minutes: float = 0.0
    thanks: str = ""

    def __post_init__(self) -> None:
        require(len(self.thanks) <= LONGEST_THANKS, "thanks", self.thanks[:40], f"have at most {LONGEST_THANKS} letters")
        require(len(set(self.order)) == len(self.order) and all(n >= 1 for n in self.order), "order", self.order, "name each part once")
        require(self.minutes == 0 or 2 <= self.minutes <= 600, "minutes", self.minutes, "be 0 for all in one, or 2 to 600")
