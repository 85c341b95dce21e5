"""Church modes: scales and signatures as every textbook has them, kept on every way in and out."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.charts import all_words, chart_of, make_work
from valley.arranging.arrange import arrange
from valley.errors import ParameterError
from valley.formats.chord_chart import parse_chord_chart
from valley.formats.musicxml import dump_musicxml
from valley.model.schools import Schools
from valley.phrases import Words
from valley.pipeline.readers import read_any_song
from valley.theory.chord import parse_symbol
from valley.theory.key import MODES, Key
from valley.theory.roman import write_roman


@pytest.mark.parametrize(
    ("tonic", "mode", "signature", "scale"),
    [
        ("D", "dorian", 0, "D E F G A B C"),
        ("G", "dorian", -1, "G A Bb C D E F"),
        ("E", "phrygian", 0, "E F G A B C D"),
        ("F", "lydian", 0, "F G A B C D E"),
        ("Bb", "lydian", -1, "Bb C D E F G A"),
        ("G", "mixolydian", 0, "G A B C D E F"),
        ("Eb", "mixolydian", -4, "Eb F G Ab Bb C Db"),
        ("B", "locrian", 0, "B C D E F G A"),
        ("C", "ionian", 0, "C D E F G A B"),
        ("A", "aeolian", 0, "A B C D E F G"),
        ("F#", "major", 6, "F# G# A# B C# D# E#"),
        ("Eb", "minor", -6, "Eb F Gb Ab Bb Cb Db"),
    ],
)
def test_scales_and_signatures(tonic: str, mode: str, signature: int, scale: str) -> None:
    key = Key.of(tonic, mode)
    assert (key.signature, " ".join(map(str, key.scale()))) == (signature, scale)
    assert Key.of_signature(signature, key.mode) == key


@given(st.integers(0, 11), st.sampled_from(MODES))
def test_a_scale_has_every_letter_once_and_is_spelled_by_itself(pitch_class: int, mode: str) -> None:
    key = Key.from_pitch_class(pitch_class, mode)
    assert sorted(str(n)[0] for n in key.scale()) == list("ABCDEFG")
    assert all(key.spell(n.pitch_class) == n for n in key.scale()) and abs(key.signature) <= 6
    assert [key.degree(n.pitch_class) for n in key.scale()] == sorted(key.degree(n.pitch_class) for n in key.scale())


def test_what_is_no_mode_is_refused_by_name() -> None:
    with pytest.raises(ParameterError, match="mode='blue' must be one of major, minor, dorian"):
        Key.of("C", "blue")


def test_numerals_count_the_modes_own_steps() -> None:
    key = Key.of("D", "dorian")
    assert [write_roman(parse_symbol(s), key) for s in ("Dm", "G", "C", "F", "Bb")] == ["i", "IV", "VII", "III", "bVI"]


@pytest.mark.parametrize("mode", MODES)
def test_a_mode_comes_back_from_text_and_score(mode: str) -> None:
    chart = parse_chord_chart(f"key: Bb {mode}\n| Bb | Eb |\n")
    assert str(chart.keys[0].key) == f"Bb {mode}"
    again = read_any_song(dump_musicxml(chart, arrange(chart)), "song.musicxml").chart
    assert [str(k.key) for k in again.keys] == [f"Bb {mode}"]


@pytest.mark.parametrize(("language", "said"), [("en", "D dorian"), ("de", "D-Dorisch"), ("fr", "ré dorien"), ("es", "re dórico")])
def test_a_lesson_names_the_mode(language: str, said: str) -> None:
    work = make_work(
        chart_of(["Dm", "G", "Dm"], key=("D", "dorian")), schools=Schools(language=language, naming="syllables" if language in ("fr", "es") else "letters")
    )
    assert said in all_words(work.lesson) and Words(Schools(language=language))
