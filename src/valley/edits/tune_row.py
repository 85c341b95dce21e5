"""A row of notes typed over the tune of several bars."""

from __future__ import annotations

import re
from dataclasses import dataclass, replace
from typing import Final, Literal

from valley.charting.places import say_place
from valley.edits._bars import bar_at, edges_of, say_bars, with_tune
from valley.edits._edit import ChartEdit
from valley.edits.melody import HIGHEST, LOWEST
from valley.errors import FormatError, ParameterError
from valley.fraction import Fraction
from valley.model.chart import Chart, MelodyNote
from valley.theory.bar_row import HELD, LENGTH, SAME, Word, cells_between, share_bar
from valley.theory.pitch import parse_name, parse_pitch

REST: Final = "-"
_MOST_BARS: Final = 64  # in one go
_MOST_TEXT: Final = 4000  # letters
_OCTAVE: Final = re.compile(r"\d$")
_USUAL: Final = 67  # the tune's first note lies about here where nothing else says so


@dataclass(frozen=True)
class WriteTune(ChartEdit):
    """Type the tune of the bars from one on: "E5 D C:2 | D _ - E". Notes share a bar equally or as their beats say; one without an octave is the
    nearest to the note before; ``_`` holds on, ``-`` rests, ``%`` is the bar before once more."""

    start: Fraction
    text: str
    kind: Literal["write_tune"] = "write_tune"
    # No PLACES: at another place the octave of the first note might be another, so it is not spread to repeats; bars are copied there instead.

    def correct(self, chart: Chart) -> tuple[Chart, str]:
        first, cells = bar_at(chart, self.start), cells_between(self.text)
        if not 1 <= len(cells) <= _MOST_BARS or len(self.text) > _MOST_TEXT or not any(cells):
            raise ParameterError(f"the row holds {len(cells)} bars; type the notes of 1 to {_MOST_BARS}, such as E D C:2 | G _ - A")
        if first + len(cells) - 1 > chart.grid.bars:
            raise ParameterError(f"the row holds {len(cells)} bars, but from {say_bars(first, 1)} on the song has {chart.grid.bars - first + 1}")
        tune: list[MelodyNote] = []
        for bar, cell in enumerate(cells, first):
            self._write(chart, bar, cell, tune)
        changed = with_tune(chart, tune, self.start, edges_of(chart, first + len(cells) - 1)[1])
        return changed, f"{say_bars(first, len(cells))}: tune written anew"

    def _write(self, chart: Chart, bar: int, cell: str, tune: list[MelodyNote]) -> None:
        """Lay one bar's notes behind the others."""
        at, end = edges_of(chart, bar)
        if cell == SAME:
            before = edges_of(chart, bar - 1)[0] if bar > 1 else None
            if before is None or chart.grid.meter_of(bar) != chart.grid.meter_of(bar - 1):
                raise ParameterError(f"{SAME} repeats the bar before, but there is none of the same metre before {say_bars(bar, 1)}")
            source = tune if before >= self.start else chart.melody
            tune += [replace(n, start=n.start + at - before, duration=min(n.duration, at - n.start), locked=True) for n in source if before <= n.start < at]
            return
        words = [_word(word) for word in cell.split() or [REST]]
        beats = chart.grid.meter_of(bar).beats if bar else int(end)
        for label, length in share_bar(words, beats, chart.grid.meter_of(bar).name):
            length = min(length, end - at)  # the recording may end before its last bar does
            if length <= 0:
                break
            if label == HELD and tune and tune[-1].end == at:
                tune[-1] = replace(tune[-1], duration=tune[-1].duration + length)
            elif label not in (HELD, REST):
                tune.append(MelodyNote(at, length, self._key(chart, label, at, tune), locked=True))
            at += length

    def _key(self, chart: Chart, name: str, at: Fraction, tune: list[MelodyNote]) -> int:
        """The key of a note as typed: in its octave, or the nearest to the one before it, or to the next where it is the first of all."""
        if _OCTAVE.search(name):
            midi = parse_pitch(name)[1]
        else:
            before = [n.midi for n in chart.melody if n.start < self.start][-1:]
            after = [n.midi for n in chart.melody if n.start > at][:1]
            near = tune[-1].midi if tune else (before or after or [_USUAL])[0]
            midi = near + (parse_name(name).pitch_class - near + 6) % 12 - 6
        if not LOWEST <= midi <= HIGHEST:
            raise ParameterError(f"{name} at {say_place(chart, at)} lies outside the piano")
        return midi


def _word(text: str) -> Word:
    match = LENGTH.match(text)
    name = match[1] if match else text
    if name not in (HELD, REST):
        try:
            parse_pitch(name) if _OCTAVE.search(name) else parse_name(name)
        except FormatError as error:
            raise FormatError(f"{text!r} is no note; write E, Bb or F#5, {HELD} to hold on, {REST} to rest, and E:2 for two beats") from error
    return Word(name, match[2] if match else "", text)
