"""Where a talk turns to, and what it says of hands and lengths in the words that teachers on either side of the sea use."""

from __future__ import annotations

import pytest

from tests.core.lesson.last_sentence import slips_at_the_end
from valley.lesson.proof import read_proof
from valley.lesson.proof._place import turns_to_voice
from valley.pipeline.readers import read_any_song
from valley.song import Work

SONG = """key: C minor
meter: 4/4
tempo: 96
[Intro]
| Cm | Ab | Fm7 | G7sus4 |
R: | 1 G4=1/2 1& C5=1/2 2 Eb5=1 3 C5=1 4 G4=1 | 1 Ab4=4 C5=4 Eb5=4 | 1 F4=4 Ab4=4 C5=4 | 1 F4=4 G4=4 C5=4 |
L: | 1 C2=4 C3=4 | 1 Ab1=4 Ab2=4 | 1 F2=4 C3=4 | 1 G2=2 D3=2 3 G2=2 F3=2 |
[A]
| Cm | Fm | Bb7 | Eb | Cm | Abm | Eb/Bb | Bb7 |
T: | 2 G4=1 3 Ab4=1 4 Bb4=1 | 1 C5=3 4 Bb4=1 | 1 Ab4=2 3 F4=2 | 1 G4=4 | 1 Eb5=2 3 C5=2 | 1 Cb5=2 3 Ab4=2 | 1 Bb4=3 4 G4=1 | 1 Bb4=4 |
R: | 2 G4=1 3 Ab4=1 4 Bb4=1 | 1 C5=3 4 Bb4=1 | 1 Ab4=2 3 F4=2 | 1 G4=4 | 1 Eb5=2 3 C5=2 | 1 Cb5=2 3 Ab4=2 | 1 Bb4=3 4 G4=1 | 1 Bb4=4 |
L: | 1 C3=2 G3=2 3 C3=2 G3=2 | 1 F2=2 C3=2 3 F2=2 C3=2 | 1 Bb2=2 F3=2 3 Bb2=2 F3=2 | 1 Eb3=4 G3=4 Bb3=4 \
| 1 C3=4 Eb3=4 G3=4 | 1 Cb3=4 Eb3=4 Ab3=4 | 1 Bb2=4 Eb3=4 G3=4 | 1 Bb2=4 D3=4 Ab3=4 |
"""
WORK = Work(read_any_song(SONG.encode(), "turns.txt"))
INTRO, VERSE = "Now the intro.", "The A section comes next."
LAST_BAR = "In the last bar the left hand plays B flat, D and A flat."


def slips(*talk: str) -> list[tuple[str, str]]:
    return slips_at_the_end(WORK, *talk)


@pytest.mark.parametrize(
    ("sentence", "voice"),
    [
        ("Okay, melody.", "tune"),
        ("Righto, the tune.", "tune"),
        ("Now what does the right hand do?", "right"),
        ("Let's look at the bass.", "bass"),
        ("So that's the left hand done.", None),
        ("Now the right hand stays on C.", None),
        ("In bar 4 let's add the left hand.", None),
        ("The melody goes up here and the left hand keeps its pattern going all the while, which is rather lovely.", None),
    ],
)
def test_a_sentence_that_only_turns_to_a_voice(sentence: str, voice: str | None) -> None:
    assert turns_to_voice(sentence) == voice


