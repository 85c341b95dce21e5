"""A second look at each sentence of a talk: its names where all that was told so far puts them, beside what was made of them in the sentence.

The two readers fail in different places, so that together they tell more than either. How likely a name is a slip follows from both (a logistic regression;
D. Cox, The regression analysis of binary sequences, 1958). Its weights were fitted to the names of fifteen talks, each with the marks of a reader that had not
seen it, and are held against a talk that was left out: see docs/lesson.md.
"""

from __future__ import annotations

import math
import re
from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import TYPE_CHECKING

from valley.lesson.proof._aligned import NOWHERE, Mention, Standing, align
from valley.lesson.proof._desk import UNKNOWN, Desk, overlaps
from valley.lesson.proof._scope import Claim, Found, Scope
from valley.lesson.proof._tracks import Tracks
from valley.lesson.proof._words import BARS, NTH, NTH_LINE, NUMBER, RUN_OF_BARS, THE_ENDING, goes_on, read_count, read_number
from valley.model.arrangement import LEFT, RIGHT
from valley.theory.naming import AGREES, CONTRADICTS

if TYPE_CHECKING:
    from valley.lesson.proof._aligned import Costs

_KINDS = ("note", "octave", "chord", "hand")
_LEFT, _RIGHT = re.compile(r"left|bass", re.IGNORECASE), re.compile(r"right|tune|melody", re.IGNORECASE)
_SPARED, _SHOWN = 0.1, 0.6  # so unlikely a slip is none, so likely a one is told
_DOUBT = (-5.0, 3.0)  # what lies beyond tells no more
_ALONE = -2.6  # how surely other names of a sentence stand where there are none
_WEIGHTS = {
    "always": -1.96,
    "marked": 1.94,
    "passed over": 0.99,
    "doubt": 1.11,
    "nowhere": -1.68,
    "surest beside it": 0.43,
    "others": -0.75,
    "alone": 0.58,
    "marked in a list": 1.54,
    "chord": -0.67,
    "another marked": 0.46,
    "both marked": -1.59,
    "first": -0.55,
    "last": 1.05,
}
# What changes, or is so another time, is held against more than one place.
_CHANGES = re.compile(
    r"\b(?:second|third|last|next|other|this) time\b|\binstead\b|\brather than\b|\b(?:moves?|changes?|swap\w*|becomes?|lifts?|shift\w*)\b"
    r"|\b(?:it's|it’s|is|are) all\b|\bleave\b[^.]* out\b",
    re.IGNORECASE,
)
_BEATS = re.compile(rf"({NUMBER[1:-1]})\s+(?:beats?|counts?)\b", re.IGNORECASE)
_LAST_NOTES = 2
_LETTERS = re.compile(r"\b(?:sections|parts)\W+(?:[A-G]\W+(?:and )?)*$", re.IGNORECASE)  # "two sections, A and B"
_LAST = re.compile(
    r"\bthe (?:very |only )?(?:last|final|highest|lowest)\b|\bat the (?:very )?(?:end|start|beginning) of\b|\b(?:at|on) (?:the )?(?:very )?(?:bottom|top)\b",
    re.IGNORECASE,
)
_COUNTED = (NTH, NTH_LINE, RUN_OF_BARS, THE_ENDING, _LAST)  # a place that the sentence counts to: the talk before it knows no better
_GOES_BACK = re.compile(r"\bback (?:\w+ )?(?:to|into|onto)\s+(?:the\s+|an?\s+)?$", re.IGNORECASE)  # to where another part begins, or this one
_BOTH = re.compile(r"\bhands\b", re.IGNORECASE)


@dataclass(frozen=True)
class Spoken:
    """A sentence and the names in it; ``start`` is its place in what was said, ``loose`` are those that are told by themselves or in lists."""

    text: str
    start: int
    names: tuple[Found, ...] = ()
    loose: tuple[tuple[int, int], ...] = ()


@dataclass(frozen=True)
class Trail:
    """Where a talk can be after a sentence, and what has been said of that: bars and a part since the last name, hand and part that hold,
    and the places of what was told last."""

    costs: Costs | None = None
    bars: tuple[int, ...] = ()
    part: int | None = None
    last_hand: str | None = None
    last_part: int | None = None
    meant: tuple[int, ...] = ()


