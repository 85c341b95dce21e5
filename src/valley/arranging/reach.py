"""Reach: distances between keys in millimetres, and what hands span.

Key geometry: an octave of white keys is 164 mm (seven keys of 23.4 mm); black keys stand off the gap
between their neighbours as on a usual keyboard. Spans are thumb to fifth finger, after the measured distances
used by R. Parncutt et al., "An Ergonomic Model of Keyboard Fingering", Music Perception 14 (1997).
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Final

from valley.errors import ParameterError

OCTAVE_MM: Final = 164.0
_WHITE = OCTAVE_MM / 7
# Centre of each key of the octave in white-key widths from the centre of C.
_CENTRE: Final = (0.0, 0.41, 1.0, 1.59, 2.0, 3.0, 3.36, 4.0, 4.5, 5.0, 5.64, 6.0)


@dataclass(frozen=True)
class Hand:
    """``comfort_mm`` is reached without strain, ``most_mm`` is the widest that is asked of it."""

    name: str
    comfort_mm: float
    most_mm: float

    def __post_init__(self) -> None:
        if not 60 <= self.comfort_mm <= self.most_mm <= 320:
            raise ParameterError(f"hand {self.name!r} spans {self.comfort_mm} to {self.most_mm} mm; a hand spans 60 to 320 mm, comfort first")


HANDS: Final = {
    "small": Hand("small", 150.0, 168.0),  # an octave, no more
    "medium": Hand("medium", 170.0, 190.0),  # a ninth
    "large": Hand("large", 190.0, 215.0),  # a tenth
}
KEYBOARDS: Final = {49: (36, 84), 61: (36, 96), 73: (28, 100), 76: (28, 103), 88: (21, 108)}


def hand_named(text: str) -> Hand:
    """A profile by name, or a custom hand by its widest span in millimetres.

    >>> hand_named("180").most_mm
    180.0
    """
    if text in HANDS:
        return HANDS[text]
    try:
        most = float(text)
    except ValueError:
        raise ParameterError(f"hand={text!r} must be {', '.join(HANDS)} or a span in millimetres") from None
    return Hand(f"{most:g} mm", most * 0.9, most)


def keyboard_range(keys: int) -> tuple[int, int]:
    """Lowest and highest MIDI number of a keyboard of so many keys."""
    if keys not in KEYBOARDS:
        raise ParameterError(f"keyboard={keys} must be one of {', '.join(map(str, KEYBOARDS))} keys")
    return KEYBOARDS[keys]


def key_place_mm(midi: int) -> float:
    """Distance of a key's centre from C-1's, in millimetres."""
    octave, pitch_class = divmod(midi, 12)
    return octave * OCTAVE_MM + _CENTRE[pitch_class] * _WHITE


def span_mm(notes: Sequence[int]) -> float:
    """Width of a grip, centre to centre.

    >>> span_mm([60, 72])
    164.0
    """
    return round(key_place_mm(max(notes)) - key_place_mm(min(notes)), 1) if notes else 0.0
