"""How a talk goes on: what a sentence is about where it does not say so itself.

A place that was named holds for what follows, but only until the words fit better somewhere else: whoever teaches goes on to the next bar or chord, or back
to the whole song, without announcing it. So a sentence that names no place and does not fit where the talk was is read again further on, in the part, and by
itself; what fits best is what it meant. One bare note is too little to tell that the talk has moved, unless the place was named a while ago.
"""

from __future__ import annotations

import re
from collections.abc import Iterator
from copy import copy
from dataclasses import dataclass, replace

from valley.fraction import Fraction
from valley.lesson.proof._desk import UNKNOWN, Desk
from valley.lesson.proof._names import NameFinder
from valley.lesson.proof._place import names_place
from valley.lesson.proof._scope import Claim, Context
from valley.lesson.proof._sentence import read_sentence
from valley.lesson.proof._words import BARS, NOT_TUNE, OF_SONG, ROAMS
from valley.theory.naming import AGREES

_A_WHILE = 2  # sentences after which a place is no longer surely meant
_ENOUGH = 2  # claims that agree and so tell that the talk has moved
_ENOUGH_OUTSIDE = 3  # different ones that tell that it has left the part


_THEN = re.compile(r"\W*(?:and |so |okay |ok |now )*(?:then|next|after that)\b", re.IGNORECASE)
# "And we sit on a high E", "it comes to rest on D": the talk has gone on to where it arrives.
_ARRIVES = re.compile(
    r"\b(?:sits?|rests?|lands?|settles?|arrives?|comes? to rest|finish(?:es)?|ends? up|pauses?|lingers?)\b[^.;,]{0,8}?\s(?:on|at)\b", re.IGNORECASE
)
_STAYS = re.compile(
    r"\bhand (?:just |only )?(?:keeps?|still|stays?|remains?)\b|\bmeanwhile\b|\bunderneath\b|\byou (?:play|have|get|hold)\b[^.;]* there\W*$", re.IGNORECASE
)  # the talk is where it was


# "… is the B natural at the end of the verse": pointed to from where the talk is.
_POINTS = re.compile(r"\S \S+ (?:right )?at the (?:very )?(?:end|start|beginning) of the [\w-]+\W*$", re.IGNORECASE)


@dataclass(frozen=True)
class Reading:
    """A sentence read in one place: its claims and what the talk is about after it."""

    claims: tuple[Claim, ...]
    after: Context

    @property
    def against(self) -> int:
        return sum(c.verdict not in (AGREES, UNKNOWN) for c in self.claims)

    @property
    def agreeing(self) -> int:
        return sum(c.verdict == AGREES for c in self.claims)

    def turns(self, first: Reading) -> bool:
        """Whether what was against it elsewhere is right here, and not only passed over."""
        return self.agreeing - first.agreeing >= first.against - self.against

    def finds_chord(self, other: Reading) -> bool:
        """Whether as much is against it as elsewhere, but the chord that is named is here and not there."""
        here, there = ([c.verdict == AGREES for c in r.claims if c.kind == "chord"] for r in (self, other))
        return bool(there) and self.against == other.against and all(here) and not any(there) and len(here) == len(there)

    @property
    def almost(self) -> bool:
        """Whether all but one of three or more names agree; the last may belong to the bar after."""
        return self.against == 1 and self.agreeing >= _ENOUGH and self.claims[-1].verdict == AGREES

    @property
    def chords(self) -> int:
        """Chords that are there as they are named."""
        return sum(c.kind == "chord" and c.verdict == AGREES for c in self.claims)

    @property
    def settled(self) -> bool:
        """Whether no other place can fit better: nothing is against it, and no chord of it is passed over that might be found elsewhere."""
        return not self.against and (self.chords > 0 or all(c.kind != "chord" for c in self.claims))

    @property
    def unknown(self) -> int:
        return sum(c.verdict == UNKNOWN for c in self.claims)

    def knows_more(self, other: Reading) -> bool:
        """Whether what the other passes over is found here: most of what it says, or all and more of a list that ran over the end of a bar there."""
        if other.unknown > other.agreeing:
            return self.agreeing - self.against >= other.agreeing + _ENOUGH
        return self.unknown == 0 and self.agreeing > max(other.agreeing, _ENOUGH_OUTSIDE) and self.against <= 1

    def is_where(self, first: Reading, *, outside: bool, of_hand: bool) -> bool:
        """Whether enough agrees here to say that this is the place: what was against it elsewhere is right here, and more than a bare note is; outside
        the part that the talk was in, a chord, or three notes, four where they are said of one hand."""
        keys = 2 * sum(c.kind == "octave" and c.verdict == AGREES for c in self.claims)  # a note with its octave is one key
        names = len({c.text for c in self.claims if c.verdict == AGREES})
        enough = names >= _ENOUGH_OUTSIDE + of_hand if outside else self.agreeing >= _ENOUGH
        sure = enough or keys > _ENOUGH_OUTSIDE or self.chords > first.chords
        return sure and self.turns(first)


