"""Parts and their repeats: what is the same, and every difference in words."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from fractions import Fraction
from functools import lru_cache

from valley.errors import FormatError
from valley.model.chart import Chart, ChartChord, Part
from valley.theory.chord import parse_harte

_MOST_DIFFERENCES = 6


@lru_cache(maxsize=4096)
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
            related.append(replace(part, kinship="new", differences=(), new_bars=part.bars, moved=0))
            continue
        found = compare_parts(with_parts, model, part)
        related.append(replace(part, kinship=found.kinship, differences=found.words, new_bars=found.new_bars, moved=found.moved))
    return replace(chart, parts=tuple(related))


@dataclass(frozen=True)
class Comparison:
    """``kinship`` is "same", "moved" (the same at another pitch), "chords" (same chords, other tune) or "varied"; ``words`` say every difference."""

    kinship: str
    words: tuple[str, ...]
    new_bars: int
    moved: int = 0


def compare_parts(chart: Chart, model: Part, repeat: Part) -> Comparison:
    """How a repeat stands to its model, bar by bar."""
    words: list[str] = []
    changed: set[int] = set()
    shared = min(model.bars, repeat.bars)
    moved = _find_move(chart, model, repeat, shared)
    if moved:
        words.append(say_move(moved))
    for i in range(shared):
        then, now = (_bar_chords(chart, p, i) for p in (model, repeat))
        if _sounds(then, moved) != _sounds(now):
            instead = _say(then) if not moved else f"{_say(then)} moved along"
            words.append(f"bar {repeat.start_bar + i}: {_say(now)} instead of {instead}")
            changed.add(i)
    chords_equal = not changed
    if changed and min(changed) >= repeat.bars - (2 if repeat.bars >= 8 else 1) and repeat.bars == model.bars > 2:
        first = next(i for i, w in enumerate(words) if w.startswith("bar "))
        words[first] = f"another ending, {words[first]}"
    if moved:
        changed |= set(range(shared))  # other keys under the hands: every bar is new to them
    if repeat.bars < model.bars:
        words.append(f"stops {_bars(model.bars - repeat.bars)} early")
    elif repeat.bars > model.bars:
        words.append(f"goes on for {_bars(repeat.bars - model.bars)} more")
        changed |= set(range(shared, repeat.bars))
    tune, tune_bars = _compare_melody(chart, model, repeat, shared, moved)
    if tune:
        words.append(tune)
    other_tune = chords_equal and repeat.bars == model.bars and not tune.startswith("tune:")
    if moved and chords_equal and not tune and repeat.bars == model.bars:
        return Comparison("moved", tuple(words), len(changed), moved)
    kinship = "same" if not words else "chords" if other_tune else "varied"
    if len(words) > _MOST_DIFFERENCES:
        words = [*words[: _MOST_DIFFERENCES - 1], f"and {len(words) - _MOST_DIFFERENCES + 1} more differences"]
    return Comparison(kinship, tuple(words), len(changed | tune_bars), moved)


def say_move(half_steps: int) -> str:
    """How far a repeat lies from what it repeats.

    >>> say_move(2), say_move(-1)
    ('a whole step higher', 'a half step lower')
    """
    sizes = {1: "a half step", 2: "a whole step", 3: "three half steps", 4: "four half steps", 5: "a fourth", 6: "six half steps"}
    return f"{sizes[abs(half_steps)]} {'higher' if half_steps > 0 else 'lower'}"


def _find_move(chart: Chart, model: Part, repeat: Part, bars: int) -> int:
    """Half steps, -5 to 6, by which the repeat's chords lie above the model's; 0 unless another pitch explains clearly more bars."""
    pairs = [(_bar_chords(chart, model, i), _bar_chords(chart, repeat, i)) for i in range(bars)]
    fits = {k: sum(_sounds(then, k) == _sounds(now) for then, now in pairs) for k in range(-5, 7)}
    best = max(fits, key=lambda k: (fits[k], k == 0, -abs(k)))
    return best if fits[best] >= max(2, 0.6 * bars) and fits[best] > fits[0] + 0.3 * bars else 0


def _bar_chords(chart: Chart, part: Part, index: int) -> list[tuple[Fraction, str, ChartChord]]:
    """Chords that sound in a bar of the part: (beats into the bar, label, chord)."""
    start = chart.grid.bar_start(part.start_bar + index)
    return [(max(c.start, start) - start, c.label, c) for c in chart.sounding_in(part.start_bar + index)]


def _sounds(chords: list[tuple[Fraction, str, ChartChord]], up: int = 0) -> list[tuple[Fraction, frozenset[int], int]]:
    """Places, sounding notes and bass, so that C6 and Am7/C do not count as different; ``up`` half steps higher."""
    out: list[tuple[Fraction, frozenset[int], int]] = []
    for place, label, _ in chords:
        chord = parse_harte(label)
        row = (place, frozenset((pc + up) % 12 for pc in chord.pitch_classes()), (chord.bass.pitch_class + up) % 12) if chord else (place, frozenset(), -1)
        if not out or out[-1][1:] != row[1:]:
            out.append(row)
    return out


def _say(chords: list[tuple[Fraction, str, ChartChord]]) -> str:
    return " ".join(symbol_of(label) for _, label, _ in chords) or "nothing"


def _bars(n: int) -> str:
    return "one bar" if n == 1 else f"{n} bars"


def _compare_melody(chart: Chart, model: Part, repeat: Part, bars: int, moved: int) -> tuple[str, set[int]]:
    """One sentence on the tune (nothing where it is the same), and the bars of the repeat in which it differs."""

    def notes(part: Part, up: int = 0) -> set[tuple[int, Fraction, int]]:
        found = set()
        for n in chart.melody_of(part):
            bar, into = chart.grid.place(n.start)
            if 0 <= bar - part.start_bar < bars:
                found.add((bar - part.start_bar, into, n.midi + up))
        return found

    now = notes(repeat)  # moved up a fifth may be sung a fourth lower: the octave is not a difference
    then = max((notes(model, up) for up in ({moved, moved - 12, moved + 12} if moved else {0})), key=lambda heard: len(heard & now))
    changed = now ^ then
    places = {bar for bar, _, _ in changed}
    if not changed:
        return "", places
    if len(changed) / max(len(then | now), 1) > 0.6:
        return "another tune over the same chords" if then and now else "the tune rests" if then else "a tune is added", places
    numbers = sorted(place + repeat.start_bar for place in places)
    listed = ", ".join(str(b) for b in numbers[:5]) + (" …" if len(numbers) > 5 else "")
    count = len(now - then) or len(then - now)
    differ = "one note differs" if count == 1 else f"{count} notes differ"
    return f"tune: {differ}, bar{'s' if len(numbers) > 1 else ''} {listed}", places
