"""Checks of the chart: one name for one sound, bars that are filled, repeats that are what they are said to be, doubts."""

from __future__ import annotations

from collections.abc import Callable, Iterator

from valley.charting.doubts import DOUBTFUL_BELOW
from valley.charting.parts import Heard, compare_parts
from valley.checking.finding import ERROR, NOTE, WARNING, Finding, Mend, bar_at, part_at
from valley.edits import DeclareRepeats, SetChord
from valley.model.chart import Chart, ChartChord
from valley.phrases.differences import say_differences
from valley.theory.chord import Chord

_BARS_LISTED = 8


def check_spelling(chart: Chart) -> Iterator[Finding]:
    """One name for one sound within a key: sharps and flats are not mixed."""
    seen: dict[tuple[str, int], tuple[ChartChord, Chord]] = {}
    for place in chart.chords:
        chord = place.chord
        if chord is None:
            continue
        key = chart.key_at(place.start)
        right = chord.respelled(key)
        first, other = seen.setdefault((str(key), chord.root.pitch_class), (place, chord))
        if other.root != chord.root:
            words = f"{chord.to_symbol()} here and {other.to_symbol()} in bar {bar_at(chart, first.start)} are one sound under two names"
            yield _misspelled(chart, place, words, right.to_symbol())
        elif right.root != chord.root and abs(chord.root.fifths - key.tonic.fifths) > 7:
            yield _misspelled(chart, place, f"{chord.to_symbol()} is written {right.to_symbol()} in {key}", right.to_symbol())


def _misspelled(chart: Chart, place: ChartChord, words: str, right: str) -> Finding:
    bar = bar_at(chart, place.start)
    mend = Mend(SetChord(place.start, right), f"write {right}")
    return Finding("spelling", "chart", WARNING, f"Bar {bar}: {words}.", part_at(chart, place.start), bar, place.start, mend=mend)


def check_filled(chart: Chart) -> Iterator[Finding]:
    """The chords fill the bars, from the first beat to the last."""
    if not chart.chords:
        yield Finding("arithmetic", "chart", ERROR, "The chart has no chords.")
        return
    first, last, end = chart.chords[0], chart.chords[-1], len(chart.grid.beats)
    if first.start != 0:
        yield Finding("arithmetic", "chart", ERROR, f"The first chord begins at beat {first.start}; the chart begins at 0.", 1, 1, first.start)
    if last.end != end:
        more = "beyond" if last.end > end else "before"
        bar = bar_at(chart, last.start)
        words = f"Bar {bar}: the last chord ends at beat {last.end}, {more} the last beat, {end}."
        yield Finding("arithmetic", "chart", WARNING, words, part_at(chart, last.start), bar, last.start)


def check_covered(chart: Chart) -> Iterator[Finding]:
    """The parts cover the bars, each one once."""
    covered = 0
    for part in chart.parts:
        if part.start_bar != covered + 1:
            words = f"Part {part.number} begins in bar {part.start_bar}, but the part before it ends in bar {covered}."
            yield Finding("arithmetic", "parts", ERROR, words, part.number, part.start_bar)
        covered = part.end_bar
    if chart.parts and covered != chart.grid.bars:
        words = f"The parts end in bar {covered}; the song has {chart.grid.bars} bars."
        yield Finding("arithmetic", "parts", ERROR, words, chart.parts[-1].number, covered)


def check_repeats(chart: Chart) -> Iterator[Finding]:
    """What is said of a repeat is true: its differences are declared."""
    heard = Heard(chart)
    for part in chart.parts:
        if part.same_as is None:
            continue
        real = compare_parts(heard, chart.parts[part.same_as - 1], part).differences
        for words in say_differences([d for d in real if d not in part.differences]):
            sentence = f"Part {part.number} is said to be part {part.same_as} again, but {words}."
            mend = Mend(DeclareRepeats(), "declare the difference")
            yield Finding("repeat", "parts", ERROR, sentence, part.number, part.start_bar, chart.span(part)[0], mend=mend)


def check_doubts(chart: Chart) -> Iterator[Finding]:
    """Chords that the listening was unsure of and nobody has looked at."""
    unsure = [c for c in chart.chords if not c.locked and c.confidence < DOUBTFUL_BELOW and c.chord]
    if unsure:
        bars = sorted({bar_at(chart, c.start) for c in unsure})
        listed = ", ".join(map(str, bars[:_BARS_LISTED])) + (" …" if len(bars) > _BARS_LISTED else "")
        count = f"{len(unsure)} chord{'s are' if len(unsure) > 1 else ' is'}"
        words = f"{count} in doubt and not looked at: bar{'s' if len(bars) > 1 else ''} {listed}."
        yield Finding("doubts", "chart", NOTE, words, None, bars[0], unsure[0].start)


ChartCheck = Callable[[Chart], Iterator[Finding]]
CHECKS: tuple[ChartCheck, ...] = (check_spelling, check_filled, check_covered, check_repeats, check_doubts)
