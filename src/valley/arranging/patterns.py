"""Patterns applied: from a grip and a pattern to notes in time, with exact arithmetic.

How a pattern is written, hand by hand: ``low@1/2 upper@1/2 -@1`` – keys, ``@``, beats; ``-`` is a rest, ``&`` joins keys, ``~`` lets
them ring on, ``>`` accents. Keys are notes of that hand's grip from the bottom up (``1`` … ``5``, ``low``, ``mid``, ``top``, ``upper`` = all
but the lowest, ``all``), or notes built on the left hand's lowest note (``bass``, ``-8``, ``+3``, ``+5``, ``+6``, ``+8``, ``+10``, ``+12``,
``+15``: the nearest chord note there; ``s2`` … ``s15``: that step of the scale, so ``s9`` is the ninth), ``up`` and ``down`` (the scale step
beside the key that was struck before), ``walk`` (a line that walks to the next bass), ``step`` and ``near`` (one key before it, by a scale step,
by a half step), ``over`` (a chord note above the right hand, played by the left hand crossing) or ``roll`` (the whole grip from the bottom up,
one key just after the other; the right hand after the left). ``^`` behind a key is an octave higher, ``_`` an octave lower: ``low^``.

On a grip that the creator set, every name means a key of that grip, and each of its keys is struck.
"""

from __future__ import annotations

import re
from collections.abc import Sequence
from contextlib import suppress
from dataclasses import replace

from valley.arranging.pattern_keys import WORDS, Keys, is_key
from valley.errors import FormatError, ParameterError
from valley.fraction import Fraction
from valley.model.arrangement import LEFT, RIGHT, Grip, HandNote, PlayedNote
from valley.model.pattern import Form, Pattern, Slot
from valley.theory.key import Key
from valley.theory.meter import SUPPORTED, Meter

_SLOT = re.compile(r"([^@]+)@(\d+(?:/\d+)?)([~>]*)$")


class PatternError(ParameterError):
    """A pattern does not fit; the text holds the arithmetic."""


def read_slots(text: str) -> tuple[Slot, ...]:
    """The slots of one hand.

    >>> [str(s.duration) for s in read_slots("low@1/2~ 2&3@1/2> -@1")]
    ['1/2', '1/2', '1']
    """
    slots = []
    for word in text.split():
        match = _SLOT.match(word)
        if not match:
            raise FormatError(f"{word!r} is no stroke; write keys@beats, such as low@1/2 or 2&3@1")
        names = () if match[1] == "-" else tuple(match[1].split("&"))
        unknown = [n for n in names if not is_key(n)]
        if unknown:
            raise FormatError(f"{unknown[0]!r} in {word!r} is no key of a grip; use {', '.join(sorted(WORDS))} or s2 to s15")
        if Fraction(match[2]) <= 0:
            raise FormatError(f"{word!r} lasts {match[2]} beats; a stroke lasts longer than 0")
        slots.append(Slot(Fraction(match[2]), names, "~" in match[3], ">" in match[3]))
    return tuple(slots)


def write_slots(slots: Sequence[Slot]) -> str:
    """The text of one hand's slots; the inverse of ``read_slots``."""
    words = []
    for slot in slots:
        keys = "&".join(slot.keys) or "-"
        words.append(f"{keys}@{slot.duration}{'~' if slot.rings else ''}{'>' if slot.accent else ''}")
    return " ".join(words)


def make_form(meter: str, left: str, right: str = "", cell: Fraction | int = 0) -> Form:
    """A form from texts. Without ``cell`` it may be cut at whole beats where strokes begin."""
    return Form(meter, read_slots(left), read_slots(right), Fraction(cell))


def check_form(form: Form) -> str:
    """An empty text where a form fills whole bars exactly in both hands; else the sentence with the arithmetic."""
    bar = Fraction(Meter(form.meter).beats)
    for hand, slots in ((LEFT, form.left), (RIGHT, form.right)):
        if not slots:
            continue
        total = sum((s.duration for s in slots), Fraction(0))
        if total % bar:
            short = bar - total % bar
            counted = " + ".join(str(s.duration) for s in slots)
            return (
                f"The {hand} hand counts {counted} = {say_beats(total)}; a bar of {form.meter} has {bar}. "
                f"{say_beats(short)[:1].upper()}{say_beats(short)[1:]} {'is' if short <= 1 else 'are'} missing, or {say_beats(total % bar)} too many."
            )
    if form.left and form.right and form.beats != min(_length(form.left), _length(form.right)):
        return f"The hands last {say_beats(_length(form.left))} and {say_beats(_length(form.right))}; they must last the same."
    if not form.left and not form.right:
        return "The pattern is empty; write at least one stroke, such as all@4."
    return ""


def say_beats(beats: Fraction) -> str:
    """A length as a teacher says it: "3 1/2 beats"."""
    whole, rest = divmod(beats, 1)
    number = f"{whole} {rest}" if whole and rest else str(rest or whole)
    return f"{number} beat{'' if 0 < beats <= 1 else 's'}"


