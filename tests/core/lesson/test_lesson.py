"""The lesson: moves in words, steps in order, nothing taught twice, nothing left out."""

import pytest
from hypothesis import given, settings

from tests.charts import C_MAJOR, all_words, chart_of, random_charts, spoken
from valley.arranging.arrange import arrange
from valley.fraction import Fraction as F
from valley.lesson.moves import describe_move
from valley.lesson.script import build_lesson
from valley.model.arrangement import Grip, HandNote
from valley.model.chart import Chart
from valley.model.choices import Choices
from valley.model.schools import Schools
from valley.phrases import Words, say_lesson
from valley.phrases.en import GRAMMAR


def grip(left: str, right: str) -> Grip:
    from valley.theory.pitch import parse_pitch

    def notes(text: str) -> tuple[HandNote, ...]:
        return tuple(HandNote(p, parse_pitch(p)[1]) for p in text.split())

    return Grip(F(0), F(4), C_MAJOR, notes(left), notes(right))


def test_moves_say_what_stays_and_how_far_the_rest_goes() -> None:
    words = describe_move(grip("E3", "A3 C4 E4"), grip("A3", "A3 C4 F4"))
    assert words == "Right hand: only E4 moves, up a half step to F4. Left hand: up a fourth to A3."


def test_moves_with_more_or_fewer_notes() -> None:
    assert describe_move(grip("C3", "C4 E4"), grip("C3", "C4 E4 G4")) == "Right hand: add G4. Left hand: stay."
    assert describe_move(grip("C3", "C4 E4"), grip("C3", "C4")) == "Right hand: keep only C4. Left hand: stay."
    assert describe_move(grip("", "C4"), grip("", "D4")) == "Right hand: up a whole step to D4."


def test_lists_and_distances_are_said_as_people_say_them() -> None:
    assert GRAMMAR.join([]) == ""
    assert GRAMMAR.join(["A"]) == "A"
    assert GRAMMAR.join(["A", "C", "E"]) == "A, C and E"
    assert GRAMMAR.distance(12) == "up an octave"
    assert GRAMMAR.distance(-9) == "down a major sixth"


def test_steps_follow_the_way_a_part_is_taught() -> None:
    chart = chart_of(["C", "F", "G", "C"] * 2, tune=[(0, 1, 72), (F(3, 2), F(1, 2), 74)], parts=[(1, 4, None), (5, 4, 1)])
    lesson = build_lesson(chart, arrange(chart, Choices(style="block-and-melody")))
    titles = [title for title, _ in say_lesson(lesson)]
    assert titles[:5] == ["What you will learn", "The chords", "Part 1: right hand", "Part 1: left hand", "Part 1: both hands"]
    assert titles[-1] == "All of it"
    right, left, both = (spoken(s) for s in lesson.steps[2:5])
    assert "Bar 1: C5 on 1, D5 on 2 and." in right and "The chords: C, F, G and C, a bar each." in right
    assert left[0] == "Hold each chord as it comes." and left[1].startswith("C is C3, E3 and G3")
    assert both == (
        "Both hands, slowly, counting aloud.",
        "Each chord falls together with a note of the tune, but in bars 2, 3 and 4: there it comes by itself.",
    )
    assert all(s.key and s.seconds > 0 for s in lesson.steps) and len({s.key for s in lesson.steps}) == len(lesson.steps)


def test_repeats_are_taught_by_their_differences_only() -> None:
    chart = chart_of(["C", "F", "G", "C", "C", "Dm", "G", "C", "C", "F", "G", "C"], parts=[(1, 4, None), (5, 4, 1), (9, 4, 1)])
    lesson = build_lesson(chart, arrange(chart))
    varied, same = (next(s for s in lesson.steps if s.part == n) for n in (2, 3))
    assert spoken(varied) == (
        "Part 2: bars 5 to 8.",
        "bar 6: Dm instead of F.",
        "Left hand: as in part 1, but for bar 6.",
        "Bar 6: D3 F3 A3 on 1.",
    )
    assert spoken(same) == ("Part 3, bars 9 to 12: part 1 again, note for note.",)
    assert "Play parts 1 and 2" in all_words(lesson)


def test_what_a_grip_leaves_out_is_said() -> None:
    chart = chart_of(["Cmaj9"], tune=[(0, 4, 64)])
    lesson = build_lesson(chart, arrange(chart, Choices(style="fifth-and-melody", level="easier", hand="small")))
    text = all_words(lesson)
    assert "Cmaj9 is played without its " in text


@given(random_charts())
@settings(max_examples=40)
def test_every_chord_is_taught(chart: Chart) -> None:
    arrangement = arrange(chart)
    lesson = build_lesson(chart, arrangement)
    text = all_words(lesson)
    for part in arrangement.parts:
        for g in part.grips:
            assert f"{g.symbol}" in text
            for note in (*g.left, *g.right):
                assert note.pitch in text


def test_a_repeat_whose_model_is_not_taught_goes_after_another_repeat_of_it() -> None:
    bars = ["C", "F", "G", "C"]
    chart = chart_of([*bars * 3], parts=[(1, 4, None), (5, 4, 1), (9, 4, 1)], tune=[(i, 1, 64 + i % 4) for i in range(48)])
    lesson = build_lesson(chart, arrange(chart), order=(2, 3))
    last = next(s for s in lesson.steps if s.part == 3)
    assert spoken(last) == ("Part 3, bars 9 to 12: part 2 again, note for note.",)
    alone = build_lesson(chart, arrange(chart), order=(3,))
    assert {s.kind for s in alone.steps if s.part == 3} == {"right", "left", "both"}


@pytest.mark.parametrize(("language", "words"), [("en", "Thanks to @fern for asking."), ("de", "Danke an @fern für den Wunsch.")])
@pytest.mark.parametrize("length", ["short", "usual"])
def test_who_asked_is_thanked_once_at_the_start(language: str, words: str, length: str) -> None:
    chart = chart_of(["C", "G", "Am", "F"])
    schools = Schools(language=language, length=length)
    lesson = build_lesson(chart, arrange(chart), schools=schools, thanks="@fern")
    said = [line for step in lesson.steps for line in Words(schools).lines(step)]
    assert [line for line in said if "@fern" in line] == [words]
    assert words in Words(schools).lines(lesson.steps[0])
    assert not [line for step in build_lesson(chart, arrange(chart), schools=schools).steps for line in step.lines if line.kind == "thanks"]
