"""What a hand plays, typed as counts and notes: ``1 C3 G3  2& E4:1  4 -``.

A count says where the notes after it begin; they last to the next count, or to the end of the bar. ``-`` is a rest, ``|`` a bar line, ``/`` begins the
hand's second line. On a note: ``:3`` its finger, ``=3/2`` another length in beats (over the bar line, if need be), ``*`` may be left out, ``>``
accented, ``~`` held on by finger or pedal. ``(B3)`` is a grace before the notes of its count. Counts are those that a teacher says, written together:
``2``, ``2&``, ``2e``, ``2a``, ``2trip``, ``2let``; any other place is ``2+1/6``.
"""

from __future__ import annotations

import re
from collections.abc import Sequence
from dataclasses import replace
from itertools import pairwise

from valley.errors import FormatError, ValleyError
from valley.fraction import Fraction
from valley.model.chart import Grid
from valley.model.passage import WrittenNote
from valley.theory.amounts import read_amount
from valley.theory.meter import Meter
from valley.theory.pitch import parse_pitch

_COUNT = re.compile(r"(\d{1,2})(&|e|a|trip|let|\+\d+/\d+)?$")
_NOTE = re.compile(r"(\()?([A-Ga-g](?:[#b♯♭]|##|bb|x)?-?\d)(\))?((?::[1-5]|=\d+(?:/\d+)?|[*>~])*)$")
_MARK = re.compile(r":([1-5])|=(\d+(?:/\d+)?)|([*>~])")
_GRACE = Fraction(1, 4)  # written length of a grace


def place_of_count(text: str, meter: Meter) -> Fraction:
    """Beats from the bar line of a count as it is typed: the inverse of ``Meter.count``.

    >>> place_of_count("3&", Meter("4/4")), place_of_count("5", Meter("6/8"))
    (Fraction(5, 2), Fraction(4, 3))
    """
    match = _COUNT.match(text)
    if not match:
        raise FormatError(f"{text!r} is no count; write 1, 2&, 2e, 2a, 2trip, 2let or 2+1/6")
    number, rest = int(match[1]) - 1, match[2] or ""
    step = Fraction(1, 3) if meter.division == 3 else Fraction(1)
    parts = {"": Fraction(0), "&": Fraction(1, 2), "e": Fraction(1, 4), "a": Fraction(3, 4), "trip": Fraction(1, 3), "let": Fraction(2, 3)}
    into = read_amount(rest[1:]) if rest.startswith("+") else parts[rest] * step
    place = number * step + into
    if number < 0 or place >= meter.beats:
        raise FormatError(f"count {text} is beyond the bar; a bar of {meter.name} is counted 1 to {int(meter.beats / step)}")
    return place


def count_of_place(place: Fraction, meter: Meter) -> str:
    """How a place in a bar is typed."""
    said = meter.count(place).replace(" ", "")
    try:
        if place_of_count(said, meter) == place:
            return said
    except FormatError:
        pass
    step = Fraction(1, 3) if meter.division == 3 else Fraction(1)
    number = place // step
    return f"{number + 1}+{place - number * step}"


def read_hand(text: str, grid: Grid, start: Fraction, duration: Fraction) -> tuple[WrittenNote, ...]:
    """The notes of a text that begins at a beat, in order; ``start`` of each counts from there.

    Raises
    ------
    FormatError
        what stands there cannot be read; says in which bar, and what would do
    """
    bar = grid.place(start)[0]
    notes: list[WrittenNote] = []
    for i, cell in enumerate(text.split("|")):
        first = beat_of_count_one(grid, bar + i)
        end = min(Fraction(grid.pickup) if bar + i == 0 else grid.bar_start(bar + i + 1), start + duration)
        if first >= start + duration:
            if cell.strip():
                raise FormatError(f"bar {bar + i}: the text goes on beyond the {duration} beats that it is for; take bars away, or write it for more")
            continue
        try:
            for voice, line in enumerate(re.split(r"(?:^|\s)/(?:\s|$)", cell), 1):
                notes += _read_line(line, grid, bar + i, max(first, start), end, start + duration, voice)
        except ValleyError as error:
            raise FormatError(f"bar {bar + i}: {error}") from error
    return tuple(sorted((replace(n, start=n.start - start) for n in notes), key=lambda n: (n.start, n.voice, not n.grace, n.midi)))


def beat_of_count_one(grid: Grid, bar: int) -> Fraction:
    """Where count 1 of a bar would lie; a pickup's before the song's first beat.

    Parameters
    ----------
    grid : the song's beats and bars
    bar : its number, 0 for a pickup
    """
    return grid.bar_start(bar) if bar else Fraction(grid.pickup - grid.main_meter.beats)


