"""Pedal marks of a score and of a performance are kept, and go out as they came in."""

import io

import mido
import pytest

from tests.charts import chart_of
from valley.arranging.arrange import arrange
from valley.edits import HalveTempo, apply_edit
from valley.errors import ParameterError
from valley.formats.midi import dump_midi
from valley.formats.musicxml import dump_musicxml
from valley.fraction import Fraction as F
from valley.model.choices import Choices, PedalMark
from valley.model.passage import Passage, WrittenNote
from valley.pipeline.readers import read_any_song
from valley.song import SongState, Work

MARKS = (PedalMark(F(0), F(3)), PedalMark(F(4), F(6)), PedalMark(F(6), F(8)))


def written() -> Work:
    """Two bars of eighths in both hands, with a pedal of the creator's own."""
    hands = tuple(
        Passage(hand, F(0), F(8), tuple(WrittenNote(F(i, 2), F(1, 2), low + i % 5) for i in range(16)), source="imported")
        for hand, low in (("left", 43), ("right", 64))
    )
    return Work(SongState(chart_of(["C", "G"]), Choices(passages=hands, pedals=MARKS)))


def spans(work: Work) -> list[tuple[F, F]]:
    return [(p.start, p.end) for part in work.arrangement.parts for p in part.pedals]


@pytest.mark.parametrize(("name", "dump"), [("song.musicxml", dump_musicxml), ("song.mid", dump_midi)])
def test_what_goes_out_comes_in(name: str, dump: object) -> None:
    work = written()
    data = dump(work.chart, work.arrangement)  # type: ignore[operator]
    again = Work(read_any_song(data, name))
    assert again.choices.pedals == MARKS
    assert spans(again) == spans(work) == [(m.start, m.end) for m in MARKS]


def test_hands_without_marks_get_none() -> None:
    work = written()
    plain = Work(SongState(work.chart, Choices(passages=work.choices.passages, pedal=False)))
    again = Work(read_any_song(dump_musicxml(plain.chart, plain.arrangement), "song.musicxml"))
    assert not again.choices.pedal and not spans(again)


def test_a_key_let_go_under_the_pedal_sounds_until_it_comes_up() -> None:
    from valley.arranging.sounding import sounding_end

    (part,) = written().arrangement.parts
    ends = {n.start: sounding_end(part, n) for n in part.notes if n.hand == "left"}
    assert ends[F(0)] == 3 and ends[F(7, 2)] == 4 and ends[F(4)] == 6


def test_the_lesson_sends_to_the_marks() -> None:
    from tests.charts import all_words

    assert "Pedal: down and up where the sheet music marks it." in all_words(written().lesson)
    work = Work(SongState(chart_of(["C", "G"])))
    assert "Pedal: down just after each chord" in all_words(work.lesson)


def test_marks_go_with_the_beats() -> None:
    song, _ = apply_edit(written().song, HalveTempo())
    assert [(m.start, m.end) for m in song.choices.pedals] == [(F(0), F(3, 2)), (F(2), F(3)), (F(3), F(4))]


def test_half_a_pedal_and_none_that_comes_up_are_read() -> None:
    file = mido.MidiFile(type=1, ticks_per_beat=480)
    file.tracks.append(mido.MidiTrack())
    for message, at in (("note_on", 0), ("pedal", 0), ("half", 480), ("note_off", 0), ("pedal", 480), ("note_on", 0), ("note_off", 960)):
        kind = {"note_on": ("note_on", {"note": 60}), "note_off": ("note_off", {"note": 60})}.get(message)
        value = 127 if message == "pedal" else 20
        file.tracks[0].append(mido.Message(*kind[:1], time=at, **kind[1]) if kind else mido.Message("control_change", control=64, value=value, time=at))
    buffer = io.BytesIO()
    file.save(file=buffer)
    from valley.formats.midi_in import read_midi

    assert read_midi(buffer.getvalue()).pedals == ((F(0), F(1)),)


def test_marks_do_not_lie_on_each_other() -> None:
    with pytest.raises(ParameterError, match="where the pedal comes up"):
        Choices(pedals=(PedalMark(F(0), F(3)), PedalMark(F(2), F(4))))
    with pytest.raises(ParameterError):
        PedalMark(F(2), F(2))


def test_an_arrangement_without_marks_changes_with_the_chords() -> None:
    (part,) = arrange(chart_of(["C", "G"]), Choices()).parts
    assert [(p.start, p.end, p.written) for p in part.pedals] == [(F(0), F(4), False), (F(4), F(8), False)]
