"""The whole song in another key: chart, what was written for the hands, and the creator's own words."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import Literal

from valley.charting.transpose import FURTHEST, fifths_between, transpose_chart
from valley.edits._edit import Edit
from valley.edits._steps import say_half_steps
from valley.edits.passages import hand_in
from valley.errors import ParameterError
from valley.fraction import Fraction
from valley.lesson.proof import rename_notes
from valley.model.arrangement import HANDS
from valley.model.chart import MelodyNote
from valley.model.choices import Choices, GripChoice
from valley.model.lesson import Teaching
from valley.model.passage import Passage, WrittenNote
from valley.song.state import SongState
from valley.song.work import Work
from valley.theory.chord import Chord
from valley.theory.pitch import PitchName, parse_name, parse_pitch

_LOWEST, _HIGHEST = 21, 108  # of a full keyboard


@dataclass(frozen=True)
class TransposeSong(Edit):
    """Everything ``half_steps`` higher, to the key of ``tonic`` where its name matters (C# or Db).

    What the creator set for the hands goes along. What Valley proposed is found anew, unless the hands are ``carried``: then every key they
    play is kept, that much higher, as a passage of the creator's.
    """

    half_steps: int
    tonic: str = ""
    hands: Literal["anew", "carried"] = "anew"
    kind: Literal["transpose_song"] = "transpose_song"

    def apply(self, song: SongState, played: Sequence[MelodyNote] = ()) -> tuple[SongState, str]:
        if not self.half_steps or abs(self.half_steps) > FURTHEST:
            raise ParameterError(f"half_steps={self.half_steps} must be 1 to {FURTHEST}, or below 0 to go down")
        tonic = parse_name(self.tonic) if self.tonic else None
        chart = transpose_chart(song.chart, self.half_steps, tonic)
        fifths = fifths_between(song.chart.keys[0].key, self.half_steps, tonic)
        choices = self._carry(song, played) if self.hands == "carried" else song.choices
        moved = replace(song, chart=chart, choices=_higher(choices, self.half_steps, fifths), teaching=self._reword(song, fifths))
        said = f"the whole song {say_half_steps(self.half_steps)}, from {song.chart.keys[0].key} to {chart.keys[0].key}"
        return moved, said + (", every key of the hands kept" if self.hands == "carried" else "")

    def _carry(self, song: SongState, played: Sequence[MelodyNote]) -> Choices:
        end = Fraction(len(song.chart.grid.beats))
        rows = {hand: tuple(hand_in(song, hand, Fraction(0), end, played)) for hand in HANDS}
        passages = tuple(Passage(hand, Fraction(0), end, notes, level=song.choices.level) for hand, notes in rows.items() if notes)
        return replace(song.choices, passages=passages, grips=(), taken_links=(), chord_patterns=())

    def _reword(self, song: SongState, fifths: int) -> Teaching:
        """The creator's own words, with the new names in them."""
        if not any(e.lines for e in song.teaching.edits):
            return song.teaching
        schools, arrangement = song.teaching.schools, Work(song).arrangement

        def renamed(lines: Sequence[str]) -> tuple[str, ...]:
            octaves = "c3" if schools.octaves == "c3" else "c4"
            return tuple(rename_notes(line, song.chart, arrangement, fifths, self.half_steps, naming=schools.naming, octaves=octaves) for line in lines)

        edits = tuple(replace(e, lines=renamed(e.lines), over=renamed(e.over)) if e.lines else e for e in song.teaching.edits)
        return replace(song.teaching, edits=edits)


def _higher(choices: Choices, half_steps: int, fifths: int) -> Choices:
    def grip(g: GripChoice) -> GripChoice:
        left, right = (tuple(replace(n, midi=_on_piano(n.midi + half_steps)) for n in hand) for hand in (g.left, g.right))
        chord = Chord(_plain(g.chord.root.up(fifths)), g.chord.quality, g.chord.bass_interval) if g.chord else None
        return replace(g, chord=chord, left=left, right=right)

    def note(n: WrittenNote) -> WrittenNote:
        midi = _on_piano(n.midi + half_steps)
        return replace(n, midi=midi, pitch=_plain(parse_pitch(n.pitch)[0].up(fifths)).at(midi) if n.pitch else "")

    passages = tuple(replace(p, notes=tuple(note(n) for n in p.notes)) for p in choices.passages)
    return replace(choices, grips=tuple(grip(g) for g in choices.grips), passages=passages)


def _plain(name: PitchName) -> PitchName:
    """The nearest name of the same sound with at most two signs."""
    return name.up(-12) if name.alter > 2 else name.up(12) if name.alter < -2 else name


def _on_piano(midi: int) -> int:
    if not _LOWEST <= midi <= _HIGHEST:
        raise ParameterError(f"key {midi} would lie beyond the piano's {_LOWEST} to {_HIGHEST}; go the other way round, or fewer half steps")
    return midi
