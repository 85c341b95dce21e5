"""Corrections: each by hand on a small chart, then all of them by the thousand on random ones."""

from __future__ import annotations

from dataclasses import replace
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.charts import C_MAJOR, chart_of, correct, random_charts
from valley.charting.doubts import find_doubts
from valley.charting.twins import find_twins
from valley.edits import (
    AddNote,
    ChangeGrip,
    ChangeNote,
    ChangePlayed,
    DeleteChord,
    DeleteNote,
    DoubleTempo,
    ForgetPassage,
    HalveTempo,
    InsertChord,
    JoinChord,
    JoinNote,
    MarkRepeat,
    MergePart,
    MoveChange,
    MovePart,
    NudgeBeat,
    RemoveKey,
    RenamePart,
    RenameSong,
    SetBarOne,
    SetBass,
    SetChord,
    SetCue,
    SetKey,
    SetMeter,
    SnapNotes,
    SplitChord,
    SplitNote,
    SplitPart,
    TapTempo,
    TransposeNotes,
    WritePassage,
    apply_edit,
)
from valley.errors import FormatError, ParameterError, ValleyError
from valley.fraction import Fraction as F
from valley.model.chart import Chart, ChartChord, Grid, KeyArea
from valley.model.hearing import Reading
from valley.phrases.differences import say_differences
from valley.song import SongState, Work
from valley.theory.meter import SUPPORTED

VERSE = ["C", "Am", "F", "G"]


def row(chart: Chart) -> list[tuple[str, F]]:
    return [(c.symbol, c.start) for c in chart.chords]


def tune(chart: Chart) -> list[tuple[F, F, int]]:
    return [(n.start, n.duration, n.midi) for n in chart.melody]


def test_a_named_chord_is_locked_and_flows_into_the_parts() -> None:
    chart = chart_of(VERSE * 2, parts=[(1, 4, None), (5, 4, 1)])
    changed, said = correct(chart, SetChord(F(16), "Em7/G"))
    assert changed.chords[4].label == "E:min7/b3"
    assert changed.chords[4].locked
    assert say_differences(changed.parts[1].differences) == ("bar 5: Em7/G instead of C",)
    assert said == "bar 5, beat 1: Em7/G instead of C"
    assert chart.chords[4].label == "C:maj"


def test_a_bass_alone_keeps_the_chord_and_an_empty_one_gives_the_root_back() -> None:
    chart = chart_of(VERSE)
    over_e = correct(chart, SetBass(F(0), "E"))[0]
    assert over_e.chords[0].symbol == "C/E"
    assert correct(over_e, SetBass(F(0), ""))[0].chords[0].symbol == "C"
    with pytest.raises(ParameterError, match="holds no chord"):
        correct(chart_of(["N", "C"]), SetBass(F(0), "E"))


def test_chords_are_split_joined_moved_inserted_and_deleted() -> None:
    chart = chart_of(VERSE)
    split = correct(chart, SplitChord(F(2)))[0]
    assert row(split)[:3] == [("C", 0), ("C", 2), ("Am", 4)]
    named = correct(split, SetChord(F(2), "G/B"))[0]
    assert row(named)[1] == ("G/B", 2)
    half = correct(named, MoveChange(F(2), F(7, 2)))[0]
    assert row(half)[1] == ("G/B", F(7, 2))
    assert half.chords[1].duration == F(1, 2)
    assert row(correct(half, JoinChord(F(7, 2)))[0]) == row(chart)
    assert row(correct(chart, InsertChord(F(5), "Em", F(6)))[0])[:5] == [("C", 0), ("Am", 4), ("Em", 5), ("Am", 6), ("F", 8)]
    assert row(correct(chart, InsertChord(F(6), "D7"))[0])[:4] == [("C", 0), ("Am", 4), ("D7", 6), ("F", 8)]
    assert row(correct(chart, DeleteChord(F(4)))[0]) == [("C", 0), ("F", 8), ("G", 12)]
    assert row(correct(chart, DeleteChord(F(0)))[0]) == [("Am", 0), ("F", 8), ("G", 12)]