def _read_line(line: str, grid: Grid, bar: int, start: Fraction, end: Fraction, last: Fraction, voice: int) -> list[WrittenNote]:
    """One voice of one bar; starts are beats of the song."""
    meter, one = grid.meter_of(bar), beat_of_count_one(grid, bar)
    if voice > 2:
        raise FormatError("a hand plays two lines at most; one / is enough")
    strokes: list[tuple[Fraction, list[str]]] = []
    for word in line.split():
        if _COUNT.match(word):
            at = one + place_of_count(word, meter)
            if not start <= at < end:
                raise FormatError(f"count {word} lies outside what is written here")
            if strokes and at <= strokes[-1][0]:
                raise FormatError(f"count {word} must come after the count before it")
            strokes.append((at, []))
        elif not strokes:
            raise FormatError(f"{word!r} stands before any count; begin with a count, such as 1 {word if _NOTE.match(word) else 'C4'}")
        else:
            strokes[-1][1].append(word)
    notes = []
    for (at, words), (until, _) in pairwise([*strokes, (end, [])]):
        for word in words:
            if word != "-":
                notes.append(_read_note(word, at, until, last, voice))
    return notes


def _read_note(word: str, at: Fraction, until: Fraction, last: Fraction, voice: int) -> WrittenNote:
    match = _NOTE.match(word)
    if not match or bool(match[1]) != bool(match[3]):
        raise FormatError(f"{word!r} is neither a count (1, 2&) nor a note with its octave (C4, Eb3, F#4:2) nor a rest (-)")
    name, midi = parse_pitch(match[2][:1].upper() + match[2][1:].replace("♯", "#").replace("♭", "b"))
    pitch, grace = name.at(midi), bool(match[1])
    finger, length, flags = None, _GRACE if grace else until - at, ""
    for mark in _MARK.finditer(match[4]):
        finger = int(mark[1]) if mark[1] else finger
        length = read_amount(mark[2]) if mark[2] else length
        flags += mark[3] or ""
    if not grace and at + length > last:
        raise FormatError(f"{pitch} would last to beat {at + length}, and what is written ends at beat {last}")
    return WrittenNote(at, length, midi, pitch, finger, "*" in flags, ">" in flags, grace, "~" in flags, voice)


def write_hand(notes: Sequence[WrittenNote], grid: Grid, start: Fraction, duration: Fraction) -> str:
    """The text of notes that begin at a beat: ``read_hand`` gives the same notes again."""
    cells = []
    bar = grid.place(start)[0]
    end = start + duration
    while (first := grid.bar_start(bar)) < end:
        stop = min(Fraction(grid.pickup) if bar == 0 else grid.bar_start(bar + 1), end)
        lines = []
        for voice in (1, 2):
            mine = [replace(n, start=start + n.start) for n in notes if n.voice == voice and max(first, start) <= start + n.start < stop]
            lines.append(_write_line(mine, grid, bar, stop))
        cells.append(" / ".join(lines) if lines[1] else lines[0])
        bar += 1
    return " | ".join(cells).strip()


def _write_line(notes: Sequence[WrittenNote], grid: Grid, bar: int, stop: Fraction) -> str:
    meter, one = grid.meter_of(bar), beat_of_count_one(grid, bar)
    strokes: dict[Fraction, list[WrittenNote]] = {}
    for n in sorted(notes, key=lambda n: (n.start, not n.grace, n.midi)):
        strokes.setdefault(n.start, []).append(n)
    starts = [*strokes, stop]
    words: list[str] = []
    for (at, stroke), after in zip(strokes.items(), starts[1:], strict=True):
        words.append(count_of_place(at - one, meter))
        ends = {n.start + n.duration for n in stroke if not n.grace}
        common = ends.pop() if len(ends) == 1 else None
        short = common is not None and common < after
        words += [_write_note(n, natural=common if short and common is not None else after) for n in stroke]
        if short and common is not None:
            words += [count_of_place(common - one, meter), "-"]
    return " ".join(words)


def _write_note(note: WrittenNote, natural: Fraction) -> str:
    pitch = note.pitch or str(note.midi)
    finger = f":{note.finger}" if note.finger else ""
    usual = note.duration == (_GRACE if note.grace else natural - note.start)
    length = "" if usual else f"={note.duration}"
    flags = f"{'*' if note.optional else ''}{'>' if note.accent else ''}{'~' if note.rings else ''}"
    return f"{f'({pitch})' if note.grace else pitch}{finger}{length}{flags}"
