"""The lesson: ordered steps to say and show."""

from __future__ import annotations

from dataclasses import dataclass, field
from fractions import Fraction

from valley.model.schools import Schools


@dataclass(frozen=True)
class Step:
    """One thing to say and show. ``lines`` are spoken in order; ``part`` is None where the whole song is meant.

    ``key`` tells a step from the others for good ("part-2/left"); ``start`` and ``end`` are the beats that are shown and played; ``hands`` which hand plays.
    ``edited`` lines are the creator's own; ``stale`` says that the music has changed since they were written.
    """

    title: str
    lines: tuple[str, ...]
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


@dataclass(frozen=True)
class Teaching:
    """How a song is taught: the schools followed, and what the creator did to the steps."""

    schools: Schools = field(default_factory=Schools)
    edits: tuple[StepEdit, ...] = ()


@dataclass(frozen=True)
class Finding:
    """What a check found: where, how grave, in a sentence, and how to mend it where one way is sure.

    ``severity``: "error" (wrong), "warning" (likely wrong or hard), "note". ``mend`` is the name of a mend and what it needs, as data.
    """

    check: str
    severity: str
    sentence: str
    part: int | None = None
    bar: int | None = None
    start: Fraction | None = None
    step: str = ""
    mend: str = ""
    mend_words: str = ""
