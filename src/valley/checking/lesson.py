"""Checks of the lesson: parts that are never taught, words that went stale, words that the music contradicts."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Sequence

from valley.checking.finding import ERROR, WARNING, Finding
from valley.checking.told import check_told
from valley.lesson.proof import ProofReader
from valley.lesson.student import understands
from valley.model.arrangement import Arrangement
from valley.model.chart import Chart
from valley.model.lesson import OWN, Lesson, Step
from valley.phrases import Words
from valley.theory.naming import CONTRADICTS


def check_taught(chart: Chart, arrangement: Arrangement, lesson: Lesson) -> Iterator[Finding]:
    """Every part is taught, or left out on purpose."""
    taught = {s.part for s in lesson.steps if s.part is not None}
    for part in chart.parts:
        if part.number not in taught and part.same_as not in taught:
            yield Finding("taught", "lesson", WARNING, f"Part {part.number} is never taught.", part.number, part.start_bar, chart.span(part)[0])


def check_stale(chart: Chart, arrangement: Arrangement, lesson: Lesson) -> Iterator[Finding]:
    """Words that were written before the music changed."""
    words = Words(lesson.schools)
    for step in lesson.steps:
        if step.stale:
            sentence = f"“{words.title(step)}”: the music has changed since you wrote these words."
            yield Finding("stale", "lesson", WARNING, sentence, step.part, None, step.start, step.key)


def check_words(chart: Chart, arrangement: Arrangement, lesson: Lesson) -> Iterator[Finding]:
    """What the creator wrote agrees with what is played."""
    schools, words = lesson.schools, Words(lesson.schools)
    octaves = "c3" if schools.octaves == "c3" else "c4"
    reader = ProofReader(chart, arrangement, naming=schools.naming, octaves=octaves, language=schools.language)
    for step in lesson.steps:
        if not step.edited:
            continue
        prefix = f"Part {step.part}. " if step.part else ""
        lines = words.lines(step)
        said = prefix + "\n".join(lines)
        free = [*_free(prefix, step, lines, chart, lesson)]
        for claim in reader.read(said[: free[-1][1]]) if free else ():  # what comes later changes nothing before
            if claim.verdict == CONTRADICTS and any(a <= claim.start < b for a, b in free):
                right = f" – {claim.expected}" if claim.expected and not claim.message.endswith(claim.expected) else ""
                again = "" if claim.sure else " Listen to it again: this may be meant otherwise."
                sentence = f"“{words.title(step)}”: “{claim.text}”: {claim.message}{right}.{again}"
                yield Finding("words", "lesson", ERROR if claim.sure else WARNING, sentence, step.part, None, step.start, step.key)


def _free(prefix: str, step: Step, lines: Sequence[str], chart: Chart, lesson: Lesson) -> Iterator[tuple[int, int]]:
    """Where the creator's free words stand: neither what was left as Valley says it, nor what says in Valley's form just what to play (``check_told``)."""
    at = len(prefix)
    for line, text in zip(step.lines, lines, strict=True):
        if line.kind == OWN and not understands(text, chart.grid, lesson.schools):
            yield at, at + len(text)
        at += len(text) + 1


LessonCheck = Callable[[Chart, Arrangement, Lesson], Iterator[Finding]]
CHECKS: tuple[LessonCheck, ...] = (check_taught, check_stale, check_words, check_told)
