"""Grips as the creator sets them: one at a time, wherever the chord comes again, or as a performance struck them."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from typing import ClassVar, Literal, Self

from valley.arranging.arrange import arrange
from valley.arranging.passages import home_of, level_of, place_passages
from valley.arranging.reach import keyboard_range
from valley.charting.places import say_place
from valley.edits._edit import HandsEdit
from valley.edits._grip_notes import change_notes, forget_notes
from valley.edits._steps import say_half_steps
from valley.errors import ParameterError
from valley.fraction import Fraction
from valley.model.arrangement import LEFT, RIGHT, Grip, HandNote
from valley.model.chart import Chart, MelodyNote
from valley.model.choices import MOST_KEYS, Choices, ChosenNote, GripChoice
from valley.song.state import SongState
from valley.song.work import follow_schools
from valley.theory.chord import parse_harte

Action = Literal["move", "other-hand", "invert", "drop", "double", "star", "finger", "take", "release"]
Chosen = dict[int, ChosenNote]


@dataclass(frozen=True)
class ChangeGrip(HandsEdit):
    """One chord's grip.

    ``move``: the note ``midi`` of ``hand`` by ``by`` half steps; ``other-hand``: to the other hand; ``invert``: the hand up (``by`` 1)
    or down (-1); ``drop``; ``double``: its octave added above (1) or below (-1); ``star``; ``finger``: to ``by``; ``take``: the notes
    given; ``release``: back to Valley's own choice. ``everywhere`` spreads it: "here", "chord" (the same chord wherever it is) or
    "repeats" (the same place in repeats of the part).
    """

    start: Fraction
    action: Action
    kind: Literal["change_grip"] = "change_grip"
    hand: Literal["left", "right"] = "left"
    midi: int = 0
    by: int = 0
    left: tuple[int, ...] = ()
    right: tuple[int, ...] = ()
    everywhere: Literal["here", "chord", "repeats"] = "here"
    reason: str = ""
    PLACES: ClassVar[tuple[str, ...]] = ("start",)

    def transposed(self, half_steps: int) -> Self:
        left, right = (tuple(m + half_steps for m in keys) for keys in (self.left, self.right))
        return replace(self, midi=self.midi and self.midi + half_steps, left=left, right=right)

    def choose(self, song: SongState, played: Sequence[MelodyNote]) -> tuple[Choices, str]:
        chart, choices = song.chart, song.choices
        grip = _grip_at(song, self.start, played)
        bar = chart.grid.place(grip.start)[0]
        if _is_written(song, grip):
            return self._change_written(song, grip, played)
        places = [grip.start, *_elsewhere(chart, grip, self.everywhere)]
        if self.action == "release":
            kept = tuple(g for g in choices.grips if g.start not in places)
            return replace(choices, grips=kept), f"bar {bar}: {grip.symbol} as Valley chooses it"
        own = next((g for g in choices.grips if g.start == grip.start), None)
        left, right, said = _act(grip, self, {n.midi: n.finger for n in (*own.left, *own.right)} if own else {})
        _check_hold(choices, left, right)
        new = [GripChoice(at, grip.chord, _in_order(left), _in_order(right), self.reason) for at in places]
        others = [g for g in choices.grips if g.start not in places]
        where = "" if len(places) == 1 else f", and in {len(places) - 1} other place{'s' if len(places) > 2 else ''}"
        return replace(choices, grips=tuple(sorted([*others, *new], key=lambda g: g.start))), f"bar {bar}: {grip.symbol}, {said}{where}"

    def _change_written(self, song: SongState, grip: Grip, played: Sequence[MelodyNote]) -> tuple[Choices, str]:
        """Where the creator's notes stand, they are what is changed."""
        bar = song.chart.grid.place(grip.start)[0]
        if self.action == "release":
            free = forget_notes(song.choices, grip)
            return replace(free, grips=tuple(g for g in free.grips if g.start != grip.start)), f"bar {bar}: {grip.symbol} as Valley chooses it"
        taken = (self.left, self.right)
        choices = change_notes(song, grip, played, action=self.action, hand=self.hand, midi=self.midi, by=self.by, taken=taken, everywhere=self.everywhere)
        return choices, f"bar {bar}: {grip.symbol}, {_WRITTEN[self.action]}"


