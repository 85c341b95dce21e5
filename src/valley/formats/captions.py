"""Captions timed to the steps of a lesson (WebVTT, SRT), and the list of chapters for a video."""

from __future__ import annotations

from collections.abc import Iterator

from valley.model.lesson import Lesson, Step
from valley.phrases import Words

_LONGEST = 42 * 2  # letters of a caption: two lines of 42
_PAUSE = 0.4  # seconds between steps
_LEAST = 0.6  # seconds that a caption is held


def _cues(lesson: Lesson) -> Iterator[tuple[float, float, str]]:
    """Start, end and text of every caption; a step's lines share its speaking time by their length."""
    now, words = 0.0, Words(lesson.schools)
    for step in lesson.steps:
        begins = now
        for piece, length in _lengths(words, step):
            yield now, now + length, piece
            now += length
        now = _end(begins, now, step)


def _lengths(words: Words, step: Step) -> list[tuple[str, float]]:
    """A step's captions and how long each is read; at a rehearsal's pace none is held longer than there was time for."""
    pieces = _pieces(words, step)
    letters = sum(len(p) for p in pieces) or 1
    least = min(_LEAST, step.speaking_seconds / max(1, len(pieces))) if step.rehearsed else _LEAST
    shares = [max(least, step.speaking_seconds * len(p) / letters) for p in pieces]
    fit = step.speaking_seconds / (sum(shares) or 1.0) if step.rehearsed else 1.0
    return [(p, share * fit) for p, share in zip(pieces, shares, strict=True)]


def _end(begins: float, spoken: float, step: Step) -> float:
    """When the next step begins: after the playing and a breath; a rehearsal's time has its breath in it."""
    return begins + step.seconds if step.rehearsed else spoken + step.playing_seconds + _PAUSE


def _pieces(words: Words, step: Step) -> list[str]:
    """A step's title and lines, cut to captions."""
    return [piece for text in (words.title(step), *words.lines(step)) for piece in _split(text.strip())]


def _split(text: str) -> list[str]:
    """A sentence cut where words part, no longer than a caption."""
    rows, row = [], ""
    for word in text.split():
        if row and len(row) + 1 + len(word) > _LONGEST:
            rows.append(row)
            row = word
        else:
            row = f"{row} {word}".strip()
    return [*rows, row] if row else rows


def _clock(seconds: float, comma: str) -> str:
    whole = round(seconds * 1000)
    return f"{whole // 3600000:02d}:{whole // 60000 % 60:02d}:{whole // 1000 % 60:02d}{comma}{whole % 1000:03d}"


def dump_vtt(lesson: Lesson) -> str:
    """WebVTT."""
    rows = ["WEBVTT", ""]
    for number, (start, end, text) in enumerate(_cues(lesson), 1):
        clean = text.replace("&", "&amp;").replace("<", "&lt;").replace("-->", "→")
        rows += [str(number), f"{_clock(start, '.')} --> {_clock(end, '.')}", clean, ""]
    return "\n".join(rows)


def dump_srt(lesson: Lesson) -> str:
    """SubRip."""
    rows = []
    for number, (start, end, text) in enumerate(_cues(lesson), 1):
        rows += [str(number), f"{_clock(start, ',')} --> {_clock(end, ',')}", text.replace("-->", "→"), ""]
    return "\n".join(rows)


def list_step_times(lesson: Lesson) -> tuple[float, ...]:
    """Seconds at which each step begins in a film of the lesson.

    >>> list_step_times(Lesson("Empty", ()))
    ()
    """
    times, now, words = [], 0.0, Words(lesson.schools)
    for step in lesson.steps:
        times.append(now)
        now = _end(now, now + sum(length for _, length in _lengths(words, step)), step)
    return tuple(times)


def dump_chapters(lesson: Lesson) -> str:
    """One line a step: its time, and its title; the first at 0:00."""
    rows, words = [], Words(lesson.schools)
    for step, start in zip(lesson.steps, list_step_times(lesson), strict=True):
        minutes, seconds = divmod(int(start), 60)
        rows.append(f"{minutes}:{seconds:02d} {words.title(step)}")
    return "\n".join(rows) + "\n"
