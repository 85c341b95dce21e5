"""Chord qualities of any stack: read from what people write and from Harte's degrees, each written one way only.

A quality is its degrees above the root, "1 b3 5 b7 9". The common ones stand in a table; every other stack of added, altered, suspended and
omitted members is put together here: C. Harte, "Towards Automatic Extraction of Harmony Information", 2010, for the label (shorthand with
degrees in brackets), and the lead-sheet habit for the symbol: triad, extension, suspension, then what is altered, added, left out.
"""

from __future__ import annotations

import re
from collections.abc import Iterable
from functools import lru_cache
from typing import Final

from valley.theory._chord_table import ALIASES, BY_HARTE, QUALITIES, Quality

FIFTHS: Final = {
    **{"1": 0, "b3": -3, "3": 4, "2": 2, "4": -1, "b5": -6, "5": 1, "#5": 8, "b6": -4, "6": 3, "bb7": -9, "b7": -2, "7": 5},
    **{"b9": -5, "9": 2, "#9": 9, "11": -1, "#11": 6, "b13": -4, "13": 3},
}
# Harte's shorthands as degrees, widest last, so that the last one that fits leaves least to say.
SHORTHAND: Final = {
    "5": "1 5",
    "maj": "1 3 5",
    "min": "1 b3 5",
    "dim": "1 b3 b5",
    "aug": "1 3 #5",
    "sus2": "1 2 5",
    "sus4": "1 4 5",
    "maj6": "1 3 5 6",
    "min6": "1 b3 5 6",
    "7": "1 3 5 b7",
    "maj7": "1 3 5 7",
    "min7": "1 b3 5 b7",
    "minmaj7": "1 b3 5 7",
    "hdim7": "1 b3 b5 b7",
    "dim7": "1 b3 b5 bb7",
    "9": "1 3 5 b7 9",
    "maj9": "1 3 5 7 9",
    "min9": "1 b3 5 b7 9",
    "11": "1 3 5 b7 9 11",
    "min11": "1 b3 5 b7 9 11",
    "13": "1 3 5 b7 9 13",
}
_SAME: Final = {"b2": "b9", "2": "9", "#2": "#9", "b10": "#9", "b4": "3", "#4": "#11", "b12": "b5", "#12": "#5", "#13": "b7"}
_ALTERED: Final = frozenset(("1", "3", "b7", "b9", "#9", "#11", "b13"))
_ALTERATIONS: Final = ("b5", "#5", "b6", "b9", "#9", "#11", "b13")
_ADDABLE: Final = ("4", "6", "9", "11", "13", "b7", "7")
_ORDER: Final = ("1", "b3", "3", "2", "4", "b5", "5", "#5", "b6", "6", "bb7", "b7", "7", "b9", "9", "#9", "11", "#11", "b13", "13")
# Of these a chord has one at most.
_ONE_OF: Final = tuple(
    frozenset(group.split())
    for group in ("b3 3", "b5 5 #5", "bb7 b7 7", "9 b9", "9 #9", "2 b9", "2 #9", "11 #11", "4 #11", "13 b13", "6 b6", "6 b13", "b6 b13")
)
_BY_SUFFIX: Final = {q.suffix: q for q in QUALITIES} | {alias: BY_HARTE[h] for alias, h in ALIASES.items()}


def _settle(degrees: frozenset[str]) -> tuple[str, ...] | None:
    """Degrees from the root up, each under its usual name; None where two of them are one key or nothing stands above the root."""
    third = bool({"3", "b3"} & degrees)
    seventh = bool({"b7", "7"} & degrees)
    named = set()
    for degree in degrees:
        if degree == "2" and not third:
            named.add(degree)
        elif degree in ("6", "b6") and seventh:
            named.add({"6": "13", "b6": "b13"}[degree])
        else:
            named.add(_SAME.get(degree, degree))
    if not named <= set(_ORDER) or ("bb7" in named and not {"b3", "b5"} <= named) or "1" not in named or len(named) < 2:
        return None
    if any(len(named & group) > 1 for group in _ONE_OF) or len({FIFTHS[d] % 12 for d in named}) < len(named):
        return None
    order = [*_ORDER]
    if third:  # beside a third the fourth is an added note: it comes last
        order.remove("4")
        order.append("4")
    return tuple(d for d in order if d in named)


