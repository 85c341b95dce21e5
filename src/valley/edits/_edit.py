"""What every edit of a song is: frozen data that knows how it is done, how it is moved to a repeat, and how it is told.

An edit of one part of the state says so by its base: of the chart, of the grid under everything, of the parts, of the hands.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace
from typing import ClassVar, Self

from valley.errors import ParameterError
from valley.fraction import Fraction
from valley.model.chart import Chart, MelodyNote
from valley.model.choices import Choices
from valley.song.state import SongState

Place = Callable[[Fraction], Fraction]
"""Where a beat of the old grid lies on the new one."""


@dataclass(frozen=True)
class Edit:
    """``apply`` gives the song after it and a sentence for the record; ``PLACES`` name its fields that are beats of the song."""

    PLACES: ClassVar[tuple[str, ...]] = ()

    def apply(self, song: SongState, played: Sequence[MelodyNote] = ()) -> tuple[SongState, str]:
        """Do it. ``played`` are the keys that were heard struck, on the chart's grid.

        Raises
        ------
        FormatError, ParameterError
            it makes no sense here; says why and what would do
        """
        raise NotImplementedError

    @property
    def place(self) -> Fraction | None:
        """Where in the song it is made, in beats; None for what concerns the whole song."""
        return getattr(self, self.PLACES[0]) if self.PLACES else None

    def moved(self, beats: Fraction, half_steps: int = 0) -> Self:
        """The same edit some beats further on, and some half steps higher where a repeat lies at another pitch."""
        if not self.PLACES:
            raise ParameterError(f"{type(self).__name__} has no place in beats, so it cannot be spread to repeats")
        places = {name: getattr(self, name) + beats for name in self.PLACES if getattr(self, name) is not None}
        there = replace(self, **places)
        return there.transposed(half_steps) if half_steps else there

    def transposed(self, half_steps: int) -> Self:
        """The same edit at another pitch."""
        return self


class ChartEdit(Edit):
    """Changes nothing but the chart."""

    def correct(self, chart: Chart) -> tuple[Chart, str]:
        raise NotImplementedError

    def apply(self, song: SongState, played: Sequence[MelodyNote] = ()) -> tuple[SongState, str]:
        chart, said = self.correct(song.chart)
        return replace(song, chart=chart), said


class HandsEdit(Edit):
    """Changes nothing but the choices for the hands."""

    kind: str

    def choose(self, song: SongState, played: Sequence[MelodyNote]) -> tuple[Choices, str]:
        raise NotImplementedError

    def apply(self, song: SongState, played: Sequence[MelodyNote] = ()) -> tuple[SongState, str]:
        choices, said = self.choose(song, played)
        return replace(song, choices=choices), said
