"""What stands under the bars of a text chart: each hand's notes, the tune, cue words; bar by bar, as counts and notes.

::

    | F            | C/E              |
    R: 1 A4 3 C5   | 1 G4 A4:2        |
    L: 1 F2 2 C3   | -                |
    T: 1 A4 2 C5   | 1 G4             |
    W: 1 "river"   |                  |

An empty cell of a hand is as Valley proposes; ``-`` is a hand that rests. What is written begins at its first count and ends with the bar, or at a
count before ``..``. ``L*:`` holds every time the part comes, ``L 2,3:`` in parts 2 and 3 as well; ``L easier:`` is for that level.
"""

from __future__ import annotations

import re
from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace
from itertools import groupby, pairwise
from typing import Final

from valley.charting.hand_text import beat_of_count_one, count_of_place, place_of_count, read_hand, write_hand
from valley.errors import FormatError, ValleyError
from valley.fraction import Fraction
from valley.model.arrangement import LEFT, RIGHT
from valley.model.chart import Chart, Cue, Grid, MelodyNote
from valley.model.passage import Passage, WrittenNote
from valley.theory.pitch import spell_midi

_LINE: Final = re.compile(r"(L|R|T|W)\s*(\*|\d+(?:\s*,\s*\d+)*)?\s*(easier|fuller)?\s*:(.*)$")
_HANDS: Final = {"L": LEFT, "R": RIGHT}
_CUE: Final = re.compile(r'(\S+)\s+"([^"]*)"\s*')
_GRACE: Final = Fraction(1, 8)  # of a beat, before its note
_UNTIL: Final = re.compile(r"(?:^|\s)(\S+)\s+\.\.$")


@dataclass(frozen=True)
class Cell:
    """One bar's cell of a line: which line, in which bar of the song, what it says, where it was typed."""

    letter: str
    times: tuple[int, ...] | None
    bar: int
    text: str
    line: int
    level: str = "standard"


def is_line(text: str) -> bool:
    """Whether a line of a text chart is one of these."""
    return _LINE.match(text) is not None


def cells_of(text: str, first_bar: int, bars: int, line: int) -> Iterator[Cell]:
    """The cells of a line that stands under so many bars, the first of which is numbered; an empty one says nothing.

    Raises
    ------
    FormatError
        more cells than bars
    """
    match = _LINE.match(text)
    assert match is not None
    row = match[4].strip()
    if row.startswith("|") and row.endswith("|") and len(row) > 1:  # drawn as the bars above it are
        row = row[1:-1]
    words = [c.strip() for c in row.split("|")]
    if not bars:
        raise FormatError(f"{match[1]}: says what happens in the bars above it, and no bars stand above it; write the chords first, such as | C | F |")
    if len(words) > bars:
        raise FormatError(f"{match[1]}: has {len(words)} cells and stands under {bars} bar{'' if bars == 1 else 's'}; write one cell a bar")
    times = None if match[2] == "*" else tuple(int(n) for n in (match[2] or "").replace(" ", "").split(",") if n)
    for i, cell in enumerate(words):
        if cell:
            yield Cell(match[1], times, first_bar + i, cell, line, match[3] or "standard")


def read_passages(cells: Sequence[Cell], grid: Grid) -> tuple[Passage, ...]:
    """The hands' notes; bars that follow one another are one passage."""
    passages = []
    hands = sorted((c for c in cells if c.letter in _HANDS), key=lambda c: (c.letter, c.level, c.bar))
    for before, after in pairwise(hands):
        if (before.letter, before.level, before.bar) == (after.letter, after.level, after.bar):
            raise FormatError(f"line {after.line}: bar {after.bar} has notes for this hand already, on line {before.line}")
    for (letter, times, level), mine in groupby(hands, key=lambda c: (c.letter, c.times, c.level)):
        for run in _runs(list(mine), grid):
            start, end = _span(run[0], grid)[0], _span(run[-1], grid)[1]
            with _at(run):
                text = " | ".join(_UNTIL.sub("", c.text) if c.text != "-" else f"{_count(grid, c.bar)} -" for c in run)
                passages.append(Passage(_HANDS[letter], start, end - start, read_hand(text, grid, start, end - start), times, level=level))
    return tuple(sorted(passages, key=lambda p: (p.start, p.hand)))


class _at:  # noqa: N801 - reads as a word
    """Errors inside say the line."""

    def __init__(self, cells: Sequence[Cell]) -> None:
        self.line = cells[0].line

    def __enter__(self) -> None: ...

    def __exit__(self, kind: object, error: BaseException | None, trace: object) -> None:
        if isinstance(error, ValleyError) and not str(error).startswith("line "):
            raise FormatError(f"line {self.line}: {error}") from error


def _count(grid: Grid, bar: int) -> str:
    return count_of_place(grid.bar_start(bar) - beat_of_count_one(grid, bar), grid.meter_of(bar))


def _end(grid: Grid, bar: int) -> Fraction:
    return min(Fraction(grid.pickup) if bar == 0 else grid.bar_start(bar + 1), Fraction(len(grid.beats)))


def _span(cell: Cell, grid: Grid) -> tuple[Fraction, Fraction]:
    """From where to where a cell holds."""
    one, meter = beat_of_count_one(grid, cell.bar), grid.meter_of(cell.bar)
    if cell.text == "-":
        return grid.bar_start(cell.bar), _end(grid, cell.bar)
    with _at([cell]):
        until = _UNTIL.search(cell.text)
        start = one + place_of_count(cell.text.split()[0], meter)
        return start, one + place_of_count(until[1], meter) if until else _end(grid, cell.bar)


