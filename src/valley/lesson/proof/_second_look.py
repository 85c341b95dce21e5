"""A second look at each sentence of a talk: its names where all that was told so far puts them, beside what was made of them in the sentence.

The two readers fail in different places, so that together they tell more than either. How likely a name is a slip follows from both (a logistic regression;
D. Cox, The regression analysis of binary sequences, 1958). Its weights were fitted to the names of twenty-one talks, each with the marks of a reader that had
not seen it, and held against talks that were left out: see docs/lesson.md.
"""

from __future__ import annotations

import math
import re
from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import TYPE_CHECKING

from valley.fraction import Fraction
from valley.lesson.proof._aligned import NOWHERE, Mention, Standing, align
from valley.lesson.proof._desk import UNKNOWN, Desk, overlaps
from valley.lesson.proof._facts_again import look_at_facts, rate_fact
from valley.lesson.proof._place import turns_to_voice
from valley.lesson.proof._scope import Claim, Found, Scope
from valley.lesson.proof._shapes_again import look_at_shapes
from valley.lesson.proof._spoken_facts import find_facts
from valley.lesson.proof._tracks import Tracks
from valley.lesson.proof._words import BARS, NTH, NTH_LINE, RUN_OF_BARS, THE_ENDING, goes_on, read_count
from valley.model.arrangement import LEFT, RIGHT
from valley.theory.key import Key
from valley.theory.naming import AGREES, CONTRADICTS, PARTLY

if TYPE_CHECKING:
    from valley.lesson.proof._aligned import Costs

