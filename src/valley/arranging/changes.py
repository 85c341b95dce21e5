"""The creator's decisions about the hands, as plain data that turns choices into other choices.

Every change says in words what it did, so that it can be listed, undone and spread.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, replace
from fractions import Fraction
from typing import Literal

from valley.arranging.arrange import arrange
from valley.arranging.links import KINDS
from valley.arranging.pattern_library import PATTERNS, pattern_named
from valley.arranging.patterns import PatternError, check_pattern, make_form
from valley.arranging.reach import hand_named, key_range, keyboard_range
from valley.arranging.styles import check_level, style_named
from valley.errors import ParameterError
from valley.model.arrangement import LEFT, RIGHT, Grip, HandNote
from valley.model.chart import Chart, MelodyNote
from valley.model.choices import Choices, ChordPattern, ChosenNote, GripChoice, LinkChoice, PartChoice
from valley.model.pattern import Pattern


@dataclass(frozen=True)
class SetHands:
    """Settings of the song, or, with ``part``, of one part (style, level and pattern); what is None stays."""

    kind: Literal["settings"] = "settings"
    part: int | None = None
    style: str | None = None
    level: str | None = None
    pattern: str | None = None
    hand: str | None = None
    keyboard: str | None = None
    frame: str | None = None
    bass: Literal["slash", "root"] | None = None
    links: Literal["chosen", "all"] | None = None
    pedal: bool | None = None
    fingers: bool | None = None


@dataclass(frozen=True)
class VaryPart:
    """How one occurrence differs: without its last chord, with a lead-in, with another ending."""

    part: int
    kind: Literal["vary"] = "vary"
    drop_last: bool | None = None
    lead_in: bool | None = None
    ending: Literal["", "octaves", "rolled"] | None = None


Action = Literal["move", "other-hand", "invert", "drop", "double", "star", "finger", "take", "release"]


@dataclass(frozen=True)
class ChangeGrip:
    """One chord's grip.

    ``move``: the note ``midi`` of ``hand`` by ``by`` half steps; ``other-hand``: to the other hand; ``invert``: the hand up (``by`` 1)
    or down (-1); ``drop``; ``double``: its octave added above (1) or below (-1); ``star``; ``finger``: to ``by``; ``take``: the notes
    given; ``release``: back to Valley's own choice. ``everywhere`` spreads it: "here", "chord" (the same chord wherever it is) or
    "repeats" (the same place in repeats of the part).
    """

    start: Fraction
    action: Action
    kind: Literal["grip"] = "grip"
    hand: Literal["left", "right"] = "left"
    midi: int = 0
    by: int = 0
    left: tuple[int, ...] = ()
    right: tuple[int, ...] = ()
    everywhere: Literal["here", "chord", "repeats"] = "here"
    reason: str = ""


@dataclass(frozen=True)
class TakeLink:
    """Play a link in full, the easier way, or not ("")."""

    start: Fraction
    link: str
    kind: Literal["link"] = "link"
    form: Literal["", "full", "easier"] = "full"


@dataclass(frozen=True)
class PlayedGrip:
    """The keys that were struck for the chord of this label at this beat."""

    start: Fraction
    label: str
    left: tuple[int, ...]
    right: tuple[int, ...]


@dataclass(frozen=True)
class TakePlayed:
    """Take the grips of a performance as they were played; chords that it does not play keep theirs."""

    grips: tuple[PlayedGrip, ...]
    kind: Literal["played"] = "played"


@dataclass(frozen=True)
class SetChordPattern:
    """A pattern for one chord; an empty name gives it back to the part's."""

    start: Fraction
    pattern: str
    kind: Literal["chord-pattern"] = "chord-pattern"


@dataclass(frozen=True)
class WritePattern:
    """A pattern of the creator's own, one form; without strokes it is taken away."""

    name: str
    kind: Literal["own-pattern"] = "own-pattern"
    title: str = ""
    meter: str = "4/4"
    left: str = ""
    right: str = ""
    cell: Fraction = Fraction(0)


