"""What a talk says beside names: how many, which way, what becomes of a key, steps of the key, intervals, and where in the song it stands."""

from __future__ import annotations

import pytest

from tests.core.lesson.last_sentence import claims_at_the_end, slips_at_the_end
from valley.lesson.proof import Claim
from valley.pipeline.readers import read_any_song
from valley.song import Work

SONG = """key: D minor
meter: 4/4
tempo: 76
[Intro]
| Dm | Dm/C | Bb | A7 |
L: | 1 D3=4 | 1 C3=4 | 1 Bb2=4 | 1 A2=4 |
R: | 1 A4=1/2 1& D5=1/2 2 F5=1 3 D5=1 4 A4=1 | 1 A4=4 D5=4 F5=4 | 1 Bb4=4 D5=4 F5=4 | 1 A4=4 C#5=4 E5=4 |
[Verse]
| Dm | Gm | C7 | F |
T: | 1 A4=3 4 F4=1 | 1 G4=2 3 A4=1 4 Bb4=1 | 1 D5=2 3 G4=2 | 1 A4=4 |
R: | 1 A4=3 4 F4=1 | 1 G4=2 3 A4=1 4 Bb4=1 | 1 D5=2 3 G4=2 | 1 A4=4 |
L: | 1 D3=2 A3=2 3 F3=1 4 A3=1 | 1 G2=2 D3=2 3 Bb2=1 4 D3=1 | 1 C3=2 G3=2 3 E3=1 4 G3=1 | 1 F2=4 F3=4 |
"""
WORK = Work(read_any_song(SONG.encode(), "talk.txt"))


def claims(*talk: str) -> list[Claim]:
    return claims_at_the_end(WORK, *talk)


def slips(*talk: str) -> list[tuple[str, str]]:
    return slips_at_the_end(WORK, *talk)


RIGHT_AND_WRONG = [
    # how many, and of what length
    (("In bar 1 the left hand plays just one note.", "On top there are three notes, A, D and F."), "three notes", "four notes", "three notes"),
    (("In bar 1 the right hand plays A, D, F, D, A, five notes in total.",), "five notes", "six notes", "five notes"),
    (("Every chord lasts one bar.",), "one bar", "two bars", "1 bar"),
    (("The chords are D minor, G minor, C seven and F, and each of them gets four beats.",), "four beats", "three beats", "4 beats"),
    # which way
    (("In the intro the bass goes D, C, B flat, A.", "It goes down step by step."), "down", "up", "down"),
    (("In the verse the melody of bar 6 is G, A, B flat.", "The melody rises stepwise."), "rises", "falls", "rises"),
    # what becomes of a key
    (("In bar 2 we have D minor over C.", "Then in bar 3 the A becomes B flat."), "B flat", "C", "Bb"),
    (("In bar 3 the right hand holds B flat, D and F.", "For bar 4 the F goes down to E."), "E", "G", "E"),
    (("In bar 2 we have D minor over C.", "Then in bar 3 the A gives way and becomes B flat."), "B flat", "C", "Bb"),
    (("In bar 3 the right hand holds B flat, D and F.", "For bar 4 it's the F that moves down to become E."), "E", "G", "E"),
    # steps of the key and intervals
    (("The verse starts on the one chord, D minor.",), "the one chord", "the two chord", "the one chord"),
    (("In bar 4 the outer notes are A and E, which is a fifth.",), "fifth", "third", "fifth"),
    (("In bar 4 there is C sharp and E, that's a third.",), "third", "fourth", "third"),
    # chords over their members
    (("Bar 2 is D minor with the seventh in the bass.",), "seventh", "third", "seventh"),
    # keys, signs
    (("This song sits in D minor.",), "D minor", "G minor", "D minor"),
    (("D minor has one flat, B flat.",), "B flat", "E flat", "Bb"),
    (("You need B flat as your only black key.",), "B flat", "A flat", "Bb"),
    # beats by number and by ordinal
    (("In bar 5 the left hand plays D and A together, then F on three.",), "three", "two", "3"),
    (("In bar 5 the left hand plays F on the third beat.",), "F", "G", "F"),
    # parts and their lengths
    (("There's an intro of four bars and a verse of four bars.",), "verse of four bars", "verse of six bars", "four bars"),
    (("The intro has four chords and every one of them lasts four beats.",), "four beats", "two beats", "4 beats"),
    # chords that are counted to, and what a hand has at its edges
    (("Now the verse.", "The third chord is C seven."), "C seven", "C minor", "C7"),
    (("In bar 4 the right hand has E on top.",), "E", "C sharp", "E"),
    (("Bar 3 has B flat at the bottom, D in the middle and F on top.",), "F", "G", "F"),
    (("In bar 2 the bass goes down to C.",), "C", "B flat", "C"),
    # notes that follow a place, a part or a word
    (("Okay, verse time.", "In the left hand we start with D and A."), "D and A", "D and B flat", "A"),
    (("In bar 1 the right hand plays A, D, F and then D, A.",), "D, A", "D, B flat", "A"),
    # octaves
    (("In bar 8 the left hand plays F in octaves.",), "F", "G", "F"),
    (("In bar 8 there are octave Fs in the left hand.",), "F", "G", "F"),
]


