"""Lines of chords as people write them, with or without bar lines, made into bars of our own notation.

Understood: ``| C | Am  F | % |``, beats as ``C . . .`` or ``C / / /``, ``|: … :|`` with ``x3`` and first and second endings, chords in a row without bar lines
(``Am - F - C - G``: a bar each), numerals and numbers in a key (``I - V - vi - IV``, ``1 5 6m 4``), German names (``Hm``, ``Es``) and syllables (``Sol Mim``).
"""

from __future__ import annotations

import re
from collections.abc import Sequence
from dataclasses import dataclass

from valley.errors import FormatError
from valley.fraction import Fraction
from valley.theory.bar_row import HELD, SAME
from valley.theory.chord import parse_symbol
from valley.theory.key import Key
from valley.theory.roman import is_roman, read_roman

_TIMES = re.compile(r"[\[(]?\s*(?:(?:x|×)\s*(\d{1,2})|(\d{1,2})\s*(?:x|×|times))\s*[\])]?$", re.IGNORECASE)
_MOST_TIMES = 32
_SAME = {"%", "./.", "·/.", "𝄎", '"', "〃"}
_SLOTS = {".", "/", "·", "*", "•"}
_ENDING = re.compile(r"^[\[(]?([12])[.)\]]+:?\s*(?=\S)")
_MARKS = {"|", "||", "|:", ":|", ":|:", ":||", "||:", "-", "–", "—", "→", "->", ",", ";", "|]", ":"}


@dataclass(frozen=True)
class Tongue:
    """How chords are named in a text: ``naming`` of roots (letters, german or syllables), the key that numerals stand in, and whether they are numbers."""

    naming: str = "letters"
    key: Key | None = None
    numbers: bool = False


def read_times(text: str) -> tuple[str, int]:
    """A line without "x2" at its end, and how often it is played.

    >>> read_times("C | G x2"), read_times("(3 times)")
    (('C | G', 2), ('', 3))
    """
    stripped = text.rstrip()
    for start in range(max(0, len(stripped) - 12), len(stripped)):
        if (not start or stripped[start - 1] in " |\t:)") and (m := _TIMES.match(stripped[start:])):
            times = int(m[1] or m[2])
            if not 1 <= times <= _MOST_TIMES:
                raise FormatError(f"{m[0]!r} plays a line {times} times; up to {_MOST_TIMES} are read")
            return stripped[:start].rstrip(), times
    return stripped, 1


def without_remarks(line: str, tongue: Tongue) -> str:
    """A line without what stands in brackets and is neither a chord nor "x2"; "(4 beats)" behind a chord becomes so many strokes.

    >>> without_remarks("G (hold)  Em7 (2 beats) A7", Tongue())
    'G   Em7 . A7'
    """
    counted = re.sub(r"\(\s*(\d{1,2})\s*beats?\s*\)", lambda m: " ".join("." * (int(m[1]) - 1)), line)
    return re.sub(r"\(([^()]*)\)", lambda m: m[0] if _is_kept(m[1], tongue) else "", counted)


def _is_kept(text: str, tongue: Tongue) -> bool:
    words = text.split()
    return (
        read_times(text)[0] == ""
        or re.fullmatch(r"[-#b♯♭+\d,]+|add\d+|maj\d*|sus\d*|alt", text) is not None
        or (bool(words) and all(symbol_of(w, tongue) for w in words))
    )


def symbol_of(token: str, tongue: Tongue) -> str | None:
    """The symbol that a token is in our spelling, or None where it is none: "(Am7)," is "Am7", "vi" in C "Am", a German "H7" is "B7".

    >>> symbol_of("(G/B),", Tongue()), symbol_of("Hm", Tongue("german")), symbol_of("Rém7", Tongue("syllables")), symbol_of("Hello", Tongue())
    ('G/B', 'Bm', 'Dm7', None)
    """
    clean = token.strip("[],;").rstrip("*!").rstrip(".") if token.upper() not in ("N.C.", "NC", "N.C") else "N"
    if clean.startswith("(") and clean.endswith(")"):
        clean = clean[1:-1]
    if clean.count("(") != clean.count(")"):
        clean = clean.strip("()")
    if tongue.key is not None and is_roman(clean):
        return read_roman(clean, tongue.key)
    if tongue.numbers and tongue.key and _NUMBER.match(clean):
        clean = "/".join(_of_number(part, tongue.key) for part in clean.split("/"))
    if tongue.naming != "letters" and clean != "N":
        clean = "/".join((_german if tongue.naming == "german" else _syllable)(part) for part in clean.split("/"))
    if clean == "N":
        return "N"
    if not re.match(r"[A-G]", clean):
        return None
    try:
        chord = parse_symbol(clean)
    except FormatError:
        return None
    return chord.to_symbol() if chord else None


