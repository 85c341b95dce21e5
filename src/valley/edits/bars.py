"""Corrections of several bars at once: a row of chords typed over them, a stretch copied to another place."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass, replace
from typing import ClassVar, Final, Literal, Self

from valley.charting.parts import relate_parts
from valley.edits._bars import bar_at, edges_of, say_bars, with_tune
from valley.edits._common import transpose_chord, transpose_symbol
from valley.edits._edit import ChartEdit
from valley.edits._steps import say_half_steps
from valley.errors import ParameterError
from valley.fraction import Fraction
from valley.model.chart import Chart, ChartChord, MelodyNote
from valley.theory.bar_row import HELD, SAME, cells_between, read_words, share_bar
from valley.theory.chord import NO_CHORD, Chord, parse_harte

_MOST_BARS: Final = 64  # in one go
_MOST_TEXT: Final = 2000  # letters
_MOST_TIMES: Final = 16


@dataclass(frozen=True)
class WriteBars(ChartEdit):
    """Type a row of chords over the bars from one on: "C | Am F | % | G7"; without bar lines each chord is a bar of its own."""

    start: Fraction
    text: str
    kind: Literal["write_bars"] = "write_bars"
    PLACES: ClassVar[tuple[str, ...]] = ("start",)

    def transposed(self, half_steps: int) -> Self:
        cells = [" ".join(_transposed(word, half_steps) for word in cell.split()) for cell in _cells(self.text)]
        return replace(self, text=f"| {' | '.join(cells)} |")

    def correct(self, chart: Chart) -> tuple[Chart, str]:
        first, cells = bar_at(chart, self.start), _cells(self.text)
        if not 1 <= len(cells) <= _MOST_BARS or len(self.text) > _MOST_TEXT:
            raise ParameterError(f"the row holds {len(cells)} bars; type 1 to {_MOST_BARS}, such as C | Am F | G7")
        if first + len(cells) - 1 > chart.grid.bars:
            raise ParameterError(f"the row holds {len(cells)} bars, but from {say_bars(first, 1)} on the song has {chart.grid.bars - first + 1}")
        # What sounds just before comes along, as it may be held on.
        laid = [replace(c, duration=min(c.end, self.start) - c.start) for c in chart.chords if c.start < self.start][-1:]
        for bar, cell in enumerate(cells, first):
            _write(chart, bar, cell, laid)
        return _with(chart, laid), f"{say_bars(first, len(cells))}: chords written anew"


def _cells(text: str) -> list[str]:
    """Bars as typed; a row without bar lines has a chord a bar, or is one bar where beats are given."""
    return cells_between(text) if "|" in text or ":" in text else text.split()


def _transposed(word: str, half_steps: int) -> str:
    if word in (HELD, SAME):
        return word
    symbol, colon, beats = word.partition(":")
    return f"{transpose_symbol(symbol, half_steps)}{colon}{beats}"


def _write(chart: Chart, bar: int, cell: str, laid: list[ChartChord]) -> None:
    """Lay one bar's chords behind the others."""
    at, end = edges_of(chart, bar)
    if cell == SAME:
        laid += _bar_before(chart, bar, laid)
        return
    beats = chart.grid.meter_of(bar).beats if bar else int(end)
    for label, length in share_bar(read_words(cell.split() or [HELD]), beats, chart.grid.meter_of(bar).name):
        length = min(length, end - at)  # the recording may end before its last bar does
        if length <= 0:
            break
        if label == HELD and laid:
            laid[-1] = replace(laid[-1], duration=laid[-1].duration + length, locked=True)
        else:
            laid.append(ChartChord(at, length, parse_harte(label) if label not in (HELD, NO_CHORD) else None, locked=True))
        at += length


def _bar_before(chart: Chart, bar: int, laid: list[ChartChord]) -> list[ChartChord]:
    """The bar before once more, as it is now."""
    if bar <= 1:
        raise ParameterError(f"{SAME} repeats the bar before, but there is none before {say_bars(bar, 1)}")
    if chart.grid.meter_of(bar) != chart.grid.meter_of(bar - 1):
        raise ParameterError(f"{SAME} repeats the bar before, but bar {bar - 1} has another metre; write its chords out")
    (start, end), (from_, to) = edges_of(chart, bar), edges_of(chart, bar - 1)
    row = _lay(chart.chords, laid) if laid else chart.chords
    return _cut([replace(c, start=c.start + start - from_, locked=True) for c in _cut(row, from_, to)], start, end)