_KINDS = ("note", "octave", "chord", "hand")
_LEFT, _BELOW = re.compile(r"left|bass|accompan", re.IGNORECASE), re.compile(r"\bunder(?:neath)?\b|\bbelow\b", re.IGNORECASE)
_TUNE = re.compile(r"\b(?:tune|melody)\b", re.IGNORECASE)
_RIGHT = re.compile(r"\bright\b|tune|melody|\bsing|\bon top\b|\bvocal", re.IGNORECASE)
# So likely a slip is told: where nothing was marked, where the first reader found it right, and where a place is counted to or a fact told, which it mostly
# knows best. So unlikely a one that was marked is spared.
_SHOWN, _SHOWN_AGREEING, _SHOWN_FIRM = 0.5, 0.6, 0.93
_SPARED, _SPARED_FIRM = 0.4, 0.15
_SURE = 0.85  # so likely a slip it is called one; below, it is to be listened to again
_DOUBT = (-5.0, 4.0)  # what lies beyond tells no more
_NEW, _MOST_STRAIN = 0.25, 3.0  # the share of the last sentence in the strain
_ALONE = -2.6  # how surely other names of a sentence stand where there are none
_BESIDE = (1, 2, 10, 11)  # half steps to a key beside the right one, as slips mostly are
_WEIGHTS = {
    "always": -1.5,
    "doubt": 1.34,
    "doubt below nothing": 0.51,
    "agrees": -0.65,
    "marked note": 0.54,
    "marked hand": 1.18,
    "marked in a list": 1.73,
    "marked where counted": 0.26,
    "marked as others": -1.44,
    "marked in part": -0.72,
    "others": -0.3,
    "alone": 0.22,
    "last": 1.55,
    "doubt of the last": 0.45,
    "chord": -1.25,
    "several": 1.58,
    "beside": 0.97,
    "fact that agrees": -0.99,
    "doubt of a fact": -0.84,
    "fact nowhere": -1.14,
    "strain": -0.61,
    "doubt under strain": -0.76,
    "marked under strain": 0.75,
}
# What changes, or is so another time, is held against more than one place.
_CHANGES = re.compile(
    r"\b(?:second|third|last|next|other|this) time\b|\binstead\b|\brather than\b|\b(?:moves?|changes?|swap\w*|becomes?|lifts?|shift\w*)\b"
    r"|\b(?:it's|it’s|is|are) all\b|\bleave\b[^.]* out\b",
    re.IGNORECASE,
)
_LETTERS = re.compile(r"\b(?:sections|parts)\W+(?:[A-G]\W+(?:and )?)*$", re.IGNORECASE)  # "two sections, A and B"
_LAST = re.compile(
    r"\bthe (?:very |only )?(?:last|final|highest|lowest)\b|\bat the (?:very )?(?:end|start|beginning)\b|\b(?:at|on) (?:the )?(?:very )?(?:bottom|top)\b",
    re.IGNORECASE,
)
_STAYS = re.compile(r"\b(?:keeps?|still|remains?|beat (?:one|two|three|four|\d)|[Aa]fter (?:the|that) [A-G]|(?:starts?|begins?|opens?) (?:on|with|from))\b")
_COUNTED = (_STAYS, NTH, NTH_LINE, RUN_OF_BARS, THE_ENDING, _LAST)  # a place that the sentence counts to: the talk before it knows no better
# "A C seventh chord has C, E, G": any; "walks G, A, B back up to the C": where another part begins, or this one.
_ELSEWHERE = re.compile(r"\b[Aa]n? [A-G][\w ]{0,16} chord has\b|\bback (?:\w+ )?(?:to|into|onto)\s+(?:the\s+|an?\s+)?$")
# "That's our way into the verse", "which is where the chorus starts": it is told before that.
_LEADS = re.compile(
    r"\b(?:(?:into|(?:back|on) to) (?:the|our) [\w-]+|(?:where|when|before|until) (?:the|our) [\w-]+ (?:starts|begins|comes in|kicks in))\W*$", re.IGNORECASE
)
_BEGINS = re.compile(
    r"\b(?:we|it|you|they|she|he|tune|melody|singer|hand|right|left) (?:just |always )?(?:starts?|begins?|comes? in|kicks? off|sets? off) (?:on|with|from)\b",
    re.IGNORECASE,
)
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
    whether the talk has just turned to the other hand and told nothing of it yet, the places of what was told last, and what its
    names have cost lately, each: a talk that follows no line is not held to one."""

    costs: Costs | None = None
    bars: tuple[int, ...] = ()
    part: int | None = None
    last_hand: str | None = None
    last_part: int | None = None
    turned: bool = False
    meant: tuple[int, ...] = ()
    strain: float = 0.6


def look_again(claims: Sequence[Claim], spoken: Spoken, trail: Trail, tracks: Tracks, desk: Desk) -> tuple[list[Claim], Trail]:
    """The claims of a sentence with those marks gone that the talk so far speaks against, and with those slips marked that it shows; and how it goes on."""
    before = trail
    mentions, trail = _mentions(spoken, trail, desk.scope, [(c.start, c.end) for c in claims if c.kind in _KINDS])
    beat = desk.scope.chart.grid.main_meter.quarters_per_beat
    facts = find_facts(spoken.text, [(m.row.start, m.row.end) for m in mentions], beat)
    mentions = [replace(m, facts=tuple(f for f in facts if i in f.names)) for i, m in enumerate(mentions)]
    standings, costs = align(tracks, mentions, trail.costs)
    about = [[i for i, c in enumerate(claims) if c.kind in _KINDS and overlaps((m.start, m.end), [(c.start, c.end)])] for m in mentions]
    chances = _chances(mentions, standings, [[claims[i] for i in row] for row in about], trail.strain)
    told = tuple(s.meant for s in standings if s.meant is not None and s.doubt < 0)
    after = replace(trail, costs=costs, meant=told or trail.meant, strain=_strain(trail.strain, standings))
    out = _names_again(claims, about, mentions, standings, chances, spoken, desk, first=before.costs is None)
    counted = any(m.counted for m in mentions)
    rated = [(f, r) for f in facts if (f.names or not trail.bars) and (r := rate_fact(f, standings, before.costs, before.meant, tracks))]
    rated = [(f, r) for f, r in rated if r.doubt > 0 or not (counted and f.names == (0,))]
    out = look_at_facts(out, spoken.text, spoken.start, rated, beat)
    out = look_at_shapes(out, spoken.text, spoken.start, mentions, standings, tracks, desk)
    sure = [(m.start, m.end) for m, chance in zip(mentions, chances, strict=True) if chance > _SURE or m.bars]
    return sorted((replace(c, sure=_is_sure(c, sure)) for c in out), key=lambda c: c.start), after


def _is_sure(claim: Claim, names: Sequence[tuple[int, int]]) -> bool:
    """Whether a claim is a slip in all likelihood. ``names`` are those that are most likely one, or are told of a bar by its number; lengths and counts
    are often told loosely, other facts are not."""
    if claim.verdict != CONTRADICTS or claim.kind == "count":  # what is right in part may be meant so
        return False
    if claim.kind not in _KINDS:
        return True
    return overlaps((claim.start, claim.end), names)


def _names_again(
    claims: Sequence[Claim],
    about: Sequence[Sequence[int]],
    mentions: Sequence[Mention],
    standings: Sequence[Standing],
    chances: Sequence[float],
    spoken: Spoken,
    desk: Desk,
    *,
    first: bool,
) -> list[Claim]:
    """The claims with those marks of names gone that are unlikely, and with those slips marked that are likely; ``about`` are the claims of each name.

    Where nothing was told before (``first``), only what is nowhere in the song can be a slip.
    """
    out = list(claims)
    of_key = any(c.kind == "key" for c in claims)
    whole = {i for i in range(len(claims)) if sum(i in row for row in about) > 1}  # said of several names together
    spared = set[int]()
    for mention, standing, chance, row in zip(mentions, standings, chances, about, strict=True):
        own = [i for i in row if i not in whole]
        mine = [claims[i] for i in own]
        if first and (standing.doubt != NOWHERE or mention.row.is_chord or mention.of_fact):
            spared.update(i for i in own if of_key and is_marked(claims[i]) and _leads_home(mention.row, desk.scope.chart.key_at(Fraction(0))))
            continue
        if chance <= (_SPARED_FIRM if mention.firm else _SPARED):
            spared.update(i for i in row if is_marked(claims[i]))
        elif (
            own
            and not any(is_marked(c) for c in mine)
            and chance > _least_shown(mention, standing, mine)
            and not _ELSEWHERE.search(spoken.text[: mention.row.start])
        ):
            spared.update(i for i in row if i in whole and is_marked(claims[i]))  # the one name that is wrong among them says it better
            out = [_shown(c, standing, desk) if i in own else c for i, c in enumerate(out)]
    return [replace(c, verdict=UNKNOWN, expected="", message="") if i in spared else c for i, c in enumerate(out)]


def _leads_home(row: Found, key: Key) -> bool:
    """Whether a note is the raised seventh of a minor key, which no signature has: "in G minor, and sometimes an F sharp"."""
    return key.mode == "minor" and row.name.pitch_class == (key.tonic.pitch_class - 1) % 12


def _strain(before: float, standings: Sequence[Standing]) -> float:
    """What names cost lately, with those of one sentence more."""
    if not standings:
        return before
    return (1 - _NEW) * before + _NEW * min(float(standings[-1].through.min()) / len(standings), _MOST_STRAIN)


def _least_shown(mention: Mention, standing: Standing, claims: Sequence[Claim]) -> float:
    """How likely a slip must be to be told where the first reader marked nothing."""
    agrees = [c for c in claims if c.verdict == AGREES]
    if standing.doubt == NOWHERE and any(c.kind == "chord" for c in agrees):
        return 1.0  # the chord is told more plainly than it is written
    if any(c.kind in ("chord", "octave") for c in agrees):
        return _SHOWN_FIRM  # more than a bare name is right
    return _SHOWN_FIRM if mention.firm else _SHOWN_AGREEING if agrees else _SHOWN


def _shown(claim: Claim, standing: Standing, desk: Desk) -> Claim:
    item = standing.instead
    if item.chord and claim.kind == "chord":
        right = desk.say_chord(item.chord)
    elif item.midi is not None and claim.kind == "octave":
        right = desk.say_pitch(f"{item.name}{(item.midi - item.name.alter) // 12 - 1}")
    else:
        right = desk.say(item.name)
    return replace(claim, verdict=CONTRADICTS, expected=right, message=f"{right} comes there")


def _chances(mentions: Sequence[Mention], standings: Sequence[Standing], about: Sequence[Sequence[Claim]], strain: float) -> list[float]:
    """How likely each name of a sentence is a slip; ``about`` are the claims that are made with each, ``strain`` is that of the talk before."""
    marked = [any(is_marked(c) for c in row) for row in about]
    doubts = [min(max(s.doubt, _DOUBT[0]), _DOUBT[1]) for s in standings]
    chances = []
    for i, standing in enumerate(standings):
        others = [*doubts[:i], *doubts[i + 1 :]] or [_ALONE]
        kinds = {c.kind for c in about[i] if is_marked(c)}
        mention, agrees = mentions[i], any(c.verdict == AGREES for c in about[i])
        seen = {
            "always": 1.0,
            "doubt": doubts[i],
            "doubt below nothing": min(doubts[i], 0.0),
            "agrees": agrees,
            "marked note": "note" in kinds,
            "marked hand": "hand" in kinds,
            "marked in a list": marked[i] and mention.joined,
            "marked where counted": marked[i] and mention.counted,
            "marked as others": marked[i] and any(marked[:i] + marked[i + 1 :]),
            "marked in part": any(c.verdict == PARTLY for c in about[i]),
            "others": sum(others) / len(others),
            "alone": len(doubts) == 1,
            "last": i == len(doubts) - 1,
            "doubt of the last": doubts[i] * (i == len(doubts) - 1),
            "chord": mention.row.is_chord,
            "several": mention.several,
            "beside": (mention.row.name.pitch_class - standing.instead.name.pitch_class) % 12 in _BESIDE,
            "fact that agrees": mention.of_fact and agrees,
            "doubt of a fact": mention.of_fact * doubts[i],
            "fact nowhere": mention.of_fact and standing.doubt == NOWHERE,
            "strain": strain,
            "doubt under strain": strain * doubts[i],
            "marked under strain": strain * marked[i],
        }
        chances.append(1.0 / (1.0 + math.exp(-sum(_WEIGHTS[name] * value for name, value in seen.items()))))
    return chances


def is_marked(claim: Claim) -> bool:
    """Whether a claim is held to be wrong, in part at least."""
    return claim.verdict not in (AGREES, UNKNOWN)


def _mentions(spoken: Spoken, trail: Trail, scope: Scope, sayings: Sequence[tuple[int, int]]) -> tuple[list[Mention], Trail]:
    """Every name of a sentence that says something, with what has been said of its place before it; and the trail with what is said here."""
    text, out = spoken.text, list[Mention]()
    after: int | None = None
    part = scope.find_part(text)
    if part and _LEADS.search(text):
        after, part = part, None
    if part is None and turns_to_voice(text) == "tune" and (there := scope.part_with_tune(trail.last_part)) != trail.last_part:
        part = there
    if part:
        trail = replace(trail, part=part, last_part=part, last_hand=None)
    here = tuple(read_count(x) + scope.ahead_of(text) for m in BARS.finditer(text) for x in m.groups() if x)
    left, right = _LEFT.search(text) is not None, _RIGHT.search(text) is not None
    hand = None if left == right else LEFT if left else RIGHT
    if not left and not right and _BELOW.search(text):
        hand = LEFT
    turns = (hand is not None and hand != trail.last_hand) or (trail.turned and hand in (None, trail.last_hand)) or _BEGINS.search(text) is not None
    trail = replace(trail, bars=here or trail.bars, last_hand=hand or (None if left or _BOTH.search(text) else trail.last_hand))
    counted = bool(here) or any(pattern.search(text) for pattern in (*_COUNTED, _CHANGES))
    starts = [row.start for row in spoken.names]
    before: Found | None = None
    for row in spoken.names:
        joined = before is not None and goes_on(text[before.end : row.start])
        before = row
        span = spoken.start + row.start, spoken.start + row.end
        if not overlaps(span, sayings) or _LETTERS.search(text[: row.start]):
            continue
        mention = Mention(row, *span, trail.bars, trail.part, hand, trail.last_hand, trail.last_part, joined, counted)
        several, of_fact = starts.count(row.start) > 1, not overlaps((row.start, row.end), spoken.loose)
        out.append(replace(mention, several=several, of_fact=of_fact, turns=turns and not out, of_tune=_TUNE.search(text) is not None))
        trail = replace(trail, part=None, bars=())
    trail = replace(trail, turned=turns and not out)
    return out, replace(trail, part=after, last_part=after, last_hand=None) if after else trail
