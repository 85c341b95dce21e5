"""Decisions in the words of the logbook: what was changed, and what it is good for."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

from valley.arranging.arrange import arrange
from valley.arranging.decisions import explain_change
from valley.edits import ChangeGrip, Edit, HandsEdit, SetChord, SetHands, SetSchool, TakePlayed
from valley.edits.voicing import SETTINGS
from valley.errors import ValleyError
from valley.model.chart import MelodyNote
from valley.song.state import SongState


@dataclass(frozen=True)
class Decision:
    """What was decided, and what it is good for where that is known; ``bar`` is where, None for the whole song; ``about`` what it is about."""

    what: str
    reason: str
    bar: int | None
    about: str = ""


def find_decision(before: SongState, after: SongState, edit: Edit, what: str, played: Sequence[MelodyNote] = ()) -> Decision | None:
    """An edit that is worth a line in the logbook: chords that were named, all of the hands, schools."""
    bar = after.chart.grid.place(edit.place)[0] if edit.place is not None else None
    if isinstance(edit, SetChord):
        return Decision(what, _doubt_before(before, edit), bar, f"chord {edit.start}")
    if isinstance(edit, HandsEdit):
        return Decision(what, _reason(before, after, edit, played), bar, _subject(edit))
    return Decision(what, "", None, f"school {edit.matter}") if isinstance(edit, SetSchool) else None


def _subject(edit: HandsEdit) -> str:
    """What an edit of the hands is about: a place, a part with what is set there, or a pattern."""
    if edit.place is not None:
        return f"{edit.kind} {edit.place}"
    if isinstance(edit, SetHands):
        chosen = [f"{name}={value}" for name in SETTINGS if (value := getattr(edit, name)) is not None]
        return f"{edit.kind} {edit.part or 'song'} {' '.join(chosen)}"[:80]
    return f"{edit.kind} {getattr(edit, 'part', '') or getattr(edit, 'name', '')}"


def _reason(before: SongState, after: SongState, edit: HandsEdit, played: Sequence[MelodyNote]) -> str:
    """The creator's own reason, else what can be measured of the change."""
    if isinstance(edit, ChangeGrip) and edit.reason.strip():
        return edit.reason.strip()
    if not isinstance(edit, ChangeGrip | SetHands | TakePlayed):
        return ""
    try:
        old, new = (arrange(song.chart, replace(song.choices, links="chosen"), played=played) for song in (before, after))
    except ValleyError:  # what cannot be played has no reason; the change itself says so elsewhere
        return ""
    return explain_change(before.chart, old, new)


def _doubt_before(song: SongState, edit: SetChord) -> str:
    """How sure the listening was of the chord that a correction replaces."""
    old = next((c for c in song.chart.chords if c.start == edit.start), None)
    if old is None or old.locked or not old.readings:
        return ""
    return f"where the listening was {old.confidence:.0%} sure of {old.symbol}"