def read_on(desk: Desk, names: NameFinder, age: int) -> int:
    """Read the sentence on the desk where it fits; gives how many sentences ago its place was named.

    Parameters
    ----------
    desk : with the sentence, and the context as the sentence before left it
    names : finds the names in it
    age : sentences since a place was named
    """
    if not desk.sentence.strip():
        read_sentence(desk, names)
        return age
    before = desk.context
    first = _read(desk, names, before)
    placed = names_place(desk) or _STAYS.search(desk.sentence) is not None
    best = first
    if first.against:
        best = _elsewhere(desk, names, first, before, placed=placed, age=age)
    elif first.unknown and not placed:
        best = next((r for place, _ in _places(desk, before) if (r := _read(desk, names, place)).knows_more(first)), first)
    if best.agreeing == best.against == 0 and best.unknown > 1 and (here := _standing(desk, before)):
        there = _read(desk, names, here)
        best = there if 0 < there.agreeing >= there.against else best
    desk.context = best.after
    if _POINTS.search(desk.sentence):
        desk.context = replace(best.after, bars=before.bars, part=before.part, hand=before.hand, grips=before.grips, now=before.now)
    if desk.context.part is None and not desk.context.bars:
        desk.context.part = before.part  # said of the whole song in passing
    desk.context.claims = [*before.claims, *best.claims]
    desk.context.now = _now(desk, before)
    desk.context.opening = desk.context.opening and not best.claims
    desk.context.last_told = tuple(replace(r, start=r.start - len(desk.sentence), end=-1) for r in desk.context.last_told if r.start >= 0)
    return 0 if placed or best is not first else age + 1


def _elsewhere(desk: Desk, names: NameFinder, first: Reading, before: Context, *, placed: bool, age: int) -> Reading:
    """The reading with the fewest slips among those places where enough says that the sentence is meant there; the first where none is."""
    said = desk.sentence
    bare = all(c.kind in ("note", "octave", "hand") for c in first.claims)
    lost = bare and age >= _A_WHILE and bool(before.bars or before.grips)
    of_hand = re.search(r"\b(?:left|right)(?: hand)?\b", said, re.IGNORECASE) is not None
    goes_on = not placed and (_THEN.match(said) or _ARRIVES.search(said)) is not None
    roams, of_song = ROAMS.search(said) is not None, OF_SONG.search(said) is not None
    best = first
    part = next((p for p in desk.scope.chart.parts if p.number == before.part and p.start_bar > 1), None)
    if part is not None and BARS.search(said) and not before.ahead:  # "bar seven" of the part, not of the song
        other = _read(desk, names, replace(before, ahead=part.start_bar - 1))
        other.after.ahead = 0
        inside = all(part.start_bar <= bar <= part.end_bar for bar in other.after.bars)
        if inside and other.against < best.against and other.is_where(first, outside=False, of_hand=False):
            return other
    for place, moved in _places(desk, before):
        if best.settled:
            return best
        if (moved and placed) or (goes_on and best is not first and best.almost and not place.bars):
            continue  # what goes on and fits the next bar but for one note is a slip there, not right somewhere else
        other, same_part = _read(desk, names, place), place.part == before.part
        if not moved or (goes_on and place.bars):  # "then", "next": the bar after is as likely as this one
            free = other.turns(first)
        elif roams and (of_song or same_part) and other.agreeing >= first.agreeing - first.against:
            free = True
        else:
            free = lost and same_part and not place.grips and other.agreeing > 0
        if other.finds_chord(best) or (other.against < best.against and (free or other.is_where(first, outside=_is_far(place, before), of_hand=of_hand))):
            best = other
    return best


