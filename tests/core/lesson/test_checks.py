"""Checks: a clean song has no errors, and every kind of planted fault is found where it is."""

from dataclasses import replace

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.charts import C_MAJOR, chart_of, findings_of, make_work, random_charts, spoken
from valley.arranging.arrange import arrange
from valley.arranging.styles import STYLES
from valley.checking import Finding, Mend, Room, check_all, check_song
from valley.edits import ChangeGrip, DeclareRepeats, SetChord
from valley.fraction import Fraction as F
from valley.model.arrangement import Arrangement, Grip, HandNote, PlayedNote
from valley.model.chart import Chart
from valley.model.choices import Choices, ChosenNote, GripChoice
from valley.model.lesson import StepEdit

ROOM = Room(175, 198, (21, 108), (21, 108))


def named(found: tuple[Finding, ...], check: str) -> list[Finding]:
    return [f for f in found if f.check == check]


@pytest.mark.parametrize("style", STYLES)
@given(chart=random_charts(), level=st.sampled_from(("easier", "standard", "fuller")))
@settings(max_examples=15)
def test_what_valley_makes_has_no_errors(style: str, chart: Chart, level: str) -> None:
    found = findings_of(chart, Choices(style=style, level=level))
    assert [f for f in found if f.severity == "error"] == []


def with_grip(arrangement: Arrangement, index: int, grip: Grip) -> Arrangement:
    part = arrangement.parts[0]
    grips = tuple(grip if i == index else g for i, g in enumerate(part.grips))
    return replace(arrangement, parts=(replace(part, grips=grips), *arrangement.parts[1:]))


def test_a_grip_that_is_not_its_chord() -> None:
    chart = chart_of(["C", "F"])
    arrangement = arrange(chart, Choices(style="root-and-chord"))
    wrong = replace(arrangement.parts[0].grips[0], right=(HandNote("C4", 60), HandNote("Eb4", 63), HandNote("G4", 67)), locked=True)
    found = named(check_all(chart, with_grip(arrangement, 0, wrong), room=ROOM), "name")
    assert (
        found[0].severity == "error"
        and found[0].bar == 1
        and "Eb is added" in found[0].sentence
        and found[0].mend == Mend(ChangeGrip(F(0), "release"), "take Valley's grip")
    )


def test_names_that_do_not_fit_their_key() -> None:
    chart = chart_of(["C"])
    arrangement = arrange(chart, Choices(style="root-and-chord"))
    grip = arrangement.parts[0].grips[0]
    grip = replace(grip, right=(HandNote("C4", 60), HandNote("E4", 64), HandNote("G4", 67)))
    octave = replace(grip, right=tuple(replace(n, pitch=n.pitch.replace("4", "5")) if n.midi == 64 else n for n in grip.right))
    assert "is the wrong name for key 64, which is E4" in named(check_all(chart, with_grip(arrangement, 0, octave), room=ROOM), "pitch")[0].sentence
    mixed = replace(grip, right=(HandNote("C4", 60), HandNote("Fb4", 64), HandNote("G4", 67)))
    assert "Fb4 is written E4" in named(check_all(chart, with_grip(arrangement, 0, mixed), room=ROOM), "spelling")[0].sentence


def test_reach_collision_keyboard_and_frame() -> None:
    chart = chart_of(["C"])
    arrangement = arrange(chart, Choices(style="root-and-chord"))
    grip = arrangement.parts[0].grips[0]
    wide = replace(grip, reach_left_mm=240.0)
    assert named(check_all(chart, with_grip(arrangement, 0, wide), room=ROOM), "reach")[0].severity == "error"
    stretched = replace(grip, reach_left_mm=187.0)
    assert named(check_all(chart, with_grip(arrangement, 0, stretched), room=ROOM), "stretch")[0].severity == "warning"
    for left, words in ((67, "stands above"), (64, "both hands play E4")):
        crossed = GripChoice(F(0), C_MAJOR, (ChosenNote(left),), (ChosenNote(60), ChosenNote(64)))
        played = arrange(chart, Choices(style="root-and-chord", grips=(crossed,)))
        found = named(check_all(chart, played, room=ROOM), "collision")
        assert len(found) == 1 and words in found[0].sentence and found[0].mend == Mend(ChangeGrip(F(0), "release"), "take Valley's grip")
    small = Room(175, 198, (60, 84), (21, 108))
    assert "is not on a keyboard" in named(check_all(chart, arrangement, room=small), "keyboard")[0].sentence
    framed = replace(arrangement, frame="C4-C6")
    assert named(check_all(chart, framed, room=Room(175, 198, (21, 108), (60, 84))), "frame")[0].severity == "warning"


