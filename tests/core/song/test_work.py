"""A song's state and what is made of it: parts that fit together, things made once, schools that reach the hands."""

from __future__ import annotations

from dataclasses import replace

import pytest
from hypothesis import HealthCheck, assume, given, settings

from tests.charts import C_MAJOR, chart_of
from tests.songs import random_songs
from valley.errors import ParameterError, ValleyError
from valley.fraction import Fraction as F
from valley.model.chart import Cue
from valley.model.choices import Choices, ChosenNote, GripChoice, PartChoice
from valley.model.lesson import Settings, StepEdit, Teaching
from valley.model.schools import Schools
from valley.song import SongState, Work

CHART = chart_of(["C", "F/A", "G7", "C"] * 2, parts=[(1, 4, None), (5, 4, 1)])
SONG = SongState(CHART, Choices(style="root-and-chord"))


@pytest.mark.parametrize(
    ("change", "words"),
    [
        ({"choices": Choices(parts=(PartChoice(3, style="octaves"),))}, "2 parts"),
        ({"settings": Settings(order=(1, 3))}, "name parts 1 to 2"),
        ({"choices": Choices(pattern="no such thing")}, "no such thing"),
        ({"choices": Choices(style="no such thing")}, "no such thing"),
    ],
    ids=["a part that is not there", "an order of parts that are not there", "an unknown pattern", "an unknown style"],
)
def test_a_state_whose_parts_do_not_fit_together_is_not_built(change: dict[str, object], words: str) -> None:
    with pytest.raises(ValleyError, match=words):
        replace(SONG, **change)  # type: ignore[arg-type]  # broken on purpose


@pytest.mark.parametrize(
    "broken",
    [
        lambda: SongState(CHART, Choices(level="hardest")),
        lambda: SongState(CHART, Choices(keyboard="12")),
        lambda: Choices(parts=(PartChoice(0),)),
        lambda: GripChoice(F(0), C_MAJOR, (), ()),
        lambda: GripChoice(F(-1), C_MAJOR, (ChosenNote(48),), ()),
        lambda: ChosenNote(200),
        lambda: ChosenNote(60, finger=9),
        lambda: Settings(minutes=1),
        lambda: Settings(order=(1, 1)),
        lambda: StepEdit(""),
        lambda: StepEdit("part-1/both", lines=("", " ")),
        lambda: Teaching(edits=(StepEdit("a", title="x"), StepEdit("a", title="y"))),
        lambda: Schools(naming="runes"),
        lambda: replace(CHART, chords=(replace(CHART.chords[0], duration=F(-4)),)),
        lambda: replace(CHART, cues=(Cue(F(3), "late"), Cue(F(1), "early"))),
        lambda: replace(CHART, parts=(replace(CHART.parts[1], kinship="zzz"),)),
    ],
)
def test_no_value_of_it_is_built_wrong(broken: object) -> None:
    with pytest.raises(ValleyError):
        broken()  # type: ignore[operator]


def test_what_is_costly_is_made_once() -> None:
    work = Work(SONG)
    assert work.arrangement is work.arrangement
    assert work.lesson is work.lesson
    assert work.generated is work.generated
    assert Work(SONG) != Work(SONG), "two works are never the same"


def test_the_school_of_the_bass_reaches_the_hands() -> None:
    def lowest(bass: str) -> str:
        song = replace(SONG, teaching=Teaching(Schools(bass=bass)))
        grip = next(g for g in Work(song).arrangement.parts[0].grips if g.start == 4)
        return grip.left[0].pitch[0]

    assert (lowest("slash"), lowest("root")) == ("A", "F")


def test_another_level_leaves_out_what_was_set_for_this_one() -> None:
    own = GripChoice(F(0), C_MAJOR, (ChosenNote(36),), (ChosenNote(60), ChosenNote(64), ChosenNote(67)))
    work = Work(replace(SONG, choices=replace(SONG.choices, grips=(own,))))
    assert work.arrangement.parts[0].grips[0].locked
    assert not work.arrange("easier").parts[0].grips[0].locked


def test_words_of_the_creator_are_laid_over_those_that_are_made() -> None:
    edit = StepEdit("part-1/left", lines=("Mine alone.",))
    work = Work(replace(SONG, teaching=Teaching(edits=(edit,))))
    step = next(s for s in work.lesson.steps if s.key == "part-1/left")
    made = next(s for s in work.generated.steps if s.key == "part-1/left")
    assert step.edited and not made.edited
    assert len(step.lines) == 1 and len(made.lines) > 1


def test_a_plan_says_which_parts_are_taught() -> None:
    work = Work(replace(SONG, settings=Settings(order=(2,))))
    assert {s.part for s in work.lesson.steps if s.part} <= {1, 2}
    with pytest.raises(ParameterError):
        replace(SONG, settings=Settings(order=(9,)))


@given(random_songs())
@settings(max_examples=25, suppress_health_check=list(HealthCheck))
def test_hands_and_lesson_follow_the_chart(song: SongState) -> None:
    """Grips stand on the chart's chords, notes inside their part, steps on its beats; what is made twice is made alike."""
    try:
        work = Work(song)
        arrangement = work.arrangement
    except ValleyError:
        assume(False)
    chords = {c.start: c for c in song.chart.chords}
    for part in arrangement.parts:
        start, end = song.chart.span(song.chart.parts[part.part - 1])
        for grip in part.grips:
            assert grip.chord == chords[grip.start].chord if grip.start in chords else start <= grip.start < end
            assert [n.midi for n in grip.left] == sorted(n.midi for n in grip.left)
            assert [n.midi for n in grip.right] == sorted(n.midi for n in grip.right)
        assert all(n.duration > 0 or n.grace for n in part.notes)
        assert all(start <= n.start < end for n in part.notes if not n.link)
    for step in work.lesson.steps:
        assert step.start is None or 0 <= step.start <= len(song.chart.grid.beats)
        assert step.seconds >= 0
    again = Work(song)
    assert again.arrangement == arrangement
    assert again.lesson == work.lesson
