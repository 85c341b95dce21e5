"""The way of a song from request to published lesson: nine waymarks, and what has to be done to reach each."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Final

from valley.errors import ParameterError


@dataclass(frozen=True)
class Stage:
    """One waymark. ``deed`` is what leads to it, ``size`` what its work grows with, ``usual`` minutes for one unit of that size."""

    name: str
    deed: str
    size: str = "once"  # "once" | "bars" | "bars-to-learn"
    usual: float = 0.0


# The usual rates only stand in until a creator's own times are known.
WAY: Final = (
    Stage("asked", "note who asks for it"),
    Stage("chosen", "choose it, or leave it", usual=3.0),
    Stage("listened", "add a recording", usual=5.0),
    Stage("charted", "check the chart", "bars", 0.5),
    Stage("arranged", "settle the hands", "bars-to-learn", 1.5),
    Stage("scripted", "go through the script", "bars-to-learn", 1.2),
    Stage("filmed", "film it", "bars-to-learn", 3.0),
    Stage("published", "publish it", usual=30.0),
    Stage("corrected", "answer what viewers report", usual=15.0),
)
STAGES: Final = tuple(s.name for s in WAY)
ASKED, CHOSEN, LISTENED, CHARTED, ARRANGED, SCRIPTED, FILMED, PUBLISHED, CORRECTED = range(9)
# Sizes of a song that is not charted yet.
USUAL_SIZE: Final = {"once": 1.0, "bars": 56.0, "bars-to-learn": 24.0}


def stage_named(name: str) -> int:
    """The number of a stage, 0 to 8.

    Raises
    ------
    ParameterError
        there is no such stage

    >>> stage_named("filmed")
    6
    """
    if name not in STAGES:
        raise ParameterError(f"stage={name!r} must be one of {', '.join(STAGES)}")
    return STAGES.index(name)


def say_next(stage: int, *, doubts: int = 0, corrections: int = 0) -> str:
    """What to do next with a song that has reached ``stage``.

    >>> say_next(LISTENED, doubts=3)
    'check 3 places of the chart'
    >>> say_next(PUBLISHED)
    'out; nothing reported so far'
    """
    if corrections and stage >= PUBLISHED:
        return f"answer {corrections} correction{'s' if corrections > 1 else ''}"
    if stage == CORRECTED:
        return "done"
    if stage == PUBLISHED:
        return "out; nothing reported so far"
    if stage == LISTENED and doubts:
        return f"check {doubts} place{'s' if doubts > 1 else ''} of the chart"
    return WAY[stage + 1].deed


def size_of(stage: int, *, bars: int, bars_to_learn: int) -> float:
    """By how much the work towards a stage grows in this song; the usual size where it is not charted (0 bars)."""
    kind = WAY[stage].size
    known = {"once": 1, "bars": bars, "bars-to-learn": bars_to_learn}[kind]
    return float(known) if known else USUAL_SIZE[kind]
