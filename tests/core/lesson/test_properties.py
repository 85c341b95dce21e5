"""What lessons say of any music is true of it: every distance, every note, every count, held against it by other means than made it."""

import re

import pytest
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from tests.charts import C_MAJOR, random_charts, spoken
from valley.arranging.arrange import arrange
from valley.arranging.styles import LEVELS, STYLES
from valley.errors import ValleyError
from valley.formats.captions import dump_chapters, dump_srt, dump_vtt, list_step_times
from valley.fraction import Fraction as F
from valley.lesson.moves import describe_move
from valley.lesson.proof import read_proof
from valley.lesson.script import build_lesson
from valley.model.arrangement import Arrangement, Grip, HandNote
from valley.model.chart import Chart
from valley.model.choices import Choices
from valley.model.lesson import Lesson
from valley.theory.key import Key
from valley.theory.naming import CONTRADICTS
from valley.theory.pitch import parse_pitch

slow = settings(max_examples=30, suppress_health_check=[HealthCheck.too_slow, HealthCheck.filter_too_much])
PITCH = r"[A-G](?:#{1,2}|b{1,2})?-?\d"
SIZES = {  # name: (half steps, letters)
    "half step": (1, None),
    "whole step": (2, None),
    "minor third": (3, 2),
    "major third": (4, 2),
    "fourth": (5, 3),
    "tritone": (6, None),
    "fifth": (7, 4),
    "minor sixth": (8, 5),
    "major sixth": (9, 5),
    "minor seventh": (10, 6),
    "major seventh": (11, 6),
    "octave": (12, 7),
    "two octaves": (24, 14),
}


def lesson_of(chart: Chart, style: str, level: str) -> tuple[Arrangement, Lesson]:
    arrangement = arrange(chart, Choices(style=style, level=level))
    return arrangement, build_lesson(chart, arrangement)


charts = st.tuples(random_charts(), st.sampled_from(sorted(STYLES)), st.sampled_from(LEVELS))


def made(asked: tuple[Chart, str, str]) -> tuple[Chart, Arrangement, Lesson] | None:
    try:
        return asked[0], *lesson_of(*asked)
    except ValleyError:
        return None  # what no hand can play is refused, with words of its own


def half_steps(way: str, size: str) -> int:
    total = sum(SIZES[re.sub("^an? ", "", word)][0] for word in size.split(" and "))
    return total if way == "up" else -total


def place(pitch: str) -> int:
    """Letters from C0."""
    return 7 * int(re.sub("[^-0-9]", "", pitch)) + "CDEFGAB".index(pitch[0])


def carry_out(words: str, before: list[str]) -> tuple[list[int] | None, set[int]]:
    """Where the keys lie after a move as it is told, None where only some of them are spoken of; and keys that are said to be down before and after."""
    midi = [parse_pitch(p)[1] for p in before]
    named = [parse_pitch(p)[1] for p in re.findall(PITCH, words)]
    if words == "stay":
        return midi, set(midi)
    if m := re.fullmatch(rf"only ({PITCH}) moves,(?: (up|down) (.+))? to ({PITCH})", words):
        if m[2]:
            assert named[1] - named[0] == half_steps(m[2], m[3]), words
        return sorted({*midi} - {named[0]} | {named[1]}), {*midi} - {named[0]}
    if words.startswith("add "):
        return sorted({*midi, *named}), set(midi)
    if words.startswith(("keep ", "the thumb stays on ")):
        return (sorted(named) if words.startswith("keep only ") else None), set(named)
    if m := re.fullmatch(r"the same shape, (up|down) (.+)", words):
        return [k + half_steps(m[1], m[2]) for k in midi], set()
    if words.startswith("the same shape on "):
        return [k + named[0] - midi[0] for k in midi], set()
    if m := re.fullmatch(rf"(?:(up|down) (.+) )?to ({PITCH})", words):
        if m[1]:
            assert named[0] - midi[0] == half_steps(m[1], m[2]), words
        return named, set()
    assert words.startswith(("a new place, ", "each finger a step ")), words
    return (sorted(named) if named else None), set()


keys = st.lists(st.integers(36, 60), min_size=1, max_size=4, unique=True).map(sorted)