@pytest.mark.parametrize(
    ("edit", "words"),
    [
        (SetChord(F(0), "Zm"), "'Zm'"),
        (SetChord(F(1), "C"), "no chord begins at bar 1, beat 2"),
        (SplitChord(F(4)), "inside a chord"),
        (SplitChord(F(1, 5)), "a half, a third, a quarter or a sixth"),
        (JoinChord(F(0)), "none before it"),
        (MoveChange(F(4), F(8)), "no time left"),
        (MoveChange(F(0), F(1)), "begins with the song"),
        (InsertChord(F(99), "C"), "inside the song"),
        (InsertChord(F(4), "C", F(3)), "must come after"),
        (SetKey(F(0), "C", "blue"), "must be one of major, minor"),
        (SetKey(F(0), "D#", "major"), "9 signs"),
        (RemoveKey(F(0)), "after the first"),
        (SetCue(F(0), "far too long to be a cue " * 4), "a line to find"),
        (SetCue(F(99), "x"), "inside the song"),
        (SplitPart(1), "after its first bar"),
        (MergePart(1), "no part before"),
        (MovePart(1, 2), "begins with the song"),
        (MarkRepeat(1, 1), "earlier part"),
        (RenamePart(9, "x"), "one of the 1 parts"),
        (AddNote(F(0), F(0), 60), "more than 0 beats"),
        (AddNote(F(0), F(1), 10), "key of the piano"),
        (DeleteNote(F(3)), "note of the tune begins"),
        (TransposeNotes(F(0), F(1), 12), "no note"),
        (SetMeter(9, "3/4"), "one of the 4 bars"),
        (SetMeter(1, "5/16"), "not one of"),
        (SetBarOne(99), "one of the 16"),
        (NudgeBeat(3, -0.6, False), "twentieth"),
        (TapTempo((1.0, 2.0)), "too few"),
        (TapTempo((1.0, 4.0, 7.0, 10.0)), "20 to the minute"),
        (RenamePart(1, "x" * 50), "too long"),
        (SnapNotes(F(0), F(4), F(0)), "more than 0"),
    ],
)
def test_corrections_that_make_no_sense_are_refused(edit: Any, words: str) -> None:
    with pytest.raises(ValleyError, match=words):
        correct(chart_of(VERSE), edit)


def test_titles() -> None:
    chart = chart_of(VERSE)
    with pytest.raises(ParameterError, match="title"):
        correct(chart, RenameSong("  "))
    assert correct(chart, RenameSong(" New "))[0].title == "New"


def test_the_tune_is_corrected_note_by_note() -> None:
    chart = chart_of(VERSE, tune=[(0, 1, 60), (1, 2, 62), (4, 1, 64)])
    assert tune(correct(chart, AddNote(F(2), F(1), 67))[0]) == [(0, 1, 60), (1, 1, 62), (2, 1, 67), (4, 1, 64)]
    assert tune(correct(chart, DeleteNote(F(1)))[0]) == [(0, 1, 60), (4, 1, 64)]
    moved, said = correct(chart, ChangeNote(F(4), to=F(7, 2), midi=65))
    assert tune(moved)[2] == (F(7, 2), 1, 65)
    assert said == "tune, bar 2, beat 1: F4 instead of E4, moved to bar 1, beat 4 &"
    assert tune(correct(chart, SplitNote(F(1), F(2)))[0])[1:3] == [(1, 1, 62), (2, 1, 62)]
    assert tune(correct(chart, JoinNote(F(0)))[0]) == [(0, 3, 60), (4, 1, 64)]
    up, said = correct(chart, TransposeNotes(F(0), F(2), 12))
    assert [m for _, _, m in tune(up)] == [72, 74, 64]
    assert said.endswith("1 octave up")
    loose = chart_of(VERSE, tune=[(F(1, 4), F(3, 4), 60), (F(5, 4), 1, 62)])
    assert tune(correct(loose, SnapNotes(F(0), F(4), F(1, 2)))[0]) == [(0, 1, 60), (1, 1, 62)]
    grace = correct(chart, ChangeNote(F(4), grace=True))[0]
    assert [n.grace for n in grace.melody] == [False, False, True]
    with pytest.raises(ParameterError, match="already begins"):
        correct(chart, ChangeNote(F(4), to=F(1)))


