"""Comparing two versions of a chart, and listening again under corrections."""

from dataclasses import replace

from tests.charts import chart_of, correct
from valley.charting.compare import compare_charts
from valley.charting.from_hearing import make_chart
from valley.charting.relisten import listen_again
from valley.edits import AddNote, MarkRepeat, NudgeBeat, RenamePart, RenameSong, SetChord, SetCue, SetKey, SetMeter
from valley.fraction import Fraction as F
from valley.model.hearing import HeardChord, HeardNote, Hearing, KeyRegion, Reading, Section

VERSE = ["C", "Am", "F", "G"]


def hearing_of(labels: list[str], *, shift: float = 0.0, tune: tuple[int, ...] = ()) -> Hearing:
    beats = tuple(round(0.5 + shift + i * 0.5, 4) for i in range(4 * len(labels)))
    return Hearing(
        60.0,
        0.0,
        120.0,
        "4/4",
        beats,
        beats[::4],
        (KeyRegion(0, 60, "C", "major", 0.9),),
        tuple(HeardChord(beats[4 * i], beats[4 * i] + 2, c, 0.6, (Reading(c, 0.6), Reading("N", 0.1))) for i, c in enumerate(labels)),
        tuple(HeardNote(beats[i], beats[i] + 0.5, m, 0.8) for i, m in enumerate(tune)),
        (),
        (Section(0, 60, "1", None, 0.5),),
    )


def test_differences_between_versions_are_told_bar_by_bar() -> None:
    old = chart_of(VERSE * 2, parts=[(1, 4, None), (5, 4, None)])
    new = old
    for edit in (
        SetChord(F(4), "A7"),
        AddNote(F(8), F(1), 65),
        SetKey(F(16), "D", "major"),
        SetCue(F(20), "turn"),
        RenamePart(2, "lift"),
        MarkRepeat(2, 1),
        NudgeBeat(3, 0.02),
    ):
        new = correct(new, edit)[0]
    new = correct(new, RenameSong("Other"))[0]
    said = [(c.bar, c.what) for c in compare_charts(old, new)]
    assert (0, "renamed from Test to Other") in said
    assert (0, "29 beats moved in the recording") in said
    assert (2, "A7 instead of Am") in said
    assert (3, "tune: 1 note more") in said
    assert (5, "D major begins here") in said
    assert (6, "cue “turn” added") in said
    assert (5, "part 2 is called lift") in said
    assert (5, "part 2 repeats part 1") in said
    assert compare_charts(new, new) == ()
    meter = correct(old, SetMeter(5, "3/4"))[0]
    assert compare_charts(old, meter)[0].what == "metre 4/4, 3/4 from bar 5 instead of 4/4"


def test_listening_again_keeps_what_was_set_and_tells_where_it_hears_otherwise() -> None:
    chart = make_chart(hearing_of(["C:maj", "A:min", "F:maj", "G:maj"], tune=(60, 62)), "Song")
    mine = correct(correct(chart, SetChord(F(4), "A7"))[0], AddNote(F(8), F(1), 72))[0]
    mine = correct(mine, RenamePart(1, "verse"))[0]
    again, told = listen_again(mine, hearing_of(["C:maj7", "A:min7", "D:min", "G:maj"], shift=0.01, tune=(64, 62)))
    assert [c.symbol for c in again.chords] == ["Cmaj7", "A7", "Dm", "G"]
    assert [(d.place, d.yours, d.heard) for d in told] == [("bar 2, beat 1", "A7", "Am7")]
    assert again.chords[1].locked
    assert again.chords[1].readings[0].label == "A:min7"
    assert again.grid == mine.grid
    assert again.parts[0].name == "verse"
    assert [(n.start, n.midi) for n in again.melody] == [(0, 64), (1, 62), (8, 72)]


def test_listening_again_with_other_beats_lands_on_the_creators_grid() -> None:
    chart = make_chart(hearing_of(["C:maj", "A:min", "F:maj", "G:maj"]), "Song")
    twice = hearing_of(["C:maj", "E:min", "F:maj", "G:maj"])
    beats = tuple(sorted([*twice.beats, *[round(b + 0.25, 4) for b in twice.beats]]))
    again, told = listen_again(chart, replace(twice, beats=beats, downbeats=beats[::4], bpm=240.0))
    assert told == ()
    assert again.grid == chart.grid
    assert [(c.symbol, c.start) for c in again.chords] == [("C", 0), ("Em", 4), ("F", 8), ("G", 12)]
