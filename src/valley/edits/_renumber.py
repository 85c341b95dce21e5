"""Parts get other numbers when one is split, joined or moved to another grid: what hangs on a number goes along."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import replace

from valley.model.chart import Chart
from valley.model.choices import PartChoice
from valley.model.lesson import StepEdit, StepTime
from valley.model.passage import Passage
from valley.song.state import SongState


def renumbered(song: SongState, chart: Chart, numbers: Mapping[int, int]) -> SongState:
    """The song on a chart whose parts have new ``numbers``: choices, words and the order of teaching follow; a part that is gone gives up its own."""
    order = tuple(dict.fromkeys(numbers[n] for n in song.settings.order if n in numbers))
    return replace(
        song,
        chart=chart,
        choices=replace(song.choices, parts=_choices(song.choices.parts, numbers), passages=_passages(song.choices.passages, numbers)),
        teaching=replace(song.teaching, edits=_edits(song.teaching.edits, numbers), times=_times(song.teaching.times, numbers)),
        settings=replace(song.settings, order=order),
    )


def _choices(parts: Sequence[PartChoice], numbers: Mapping[int, int]) -> tuple[PartChoice, ...]:
    kept: dict[int, PartChoice] = {}
    for own in parts:
        if own.part in numbers:
            kept.setdefault(numbers[own.part], replace(own, part=numbers[own.part]))
    return tuple(kept[n] for n in sorted(kept))


def _passages(passages: Sequence[Passage], numbers: Mapping[int, int]) -> tuple[Passage, ...]:
    """In which parts a passage holds as well; in a part that is gone it cannot."""

    def kept(times: tuple[int, ...] | None) -> tuple[int, ...] | None:
        return None if times is None else tuple(dict.fromkeys(numbers[n] for n in times if n in numbers))

    return tuple(replace(p, times=kept(p.times)) for p in passages)


def _edits(edits: Sequence[StepEdit], numbers: Mapping[int, int]) -> tuple[StepEdit, ...]:
    kept: dict[str, StepEdit] = {}
    for edit in edits:
        key = _key(edit.key, numbers)
        after = edit.after if edit.after is None else _key(edit.after, numbers)
        kept.setdefault(key, replace(edit, key=key, after=after))
    return tuple(kept.values())


def _times(times: Sequence[StepTime], numbers: Mapping[int, int]) -> tuple[StepTime, ...]:
    kept: dict[str, StepTime] = {}
    for time in times:
        key = _key(time.key, numbers)
        kept.setdefault(key, replace(time, key=key))
    return tuple(kept.values())


def _key(key: str, numbers: Mapping[int, int]) -> str:
    """A step's key under the new numbers: "part-2/left" is that of a part, "join/1-2" joins parts."""
    head, _, tail = key.partition("/")
    if head == "join":
        return f"join/{'-'.join(_number(n, numbers) for n in tail.split('-'))}"
    name, _, number = head.partition("-")
    return f"part-{_number(number, numbers)}/{tail}" if name == "part" else key


def _number(text: str, numbers: Mapping[int, int]) -> str:
    return str(numbers.get(int(text), text)) if text.isdigit() else text
