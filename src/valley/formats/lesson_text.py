"""The lesson as plain text, to read aloud or print."""

from __future__ import annotations

from pathlib import Path

from valley.formats._codec import save_bytes
from valley.model.lesson import Lesson
from valley.phrases import Words


def dump_lesson_text(lesson: Lesson) -> str:
    """Numbered steps, each with its lines."""
    blocks = [f"{lesson.title}\n{'=' * max(4, len(lesson.title))}"]
    words = Words(lesson.schools)
    for number, step in enumerate(lesson.steps, 1):
        lines = [f"  {text}" if line.item else text for line, text in zip(step.lines, words.lines(step), strict=True)]
        blocks.append("\n".join([f"{number}. {words.title(step)}", *lines]))
    return "\n\n".join(blocks) + "\n"


def save_lesson_text(lesson: Lesson, path: str | Path) -> None:
    save_bytes(dump_lesson_text(lesson).encode(), path)