def _runs(cells: Sequence[Cell], grid: Grid) -> list[list[Cell]]:
    """Cells that join without a gap, together."""
    runs: list[list[Cell]] = []
    for cell in cells:
        if runs and _span(runs[-1][-1], grid)[1] == _span(cell, grid)[0]:
            runs[-1].append(cell)
        else:
            runs.append([cell])
    return runs


def read_tune(cells: Sequence[Cell], grid: Grid) -> tuple[MelodyNote, ...]:
    """The notes of the tune's lines; a note may last over the bar."""
    notes = []
    for cell in sorted((c for c in cells if c.letter == "T" and c.text != "-"), key=lambda c: c.bar):
        start = grid.bar_start(cell.bar)
        with _at([cell]):
            length = Fraction(len(grid.beats)) - start
            found = read_hand(cell.text + " |" * (grid.bars - cell.bar), grid, start, length)
        notes += [_sung(n, found, start) for n in found]
    notes.sort(key=lambda n: n.start)
    for i, (here, after) in enumerate(pairwise(notes)):  # a note that a grace cuts into ends there
        if here.start < after.start < here.end:
            notes[i] = replace(here, duration=after.start - here.start)
    return tuple(notes)


def _sung(note: WrittenNote, all_of_them: Sequence[WrittenNote], start: Fraction) -> MelodyNote:
    """A note of the tune; graces typed with their note come just before it, one after the other."""
    begin = start + note.start
    if note.grace and any(n.start == note.start and not n.grace for n in all_of_them):
        after = [n for n in all_of_them if n.grace and n.start == note.start]
        begin -= _GRACE * (len(after) - after.index(note))
        if begin < 0:
            raise FormatError("a grace before the song's first note has no place; begin with a pickup")
    return MelodyNote(begin, min(note.duration, _GRACE) if begin < start + note.start else note.duration, note.midi, grace=note.grace, locked=True)


def read_cues(cells: Sequence[Cell], grid: Grid) -> tuple[Cue, ...]:
    """The cue words: a count, then the words in quotes."""
    cues = []
    for cell in sorted((c for c in cells if c.letter == "W"), key=lambda c: c.bar):
        at = 0
        while at < len(cell.text):
            match = _CUE.match(cell.text, at)
            if match is None:
                raise FormatError(f'line {cell.line}: {cell.text[at:]!r} is no cue; write a count and the words in quotes, such as 1 "river"')
            with _at([cell]):
                cues.append(Cue(beat_of_count_one(grid, cell.bar) + place_of_count(match[1], grid.meter_of(cell.bar)), match[2]))
            at = match.end()
    return tuple(cues)


def write_lines(chart: Chart, passages: Sequence[Passage], bars: range) -> list[str]:
    """The lines that stand under some bars; those that say nothing there are left out."""
    grid = chart.grid
    names = dict.fromkeys(_name_line(p) for hand in (RIGHT, LEFT) for p in passages if p.hand == hand)
    found: dict[str, dict[int, str]] = {name: {} for name in names}
    for passage in passages:
        found[_name_line(passage)] |= _hand_cells(passage, chart)
    found["T"] = _tune_cells(chart)
    found["W"] = _cue_cells(chart, grid)
    lines = []
    for name, cells in found.items():
        said = [cells.get(bar, "") for bar in bars]
        if any(said):
            lines.append(f"{name}: " + " | ".join(said).rstrip(" |"))
    return lines


def _name_line(passage: Passage) -> str:
    times = "*" if passage.times is None else f" {','.join(map(str, passage.times))}" if passage.times else ""
    level = f" {passage.level}" if passage.level != "standard" else ""
    return f"{'L' if passage.hand == LEFT else 'R'}{times}{level}"


def _hand_cells(passage: Passage, chart: Chart) -> dict[int, str]:
    """Bar by bar what a passage says; names of keys as the key has them."""
    grid, first = chart.grid, chart.grid.place(passage.start)[0]
    named = [n if n.pitch else _named(n, chart, passage.start) for n in passage.notes]
    cells = {}
    for i, text in enumerate(write_hand(named, grid, passage.start, passage.duration).split("|")):
        bar, said = first + i, text.strip()
        begin = max(passage.start, grid.bar_start(bar))
        opening = count_of_place(begin - beat_of_count_one(grid, bar), grid.meter_of(bar))
        if said.split()[:1] != [opening]:
            said = f"{opening} - {said}".strip()
        if passage.end < _end(grid, bar):
            said += f" {count_of_place(passage.end - beat_of_count_one(grid, bar), grid.meter_of(bar))} .."
        cells[bar] = "-" if said == f"{opening} -" and begin == grid.bar_start(bar) else said
    return cells


def _named(note: WrittenNote, chart: Chart, start: Fraction) -> WrittenNote:
    return replace(note, pitch=spell_midi(note.midi, chart.key_at(start + note.start).tonic))


def _tune_cells(chart: Chart) -> dict[int, str]:
    grid = chart.grid
    notes = [WrittenNote(n.start, n.duration, n.midi, spell_midi(n.midi, chart.key_at(n.start).tonic), grace=n.grace) for n in chart.melody]
    texts = write_hand(notes, grid, Fraction(0), Fraction(len(grid.beats))).split("|") if notes else []
    return {(0 if grid.pickup else 1) + i: text.strip() for i, text in enumerate(texts)}


def _cue_cells(chart: Chart, grid: Grid) -> dict[int, str]:
    cells: dict[int, list[str]] = {}
    for cue in chart.cues:
        bar = grid.place(cue.start)[0]
        said = cue.text.replace('"', "'")
        cells.setdefault(bar, []).append(f'{count_of_place(cue.start - beat_of_count_one(grid, bar), grid.meter_of(bar))} "{said}"')
    return {bar: " ".join(words) for bar, words in cells.items()}
