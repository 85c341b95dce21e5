"""A line of the lesson as data and as words: what it speaks for is played, and what it names it speaks for."""

from __future__ import annotations

import re
from collections.abc import Iterator

import pytest
from hypothesis import HealthCheck, assume, given, settings

from tests.charts import chart_of, make_work
from tests.songs import random_songs
from valley.arranging.styles import STYLES
from valley.errors import ValleyError
from valley.formats._codec import from_plain, to_plain
from valley.model.arrangement import LEFT, RIGHT
from valley.model.choices import Choices
from valley.model.lesson import Lesson, Line, Step
from valley.model.schools import Schools
from valley.phrases import Words
from valley.song import SongState, Work
from valley.theory.pitch import parse_pitch

PITCH = re.compile(r"\b([A-G](?:##|bb|#|b)?\d)\b(?!/)")
TUNE = [(i, 1, 72 + (i * 2) % 5) for i in range(16)]
CHART = chart_of(["C", "F/A", "G7", "C"] * 2, tune=TUNE, parts=[(1, 4, None), (5, 4, 1)])


def lines_of(lesson: Lesson) -> Iterator[tuple[Step, Line]]:
    for step in lesson.steps:
        for line in step.lines:
            yield step, line


@given(random_songs())
@settings(max_examples=30, suppress_health_check=list(HealthCheck))
def test_what_a_line_speaks_for_is_played(song: SongState) -> None:
    try:
        work = Work(song)
        parts = [p for a in (work.arrangement, work.plain) if a for p in a.parts]
        played = {(n.start, n.hand, n.midi) for p in parts for n in p.notes}
        held = {(g.start, hand, n.midi) for p in parts for g in p.grips for hand, notes in ((LEFT, g.left), (RIGHT, g.right)) for n in notes}
    except ValleyError:
        assume(False)
    keys = {m for _, _, m in played | held} | {n.midi for n in song.chart.melody}
    for step, line in lines_of(work.lesson):
        for note in line.notes:
            midi = parse_pitch(note.pitch)[1]
            assert note.hand in (LEFT, RIGHT)
            assert 0 <= note.start < len(song.chart.grid.beats)
            assert {midi, midi - 12, midi + 12} & keys, (step.key, line.kind, note)


@given(random_songs())
@settings(max_examples=30, suppress_health_check=list(HealthCheck))
def test_a_line_knows_its_place(song: SongState) -> None:
    try:
        lesson = Work(song).lesson
    except ValleyError:
        assume(False)
    for step, line in lines_of(lesson):
        assert line.said
        assert line.hands in ("", "left", "right", "both")
        if line.beat is not None:
            assert 0 <= line.beat <= len(song.chart.grid.beats)
        if line.item and line.beat is not None and step.part is not None and step.start is not None and step.end is not None:
            assert step.start <= line.beat < step.end


@given(random_songs())
@settings(max_examples=15, suppress_health_check=list(HealthCheck))
def test_a_lesson_is_the_same_after_it_was_written_down(song: SongState) -> None:
    try:
        lesson = Work(song).lesson
    except ValleyError:
        assume(False)
    again = from_plain(to_plain(lesson, Lesson), Lesson, "lesson")
    assert again == lesson
    words = Words(lesson.schools)
    assert [words.lines(s) for s in again.steps] == [words.lines(s) for s in lesson.steps]


@pytest.mark.parametrize("style", STYLES)
def test_pitches_in_the_words_of_a_grip_are_those_it_speaks_for(style: str) -> None:
    lesson = make_work(CHART, Choices(style=style)).lesson
    words = Words()
    seen = 0
    for _, line in lines_of(lesson):
        literal = line.kind == "bars" and "like bar" not in words.line(line)
        if not (line.kind == "grip" or literal) or not line.notes:
            continue
        seen += 1
        named = {parse_pitch(p)[1] for p in PITCH.findall(words.line(line))}
        spoken = {parse_pitch(n.pitch)[1] for n in line.notes}
        assert spoken <= named, (words.line(line), line.notes)
    assert seen


SCHOOLS = {
    "german": Schools(naming="german"),
    "syllables": Schools(naming="syllables"),
    "c3": Schools(octaves="c3"),
    "spoken": Schools(flats="spoken"),
    "words": Schools(inversions="words"),
    "simple": Schools(spelling="simple"),
}


@pytest.mark.parametrize("name", SCHOOLS)
def test_a_school_says_the_same_lines_in_other_words(name: str) -> None:
    def data(lesson: Lesson) -> list[object]:
        return [(s.key, [(x.kind, x.beat, x.notes) for x in s.lines]) for s in lesson.steps]

    plain = make_work(CHART, Choices(style="fifth-and-melody")).lesson
    other = make_work(CHART, Choices(style="fifth-and-melody"), schools=SCHOOLS[name]).lesson
    assert data(plain) == data(other)


def test_items_stand_under_a_heading() -> None:
    lesson = make_work(CHART, Choices(style="block-and-melody")).lesson
    for step in lesson.steps:
        if any(line.item for line in step.lines):
            first = next(i for i, line in enumerate(step.lines) if line.item)
            assert step.kind == "chords" or first > 0, step.key
