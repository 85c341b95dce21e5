"""Lengths, beats, ways and intervals that are said beside names, held against the places where the talk puts these."""

from __future__ import annotations

import re
from pathlib import Path

import pytest
from bench.free_speech import song_of

from valley.fraction import Fraction
from valley.lesson.proof import UNKNOWN, ProofReader, read_proof
from valley.lesson.proof._scope import Scope
from valley.lesson.proof._second_look import is_marked
from valley.lesson.proof._spoken_facts import find_facts
from valley.lesson.proof._tracks import Tracks
from valley.theory.naming import AGREES

TALK = Path(__file__).parent / "talk"
BEGUN = {
    "fell": "Okay, verse. I'll show you what I sing first. B for two, A for one, and F sharp for three. "
    "Then three quick steps up, G A B, landing on a high D. ",
    "carr": "Right then, verse. Let's put the tune on top now. It goes D, D, C, B flat, four quarter notes. ",
}


def facts(text: str, quarters: int = 1) -> list[tuple[str, str, Fraction, str, int]]:
    """Kind, words, value, names and how many before it, of a sentence whose names are its capital letters from A to G that stand alone."""
    spans = [m.span() for m in re.finditer(r"\b[A-G]\b(?! long| single| little)", text)]
    return [
        (f.kind, text[f.start : f.end], f.value, " ".join(text[a:b] for a, b in (spans[i] for i in f.names)), f.before)
        for f in find_facts(text, spans, Fraction(quarters))
    ]


@pytest.mark.parametrize(
    ("text", "found"),
    [
        ("B for two, A for one, and F for three.", [("length", "for two", 2, "B", 0), ("length", "for one", 1, "A", 0), ("length", "for three", 3, "F", 0)]),
        ("The E you hold for three beats.", [("length", "three beats", 3, "E", 0)]),
        ("It goes D, D, C, B, four half notes.", [("length", "half note", 2, "D D C B", 0)]),
        ("Then C and G are three beats each.", [("length", "three beats", 3, "C G", 0)]),
        ("And those two are two beats each.", [("length", "two beats", 2, "", 2)]),
        ("Three beats of that.", [("length", "Three beats", 3, "", 1)]),
        ("It starts with two beats on G and then E.", [("length", "two beats", 2, "G", 0)]),
        ("That last C is a dotted quarter note.", [("length", "dotted quarter note", Fraction(3, 2), "C", 0)]),
        ("Then a quick F on beat three.", [("beat", "three", 3, "F", 0)]),
        ("The C falls to B on the third beat.", [("beat", "third beat", 3, "B", 0)]),
        ("F sits there, and on four you fall to E.", [("beat", "four", 4, "E", 0)]),
        ("Then the E comes on the and of two.", [("beat", "and of two", Fraction(5, 2), "E", 0)]),
        ("And that C rings for the whole bar.", [("whole bar", "the whole bar", 0, "C", 0)]),
    ],
)
def test_what_is_said_of_names_is_found_with_them(text: str, found: list[tuple[str, str, Fraction, str, int]]) -> None:
    assert facts(text) == found


@pytest.mark.parametrize(
    "text",
    [
        "It's around 138 beats a minute.",
        "Two beats later comes a G.",
        "There are four beats in a bar, then C.",
        "The first two beats are C.",
        "You hit that twice, on two and four.",
        "They are quick, the first two are eighth notes.",
    ],
)
def test_what_is_not_said_of_a_name_is_passed_over(text: str) -> None:
    assert facts(text) == []


def test_values_of_notes_are_counted_in_beats() -> None:
    assert facts("That last C is a half note.", 2)[0][2] == 1


def read(talk: str, said: str) -> tuple[list[str], list[str]]:
    """What is marked in the last sentence of a talk, and the right words."""
    begun = BEGUN.get(talk, "")
    claims = [c for c in ProofReader(*song_of(TALK / f"{talk}.chart")).read(begun + said) if c.start >= len(begun) and c.verdict not in (AGREES, UNKNOWN)]
    return [c.text for c in claims], [c.expected for c in claims]


