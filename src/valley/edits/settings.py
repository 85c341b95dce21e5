"""What belongs to the song as a whole: its title, and what its lessons hold."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import Literal

from valley.edits._edit import ChartEdit, Edit
from valley.errors import ParameterError
from valley.model.chart import Chart, MelodyNote
from valley.song.state import SongState

LONGEST_TITLE = 200


@dataclass(frozen=True)
class RenameSong(ChartEdit):
    """Another title."""

    title: str
    kind: Literal["rename_song"] = "rename_song"

    def correct(self, chart: Chart) -> tuple[Chart, str]:
        title = self.title.strip()[:LONGEST_TITLE]
        if not title:
            raise ParameterError("title must not be empty; give the song a name")
        return replace(chart, title=title), f"renamed to {title}"


@dataclass(frozen=True)
class PlanLessons(Edit):
    """Which parts are taught in which order, none for all, about how many minutes a lesson has, and who is thanked; what is None stays."""

    order: tuple[int, ...] | None = None
    minutes: float | None = None
    thanks: str | None = None
    kind: Literal["plan_lessons"] = "plan_lessons"

    def apply(self, song: SongState, played: Sequence[MelodyNote] = ()) -> tuple[SongState, str]:
        order = song.settings.order if self.order is None else self.order
        minutes = song.settings.minutes if self.minutes is None else self.minutes
        thanks = song.settings.thanks if self.thanks is None else " ".join(self.thanks.split())
        unknown = [n for n in order if n not in {p.number for p in song.chart.parts}]
        if unknown or len(set(order)) != len(order):
            raise ParameterError(f"order={list(order)} must name parts 1 to {len(song.chart.parts)}, each once")
        said = []
        if self.order is not None:
            said.append(
                f"part{'s' if len(order) > 1 else ''} {', '.join(map(str, order))} {'are' if len(order) > 1 else 'is'} taught"
                if order
                else "all parts are taught in their order"
            )
        if self.minutes is not None:
            said.append(f"lessons of about {minutes:g} minutes" if minutes else "one lesson for all")
        if self.thanks is not None:
            said.append(f"{thanks} thanked for asking" if thanks else "nobody thanked")
        return replace(song, settings=replace(song.settings, order=order, minutes=minutes, thanks=thanks)), ", ".join(said) or "the plan as it was"
