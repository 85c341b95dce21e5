"""Edits: the one language in which a song is changed.

Each is plain data with a ``kind``: it takes a song's state and gives a new one, with a sentence for the record; what the creator set in the
chart is locked. A new one is a frozen dataclass in the file of its subject and its name in ``Edit`` below: service, endpoint, types and the
contract test follow by themselves.
"""

from __future__ import annotations

from collections.abc import Sequence

from valley.charting.twins import find_twins
from valley.edits._edit import HandsEdit
from valley.edits.bars import CopyBars, WriteBars
from valley.edits.chords import DeleteChord, InsertChord, JoinChord, MoveChange, SetBass, SetChord, SplitChord
from valley.edits.cues import SetCue
from valley.edits.feel import SetFeel
from valley.edits.grid import DoubleTempo, HalveTempo, NudgeBeat, SetBarOne, SetMeter, TapTempo
from valley.edits.grips import ChangeGrip, PlayedGrip, TakePlayed
from valley.edits.keys import RemoveKey, SetKey
from valley.edits.links import TakeLink
from valley.edits.meaning import MeanThis
from valley.edits.melody import AddNote, ChangeNote, DeleteNote, JoinNote, SnapNotes, SplitNote, TransposeNotes
from valley.edits.parts import DeclareRepeats, MarkRepeat, MergePart, MovePart, RenamePart, SplitPart
from valley.edits.passages import ChangePlayed, ForgetPassage, WritePassage
from valley.edits.patterns import SetChordPattern, WritePattern
from valley.edits.playing import PlayedKey, TakePass
from valley.edits.settings import PlanLessons, RenameSong
from valley.edits.teaching import ForgetStep, SetSchool, TimeSteps, TookTime, WriteStep
from valley.edits.thirds import OneAsThree, ThreeAsOne
from valley.edits.transpose import TransposeSong
from valley.edits.tune_row import WriteTune
from valley.edits.voicing import SetHands, VaryPart
from valley.errors import ParameterError, ValleyError
from valley.model.chart import MelodyNote
from valley.song.state import SongState

Edit = (
    SetChord
    | SetBass
    | InsertChord
    | SplitChord
    | WriteBars
    | CopyBars
    | WriteTune
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
    | ThreeAsOne
    | OneAsThree
    | SetMeter
    | SetFeel
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
    | DeclareRepeats
    | SetHands
    | VaryPart
    | ChangeGrip
    | TakePlayed
    | WritePassage
    | MeanThis
    | TakePass
    | ForgetPassage
    | ChangePlayed
    | TakeLink
    | SetChordPattern
    | WritePattern
    | SetSchool
    | WriteStep
    | ForgetStep
    | TimeSteps
    | RenameSong
    | PlanLessons
    | TransposeSong
)


def apply_edit(song: SongState, edit: Edit, spread_to: Sequence[int] = (), *, played: Sequence[MelodyNote] = ()) -> tuple[SongState, str]:
    """An edit, and the same one at its place in other parts that repeat the passage.

    Parameters
    ----------
    spread_to : numbers of the parts
    played : the keys heard struck, on the chart's grid; needed where a style plays them

    Raises
    ------
    FormatError, ParameterError
        the edit makes no sense here; nothing is changed
    """
    changed, said = edit.apply(song, played)
    if not spread_to:
        return changed, said
    place = edit.place
    twins = {t.part: t for t in find_twins(song.chart, place)} if place is not None else {}
    unknown = [p for p in spread_to if p not in twins]
    if unknown:
        raise ParameterError(f"parts {unknown} do not repeat this place, so the change cannot be spread to them")
    done = []
    for part in spread_to:
        try:
            changed, _ = edit.moved(twins[part].shift, twins[part].up).apply(changed, played)
        except ValleyError as error:
            raise ParameterError(f"part {part}, bar {twins[part].bar} is built otherwise ({error}); leave it out") from error
        done.append(str(part))
    return changed, f"{said}; also in part{'s' if len(done) > 1 else ''} {' and '.join(done)}"


__all__ = [
    "AddNote",
    "ChangeGrip",
    "ChangeNote",
    "ChangePlayed",
    "DeclareRepeats",
    "DeleteChord",
    "DeleteNote",
    "DoubleTempo",
    "Edit",
    "ForgetPassage",
    "ForgetStep",
    "HalveTempo",
    "HandsEdit",
    "InsertChord",
    "JoinChord",
    "JoinNote",
    "MarkRepeat",
    "MergePart",
    "MoveChange",
    "MovePart",
    "NudgeBeat",
    "OneAsThree",
    "PlanLessons",
    "PlayedGrip",
    "RemoveKey",
    "RenamePart",
    "RenameSong",
    "SetBarOne",
    "SetBass",
    "SetChord",
    "SetChordPattern",
    "SetCue",
    "SetHands",
    "SetKey",
    "SetMeter",
    "SetSchool",
    "SnapNotes",
    "SplitChord",
    "WriteBars",
    "CopyBars",
    "WriteTune",
    "SplitNote",
    "SplitPart",
    "TakeLink",
    "TakePlayed",
    "TapTempo",
    "ThreeAsOne",
    "TimeSteps",
    "TookTime",
    "TransposeNotes",
    "TransposeSong",
    "VaryPart",
    "MeanThis",
    "PlayedKey",
    "TakePass",
    "WritePassage",
    "WritePattern",
    "WriteStep",
    "apply_edit",
]
