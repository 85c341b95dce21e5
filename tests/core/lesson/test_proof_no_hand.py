"""Words that sound like a place and are none, and places told in other words: "right after that", "verse time", "chord number two"."""

from __future__ import annotations

from pathlib import Path

import pytest
from bench.free_speech import song_of
from hypothesis import given
from hypothesis import strategies as st

from valley.lesson.proof import ProofReader
from valley.lesson.proof._names import NameFinder
from valley.lesson.proof._no_hand import without_other_rights
from valley.lesson.proof._scope import Scope
from valley.theory.naming import AGREES, CONTRADICTS

TALK = Path(__file__).parent / "talk"


@pytest.mark.parametrize(
    "text",
    [
        "The right hand plays C.",
        "Right, C E G. Left, C.",
        "Right on F, left on C.",
        "With your right in bar two.",
        "Left and right at once.",
        "From left to right then back.",
        "Take the E with the right on beat two.",
        "A bright sound, played upright. Is it bright?",
        "All right hand notes are Cs.",
        "Right, C and E. Left, C.",
        "Left, C. Right, beat two, E.",
    ],
)
def test_a_hand_is_a_hand(text: str) -> None:
    assert without_other_rights(text) == text


@pytest.mark.parametrize(
    "text",
    [
        "Right after that it's G minor.",
        "And right there you have it.",
        "The thumb sits right on C.",
        "It goes right up to the top.",
        "All right, the verse.",
        "Okay right so the tune.",
        "That's right, it's a C.",
        "You hear that, right?",
        "Right, bridge.",
    ],
)
def test_what_is_no_hand_is_none(text: str) -> None:
    assert "right" not in without_other_rights(text).lower()


@given(
    st.lists(
        st.sampled_from(["right", "Right", "left", "hand", "the", "your", "after", ",", ".", "?", "all", "so", "C", "on", "then", "to", "that's", "okay"]),
        max_size=14,
    ).map(" ".join)
)
def test_every_letter_stays_where_it_was(text: str) -> None:
    read = without_other_rights(text)
    assert len(read) == len(text)
    assert without_other_rights(read) == read


@pytest.mark.parametrize(
    ("text", "part"),
    [
        ("Cool, so that's the intro, verse time.", 2),
        ("On to chorus.", 3),
        ("Time for verse.", 2),
        ("Cool, verse, and this is my favourite.", 2),
        ("That was the verse, and it's chorus time now for all of you at home.", 3),
        ("The form is intro, verse, chorus.", None),
        ("That's the whole introduction.", 2),
        ("Okay, that was the verse.", 3),
        ("That's the chorus done.", None),
        ("That's the verse melody, now the left hand.", None),
    ],
)
def test_a_part_that_is_called_is_gone_to(text: str, part: int | None) -> None:
    assert Scope(*song_of(TALK / "cleugh.shut.flow.txt")).find_part(text) == part


@pytest.mark.parametrize(
    ("text", "ahead"),
    [
        ("The E flat in bar four of the verse is the blue note.", 4),
        ("In bar 8 of the verse you rest.", 4),
        ("In bar 9 of the verse you rest.", 0),  # the verse has eight: it is the song's
        ("In bar four you rest before the verse.", 0),
        ("Bars one to four of the chorus.", 12),
    ],
)
def test_bars_of_a_part_are_counted_in_it(text: str, ahead: int) -> None:
    assert Scope(*song_of(TALK / "strath.shut.flow.txt")).ahead_of(text) == ahead


@pytest.mark.parametrize(
    ("text", "wrong"),
    [
        ("So that's the intro, verse time. Alright, left hand underneath. In bar 8 it's G, D, G, D.", ""),
        ("In bar 8 the left hand goes G, D. And right after that it's the A flat, A flat, E flat, A flat, E flat.", ""),
        ("The intro is four chords. Chord number two is G, C, E flat.", ""),
        ("The intro is four chords. Chord number two is G, D, E flat.", "D"),
        ("The intro. The left hand plays octaves on E flat and C.", ""),
        ("The intro. Your right hand plays each one twice.", ""),
        ("The intro. Your right hand plays each one three times.", "three times"),
        ("The high point of the song is that G up there.", ""),
        ("The high point of the song is that A flat up there.", "A flat"),
        ("The intro is E flat, C minor, A flat, B flat. For the third one you play A flat, C and E flat.", ""),
        ("The intro is E flat, C minor, A flat, B flat. For the third one you play A flat, D and E flat.", "D"),
    ],
)
def test_what_is_told_there_is_held_against_that_place(text: str, wrong: str) -> None:
    claims = ProofReader(*song_of(TALK / "cleugh.shut.flow.txt")).read(text)
    marked = [c.text for c in claims if c.verdict == CONTRADICTS]
    assert wrong in marked if wrong else marked == []
    assert wrong or any(c.verdict == AGREES for c in claims)


@pytest.mark.parametrize(
    ("talk", "text", "wrong"),
    [
        ("strath", "We count four in a bar.", ""),
        ("strath", "We count three in a bar.", "three"),
        ("strath", "I've got a ballad for you today in F.", ""),
        ("strath", "I've got a ballad for you today in B flat.", "B flat"),
        ("strath", "The chorus. The melody's highest note is an A.", ""),
        ("strath", "The chorus. The melody's highest note is a G.", "G"),
        ("strath", "The intro. The last of the four is B flat, C and E.", ""),
        ("strath", "The intro. The last of the four is B flat, D and E.", "D"),
        ("strath", "The intro. The first of these four is A, C, E, with F and C in the bass.", ""),
        ("strath", "The intro. The first of these four is A, C, E. F and B flat in the bass.", "B flat"),
        ("ghyll", "The verse. The right hand has the tune. The chords are easy, you play each one twice in a bar.", ""),
        ("ghyll", "The verse. The right hand has the tune. The chords are easy, you play each one five times in a bar.", "five times"),
    ],
)
def test_counts_keys_and_places_in_other_words(talk: str, text: str, wrong: str) -> None:
    marked = [c.text for c in ProofReader(*song_of(TALK / f"{talk}.shut.flow.txt")).read(text) if c.verdict == CONTRADICTS]
    assert wrong in marked if wrong else marked == []


@pytest.mark.parametrize(
    ("talk", "text", "names"),
    [
        ("linn", "F over A flat.", ["F", "Ab"]),  # a chord over that bass is nowhere
        ("linn", "A flat over C.", ["Ab/C"]),
        ("linn", "F over A flat, then A flat over C.", ["F", "Ab", "Ab", "C"]),
        ("strath", "F over C.", ["F/C"]),
        ("strath", "G over C.", ["G/C"]),  # perhaps meant for it
    ],
)
def test_a_name_over_another_is_a_chord_where_the_song_can_have_it(talk: str, text: str, names: list[str]) -> None:
    found = NameFinder(Scope(*song_of(TALK / f"{talk}.shut.flow.txt")), "letters", "c4").find(text)
    assert [str(row.name) + (f"/{row.bass}" if row.bass else "") for row in found] == names
