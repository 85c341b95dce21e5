"""How long a name is held and on which beat it comes, as it is said beside it: "a long B, one beat", "two beats on G", "the first two are quarter notes"."""

from __future__ import annotations

import re
from collections.abc import Sequence
from dataclasses import dataclass

from valley.fraction import Fraction
from valley.lesson.proof._words import NUMBER, ORDINALS, VALUE, VALUES, read_number

LENGTH, BEAT, WHOLE_BAR = "length", "beat", "whole bar"
ALL = 99  # of the names told before a sentence
_N = NUMBER[1:-1]
_SMALL = "one|two|three|four|five|six|eight|1|2|3|4|5|6|8"
_ONE_TO_SEVEN = r"(?P<n>one|two|three|four|five|six|[1-7])"
_PHRASES = (
    (
        LENGTH,
        rf"(?<!beat )(?<!beats )(?<!count )(?<!first )(?<!last )(?<!next )(?<!every )(?<!other )(?<!after )(?<!in )(?<!about )"
        rf"\b(?P<n>{_N})\s+(?:more |full |whole |slow |long )?(?:beats?|counts?)\b"
        rf"(?!\s+(?:later|earlier|before|after|early|late|in\b|a bar|per|to the|to a|apart|are|is|of (?:the|a|each|every) (?:bar|measure)|rest))",
    ),
    (
        LENGTH,
        rf"(?<!\bin )\b(?:(?P<many>{_N}) )?(?P<value>{VALUE})s?\b"
        r"(?!\s+(?:rest|triplet|later?|early|before|after|higher|lower|pattern|feel|pulse|bar|time|as the|gets the|equals))",
    ),
    (LENGTH, rf"\bfor (?P<n>{_SMALL})\b(?=\s*(?:[,.;!]|$|and\b|then\b|with\b))"),
    (
        WHOLE_BAR,
        r"\b(?:hold|held|holds|rings?|ringing|lasts?|stays?|sits?|sounds?|sustain\w*|takes? up|fills?)\b[^.;,]{0,24}?"
        r"\b(?P<said>(?:the|that|a|one) (?:whole|entire|full) (?:\w+ )?(?:bar|measure))\b",
    ),
    (
        BEAT,
        rf"\bon (?:the )?(?P<and>and of )?(?:beat |count )?{_ONE_TO_SEVEN}(?P<and2> and)?\b"
        r"(?=\s*(?:[,.;!]|$|you\b|we\b|it\b|and\b|there|this|with))(?! and\b.{0,14}(?:one|two|three|four)\b)",
    ),
    (BEAT, rf"\bon (?:the )?(?P<and>and of )?(?:beat|count) {_ONE_TO_SEVEN}\b(?! and (?:one|two|three|four)\b)"),
    (BEAT, rf"\bfrom the (?P<and>and of ){_ONE_TO_SEVEN}\b"),
    (BEAT, rf"\bon the (?P<nth>{'|'.join(ORDINALS)}) (?:beat|count)\b"),
)
_PATTERNS = tuple((kind, re.compile(words, re.IGNORECASE)) for kind, words in _PHRASES)
_EACH = re.compile(r"\s*(?:each|apiece)\b", re.IGNORECASE)
_BOTH = re.compile(r"\b(?:both|those two|these two|(?:those|these|the) last two|the two of them)\b", re.IGNORECASE)
_BOTH_ARE = re.compile(r"\bboth\b[^.;]{0,12}$", re.IGNORECASE)
_THESE = re.compile(r"\b(?:these|those|they|each|every|all)\b", re.IGNORECASE)
_THAT = re.compile(r"\b(?:it|that|this|there|one|the (?:octave|note|chord|last one))\b", re.IGNORECASE)
_ALL_OF_THEM = re.compile(r"\s*(?:on|for|to) (?:each|every|all)(?: single)?(?: one)? of (?:those|them|these)\b", re.IGNORECASE)
_ON_NEXT = re.compile(r"\s*(?:on|of|for)\s+(?:the\s+|an?\s+|that\s+)?(?:(?:low|high|long)\s+)?$", re.IGNORECASE)
_BEGINS = re.compile(r"(?:^|[,:]|\b(?:and|then|but|so))\s*$", re.IGNORECASE)
_STOP = re.compile(r"[.;:]")
_LONGEST = 16  # beats; more is a tempo
_THAT_ONE = re.compile(r"\W*(?:and |so |now |then |but )*(?:that|this|it|hold (?:it|that|this))\b", re.IGNORECASE)
_FIRST_TWO = re.compile(r"\bfirst (?:two|three|few|couple)\b", re.IGNORECASE)
_CHORD = re.compile(r"\s+chord\b", re.IGNORECASE)  # it may be struck again while it lasts
_NEAR = 60  # letters between a name and what is said of it