_NUMBER = re.compile(r"[#b]?[1-7](m(?!aj))?[^/]*(?:/[#b]?[1-7])?$")


def _of_number(text: str, key: Key) -> str:
    """ "6m" in C is "vi": major where nothing is said."""
    m = re.fullmatch(r"([#b]?)([1-7])(m(?!aj))?(.*)", text)
    if m is None:
        return text
    numeral = ("I", "II", "III", "IV", "V", "VI", "VII")[int(m[2]) - 1]
    return read_roman(m[1] + (numeral.lower() if m[3] else numeral) + m[4], key)


_GERMAN = re.compile(r"([A-H])(isis|is|eses|es|s(?!us))?(.*)$")


def _german(text: str) -> str:
    m = _GERMAN.match(text)
    if not m or (m[2] == "s" and m[1] not in "AE") or re.match(r"B[b♭#♯]", text):
        return text
    sign = {None: "", "is": "#", "isis": "##", "es": "b", "s": "b", "eses": "bb"}[m[2]]
    return {"H": "B" + sign, "B": "Bb"}.get(m[1], m[1] + sign) + m[3]


_SYLLABLE = re.compile(r"(do|ré|re|mi|fa|sol|la|si)\s*(#|b(?![a-z])|♯|♭|dièse|bémol)?(.*)$", re.IGNORECASE)
_LETTERS = {"do": "C", "ré": "D", "re": "D", "mi": "E", "fa": "F", "sol": "G", "la": "A", "si": "B"}


def _syllable(text: str) -> str:
    m = _SYLLABLE.match(text)
    if not m:
        return "?"  # a text names its chords in one way
    return _LETTERS[m[1].lower()] + {"dièse": "#", "bémol": "b"}.get((m[2] or "").lower(), m[2] or "") + m[3]


def is_chord_line(line: str, tongue: Tongue) -> bool:
    """Whether a line holds chords and what stands between them, and nothing else."""
    body, _ = read_times(line)
    tokens = [t for t in _tokens(re.sub(r"[|:]+", " ", body)) if t not in _SLOTS | {HELD} and not re.fullmatch(r"[\[(]?[12][.)\]]", t)]
    chords = [t for t in tokens if t not in _SAME]
    return all(symbol_of(t, tongue) for t in chords) and (bool(chords) or ("|" in line and bool(tokens)))


def find_stranger(line: str, tongue: Tongue) -> str | None:
    """What is no chord in a line that else holds chords, so that a slip in it is told and the line not taken for words.

    >>> find_stranger("| Am | F | Cx | G |", Tongue()), find_stranger("A light comes on again", Tongue())
    ('Cx', None)
    """
    tokens = [t for t in _tokens(re.sub(r"[|:]+", " ", read_times(line)[0])) if t not in _SAME | _SLOTS]
    chords = [t for t in tokens if symbol_of(t, tongue)]
    strangers = [t for t in tokens if t not in chords]
    return strangers[0] if strangers and (len(chords) >= 3 and len(chords) > 2 * len(strangers)) else None


@dataclass(frozen=True)
class Sign:
    """A sign among bars: a repeat begins or ends (played so often), a first or second ending begins."""

    kind: str
    times: int = 2


Item = str | Sign