@lru_cache(maxsize=4096)
def quality_of_harte(text: str) -> Quality | None:
    """The quality that a Harte shorthand with its degrees stands for, None where it is none.

    Parameters
    ----------
    text : what stands behind the colon: "min7", "7(b9,#11)", "(1,3,b5)", "maj(*5,9)"

    >>> quality_of_harte("maj(4)").suffix, quality_of_harte("7(b9,#11)").suffix
    ('add4', '7(b9,#11)')
    """
    if text in BY_HARTE:
        return BY_HARTE[text]
    settled = _degrees_of(text)
    return quality_of(settled) if settled else None


def _degrees_of(text: str) -> tuple[str, ...] | None:
    """What a Harte shorthand with its brackets holds."""
    match = re.fullmatch(r"([a-z]*\d*)(?:\(([^()]*)\))?", text)
    if match is None or (match[1] and match[1] not in SHORTHAND):
        return None
    degrees = set(SHORTHAND[match[1]].split() if match[1] else ["1"])
    for word in filter(None, (match[2] or "").split(",")):
        if word.startswith("*"):
            degrees.discard(word[1:])
        else:
            degrees.add(word)
    return _settle(frozenset(degrees))


@lru_cache(maxsize=4096)
def quality_of(degrees: tuple[str, ...]) -> Quality:
    """The quality of settled degrees; the table's own row where it has one."""
    if known := _table().get(degrees):
        return known
    suffix, words = _write(frozenset(degrees))
    return Quality(_write_harte(degrees), suffix, words, tuple(FIFTHS[d] for d in degrees))


@lru_cache(maxsize=1)
def _table() -> dict[tuple[str, ...], Quality]:
    return {degrees: q for q in QUALITIES if (degrees := _degrees_of(q.harte))}


def _write_harte(degrees: tuple[str, ...]) -> str:
    rest: tuple[str, ...] = degrees
    name = ""
    for shorthand, text in SHORTHAND.items():
        inside = text.split()
        if set(inside) <= set(degrees) and not (shorthand == "5" and len(degrees) > 2):
            name, rest = shorthand, tuple(d for d in degrees if d not in inside)
    return f"{name}({','.join(rest)})" if rest else name


class _Writer:
    """The printed suffix and the words of a stack."""

    def __init__(self, degrees: frozenset[str]) -> None:
        self.left = set(degrees) - {"1"}
        self.all = degrees
        self.triad = self._triad()
        self.extension = self._extension()
        self.sus = "" if self.third else {"4": "sus4", "2": "sus2", "24": "sus2sus4"}.get("".join(d for d in ("2", "4") if self.take(d)), "")

    def take(self, *degrees: str) -> bool:
        """Whether all of these are there and not yet written; they are now."""
        if not set(degrees) <= self.left:
            return False
        self.left -= set(degrees)
        return True

    def _triad(self) -> str:
        self.third = next((d for d in ("b3", "3") if self.take(d)), "")
        self.seventh = next((d for d in ("bb7", "b7", "7") if d in self.all), "")
        if self.third == "b3" and self.seventh != "b7" and "5" not in self.all and self.take("b5"):
            return "dim"
        if self.third == "3" and not self.seventh and "5" not in self.all and self.take("#5"):
            return "aug"
        self.take("5")
        return "m" if self.third == "b3" else ""

    def _extension(self) -> str:
        if self.take("bb7"):
            return "7" if self.triad == "dim" else "(bb7)"
        if self.take("b7"):
            return self._highest()
        if self.take("7"):
            return f"(maj{self._highest()})" if self.triad else f"maj{self._highest()}"
        if self.take("6"):
            return "69" if self.take("9") else "6"
        return ""

    def _highest(self) -> str:
        if {"b9", "9", "#9"} & self.left and "11" not in self.left and self.take("13"):
            self.take("9")
            return "13"
        if self.take("9"):
            return "11" if self.take("11") else "9"
        return "7"

    def tokens(self) -> list[str]:
        """What is altered, added, left out."""
        found = [d for d in _ALTERATIONS if self.take(d)]
        found += [f"add{d}" for d in _ADDABLE if self.take(d)]
        if not self.third and not self.sus:
            found.append("no3")
        if not {"b5", "5", "#5"} & self.all:
            found.append("no5")
        return found


