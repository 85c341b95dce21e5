"""Every language has every phrase, with the same values, and its small words say what they are to say."""

from __future__ import annotations

import string

import pytest

from tests.charts import chart_of, make_work
from valley.edits import SetSchool, apply_edit
from valley.fraction import Fraction as F
from valley.lesson.student.learner import LANGUAGES as LEARNERS
from valley.model.schools import Schools, school_options
from valley.phrases import LANGUAGES, say_lesson
from valley.phrases.en import PHRASES
from valley.theory.chord import parse_symbol

OTHERS = sorted(set(LANGUAGES) - {"en"})


def values(way: str) -> set[str]:
    return {name for _, name, _, _ in string.Formatter().parse(way) if name}


def test_what_can_be_chosen_can_be_said_and_understood() -> None:
    assert set(school_options()["language"]) == set(LANGUAGES) == set(LEARNERS)


@pytest.mark.parametrize("language", OTHERS)
def test_a_language_has_every_phrase_with_its_values_and_no_other(language: str) -> None:
    own = LANGUAGES[language].PHRASES
    assert set(own) == set(PHRASES)
    for phrase, ways in PHRASES.items():
        assert {frozenset(values(w)) for w in own[phrase]} <= {frozenset(values(w)) for w in ways}, phrase
        assert all(w == w.strip() and "  " not in w for w in own[phrase]), phrase


@pytest.mark.parametrize("language", OTHERS)
def test_no_english_is_left_in_a_lesson(language: str) -> None:
    chart = chart_of(["C", "F/A", "Cmaj9", "G7"] * 2, tune=[(i, 1, 64 + i % 5) for i in range(14)], parts=[(1, 4, None), (5, 4, 1)])
    for length in ("short", "usual", "thorough"):
        schools = Schools(language=language, naming=LANGUAGES[language].GRAMMAR.naming, inversions="words", length=length)
        text = " ".join(" ".join((title, *lines)) for title, lines in say_lesson(make_work(chart, schools=schools).lesson))
        english = {"the", "with", "and", "bar", "bars", "part", "chord", "third", "inversion", "keep", "beats", "without"}
        assert not english & {w.strip(".,:;()").lower() for w in text.split()}, text


@pytest.mark.parametrize(
    ("language", "said"),
    [
        ("de", ["2 Schläge und ein halber", "ein halber Schlag", "ein Takt", "3 Takte", "hinauf um eine Quinte", "hinunter um eine Oktave und einen Halbton"]),
        ("fr", ["2 temps et demi", "un demi-temps", "une mesure", "3 mesures", "plus haut d'une quinte", "plus bas d'une octave et d'un demi-ton"]),
        ("es", ["2 tiempos y medio", "medio tiempo", "un compás", "3 compases", "subiendo una quinta", "bajando una octava y un semitono"]),
    ],
)
def test_amounts_lengths_and_distances(language: str, said: list[str]) -> None:
    own = LANGUAGES[language].GRAMMAR
    lengths = [own.amount(F(5, 2), "beat"), own.amount(F(1, 2), "beat"), own.length(F(4), F(4)), own.length(F(12), F(4))]
    assert [*lengths, own.distance(7), own.distance(-13)] == said


def test_a_language_brings_its_names_of_notes() -> None:
    work = make_work(chart_of(["Bb", "F"]))
    german, _ = apply_edit(work.song, SetSchool("language", "de"))
    assert (german.teaching.schools.language, german.teaching.schools.naming) == ("de", "german")
    back, _ = apply_edit(german, SetSchool("language", "en"))
    assert back.teaching.schools.naming == "letters"


@pytest.mark.parametrize("language", OTHERS)
def test_every_member_of_a_chord_has_a_name(language: str) -> None:
    own = LANGUAGES[language].GRAMMAR
    symbols = ["C7#11", "C7b13", "C13", "C7#9", "C7b9", "Cmaj13", "Cadd11", "C69", "Cdim7", "Caug", "Csus2", "Csus4", "Cm7b5", "C11", "C7b5"]
    chords = [chord for s in symbols if (chord := parse_symbol(s))]
    english = {"flat", "raised", "minor", "major", "diminished", "third", "fifth", "seventh", "ninth", "eleventh", "thirteenth", "second", "sixth"}
    for word in {c.quality.word(m) for c in chords for m in c.quality.members}:
        assert not english & set(own.translate(word, own.members).split()), word
