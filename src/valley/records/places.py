"""Where in a lesson a viewer points, and what they set right: "bar 12 should be Am, not A"."""

from __future__ import annotations

import re
from dataclasses import dataclass
from typing import Final

from valley.errors import FormatError
from valley.theory.chord import Chord, parse_symbol


@dataclass(frozen=True)
class Place:
    """Numbers that are named; ``seconds`` is a time in the video. Empty where none is."""

    bar: int | None = None
    step: int | None = None
    part: int | None = None
    seconds: int | None = None
    words: str = ""

    def __bool__(self) -> bool:
        return bool(self.words)


_BAR: Final = re.compile(r"\b(?:bars?|measures?|m\.|b\.)\s?#?(\d{1,3})\b|\b(\d{1,3})(?:st|nd|rd|th) (?:bar|measure)\b", re.I)
_STEP: Final = re.compile(r"\bstep\s?#?(\d{1,3})\b", re.I)
_PART: Final = re.compile(r"\bpart\s?#?(\d{1,2})\b", re.I)
_TIME: Final = re.compile(r"\b(?:(\d):)?(\d{1,2}):(\d{2})\b")
_FAULT: Final = re.compile(
    r"\b(?:should (?:be|have|say|read)|supposed to be|must (?:be|have)|has to be|mistakes?|errors?|wrong|typo|incorrect|not right"
    r"|mis(?:named|spelled|spelt|took|heard)|isn'?t (?:that|it|this)|(?:is|are)n'?t right|instead of|rather than|is missing|missing the|misses"
    r"|(?:is|are) off|(?:are you|pretty) sure|not sure about|i hear|but (?:you )?play|you (?:said|say|wrote|show|forgot|count)|in the recording"
    r"|there are only|impossible|swapped|mixed up|other way round|one octave (?:too|off)"
    r"|(?:do|does)n'?t (?:match|fit|add up|go up|ascend|sound right)|correction|uses)\b",
    re.I,
)
_QUALITY: Final = r"maj7|maj9|maj|min7|min|m7b5|m7|m6|m9|m|7sus4|sus4|sus2|sus|dim7|dim|aug|add9|13|11|6|7|9|major seven(?:th)?|minor seven(?:th)?|major|minor"
# A note or chord: a capital letter, its sign in letters or words, its quality.
_NAME: Final = re.compile(
    r"(?<![\w'’#♯♭])([A-H])(\s?(?:#|♯|♭|b(?![a-ln-z]|m[b-hj-z])|[- ]?(?:sharp|flat|natural)\b))?"
    rf"(\s?(?:{_QUALITY})(?![\w]))?(/[A-G][#b]?)?(?![\w'’#])"
)
_SAID_BEFORE: Final = re.compile(
    r"(?:\bnot(?: an?| the)?|n'?t(?: an?)?|instead of(?: an?| the)?|rather than(?: an?)?"
    r"|you (?:said|say|wrote|write|show|play|have|named it|call it)(?: it)?(?: an?| the)?"
    r"|(?<!be a )(?<!is a )plain|has an?|says?|the chart says|misnamed the chord)\s*$",
    re.I,
)
_SAID_AFTER: Final = re.compile(r"^\s*(?:in bar \d+ |at \d+:\d+ |there )?(?:is|should be|must be)\s+(?:really )?(?:an? )?[A-H]|^\s*where the recording", re.I)
_ARTICLE_TO_NOTE: Final = re.compile(r"\b(?:be|is|an|it'?s)\s*$")


def find_place(text: str) -> Place:
    """The first bar, step, part and time that are named.

    >>> find_place("At 1:23 in part 2 you say B flat")
    Place(bar=None, step=None, part=2, seconds=83, words='part 2, 1:23')
    """
    bar, step, part = (int(next(filter(None, m.groups()))) if (m := p.search(text)) else None for p in (_BAR, _STEP, _PART))
    time = _TIME.search(text)
    seconds = int(time.group(1) or 0) * 3600 + int(time.group(2)) * 60 + int(time.group(3)) if time else None
    words = [f"{name} {n}" for name, n in (("bar", bar), ("step", step), ("part", part)) if n is not None]
    return Place(bar, step, part, seconds, ", ".join([*words, *([time.group()] if time else [])]))


def says_fault(text: str) -> bool:
    """Whether the words doubt something or name a mistake."""
    return bool(_FAULT.search(text)) or any(find_set_right(text)) and bool(re.search(r"\bnot\b", text, re.I))


def find_set_right(text: str) -> tuple[tuple[str, ...], tuple[str, ...]]:
    """Notes and chords as (what they should be, what was said), as symbols.

    >>> find_set_right("bar 7 should be A minor, not A")
    (('Am',), ('A',))
    >>> find_set_right("the Bb in bar 17 is a B natural in the recording")
    (('B',), ('Bb',))
    """
    wanted: list[str] = []
    said: list[str] = []
    for match in _NAME.finditer(text):
        before, after = text[: match.start()], text[match.end() :]
        is_letter = _SAID_BEFORE.search(before) or _ARTICLE_TO_NOTE.search(before)
        if match.group().strip() == "A" and re.match(r"\s+[a-z]", after) and not is_letter:
            continue  # the article
        symbol = _as_symbol(match)
        if symbol is None:
            continue
        side = said if _SAID_BEFORE.search(before) or _SAID_AFTER.match(after) else wanted
        if symbol not in side:
            side.append(symbol)
    return tuple(wanted), tuple(said)


def _as_symbol(match: re.Match[str]) -> str | None:
    letter, sign, quality, bass = (g or "" for g in match.groups())
    sign = {"#": "#", "♯": "#", "♭": "b", "b": "b"}.get(sign.strip(), "#" if "sharp" in sign else "b" if "flat" in sign else "")
    words = {"major": "", "minor": "m", "major seventh": "maj7", "major seven": "maj7", "minor seventh": "m7", "minor seven": "m7", "min": "m", "maj": ""}
    symbol = f"{letter}{sign}{words.get(quality.strip(), quality.strip())}{bass}"
    return symbol if read_symbol(symbol) else None


def read_symbol(symbol: str) -> Chord | None:
    try:
        return parse_symbol(symbol)
    except FormatError:
        return None