@pytest.mark.parametrize(("talk", "right", "wrong", "expected"), RIGHT_AND_WRONG, ids=[row[0][-1][:40] for row in RIGHT_AND_WRONG])
def test_what_is_right_is_left_alone_and_the_slip_is_told(talk: tuple[str, ...], right: str, wrong: str, expected: str) -> None:
    assert right in talk[-1]
    assert slips(*talk) == []
    head, found, tail = talk[-1].rpartition(right)
    marked = slips(*talk[:-1], f"{head}{wrong}{tail}")
    assert found and any(wrong.endswith(text) or text in wrong for text, _ in marked), claims(*talk[:-1], f"{head}{wrong}{tail}")
    assert any(expected.lower() in right_words.lower() for _, right_words in marked), marked


def test_notes_that_follow_are_held_against_what_comes_next() -> None:
    before = "In the intro the bass goes D, C, B flat."
    assert slips(before, "And then it goes down to A.") == []
    assert slips(before, "And then it goes down to G.") == [("G", "A")]


def test_the_same_chord_is_taken_where_the_talk_comes_to_it() -> None:
    """D minor stands at the head of the intro and of the verse, with other keys."""
    verse = ("Now the verse.", "On the D minor the left hand plays D and A together, then F, then A again.")
    assert slips(*verse) == []
    intro = ("Now the intro.", "On the D minor the left hand plays D and A.")
    assert [text for text, _ in slips(*intro)] == ["A"]


def test_a_part_that_is_only_called_is_where_the_talk_is() -> None:
    assert slips("Okay, verse time.", "The left hand plays D and A together, then F, then A.") == []
    assert slips("Verse!", "The melody starts on A.") == []
    assert slips("Verse!", "The melody starts on F.") == [("F", "A")]


def test_what_is_passed_over_is_not_taken_for_agreement() -> None:
    """Elsewhere nothing was against the words either, since nothing was found there: that settled it."""
    assert slips("In bar 3 the left hand has B flat.", "The bass doesn't move, it stays on B flat.") == []
    assert slips("In bar 3 the left hand has B flat.", "The bass doesn't move, it stays on C.") == [("C", "Bb")]


def test_how_a_list_is_held_as_it_was_told() -> None:
    told = "In bar 3 the right hand has B flat, D and F."
    assert slips(told, "That is root position.") == []
    assert [c.verdict for c in claims("In bar 2 the right hand plays A, D and F, D minor.", "That is a second inversion.")] == ["agrees"]
    assert [text for text, _ in slips(told, "That is a second inversion.")] == ["second inversion"]


def test_the_right_hand_over_the_left() -> None:
    assert slips("Bar 4 is A, C sharp, E over A in the left hand.") == []
    both = "Bar 5: the right hand over the left hand, that's F, A over A, D."
    assert all(c.verdict != "chord" for c in claims(both))


def test_plural_names_are_names() -> None:
    assert slips("In bar 8 the left hand plays two Fs.") == []
    assert [c.text for c in claims("In bar 1 the left hand plays Ds, and in bar 2 Cs.")] == ["Ds", "Cs"]
    assert slips("As you can see, bar 1 is D minor.") == []


def test_what_is_left_out_or_skipped_claims_nothing() -> None:
    assert slips("Bar 7 is a C seven, and we leave the B flat out.") == []
    assert slips("In bar 6 the melody goes G, A, skipping the F.") == []


def test_a_flat_hand_is_no_sign() -> None:
    assert slips("In bar 3 keep your flat hand on the D and the F.") == []


def test_a_hand_that_sits_on_one_key_throughout() -> None:
    assert slips("In bar 8 the left hand stays on F the whole time.") == []
    assert slips("In bar 8 the left hand stays on C the whole time.") == [("C", "F")]
