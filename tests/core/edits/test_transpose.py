"""A song in another key: everything in it goes along, and comes back as it was."""

from dataclasses import replace

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.charts import C_MAJOR, chart_of, random_charts
from tests.core.charting.test_from_hearing import HEARING
from valley.arranging.arrange import arrange
from valley.charting.from_hearing import make_chart
from valley.charting.relisten import listen_again
from valley.charting.transpose import transpose_chart
from valley.edits import TransposeSong, apply_edit
from valley.errors import ParameterError
from valley.formats.chord_chart import parse_chord_chart
from valley.fraction import Fraction as F
from valley.lesson.proof import rename_notes
from valley.model.chart import Chart
from valley.model.choices import Choices, ChosenNote, GripChoice
from valley.model.hearing import Reading
from valley.model.lesson import StepEdit, Teaching
from valley.model.passage import Passage, WrittenNote
from valley.song import SongState
from valley.theory.pitch import parse_name

CHART = chart_of(["C", "F/A", "G7", "Am"], tune=[(0, 2, 67), (4, 1, 69), (8, 4, 71)], parts=[(1, 4, None)])


def test_keys_chords_readings_and_tune_go_up_together() -> None:
    first = replace(CHART.chords[0], readings=(Reading("C:maj", 0.6), Reading("A:min7", 0.3)))
    chart = transpose_chart(replace(CHART, chords=(first, *CHART.chords[1:])), 3)
    assert [str(a.key) for a in chart.keys] == ["Eb major"]
    assert [c.symbol for c in chart.chords] == ["Eb", "Ab/C", "Bb7", "Cm"]
    assert [r.label for r in chart.chords[0].readings] == ["Eb:maj", "C:min7"]
    assert [n.midi for n in chart.melody] == [70, 72, 74]
    assert chart.transposed == 3 and transpose_chart(chart, -3).transposed == 0


@pytest.mark.parametrize(
    ("key", "half_steps", "tonic", "there", "chord"),
    [
        (("C", "major"), 1, "", "Db major", "Db"),
        (("C", "major"), 1, "C#", "C# major", "C#"),
        (("A", "minor"), 6, "", "Eb minor", "Ebm"),
        (("F#", "major"), 5, "", "B major", "B"),
        (("B", "major"), -1, "", "Bb major", "Bb"),
    ],
)
def test_names_are_the_usual_ones_of_the_key(key: tuple[str, str], half_steps: int, tonic: str, there: str, chord: str) -> None:
    symbol = key[0] + ("m" if key[1] == "minor" else "")
    chart = transpose_chart(chart_of([symbol, symbol], key=key), half_steps, parse_name(tonic) if tonic else None)
    assert (str(chart.keys[0].key), chart.chords[0].symbol) == (there, chord)


def test_what_makes_no_sense_is_said() -> None:
    song = SongState(CHART)
    for edit, words in (
        (TransposeSong(0), "half_steps=0"),
        (TransposeSong(12), "half_steps=12"),
        (TransposeSong(2, "F"), "F is not 2 half steps from C"),
    ):
        with pytest.raises(ParameterError, match=words):
            apply_edit(song, edit)
    low = replace(song, choices=Choices(passages=(Passage("left", F(0), F(4), (WrittenNote(F(0), F(1), 22),)),)))
    with pytest.raises(ParameterError, match="key 19 would lie beyond the piano"):
        apply_edit(low, TransposeSong(-3))


def test_own_grips_and_passages_go_along_and_are_spelled_anew() -> None:
    grip = GripChoice(F(0), C_MAJOR, (ChosenNote(48),), (ChosenNote(64), ChosenNote(67, optional=True)))
    passage = Passage("left", F(4), F(4), (WrittenNote(F(0), F(2), 45, "A2", finger=2), WrittenNote(F(2), F(2), 54, "Gb3")))
    song, said = apply_edit(SongState(CHART, Choices(grips=(grip,), passages=(passage,))), TransposeSong(2))
    assert said == "the whole song 2 half steps up, from C major to D major"
    (moved,) = song.choices.grips
    assert moved.chord and moved.chord.to_symbol() == "D"
    assert ([n.midi for n in moved.left], [(n.midi, n.optional) for n in moved.right]) == ([50], [(66, False), (69, True)])
    assert [(n.midi, n.pitch, n.finger) for n in song.choices.passages[0].notes] == [(47, "B2", 2), (56, "Ab3", None)]


@given(
    random_charts(),
    st.sampled_from(["block-and-melody", "octaves", "shell", "full-melody"]),
    st.sampled_from(["held", "broken"]),
    st.integers(-6, 6).filter(bool),
)
@settings(max_examples=15)
def test_carried_hands_play_the_same_keys_that_much_higher(chart: Chart, style: str, pattern: str, up: int) -> None:
    song = SongState(chart, Choices(style=style, pattern=pattern))
    try:
        there, _ = apply_edit(song, TransposeSong(up, hands="carried"))
    except ParameterError as error:
        assert "beyond the piano" in str(error)
        return

    def keys(state: SongState, by: int = 0) -> list[tuple[str, F, F, int]]:
        played = arrange(state.chart, state.choices)
        return sorted((n.hand, n.start, n.duration, n.midi + by) for p in played.parts for n in p.notes)

    assert keys(there) == keys(song, up)


@given(random_charts(), st.integers(-11, 11).filter(bool))
@settings(max_examples=25)
def test_there_and_back_sounds_as_before(chart: Chart, up: int) -> None:
    song = SongState(chart)
    back = transpose_chart(transpose_chart(song.chart, up), -up)
    assert [c.chord.pitch_classes() if c.chord else None for c in back.chords] == [c.chord.pitch_classes() if c.chord else None for c in song.chart.chords]
    assert [(n.start, n.midi) for n in back.melody] == [(n.start, n.midi) for n in song.chart.melody]
    assert [a.key.tonic.pitch_class for a in back.keys] == [a.key.tonic.pitch_class for a in song.chart.keys]
    assert back.transposed == 0


def test_a_new_listening_is_laid_at_the_pitch_that_is_taught() -> None:
    chart = make_chart(HEARING, "Heard")
    moved = transpose_chart(chart, 2)
    again, told = listen_again(moved, HEARING)
    assert not told
    assert [c.symbol for c in again.chords] == [c.symbol for c in moved.chords]
    assert [n.midi for n in again.melody] == [n.midi for n in moved.melody]


@pytest.mark.parametrize(
    ("words", "there"),
    [
        ("Bar 1 is C, then F over A.", "Bar 1 is Eb, then Ab over C."),
        ("Play C4, E4 and G4, a C chord.", "Play Eb4, G4 and Bb4, a Eb chord."),
        ("The A minor has B flat in it? No: A, C, E.", "The C minor has D flat in it? No: C, E flat, G."),
        ("A good start.", "A good start."),
        ("From B flat 3 to G3.", "From D flat 4 to B flat 3."),
        ("G7 goes home to C.", "Bb7 goes home to Eb."),
    ],
)
def test_own_words_name_what_is_played_in_the_new_key(words: str, there: str) -> None:
    chart = parse_chord_chart("key: C major\n| C | F/A | G7 | Am |")
    assert rename_notes(words, chart, arrange(chart, Choices()), -3, 3) == there


def test_words_of_the_lesson_go_along() -> None:
    song = SongState(CHART, teaching=Teaching(edits=(StepEdit("chords", lines=("C and F.", "Softly."), over=("C, F",)),)))
    moved, _ = apply_edit(song, TransposeSong(2))
    assert moved.teaching.edits[0].lines == ("D and G.", "Softly.")