_MORE: Final = {"b5": "flat fifth", "#5": "raised fifth", "b6": "flat sixth", "b9": "flat ninth", "#9": "raised ninth", "#11": "raised eleventh"} | {
    **{"b13": "flat thirteenth", "4": "added fourth", "6": "added sixth", "9": "added ninth", "11": "added eleventh", "13": "added thirteenth"},
    **{"b7": "added seventh", "7": "added major seventh"},
}
_OUT: Final = {"no3": "without its third", "no5": "without its fifth"}


def _write(degrees: frozenset[str]) -> tuple[str, str]:
    """Suffix and words of a stack that no table has."""
    writer = _Writer(degrees)
    base = f"{writer.triad}{writer.extension}{writer.sus}"
    tokens = writer.tokens()
    joined = ",".join(tokens)
    if not tokens:
        suffix = base
    elif len(tokens) == 1 and ((joined[0] in "b#" and base[-1:].isdigit()) or (joined.startswith("add") and not base)):
        suffix = base + joined
    else:
        suffix = f"{base}({joined})"
    core = _BY_SUFFIX[base].words if base in _BY_SUFFIX else base
    extra = [_MORE[t.removeprefix("add")] for t in tokens if t not in _OUT]
    joint = " and " if " with " in core else " with "
    words = core + (joint + " and ".join(extra) if extra else "") + "".join(f", {_OUT[t]}" for t in tokens if t in _OUT)
    return suffix, words


_TRIADS: Final = (
    (r"half-?dim(?:inished)?|hdim|ø", "half"),
    (r"dim(?:inished)?|°|o(?!m)", "dim"),
    (r"aug(?:mented)?|\+(?!\d)", "aug"),
    (r"minor|min|mi|m(?!a(?!dd|lt))|-(?!5)", "min"),
)
_MAJOR: Final = re.compile(r"major|maj|ma|M|j|Δ")
_NUMBER: Final = re.compile(r"69|13|11|9|7|6|5|4|2")
_PIECE: Final = re.compile(
    r",+|(?P<sus>sus(?:24|2sus4|2|4)?)|(?P<alt>alt)|(?P<aug>aug|\+(?!\d))|(?P<how>add|no|omit)?,*(?P<sign>bb|[b#+-])?(?P<number>\d+)(?:rd|th|nd)?"
)


