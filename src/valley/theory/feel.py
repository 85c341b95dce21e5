"""How the halves of a beat are played: even, or long and short. Swung notes are written and counted as even ones; only when they sound differs.

That the first of a pair lasts two thirds of it is how swing and shuffle are taught and written (MusicXML 4.0, element ``swing``); played swing lies
between even and that, nearer to even the quicker it is (Friberg and Sundström, "Swing ratios and ensemble timing in jazz performance", 2002).
"""

from __future__ import annotations

from collections.abc import Callable, Iterable
from dataclasses import dataclass

from valley.errors import FormatError
from valley.fraction import Fraction
from valley.theory.meter import Meter

_SAME = 1e-6  # of a pair: as near as that a position is the third that it looks like


@dataclass(frozen=True)
class Feel:
    """``long`` is the share of a pair that its first note takes, ``pair`` how long a pair is in quarters."""

    name: str
    long: Fraction
    pair: Fraction

    def pair_in(self, meter: Meter) -> Fraction:
        """Beats of a pair in a metre; 0 where nothing is swung there: in compound time, and where a beat is shorter than a pair."""
        beats = self.pair / meter.quarters_per_beat
        return beats if self.long != Fraction(1, 2) and meter.division == 2 and beats <= 1 else Fraction(0)

    def sounds_at(self, into: float, pair: Fraction) -> float:
        """The share of a pair after which a note sounds that is written after ``into`` beats of it; thirds are triplets, and stay.

        >>> round(feel_named("swing").sounds_at(0.5, Fraction(1)), 4), round(feel_named("swing").sounds_at(1 / 3, Fraction(1)), 4)
        (0.6667, 0.3333)
        """
        x, long = into / float(pair), float(self.long)
        if abs(3 * x - round(3 * x)) < _SAME:
            return into
        return float(pair) * (2 * long * x if x <= 0.5 else long + (2 * x - 1) * (1 - long))

    def written_at(self, into: float, pair: Fraction) -> float:
        """The other way: where in a pair a note is written that sounds after so many beats of it. Triplets cannot be told from swung notes here."""
        x, long = into / float(pair), float(self.long)
        return float(pair) * (x / (2 * long) if x <= long else 0.5 + (x - long) / (2 * (1 - long)))


_EIGHTHS, _SIXTEENTHS = Fraction(1), Fraction(1, 2)
FEELS: dict[str, Feel] = {
    feel.name: feel
    for feel in (
        Feel("straight", Fraction(1, 2), _EIGHTHS),
        Feel("light swing", Fraction(3, 5), _EIGHTHS),
        Feel("swing", Fraction(2, 3), _EIGHTHS),
        Feel("shuffle", Fraction(2, 3), _EIGHTHS),
        Feel("swung sixteenths", Fraction(2, 3), _SIXTEENTHS),
    )
}
STRAIGHT = "straight"


def feel_named(name: str) -> Feel:
    if name not in FEELS:
        raise FormatError(f"feel {name!r} is not one of {', '.join(FEELS)}")
    return FEELS[name]


def write_swung(edges: Iterable[Fraction]) -> Callable[[Fraction], Fraction]:
    """Where notes that were written as triplets, long and short, are written in a swung song: two thirds of a beat become its half.

    ``edges`` are where notes begin and end; a beat with one on its first third holds a real triplet, one with one on its half is written even: both stay.

    >>> place = write_swung([Fraction(0), Fraction(2, 3), Fraction(1), Fraction(4, 3), Fraction(5, 3)])
    >>> place(Fraction(2, 3)), place(Fraction(5, 3))
    (Fraction(1, 2), Fraction(5, 3))
    """
    stay = {edge // 1 for edge in edges if edge % 1 in (Fraction(1, 3), Fraction(1, 2))}
    return lambda beat: beat - Fraction(1, 6) if beat % 1 == Fraction(2, 3) and beat // 1 not in stay else beat
