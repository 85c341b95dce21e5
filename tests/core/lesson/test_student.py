"""A learner who does what the words say plays what is written: nothing missing, nothing wrong, nothing twice."""

from __future__ import annotations

import pytest
from bench.lessons import SCHOOLS, hold_against, make_song, work_of
from hypothesis import HealthCheck, assume, given, settings
from hypothesis import strategies as st

from tests.charts import chart_of, make_work, spoken
from tests.songs import random_songs
from valley.arranging.pattern_library import PATTERNS
from valley.arranging.styles import LEVELS, STYLES
from valley.errors import ValleyError
from valley.fraction import Fraction as F
from valley.lesson.student import Heard, compare_hands, read_lesson
from valley.lesson.student.keys import KeyNames
from valley.lesson.student.timing import read_count, read_distance, read_progression
from valley.model.choices import Choices
from valley.model.lesson import Teaching
from valley.model.passage import Passage, WrittenNote
from valley.model.schools import LENGTHS, Schools, read_schools
from valley.phrases import say_lesson
from valley.song import SongState, Work
from valley.theory.meter import Meter

BAR4 = chart_of(["C"]).grid


def heard(*lines: str, schools: Schools = Schools(), bars: int = 8) -> Heard:  # noqa: B008 - frozen
    grid = chart_of(["C"] * bars).grid
    return read_lesson([(f"Part 1: {'left' if lines[0].startswith('Left') else 'right'} hand", (f"Part 1: bars 1 to {bars}.", *lines))], grid, schools)


def keys(told: Heard, hand: str, bar: int) -> list[tuple[F | None, int]]:
    return [(when, key) for when, key, _ in told.played[hand][bar]]


# Each style with four of the patterns and each pattern with three of the styles; bench/lessons.py goes through all of them, in every school.
PAIRS = [(s, p) for i, s in enumerate(sorted(STYLES)) for j, p in enumerate(sorted(PATTERNS)) if (i + j) % 6 == 0]


@pytest.mark.parametrize(("style", "pattern"), PAIRS)
def test_every_style_and_every_pattern_are_told_exactly(style: str, pattern: str) -> None:
    seed = sorted(STYLES).index(style) * 31 + sorted(PATTERNS).index(pattern)
    schools = read_schools(SCHOOLS[seed % len(SCHOOLS)])
    try:
        work = work_of(make_song(seed), style, LEVELS[seed % 3], pattern, schools, links=seed % 4 == 0)
        wrong, _, doubts = hold_against(work)
    except ValleyError:
        return  # what no hand can play is refused, with words of its own
    assert (wrong, doubts) == (0, ())


@given(st.integers(0, 100_000), st.sampled_from(sorted(STYLES)), st.sampled_from(sorted(PATTERNS)), st.sampled_from(SCHOOLS))
@settings(max_examples=20, suppress_health_check=list(HealthCheck))
def test_songs_with_repeats_are_told_exactly(seed: int, style: str, pattern: str, school: str) -> None:
    try:
        wrong, _, doubts = hold_against(work_of(make_song(seed), style, LEVELS[seed % 3], pattern, read_schools(school), links=bool(seed % 2)))
    except ValleyError:
        assume(False)
    assert (wrong, doubts) == (0, ())


@given(random_songs(), st.sampled_from(LENGTHS))
@settings(max_examples=25, suppress_health_check=list(HealthCheck))
def test_whatever_a_creator_chose_is_told_exactly(song: SongState, length: str) -> None:
    """Own grips, patterns for a chord, passages for one time only, drops, endings."""
    try:
        work = Work(SongState(song.chart, song.choices, Teaching(read_schools(f"length={length}")), song.settings))
        lesson = say_lesson(work.generated)
    except ValleyError:
        assume(False)
    grid = song.chart.grid
    taught = song.settings.order or [p.number for p in song.chart.parts]
    told = read_lesson(lesson, grid, work.song.teaching.schools)
    assert (compare_hands(told, work.arrangement, grid, taught), told.doubts) == ((), ())


@given(random_songs())
@settings(max_examples=25, suppress_health_check=list(HealthCheck))
def test_every_note_is_spoken_for_by_a_line(song: SongState) -> None:
    try:
        work = Work(SongState(song.chart, song.choices))
        lines = [line for step in work.generated.steps for line in step.lines]
    except ValleyError:
        assume(False)
    played = {(n.start, n.hand, n.pitch) for p in work.arrangement.parts for n in p.notes}
    assert played <= {(n.start, n.hand, n.pitch) for line in lines for n in line.notes}


