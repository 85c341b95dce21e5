"""What the values of the model share: checks with one wording, and chords that are written as labels in documents."""

from __future__ import annotations

from collections.abc import Collection, Iterable
from itertools import pairwise
from math import isfinite
from numbers import Rational
from typing import Annotated, Any

from valley.errors import ParameterError
from valley.fraction import Fraction
from valley.theory.chord import Chord, label_of, parse_harte

LOWEST_KEY, HIGHEST_KEY = 0, 127  # MIDI's; a piano's own range is the keyboard's matter


def require(fits: bool, name: str, value: object, must: str) -> None:
    """Refuse a value: ``name=value must …``."""
    if not fits:
        raise ParameterError(f"{name}={value if isinstance(value, Rational) else repr(value)} must {must}")


def require_one_of(name: str, value: object, known: Collection[object]) -> None:
    require(value in known, name, value, f"be one of {', '.join(repr(k) if k == '' else str(k) for k in known)}")


def require_span(start: Fraction, duration: Fraction) -> None:
    """A place in beats from the song's first, and a length."""
    require(start >= 0, "start", start, "be 0 or later; beats are counted from the song's first")
    require(duration > 0, "duration", duration, "be longer than 0")


def require_key(midi: int) -> None:
    require(LOWEST_KEY <= midi <= HIGHEST_KEY, "midi", midi, f"be a key number from {LOWEST_KEY} to {HIGHEST_KEY}; 60 is middle C")


def require_share(name: str, value: float) -> None:
    require(0.0 <= value <= 1.0, name, value, "lie between 0 and 1")


def require_finite(name: str, value: float) -> None:
    require(isfinite(value), name, value, "be a finite number")


def require_ascending(name: str, places: Iterable[Fraction | float]) -> None:
    """Places stand in order, no two at once."""
    for a, b in pairwise(places):
        if not a < b:  # asked of every note of a song: words are made where they are needed
            require(False, name, b, f"come after {a}; {name} must ascend, no two at once")


class _AsLabel:
    """How a chord stands in a document: Harte's label, ``N`` for none. The codec asks for it by this method; nothing is imported for it."""

    def __get_pydantic_core_schema__(self, source: Any, handler: Any) -> dict[str, Any]:
        written = {"type": "function-plain", "function": label_of}
        return {"type": "function-plain", "function": {"type": "no-info", "function": _read}, "serialization": written}


def _read(value: object) -> Chord | None:
    if value is None or isinstance(value, Chord):
        return value
    if not isinstance(value, str):
        raise ParameterError(f"chord={value!r} must be a label, such as F:maj/3, or N for none")
    return parse_harte(value)


MaybeChord = Annotated[Chord | None, _AsLabel()]
"""A chord, or None where none sounds."""