def _length(slots: Sequence[Slot]) -> Fraction:
    return sum((s.duration for s in slots), Fraction(0))


def form_for(pattern: Pattern, meter: str) -> Form:
    """The pattern's form in a metre: as it is written for it, else put together from those of simpler metres.

    Raises
    ------
    PatternError
        the pattern has no such form
    """
    for form in pattern.forms:
        if form.meter == meter:
            return form
    if meter in _COMPOSED:
        try:
            return _compose(pattern, meter)
        except PatternError:
            pass  # what it would be made of is not written either: said below, of the metre that was asked for
    have = ", ".join(f.meter for f in pattern.forms)
    raise PatternError(f"pattern {pattern.name!r} is written for {have}, and the bar is in {meter}; choose another pattern or write it for {meter}")


def all_forms(pattern: Pattern) -> tuple[Form, ...]:
    """Its forms in every metre in which it can be played: those written first."""
    forms = {f.meter: f for f in pattern.forms}
    for meter in SUPPORTED:
        if meter not in forms:
            with suppress(PatternError):
                forms[meter] = form_for(pattern, meter)
    return tuple(forms.values())


# What a metre without a form of its own is put together from: (metre of the piece, its beats, length of one of them in beats of the whole).
_COMPOSED: dict[str, tuple[tuple[str, int, Fraction], ...]] = {
    "2/4": (("4/4", 2, Fraction(1)),),
    "5/4": (("3/4", 3, Fraction(1)), ("2/4", 2, Fraction(1))),
    "7/4": (("4/4", 4, Fraction(1)), ("3/4", 3, Fraction(1))),
    "2/2": (("4/4", 4, Fraction(1, 2)),),
    "4/2": (("4/4", 4, Fraction(1, 2)), ("4/4", 4, Fraction(1, 2))),
    "3/2": (("4/4", 4, Fraction(1, 2)), ("2/4", 2, Fraction(1, 2))),
    "3/8": (("6/8", 1, Fraction(3)),),
    "5/8": (("6/8", 1, Fraction(3)), ("2/4", 1, Fraction(2))),
    "7/8": (("2/4", 2, Fraction(2)), ("6/8", 1, Fraction(3))),
    "9/8": (("6/8", 2, Fraction(1)), ("6/8", 1, Fraction(1))),
    "12/8": (("6/8", 2, Fraction(1)), ("6/8", 2, Fraction(1))),
    "6/4": (("6/8", 2, Fraction(1)),),
}


def _compose(pattern: Pattern, meter: str) -> Form:
    """A form in a metre out of pieces of others. What is held through every piece is held on rather than struck again."""
    pieces = [(form_for(pattern, source), beats, unit) for source, beats, unit in _COMPOSED[meter]]
    hands = []
    for hand in (LEFT, RIGHT):
        rows = [_scaled(_cut(form.left if hand == LEFT else form.right, Fraction(beats), pattern.name), unit) for form, beats, unit in pieces]
        joined = [slot for row in rows for slot in row]
        if joined and all(len(row) == 1 and row[0].keys == joined[0].keys for row in rows):
            joined = [replace(joined[0], duration=_length(joined))]
        hands.append(tuple(joined))
    cells = [form.cell * unit for form, _, unit in pieces if form.cell]
    return Form(meter, hands[0], hands[1], min([*cells, Fraction(1)]) if cells else Fraction(0))


def _scaled(slots: Sequence[Slot], unit: Fraction) -> tuple[Slot, ...]:
    return tuple(replace(s, duration=s.duration * unit) for s in slots)


def _cut(slots: Sequence[Slot], beats: Fraction, name: str) -> tuple[Slot, ...]:
    """The slots of the first beats; a stroke that would be cut in the middle lasts to the end."""
    out: list[Slot] = []
    now = Fraction(0)
    for slot in slots:
        if now >= beats:
            break
        length = min(slot.duration, beats - now)
        out.append(Slot(length, slot.keys, slot.rings, slot.accent))
        now += length
    return tuple(out)


def fit_form(form: Form, beats: Fraction, name: str) -> Form:
    """The form repeated and shortened to last exactly so many beats.

    Raises
    ------
    PatternError
        what is left over cannot be filled by the form's beginning: with the arithmetic
    """
    length = form.beats
    times, rest = divmod(beats, length)
    if rest and (form.cell and rest % form.cell):
        raise PatternError(
            f"pattern {name!r} lasts {say_beats(length)} and can be cut every {say_beats(form.cell)}; the chord lasts {say_beats(beats)}: "
            f"{int(times)} × {length} = {times * length}, and {say_beats(rest)} would be left over"
        )
    whole = int(times)
    return Form(
        form.meter,
        (*form.left * whole, *(_cut(form.left, rest, name) if rest else ())),
        (*form.right * whole, *(_cut(form.right, rest, name) if rest else ())),
        form.cell,
    )


