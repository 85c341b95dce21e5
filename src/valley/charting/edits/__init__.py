"""Corrections: each takes a chart and gives a new one, with a sentence for the record; what the creator set is locked.

A correction is plain data with a ``kind``; a new one is a frozen dataclass with ``apply`` in the file of its subject, and
its name in ``Edit`` below.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

from valley.charting.edits.chords import DeleteChord, InsertChord, JoinChord, MoveChange, SetBass, SetChord, SplitChord
from valley.charting.edits.cues import SetCue
from valley.charting.edits.grid import DoubleTempo, HalveTempo, NudgeBeat, SetBarOne, SetMeter, TapTempo
from valley.charting.edits.keys import RemoveKey, SetKey
from valley.charting.edits.melody import AddNote, ChangeNote, DeleteNote, JoinNote, SnapNotes, SplitNote, TransposeNotes
from valley.charting.edits.parts import MarkRepeat, MergePart, MovePart, RenamePart, SplitPart
from valley.charting.edits.spread import find_twins, shifted
from valley.errors import ParameterError, ValleyError
from valley.model.chart import Chart

Edit = (
    SetChord
    | SetBass
    | InsertChord
    | SplitChord
    | JoinChord
    | DeleteChord
    | MoveChange
    | AddNote
    | ChangeNote
    | DeleteNote
    | SplitNote
    | JoinNote
    | TransposeNotes
    | SnapNotes
    | DoubleTempo
    | HalveTempo
    | SetMeter
    | SetBarOne
    | NudgeBeat
    | TapTempo
    | SetKey
    | RemoveKey
    | SetCue
    | SplitPart
    | MergePart
    | MovePart
    | RenamePart
    | MarkRepeat
)


def apply_edit(chart: Chart, edit: Edit, spread_to: Sequence[int] = ()) -> tuple[Chart, str]:
    """A correction, and the same one at its place in other parts that repeat the passage.

    Raises
    ------
    FormatError, ParameterError
        the correction makes no sense here; nothing is changed
    """
    changed, said = edit.apply(chart)
    if not spread_to:
        return changed, said
    place = getattr(edit, "start", None)
    if place is None:
        place = getattr(edit, "at", None)
    twins = {t.part: t for t in find_twins(chart, place)} if place is not None else {}
    unknown = [p for p in spread_to if p not in twins]
    if unknown:
        raise ParameterError(f"parts {unknown} do not repeat this place, so the change cannot be spread to them")
    done = []
    for part in spread_to:
        try:
            changed, _ = shifted(edit, twins[part].shift, twins[part].up).apply(changed)
        except ValleyError as error:
            raise ParameterError(f"part {part}, bar {twins[part].bar} is built otherwise ({error}); leave it out") from error
        done.append(str(part))
    return changed, f"{said}; also in part{'s' if len(done) > 1 else ''} {' and '.join(done)}"


def set_title(chart: Chart, title: str) -> Chart:
    """Another title for the same chart."""
    if not title.strip():
        raise ParameterError("title must not be empty; give the song a name")
    return replace(chart, title=title.strip())
