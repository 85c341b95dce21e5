"""The way through the song: which parts could be repeats of earlier ones, found by their chords at any pitch."""

from __future__ import annotations

from dataclasses import dataclass, replace

from valley.charting.parts import Heard, compare_parts
from valley.model.chart import Chart
from valley.phrases.differences import say_differences

_ALIKE = 0.7  # share of the bars that must agree for a suggestion


@dataclass(frozen=True)
class Suggestion:
    """Part ``number`` could be taught as a repeat of ``model``; ``why`` says how alike they are."""

    number: int
    model: int
    why: str


def suggest_repeats(chart: Chart) -> tuple[Suggestion, ...]:
    """Parts that stand on their own but resemble an earlier one closely."""
    found, heard = [], Heard(chart)
    for i, part in enumerate(chart.parts):
        if part.same_as is not None or part.bars < 2:
            continue
        best: tuple[float, Suggestion] | None = None
        for model in chart.parts[:i]:
            if model.same_as is not None or model.bars < 2 or abs(model.bars - part.bars) > max(model.bars, part.bars) // 2:
                continue
            seen = compare_parts(heard, model, replace(part, same_as=model.number))
            different = sum(d.kind in ("chords", "ending") for d in seen.differences)
            share = 1 - (different + abs(model.bars - part.bars)) / max(model.bars, part.bars)
            if share >= _ALIKE and (best is None or share > best[0]):
                told = "; ".join(say_differences(seen.differences)[:3])
                words = {"same": "the same, note for note", "chords": "the same chords under another tune"}.get(seen.kinship, told)
                best = (share, Suggestion(part.number, model.number, words))
        if best:
            found.append(best[1])
    return tuple(found)