def test_a_key_change_respells_what_lies_in_its_reach() -> None:
    chart = chart_of(["C", "G#", "G#"])
    changed, said = correct(chart, SetKey(F(8), "Ab", "major"))
    assert row(changed) == [("C", 0), ("G#", 4), ("Ab", 8)] or row(changed) == [("C", 0), ("Ab", 4), ("Ab", 8)]
    assert str(changed.key_at(F(9))) == "Ab major"
    assert said == "bar 3, beat 1: Ab major from here on"
    back = correct(changed, RemoveKey(F(8)))[0]
    assert len(back.keys) == 1
    assert len(correct(chart, SetKey(F(8), "C", "major"))[0].keys) == 1


def test_tempo_is_doubled_and_halved_and_comes_back_whole() -> None:
    chart = chart_of(VERSE, tune=[(0, 1, 60), (F(5, 2), F(1, 2), 62)])
    twice, said = correct(chart, DoubleTempo())
    assert said == "counted twice as fast, 240 to the minute"
    assert row(twice)[1] == ("Am", 8)
    assert tune(twice)[1] == (5, 1, 62)
    back = correct(twice, HalveTempo())[0]
    assert back.grid.beats == chart.grid.beats
    assert row(back) == row(chart)
    assert tune(back) == tune(chart)


def test_the_metre_changes_from_a_bar_on_and_counts_follow() -> None:
    chart = chart_of(["C", "F", "G", "C", "F", "G"], parts=[(1, 2, None), (3, 4, None)])
    changed, said = correct(chart, SetMeter(3, "3/4"))
    grid = changed.grid
    assert said == "bar 3: 3/4 from here on"
    assert [grid.bar_start(b) for b in range(1, 5)] == [0, 4, 8, 11]
    assert grid.place(F(12)) == (4, 1)
    assert grid.count(F(12)) == "2"
    assert grid.bars == 8
    assert (changed.parts[1].start_bar, changed.parts[1].end_bar) == (3, 8)
    assert row(changed) == row(chart)
    whole = correct(chart, SetMeter(1, "3/4"))[0]
    assert whole.grid.bars == 8
    assert correct(changed, SetMeter(3, "4/4"))[0].grid.changes == ()


def test_a_metre_in_another_note_value_is_counted_anew_and_sounds_as_it_did() -> None:
    chart = chart_of(["C", "F", "G", "C"], tune=[(0, 1, 60), (F(9, 2), F(1, 2), 65), (8, 4, 67)], parts=[(1, 4, None)])
    cut, _ = correct(chart, SetMeter(1, "2/2"))
    assert (cut.grid.bars, cut.grid.meter, round(cut.bpm)) == (4, "2/2", 60)
    assert [(c.symbol, c.start, c.duration) for c in cut.chords] == [("C", 0, 2), ("F", 2, 2), ("G", 4, 2), ("C", 6, 2)]
    for changed in (cut, correct(chart, SetMeter(1, "7/8"))[0], correct(chart, SetMeter(3, "5/8"))[0]):
        assert [changed.grid.seconds(n.start) for n in changed.melody] == pytest.approx([chart.grid.seconds(n.start) for n in chart.melody])
        assert [changed.grid.seconds(c.start) for c in changed.chords] == pytest.approx([chart.grid.seconds(c.start) for c in chart.chords])
    seven = correct(chart, SetMeter(1, "7/8"))[0]
    assert (len(seven.grid.beats), seven.grid.bars, round(seven.bpm)) == (32, 5, 240)
    back = correct(seven, SetMeter(1, "4/4"))[0]
    assert back.grid.beats == pytest.approx(chart.grid.beats)
    later = correct(chart, SetMeter(3, "5/8"))[0].grid
    assert [later.bar_start(b) for b in (1, 2, 3, 4)] == [0, 4, 8, 13]
    assert correct(chart, SetMeter(1, "12/8"))[0].grid.beats == chart.grid.beats


def test_quarters_are_counted_through_a_change_into_compound_time() -> None:
    grid = Grid(tuple(float(i) for i in range(12)), "4/4", 0, correct(chart_of(["C", "F", "G"]), SetMeter(3, "6/8"))[0].grid.changes)
    assert grid.quarters(F(8)) == 8
    assert grid.quarters(F(10)) == 11
    assert grid.count(F(25, 3)) == "2"