HandsEdit = SetHands | VaryPart | ChangeGrip | TakePlayed | TakeLink | SetChordPattern | WritePattern


def change_hands(chart: Chart, choices: Choices, edit: HandsEdit, *, played: Sequence[MelodyNote] = ()) -> tuple[Choices, str]:
    """The choices after a change, and what it did in words.

    Raises
    ------
    ParameterError, FormatError
        the change cannot be made; says why and what would do
    """
    if isinstance(edit, SetHands):
        return _set_hands(choices, edit)
    if isinstance(edit, VaryPart):
        return _vary(chart, choices, edit)
    if isinstance(edit, ChangeGrip):
        return _change_grip(chart, choices, edit, played)
    if isinstance(edit, TakePlayed):
        return _take_played(chart, choices, edit)
    if isinstance(edit, TakeLink):
        return _take_link(chart, choices, edit)
    if isinstance(edit, SetChordPattern):
        return _set_chord_pattern(chart, choices, edit)
    return _write_pattern(choices, edit)


def _set_hands(choices: Choices, edit: SetHands) -> tuple[Choices, str]:
    checks: dict[str, Callable[[str], object]] = {
        "style": style_named,
        "level": check_level,
        "pattern": lambda name: pattern_named(name, choices.patterns),
        "hand": hand_named,
        "keyboard": keyboard_range,
        "frame": lambda text: key_range(text) if text else None,
    }
    wanted = {name: value for name in (*checks, "bass", "links", "pedal", "fingers") if (value := getattr(edit, name)) is not None}
    for name, value in wanted.items():
        if name in checks:
            checks[name](value)
    if not wanted:
        raise ParameterError("nothing was chosen; name a style, level, pattern, hand, keyboard or frame")
    said = ", ".join(f"{name} {_say(value)}" for name, value in wanted.items())
    if edit.part is None:
        return replace(choices, **wanted), said
    own = {k: v for k, v in wanted.items() if k in ("style", "level", "pattern")}
    if len(own) != len(wanted):
        raise ParameterError(f"part {edit.part} can have a style, level and pattern of its own; {', '.join(set(wanted) - set(own))} hold for the whole song")
    return _with_part(choices, replace(choices.of_part(edit.part), **own)), f"part {edit.part}: {said}"


def _say(value: object) -> str:
    return {True: "on", False: "off", "": "none"}.get(value, str(value)) if isinstance(value, (bool, str)) else str(value)


def _with_part(choices: Choices, own: PartChoice) -> Choices:
    others = [p for p in choices.parts if p.part != own.part]
    kept = [] if own == PartChoice(own.part) else [own]
    return replace(choices, parts=tuple(sorted([*others, *kept], key=lambda p: p.part)))


def _vary(chart: Chart, choices: Choices, edit: VaryPart) -> tuple[Choices, str]:
    if edit.part not in {p.number for p in chart.parts}:
        raise ParameterError(f"part {edit.part} is not in this song; it has parts 1 to {len(chart.parts)}")
    own, said = choices.of_part(edit.part), []
    if edit.drop_last is not None:
        own = replace(own, drop_last=edit.drop_last)
        said.append("without its last chord" if edit.drop_last else "with its last chord again")
    if edit.lead_in is not None:
        own = replace(own, lead_in=edit.lead_in)
        said.append("with a lead-in" if edit.lead_in else "without a lead-in")
    if edit.ending is not None:
        own = replace(own, ending=edit.ending)
        said.append({"": "with its plain ending", "octaves": "ending in octaves", "rolled": "ending on a rolled chord"}[edit.ending])
    return _with_part(choices, own), f"part {edit.part} {', '.join(said) or 'as it was'}"


