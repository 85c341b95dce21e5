"""Sentences as data: a phrase and what fills it, from which words are made at the last moment, in the language and the schools chosen.

``phrases`` has the phrases of each language and turns values into words.
"""

from __future__ import annotations

from dataclasses import dataclass

from valley.fraction import Fraction
from valley.model._rules import MaybeChord

_LETTERS = {0: 0, 3: 2, 4: 2, 5: 3, 7: 4, 8: 5, 9: 5, 10: 6, 11: 6}  # half steps of an interval, and by how many letters it goes


@dataclass(frozen=True)
class Amount:
    """So many of a unit: "beat", "bar", "part", "note", …"""

    amount: Fraction
    unit: str


@dataclass(frozen=True)
class Names:
    """Notes without their octave, one after the other, such as a scale: "Eb F G"."""

    names: tuple[str, ...]


@dataclass(frozen=True)
class Pitches:
    """Keys by name and octave (middle C is C4), from the bottom up or in the order in which they are played; ``starred`` ones may be left out."""

    pitches: tuple[str, ...]
    starred: tuple[str, ...] = ()
    in_order: bool = False  # "A, B, C" instead of "A, B and C"


@dataclass(frozen=True)
class Sound:
    """A chord, or none."""

    chord: MaybeChord


@dataclass(frozen=True)
class Chords:
    """Chords one after the other: "C G/B"."""

    chords: tuple[MaybeChord, ...]


@dataclass(frozen=True)
class KeyName:
    tonic: str
    mode: str


@dataclass(frozen=True)
class Counts:
    """How places are counted aloud: "1", "2 &"."""

    counts: tuple[str, ...]


@dataclass(frozen=True)
class Numbers:
    """Bars, parts, fingers: "1, 2 and 4"; with ``in_order`` "1, 2, 4"."""

    numbers: tuple[int, ...]
    in_order: bool = False


@dataclass(frozen=True)
class Distance:
    """Half steps up (positive) or down, and how many letters the spelled notes lie apart, where they are spelled."""

    half_steps: int
    letters: int | None = None

    @property
    def fits(self) -> bool:
        """Whether the spelling is that of the interval with so many half steps: Ab to B is no third, though it has three."""
        octaves, size = divmod(abs(self.half_steps), 12)
        return self.letters is None or size not in _LETTERS or self.letters == _LETTERS[size] + 7 * octaves


@dataclass(frozen=True)
class Several:
    """Sayings inside a saying: clauses with commas ("clauses"), with semicolons ("rows"), or a list ("list")."""

    sayings: tuple[Saying, ...]
    joined: str = "clauses"


@dataclass(frozen=True)
class Stroke:
    """Keys that a hand strikes together, from the bottom up; ``count`` is when in its bar, "" where that is not said.

    ``graces`` slide into it and take no time of their own; ``starred`` keys may be left out.
    """

    count: str
    pitches: tuple[str, ...]
    graces: tuple[str, ...] = ()
    starred: tuple[str, ...] = ()


@dataclass(frozen=True)
class Strokes:
    """What a hand strikes, one after the other."""

    strokes: tuple[Stroke, ...]


@dataclass(frozen=True)
class Order:
    """In which order the ``size`` keys of a grip are struck (0: always all of them): keys by number, 0 the lowest.

    ``counts`` say when; there are none where the strokes come evenly.
    """

    rows: tuple[tuple[int, ...], ...]
    size: int
    counts: tuple[str, ...] = ()


@dataclass(frozen=True)
class Member:
    """What a note is in its chord: "third", "flat ninth", "bass"."""

    word: str


@dataclass(frozen=True)
class Times:
    """How often: twice, three times."""

    number: int


@dataclass(frozen=True)
class Length:
    """How long something lasts in beats; ``bar`` is how many a bar has there, 0 where bars are not spoken of."""

    beats: Fraction
    bar: Fraction = Fraction(0)


Value = Amount | Names | Pitches | Sound | Chords | KeyName | Counts | Numbers | Distance | Several | Strokes | Order | Member | Times | Length | int | str


@dataclass(frozen=True)
class Saying:
    """``phrase`` names a phrase of the catalogue, ``values`` fill it by name. The phrase "own" holds words of somebody's own as ``text``."""

    phrase: str
    values: tuple[tuple[str, Value], ...] = ()

    def value(self, name: str) -> Value | None:
        """What fills a place of the phrase."""
        return dict(self.values).get(name)


def say(phrase: str, /, **values: Value) -> Saying:
    """A saying from its parts.

    >>> say("hold", beats=Amount(Fraction(4), "beat")).value("beats")
    Amount(amount=Fraction(4, 1), unit='beat')
    """
    return Saying(phrase, tuple(values.items()))


def own_words(text: str) -> Saying:
    return say("own", text=text)