_WRITTEN: dict[str, str] = {
    "move": "its notes moved",
    "other-hand": "notes given to the other hand",
    "invert": "its notes turned over",
    "drop": "notes left out",
    "double": "notes doubled",
    "star": "stars changed",
    "finger": "another finger",
    "take": "another grip taken",
}


def _is_written(song: SongState, grip: Grip) -> bool:
    """Whether the creator's own notes stand while a grip lasts."""
    home = home_of(song.chart, grip.start)
    placed = place_passages(song.chart, song.choices.passages, home, level_of(song.choices, home)) if home else ()
    return any(p.start < grip.end and p.end > grip.start for p in placed)


def _check_hold(choices: Choices, left: Chosen, right: Chosen) -> None:
    for hand, notes in ((LEFT, left), (RIGHT, right)):
        if len(notes) > MOST_KEYS:
            raise ParameterError(f"the {hand} hand would hold {len(notes)} notes; five fingers hold five at most")
    low, high = keyboard_range(choices.keyboard)
    outside = [m for m in (*left, *right) if not low <= m <= high]
    if outside:
        raise ParameterError(f"key {outside[0]} lies outside the keyboard of {choices.keyboard} keys")
    if not left and not right:
        raise ParameterError("a grip needs at least one note; use no chord for a rest")


def _in_order(notes: Chosen) -> tuple[ChosenNote, ...]:
    return tuple(notes[m] for m in sorted(notes))


def _grip_at(song: SongState, start: Fraction, played: Sequence[MelodyNote]) -> Grip:
    choices = replace(follow_schools(song.choices, song.teaching.schools), links="chosen")
    for part in arrange(song.chart, choices, played=played).parts:
        for grip in part.grips:
            if grip.start == start:
                return grip
    raise ParameterError(f"no grip begins at {say_place(song.chart, start)}; the chart may have changed since")


def _elsewhere(chart: Chart, grip: Grip, everywhere: str) -> list[Fraction]:
    if everywhere == "here":
        return []
    if everywhere == "chord":
        return [c.start for c in chart.chords if c.chord == grip.chord and c.start != grip.start]
    here = next(p for p in chart.parts if chart.span(p)[0] <= grip.start < chart.span(p)[1])
    family = here.same_as or here.number
    into = grip.start - chart.span(here)[0]
    places = [chart.span(p)[0] + into for p in chart.parts if p.number != here.number and family in (p.number, p.same_as)]
    return [c.start for c in chart.chords if c.start in places and c.chord == grip.chord]


