"""Roman numerals for those who want them: steps of the scale, small for minor chords, raised and lowered as in the key."""

from __future__ import annotations

import re

from valley.errors import FormatError
from valley.theory.chord import Chord, parse_symbol
from valley.theory.key import Key
from valley.theory.pitch import PitchName

_NUMERALS = ("I", "II", "III", "IV", "V", "VI", "VII")
_SUFFIX = {
    "maj": "",
    "min": "",
    "dim": "°",
    "aug": "+",
    "hdim7": "ø7",
    "dim7": "°7",
    "min7": "7",
    "min9": "9",
    "min6": "6",
    "minmaj7": "maj7",
    "min(9)": "add9",
    "maj(9)": "add9",
    "maj6": "6",
}


def write_roman(chord: Chord, key: Key) -> str:
    """The numeral of a chord in a key, with its bass as a figure of the chord where it is not the root.

    Parameters
    ----------
    chord : the chord
    key : the key that holds

    >>> from valley.theory.chord import parse_symbol
    >>> [write_roman(parse_symbol(s), Key.of("C", "major")) for s in ("Dm7", "Bb", "F#dim", "C/E")]
    ['ii7', 'bVII', '#iv°', 'I/3']
    """
    steps = {name.fifths - key.tonic.fifths: numeral for name, numeral in zip(key.scale(), _NUMERALS, strict=True)}
    interval = chord.root.fifths - key.tonic.fifths
    interval = next(i for i in (*range(-5, 7), *range(-17, -5), *range(7, 19)) if i == interval or (i - interval) % 12 == 0 and -5 <= i <= 6)
    sign = ""
    if interval not in steps:
        for step in (7, -7):
            if interval - step in steps:
                sign, interval = ("#" if step > 0 else "b"), interval - step
                break
    numeral = steps[interval]
    members = chord.quality.members
    if -3 in members:
        numeral = numeral.lower()
    suffix = _SUFFIX.get(chord.quality.harte, chord.quality.suffix)
    bass = chord.to_harte().partition("/")[2]
    return f"{sign}{numeral}{suffix}" + (f"/{bass}" if bass else "")


_ROMAN = re.compile(r"([#b♯♭]?)(VII|VI|IV|V|III|II|I|vii|vi|iv|v|iii|ii|i)([^/]*)(?:/([#b♯♭]?(?:VII|VI|IV|V|III|II|I|vii|vi|iv|v|iii|ii|i)))?$")


def is_roman(text: str) -> bool:
    """Whether a text is a numeral that can be read.

    >>> is_roman("vi"), is_roman("V7/ii"), is_roman("Am")
    (True, True, False)
    """
    match = _ROMAN.match(text)
    if not match:
        return False
    try:
        return bool(read_roman(text, Key.of("C", "major")))
    except FormatError:
        return False


def read_roman(text: str, key: Key) -> str:
    """The symbol of a numeral in a key: capitals are major, small ones minor, a figure behind them is as in a symbol.

    Parameters
    ----------
    text : such as ``vi``, ``V7``, ``bVII``, ``vii°``, ``V7/ii`` (the dominant of the second step)
    key : that it stands in

    >>> [read_roman(n, Key.of("D", "major")) for n in ("I", "V7", "vi", "IVmaj7", "bVII", "vii°", "V7/ii")]
    ['D', 'A7', 'Bm', 'Gmaj7', 'C', 'C#dim', 'B7']
    """
    match = _ROMAN.match(text.strip())
    if not match:
        raise FormatError(f"{text!r} is no numeral; write I to VII, small for minor, such as vi, V7 or bVII")
    sign, numeral, figure, of = match.groups()
    if of:
        root = _step(of, key)
        key = Key.of(str(root), "major")
    root = _step(sign + numeral, key)
    if key.is_minor and numeral == "vii" and not sign and figure.startswith(("°", "o", "dim", "ø")):
        root = root.up(7)  # the leading note's chord stands on the raised step
    figure = figure.replace("°7", "dim7").replace("o7", "dim7").replace("ø7", "m7b5").replace("ø", "m7b5").replace("°", "dim").replace("+", "aug")
    figure = "dim" if figure == "o" else figure
    minor = numeral.islower() and not figure.startswith(("dim", "m7b5"))
    chord = parse_symbol(f"{root}{'m' if minor else ''}{figure}")
    if chord is None:
        raise FormatError(f"{text!r} is no numeral of a chord")
    return chord.to_symbol()


def _step(numeral: str, key: Key) -> PitchName:
    """The note of a step: of the major scale in major, of the natural minor one in minor, raised or lowered by its sign."""
    sign = numeral[0] if numeral[0] in "#b♯♭" else ""
    index = _NUMERALS.index(numeral.lstrip("#b♯♭").upper())
    name = key.scale()[index]
    if sign and sign in "b♭" and key.is_minor:
        return name  # "bVI" in minor is the sixth step as it is: written so by those who count from major
    return name.up(7 if sign in ("#", "♯") else -7 if sign else 0)
