"""Metres: what a bar holds, how it is counted."""

from __future__ import annotations

from dataclasses import dataclass

from valley.errors import FormatError
from valley.fraction import Fraction

# Beats of a bar, the length of one beat in quarter notes, parts of a beat, and how the beats fall into groups. In compound time the beat is dotted;
# in odd eighths (5/8, 7/8) and in 3/8 it is the eighth.
_METERS: dict[str, tuple[int, Fraction, int, tuple[int, ...]]] = {
    "2/4": (2, Fraction(1), 2, (2,)),
    "3/4": (3, Fraction(1), 2, (3,)),
    "4/4": (4, Fraction(1), 2, (2, 2)),
    "5/4": (5, Fraction(1), 2, (3, 2)),
    "7/4": (7, Fraction(1), 2, (4, 3)),
    "2/2": (2, Fraction(2), 2, (2,)),
    "4/2": (4, Fraction(2), 2, (2, 2)),
    "3/2": (3, Fraction(2), 2, (3,)),
    "3/8": (3, Fraction(1, 2), 2, (3,)),
    "5/8": (5, Fraction(1, 2), 2, (3, 2)),
    "7/8": (7, Fraction(1, 2), 2, (2, 2, 3)),
    "6/8": (2, Fraction(3, 2), 3, (2,)),
    "9/8": (3, Fraction(3, 2), 3, (3,)),
    "12/8": (4, Fraction(3, 2), 3, (2, 2)),
    "6/4": (2, Fraction(3), 3, (2,)),
}
SUPPORTED = tuple(_METERS)


@dataclass(frozen=True)
class Meter:
    """A time signature.

    >>> Meter("6/8").beats, Meter("6/8").quarters_per_beat
    (2, Fraction(3, 2))
    """

    name: str

    def __post_init__(self) -> None:
        if self.name not in _METERS:
            raise FormatError(f"metre {self.name!r} is not one of {', '.join(SUPPORTED)}")

    @property
    def beats(self) -> int:
        """Beats in a bar; the dotted quarter is the beat of 6/8, the half note that of 2/2, the eighth that of 7/8."""
        return _METERS[self.name][0]

    @property
    def quarters_per_beat(self) -> Fraction:
        return _METERS[self.name][1]

    @property
    def division(self) -> int:
        """Equal parts that a beat falls into: 2, or 3 in compound time."""
        return _METERS[self.name][2]

    @property
    def numerator(self) -> int:
        return int(self.name.partition("/")[0])

    @property
    def denominator(self) -> int:
        """The note value that is counted on paper: 4 is the quarter."""
        return int(self.name.partition("/")[2])

    @property
    def groups(self) -> tuple[int, ...]:
        """Beats as they fall together in a bar: 5/4 is three and two, 7/8 two, two and three."""
        return _METERS[self.name][3]

    def count(self, position: Fraction) -> str:
        """How a position in the bar is counted aloud.

        Parameters
        ----------
        position : beats from the bar line, 0 is the first

        >>> Meter("4/4").count(Fraction(5, 2)), Meter("6/8").count(Fraction(4, 3))
        ('3 &', '5')

        A place between the counts that have names is a share of a count after one: "1 + 1/8".
        """
        beat, rest = divmod(position, 1)
        if self.division == 3:
            eighth, rest = divmod(position * 3, 1)
            return f"{int(eighth) + 1}" + (" &" if rest == Fraction(1, 2) else f" + {rest}" if rest else "")
        names = {Fraction(0): "", Fraction(1, 4): " e", Fraction(1, 2): " &", Fraction(3, 4): " a"}
        names |= {Fraction(1, 3): " trip", Fraction(2, 3): " let"}
        return f"{int(beat) + 1}{names.get(rest, f' + {rest}')}"