@dataclass(frozen=True)
class CopyBars(ChartEdit):
    """Copy the chords, and if wished the tune, of whole bars from ``start`` to ``end`` to those from ``to`` on, so many ``times`` in a row, and so
    many half steps higher."""

    start: Fraction
    end: Fraction
    to: Fraction
    times: int = 1
    half_steps: int = 0
    tune: bool = True
    kind: Literal["copy_bars"] = "copy_bars"
    PLACES: ClassVar[tuple[str, ...]] = ("start", "end", "to")

    def correct(self, chart: Chart) -> tuple[Chart, str]:
        first, there, last_beat = bar_at(chart, self.start), bar_at(chart, self.to), Fraction(len(chart.grid.beats))
        end = min(self.end, last_beat)  # the recording may end before its last bar does
        if not self.start < end:
            raise ParameterError(f"end={self.end} must come after start={self.start}")
        if not (1 <= self.times <= _MOST_TIMES and -11 <= self.half_steps <= 11):
            raise ParameterError(f"times={self.times} must be 1 to {_MOST_TIMES}, and half_steps={self.half_steps} -11 to 11")
        last = chart.grid.place(end - Fraction(1, 64))[0]
        if end < last_beat:
            bar_at(chart, end)
        count = (last - first + 1) * self.times
        if there + count - 1 > chart.grid.bars:
            raise ParameterError(
                f"{say_bars(first, last - first + 1)} would be copied to bars {there} to {there + count - 1}, but the song has {chart.grid.bars}"
            )
        chords: list[ChartChord] = []
        tune: list[MelodyNote] = []
        for n in range(count):
            self._copy(chart, first + n % (last - first + 1), there + n, chords, tune)
        changed = _with(chart, chords)
        if self.tune:
            changed = with_tune(changed, tune, chords[0].start, chords[-1].end)
        if there == first and self.half_steps and self.times == 1:
            return changed, f"{say_bars(first, count)}: {say_half_steps(self.half_steps)}"
        said = f"{say_bars(first, last - first + 1)} copied to {say_bars(there, count)}"
        return changed, f"{said}, {say_half_steps(self.half_steps, 'higher', 'lower')}" if self.half_steps else said

    def _copy(self, chart: Chart, bar: int, to: int, chords: list[ChartChord], tune: list[MelodyNote]) -> None:
        if chart.grid.meter_of(bar) != chart.grid.meter_of(to):
            raise ParameterError(f"{say_bars(bar, 1)} and {say_bars(to, 1)} have other metres; copy bars of one metre only")
        (start, end), (there, until) = edges_of(chart, bar), edges_of(chart, to)
        by = there - start
        row = [replace(c, start=c.start + by, readings=(), chord=self._moved(chart, c, by), locked=True) for c in _cut(chart.chords, start, end)]
        laid = _cut(row, there, until)
        if not laid or laid[-1].end < until:
            raise ParameterError(f"{say_bars(bar, 1)} is shorter than {say_bars(to, 1)}; copy whole bars only")
        held = any(c.start < start < c.end for c in chart.chords) and bool(chords) and chords[-1].chord == laid[0].chord
        if held:  # sounds over the bar line in the model, and so it does here
            chords[-1] = replace(chords[-1], duration=chords[-1].duration + laid[0].duration)
            laid = laid[1:]
        chords += laid
        for n in chart.notes_between(start, end):
            tune.append(replace(n, start=n.start + by, midi=n.midi + self.half_steps, locked=True))

    def _moved(self, chart: Chart, chord: ChartChord, by: Fraction) -> Chord | None:
        """The chord as it is there, named as its key has it."""
        moved = transpose_chord(chord.chord, self.half_steps)
        return moved.respelled(chart.key_at(chord.start + by)) if moved and self.half_steps else moved


def _cut(row: Iterable[ChartChord], start: Fraction, end: Fraction) -> list[ChartChord]:
    return [replace(c, start=max(c.start, start), duration=min(c.end, end) - max(c.start, start)) for c in row if c.start < end and c.end > start]


def _lay(row: Iterable[ChartChord], new: list[ChartChord]) -> tuple[ChartChord, ...]:
    """A row of chords with others over it: what they cover gives way."""
    chords, start, end = list(row), new[0].start, new[-1].end
    return (*_cut(chords, Fraction(0), start), *new, *_cut(chords, end, max((c.end for c in chords), default=end)))


def _with(chart: Chart, new: list[ChartChord]) -> Chart:
    return relate_parts(replace(chart, chords=_lay(chart.chords, new)), chart.parts, chart)
