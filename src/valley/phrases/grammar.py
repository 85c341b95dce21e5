"""How a language puts numbers, lengths, counts, keys and distances into words: its own words in one shape."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, field

from valley.fraction import Fraction

PHRASES_OF = Mapping[str, tuple[str, ...]]


@dataclass(frozen=True)
class Grammar:
    """The small words of a language.

    ``units``: one and several of each; ``half_a``: half of one; ``shares``: of a whole; ``bar``: "a bar"; ``between``: what is counted between the beats;
    ``keys``: the keys of a grip of one, two, three; ``numbered``: those of more; ``intervals`` by half steps; ``octaves``: one, two, three, and more of them;
    ``registers``: the octave of a key, from its C, 4 the middle one; ``naming``: the usual one; ``syllables``: those that are written
    otherwise; ``signs``, ``members``, ``inversions``: what theory has in English, in this language.
    """

    no_chord: str
    nothing: str
    if_you_like: str
    key: Callable[[str, str], str]
    also: str
    then: str
    units: Mapping[str, tuple[str, str]]
    half_a: Mapping[str, str]
    shares: Mapping[Fraction, str]
    share_of: str
    with_share: str
    bar: str
    times: Callable[[int], str]
    between: Mapping[str, str]
    share_after: str
    on: str
    into: str
    grace: str
    all_keys: str
    keys: Mapping[int, tuple[str, ...]]
    numbered: tuple[str, ...]
    intervals: Mapping[int, str]
    octaves: tuple[str, str, str, str]
    up: str
    down: str
    registers: Mapping[int, str]
    naming: str = "letters"
    syllables: Mapping[str, str] = field(default_factory=dict)
    signs: Mapping[str, str] = field(default_factory=dict)
    members: Mapping[str, str] = field(default_factory=dict)
    inversions: Mapping[str, str] = field(default_factory=dict)

    def join(self, names: Sequence[str]) -> str:
        """ "A, C and E"."""
        return "" if not names else names[0] if len(names) == 1 else f"{', '.join(names[:-1])} {self.also} {names[-1]}"

    def amount(self, amount: Fraction, unit: str) -> str:
        """So many of a unit: "1 beat and a half"."""
        whole, rest = divmod(amount, 1)
        one, several = self.units[unit]
        share = self.shares.get(rest, str(rest)) if rest else ""
        if not whole:
            return self.half_a[unit] if rest == Fraction(1, 2) and unit in self.half_a else self.share_of.format(share=share, unit=one)
        said = f"{whole} {one if whole == 1 else several}"
        return self.with_share.format(whole=said, share=share) if share else said

    def length(self, beats: Fraction, bar: Fraction) -> str:
        """How long something lasts, in bars where it fills them."""
        if bar and beats == bar:
            return self.bar
        return self.amount(beats / bar, "bar") if bar and beats % bar == 0 else self.amount(beats, "beat")

    def count(self, count: str) -> str:
        """A place in a bar as it is counted aloud: "2 and", "3/8 of a count after 1"."""
        beat, _, rest = count.partition(" ")
        if rest.startswith("+"):
            return self.share_after.format(share=rest[1:].strip(), beat=beat)
        return f"{beat} {self.between.get(rest, rest)}" if rest else self.between.get(beat, beat)

    def stroke(self, keys: str, graces: str, count: str) -> str:
        """Keys with their count and what slides into them."""
        said = self.into.format(graces=graces, keys=keys) if graces and keys else self.grace.format(graces=graces) if graces else keys
        return self.on.format(keys=said, count=count) if count else said

    def rows(self, row: Sequence[int], size: int) -> str:
        """Keys of a grip by where they lie in it, from the bottom: "middle and top"."""
        if len(row) == size != 1:
            return self.all_keys
        names = self.keys.get(size, self.numbered)
        return f" {self.also} ".join(names[i] for i in row)

    def distance(self, half_steps: int) -> str:
        """A distance as a player says it: "up an octave and a third"."""
        octaves, size = divmod(abs(half_steps), 12)
        said = [self.octaves[octaves] if octaves < 3 else self.octaves[3].format(n=octaves), self.intervals.get(size, "")]
        return f"{self.up if half_steps > 0 else self.down} {f' {self.also} '.join(x for x in said if x)}"

    def translate(self, text: str, table: Mapping[str, str]) -> str:
        """A text of the theory with the words of a table in this language."""
        for words, own in table.items():
            text = text.replace(words, own)
        return text
