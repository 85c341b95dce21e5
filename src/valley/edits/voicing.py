"""Settings of the hands: for the song, for one part, and how one occurrence differs."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import Literal

from valley.arranging.pattern_library import pattern_named
from valley.arranging.styles import style_named
from valley.edits._edit import HandsEdit
from valley.errors import ParameterError
from valley.model.chart import MelodyNote
from valley.model.choices import Choices, PartChoice
from valley.song.state import SongState

_OF_A_PART = ("style", "level", "pattern", "tune")
_OF_THE_SONG = ("hand", "keyboard", "frame", "bass", "links", "pedal", "fingers")
SETTINGS = (*_OF_A_PART, *_OF_THE_SONG)


@dataclass(frozen=True)
class SetHands(HandsEdit):
    """Settings of the song, or, with ``part``, of one part (style, level, pattern and the octave of the tune); what is None stays."""

    kind: Literal["set_hands"] = "set_hands"
    part: int | None = None
    style: str | None = None
    level: str | None = None
    pattern: str | None = None
    tune: Literal["auto", "-2", "-1", "0", "1", "2"] | None = None
    hand: str | None = None
    keyboard: str | None = None
    frame: str | None = None
    bass: Literal["slash", "root"] | None = None
    links: Literal["chosen", "all"] | None = None
    pedal: bool | None = None
    fingers: bool | None = None

    def choose(self, song: SongState, played: Sequence[MelodyNote]) -> tuple[Choices, str]:
        choices = song.choices
        wanted = {name: value for name in SETTINGS if (value := getattr(self, name)) is not None}
        if not wanted:
            raise ParameterError("nothing was chosen; name a style, level, pattern, hand, keyboard or frame")
        said = ", ".join(_say(name, value, choices) for name, value in wanted.items())
        if self.part is None:
            return replace(choices, **wanted), said
        own = {k: v for k, v in wanted.items() if k in _OF_A_PART}
        if len(own) != len(wanted):
            for_all = ", ".join(sorted(set(wanted) - set(own)))
            raise ParameterError(f"part {self.part} can have a style, level, pattern and octave of the tune of its own; {for_all} hold for the whole song")
        _require_part(song, self.part)
        return with_part(choices, replace(choices.of_part(self.part), **own)), f"part {self.part}: {said}"


def _say(name: str, value: str | bool, choices: Choices) -> str:
    """A setting as a pianist says it."""
    if name == "style":
        return f"voicing “{style_named(str(value)).title}”"
    if name == "pattern":
        return f"pattern “{pattern_named(str(value), choices.patterns).title}”" if value else "no pattern"
    if name == "tune":
        return _say_tune(str(value))
    if name == "keyboard":
        return f"a keyboard of {value} keys" if str(value).isdigit() else f"a keyboard from {value}"
    if isinstance(value, bool):
        return {"pedal": "pedal", "fingers": "fingers shown"}[name] if value else {"pedal": "no pedal", "fingers": "fingers left to the player"}[name]
    said = {"level": "level {}", "hand": "{} hands", "frame": "the camera shows {}", "bass": "bass {}", "links": "links {}"}[name]
    return said.format({"slash": "follows slash chords", "root": "keeps the root", "all": "wherever there is room"}.get(str(value), value or "everything"))


def _say_tune(octaves: str) -> str:
    if octaves in ("auto", "0"):
        return "the tune where the chart has it" if octaves == "0" else "the tune where Valley puts it"
    count = abs(int(octaves))
    return f"the tune {'an octave' if count == 1 else f'{count} octaves'} {'higher' if int(octaves) > 0 else 'lower'} than in the chart"


def _require_part(song: SongState, number: int) -> None:
    if not 1 <= number <= len(song.chart.parts):
        raise ParameterError(f"part {number} is not in this song; it has parts 1 to {len(song.chart.parts)}")


def with_part(choices: Choices, own: PartChoice) -> Choices:
    """The choices with those of one part; a part that has nothing for itself is not listed."""
    others = [p for p in choices.parts if p.part != own.part]
    kept = [] if own == PartChoice(own.part) else [own]
    return replace(choices, parts=tuple(sorted([*others, *kept], key=lambda p: p.part)))


@dataclass(frozen=True)
class VaryPart(HandsEdit):
    """How one occurrence differs: without its last chord, with a lead-in, with another ending."""

    part: int
    kind: Literal["vary_part"] = "vary_part"
    drop_last: bool | None = None
    lead_in: bool | None = None
    ending: Literal["", "octaves", "rolled"] | None = None

    def choose(self, song: SongState, played: Sequence[MelodyNote]) -> tuple[Choices, str]:
        _require_part(song, self.part)
        own, said = song.choices.of_part(self.part), []
        if self.drop_last is not None:
            own = replace(own, drop_last=self.drop_last)
            said.append("without its last chord" if self.drop_last else "with its last chord again")
        if self.lead_in is not None:
            own = replace(own, lead_in=self.lead_in)
            said.append("with a lead-in" if self.lead_in else "without a lead-in")
        if self.ending is not None:
            own = replace(own, ending=self.ending)
            said.append({"": "with its plain ending", "octaves": "ending in octaves", "rolled": "ending on a rolled chord"}[self.ending])
        return with_part(song.choices, own), f"part {self.part} {', '.join(said) or 'as it was'}"
