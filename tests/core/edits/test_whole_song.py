"""What hangs on a song's parts and beats goes along when they change."""

from dataclasses import replace

from tests.charts import C_MAJOR, chart_of
from valley.edits import ChangeGrip, DoubleTempo, HalveTempo, MergePart, SetBarOne, SplitPart, apply_edit
from valley.fraction import Fraction as F
from valley.model.choices import Choices, ChordPattern, ChosenNote, GripChoice, LinkChoice, PartChoice
from valley.model.lesson import Settings, StepEdit, Teaching
from valley.song import SongState

GRIP = GripChoice(F(8), C_MAJOR, (ChosenNote(48),), (ChosenNote(64), ChosenNote(67)))
CHART = chart_of(["C", "F", "C", "G", "Am", "F"], parts=[(1, 2, None), (3, 2, 1), (5, 2, None)])
SONG = SongState(
    CHART,
    Choices(
        parts=(PartChoice(1, lead_in=True), PartChoice(3, style="shell", ending="rolled")),
        grips=(GRIP,),
        chord_patterns=(ChordPattern(F(8), "broken"),),
        taken_links=(LinkChoice(F(8), "walk"),),
    ),
    Teaching(edits=(StepEdit("part-3/left", lines=("Softly.",)), StepEdit("join/1-2-3", left_out=True), StepEdit("own-1", "x", ("y",), after="part-3/both"))),
    Settings((3, 1)),
)


def test_a_part_that_is_split_keeps_what_was_chosen_for_it_and_those_behind_keep_theirs() -> None:
    song, _ = apply_edit(SONG, SplitPart(2))
    assert [p.number for p in song.chart.parts] == [1, 2, 3, 4]
    assert song.choices.parts == (PartChoice(1, lead_in=True), PartChoice(4, style="shell", ending="rolled"))
    assert song.settings.order == (4, 1)
    assert [e.key for e in song.teaching.edits] == ["part-4/left", "join/1-3-4", "own-1"]
    assert song.teaching.edits[2].after == "part-4/both"


def test_both_halves_of_a_part_have_its_style_and_the_second_its_ending() -> None:
    song, _ = apply_edit(SONG, SplitPart(6))
    assert song.choices.parts[1:] == (PartChoice(3, style="shell"), PartChoice(4, style="shell", ending="rolled"))


def test_a_part_that_is_joined_gives_up_its_own() -> None:
    song, _ = apply_edit(SONG, MergePart(2))
    assert song.choices.parts == (PartChoice(1, lead_in=True), PartChoice(2, style="shell", ending="rolled"))
    assert song.settings.order == (2, 1)


def test_grips_patterns_and_links_lie_where_their_chords_lie_on_another_grid() -> None:
    twice, _ = apply_edit(SONG, DoubleTempo())
    assert [g.start for g in twice.choices.grips] == [c.start for c in twice.chart.chords if c.start == 16]
    assert (twice.choices.chord_patterns[0].start, twice.choices.taken_links[0].start) == (16, 16)
    back, _ = apply_edit(twice, HalveTempo())
    assert back.choices == SONG.choices
    moved, _ = apply_edit(SONG, SetBarOne(1))
    assert moved.choices.grips == SONG.choices.grips


def test_a_grip_is_changed_under_the_schools_of_the_lesson() -> None:
    """The hands that are changed are those that are shown: with the root kept in the bass where the lesson keeps it."""
    song = SongState(chart_of(["C/E", "F"]), Choices(style="root-and-chord", level="easier"))
    rooted = replace(song, teaching=Teaching(replace(song.teaching.schools, bass="root")))
    changed, _ = apply_edit(rooted, ChangeGrip(F(0), "star", hand="left", midi=48))
    assert changed.choices.grips[0].left[0].midi % 12 == 0
