"""Parts and their repeats: what is the same, and every difference in words."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace
from fractions import Fraction

from valley.errors import FormatError
from valley.model.chart import Chart, ChartChord, Part
from valley.theory.chord import parse_harte

_MOST_DIFFERENCES = 6


def symbol_of(label: str) -> str:
    """What a player reads for a Harte label; "no chord" for N."""
    try:
        chord = parse_harte(label)
    except FormatError:
        return label
    return chord.to_symbol() if chord else "no chord"


def relate_parts(chart: Chart, parts: Sequence[Part]) -> Chart:
    """The chart with these parts, each repeat compared with the part that it repeats."""
    with_parts = replace(chart, parts=tuple(parts))
    by_number = {p.number: p for p in parts}
    related = []
    for part in parts:
        model = by_number.get(part.same_as) if part.same_as else None
        if model is None:
            related.append(replace(part, kinship="new", differences=()))
            continue
        kinship, differences = compare_parts(with_parts, model, part)
        related.append(replace(part, kinship=kinship, differences=differences))
    return replace(chart, parts=tuple(related))


def compare_parts(chart: Chart, model: Part, repeat: Part) -> tuple[str, tuple[str, ...]]:
    """How a repeat stands to its model: "same", "chords" (same chords, other tune) or "varied", and the differences."""
    words: list[str] = []
    beats = chart.grid.metre.beats
    shared = min(model.bars, repeat.bars)
    for i in range(shared):
        then, now = (_bar_chords(chart, p, i) for p in (model, repeat))
        if [c[:2] for c in then] != [c[:2] for c in now] and _sounds(then) != _sounds(now):
            words.append(f"bar {repeat.start_bar + i}: {_say(now)} instead of {_say(then)}")
    chords_equal = not words
    if repeat.bars < model.bars:
        words.append(f"stops {_bars(model.bars - repeat.bars)} early")
    elif repeat.bars > model.bars:
        words.append(f"goes on for {_bars(repeat.bars - model.bars)} more")
    tune = _compare_melody(chart, model, repeat, shared * beats)
    if tune:
        words.append(tune)
    kinship = "same" if not words else "chords" if chords_equal and repeat.bars == model.bars else "varied"
    if len(words) > _MOST_DIFFERENCES:
        words = [*words[: _MOST_DIFFERENCES - 1], f"and {len(words) - _MOST_DIFFERENCES + 1} more differences"]
    return kinship, tuple(words)


def _bar_chords(chart: Chart, part: Part, index: int) -> list[tuple[Fraction, str, ChartChord]]:
    """Chords that sound in a bar of the part: (beats into the bar, label, chord)."""
    start = chart.grid.bar_start(part.start_bar + index)
    end = start + chart.grid.metre.beats
    return [(max(c.start, start) - start, c.label, c) for c in chart.chords if c.start < end and c.end > start]


def _sounds(chords: list[tuple[Fraction, str, ChartChord]]) -> list[tuple[Fraction, frozenset[int]]]:
    """Places and sounding notes, so that C6 and Am7/C do not count as different."""
    out = []
    for place, label, _ in chords:
        chord = parse_harte(label)
        out.append((place, chord.pitch_classes() if chord else frozenset()))
    return out


def _say(chords: list[tuple[Fraction, str, ChartChord]]) -> str:
    return " ".join(symbol_of(label) for _, label, _ in chords) or "nothing"


def _bars(n: int) -> str:
    return "one bar" if n == 1 else f"{n} bars"


def _compare_melody(chart: Chart, model: Part, repeat: Part, beats: int) -> str:
    """One sentence on the tune, or nothing where it is the same."""
    def notes(part: Part) -> set[tuple[Fraction, int]]:
        start, _ = chart.span(part)
        return {(n.start - start, n.midi) for n in chart.melody_of(part) if n.start - start < beats}

    then, now = notes(model), notes(repeat)
    changed = len(now ^ then)
    if not changed:
        return ""
    whole = max(len(then | now), 1)
    if changed / whole > 0.6:
        return "another tune over the same chords" if then and now else "the tune rests" if then else "a tune is added"
    bars = sorted({int(beat // chart.grid.metre.beats) + repeat.start_bar for beat, _ in now ^ then})
    listed = ", ".join(str(b) for b in bars[:5]) + (" …" if len(bars) > 5 else "")
    return f"tune: {len(now - then) or len(then - now)} notes differ, bar{'s' if len(bars) > 1 else ''} {listed}"
