"""Where a talk is: what a sentence is held against when it does not say so itself."""

from __future__ import annotations

import pytest
from bench.free_speech import song_of

from tests.core.lesson.test_proof_spoken_facts import TALK
from tests.core.lesson.test_proof_talk import WORK, claims, slips
from valley.fraction import Fraction
from valley.lesson.proof import read_proof
from valley.lesson.proof._scope import Context, Scope
from valley.lesson.proof._second_look import is_marked

SCOPE = Scope(WORK.chart, WORK.arrangement)
D_MINOR = [g for _, g in SCOPE.grips if g.chord.root.letter == "D" and not g.chord.bass_interval]


@pytest.mark.parametrize(
    ("now", "bar"),
    [(None, 1), (0, 1), (4, 1), (8, 1), (12, 5), (16, 5), (20, 5), (31, 5)],
)
def test_of_a_chord_that_comes_twice_the_next_is_meant_and_going_back_is_farther(now: int | None, bar: int) -> None:
    """D minor stands in bars 1 and 5; from bar 3 (beat 8) the way back to bar 1 seems as long as four bars on, so that the nearer one is taken."""
    context = Context(now=None if now is None else Fraction(now))
    found = SCOPE.nearest(D_MINOR, context)
    assert len(D_MINOR) == 2 and len(found) == (2 if now is None else 1)
    here = WORK.chart.grid.place(found[0].start)[0]
    away = {g: (g.start - now if g.start >= now else 2 * (now - g.start)) for g in D_MINOR} if now is not None else {}
    assert here == (WORK.chart.grid.place(min(away, key=lambda g: away[g]).start)[0] if away else bar)


TALKS = [
    # a place that is named holds for what follows
    (("In bar 3 the left hand plays B flat.", "The right hand has B flat, D and F."), ()),
    (("In bar 3 the left hand plays B flat.", "The right hand has B flat, D and G."), ("G",)),
    # but the talk goes on to the next bar where the words fit there
    (("In bar 3 the left hand plays B flat.", "Then the right hand has A, C sharp and E."), ()),
    (("In bar 3 the right hand has B flat, D and F.", "Next it's an A seven."), ()),
    (("In bar 3 the right hand has B flat, D and F.", "Next it's an A minor."), ("A minor",)),
    # "still", "keeps": it has not moved
    (("In bar 2 the left hand plays C.", "The left hand keeps holding C."), ()),
    (("In bar 2 the left hand plays C.", "The left hand keeps holding B flat."), ("B flat",)),
    # a part is where the talk is from then on
    (("Here is the intro.", "And now the verse.", "It starts on D minor."), ()),
    (("Now the verse.", "The second chord is G minor."), ()),
    (("Now the verse.", "The second chord is B flat."), ("B flat",)),
    (("Now the intro.", "The third chord is B flat."), ()),
    # what is compared with, denied or done by others says nothing
    (("In bar 5 the left hand does the same as in bar 1.",), ()),
    (("In bar 1 we don't play F minor here.",), ()),
    (("Most people play C major in bar 1.",), ()),
    (("Do you hear what the bass does in bar 1?",), ()),
    # the tune is told until something else is
    (("The melody of the verse starts on A.", "You hold it for three beats."), ()),
    (("The melody of the verse starts on A.", "You hold it for two beats."), ("two beats",)),
    (("In bar 6 the melody goes G, A, B flat.", "Then it jumps up to D."), ()),
    (("In bar 6 the melody goes G, A, B flat.", "Then it jumps up to E."), ("E",)),
]


@pytest.mark.parametrize(("talk", "wrong"), TALKS, ids=[" ".join(talk)[:60] for talk, _ in TALKS])
def test_the_last_sentence_is_held_against_where_the_talk_is(talk: tuple[str, ...], wrong: tuple[str, ...]) -> None:
    assert tuple(text.split(" for ")[-1] for text, _ in slips(*talk)) == wrong, claims(*talk)


# A waltz whose intro has no tune; its verse begins C D, its refrain A G.
WALTZ = "Intro first. So low F, then A and C twice. And finally C, with B flat and E on top. Then let's do the tune. "


@pytest.mark.parametrize(
    ("said", "wrong"),
    [
        ("It begins on C, two beats, and then a D.", ()),
        ("It begins on A, two beats, and then a D.", ("A",)),
        ("It begins on C, two beats, and then a D. Back to C and fall down to A, and you stay on the A for two.", ()),
        ("It begins on C, two beats, and then a D. Back to C and fall down to A, and you stay on the A for three.", ("for three",)),
    ],
)
def test_the_tune_is_looked_for_in_the_next_part_that_has_one(said: str, wrong: tuple[str, ...]) -> None:
    marked = [c.text for c in read_proof(WALTZ + said, *song_of(TALK / "burn.shut.flow.txt")) if is_marked(c)]
    assert tuple(marked) == wrong


def test_a_part_that_is_only_led_to_does_not_move_what_is_told_before_it() -> None:
    told = "Now the verse. In the very last bar of the verse the left hand walks alone, C, D, E. That E wants to go to F, which is where the refrain starts."
    assert not [c for c in read_proof(told, *song_of(TALK / "burn.shut.flow.txt")) if is_marked(c)]
