"""Reach: distances between keys in millimetres, and what hands span.

Key geometry: an octave of white keys is 164 mm (seven keys of 23.4 mm); black keys stand off the gap
between their neighbours as on a usual keyboard. Spans are thumb to fifth finger, after the measured distances
used by R. Parncutt et al., "An Ergonomic Model of Keyboard Fingering", Music Perception 14 (1997).

A hand is said to reach an interval when it reaches it from any key: what is taught in one key then holds in all.
"""

from __future__ import annotations

import re
from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from functools import lru_cache
from typing import Final

from valley.errors import ParameterError
from valley.theory.pitch import parse_pitch

OCTAVE_MM: Final = 164.0
WHITE_MM: Final = OCTAVE_MM / 7
# Centre of each key of the octave in white-key widths from the centre of C.
_CENTRE: Final = (0.0, 0.41, 1.0, 1.59, 2.0, 3.0, 3.36, 4.0, 4.5, 5.0, 5.64, 6.0)
# Thumb to index, middle, ring and fifth finger, as shares of the whole span.
_SHARES: Final = (0.7, 0.85, 0.95, 1.0)


@dataclass(frozen=True)
class Hand:
    """``comfort_mm`` is reached without strain, ``most_mm`` is the widest that is asked of it.

    ``fingers_mm``: widest span from the thumb to the index, middle, ring and fifth finger; by proportion where not measured.
    """

    name: str
    comfort_mm: float
    most_mm: float
    fingers_mm: tuple[float, ...] = ()

    def __post_init__(self) -> None:
        if not 60 <= self.comfort_mm <= self.most_mm <= 320:
            raise ParameterError(f"hand {self.name!r} spans {self.comfort_mm} to {self.most_mm} mm; a hand spans 60 to 320 mm, comfort first")
        given = self.fingers_mm
        if given and (len(given) != 4 or list(given) != sorted(given) or given[-1] != self.most_mm or given[0] < 40):
            raise ParameterError(f"spans {list(given)} must be four, thumb to index, middle, ring and fifth finger in millimetres, each wider than the last")

    @property
    def spans_mm(self) -> tuple[float, ...]:
        """Thumb to each other finger, measured or by proportion."""
        return self.fingers_mm or tuple(round(self.most_mm * s, 1) for s in _SHARES)


HANDS: Final = {
    "small": Hand("small", 150.0, 168.0),  # an octave, no more
    "medium": Hand("medium", 175.0, 198.0),  # a ninth
    "large": Hand("large", 200.0, 225.0),  # a tenth
}
KEYBOARDS: Final = {49: (36, 84), 61: (36, 96), 73: (28, 100), 76: (28, 103), 88: (21, 108)}
_RANGE = re.compile(r"\s*([A-Ga-g][#b♯♭]{0,2}-?\d)\s*[-–]\s*([A-Ga-g][#b♯♭]{0,2}-?\d)\s*$")


def hand_named(text: str) -> Hand:
    """A profile by name, or a custom hand: its widest span, or thumb to each finger, in millimetres.

    >>> hand_named("180").most_mm, hand_named("120,150,168,178").spans_mm
    (180.0, (120.0, 150.0, 168.0, 178.0))
    """
    if text in HANDS:
        return HANDS[text]
    try:
        spans = tuple(float(part) for part in text.replace("mm", "").split(","))
    except ValueError:
        raise ParameterError(f"hand={text!r} must be {', '.join(HANDS)}, a span in millimetres, or four spans from the thumb such as 120,150,168,178") from None
    most = spans[-1]
    return Hand(text, round(most * 0.9, 1), most, spans if len(spans) > 1 else ())


def keyboard_range(keys: int | str) -> tuple[int, int]:
    """Lowest and highest MIDI number of a keyboard of so many keys, or of a custom one given by its ends ("E1-G7")."""
    text = str(keys)
    if text.isdigit() and int(text) in KEYBOARDS:
        return KEYBOARDS[int(text)]
    if _RANGE.match(text):
        return key_range(text)
    raise ParameterError(f"keyboard={keys} must be one of {', '.join(map(str, KEYBOARDS))} keys, or its lowest and highest key such as E1-G7")


def key_range(text: str) -> tuple[int, int]:
    """MIDI numbers of two keys, e.g. of a camera frame.

    >>> key_range("C2-C6")
    (36, 84)
    """
    match = _RANGE.match(text)
    if not match:
        raise ParameterError(f"{text!r} must name the lowest and the highest key, such as C2-C6")
    low, high = parse_pitch(match[1])[1], parse_pitch(match[2])[1]
    if not 0 <= low < high <= 127 or high - low < 24:
        raise ParameterError(f"{text!r} must ascend and hold at least two octaves")
    return low, high


def key_place_mm(midi: int) -> float:
    """Distance of a key's centre from C-1's, in millimetres."""
    octave, pitch_class = divmod(midi, 12)
    return octave * OCTAVE_MM + _CENTRE[pitch_class] * WHITE_MM


def span_mm(notes: Sequence[int]) -> float:
    """Width of a grip, centre to centre.

    >>> span_mm([60, 72])
    164.0
    """
    return round(key_place_mm(max(notes)) - key_place_mm(min(notes)), 1) if notes else 0.0


@lru_cache(maxsize=64)
def widest_mm(semitones: int) -> float:
    """The width of an interval where it is widest, whatever key it begins on.

    >>> widest_mm(12), widest_mm(14)
    (164.0, 197.0)
    """
    return max(span_mm((60 + k, 60 + k + semitones)) for k in range(12))


@lru_cache(maxsize=64)
def widest_interval(hand: Hand) -> int:
    """Semitones of the widest interval that a hand spans from any key.

    >>> widest_interval(HANDS["small"]), widest_interval(HANDS["large"])
    (12, 16)
    """
    return max(n for n in range(1, 40) if widest_mm(n) <= hand.most_mm)


def hand_travel(grips: Iterable[Sequence[int]], span: int) -> int:
    """How far a hand has to go at least: semitones by which its place shifts while every grip in turn lies within its span.

    It goes no sooner and no further than it must, which is the best in one dimension: the places from which all grips since the last
    shift can be played are kept, and narrowed. Fewer keys never ask for more, unlike the distance between nearest keys.

    Parameters
    ----------
    grips : MIDI numbers of one hand, ascending in each; an empty one asks for nothing
    span : semitones that the hand spans; the place is that of its lowest key

    >>> hand_travel([(60, 64, 67), (60,), (65, 69, 72)], 12), hand_travel([(60,), (79,)], 12)
    (0, 7)
    """
    total = 0
    low, high = -1000, 1000  # where the hand may stand
    for keys in grips:
        if not keys:
            continue
        first, last = sorted((keys[-1] - span, keys[0]))
        if first > high:
            total, low, high = total + first - high, first, first
        elif last < low:
            total, low, high = total + low - last, last, last
        else:
            low, high = max(low, first), min(high, last)
    return total


def white_keys(notes: Sequence[int]) -> int:
    """How many white-key steps a grip spans, as a player counts an interval (an octave is 8).

    >>> white_keys([60, 72]), white_keys([60, 64])
    (8, 3)
    """
    return round(span_mm(notes) / WHITE_MM) + 1 if notes else 0
