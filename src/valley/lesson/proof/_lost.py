"""Where the reader has lost the place of a talk: what it holds against several sentences in a row is its own mistake rather than theirs.

A teacher slips now and then. Where three of four sentences that say something of notes contradict the song, and none of them says where it is, the talk is
somewhere else than the reader thinks; it says that it cannot tell, instead of marking what may be right.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

from valley.lesson.proof._desk import UNKNOWN
from valley.lesson.proof._scope import Claim
from valley.theory.naming import AGREES

_SPAN, _MANY = 4, 3  # sentences in a row, and how many of them must be against the song
_OF_PLACE = ("note", "octave", "chord", "hand", "count")
_WHY = "the place of this in the song could not be followed; name its bar or part"


@dataclass(frozen=True)
class Told:
    """The claims of one sentence, from ``first`` to before ``end`` in the list of all; ``placed``: it names its bar or part."""

    first: int
    end: int
    placed: bool


def doubt_where_lost(claims: Sequence[Claim], told: Sequence[Told]) -> list[Claim]:
    """The claims, with nothing held against what stands where the place is lost.

    Parameters
    ----------
    claims : in the order of the sentences
    told : every sentence
    """
    says = [t for t in told if any(c.kind in _OF_PLACE and c.verdict != UNKNOWN for c in claims[t.first : t.end])]
    against = [not t.placed and any(_is_against(c) for c in claims[t.first : t.end]) for t in says]
    lost: set[int] = set()
    for at in range(len(says) - _SPAN + 1):
        window = range(at, at + _SPAN)
        if sum(against[i] for i in window) >= _MANY:
            lost |= {k for i in window if against[i] for k in range(says[i].first, says[i].end)}
    return [replace(c, verdict=UNKNOWN, expected="", message=_WHY) if i in lost and _is_against(c) else c for i, c in enumerate(claims)]


def _is_against(claim: Claim) -> bool:
    return claim.kind in _OF_PLACE and claim.verdict not in (AGREES, UNKNOWN)
