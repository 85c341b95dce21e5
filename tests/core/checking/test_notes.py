"""Checks of the notes as they sound, and findings that the creator means as they are."""

import pytest

from tests.charts import all_words, chart_of, make_work
from valley.checking import Finding, check_song, closed_findings
from valley.edits import Edit, MeanThis, SetHands, WritePassage, apply_edit
from valley.errors import ParameterError
from valley.fraction import Fraction as F
from valley.model.choices import Choices, ChosenNote, GripChoice, gist_of
from valley.model.passage import Passage, WrittenNote
from valley.song import SongState, Work
from valley.theory.chord import parse_symbol

CHART = chart_of(["C", "F", "G", "C"], tune=[(4 * i, 4, m) for i, m in enumerate((76, 77, 74, 76))])


def song_with(*passages: Passage, **choices: object) -> SongState:
    return SongState(CHART, Choices(passages=passages, **choices))  # type: ignore[arg-type]


def found(song: SongState, check: str) -> list[Finding]:
    return [f for f in check_song(Work(song)) if f.check == check]


def hand(side: str, start: int, *rows: tuple[str, str, int], beats: int = 4, fingers: tuple[int, ...] = ()) -> Passage:
    notes = [WrittenNote(F(a), F(b), m, finger=f) for (a, b, m), f in zip(rows, [*fingers, *[None] * len(rows)], strict=False)]
    return Passage(side, F(start), F(beats), tuple(notes))


def test_a_bass_that_is_not_the_charts_is_told() -> None:
    (finding,) = found(song_with(hand("left", 4, ("0", "4", 48), ("0", "4", 57))), "bass")
    assert finding.bar == 2 and "C3 sounds lowest, and the chart's bass is F" in finding.sentence
    assert found(song_with(), "bass") == []
    assert found(song_with(style="turned-blocks"), "bass") == [], "the style says that it turns chords over"


def test_a_member_that_never_sounds_is_told() -> None:
    chart = chart_of(["Cmaj7", "F"])
    bare = Choices(passages=(hand("left", 0, ("0", "4", 48), ("0", "4", 55)), hand("right", 0, ("0", "4", 64))))
    (finding,) = found(SongState(chart, bare), "member")
    assert "B, its major seventh, never sounds" in finding.sentence and finding.severity == "note"


def test_a_key_that_is_struck_while_it_is_down_is_told() -> None:
    (same,) = found(song_with(hand("left", 0, ("0", "4", 48), ("2", "1", 48))), "restrike")
    assert "the left hand strikes C3 on 3, and it is still down from 1" in same.sentence
    (other,) = found(song_with(hand("left", 0, ("0", "4", 60)), hand("right", 0, ("1", "1", 60))), "restrike")
    assert "while the left hand holds it" in other.sentence


def test_fingers_that_no_hand_has_are_told() -> None:
    twice = found(song_with(hand("left", 0, ("0", "4", 48), ("0", "4", 55), fingers=(3, 3))), "fingers")
    assert "finger 3 is on both G3 and C3" in twice[0].sentence or "finger 3 is on both C3 and G3" in twice[0].sentence
    crossed = found(song_with(hand("right", 0, ("0", "4", 60), ("0", "4", 64), fingers=(4, 2))), "fingers")
    assert " cross." in crossed[0].sentence
    assert found(song_with(hand("right", 0, ("0", "4", 60), ("0", "4", 64), fingers=(1, 3))), "fingers") == []


def test_a_repeat_is_held_against_its_model_beat_by_beat() -> None:
    chart = chart_of(["C", "F", "C", "F"], parts=[(1, 2, None), (3, 2, 1)])
    own = Passage("left", F(4), F(4), (WrittenNote(F(0), F(2), 41), WrittenNote(F(2), F(2), 48)))
    song = SongState(chart, Choices(passages=(own,)))
    (finding,) = found(song, "twin notes")
    assert finding.part == 2 and "differs on" in finding.sentence and finding.bar == 4
    assert found(SongState(chart, Choices(passages=(Passage("left", F(4), F(4), own.notes, None),))), "twin notes") == []


def test_what_is_meant_stays_closed_until_the_notes_change() -> None:
    song = song_with(hand("left", 4, ("0", "4", 48), ("0", "4", 57)))
    (finding,) = found(song, "bass")
    mean: Edit = MeanThis(finding.start, finding.check, finding.sentence, "the bass stays down there")
    closed, said = apply_edit(song, mean)
    assert "meant as it is (the bass stays down there)" in said
    assert found(closed, "bass") == []
    assert [(f.check, why) for f, why in closed_findings(Work(closed))] == [("bass", "the bass stays down there")]
    lower, _ = apply_edit(closed, WritePassage(F(4), "left", F(4), text="1 A2 C3"))
    assert found(lower, "bass"), "another note is another finding"
    elsewhere, _ = apply_edit(closed, SetHands(level="fuller"))
    assert found(elsewhere, "bass") == []
    again, _ = apply_edit(closed, MeanThis(finding.start, finding.check, finding.sentence, again=True))
    assert again == song
    with pytest.raises(ParameterError, match="no finding"):
        apply_edit(song, MeanThis(finding.start, finding.check, finding.sentence, again=True))


def test_the_gist_of_a_finding_has_no_bars() -> None:
    assert gist_of("Bars 3 to 4: x (and in 2 more places).") == gist_of("Bars 5 to 6: x.")


def test_roots_that_the_left_hand_keeps_are_no_wrong_basses() -> None:
    """Whoever keeps the roots is not told that the written bass is another; whoever follows the bass is."""
    chart = chart_of(["G/B", "C"])
    assert not [f for f in check_song(make_work(chart, Choices(bass="root"))) if f.check == "bass"]
    own = GripChoice(F(0), parse_symbol("G/B"), (ChosenNote(47),), (ChosenNote(62), ChosenNote(67)))
    (finding,) = [f for f in check_song(make_work(chart, Choices(bass="root", grips=(own,)))) if f.check == "bass"]
    assert finding.sentence == "Bar 1, G/B: B2 sounds lowest, and the root, which the left hand keeps, is G."
    assert not [f for f in check_song(make_work(chart, Choices(grips=(own,)))) if f.check == "bass"]


@pytest.mark.parametrize(("star", "said"), [(True, 0), (False, 1)])
def test_a_note_that_may_be_left_out_need_not_be_the_chords(star: bool, said: int) -> None:
    """ "Em, A if you like" is a name of its own; A that must be played makes another chord."""
    own = GripChoice(F(0), parse_symbol("Em"), (ChosenNote(40),), (ChosenNote(64), ChosenNote(67), ChosenNote(69, star)))
    work = make_work(chart_of(["Em", "C"]), Choices(style="root-and-chord", grips=(own,)))
    assert len([f for f in check_song(work) if f.check == "name"]) == said
    assert ("A4 if you like" in all_words(work.lesson)) == star