def _change_grip(chart: Chart, choices: Choices, edit: ChangeGrip, played: Sequence[MelodyNote]) -> tuple[Choices, str]:
    grip = _grip_at(chart, choices, edit.start, played)
    bar = chart.grid.place(grip.start)[0]
    places = [grip.start, *_elsewhere(chart, grip, edit.everywhere)]
    if edit.action == "release":
        kept = tuple(g for g in choices.grips if g.start not in places)
        return replace(choices, grips=kept), f"bar {bar}: {grip.symbol} as Valley chooses it"
    own = next((g for g in choices.grips if g.start == grip.start), None)
    left, right, said = _act(grip, edit, {n.midi: n.finger for n in (*own.left, *own.right)} if own else {})
    for hand, notes in ((LEFT, left), (RIGHT, right)):
        keys = sorted(notes)
        if len(keys) > 5:
            raise ParameterError(f"the {hand} hand would hold {len(keys)} notes; five fingers hold five at most")
    low, high = keyboard_range(choices.keyboard)
    outside = [m for m in (*left, *right) if not low <= m <= high]
    if outside:
        raise ParameterError(f"key {outside[0]} lies outside the keyboard of {choices.keyboard} keys")
    if not left and not right:
        raise ParameterError("a grip needs at least one note; use no chord for a rest")

    def chosen(notes: dict[int, ChosenNote]) -> tuple[ChosenNote, ...]:
        return tuple(notes[m] for m in sorted(notes))

    new = [GripChoice(at, grip.label, chosen(left), chosen(right), edit.reason) for at in places]
    others = [g for g in choices.grips if g.start not in places]
    where = "" if len(places) == 1 else f", and in {len(places) - 1} other place{'s' if len(places) > 2 else ''}"
    return replace(choices, grips=tuple(sorted([*others, *new], key=lambda g: g.start))), f"bar {bar}: {grip.symbol}, {said}{where}"


def _take_played(chart: Chart, choices: Choices, edit: TakePlayed) -> tuple[Choices, str]:
    low, high = keyboard_range(choices.keyboard)
    chords = {(c.start, c.label) for c in chart.chords}
    new = {}
    for grip in edit.grips:
        keys = (*grip.left, *grip.right)
        if (grip.start, grip.label) not in chords or not keys:
            continue
        outside = [m for m in keys if not low <= m <= high]
        if outside:
            raise ParameterError(f"key {outside[0]} of the performance lies outside the keyboard of {choices.keyboard} keys; choose a longer one")
        for hand in (grip.left, grip.right):
            if len(hand) > 5 or list(hand) != sorted(set(hand)):
                raise ParameterError(f"a hand holds one to five keys from the bottom up; got {list(hand)}")
        new[grip.start] = GripChoice(
            grip.start, grip.label, tuple(ChosenNote(m) for m in grip.left), tuple(ChosenNote(m) for m in grip.right), "as it was played"
        )
    if not new:
        raise ParameterError("the performance strikes none of the chart's chords; nothing was changed")
    others = [g for g in choices.grips if g.start not in new]
    return replace(choices, grips=tuple(sorted([*others, *new.values()], key=lambda g: g.start))), f"{len(new)} grips as they were played"


def _grip_at(chart: Chart, choices: Choices, start: Fraction, played: Sequence[MelodyNote]) -> Grip:
    for part in arrange(chart, replace(choices, links="chosen"), played=played).parts:
        for grip in part.grips:
            if grip.start == start:
                return grip
    raise ParameterError(f"no grip begins at beat {start}; the chart may have changed since")


def _elsewhere(chart: Chart, grip: Grip, everywhere: str) -> list[Fraction]:
    if everywhere == "here":
        return []
    if everywhere == "chord":
        return [c.start for c in chart.chords if c.label == grip.label and c.start != grip.start]
    here = next(p for p in chart.parts if chart.span(p)[0] <= grip.start < chart.span(p)[1])
    family = here.same_as or here.number
    into = grip.start - chart.span(here)[0]
    places = [chart.span(p)[0] + into for p in chart.parts if p.number != here.number and family in (p.number, p.same_as)]
    return [c.start for c in chart.chords if c.start in places and c.label == grip.label]


Hold = dict[int, ChosenNote]