RIGHT_AND_WRONG = [
    # a voice that is turned to begins where the part does, a letter can be a section's name, an opening is the intro
    ((VERSE, LAST_BAR, "Okay, the tune.", "It begins on G, A flat, B flat."), "A flat", "A natural", "Ab"),
    ((VERSE, LAST_BAR, "Right, the melody.", "You come in on two with G, A flat."), "two", "three", "2"),
    (("The opening riff is G, C, E flat, C, G.",), "E flat", "E natural", "Eb"),
    ((INTRO, "That's a neat start.", "The last bar of the A section is a B flat seven."), "B flat seven", "E flat seven", "Bb7"),
    # lengths by the names of notes
    ((VERSE, "In bar 6 the tune holds C for a dotted minim."), "dotted minim", "semibreve", "a dotted half note"),
    ((VERSE, "In bar 8 the tune has a G, which is a semibreve."), "semibreve", "minim", "a whole note"),
    ((VERSE, "In bar 11 there's a long B flat of three beats."), "three beats", "two beats", "3 beats"),
    # what a hand takes, keeps and swaps
    ((VERSE, "In bars 5 to 7 all the left hand does is play fifths."), "fifths", "sixths", "fifths"),
    ((INTRO, "In bar 4 the left hand has G and D, and then you swap the D for an F."), "an F", "an E", "F"),
    ((VERSE, "The chord of bar 9 is C minor.", "Then A flat minor in bar 10.", "The E flat stays put."), "E flat", "G", "Eb"),
    # steps and leaps
    ((VERSE, "In bar 7 the tune has A flat.", "It then falls a third to F."), "a third", "a fifth", "third"),
    (("Your finger goes up a tone from A flat to B flat.",), "a tone", "a semitone", "tone"),
    # the key, and the pace
    (("We're in C minor, and the A section lifts into E flat major.",), "E flat major", "A flat major", "C minor"),
    (("You'll be using B flat, E flat and A flat throughout.",), "A flat", "D flat", "Ab"),
    (("The speed's roughly ninety six.",), "ninety six", "a hundred and twenty", "96"),
    # copies and counts
    ((INTRO, "In bar 2 there are four beats on each chord."), "four beats", "three beats", "4 beats"),
    ((INTRO, "So it's four bars in all."), "four bars", "six bars", "four bars"),
]


@pytest.mark.parametrize(("talk", "right", "wrong", "expected"), RIGHT_AND_WRONG, ids=[talk[-1][:48] for talk, *_ in RIGHT_AND_WRONG])
def test_what_is_right_is_left_and_what_is_wrong_is_mended(talk: tuple[str, ...], right: str, wrong: str, expected: str) -> None:
    assert slips(*talk) == []
    assert talk[-1].count(right) == 1
    found = slips(*talk[:-1], talk[-1].replace(right, wrong))
    assert expected in [fix for _, fix in found], found


def test_what_another_note_stands_for_claims_nothing() -> None:
    assert slips(INTRO, "In bar 1 the right hand plays G, C, E flat, C, G instead of G, B, D, B, G.") == []
    assert slips(INTRO, "In bar 4 we have G seven sus, where the B is swapped for a C.") == []


def test_a_double_flat_may_be_said_by_its_plain_key() -> None:
    song = "key: Db major\nmeter: 4/4\n[A]\n| Gbm | Db |\nR: | 1 Gb4=4 Bbb4=4 Db5=4 | 1 F4=4 Ab4=4 Db5=4 |\nL: | 1 Gb2=4 | 1 Db2=4 |\n"
    work = Work(read_any_song(song.encode(), "flat.txt"))
    for said, marked in (("A natural", 0), ("B double flat", 0), ("B flat", 1)):
        text = f"In bar 1 the right hand plays G flat, {said} and D flat."
        assert sum(c.verdict != "agrees" for c in read_proof(text, work.chart, work.arrangement)) == marked, said


def test_what_is_pointed_to_does_not_move_the_talk() -> None:
    before = (INTRO, "In bar 2 the right hand holds A flat, C and E flat.")
    assert slips(*before, "That's the same chord as the one at the end of the section.", "The top note is E flat.") == []


def test_bars_may_be_counted_from_the_beginning_of_a_part() -> None:
    talk = ("Here comes the A section.", "In bar three the tune is A flat and then F.")
    assert slips(*talk) == []
    assert slips(talk[0], "In bar three the tune is A natural and then F.") != []