def count_form(form: Form) -> tuple[tuple[str, str, str], ...]:
    """Every stroke as it is counted: (count, hand, keys), in order of time.

    >>> count_form(make_form("4/4", "low@1/2 upper@1/2 low@3"))[1]
    ('1 &', 'left', 'upper')
    """
    meter = Meter(form.meter)
    rows = []
    for hand, slots in ((LEFT, form.left), (RIGHT, form.right)):
        now = Fraction(0)
        for slot in slots:
            if slot.keys:
                rows.append((now, meter.count(now % meter.beats), hand, " and ".join(slot.keys)))
            now += slot.duration
    return tuple((count, hand, keys) for _, count, hand, keys in sorted(rows, key=lambda r: (r[0], r[2])))


def play_form(form: Form, grip: Grip, after: Grip | None, key: Key, lowest: int, highest: int, *, right: bool) -> list[PlayedNote]:
    """The notes of a grip under a form that lasts as long as the grip.

    ``right`` is False where the right hand plays the tune instead. A hand without slots holds its grip.
    """
    notes: list[PlayedNote] = []
    for hand, slots, held in ((LEFT, form.left, grip.left), (RIGHT, form.right, grip.right)):
        if hand == RIGHT and not right:
            continue
        slots = slots or (Slot(grip.duration, ("all",)),)
        mine: list[PlayedNote] = []
        now = grip.start
        keys = Keys(grip, after, hand, key, lowest, highest)
        for slot, struck in zip(slots, keys.walk(slots), strict=True):
            if "roll" in slot.keys:
                mine += _roll(slot, now, hand, grip, right)
            else:
                mine += [_strike(slot, now, hand, note, crosses="over" in slot.keys and note not in held) for note in struck]
            now += slot.duration
        notes += [*mine, *(_strike_rest(mine, held) if grip.locked else ())]
    return notes


def _strike(slot: Slot, at: Fraction, hand: str, note: HandNote, *, crosses: bool = False) -> PlayedNote:
    return PlayedNote(
        hand, at, slot.duration, note.midi, note.pitch, finger=note.finger, accent=slot.accent, rings=slot.rings, optional=note.optional, crosses=crosses
    )


def _strike_rest(played: Sequence[PlayedNote], held: Sequence[HandNote]) -> list[PlayedNote]:
    """The keys of a set grip that its pattern passes over, struck with the hand's first stroke: none of them is lost."""
    if not played:
        return []
    first = min(played, key=lambda n: n.start)
    missed = [n for n in held if all(p.midi != n.midi for p in played)]
    return [replace(first, midi=n.midi, pitch=n.pitch, finger=n.finger, optional=n.optional) for n in missed]


_QUICK = (Fraction(1, 4), Fraction(1, 8), Fraction(1, 16), Fraction(1, 32))


def _roll(slot: Slot, start: Fraction, hand: str, grip: Grip, right: bool) -> list[PlayedNote]:
    """A grip from the bottom up, key after key, each held on; the quicker the shorter it lasts."""
    row = [(LEFT, n) for n in grip.left] + ([(RIGHT, n) for n in grip.right] if right else [])
    step = next((q for q in _QUICK if 2 * q * len(row) <= slot.duration), slot.duration / (2 * max(1, len(row))))
    end = start + slot.duration
    notes = []
    for i, (side, note) in enumerate(row):
        if side == hand:
            at = start + i * step
            notes.append(PlayedNote(hand, at, end - at, note.midi, note.pitch, finger=note.finger, accent=slot.accent, optional=note.optional))
    return notes


def run_on(form: Form, offset: Fraction) -> Form:
    """A form as it goes on from a place in the bar: what stands before it comes at the end.

    >>> write_slots(run_on(make_form("4/4", "1@1 2@1 3@1 2@1"), Fraction(2)).left)
    '3@1 2@1 1@1 2@1'
    """

    def turned(slots: tuple[Slot, ...]) -> tuple[Slot, ...]:
        before, after, now = [], [], Fraction(0)
        at = offset % _length(slots) if slots else Fraction(0)
        for slot in slots:
            end = now + slot.duration
            if end <= at:
                before.append(slot)
            elif now >= at:
                after.append(slot)
            else:  # a stroke that began before: its rest is silence, for another chord's keys were struck
                before.append(replace(slot, duration=at - now))
                after.append(Slot(end - at, ()))
            now = end
        return (*after, *before)

    return Form(form.meter, turned(form.left), turned(form.right), form.cell)


def check_pattern(pattern: Pattern) -> tuple[str, ...]:
    """Everything that is wrong with a pattern, in sentences; empty where it can be used."""
    if not pattern.name or not pattern.forms:
        return ("The pattern needs a name and a form in at least one metre.",)
    wrong = [f"{f.meter} is no metre that is known here; {', '.join(SUPPORTED)} are." for f in pattern.forms if f.meter not in SUPPORTED]
    return tuple(wrong or [said for f in pattern.forms if (said := check_form(f))])