@pytest.mark.parametrize(
    ("talk", "right", "wrong", "marked", "expected"),
    [
        ("fell", "The second line starts from C, that's two beats, then one beat on B.", ("two beats", "three beats"), "three beats", "2 beats"),
        ("fell", "The second line starts from C, that's two beats, then one beat on B.", ("one beat", "two beats"), "two beats", "1 beat"),
        ("carr", "Next bar it's D and then B flat, two beats each.", ("two beats", "three beats"), "three beats", "2 beats"),
        ("carr", "Next bar it's D and then B flat, and these are half notes.", ("half notes", "quarter notes"), "quarter notes", "a half note"),
    ],
)
def test_a_length_is_held_against_the_note_that_is_told(talk: str, right: str, wrong: tuple[str, str], marked: str, expected: str) -> None:
    assert read(talk, right) == ([], [])
    found, mended = read(talk, right.replace(*wrong, 1))
    assert len(found) == 1 and found[0] in marked
    assert mended == [expected]


def test_a_length_that_the_chord_speaks_against_is_passed_over_where_the_note_has_it() -> None:
    assert read("carr", "Let's go back. The intro is four bars. It's F, D, F, and then you reach up for B flat. You stay on the B flat for two counts.") == (
        [],
        [],
    )


def test_a_beat_is_held_against_the_note_that_comes_there() -> None:
    begun = "The right hand of the intro. It has G and B, for the whole bar, and again G and B. "
    assert read("fell", begun + "Over the C it's G and C together, and the C falls to B on the third beat.")[0] == []
    assert read("fell", begun + "Over the C it's G and C together, and the C falls to B on the second beat.")[0] == ["second beat"]


def test_which_way_a_list_goes_is_held_against_its_keys() -> None:
    begun = "The second line starts from C. G and E is the same rhythm again. "
    assert read("fell", begun + "Now walk down A, G, F sharp.") == ([], [])
    assert read("fell", begun + "Now walk up A, G, F sharp.") == (["up"], ["down"])


def test_how_far_two_keys_of_a_hand_are_apart_is_held_against_them() -> None:
    begun = "Right, on to the chorus. "
    said = "Left hand is {} now, and they come down G, F sharp, E, and then jump to C."
    assert read("fell", begun + said.format("octaves")) == ([], [])
    assert read("fell", begun + said.format("fifths")) == (["fifths"], ["octaves"])


@pytest.mark.parametrize("name", ["outro", "ending", "coda"])
def test_a_part_goes_by_the_other_names_of_its_kind(name: str) -> None:
    assert read("fell", f"The {name} couldn't be easier, E minor, A minor, E minor.")[0] == []
    assert read("fell", f"The {name} couldn't be easier, E minor, C major, E minor.")[0] == ["C major"]


@pytest.mark.parametrize(
    "said",
    [
        "It moves along at {}.",
        "I'd set the metronome to {}.",
        "We'll take it around {}, no faster.",
        "Let's count it, one two three, one two three, at about {}.",
    ],
)
def test_a_tempo_is_told_in_many_ways(said: str) -> None:
    assert read("fell", said.format("ninety-six")) == ([], [])
    assert read("fell", said.format("a hundred and twelve")) == (["a hundred and twelve"], ["96"])


@pytest.mark.parametrize("said", ["Okay, verse. It's {} bars long.", "Okay, verse. That's all of it, {} bars of that.", "The verse is a {} bar loop."])
def test_how_long_a_part_is_is_told_in_many_ways(said: str) -> None:
    assert read("fell", said.format("eight"))[0] == []
    assert len(read("fell", said.format("twelve"))[0]) == 1


def test_a_part_may_lift_into_the_key_beside_the_songs() -> None:
    assert read("fell", "Right, on to the chorus, where we end up in G major.")[0] == []
    assert read("fell", "Right, on to the chorus, where we end up in D major.")[0] == ["D major"]


def test_a_chord_that_is_pointed_to_may_go_by_its_root() -> None:
    begun = "Okay, verse. The left hand. That's a low E, and then G with B. "
    assert read("fell", begun + "For that weird F sharp chord just hit C and E.")[0] == []


