"""A pass that was played in, or heard in a recording: set on the counts, shared between the hands, law from then on."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import ClassVar, Literal, Self

from valley.arranging.on_grid import set_on_grid
from valley.arranging.passages import level_at
from valley.arranging.two_hands import Stroke, split_hands
from valley.edits._edit import HandsEdit
from valley.edits.passages import check_keys, lay_in
from valley.errors import ParameterError
from valley.fraction import Fraction
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
    """What was played from ``start`` on for ``duration`` beats, for both hands or one of them: ``keys``, or with ``heard`` those of a piano's recording.

    ``feel``, ``finest`` and ``strength`` say how it is set on the counts; ``times`` as in a passage.
    """

    start: Fraction
    duration: Fraction
    keys: tuple[PlayedKey, ...] = ()
    heard: bool = False
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
        if self.heard:
            strokes = [Stroke(n.start, n.duration, n.midi) for n in played]
        else:
            strokes = [Stroke(max(k.at, Fraction(0)), k.lasting, k.midi, k.velocity) for k in self.keys]
        choices, count = _lay(song, self, strokes)
        how = "heard in the recording" if self.heard else "you played"
        return choices, f"{_where(song, self)}: {_whose(self.hands)} as {how}, {count} note{'' if count == 1 else 's'}"


def _lay(song: SongState, take: TakePass, strokes: Sequence[Stroke]) -> tuple[Choices, int]:
    """The choices with what was struck in a stretch as passages, and how many notes they have."""
    chart, end = song.chart, take.start + take.duration
    if take.duration <= 0 or take.start < 0 or end > len(chart.grid.beats):
        raise ParameterError(f"duration={take.duration} must be longer than 0 and end with the song, at beat {len(chart.grid.beats)}")
    near = [s for s in strokes if take.start - 1 <= s.start < end]
    compound = chart.grid.meter_at(take.start).division == 3
    placed = set_on_grid(near, feel=take.feel, finest=take.finest, strength=take.strength, compound=compound)
    inside = [s for s in placed if take.start <= s.start < end]
    if not inside:
        heard = "no keys were heard struck there; this needs a recording in which a piano plays"
        raise ParameterError(heard if take.heard else "nothing was played there; play while the song runs, then take it")
    shared = list(zip(inside, split_hands(inside), strict=True))
    choices, count = song.choices, 0
    for hand in HANDS if take.hands == "both" else (take.hands,):
        mine = [s for s, whose in shared if whose == hand]
        notes = tuple(WrittenNote(s.start - take.start, min(s.duration, end - s.start), s.midi) for s in mine)
        check_keys(choices, notes)
        choices = lay_in(choices, Passage(hand, take.start, take.duration, notes, take.times, "played", level_at(chart, choices, take.start)))
        count += len(notes)
    return choices, count


def _where(song: SongState, take: TakePass) -> str:
    grid = song.chart.grid
    first, last = grid.place(take.start)[0], grid.place(take.start + take.duration - Fraction(1, 1024))[0]
    return f"bar {first}" if first == last else f"bars {first} to {last}"


def _whose(hands: str) -> str:
    return "both hands" if hands == "both" else f"the {hands} hand"