def test_bar_one_moves_and_leaves_a_pickup() -> None:
    chart = chart_of(["C", "F", "G", "C"], parts=[(1, 2, None), (3, 2, None)])
    moved, said = correct(chart, SetBarOne(1))
    assert moved.grid.pickup == 1
    assert moved.grid.place(F(0)) == (0, 3)
    assert moved.grid.place(F(1)) == (1, 0)
    assert said == "bar lines moved: bar 1 with a pickup of 1 beat"
    assert correct(moved, SetBarOne(0))[0].grid == chart.grid


def test_a_nudged_beat_takes_the_rest_along_or_not() -> None:
    chart = chart_of(VERSE)
    alone = correct(chart, NudgeBeat(4, 0.1, False))[0].grid.beats
    assert alone[4] == pytest.approx(chart.grid.beats[4] + 0.1)
    assert alone[5] == chart.grid.beats[5]
    after = correct(chart, NudgeBeat(4, 0.1))[0].grid.beats
    assert after[15] == pytest.approx(chart.grid.beats[15] + 0.1)
    assert after[3] == chart.grid.beats[3]


def test_a_tapped_tempo_rules_the_whole_song_and_forgives_shaky_hands() -> None:
    chart = chart_of(VERSE, tune=[(4, 1, 60)])  # 120 to the minute from 0.25 s
    shake = (0.02, -0.02, 0.015, -0.01, 0.0, 0.02)
    taps = tuple(0.25 + i * 1.0 + s for i, s in enumerate(shake) if i != 3)
    changed, said = correct(chart, TapTempo(taps))
    assert said == "tempo tapped, 60 to the minute"
    assert len(changed.grid.beats) == 8
    assert max(abs(t - (0.25 + i)) for i, t in enumerate(changed.grid.beats)) < 0.06
    assert row(changed) == [("C", 0), ("Am", 2), ("F", 4), ("G", 6)]
    assert changed.melody[0].start == 2


def test_cues_are_set_and_taken_away() -> None:
    chart = correct(chart_of(VERSE), SetCue(F(4), "  the  turn "))[0]
    assert [(c.start, c.text) for c in chart.cues] == [(4, "the turn")]
    assert correct(chart, SetCue(F(4), ""))[0].cues == ()


def test_parts_are_split_merged_moved_named_and_related() -> None:
    chart = chart_of(VERSE * 3, parts=[(1, 4, None), (5, 8, None)])
    split = correct(chart, SplitPart(9))[0]
    assert [(p.number, p.start_bar, p.bars) for p in split.parts] == [(1, 1, 4), (2, 5, 4), (3, 9, 4)]
    related = correct(correct(split, MarkRepeat(2, 1))[0], MarkRepeat(3, 2))[0]
    assert [p.same_as for p in related.parts] == [None, 1, 1]
    assert [p.kinship for p in related.parts] == ["new", "same", "same"]
    alone = correct(related, MarkRepeat(2, None))[0]
    assert [p.same_as for p in alone.parts] == [None, None, 1]
    named = correct(related, RenamePart(2, " chorus "))[0]
    assert named.parts[1].name == "chorus"
    moved = correct(related, MovePart(2, 4))[0]
    assert [(p.start_bar, p.bars) for p in moved.parts] == [(1, 3), (4, 5), (9, 4)]
    merged = correct(related, MergePart(2))[0]
    assert [(p.number, p.start_bar, p.bars, p.same_as) for p in merged.parts] == [(1, 1, 8, None), (2, 9, 4, 1)]


def test_a_change_spreads_to_the_repeats_and_says_where_they_differ() -> None:
    chart = chart_of([*VERSE, *VERSE, "C", "Dm", "F", "G"], parts=[(1, 4, None), (5, 4, 1), (9, 4, 1)])
    twins = find_twins(chart, F(4))
    assert [(t.part, t.bar, t.same, t.now) for t in twins] == [(2, 6, True, ""), (3, 10, False, "Dm")]
    changed, said = correct(chart, SetChord(F(4), "Am7"), [2])
    assert [c.symbol for c in changed.chords][1::4] == ["Am7", "Am7", "Dm"]
    assert said == "bar 2, beat 1: Am7 instead of Am; also in part 2"
    from_repeat = correct(chart, SetChord(F(20), "A7"), [1, 3])[0]
    assert [c.symbol for c in from_repeat.chords][1::4] == ["A7", "A7", "A7"]
    with pytest.raises(ParameterError, match="do not repeat this place"):
        correct(chart, SetChord(F(4), "Am7"), [9])
    uneven = chart_of(["C", "Am F", "C", "G"], parts=[(1, 2, None), (3, 2, 1)])
    with pytest.raises(ParameterError, match="part 2, bar 4 is built otherwise"):
        correct(uneven, SetChord(F(6), "E"), [2])