class _Reader:
    """A suffix as typed, from left to right, into degrees."""

    def __init__(self, text: str) -> None:
        marks = re.sub(r"[(),\s\[\]]+", ",", text).rstrip(",")
        self.text = marks if text.startswith("(") else marks.lstrip(",")  # a number in brackets is added, one before them extends the chord
        self.degrees: set[str] = {"1", "3", "5"}
        self.at = 0

    def read(self) -> frozenset[str] | None:
        self._head()
        while self.at < len(self.text):
            match = _PIECE.match(self.text, self.at)
            if match is None or match.end() == self.at or not self._piece(match):
                return None
            self.at = match.end()
        return frozenset(self.degrees)

    def _head(self) -> None:
        triad = ""
        for pattern, name in _TRIADS:
            if match := re.compile(pattern).match(self.text):
                triad, self.at = name, match.end()
                break
        self.degrees = {"half": {"1", "b3", "b5"}, "dim": {"1", "b3", "b5"}, "aug": {"1", "3", "#5"}, "min": {"1", "b3", "5"}}.get(triad, self.degrees)
        major = _MAJOR.match(self.text, self.at + (triad != "" and self.text[self.at : self.at + 1] == ","))
        if major:
            self.at = major.end()
        if number := _NUMBER.match(self.text, self.at):
            self.at = number.end()
            self._extend(number[0], triad, bool(major))
        elif major and triad:
            self.degrees.add("7")
        elif triad == "half":
            self.degrees.add("b7")

    def _extend(self, number: str, triad: str, major: bool) -> None:
        if number == "5":
            self.degrees -= {"3", "b3"}
        elif number in ("6", "69"):
            self.degrees |= {"6", "9"} if number == "69" else {"6"}
        elif number in ("2", "4") and not triad and not major:
            self._suspend(number)
        elif number in ("2", "4"):
            self.degrees.add({"2": "9"}.get(number, number))
        else:
            self.degrees.add("7" if major else "bb7" if triad == "dim" else "b7")
            self.degrees |= set({"9": ("9",), "11": ("9", "11"), "13": ("9", "13")}.get(number, ()))

    def _suspend(self, which: str) -> None:
        self.degrees -= {"3", "b3"}
        self.degrees |= set({"2": ("2",), "24": ("2", "4"), "2sus4": ("2", "4")}.get(which, ("4",)))
        if "2" in self.degrees:
            self.degrees.discard("9")

    def _piece(self, match: re.Match[str]) -> bool:
        if match["sus"]:
            self._suspend(match["sus"][3:])
        elif match["alt"]:
            self.degrees = set(_ALTERED)
        elif match["aug"]:
            self.degrees = self.degrees - {"5"} | {"#5"}
        elif match["how"] in ("no", "omit"):
            return self._leave_out(match["number"], match["sign"])
        elif match["number"]:
            return self._alter({"+": "#", "-": "b", None: ""}.get(match["sign"], match["sign"]), match["number"])
        return True

    def _leave_out(self, number: str, sign: str | None) -> bool:
        gone = {d for d in self.degrees if d.lstrip("b#") == number and number != "1"}
        self.degrees -= gone
        return bool(gone) and sign is None

    def _alter(self, sign: str, number: str) -> bool:
        degree = sign + number
        if degree in ("b5", "#5"):
            self.degrees -= {"5"}
        elif degree in ("b9", "#9", "b2", "#2"):
            self.degrees -= {"9"}
        elif degree in ("3", "5", "b3", "1"):
            return False
        elif degree == "7":
            degree = "b7"
        elif degree in ("#11", "#4"):
            self.degrees -= {"11"}
        elif degree in ("b13", "b6"):
            self.degrees -= {"13", "6"}
        self.degrees.add(degree)
        return True


@lru_cache(maxsize=4096)
def read_suffix(text: str) -> Quality | None:
    """The quality of a suffix as people write it, None where it is none.

    Parameters
    ----------
    text : what stands behind the root: "m7b5", "add4", "7(b9,#11)", "13sus4", "maj7 no 3"

    >>> read_suffix("m(maj9)").members, read_suffix("7alt").suffix
    ((0, -3, 1, 5, 2), '7alt')
    """
    clean = text.strip().replace("♯", "#").replace("♭", "b").replace("6/9", "69")
    for form in (clean, clean.replace(" ", ""), clean.lower()):
        if form in _BY_SUFFIX:
            return _BY_SUFFIX[form]
    for form in (clean, clean.lower()):
        degrees = _Reader(form).read()
        settled = _settle(degrees) if degrees else None
        if settled:
            return quality_of(settled)
    return None


@lru_cache(maxsize=1024)
def degrees_of(quality: Quality) -> tuple[str, ...]:
    """The degrees of a quality from the root up: ("1", "b3", "5", "b7").

    Parameters
    ----------
    quality : any that was read or put together here
    """
    found = _degrees_of(quality.harte)
    assert found is not None, quality.harte
    return found


def combine(degrees: Iterable[str]) -> Quality | None:
    """The quality of a set of degrees, None where two of them are one key or nothing stands above the root.

    Parameters
    ----------
    degrees : in any order: "1", "b3", "#11"
    """
    settled = _settle(frozenset(degrees))
    return quality_of(settled) if settled else None
