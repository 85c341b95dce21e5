"""The lesson as plain text, to read aloud or print."""

from __future__ import annotations

from pathlib import Path

from valley.formats._codec import save_bytes
from valley.model.lesson import Lesson


def dump_lesson_text(lesson: Lesson) -> str:
    """Numbered steps, each with its lines."""
    blocks = [f"{lesson.title}\n{'=' * max(4, len(lesson.title))}"]
    for number, step in enumerate(lesson.steps, 1):
        blocks.append("\n".join([f"{number}. {step.title}", *step.lines]))
    return "\n\n".join(blocks) + "\n"


def save_lesson_text(lesson: Lesson, path: str | Path) -> None:
    save_bytes(dump_lesson_text(lesson).encode(), path)
