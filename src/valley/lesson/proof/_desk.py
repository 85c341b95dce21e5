"""The proof-reader's desk: the sentence in hand, what it is about so far, and the claims that were judged."""

from __future__ import annotations

from collections.abc import Hashable, Iterable
from dataclasses import dataclass, field
from typing import Any

from valley.lesson.proof._scope import Claim, Context, Found, Scope
from valley.model.arrangement import LEFT, RIGHT, Grip, HandNote
from valley.theory.chord import Chord
from valley.theory.key import Key
from valley.theory.names import name_chord, name_note, name_pitch
from valley.theory.pitch import PitchName

UNKNOWN = "unknown"  # beside the verdicts of ``theory.naming``: nothing is there to hold it against


@dataclass
class Desk:
    """``sentence`` begins at letter ``offset`` of the ``text``; ``named`` are all names in it, ``told`` and ``listed`` pitch classes of its notes;
    ``pinned``: the chord to be named next is the one that was counted to ("the third chord is")."""

    text: str
    scope: Scope
    naming: str
    octaves: str
    context: Context = field(default_factory=Context)
    sentence: str = ""
    offset: int = 0
    named: list[Found] = field(default_factory=list)
    told: set[int] = field(default_factory=set)
    listed: set[int] = field(default_factory=set)
    pinned: bool = False
    taken: list[tuple[int, int]] = field(default_factory=list)  # stretches of the sentence that one claim has for itself
    loose: list[tuple[int, int]] = field(default_factory=list)  # names that are told by themselves or in lists, with no fact about them
    lines: dict[Hashable, tuple[Any, ...]] = field(default_factory=dict)  # those that were made of a stretch

    def claim(self, start: int, end: int, kind: str, verdict: str, expected: str = "", message: str = "") -> None:
        """Judge what stands between two letters of the sentence."""
        a, b = self.offset + start, self.offset + end
        self.context.claims.append(Claim(self.text[a:b], a, b, kind, verdict, expected, message))

    def meant(self) -> list[Grip]:
        return self.scope.meant(self.context)

    def grips_here(self) -> list[Grip]:
        return self.scope.grips_here(self.context)

    def say(self, name: PitchName) -> str:
        return name_note(name, naming=self.naming)

    def say_pitch(self, pitch: str) -> str:
        return name_pitch(pitch, naming=self.naming, octaves=self.octaves)

    def say_chord(self, chord: Chord) -> str:
        return name_chord(chord, naming=self.naming)

    def say_key(self, key: Key) -> str:
        return f"{self.say(key.tonic)} {key.mode}"


def hand_notes(grip: Grip, hand: str | None) -> tuple[HandNote, ...]:
    """The notes of one hand of a grip, of both where none is named."""
    return grip.left if hand == LEFT else grip.right if hand == RIGHT else grip.notes


def overlaps(span: tuple[int, int], taken: Iterable[tuple[int, int]]) -> bool:
    """Whether a stretch of letters shares one with any of those that are taken."""
    return any(span[0] < end and start < span[1] for start, end in taken)


def midi_of(row: Found) -> int:
    """The key of a name with an octave."""
    natural = PitchName(row.name.fifths - 7 * row.name.alter).pitch_class
    return 12 * ((row.octave or 0) + 1) + natural + row.name.alter