def _read(desk: Desk, names: NameFinder, place: Context) -> Reading:
    desk.context = copy(place)
    desk.context.claims = []
    read_sentence(desk, names)
    return Reading(tuple(desk.context.claims), desk.context)


def _places(desk: Desk, before: Context) -> Iterator[tuple[Context, bool]]:
    """Where else a sentence can be meant, the nearest first, and whether the talk has moved to be there."""
    if set(before.alike) > set(before.grips) and before.grips:
        yield replace(before, grips=before.alike), True
    if not _keeps_hand(desk, before):
        yield _at(before, bars=before.bars, part=before.part, hand=None), False
    told = before.bars or ((desk.scope.chart.grid.place(before.now)[0],) if before.now is not None else ())
    after = max(told) + 1 if told else 0
    for hand in (before.hand,) if _keeps_hand(desk, before) else (before.hand, None):
        if told and after <= desk.scope.chart.grid.bars:
            yield _at(before, bars=(after,), part=before.part, hand=hand), True
        yield replace(_at(before, bars=(), part=before.part, hand=hand), grips=()), True
    yield _at(before, bars=(), part=None, hand=None), True


def _keeps_hand(desk: Desk, before: Context) -> bool:
    """Whether the talk has turned to the hand that has the tune, and says nothing of the other or of chords."""
    return before.of_tune and before.hand is not None and NOT_TUNE.search(desk.sentence) is None


def _is_far(place: Context, before: Context) -> bool:
    """Whether a place is another part or all of one or of the song, where a few notes fit by chance."""
    whole = bool(before.grips) and not place.grips and place.bars == before.bars
    return place.part != before.part or whole or (place.part is None and bool(before.bars) and not place.bars)


def _standing(desk: Desk, before: Context) -> Context | None:
    """The chord at which the talk stands, where it has named none since it came to a part."""
    grip = next((g for _, g in desk.scope.grips if before.now is not None and g.start <= before.now < g.end), None)
    return replace(before, grips=(grip,)) if grip and not before.grips and not before.bars else None


def _at(before: Context, *, bars: tuple[int, ...], part: int | None, hand: str | None) -> Context:
    """The context of the sentence before in another place; of what was told last only that it was."""
    same = bars == before.bars and part == before.part
    return replace(before, bars=bars, part=part, hand=hand, grips=before.grips if same else (), alike=(), chord=before.chord if same else None)


def _now(desk: Desk, before: Context) -> Fraction | None:
    """Where the talk stands after a sentence: at the chord or bar that was told, else at the beginning of the part that was named."""
    context, chart = desk.context, desk.scope.chart
    if context.now != before.now:
        return context.now  # a list was told that stands somewhere
    if context.grips and context.grips != before.grips:
        return min(context.grips, key=lambda g: abs(g.start - (before.now or 0))).start
    if context.bars and context.bars != before.bars:
        return chart.grid.bar_start(context.bars[0])
    if context.part is not None and context.part != before.part:
        return next(chart.span(p)[0] for p in chart.parts if p.number == context.part)
    return before.now
