"""How the song is taught: schools, and what the creator does to the steps."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import Literal

from valley.edits._edit import Edit
from valley.errors import ParameterError
from valley.lesson.overlay import change_step, forget_edit
from valley.model.chart import MelodyNote
from valley.model.lesson import StepEdit, StepTime
from valley.model.school_words import MATTERS, say_school
from valley.model.schools import school_options
from valley.phrases import LANGUAGES, Words
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
        return replace(song, teaching=replace(song.teaching, schools=schools)), f"{MATTERS[self.matter]}: {say_school(self.school)}"


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
        work = Work(song)
        edits = change_step(song.teaching.edits, work.generated, change)
        done = "added" if self.added else "left out" if self.left_out else "moved" if self.after is not None else "rewritten"
        words = Words(song.teaching.schools)
        titles = {s.key: words.title(s) for s in (*work.written.steps, *work.generated.steps)}
        title = self.title or titles.get(self.key, "")
        return replace(song, teaching=replace(song.teaching, edits=edits)), f"step “{title}” {done}" if title else f"a step of your own {done}"


@dataclass(frozen=True)
class ForgetStep(Edit):
    """Let a step say again what Valley says."""

    key: str
    kind: Literal["forget_step"] = "forget_step"

    def apply(self, song: SongState, played: Sequence[MelodyNote] = ()) -> tuple[SongState, str]:
        return replace(song, teaching=replace(song.teaching, edits=forget_edit(song.teaching.edits, self.key))), "a step is as Valley says it again"


@dataclass(frozen=True)
class TookTime:
    """How long one step took at a rehearsal, in seconds."""

    key: str
    seconds: float


@dataclass(frozen=True)
class TimeSteps(Edit):
    """Take the times of a rehearsal for steps; with none, let all be reckoned again."""

    took: tuple[TookTime, ...] = ()
    kind: Literal["time_steps"] = "time_steps"

    def apply(self, song: SongState, played: Sequence[MelodyNote] = ()) -> tuple[SongState, str]:
        reckoned = {s.key: s.seconds for s in Work(song).written.steps} if self.took else {}
        strange = next((t.key for t in self.took if t.key not in reckoned), None)
        if strange is not None:
            raise ParameterError(f"step {strange!r} is not in this lesson; it has {', '.join(reckoned)}")
        fresh = tuple(StepTime(t.key, t.seconds, reckoned[t.key]) for t in self.took)
        named = {t.key for t in fresh}
        times = (*(t for t in song.teaching.times if t.key not in named), *fresh) if fresh else ()
        done = f"times of {len(fresh)} step{'s' if len(fresh) > 1 else ''} from a rehearsal" if fresh else "times of the steps as Valley reckons them"
        return replace(song, teaching=replace(song.teaching, times=times)), done