def test_a_change_spreads_to_a_repeat_at_another_pitch_at_that_pitch() -> None:
    chart = chart_of([*VERSE, "D", "Bm", "G", "A"], parts=[(1, 4, None), (5, 4, 1)], tune=[(0, 1, 64), (16, 1, 66)])
    assert chart.parts[1].moved == 2
    assert say_differences(chart.parts[1].differences) == ("a whole step higher",)
    assert find_twins(chart, F(4))[0].same
    changed, _ = correct(chart, SetChord(F(4), "Am7/G"), [2])
    assert changed.chords[5].symbol == "Bm7/A"
    lower, _ = correct(changed, SetChord(F(16), "D7"), [1])
    assert lower.chords[0].symbol == "C7"
    tuned, _ = correct(lower, ChangeNote(F(0), midi=67), [2])
    assert [n.midi for n in tuned.melody] == [67, 69]


def test_doubts_come_by_doubt_and_by_what_hangs_on_them() -> None:
    chords = tuple(ChartChord(F(i), F(1), C_MAJOR, c, (), i == 3) for i, c in enumerate((0.9, 0.2, 0.4, 0.1)))
    chart = Chart("T", Grid((0.0, 0.5, 1.0, 1.5), "4/4"), (KeyArea(F(0), "C", "major"),), chords)
    assert find_doubts(chart) == (1, 2)
    song = chart_of([*VERSE, *VERSE, "Dm"], parts=[(1, 4, None), (5, 4, 1), (9, 1, None)])
    doubtful = replace(song, chords=tuple(replace(c, confidence=0.3 if i == 8 else 0.4 if i == 2 else 0.9) for i, c in enumerate(song.chords)))
    assert find_doubts(doubtful) == (2, 8)


EDITS = st.one_of(
    st.builds(SetChord, st.fractions(0, 24, max_denominator=2), st.sampled_from(["Dm7", "N", "F#m7b5/C"])),
    st.builds(SplitChord, st.fractions(0, 24, max_denominator=2)),
    st.builds(JoinChord, st.fractions(0, 24, max_denominator=2)),
    st.builds(DeleteChord, st.fractions(0, 24, max_denominator=2)),
    st.builds(MoveChange, st.fractions(0, 24, max_denominator=2), st.fractions(0, 24, max_denominator=2)),
    st.builds(InsertChord, st.fractions(0, 24, max_denominator=2), st.just("Eb7"), st.none() | st.fractions(0, 24, max_denominator=2)),
    st.builds(AddNote, st.fractions(0, 24, max_denominator=4), st.fractions(0, 3, max_denominator=4), st.integers(20, 109)),
    st.builds(SetMeter, st.integers(1, 6), st.sampled_from(SUPPORTED)),
    st.builds(SetBarOne, st.integers(0, 8)),
    st.builds(DoubleTempo),
    st.builds(HalveTempo),
    st.builds(SplitPart, st.integers(1, 6)),
    st.builds(MergePart, st.integers(1, 3)),
    st.builds(MarkRepeat, st.integers(1, 3), st.none() | st.integers(1, 3)),
    st.builds(SetKey, st.fractions(0, 24, max_denominator=1), st.sampled_from(["Eb", "F#"]), st.just("minor")),
)