def look_again(claims: Sequence[Claim], spoken: Spoken, trail: Trail, tracks: Tracks, desk: Desk) -> tuple[list[Claim], Trail]:
    """The claims of a sentence with those marks gone that the talk so far speaks against, and with those slips marked that it shows; and how it goes on."""
    mentions, trail = _mentions(spoken, trail, desk.scope, [(c.start, c.end) for c in claims if c.kind in _KINDS])
    standings, costs = align(tracks, mentions, trail.costs)
    about = [[i for i, c in enumerate(claims) if c.kind in _KINDS and overlaps((m.start, m.end), [(c.start, c.end)])] for m in mentions]
    chances = _chances(mentions, standings, [[claims[i] for i in row] for row in about])
    out = list(claims)
    for mention, standing, chance, row in zip(mentions, standings, chances, about, strict=False):
        marked = any(is_marked(claims[i]) for i in row)
        for i in () if mention.firm else row:
            if is_marked(claims[i]) and chance <= _SPARED:
                out[i] = replace(claims[i], verdict=UNKNOWN, expected="", message="")
            elif not marked and chance > _SHOWN:
                out[i] = _shown(claims[i], standing, desk)
    told = [(m.end, s.meant) for m, s in zip(mentions, standings, strict=False) if s.meant is not None and s.doubt < 0]
    for i, claim in enumerate(out):
        if claim.kind == "count" and is_marked(claim) and (said := _BEATS.match(claim.text)):
            before = [at for end, at in told if end <= claim.start] or trail.meant
            if any(read_number(said[1]) in tracks.lengths(at) for at in before[-_LAST_NOTES:]):  # of a note; its chord may well last longer
                out[i] = replace(claim, verdict=UNKNOWN, expected="", message="")
    return out, replace(trail, costs=costs, meant=tuple(at for _, at in told) or trail.meant)


def _shown(claim: Claim, standing: Standing, desk: Desk) -> Claim:
    item = standing.instead
    if item.chord and claim.kind == "chord":
        right = desk.say_chord(item.chord)
    elif item.midi is not None and claim.kind == "octave":
        right = desk.say_pitch(f"{item.name}{(item.midi - item.name.alter) // 12 - 1}")
    else:
        right = desk.say(item.name)
    return replace(claim, verdict=CONTRADICTS, expected=right, message=f"{right} comes there")


def _chances(mentions: Sequence[Mention], standings: Sequence[Standing], about: Sequence[Sequence[Claim]]) -> list[float]:
    """How likely each name of a sentence is a slip; ``about`` are the claims that are made with each."""
    marked = [any(is_marked(c) for c in row) for row in about]
    doubts = [min(max(s.doubt, _DOUBT[0]), _DOUBT[1]) for s in standings]
    chances = []
    for i, standing in enumerate(standings):
        others = [*doubts[:i], *doubts[i + 1 :]] or [_ALONE]
        beside = any(marked[:i] + marked[i + 1 :])
        seen = {
            "always": 1.0,
            "marked": marked[i],
            "passed over": all(c.verdict == UNKNOWN for c in about[i]),
            "doubt": doubts[i],
            "nowhere": standing.doubt == NOWHERE,
            "surest beside it": min(others),
            "others": sum(others) / len(others),
            "alone": len(doubts) == 1,
            "marked in a list": marked[i] and mentions[i].joined,
            "chord": mentions[i].row.is_chord,
            "another marked": beside,
            "both marked": beside and marked[i],
            "first": i == 0,
            "last": i == len(doubts) - 1,
        }
        chances.append(1.0 / (1.0 + math.exp(-sum(_WEIGHTS[name] * value for name, value in seen.items()))))
    return chances


def is_marked(claim: Claim) -> bool:
    """Whether a claim is held to be wrong, in part at least."""
    return claim.verdict not in (AGREES, UNKNOWN)


def _mentions(spoken: Spoken, trail: Trail, scope: Scope, sayings: Sequence[tuple[int, int]]) -> tuple[list[Mention], Trail]:
    """Every name of a sentence that says something, with what has been said of its place before it; and the trail with what is said here."""
    text, out = spoken.text, list[Mention]()
    if part := scope.find_part(text):
        trail = replace(trail, part=part, last_part=part, last_hand=None)
    here = tuple(read_count(x) for m in BARS.finditer(text) for x in m.groups() if x)
    left, right = _LEFT.search(text) is not None, _RIGHT.search(text) is not None
    hand = None if left == right else LEFT if left else RIGHT
    trail = replace(trail, bars=here or trail.bars, last_hand=hand or (None if left or _BOTH.search(text) else trail.last_hand))
    counted = any(pattern.search(text) for pattern in _COUNTED)
    changes = _CHANGES.search(text) is not None
    starts = [row.start for row in spoken.names]
    before: Found | None = None
    for row in spoken.names:
        joined = before is not None and goes_on(text[before.end : row.start])
        before = row
        span = spoken.start + row.start, spoken.start + row.end
        if not overlaps(span, sayings) or _LETTERS.search(text[: row.start]):
            continue
        several = starts.count(row.start) > 1  # "two Ds": how many there are is what is told
        firm = (
            counted or bool(here) or changes or several or not overlaps((row.start, row.end), spoken.loose) or _GOES_BACK.search(text[: row.start]) is not None
        )
        out.append(Mention(row, *span, trail.bars, trail.part, hand, trail.last_hand, trail.last_part, joined, firm))
        trail = replace(trail, part=None, bars=())
    return out, trail
