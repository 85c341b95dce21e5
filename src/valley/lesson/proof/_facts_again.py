"""What is said beside names, held against the places where the talk so far puts these: lengths and beats."""

from __future__ import annotations

import re
from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import TYPE_CHECKING

from valley.fraction import Fraction
from valley.lesson.proof._aligned import NOT_SO, Standing
from valley.lesson.proof._desk import UNKNOWN, overlaps
from valley.lesson.proof._scope import Claim
from valley.lesson.proof._spoken_facts import ALL, BEAT, SpokenFact
from valley.lesson.proof._tracks import Tracks
from valley.lesson.proof._words import VALUE, say_number, say_value
from valley.theory.naming import AGREES, CONTRADICTS

if TYPE_CHECKING:
    from valley.lesson.proof._aligned import Costs

_MOST = 5.0  # a doubt beyond tells no more
_TOLD = 1.5  # how surely notes stand that were told in the sentence before, two at a time
_SURELY_SO, _SLIP = -0.45, 0.45  # doubts below and above which the talk so far has the last word


@dataclass(frozen=True)
class FactStanding:
    """How much dearer it is to take what is said for so than for a slip (below nothing: it is so), and what is so where the name stands."""

    doubt: float
    instead: Fraction | None


def look_at_facts(claims: Sequence[Claim], text: str, start: int, rated: Sequence[tuple[SpokenFact, FactStanding]], quarters_per_beat: Fraction) -> list[Claim]:
    """The claims of a sentence with what is said beside its names as the talk so far has it.

    Parameters
    ----------
    claims : as they were read
    text, start : the sentence and where it begins
    rated : what it says, and how that stands
    quarters_per_beat : to tell values of notes
    """
    out = list(claims)
    for fact, standing in rated:
        span = start + fact.start, start + fact.end
        about = [i for i, c in enumerate(out) if c.kind == "count" and overlaps(span, [(c.start, c.end)])]
        marked = any(out[i].verdict not in (AGREES, UNKNOWN) for i in about)
        if standing.doubt > _SLIP and standing.instead is not None and not (marked and fact.kind == BEAT):
            said = text[fact.start : fact.end]
            right = _say(fact, said, standing.instead, quarters_per_beat)
            message = f"it comes on {right}" if fact.kind == BEAT else f"it lasts {right} there"
            out = [c for i, c in enumerate(out) if i not in about]
            out.append(Claim(said, *span, "count", CONTRADICTS, right, message))
        elif standing.doubt < _SURELY_SO and marked:
            for i in about:
                out[i] = replace(out[i], verdict=UNKNOWN, expected="", message="")
    return out


def _say(fact: SpokenFact, said: str, right: Fraction, quarters_per_beat: Fraction) -> str:
    """What is so in the words in which the other was said."""
    if fact.kind == BEAT:
        return f"{int(right)}{' &' if right % 1 else ''}"
    if re.search(VALUE, said, re.IGNORECASE):
        return say_value(right * quarters_per_beat)
    return f"{say_number(right)} beat{'' if right <= 1 else 's'}"


def rate_fact(fact: SpokenFact, standings: Sequence[Standing], told: Costs | None, meant: Sequence[int], tracks: Tracks) -> FactStanding | None:
    """How a fact stands; None where nothing was told that it could be said of.

    Parameters
    ----------
    fact : of a sentence
    standings : of the sentence's names
    told : what it costs to be at each place after the sentences before
    meant : the places of what was told last
    """
    if told is None:
        return None  # the first sentence of a talk says where it is, and nothing else does
    if fact.before > 1:
        said_of = meant if fact.before == ALL else meant[-fact.before :]
        wrong = [at for at in said_of if not tracks.holds(fact)[at]]
        if len(said_of) < min(fact.before, 2) or (fact.before == ALL and 0 < len(wrong) < len(said_of)):
            return None
        return FactStanding(_TOLD if wrong else -_TOLD, _so_at(wrong[0], fact, tracks) if wrong else None)
    ways = [(standings[i].through, standings[i].meant) for i in fact.names]
    if not fact.names:
        ways = [(told - NOT_SO[fact.kind] * tracks.holds(fact), meant[-1] if meant else None)]
    rated = [_rate(fact, through, at, tracks) for through, at in ways]
    return max(rated, key=lambda r: r.doubt, default=None)


def _rate(fact: SpokenFact, through: Costs, at: int | None, tracks: Tracks) -> FactStanding:
    import numpy as np

    so = tracks.holds(fact)
    if so.all():
        return FactStanding(-_MOST, None)
    at_name = at is not None and bool(so[at])
    other = int(np.argmin(np.where(so, np.inf, through)))
    doubt = float(np.min(through, where=so, initial=np.inf) - through[other])
    if at is not None and at_name != (doubt < 0):
        doubt = 0.0  # where the name stands and what is said speak against each other
    return FactStanding(min(max(doubt, -_MOST), _MOST), _so_at(other if at is None or at_name else at, fact, tracks))


def _so_at(place: int, fact: SpokenFact, tracks: Tracks) -> Fraction | None:
    """How long what stands at a place lasts, nearest to what is said, or on which beat it comes."""
    if fact.kind == BEAT:
        return tracks.count(place)
    return min(tracks.lengths(place), key=lambda n: abs(n - fact.value), default=None)
