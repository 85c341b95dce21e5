"""Scores and played files as charts: small files whose notes are known by hand."""

from __future__ import annotations

import io

import mido
import pytest

from valley.charting.from_score import chart_score
from valley.errors import FormatError
from valley.formats.midi_in import read_midi
from valley.formats.score_in import read_musicxml
from valley.fraction import Fraction as F
from valley.model.chart import Chart
from valley.model.score import Score, ScoreNote
from valley.pipeline.readers import read_any_song

HEAD = (
    '<?xml version="1.0"?><score-partwise version="4.0">{title}<part-list><score-part id="P1"><part-name>P</part-name></score-part></part-list>'
    '<part id="P1"><measure number="1"><attributes><divisions>4</divisions><key><fifths>{fifths}</fifths></key>'
    "<time><beats>{beats}</beats><beat-type>{unit}</beat-type></time></attributes>{notes}</measure></part></score-partwise>"
)


def note(pitch: str, duration: int | None, *, chord: bool = False) -> str:
    """One note of MusicXML; without a duration a grace note. Four to the quarter."""
    length = "<grace/>" if duration is None else ""
    lasts = "" if duration is None else f"<duration>{duration}</duration>"
    return f"<note>{length}{'<chord/>' if chord else ''}<pitch><step>{pitch[0]}</step><octave>{pitch[1]}</octave></pitch>{lasts}</note>"


def xml(*notes: str, title: str = "", fifths: int = 0, meter: str = "4/4") -> bytes:
    beats, unit = meter.split("/")
    named = f"<work><work-title>{title}</work-title></work>" if title else ""
    return HEAD.format(title=named, fifths=fifths, beats=beats, unit=unit, notes="".join(notes)).encode()


def tune(chart: Chart) -> list[tuple[F, F, int]]:
    return [(n.start, n.duration, n.midi) for n in chart.melody]


def midi(*events: tuple[int, int, int], name: str = "") -> bytes:
    """Notes (key, ticks from the one before, ticks it lasts), 480 to the quarter."""
    file, track = mido.MidiFile(ticks_per_beat=480), mido.MidiTrack()
    if name:
        track.append(mido.MetaMessage("track_name", name=name))
    for key, after, lasts in events:
        track.append(mido.Message("note_on", note=key, velocity=80, time=after))
        track.append(mido.Message("note_off", note=key, time=lasts))
    file.tracks.append(track)
    out = io.BytesIO()
    file.save(file=out)
    return out.getvalue()


def test_notes_that_last_no_time_are_no_notes_of_the_tune() -> None:
    """A note of length nought, and a grace note, stand between C and F: neither cuts a note, neither makes one."""
    chart = chart_score(read_musicxml(xml(note("C5", 4), note("D5", 0), note("E5", None), note("F5", 12))))
    assert tune(chart) == [(F(0), F(1), 72), (F(1), F(3), 77)]
    only = Score("t", (ScoreNote(F(0), F(0), 60, "right"), ScoreNote(F(1), F(1), 62, "right")), ((F(0), "4/4"),))
    assert tune(chart_score(only)) == [(F(1), F(1), 62)]


def test_a_key_that_is_struck_and_let_go_at_once_lasts_the_shortest_step() -> None:
    score = read_midi(midi((60, 0, 0), (64, 480, 0), (67, 240, 240)))
    assert [(n.start, n.midi) for n in score.notes] == [(F(0), 60), (F(1), 64), (F(3, 2), 67)]
    assert all(n.duration >= F(1, 4) for n in score.notes)


def test_the_tune_is_the_highest_note_until_the_next_begins() -> None:
    chart = chart_score(read_musicxml(xml(note("C5", 4), note("E5", 4, chord=True), note("D5", 8), note("G4", 4))))
    assert tune(chart) == [(F(0), F(1), 76), (F(1), F(2), 74), (F(3), F(1), 67)]


def test_in_compound_time_a_beat_is_a_dotted_quarter() -> None:
    chart = chart_score(read_musicxml(xml(note("C5", 6), note("D5", 6), meter="6/8")))
    assert tune(chart) == [(F(0), F(1), 72), (F(1), F(1), 74)]
    assert chart.grid.bars == 1


@pytest.mark.parametrize(
    ("data", "name", "title"),
    [
        (xml(note("C5", 16), title="Brook under Ice"), "any.musicxml", "Brook under Ice"),
        (xml(note("C5", 16)), "slow_wheel.musicxml", "slow wheel"),
        (midi((60, 0, 480)), "slow_wheel.mid", "slow wheel"),
        (midi((60, 0, 480), name="right hand"), "slow_wheel.mid", "slow wheel"),
        (midi((60, 0, 480), name="Brook under Ice"), "any.mid", "Brook under Ice"),
        (midi((60, 0, 480), name="  "), "slow_wheel.mid", "slow wheel"),
    ],
)
def test_the_title_is_what_the_file_says_else_its_name(data: bytes, name: str, title: str) -> None:
    assert read_any_song(data, name).chart.title == title


def test_keys_are_spelled_from_their_signature_and_chords_named_from_their_notes() -> None:
    chart = chart_score(read_musicxml(xml(note("F4", 16), note("A4", 16, chord=True), note("C5", 16, chord=True), fifths=-1)))
    assert str(chart.key_at(F(0))) == "F major"
    assert [c.chord.to_harte() if c.chord else "N" for c in chart.chords] == ["F:maj"]


def test_what_cannot_be_charted_is_refused_with_the_reason() -> None:
    with pytest.raises(FormatError, match="neither notes nor chord symbols"):
        chart_score(Score("t", ()))
    with pytest.raises(FormatError, match="the metre 5/16"):
        read_musicxml(xml(note("C5", 4), meter="5/16"))
    with pytest.raises(FormatError, match="holds no notes"):
        read_midi(midi())


@pytest.mark.parametrize(("meter", "quarters", "beats"), [("12/8", F(6), 4), ("9/8", F(9, 2), 3), ("5/4", F(5), 5), ("7/8", F(7, 2), 7), ("2/2", F(4), 2)])
def test_metres_as_people_use_them_are_read(meter: str, quarters: F, beats: int) -> None:
    chart = chart_score(read_musicxml(xml(note("C5", int(4 * quarters)), meter=meter)))
    assert (chart.grid.meter, tune(chart)) == (meter, [(F(0), F(beats), 72)])
    second = (ScoreNote(F(0), quarters, 64, "right"), ScoreNote(quarters, quarters, 67, "right"))
    two = chart_score(Score("", second, ((F(0), meter),), ((F(0), 0, "major"),)))
    assert (two.grid.bars, two.grid.bar_start(2), tune(two)[1][0]) == (2, beats, beats)


def test_a_pickup_of_part_of_a_beat_leaves_the_bar_lines_where_they_are() -> None:
    """An eighth before a bar of 6/8 is a third of its beat: the pickup's beat is begun in the middle."""
    notes = (ScoreNote(F(0), F(1, 2), 64, "right"), ScoreNote(F(1, 2), F(3, 2), 67, "right"), ScoreNote(F(2), F(3, 2), 65, "right"))
    chart = chart_score(Score("", notes, ((F(0), "6/8"),), ((F(0), 0, "major"),), pickup=F(1, 2)))
    assert (chart.grid.pickup, chart.grid.bar_start(1)) == (1, 1)
    assert tune(chart) == [(F(2, 3), F(1, 3), 64), (F(1), F(1), 67), (F(2), F(1), 65)]
    assert chart.grid.count(F(1)) == "1"
