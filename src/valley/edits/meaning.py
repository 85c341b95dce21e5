"""What the checks found and the creator means as it is: closed with a reason, until what was found changes."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import ClassVar, Literal

from valley.charting.places import say_place
from valley.edits._edit import HandsEdit
from valley.errors import ParameterError
from valley.fraction import Fraction
from valley.model.chart import MelodyNote
from valley.model.choices import Choices, Meant, gist_of
from valley.song.state import SongState


@dataclass(frozen=True)
class MeanThis(HandsEdit):
    """Close a finding – the check, where it is, the sentence it says – with a reason; ``again`` opens it again."""

    start: Fraction | None
    check: str
    says: str
    reason: str = ""
    again: bool = False
    kind: Literal["mean_this"] = "mean_this"
    PLACES: ClassVar[tuple[str, ...]] = ("start",)

    def choose(self, song: SongState, played: Sequence[MelodyNote]) -> tuple[Choices, str]:
        meant = Meant(self.check, self.start, gist_of(self.says), " ".join(self.reason.split()))
        others = tuple(m for m in song.choices.meant if m.place != meant.place)
        where = f"{say_place(song.chart, self.start)}: " if self.start is not None else ""
        if self.again:
            if len(others) == len(song.choices.meant):
                raise ParameterError(f"no finding of {self.check!r} is closed there; it may have been opened before")
            return replace(song.choices, meant=others), f"{where}a finding is open again"
        why = f" ({meant.reason})" if meant.reason else ""
        return replace(song.choices, meant=(*others, meant)), f"{where}meant as it is{why}"