@dataclass(frozen=True)
class SpokenFact:
    """``start`` and ``end`` are letters of the sentence; ``names`` the places of the names it is said of among those of the sentence, ``before`` how many
    of those told before it are meant instead, ``ALL`` for every one."""

    kind: str
    start: int
    end: int
    value: Fraction
    names: tuple[int, ...] = ()
    before: int = 0


def find_facts(text: str, spans: Sequence[tuple[int, int]], quarters_per_beat: Fraction) -> list[SpokenFact]:
    """Lengths and beats that a sentence tells, each with the names that it is said of.

    Parameters
    ----------
    text : one sentence
    spans : letters of its names, in their order
    quarters_per_beat : for values of notes
    """
    found: list[SpokenFact] = []
    for kind, pattern in _PATTERNS:
        for m in pattern.finditer(text):
            group = m.groupdict()
            span = m.span("said") if group.get("said") else m.span("value") if group.get("value") else m.span()
            if kind == BEAT:
                span = m.start(next(g for g in ("and", "n", "nth") if group.get(g))), m.end()
            if kind == LENGTH and group.get("n") and text[m.start() :].lower().startswith("for "):
                span = m.start(), m.end()
            if any(span[0] < f.end and f.start < span[1] for f in found) or any(span[0] < b and a < span[1] for a, b in spans):
                continue
            value = _value(group, quarters_per_beat)
            if value > _LONGEST:
                continue
            names, before = _said_of(kind, text, m.start(), m.end(), spans, group)
            if (names or before) and not any(_CHORD.search(text[spans[i][0] : spans[i][1] + len(" chord")]) for i in names):
                found.append(SpokenFact(kind, *span, value, names, before))
    return found


def _value(group: dict[str, str | None], quarters_per_beat: Fraction) -> Fraction:
    if nth := group.get("nth"):
        return Fraction(ORDINALS.index(nth.lower()) + 1)
    if value := group.get("value"):
        return Fraction(VALUES[value.lower()]) / quarters_per_beat
    if number := group.get("n"):
        return read_number(number) + (Fraction(1, 2) if group.get("and") or group.get("and2") else 0)
    return Fraction(0)


def _said_of(kind: str, text: str, start: int, end: int, spans: Sequence[tuple[int, int]], group: dict[str, str | None]) -> tuple[tuple[int, ...], int]:
    """The names of the sentence that something is said of, or how many before it."""
    earlier = [i for i, (_, b) in enumerate(spans) if b <= start and not _STOP.search(text[b:start]) and start - b <= _NEAR]
    later = [i for i, (a, _) in enumerate(spans) if a >= end and not _STOP.search(text[end:a]) and a - end <= _NEAR]
    if kind == BEAT:
        return _comes_then(text, start, end, spans, earlier, later), 0
    if later and _ON_NEXT.fullmatch(text[end : spans[later[0]][0]]):
        return (later[0],), 0
    clause = text[:start]
    if _ALL_OF_THEM.match(text[end:]):
        return (), 0 if earlier else ALL
    if (many := group.get("many")) and (number := int(read_number(many))) > 1:
        told = earlier[-number:] if len(earlier) >= number else later[:number]  # "four half notes" behind a list, "two minims, G and E" before it
        return tuple(told) if len(told) == number else (), 0
    if _EACH.match(text[end:]) or (_BOTH.search(clause) and not earlier) or _BOTH_ARE.search(clause):
        return tuple(_list_before(text, earlier, spans)) if earlier else (), 2 if not earlier and _BOTH.search(clause) else 0
    return ((earlier[-1],), 0) if earlier else ((), _before(clause, alone=not later or _THAT_ONE.match(clause) is not None))


def _comes_then(text: str, start: int, end: int, spans: Sequence[tuple[int, int]], earlier: Sequence[int], later: Sequence[int]) -> tuple[int, ...]:
    """What comes on a beat: "on four you fall to E", else the name before it, with no comma between."""
    after = bool(later) and "," not in text[end : spans[later[0]][0]][1:]
    if after and _BEGINS.search(text[:start]):
        return (later[0],)
    if earlier and "," not in text[spans[earlier[-1]][1] : start]:
        return (earlier[-1],)
    return (later[0],) if after else ()


def _before(clause: str, *, alone: bool) -> int:
    """How many of the names before a sentence are meant where it says something without one."""
    if _FIRST_TWO.search(clause):
        return 0
    if _THESE.search(clause):
        return 2 if re.search(r"\btwo\b", clause, re.IGNORECASE) else 0
    return 1 if alone and (_THAT.search(clause) or not clause.strip()) else 0


def _list_before(text: str, earlier: Sequence[int], spans: Sequence[tuple[int, int]]) -> list[int]:
    """The names of the list that ends with the last of some."""
    out = [earlier[-1]]
    for i in reversed(earlier[:-1]):
        if not re.fullmatch(r"[\s,]*(?:and|then|with|to)?[\s,]*(?:an?|the)?\s*", text[spans[i][1] : spans[out[-1]][0]], re.IGNORECASE):
            break
        out.append(i)
    return out[::-1]
