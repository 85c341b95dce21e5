"""A pass that was played in: set on the counts, shared between the hands, law from then on."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from fractions import Fraction
from typing import ClassVar, Literal, Self

from valley.arranging.on_grid import set_on_grid
from valley.arranging.passages import level_at
from valley.arranging.two_hands import Stroke, split_hands
from valley.edits._edit import HandsEdit
from valley.edits.passages import check_keys, lay_in
from valley.errors import ParameterError
from valley.model._rules import require, require_key
from valley.model.arrangement import HANDS
from valley.model.chart import MelodyNote
from valley.model.choices import Choices
from valley.model.passage import Passage, WrittenNote
from valley.song.state import SongState


@dataclass(frozen=True)
class PlayedKey:
    """A key as it was struck: in beats of the song from its first beat, and how long."""

    at: Fraction
    lasting: Fraction
    midi: int
    velocity: int = 64

    def __post_init__(self) -> None:
        require_key(self.midi)
        require(-8 <= self.at < 100_000 and 0 <= self.lasting < 10_000, "at", self.at, "lie in the song")


@dataclass(frozen=True)
class TakePass(HandsEdit):
    """What was played from ``start`` on for ``duration`` beats, for both hands or one of them.

    ``feel``, ``finest`` and ``strength`` say how it is set on the counts; ``times`` as in a passage.
    """

    start: Fraction
    duration: Fraction
    keys: tuple[PlayedKey, ...]
    hands: Literal["both", "left", "right"] = "both"
    feel: Literal["auto", "straight", "triplet", "swing"] = "auto"
    finest: int = 4
    strength: float = 1.0
    times: tuple[int, ...] | None = ()
    kind: Literal["take_pass"] = "take_pass"
    PLACES: ClassVar[tuple[str, ...]] = ("start",)

    def moved(self, beats: Fraction, half_steps: int = 0) -> Self:
        there = super().moved(beats, half_steps)
        return replace(there, keys=tuple(replace(k, at=k.at + beats) for k in there.keys))

    def transposed(self, half_steps: int) -> Self:
        return replace(self, keys=tuple(replace(k, midi=k.midi + half_steps) for k in self.keys))

    def choose(self, song: SongState, played: Sequence[MelodyNote]) -> tuple[Choices, str]:
        chart = song.chart
        end = self.start + self.duration
        if self.duration <= 0 or self.start < 0 or end > len(chart.grid.beats):
            raise ParameterError(f"duration={self.duration} must be longer than 0 and end with the song, at beat {len(chart.grid.beats)}")
        strokes = [Stroke(max(k.at, Fraction(0)), k.lasting, k.midi, k.velocity) for k in self.keys]
        compound = chart.grid.meter_at(self.start).division == 3
        placed = set_on_grid(strokes, feel=self.feel, finest=self.finest, strength=self.strength, compound=compound)
        inside = [s for s in placed if self.start <= s.start < end]
        if not inside:
            raise ParameterError("nothing was played there; play while the song runs, then take it")
        shared = list(zip(inside, split_hands(inside), strict=True))
        choices, count = song.choices, 0
        for hand in HANDS if self.hands == "both" else (self.hands,):
            mine = [s for s, whose in shared if whose == hand]
            notes = tuple(WrittenNote(s.start - self.start, min(s.duration, end - s.start), s.midi) for s in mine)
            check_keys(choices, notes)
            choices = lay_in(choices, Passage(hand, self.start, self.duration, notes, self.times, "played", level_at(chart, choices, self.start)))
            count += len(notes)
        first, last = chart.grid.place(self.start)[0], chart.grid.place(end - Fraction(1, 1024))[0]
        where = f"bar {first}" if first == last else f"bars {first} to {last}"
        whose = "both hands" if self.hands == "both" else f"the {self.hands} hand"
        return choices, f"{where}: {whose} as you played, {count} note{'' if count == 1 else 's'}"
