"""What lessons say of any music is true of it: every distance, every note, every count, held against it by other means than made it."""

import re
from fractions import Fraction as F

import pytest
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from tests.charts import C_MAJOR, random_charts, spoken
from valley.arranging.arrange import arrange
from valley.arranging.styles import LEVELS, STYLES
from valley.errors import ValleyError
from valley.formats.captions import dump_chapters, dump_srt, dump_vtt, list_step_times
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
MOVE = re.compile(r"([A-G](?:#{1,2}|b{1,2})?\d) goes (up|down) (?:(an?) ([a-z ]+?)|(\d+) semitones) to ([A-G](?:#{1,2}|b{1,2})?\d)")
INTERVALS = {  # name: (semitones, letters)
    "semitone": (1, None),
    "tone": (2, None),
    "minor third": (3, 2),
    "major third": (4, 2),
    "fourth": (5, 3),
    "tritone": (6, None),
    "fifth": (7, 4),
    "octave": (12, 7),
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


def check_moves(text: str) -> int:
    """Every "X goes up a third to Y" is that far by keys and by letters."""
    count = 0
    for one, way, _, name, number, other in MOVE.findall(text):
        (_, a), (_, b) = parse_pitch(one), parse_pitch(other)
        assert (b > a) == (way == "up"), text
        letters = abs(7 * int(one[-1]) + "CDEFGAB".index(one[0]) - 7 * int(other[-1]) - "CDEFGAB".index(other[0]))
        if name:
            size, apart = INTERVALS[name]
            assert abs(b - a) == size, f"{one} to {other} is not a {name}"
            assert apart in (None, letters), f"{one} to {other} is not spelled as a {name}"
        else:
            assert abs(b - a) == int(number)
        count += 1
    return count


@slow
@given(charts)
def test_every_move_in_a_lesson_is_as_far_as_it_is_said(asked: tuple[Chart, str, str]) -> None:
    if found := made(asked):
        for step in found[2].steps:
            for line in spoken(step):
                check_moves(line)


keys = st.lists(st.integers(36, 60), min_size=1, max_size=4, unique=True).map(sorted)


@given(keys, keys, st.integers(0, 11), st.sampled_from(["major", "minor"]))
def test_moves_between_any_two_grips_are_true(before: list[int], after: list[int], tonic: int, mode: str) -> None:
    key = Key.from_pitch_class(tonic, mode)

    def grip(midi: list[int]) -> Grip:
        return Grip(F(0), F(4), C_MAJOR, tuple(HandNote(key.spell(m % 12).at(m), m) for m in midi), ())

    words = describe_move(grip(before), grip(after))
    assert words.count("goes") == check_moves(words)
    stay = set(before) & set(after)
    for midi in stay:
        assert key.spell(midi % 12).at(midi) in words or words == "Left hand: stay."
    for midi in set(after) - stay:
        assert key.spell(midi % 12).at(midi) in words


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


@pytest.mark.parametrize(("one", "other", "said"), [("Ab3", "B3", "up 3 semitones"), ("G#3", "B3", "up a minor third"), ("B3", "Eb4", "up 4 semitones")])
def test_an_augmented_second_is_not_called_a_third(one: str, other: str, said: str) -> None:
    def grip(text: str) -> Grip:
        return Grip(F(0), F(4), C_MAJOR, (HandNote(text, parse_pitch(text)[1]),), ())

    assert f"{one} goes {said} to {other}" in describe_move(grip(one), grip(other))
