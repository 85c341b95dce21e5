"""Links between chords: taken in full, the easier way, or not."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import ClassVar, Literal

from valley.arranging.links import KINDS
from valley.edits._edit import HandsEdit
from valley.errors import ParameterError
from valley.fraction import Fraction
from valley.model.chart import MelodyNote
from valley.model.choices import Choices, LinkChoice
from valley.song.state import SongState


@dataclass(frozen=True)
class TakeLink(HandsEdit):
    """Play a link in full, the easier way, or not ("")."""

    start: Fraction
    link: str
    kind: Literal["take_link"] = "take_link"
    form: Literal["", "full", "easier"] = "full"
    PLACES: ClassVar[tuple[str, ...]] = ("start",)

    def choose(self, song: SongState, played: Sequence[MelodyNote]) -> tuple[Choices, str]:
        if self.link not in KINDS:
            raise ParameterError(f"link={self.link!r} must be one of {', '.join(KINDS)}")
        others = [k for k in song.choices.taken_links if (k.start, k.kind) != (self.start, self.link)]
        new = [LinkChoice(self.start, self.link, self.form)] if self.form else []
        bar = song.chart.grid.place(self.start)[0]
        said = {"": "left out", "full": "played", "easier": "played the easier way"}[self.form]
        taken = tuple(sorted([*others, *new], key=lambda k: (k.start, k.kind)))
        return replace(song.choices, taken_links=taken), f"bar {bar}: {self.link} {said}"
