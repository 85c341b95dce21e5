"""What a long run tells about itself: which stage, how far, what has been found so far."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

# Stages in order with their share of the whole time, measured on songs of one to four minutes.
STAGES: tuple[tuple[str, str, float], ...] = (
    ("decode", "Reading the recording", 0.1),
    ("glance", "Hearing how it begins", 0.14),
    ("tuning", "Finding the tuning", 0.04),
    ("spectrum", "Splitting the sound by pitch", 0.28),
    ("notes", "Listening to every note", 0.2),
    ("beats", "Following the beat", 0.07),
    ("bars", "Finding the bars", 0.05),
    ("chords", "Naming chords and key", 0.06),
    ("lines", "Following melody and bass", 0.04),
    ("sections", "Naming the parts", 0.02),
)


@dataclass(frozen=True)
class Progress:
    """``fraction`` is of the whole run, 0 to 1; ``found`` is one thing just learned, or empty."""

    stage: str
    words: str
    fraction: float
    found: str = ""


Listener = Callable[[Progress], None]


def ignore_progress(progress: Progress) -> None:
    """For callers who do not watch."""


class Reporter:
    """Turns "this stage, so far" into fractions of the whole."""

    def __init__(self, listener: Listener) -> None:
        self._listener = listener

    def tell(self, stage: str, share: float = 0.0, found: str = "") -> None:
        done = 0.0
        for name, words, weight in STAGES:
            if name == stage:
                self._listener(Progress(stage, words, min(1.0, done + weight * share), found))
                return
            done += weight
        raise KeyError(stage)
