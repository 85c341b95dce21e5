"""Chords that are called by their step in the key: "the five chord, G", "A flat is the four chord"."""

from __future__ import annotations

import re

from valley.lesson.proof._desk import Desk
from valley.lesson.proof._facts import Fact, fact, settle
from valley.lesson.proof._words import COUNTED, read_whole

_AFTER = re.compile(r"\s*,?\s*(?:so |which is |that is |that's |is )?(?:an? |the )?", re.IGNORECASE)
_BEFORE = re.compile(r"\s*,?\s*(?:which is |that's |that is |is |being )?$", re.IGNORECASE)


def judge_degree(desk: Desk, match: re.Match[str]) -> None:
    """The step on which the chord that is named beside it stands in the key there."""
    after = next((r for r in desk.named if r.start >= match.end() and _AFTER.fullmatch(desk.sentence[match.end() : r.start])), None)
    before = next((r for r in reversed(desk.named) if r.end <= match.start() and _BEFORE.fullmatch(desk.sentence[r.end : match.start()])), None)
    row = after or before
    if row is None or row.octave is not None:
        return
    grip = next(iter(desk.meant()), None)
    chart = desk.scope.chart
    key = chart.key_at(grip.start) if grip else chart.keys[0].key
    steps = [n.pitch_class for n in key.scale()]
    if row.name.pitch_class in steps:
        right = steps.index(row.name.pitch_class) + 1
        settle(
            desk, match, "said", read_whole(match["n"]) == right, f"the {COUNTED[right]} chord", f"{desk.say(row.name)} is step {right} of {desk.say_key(key)}"
        )


DEGREES: tuple[Fact, ...] = ((fact(r"\b(?P<said>the (?P<n>one|two|three|four|five|six|seven|[1-7]) chord)\b"), judge_degree),)
