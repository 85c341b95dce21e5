"""Whatever is said: the proof-reader claims only what stands there, says the same again, and never breaks."""

from __future__ import annotations

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.core.lesson.test_proof_talk import WORK
from valley.lesson.proof import LANGUAGES, Claim, ProofReader, read_proof
from valley.lesson.proof._intervals import name_interval
from valley.lesson.proof._words import goes_on, read_whole, say_whole
from valley.theory.key import Key
from valley.theory.pitch import PitchName, parse_name


def row(words: str) -> list[str]:
    return words.split(" | ")


VERDICTS = {"agrees", "contradicts", "partly", "unknown"}
PLACES = row("in bar 2 | bars 1 to 4 | the verse | intro | the last bar | the third chord | second half of the verse | on beat two | on three | the first beat")
WHO = row("the left hand | right hand | both hands | the melody | the tune | the bass | it | you | your thumb | we")
DOES = row("plays | holds | goes up to | drops to | stays on | becomes | starts on | ends with | is | has | goes down step by step | doesn't play | moves from")
NAMES = row("D | F and A | A, D, F | B flat | C sharp | A flat | D minor | A seven | Gm7 | C/E | D minor over C | As | two Ds | octave Fs | E in octaves | Bb3")
MORE = row(
    "for two beats | three notes | twice | an octave apart | which is a fifth | in root position | second inversion | "
    "the five chord | on top | in the bass | one flat | four bars | six eight | together | over | then | and then | "
    "after that | , | . | ! | : | the whole time | each | again"
)
TALK = st.lists(st.sampled_from([*PLACES, *WHO, *DOES, *NAMES, *NAMES, *MORE]), max_size=40).map(" ".join)


def read(text: str, **school: str) -> tuple[Claim, ...]:
    return read_proof(text, WORK.chart, WORK.arrangement, **school)


@given(TALK)
@settings(max_examples=150)
def test_claims_are_what_stands_there_in_its_order(text: str) -> None:
    claims = read(text)
    assert all(text[c.start : c.end] == c.text and c.text.strip() for c in claims)
    assert all(c.verdict in VERDICTS for c in claims)
    assert [(c.start, c.end) for c in claims] == sorted((c.start, c.end) for c in claims)
    assert all(c.message for c in claims if c.verdict in ("contradicts", "partly"))
    assert read(text) == claims


@given(TALK, TALK)
@settings(max_examples=60)
def test_what_is_said_later_changes_nothing_before(first: str, second: str) -> None:
    head = f"{first}.\n"
    before = read(head)
    assert [c for c in read(head + second) if c.end <= len(head)] == [*before]


@given(st.lists(TALK, min_size=2, max_size=4), st.integers(0, 300), st.sampled_from(LANGUAGES))
@settings(max_examples=40)
def test_a_text_that_begins_like_the_one_before_is_read_as_any_other(talks: list[str], cut: int, language: str) -> None:
    reader = ProofReader(WORK.chart, WORK.arrangement, language=language)
    for text in (talks[0], talks[0][:cut] + talks[1], "".join(talks), talks[0]):
        assert reader.read(text) == read(text, language=language)


@given(TALK, st.sampled_from(LANGUAGES), st.sampled_from(["letters", "syllables", "german"]), st.sampled_from(["c4", "c3"]))
@settings(max_examples=120)
def test_no_words_break_it_in_any_language_or_school(text: str, language: str, naming: str, octaves: str) -> None:
    claims = read(text, language=language, naming=naming, octaves=octaves)
    assert all(0 <= c.start < c.end <= len(text) and text[c.start : c.end] == c.text for c in claims)


@given(st.text(max_size=200))
@settings(max_examples=80)
def test_no_text_breaks_it(text: str) -> None:
    for language in LANGUAGES:
        assert all(0 <= c.start <= c.end <= len(text) for c in read(text, language=language))


@given(st.integers(0, 199))
def test_numbers_are_read_as_they_are_said(number: int) -> None:
    tens = ("twenty", "thirty", "forty", "fifty", "sixty", "seventy", "eighty", "ninety")
    small = (*(say_whole(i) for i in range(13)), "thirteen", "fourteen", "fifteen", "sixteen", "seventeen", "eighteen", "nineteen")

    def words(n: int) -> str:
        return small[n] if n < 20 else tens[n // 10 - 2] + (f"-{small[n % 10]}" if n % 10 else "")

    said = words(number) if number < 100 else "a hundred" + (f" and {words(number - 100)}" if number > 100 else "")
    assert read_whole(said) == number == read_whole(str(number))


@given(st.integers(-8, 10), st.integers(-8, 10))
def test_an_interval_and_its_inversion_fill_an_octave(low: int, high: int) -> None:
    """A third up is a sixth down; the same letter is the octave."""
    sizes = {"octave": 1, "second": 2, "third": 3, "fourth": 4, "fifth": 5, "sixth": 6, "seventh": 7}
    up, down = (sizes[name_interval(*pair)] for pair in ((PitchName(low), PitchName(high)), (PitchName(high), PitchName(low))))
    assert up + down == (2 if PitchName(low).letter == PitchName(high).letter else 9)


@pytest.mark.parametrize("tonic", ["C", "G", "F", "Bb", "E", "Ab", "F#"])
def test_steps_of_a_key_are_told_by_their_distance(tonic: str) -> None:
    scale = Key(parse_name(tonic), "major").scale()
    names = ["octave", "second", "third", "fourth", "fifth", "sixth", "seventh"]
    assert [name_interval(scale[0], step) for step in scale] == names


@pytest.mark.parametrize("between", [", ", " and ", ", then ", " then up to ", ", and then back down to ", " with ", ", for two beats, "])
def test_a_list_goes_on_over_small_words(between: str) -> None:
    assert goes_on(between)


@pytest.mark.parametrize("between", [" while the left hand ", ". ", " because it sounds darker than ", " – as I said before, and I mean it – "])
def test_and_not_over_what_says_something_else(between: str) -> None:
    assert not goes_on(between)
