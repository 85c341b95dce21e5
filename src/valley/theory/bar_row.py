"""Bars of chords as they are typed in a row: ``| F | C/E _ | Dm:3 C:1 | % |``. What stands in a bar shares it equally, or as its beats say."""

from __future__ import annotations

import re
from collections.abc import Sequence
from typing import Final, NamedTuple

from valley.errors import FormatError
from valley.fraction import Fraction
from valley.theory.amounts import read_amount
from valley.theory.chord import NO_CHORD, parse_symbol
from valley.theory.meter import Meter

HELD: Final = "_"  # the chord before goes on
SAME: Final = "%"  # the bar before once more
LENGTH: Final = re.compile(r"(.*?):(\d+(?:[./]\d+)?)$")
_MOST_IN_A_BAR: Final = 32


class Word(NamedTuple):
    """One thing in a bar: ``label`` is Harte's or ``HELD``, ``amount`` its beats as given or "", ``typed`` how all of it was written."""

    label: str
    amount: str
    typed: str


def cells_between(line: str) -> list[str]:
    """What stands between the bar lines; a row may begin and end with or without one.

    >>> cells_between("| F | C/E Dm |")
    ['F', 'C/E Dm']
    """
    cells = [c.strip(" :") if set(c.strip()) <= {":"} else c.strip() for c in line.split("|")]
    if cells and not cells[0]:
        cells = cells[1:]
    if cells and not cells[-1]:
        cells = cells[:-1]
    return cells


def read_words(words: Sequence[str]) -> list[Word]:
    """What stands in a bar.

    >>> [(w.label, w.amount) for w in read_words(["Dm:3", "_"])]
    [('D:min', '3'), ('_', '')]
    """
    row = []
    for word in words:
        match = LENGTH.match(word)
        symbol = match[1] if match else word
        chord = parse_symbol(symbol) if symbol != HELD else None
        row.append(Word(HELD if symbol == HELD else chord.to_harte() if chord else NO_CHORD, match[2] if match else "", word))
    return row


def share_bar(row: Sequence[Word], beats: int, meter: str) -> list[tuple[str, Fraction]]:
    """Labels with the beats that each gets of a bar; in compound time the numbers may also count eighths.

    >>> [str(n) for _, n in share_bar(read_words("C F G:2".split()), 4, "4/4")]
    ['1', '1', '2']
    """
    if len(row) > _MOST_IN_A_BAR:
        raise FormatError(f"a bar holds {len(row)} chords; {_MOST_IN_A_BAR} is the most")
    lengths = [read_amount(w.amount) if w.amount else None for w in row]
    given = [n for n in lengths if n is not None]
    if not given:
        return [(w.label, Fraction(beats, len(row))) for w in row]
    whole = Fraction(beats)
    if Meter(meter).division == 3 and sum(given) > beats:
        whole = Fraction(beats * 3)
    left, open_ones = whole - sum(given), len(row) - len(given)
    if any(n <= 0 for n in given) or (open_ones == 0 and left != 0) or (open_ones and left <= 0):
        said = " + ".join(str(n) if n is not None else "?" for n in lengths)
        typed = " ".join(w.typed for w in row)
        raise FormatError(f"the bar {typed!r} counts {said} beats, but a bar of {meter} has {whole}; a number after : means beats")
    scale = Fraction(beats) / whole
    return [(w.label, (n if n is not None else left / open_ones) * scale) for w, n in zip(row, lengths, strict=True)]