def read_bars(line: str, tongue: Tongue, beats: int) -> list[Item]:
    """The bars of a line in our notation, with the signs between them; a line that is played twice without signs stands twice.

    Parameters
    ----------
    line : a line of chords, see ``is_chord_line``
    tongue : how its chords are named
    beats : of a bar

    >>> read_bars("Bb . . . | % | Eb . F .", Tongue(), 4)
    ['Bb', '%', 'Eb F']
    >>> read_bars("Am - F - C - G", Tongue(), 4)
    ['Am', 'F', 'C', 'G']
    >>> [bar for _, bar in unfold(read_bars("|: C | Am F :|", Tongue(), 4))]
    ['C', 'Am F', 'C', 'Am F']
    """
    body, times = read_times(line)
    if re.search(r"\s[-–—]\s", body) and not re.search(r"(?<!\|)\|(?!\|)", body):
        body = body.replace("||", " ")  # "Dm7 - G7 || Em7 - A7": double bars that only set apart
    if "|" not in body:
        return [*_in_a_row(body, tongue, beats)] * times
    items: list[Item] = []
    for cell in re.split(r"(\|+:|:\|+:?|\|+\]?)", body):
        text = cell.strip()
        if re.fullmatch(r"\|+:", text):
            items.append(Sign("begin"))
        elif re.fullmatch(r":\|+:?", text):
            items += [Sign("end", max(2, times)), *([Sign("begin")] if text.endswith(":") else [])]
        elif text and not re.fullmatch(r"\|+\]?", text):
            if ending := _ENDING.match(text):
                items.append(Sign("first" if ending[1] == "1" else "second"))
                text = text[ending.end() :]
            items.append(_bar(text, tongue, beats))
    signed = any(isinstance(item, Sign) and item.kind == "end" for item in items)
    return items if signed else items * times


def unfold(items: Sequence[Item]) -> list[tuple[int, str]]:
    """The bars as they are played, each with its place among the items; repeats may begin and end in other lines."""
    out: list[tuple[int, str]] = []
    section: list[tuple[int, str]] = []
    first: list[tuple[int, str]] | None = None  # the first ending, once it has begun
    for place, item in enumerate(items):
        if isinstance(item, str):
            (section if first is None else first).append((place, item))
        elif item.kind == "begin":
            out, section, first = [*out, *section, *(first or [])], [], None
        elif item.kind == "first":
            first = []
        elif item.kind == "end":
            out += section * item.times if first is None else [*section, *first, *section]
            section, first = [], None
    return [*out, *section, *(first or [])]


def _in_a_row(body: str, tongue: Tongue, beats: int) -> list[str]:
    """Chords without bar lines: a bar each, or as many beats as slots say."""
    tokens = _tokens(body)
    if not any(t in _SLOTS for t in tokens):
        return [symbol_of(t, tongue) or SAME for t in tokens]
    if len(tokens) % beats:  # "F G Am Am / F G C C": strokes that only set apart
        return [symbol_of(t, tongue) or SAME for t in tokens if t not in _SLOTS]
    bars: list[str] = []
    row: list[str] = []
    for token in tokens:
        row.append(token)
        if len(row) == beats:
            bars.append(_bar(" ".join(row), tongue, beats))
            row = []
    return bars


def _tokens(text: str) -> list[str]:
    spaced = re.sub(r"(?<=[\w#♯♭)])[-–—,]+(?=[A-Ziv])", " ", text)
    return [t for t in re.split(r"[\s,;]+", spaced) if t and t not in _MARKS and not re.fullmatch(r"\d{1,2}[.)]", t)]


def _bar(cell: str, tongue: Tongue, beats: int) -> str:
    tokens = _tokens(cell)
    if len(tokens) == 1 and tokens[0] in _SAME:
        return SAME
    if not any(t in _SLOTS or t in _SAME for t in tokens):
        return " ".join(t if t == HELD else symbol_of(t, tongue) or t for t in tokens)
    if tokens[0] in _SLOTS and all(t in _SLOTS for t in tokens):
        return ""  # only strokes: the chord goes on
    return _with_slots(tokens, tongue, beats)


def _with_slots(tokens: Sequence[str], tongue: Tongue, beats: int) -> str:
    """Chords with as many beats as dots or strokes stand behind them."""
    names: list[str] = []
    lengths: list[int] = []
    for token in tokens:
        if token in _SLOTS | _SAME and names:
            lengths[-1] += 1
        else:
            names.append(HELD if token in _SLOTS else symbol_of(token, tongue) or token)
            lengths.append(1)
    unit = Fraction(beats, len(tokens))
    if len(set(lengths)) == 1:
        return " ".join(names)
    return " ".join(f"{name}:{unit * length}" for name, length in zip(names, lengths, strict=True))
