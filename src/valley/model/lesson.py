"""The lesson: ordered steps to say and show."""

from __future__ import annotations

from dataclasses import dataclass


@dataclass(frozen=True)
class Step:
    """One thing to say. ``lines`` are spoken in order; ``part`` is None where the whole song is meant."""

    title: str
    lines: tuple[str, ...]
    part: int | None = None


@dataclass(frozen=True)
class Lesson:
    title: str
    steps: tuple[Step, ...]