def test_spelling_arithmetic_and_labels_of_a_chart() -> None:
    chart = chart_of(["F", "Bb", "F", "A#"], key=("F", "major"))
    found = named(check_all(chart), "spelling")[0]
    assert found.bar == 4 and found.mend == Mend(SetChord(F(12), "Bb"), "write Bb") and "one sound under two names" in found.sentence
    short = replace(chart, chords=chart.chords[:-1])
    assert "before the last beat" in named(check_all(short), "arithmetic")[0].sentence
    gap = replace(chart, parts=(replace(chart.parts[0], bars=2),))
    assert "the song has 4 bars" in named(check_all(gap), "arithmetic")[0].sentence


def test_an_undeclared_difference_between_repeats() -> None:
    chart = chart_of(["C", "F", "C", "Dm"], parts=[(1, 2, None), (3, 2, 1)])
    hidden = replace(chart, parts=(chart.parts[0], replace(chart.parts[1], kinship="same", differences=())))
    found = named(check_all(hidden), "repeat")
    assert found[0].severity == "error" and "Dm instead of F" in found[0].sentence and found[0].mend == Mend(DeclareRepeats(), "declare the difference")
    assert named(check_all(chart), "repeat") == []


def test_a_repeat_that_is_played_otherwise() -> None:
    chart = chart_of(["C", "F", "C", "F"], parts=[(1, 2, None), (3, 2, 1)])
    own = GripChoice(F(8), C_MAJOR, (ChosenNote(48),), (ChosenNote(64), ChosenNote(67)))
    found = named(findings_of(chart, Choices(style="root-and-chord", grips=(own,))), "twin")
    assert found[0].bar == 3 and found[0].mend is not None and found[0].mend.words == "play it as in bar 1"


def test_holds_and_patterns() -> None:
    chart = chart_of(["C", "F"])
    arrangement = arrange(chart, Choices(style="root-and-chord"))
    part = arrangement.parts[0]
    long = replace(arrangement, parts=(replace(part, notes=(PlayedNote("left", F(0), F(6), 48, "C3"), *part.notes)),))
    assert "is held to beat 6, the chord ends at 4" in named(check_all(chart, long, room=ROOM), "hold")[0].sentence
    unfit = make_work(chart_of(["C G"], meter="3/4"), Choices(style="root-and-chord", pattern="wide-arpeggio"))
    assert "is held, because" in named(check_song(unfit), "pattern")[0].sentence


def test_a_part_never_taught_and_words_that_went_stale_or_wrong() -> None:
    chart = chart_of(["C", "F", "G", "Am"], parts=[(1, 2, None), (3, 2, None)])
    assert named(findings_of(chart, order=(1,)), "taught")[0].part == 2
    edit = StepEdit("part-1/both", lines=("In bar 1 play C minor.",), over=("something else",))
    found = findings_of(chart, edits=(edit,))
    assert named(found, "stale")[0].step == "part-1/both"
    wrong = named(found, "words")[0]
    assert wrong.severity == "error" and "“C minor”" in wrong.sentence and wrong.step == "part-1/both"


def rewritten(**lines: str) -> list[Finding]:
    """What is found about notes told where the creator wrote over the left hand of four chords."""
    chart = chart_of(["C", "F", "G", "Am"], parts=[(1, 4, None)])
    edit = StepEdit("part-1/left", lines=tuple(lines.values()))
    return named(findings_of(chart, edits=(edit,)), "told")


def test_a_note_that_the_creators_words_leave_out_is_found_at_its_step() -> None:
    [left_out] = rewritten(a="C is C, E and G, F is F, A and C.", b="Then the A minor chord: A, C, E.")
    assert (left_out.bar, left_out.severity, left_out.step) == (3, "warning", "part-1/left")
    assert "in bar 3, left hand, these notes are told by nobody: G3, B3, D4" in left_out.sentence
    assert rewritten(a="First C, then F, then G, and Am to end with.") == []
    assert rewritten(a="Play C E G, F A C, G B D and A C E, slowly.") == []


def test_a_note_told_otherwise_is_an_error() -> None:
    told = ("The chords: C, F, G and Am, a bar each.", "Left hand:", "Hold each chord as it comes.", "C is C3, E3 and G3.", "F is F3, A3 and C4.")
    rest = ("G is G3, B3 and E4.", "Am is A3, C4 and E4.")
    wrong = rewritten(**{str(i): text for i, text in enumerate((*told, *rest))})
    assert [(f.severity, f.bar) for f in wrong if "not played" in f.sentence] == [("error", 3)]
    assert any("but not played there: E4" in f.sentence for f in wrong)


def test_a_step_in_valleys_own_words_is_found_faultless() -> None:
    chart = chart_of(["C", "F", "G", "Am"], parts=[(1, 4, None)])
    step = next(s for s in make_work(chart).generated.steps if s.key == "part-1/left")
    edit = StepEdit("part-1/left", lines=(*spoken(step), "Breathe out on the last one."))
    assert named(findings_of(chart, edits=(edit,)), "told") == []
