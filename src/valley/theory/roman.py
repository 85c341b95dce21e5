"""Roman numerals for those who want them: steps of the scale, small for minor chords, raised and lowered as in the key."""

from __future__ import annotations

from valley.theory.chord import Chord
from valley.theory.key import Key

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
