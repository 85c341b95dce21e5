"""How the song is taught: schools, and what the creator does to the steps."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import Literal

from valley.edits._edit import Edit
from valley.errors import ParameterError
from valley.lesson.overlay import change_step, forget_edit
from valley.model.chart import MelodyNote
from valley.model.lesson import StepEdit
from valley.model.schools import school_options
from valley.phrases import LANGUAGES
from valley.song.state import SongState
from valley.song.work import Work


@dataclass(frozen=True)
class SetSchool(Edit):
    """Follow a school in one matter."""

    matter: str
    school: str
    kind: Literal["set_school"] = "set_school"

    def apply(self, song: SongState, played: Sequence[MelodyNote] = ()) -> tuple[SongState, str]:
        options = school_options()
        if self.school not in options.get(self.matter, ()):
            raise ParameterError(f"{self.matter}={self.school!r} must be one of {', '.join(options.get(self.matter, options))}")
        changed = {self.matter: self.school}
        if self.matter == "language":  # its own names of notes come along; another choice of them can be made afterwards
            changed["naming"] = LANGUAGES[self.school].GRAMMAR.naming
        schools = replace(song.teaching.schools, **changed)  # type: ignore[arg-type]  # checked against the matter's schools above
        return replace(song, teaching=replace(song.teaching, schools=schools)), f"{self.matter.replace('_', ' ')}: {self.school}"


@dataclass(frozen=True)
class WriteStep(Edit):
    """Write over a step, leave it out, move it behind another ("" is the beginning), or add one of one's own."""

    key: str
    kind: Literal["write_step"] = "write_step"
    title: str = ""
    lines: tuple[str, ...] | None = None
    left_out: bool = False
    after: str | None = None
    added: bool = False

    def apply(self, song: SongState, played: Sequence[MelodyNote] = ()) -> tuple[SongState, str]:
        change = StepEdit(self.key, self.title, self.lines, (), self.left_out, self.after, self.added)
        edits = change_step(song.teaching.edits, Work(song).generated, change)
        done = "added" if self.added else "left out" if self.left_out else "moved" if self.after is not None else "rewritten"
        return replace(song, teaching=replace(song.teaching, edits=edits)), f"step {self.title or self.key} {done}"


@dataclass(frozen=True)
class ForgetStep(Edit):
    """Let a step say again what Valley says."""

    key: str
    kind: Literal["forget_step"] = "forget_step"

    def apply(self, song: SongState, played: Sequence[MelodyNote] = ()) -> tuple[SongState, str]:
        return replace(song, teaching=replace(song.teaching, edits=forget_edit(song.teaching.edits, self.key))), f"step {self.key} as Valley says it"