def test_an_ostinato_a_fill_and_one_note_the_first_time_only() -> None:
    """What is more than a grip is said, once, and where it is otherwise."""
    chart = chart_of(["Dm", "Dm", "Bb", "C"] * 2, key=("F", "major"), parts=[(1, 4, None), (5, 4, 1)])
    figure = [50, 57, 62, 57] * 2
    bar = tuple(WrittenNote(F(i, 2), F(1, 2), key) for i, key in enumerate(figure))
    fill = (*bar[:6], WrittenNote(F(3), F(1, 2), 60), WrittenNote(F(7, 2), F(1, 2), 58))
    passages = (Passage("left", F(0), F(4), bar, None), Passage("left", F(4), F(4), bar, None), Passage("left", F(8), F(4), fill))
    work = make_work(chart, Choices(style="block-and-melody", passages=passages))
    first = next(s for s in work.generated.steps if s.key == "part-1/left")
    assert "On each chord, in eighths, over and over: bottom, middle, top, middle." in spoken(first), spoken(first)
    again = next(s for s in work.generated.steps if s.key == "part-2/repeat")
    assert any("as in part 1, but for bar 7." in line for line in spoken(again))
    told = read_lesson(say_lesson(work.generated), chart.grid, Schools())
    assert compare_hands(told, work.arrangement, chart.grid, (1, 2)) == ()


def test_a_learner_does_what_is_said() -> None:
    told = heard(
        "Bar 1: C4 E4 on 1, G4 on 2 and.",
        "Bar 2, in eighths, twice: C4, D4, E4, F4.",
        "Bar 3: like bar 1, every key up a fifth.",
        "Bar 4: like bar 1, but F4 on 2 and.",
    )
    assert keys(told, "right", 1) == [(F(0), 60), (F(0), 64), (F(3, 2), 67)]
    assert [k for _, k in keys(told, "right", 2)] == [60, 62, 64, 65] * 2
    assert keys(told, "right", 3) == [(F(0), 67), (F(0), 71), (F(3, 2), 74)]
    assert keys(told, "right", 4)[-1] == (F(3, 2), 65)


def test_each_chord_is_played_with_the_grips_spelled_after_it() -> None:
    told = heard(
        "Left hand:",
        "The chords: C for a bar; then F and G, 2 beats each.",
        "On each chord, in quarters, over and over: bottom, top.",
        "C is C3 and G3.",
        "F is F2 and C3.",
        "G is G2 and D3.",
        bars=2,
    )
    assert keys(told, "left", 1) == [(F(0), 48), (F(1), 55), (F(2), 48), (F(3), 55)]
    assert keys(told, "left", 2) == [(F(0), 41), (F(1), 48), (F(2), 43), (F(3), 50)]


def test_what_differs_is_found() -> None:
    work = make_work(chart_of(["C", "F"], parts=[(1, 2, None)]), Choices(style="root-blocks"))
    lesson = [(title, tuple(line.replace("F is F3", "F is G3") for line in lines)) for title, lines in say_lesson(work.generated)]
    assert lesson != list(say_lesson(work.generated)), lesson
    [differs] = compare_hands(read_lesson(lesson, work.chart.grid, Schools()), work.arrangement, work.chart.grid, (1,))
    assert (differs.hand, differs.bar, differs.missing, differs.wrong) == ("left", 2, (53,), (55,))


@pytest.mark.parametrize(
    ("naming", "octaves", "text", "midi"),
    [
        ("letters", "c4", "Bb3", 58),
        ("letters", "c4", "C##-1", 2),
        ("letters", "c3", "B flat 3", 70),
        ("letters", "words", "low B flat", 58),
        ("german", "c4", "His3", 60),
        ("german", "c4", "Ases4", 67),
        ("german", "c4", "Es4", 63),
        ("german", "c4", "B3", 58),
        ("german", "c4", "H3", 59),
        ("syllables", "c4", "sol#4", 68),
        ("syllables", "words", "high mi double flat", 74),
    ],
)
def test_keys_are_read_in_every_school(naming: str, octaves: str, text: str, midi: int) -> None:
    assert KeyNames(naming, octaves).read(text) == midi


def test_counts_lengths_and_rows_are_read() -> None:
    assert read_count("4 a", Meter("4/4")) == F(15, 4)
    assert read_count("5 and", Meter("6/8")) == F(3, 2)
    assert read_distance("down", "an octave and a minor third") == -15
    assert read_progression("C and C7(b9,#11), a bar each; then no chord for 1 beat and a half", 1, F(4)) == [
        ("C", 4),
        ("C7(b9,#11)", 4),
        ("no chord", F(3, 2)),
    ]
    with pytest.raises(ValueError, match="does not understand"):
        read_progression("whatever", 1, F(4))
