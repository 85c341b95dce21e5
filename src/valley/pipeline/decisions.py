"""Decisions in the words of the logbook: what was changed, and what it is good for."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

from valley.arranging.arrange import arrange
from valley.arranging.changes import ChangeGrip, HandsEdit, SetHands, TakePlayed
from valley.arranging.decisions import explain_change
from valley.charting.edits.chords import SetChord
from valley.charting.parts import symbol_of
from valley.errors import ValleyError
from valley.model.chart import Chart, MelodyNote
from valley.model.choices import Choices


def say_decision(chart: Chart, before: Choices, after: Choices, edit: HandsEdit, what: str, played: Sequence[MelodyNote] = ()) -> str:
    """A change of the hands with its reason: the creator's own, else what can be measured of it."""
    if isinstance(edit, ChangeGrip) and edit.reason.strip():
        return f"{what}, {edit.reason.strip()}"
    if not isinstance(edit, ChangeGrip | SetHands | TakePlayed):
        return what
    try:
        old, new = (arrange(chart, replace(c, links="chosen"), played=played) for c in (before, after))
    except ValleyError:  # what cannot be played has no reason; the change itself says so elsewhere
        return what
    reason = explain_change(chart, old, new)
    return f"{what}, {reason}" if reason else what


def say_reading(chart: Chart, edit: SetChord) -> str:
    """How sure the listening was of the chord that a correction replaces; ``chart`` is that before it."""
    old = next((c for c in chart.chords if c.start == edit.start), None)
    if old is None or old.locked or not old.readings:
        return ""
    return f", where the listening was {old.confidence:.0%} sure of {symbol_of(old.label)}"