def _act(grip: Grip, edit: ChangeGrip, fingers: Mapping[int, int | None]) -> tuple[Chosen, Chosen, str]:
    """Both hands after the change. ``fingers`` were set by the creator; a note that is moved loses its own."""
    hands: dict[str, Chosen] = {LEFT: _as_chosen(grip.left, fingers), RIGHT: _as_chosen(grip.right, fingers)}
    if edit.action == "take":
        stars = {n.midi for n in grip.notes if n.optional}
        return ({m: ChosenNote(m, m in stars) for m in edit.left}, {m: ChosenNote(m, m in stars) for m in edit.right}, "another grip taken")
    hold, other = hands[edit.hand], hands[RIGHT if edit.hand == LEFT else LEFT]
    if edit.action == "invert":
        hands[edit.hand] = _invert(hold, edit.by)
        return hands[LEFT], hands[RIGHT], f"{edit.hand} hand turned {'up' if edit.by > 0 else 'down'}"
    note = next((n for n in (grip.left if edit.hand == LEFT else grip.right) if n.midi == edit.midi), None)
    if note is None:
        raise ParameterError(f"the {edit.hand} hand does not hold key {edit.midi} there; it holds {sorted(hold) or 'nothing'}")
    own = hold.pop(edit.midi)
    if edit.action == "drop":
        said = f"{note.pitch} left out"
    elif edit.action == "move":
        hold[edit.midi + edit.by] = ChosenNote(edit.midi + edit.by, own.optional)
        said = f"{note.pitch} moved {say_half_steps(edit.by)}"
    elif edit.action == "other-hand":
        other[edit.midi] = ChosenNote(edit.midi, own.optional)
        said = f"{note.pitch} given to the {'right' if edit.hand == LEFT else 'left'} hand"
    elif edit.action == "double":
        hold[edit.midi] = own
        twin = edit.midi + (12 if edit.by >= 0 else -12)
        hold[twin] = ChosenNote(twin, True)
        said = f"{note.pitch} doubled"
    elif edit.action == "star":
        hold[edit.midi] = replace(own, optional=not own.optional)
        said = f"{note.pitch} {'kept' if own.optional else 'starred: may be left out'}"
    else:
        if not 1 <= edit.by <= 5:
            raise ParameterError(f"finger {edit.by} must be 1 (thumb) to 5")
        hold[edit.midi] = replace(own, finger=edit.by)
        said = f"{note.pitch} with finger {edit.by}"
    return hands[LEFT], hands[RIGHT], said


def _as_chosen(notes: Sequence[HandNote], fingers: Mapping[int, int | None]) -> Chosen:
    return {n.midi: ChosenNote(n.midi, n.optional, fingers.get(n.midi)) for n in notes}


def _invert(hold: Chosen, by: int) -> Chosen:
    """The lowest note up an octave, or the highest down."""
    if len(hold) < 2:
        raise ParameterError("a single note cannot be turned over; move it by an octave instead")
    keys = sorted(hold)
    gone, step = (keys[0], 12) if by >= 0 else (keys[-1], -12)
    while gone + step in hold:
        step += 12 if step > 0 else -12
    return {m: n for m, n in hold.items() if m != gone} | {gone + step: ChosenNote(gone + step, hold[gone].optional)}


@dataclass(frozen=True)
class PlayedGrip:
    """The keys that were struck for the chord of this label at this beat."""

    start: Fraction
    label: str
    left: tuple[int, ...]
    right: tuple[int, ...]


@dataclass(frozen=True)
class TakePlayed(HandsEdit):
    """Take the grips of a performance as they were played; chords that it does not play keep theirs."""

    grips: tuple[PlayedGrip, ...]
    kind: Literal["take_played"] = "take_played"

    def choose(self, song: SongState, played: Sequence[MelodyNote]) -> tuple[Choices, str]:
        choices = song.choices
        low, high = keyboard_range(choices.keyboard)
        chords = {c.start: c.chord for c in song.chart.chords}
        new = {}
        for grip in self.grips:
            keys = (*grip.left, *grip.right)
            chord = parse_harte(grip.label)
            if grip.start not in chords or chords[grip.start] != chord or not keys:
                continue
            outside = [m for m in keys if not low <= m <= high]
            if outside:
                raise ParameterError(f"key {outside[0]} of the performance lies outside the keyboard of {choices.keyboard} keys; choose a longer one")
            for hand in (grip.left, grip.right):
                if len(hand) > MOST_KEYS or list(hand) != sorted(set(hand)):
                    raise ParameterError(f"a hand holds one to five keys from the bottom up; got {list(hand)}")
            left, right = (tuple(ChosenNote(m) for m in hand) for hand in (grip.left, grip.right))
            if chord is None:
                continue  # what is struck in a rest is no grip
            new[grip.start] = GripChoice(grip.start, chord, left, right, "as it was played")
        if not new:
            raise ParameterError("the performance strikes none of the chart's chords; nothing was changed")
        others = [g for g in choices.grips if g.start not in new]
        return replace(choices, grips=tuple(sorted([*others, *new.values()], key=lambda g: g.start))), f"{len(new)} grips as they were played"
