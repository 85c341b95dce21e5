"""Amounts that are typed or read from a file: beats, lengths, places. Bounded, so that no digit string can stop the reader."""

from __future__ import annotations

import re

from valley.errors import FormatError
from valley.fraction import Fraction

_AMOUNT = re.compile(r"\s*(-?\d{1,7}(?:\.\d{1,9}|/\d{1,6})?)\s*")
# A number with a power of ten behind it that no piece of music needs, alone or as a whole text.
_POWER = re.compile(r"""(?<![\w.\-])-?\d+(?:\.\d*)?[eE]\+?\d{3,}(?![\w.])""")


def read_amount(text: str) -> Fraction:
    """An exact amount: "3", "1.5", "3/2".

    >>> read_amount("3/2")
    Fraction(3, 2)

    Raises
    ------
    FormatError
        it is no number, has more digits than any song needs, or is divided by nothing
    """
    match = _AMOUNT.fullmatch(text)
    if not match:
        raise FormatError(f"{text[:40]!r} is no amount; write beats such as 2, 1.5 or 3/2, with seven digits at most")
    try:
        return Fraction(match[1])
    except ZeroDivisionError:
        raise FormatError(f"{text[:40]!r} is divided by nothing") from None


def require_plain_numbers(text: str) -> None:
    """Refuse a document in which a number has a power of ten that would fill the memory when it is written out.

    Raises
    ------
    FormatError
        naming the number
    """
    if found := _POWER.search(text):
        raise FormatError(f"{found[0][:40]} is larger than any number that is needed here")