@given(random_charts(), st.lists(EDITS, max_size=8))
def test_no_chain_of_corrections_leaves_a_broken_chart(chart: Chart, edits: list[Any]) -> None:
    for edit in edits:
        try:
            chart, said = correct(chart, edit)
        except (ParameterError, FormatError):
            continue
        assert said
        assert chart.chords[0].start == 0
        assert chart.chords[-1].end == len(chart.grid.beats)
        assert all(a.end == b.start for a, b in zip(chart.chords, chart.chords[1:], strict=False))
        assert all(a.end <= b.start for a, b in zip(chart.melody, chart.melody[1:], strict=False))
        assert [b for p in chart.parts for b in range(p.start_bar, p.end_bar + 1)] == list(range(1, chart.grid.bars + 1))
        assert [p.number for p in chart.parts] == list(range(1, len(chart.parts) + 1))
        assert all(p.same_as is None or p.same_as < p.number for p in chart.parts)


def test_readings_survive_a_correction() -> None:
    chart = chart_of(VERSE)
    heard = replace(chart, chords=(replace(chart.chords[0], readings=(Reading("C:maj", 0.6), Reading("A:min7", 0.2))), *chart.chords[1:]))
    assert len(correct(heard, SetChord(F(0), "Am7"))[0].chords[0].readings) == 2


OSTINATO = WritePassage(F(0), "left", F(4), text="1 C2 1& G2 2 C3 2& G2 3 C2 3& G2 4 C3 4& G2")


@pytest.mark.parametrize(
    ("action", "more", "keys"),
    [
        ("move", {"midi": 43, "by": 1}, [36, 44, 48, 44]),
        ("drop", {"midi": 43}, [36, 48, 36, 48]),
        ("invert", {"by": 1}, [48, 43, 48, 43]),
        ("take", {"left": (40,), "right": (60, 64)}, [40]),
        ("star", {"midi": 43}, [36, 43, 48, 43]),
        ("release", {}, None),
    ],
)
def test_where_notes_are_written_a_grip_is_changed_note_by_note(action: Any, more: dict[str, Any], keys: list[int] | None) -> None:
    song = apply_edit(SongState(chart_of(["C", "F"])), OSTINATO)[0]
    changed = apply_edit(song, ChangeGrip(F(0), action, **more))[0]
    left = [n for n in Work(changed).arrangement.parts[0].notes if n.hand == "left" and n.start < 4]
    if keys is None:
        assert changed.choices.passages == () and all(n.source == "proposed" for n in left)
    else:
        assert [n.midi for n in left][: len(keys)] == keys
        assert changed.choices.grips == ()
    assert [n.optional for n in left if n.midi == 43] == [action == "star"] * len([n for n in left if n.midi == 43])


def test_a_written_note_goes_to_the_other_hand_and_back_to_valley() -> None:
    song = apply_edit(SongState(chart_of(["C", "F"])), OSTINATO)[0]
    given = apply_edit(song, ChangePlayed(F(1), "left", 48, other_hand=True))[0]
    notes = [n for p in Work(given).arrangement.parts for n in p.notes if n.start == 1]
    assert ("right", 48) in [(n.hand, n.midi) for n in notes] and ("left", 48) not in [(n.hand, n.midi) for n in notes]
    forgotten, said = apply_edit(given, ForgetPassage(F(0), "left", F(4)))
    assert said == "bar 1: the left hand as Valley proposes it"
    assert [p.hand for p in forgotten.choices.passages] == ["right"]
    with pytest.raises(ParameterError, match="nothing is written for the left hand there"):
        apply_edit(forgotten, ForgetPassage(F(0), "left", F(4)))
    with pytest.raises(ParameterError, match="D3 is a key that the left hand does not strike in bar 1 on 2"):
        apply_edit(song, ChangePlayed(F(1), "left", 50, remove=True))
    with pytest.raises(ParameterError, match="C0 lies outside the keyboard"):
        apply_edit(song, ChangePlayed(F(1), "left", 48, key=12))


def test_passages_follow_the_grid_and_the_numbers_of_the_parts() -> None:
    song = apply_edit(SongState(chart_of(["C", "F"] * 2, parts=[(1, 2, None), (3, 2, 1)])), replace(OSTINATO, times=(2,)))[0]
    doubled = apply_edit(song, DoubleTempo())[0]
    (passage,) = doubled.choices.passages
    assert (passage.start, passage.duration) == (0, 8)
    assert [n.start for n in passage.notes] == list(range(8))
    assert apply_edit(doubled, HalveTempo())[0].choices.passages == song.choices.passages
    split = apply_edit(song, SplitPart(2))[0]
    assert split.choices.passages[0].times == (3,)