@given(keys, keys, st.integers(0, 11), st.sampled_from(["major", "minor"]))
def test_moves_between_any_two_grips_are_true(before: list[int], after: list[int], tonic: int, mode: str) -> None:
    key = Key.from_pitch_class(tonic, mode)

    def grip(midi: list[int]) -> Grip:
        return Grip(F(0), F(4), C_MAJOR, tuple(HandNote(key.spell(m % 12).at(m), m) for m in midi), ())

    words = describe_move(grip(before), grip(after)).removeprefix("Left hand: ").removesuffix(".")
    assert "semitone" not in words and "half steps" not in words
    names = [n.pitch for n in grip(before).left]
    reached, stay = carry_out(words, names)
    assert reached is None or reached == after, words
    assert stay <= set(before) & set(after), words
    if words.startswith("each finger"):
        step = 1 if words.endswith("up") else -1
        assert [place(n.pitch) - place(m) for n, m in zip(grip(after).left, names, strict=True)] == [step] * len(after)


def test_a_key_that_goes_to_the_other_hand_is_not_said_to_stay() -> None:
    def hand(*names: str) -> tuple[HandNote, ...]:
        return tuple(HandNote(n, parse_pitch(n)[1]) for n in names)

    before, after = Grip(F(0), F(4), C_MAJOR, hand("C3", "G3"), hand("E4", "C5")), Grip(F(4), F(4), C_MAJOR, hand("C3"), hand("G3", "C5"))
    assert describe_move(before, after) == "Right hand: only E4 moves, down a major sixth to G3. Left hand: keep only C3. The right hand takes over G3."


@slow
@given(charts)
def test_the_proof_reader_never_contradicts_what_valley_says_itself(asked: tuple[Chart, str, str]) -> None:
    if found := made(asked):
        chart, arrangement, lesson = found
        for step in lesson.steps:
            for line in spoken(step):
                claims = read_proof(f"Part {step.part or 1}. {line}", chart, arrangement)
                wrong = [c for c in claims if c.verdict == CONTRADICTS and c.kind in ("chord", "hand")]
                assert wrong == [], (line, wrong)


@slow
@given(charts)
def test_no_step_names_a_note_that_nobody_plays(asked: tuple[Chart, str, str]) -> None:
    """Pitches with octaves in the lesson of parts are those of grips, tune or links; middle C alone is a landmark."""
    if found := made(asked):
        chart, arrangement, lesson = found
        played = {n.midi for p in arrangement.parts for n in p.notes} | {n.midi for p in arrangement.parts for g in p.grips for n in g.notes}
        played |= {n.midi for n in chart.melody} | {n.midi for p in arrangement.parts for k in p.links for n in (*k.notes, *k.easier)}
        shifted = {m + 12 * k for m in played for k in (-1, 0, 1)}  # the tune may be taught an octave from where it was sung; bigger endings double
        for step in lesson.steps:
            if step.kind in ("opening", "variations"):
                continue
            for line in spoken(step):
                for text in re.findall(r"\b[A-G](?:#{1,2}|b{1,2})?\d\b(?! (?:beat|bar|time))", line):
                    if any(g.symbol.startswith(text) for p in arrangement.parts for g in p.grips):
                        continue  # C7 is a chord there
                    assert parse_pitch(text)[1] in shifted, (line, text)


@slow
@given(charts)
def test_captions_follow_one_another_and_end_with_the_lesson(asked: tuple[Chart, str, str]) -> None:
    if found := made(asked):
        lesson = found[2]
        times = [
            tuple(sum(float(x) * 60**k for k, x in enumerate(reversed(t.split(":")))) for t in row.split(" --> "))
            for row in dump_vtt(lesson).splitlines()
            if "-->" in row
        ]
        assert times
        assert all(a < b for a, b in times)
        assert all(b <= c + 0.002 for (_, b), (c, _) in zip(times, times[1:], strict=False))
        starts = list_step_times(lesson)
        assert starts[0] == 0
        assert list(starts) == sorted(starts)
        assert len(dump_chapters(lesson).splitlines()) == len(lesson.steps) == len(starts)
        assert dump_srt(lesson).count("-->") == len(times)
        assert times[-1][1] >= starts[-1]


@pytest.mark.parametrize(("one", "other", "said"), [("Ab3", "B3", "to B3."), ("G#3", "B3", "up a minor third to B3."), ("B3", "Eb4", "to Eb4.")])
def test_an_augmented_second_is_not_called_a_third(one: str, other: str, said: str) -> None:
    def grip(text: str) -> Grip:
        return Grip(F(0), F(4), C_MAJOR, (HandNote(text, parse_pitch(text)[1]),), ())

    assert describe_move(grip(one), grip(other)) == f"Left hand: {said}"
