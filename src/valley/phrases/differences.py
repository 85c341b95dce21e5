"""How repeats differ, as sayings: for the page of the parts, for the lesson, for reasons."""

from __future__ import annotations

from collections.abc import Sequence

from valley.fraction import Fraction
from valley.model.chart import Difference
from valley.model.saying import Amount, Chords, Numbers, Saying, Several, say
from valley.phrases.words import Words

_MOST_TOLD = 6
_BARS_LISTED = 5
_SIZES = {1: "half step", 2: "whole step", 5: "fourth"}


def tell_difference(difference: Difference) -> Saying:
    """One difference as a saying."""
    kind = difference.kind
    if kind == "pitch":
        return tell_move(difference.amount)
    if kind in ("chords", "ending"):
        phrase = f"differs {kind}{' moved' if difference.moved else ''}"
        return say(phrase, bar=difference.bars[0], now=Chords(difference.now), then=Chords(difference.then))
    if kind in ("shorter", "longer"):
        return say(f"differs {kind}", bars=Amount(Fraction(difference.amount), "bar"))
    if kind == "notes":
        listed = Numbers(difference.bars[:_BARS_LISTED], in_order=True)
        more = "in bars and more" if len(difference.bars) > _BARS_LISTED else "in bars" if len(difference.bars) > 1 else "in bar"
        bars = Several((say(more, bars=listed),))
        return say("differs note", bars=bars) if difference.amount == 1 else say("differs notes", count=difference.amount, bars=bars)
    return say(f"differs {kind}")


def tell_move(half_steps: int) -> Saying:
    """How far a repeat lies from what it repeats."""
    side, size = "higher" if half_steps > 0 else "lower", abs(half_steps)
    return say(f"{_SIZES[size]} {side}") if size in _SIZES else say(f"half steps {side}", count=size)


def tell_differences(differences: Sequence[Difference]) -> tuple[Saying, ...]:
    """All of them, or the first few and how many more there are."""
    told = [tell_difference(d) for d in differences]
    if len(told) > _MOST_TOLD:
        told = [*told[: _MOST_TOLD - 1], say("more differences", count=len(told) - _MOST_TOLD + 1)]
    return tuple(told)


def say_differences(differences: Sequence[Difference]) -> tuple[str, ...]:
    """In words, a text each.

    >>> say_differences([Difference("shorter", amount=1), Difference("pitch", amount=2)])
    ('stops 1 bar early', 'a whole step higher')
    """
    words = Words()
    return tuple(words.say(s) for s in tell_differences(differences))
