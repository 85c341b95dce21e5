"""Chords as some people write them out: in words ("A minor"), with their beats in brackets ("Am(2)") or as strokes behind them ("C///")."""

from __future__ import annotations

import re

from valley.formats.loose_bars import Tongue, is_chord_line, symbol_of

_TONGUE = Tongue()
_IN_WORDS = re.compile(r"\b(?P<root>[A-Ga-g])(?: ?(?P<sign>sharp|flat|[#♯♭])|(?P<b>b))?[ -]+(?P<mode>major|minor|maj|min)\b(?![\d ]*7)", re.IGNORECASE)
_SIGNS = {"sharp": "#", "flat": "b", "♯": "#", "♭": "b"}
_COUNTED = re.compile(r"(?P<chord>[A-G][^\s()|]*)\((?P<beats>[1-8])\)[,;]?")
_STROKES = re.compile(r"(?P<chord>[A-G][^\s/|]*)(?P<strokes>/{1,7})")


def respell(line: str) -> str:
    """A line in the ways that the reader of charts knows; a line of anything else as it is.

    >>> respell("C major, F sharp minor, G major")
    'C, F#m, G'
    >>> respell("C(4) G(2) Am(2)")
    'C . . . G . Am .'
    >>> respell("| C/// | G/ Am/ |"), respell("| C(4) | Am(add9) |"), respell("key: C major")
    ('| C / / / | G / Am / |', '| C(4) | Am(add9) |', 'key: C major')
    """
    line = line.replace("△", "Δ")
    words = _IN_WORDS.sub(_of_words, line)
    if len(_IN_WORDS.findall(line)) > 1 and is_chord_line(words, _TONGUE):
        return words
    tokens = [t for t in line.split() if t.strip("|:,;-")]
    counted = [_COUNTED.fullmatch(t) for t in tokens]
    if len(tokens) > 1 and all(m and symbol_of(m["chord"], _TONGUE) for m in counted):
        return _COUNTED.sub(lambda m: " ".join([m["chord"], *"." * (int(m["beats"]) - 1)]), line)
    stroked = [_STROKES.fullmatch(t) for t in tokens]
    if any(stroked) and all(symbol_of(m["chord"] if m else t, _TONGUE) for m, t in zip(stroked, tokens, strict=True)):
        return re.sub(r"(?<![^\s|])" + _STROKES.pattern + r"(?![^\s|])", lambda m: " ".join([m["chord"], *m["strokes"]]), line)
    return line


def _of_words(match: re.Match[str]) -> str:
    sign = (match["sign"] or match["b"] or "").lower()
    return match["root"].upper() + _SIGNS.get(sign, sign) + ("m" if match["mode"].lower().startswith("min") else "")