def _act(grip: Grip, edit: ChangeGrip, fingers: Mapping[int, int | None]) -> tuple[Hold, Hold, str]:
    """Both hands after the change. ``fingers`` were set by the creator; a note that is moved loses its own."""
    hands: dict[str, Hold] = {LEFT: _as_chosen(grip.left, fingers), RIGHT: _as_chosen(grip.right, fingers)}
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
        said = f"{note.pitch} moved {abs(edit.by)} half step{'s' if abs(edit.by) > 1 else ''} {'up' if edit.by > 0 else 'down'}"
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


def _as_chosen(notes: Sequence[HandNote], fingers: Mapping[int, int | None]) -> Hold:
    return {n.midi: ChosenNote(n.midi, n.optional, fingers.get(n.midi)) for n in notes}


def _invert(hold: Hold, by: int) -> Hold:
    """The lowest note up an octave, or the highest down."""
    if len(hold) < 2:
        raise ParameterError("a single note cannot be turned over; move it by an octave instead")
    keys = sorted(hold)
    gone, step = (keys[0], 12) if by >= 0 else (keys[-1], -12)
    while gone + step in hold:
        step += 12 if step > 0 else -12
    return {m: n for m, n in hold.items() if m != gone} | {gone + step: ChosenNote(gone + step, hold[gone].optional)}


def _take_link(chart: Chart, choices: Choices, edit: TakeLink) -> tuple[Choices, str]:
    if edit.link not in KINDS:
        raise ParameterError(f"link={edit.link!r} must be one of {', '.join(KINDS)}")
    others = [k for k in choices.taken_links if (k.start, k.kind) != (edit.start, edit.link)]
    new = [LinkChoice(edit.start, edit.link, edit.form)] if edit.form else []
    bar = chart.grid.place(edit.start)[0]
    said = {"": "left out", "full": "played", "easier": "played the easier way"}[edit.form]
    return replace(choices, taken_links=tuple(sorted([*others, *new], key=lambda k: (k.start, k.kind)))), f"bar {bar}: {edit.link} {said}"


def _set_chord_pattern(chart: Chart, choices: Choices, edit: SetChordPattern) -> tuple[Choices, str]:
    if edit.pattern:
        pattern_named(edit.pattern, choices.patterns)
    others = [p for p in choices.chord_patterns if p.start != edit.start]
    new = [ChordPattern(edit.start, edit.pattern)] if edit.pattern else []
    bar = chart.grid.place(edit.start)[0]
    return replace(choices, chord_patterns=tuple(sorted([*others, *new], key=lambda p: p.start))), f"bar {bar}: pattern {edit.pattern or 'of the part'}"


def _write_pattern(choices: Choices, edit: WritePattern) -> tuple[Choices, str]:
    name = "-".join(edit.name.lower().split())
    if not name:
        raise PatternError("the pattern has no name; give it one to find it by")
    if name in PATTERNS:
        raise PatternError(f"{name!r} is one of Valley's own patterns; give yours another name")
    mine = next((p for p in choices.patterns if p.name == name), Pattern(name, edit.title or edit.name, "Your own.", ()))
    others = tuple(p for p in choices.patterns if p.name != name)
    forms = tuple(f for f in mine.forms if f.meter != edit.meter)
    if not edit.left.strip() and not edit.right.strip():
        kept = replace(mine, forms=forms)
        used = name in (choices.pattern, *(p.pattern for p in choices.parts), *(p.pattern for p in choices.chord_patterns))
        if not forms and used:
            raise PatternError(f"pattern {name!r} is in use; choose another where it is used, then take it away")
        return replace(choices, patterns=(*others, kept) if forms else others), f"pattern {name} taken away in {edit.meter}"
    new = replace(mine, title=edit.title or mine.title, forms=(*forms, make_form(edit.meter, edit.left, edit.right, edit.cell)))
    wrong = check_pattern(new)
    if wrong:
        raise PatternError(wrong[0])
    return replace(choices, patterns=(*others, new)), f"pattern {name} written for {edit.meter}"
