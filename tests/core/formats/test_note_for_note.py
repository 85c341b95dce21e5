"""Scores with two hands come in note for note, are played so, and go out again as they came."""

from __future__ import annotations

import pytest
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from tests.charts import chart_of
from tests.songs import written_notes
from valley.arranging.arrange import arrange
from valley.formats.musicxml import dump_musicxml
from valley.formats.score_in import read_musicxml
from valley.fraction import Fraction as F
from valley.model.choices import Choices
from valley.model.passage import Passage
from valley.model.score import Score
from valley.pipeline.readers import read_any_song
from valley.song import Work

NOTE = "<note>{grace}<pitch><step>{step}</step>{alter}<octave>{octave}</octave></pitch>{length}{tie}<voice>{voice}</voice>{finger}</note>"


def note(name: str, length: int = 4, *, voice: int = 1, finger: int = 0, tie: str = "", grace: bool = False) -> str:
    """A note such as "Eb3"; ``length`` in quarters of a quarter."""
    alter = f"<alter>{-1 if 'b' in name else 1}</alter>" if len(name) > 2 else ""
    marks = f"<fingering>{finger}</fingering>" if finger else ""
    notations = (f"<tied type='{tie}'/>" if tie else "") + (f"<technical>{marks}</technical>" if marks else "")
    return NOTE.format(
        grace="<grace/>" if grace else "",
        step=name[0],
        alter=alter,
        octave=name[-1],
        length="" if grace else f"<duration>{length}</duration>",
        tie=f"<tie type='{tie}'/>" if tie else "",
        voice=voice,
        finger=f"<notations>{notations}</notations>" if notations else "",
    )


HEAD = "<attributes><divisions>4</divisions><time><beats>4</beats><beat-type>4</beat-type></time></attributes>"
UPPER = [
    HEAD + note("B4", grace=True) + note("C5", 12, finger=5) + note("E5", 4, tie="start") + "<backup><duration>16</duration></backup>"
    "<forward><duration>4</duration></forward>" + note("G4", 12, voice=2),
    note("E5", 4, tie="stop") + note("D5", 12),
]
LOWER = [HEAD + "".join(note(n, 2) for n in ("F2", "C3", "Ab3", "C3") * 2), note("Bb2", 16, finger=2)]


def score_of(*parts: list[str]) -> bytes:
    listed = "".join(f"<score-part id='P{i}'><part-name>P</part-name></score-part>" for i in range(len(parts)))
    bars = "".join(
        f"<part id='P{i}'>" + "".join(f"<measure number='{n}'>{bar}</measure>" for n, bar in enumerate(p, 1)) + "</part>" for i, p in enumerate(parts)
    )
    return f"<?xml version='1.0'?><score-partwise version='4.0'><part-list>{listed}</part-list>{bars}</score-partwise>".encode()


def rows(score: Score) -> set[tuple[object, ...]]:
    return {(n.hand, n.start, n.duration, n.midi, n.pitch, n.grace) for n in score.notes}


def test_a_score_with_two_hands_is_the_arrangement() -> None:
    data = score_of(UPPER, LOWER)
    song = read_any_song(data, "small_hours.musicxml")
    arrangement = Work(song).arrangement
    played = [n for p in arrangement.parts for n in p.notes]
    assert {n.source for n in played} == {"imported"}
    right = [(n.pitch, n.start, n.duration, n.voice) for n in played if n.hand == "right" and not n.grace]
    assert right == [("C5", F(0), F(3), 1), ("G4", F(1), F(3), 2), ("E5", F(3), F(2), 1), ("D5", F(5), F(3), 1)]
    assert [n.pitch for n in played if n.grace] == ["B4"]
    assert [n.pitch for n in played if n.hand == "left"] == ["F2", "C3", "Ab3", "C3"] * 2 + ["Bb2"]
    assert {n.pitch: n.finger for n in played}["Bb2"] == 2 and {n.pitch: n.finger for n in played}["C5"] == 5
    assert rows(read_musicxml(dump_musicxml(song.chart, arrangement))) == rows(read_musicxml(data))


def test_the_same_in_every_style_thinned_or_added_to_at_other_levels() -> None:
    song = read_any_song(score_of(UPPER, LOWER), "small_hours.musicxml")
    own = [(n.start, n.midi) for n in Work(song).arrangement.parts[0].notes]
    for style in ("shell", "full-melody", "octaves"):
        at = {}
        for level in ("easier", "standard", "fuller"):
            choices = Choices(style=style, level=level, pattern="broken", passages=song.choices.passages)
            at[level] = [(n.start, n.midi) for n in arrange(song.chart, choices).parts[0].notes]
        assert at["standard"] == own
        assert set(at["easier"]) <= set(own) <= set(at["fuller"])


def test_one_hand_alone_is_a_tune_and_the_other_is_proposed() -> None:
    song = read_any_song(score_of(UPPER), "tune.musicxml")
    assert song.choices.passages == ()
    assert [n for p in Work(song).arrangement.parts for n in p.notes if n.hand == "left"]


@pytest.mark.parametrize("meter", ["4/4", "3/4", "6/8"])
@given(data=st.data())
@settings(max_examples=25, suppress_health_check=list(HealthCheck))
def test_passages_survive_the_way_out_and_in(meter: str, data: st.DataObject) -> None:
    """What was written for both hands, on paper and back: every key at its time, as long as it lasts."""
    chart = chart_of(["C", "F"], meter=meter)
    beats = F(len(chart.grid.beats))
    hands = {hand: [n for n in data.draw(written_notes(beats)) if not n.grace and not n.rings] for hand in ("left", "right")}
    passages = tuple(Passage(hand, F(0), beats, tuple(notes)) for hand, notes in hands.items())
    arrangement = arrange(chart, Choices(passages=passages))
    quarter = chart.grid.main_meter.quarters_per_beat
    read = read_musicxml(dump_musicxml(chart, arrangement, fold=False))
    longest: dict[tuple[str, F, int], F] = {}
    for hand, notes in hands.items():
        for n in notes:
            place = (hand, n.start * quarter, n.midi)
            longest[place] = max(longest.get(place, F(0)), n.duration * quarter)
    found: dict[tuple[str, F, int], F] = {}
    for note_read in read.notes:
        place = (note_read.hand, note_read.start, note_read.midi)
        found[place] = max(found.get(place, F(0)), note_read.duration)
    assert found == longest


def test_a_metre_that_is_written_again_at_a_repeat_is_no_change() -> None:
    again = [UPPER[0], HEAD + UPPER[1]], [LOWER[0], HEAD + LOWER[1]]
    assert read_musicxml(score_of(*again)).meters == ((F(0), "4/4"),)


def test_a_last_bar_of_rests_with_its_chord_stays() -> None:
    rest = "<note><rest/><duration>4</duration></note>"
    symbol = "<harmony><root><root-step>G</root-step></root><kind>minor</kind></harmony>"
    song = read_any_song(score_of([UPPER[0], UPPER[1], symbol + rest]), "tune.musicxml")
    assert song.chart.grid.bars == 3
    assert song.chart.chords[-1].symbol == "Gm"