def test_in_compound_time_thirds_of_a_beat_are_counted() -> None:
    tracks = Tracks(Scope(*song_of(TALK / "ford.flow.txt")))
    assert {tracks.count(i) for i in range(len(tracks.items))} >= {1, 2, 4}
    on_four = tracks.holds(find_facts("F on beat four", [(0, 1)], Fraction(3, 2))[0])
    assert all((tracks.count(i) == 4) == so for i, so in enumerate(on_four))


def test_a_chord_that_is_spelled_out_is_the_one_whose_notes_they_are() -> None:
    begun = "Let me take you through the introduction first. The right hand has F sharp, A and D, struck four times. "
    assert read("garth", begun + "For the second chord you arrive at E, A, C sharp. B minor is F sharp, B and D.") == ([], [])
    assert read("garth", begun + "For the second chord you arrive at E, A, C sharp. E minor is F sharp, B and D.") == (["E minor"], ["Bm"])


def test_how_often_a_handful_is_struck_is_counted() -> None:
    begun = "Let me take you through the introduction first. "
    assert read("garth", begun + "The right hand has F sharp, A and D, struck four times.") == ([], [])
    found, right = read("garth", begun + "It begins on D. The right hand has F sharp, A and D, struck three times.")
    assert (found, right) == (["three times"], ["four times"])


@pytest.mark.parametrize(
    ("said", "wrong", "right"),
    [
        ("In the introduction the left hand plays quavers, eight to the bar.", "", ""),
        ("In the introduction the left hand plays crotchets, eight to the bar.", "crotchets", "quavers"),
        ("In the introduction the left hand plays eighth notes.", "", ""),
        ("In the introduction the left hand plays quarter notes.", "quarter notes", "eighth notes"),
        ("In the introduction the left hand plays quavers, six to the bar.", "six", "eight notes"),
    ],
)
def test_lengths_that_a_hand_goes_in(said: str, wrong: str, right: str) -> None:
    marked = [c for c in read_proof(said, *song_of(TALK / "clough.shut.flow.txt")) if is_marked(c)]
    assert [(c.text, c.expected) for c in marked] == ([(wrong, right)] if wrong else [])


@pytest.mark.parametrize(("said", "wrong"), [("it is the B flat that goes up, to C", ""), ("it is the G that goes up, to C", "G")])
def test_which_key_it_is_that_moves(said: str, wrong: str) -> None:
    told = "In the right hand we have G, B flat, D for the first. For the second chord the D moves up to E flat, and nothing else changes. For the third "
    marked = [c for c in read_proof(f"{told}{said}.", *song_of(TALK / "clough.shut.flow.txt")) if is_marked(c)]
    assert [c.text for c in marked] == ([wrong] if wrong else [])


def test_the_raised_seventh_may_be_named_beside_a_minor_key() -> None:
    song = song_of(TALK / "clough.shut.flow.txt")
    told = "This is in G minor, so you need B flat and E flat and, when we come to the dominant, {}."
    assert not [c for c in read_proof(told.format("an F sharp"), *song) if is_marked(c)]
    assert [c.text for c in read_proof(told.format("a C sharp"), *song) if is_marked(c)] == ["C sharp"]


@pytest.mark.parametrize(("said", "wrong"), [("D", ""), ("G", "G"), ("B flat", "B flat")])
def test_a_key_that_comes_back_every_second_time(said: str, wrong: str) -> None:
    told = "Let us hear the introduction. In bar one the left hand goes G, D, G, D, then B flat, D, G, D. Notice that every second note is the "
    marked = [c for c in read_proof(f"{told}{said}.", *song_of(TALK / "clough.shut.flow.txt")) if is_marked(c)]
    assert [(c.text, c.expected) for c in marked] == ([(wrong, "D")] if wrong else [])


@pytest.mark.parametrize(("said", "wrong"), [("about a hundred and eight", ()), ("around a hundred and twenty", ("a hundred and twenty",)), ("about two", ())])
def test_a_tempo_that_is_said_beside_the_metre(said: str, wrong: tuple[str, ...]) -> None:
    marked = [c for c in read_proof(f"This is an old-style waltz, three beats to a bar, at {said}.", *song_of(TALK / "burn.shut.flow.txt")) if is_marked(c)]
    assert tuple(c.text for c in marked) == wrong
