"""Two versions of a chart side by side: every difference in words, bar by bar."""

from __future__ import annotations

from dataclasses import dataclass

from valley.fraction import Fraction
from valley.model.chart import Chart, ChartChord
from valley.theory.chord import Chord, symbol_of


@dataclass(frozen=True)
class Change:
    """``bar`` is 0 for what concerns the whole song."""

    bar: int
    what: str


def compare_charts(old: Chart, new: Chart) -> tuple[Change, ...]:
    """What changed from one version to another, in the order of the song."""
    changes: list[Change] = []
    if old.title != new.title:
        changes.append(Change(0, f"renamed from {old.title} to {new.title}"))
    if old.grid != new.grid:
        changes += _compare_grids(old, new)
    areas = [{(a.start, a.tonic, a.mode): a for a in c.keys} for c in (old, new)]
    changes += [Change(max(1, new.grid.place(k[0])[0]), f"{areas[1][k].key} begins here") for k in areas[1] if k not in areas[0]]
    changes += [Change(max(1, old.grid.place(k[0])[0]), f"{areas[0][k].key} no longer begins here") for k in areas[0] if k not in areas[1]]
    held = ""
    for bar in range(1, max(old.grid.bars, new.grid.bars) + 1):
        before, after = _chords(old, bar), _chords(new, bar)
        words = f"{_say(after)} instead of {_say(before)}" if before != after else ""
        if words and words != held:  # a chord held over bar lines is told once
            changes.append(Change(bar, words))
        held = words
        tunes = [_tune(c, bar) for c in (old, new)]
        if tunes[0] != tunes[1]:
            gone, come = len(tunes[0] - tunes[1]), len(tunes[1] - tunes[0])
            changes.append(
                Change(bar, f"tune: {come} note{'s' if come != 1 else ''} for {gone}" if gone else f"tune: {come} note{'s' if come != 1 else ''} more")
            )
    cues = [{(c.start, c.text) for c in chart.cues} for chart in (old, new)]
    changes += [Change(max(1, new.grid.place(s)[0]), f"cue “{t}” added") for s, t in sorted(cues[1] - cues[0])]
    changes += [Change(max(1, old.grid.place(s)[0]), f"cue “{t}” taken away") for s, t in sorted(cues[0] - cues[1])]
    changes += _compare_parts(old, new)
    return tuple(sorted(changes, key=lambda c: c.bar))


def _compare_grids(old: Chart, new: Chart) -> list[Change]:
    a, b = old.grid, new.grid
    out = []
    if a.meter != b.meter or a.changes != b.changes:
        out.append(Change(0, f"metre {_meters(new)} instead of {_meters(old)}"))
    if len(a.beats) != len(b.beats):
        out.append(Change(0, f"{len(b.beats)} beats instead of {len(a.beats)}, {round(new.bpm)} to the minute instead of {round(old.bpm)}"))
    elif a.beats != b.beats:
        moved = sum(x != y for x, y in zip(a.beats, b.beats, strict=True))
        out.append(Change(0, f"{moved} beat{'s' if moved > 1 else ''} moved in the recording"))
    if a.feel != b.feel:
        out.append(Change(0, f"{b.feel} instead of {a.feel}"))
    if a.pickup != b.pickup:
        out.append(Change(0, f"pickup of {b.pickup} beats instead of {a.pickup}"))
    return out


def _meters(chart: Chart) -> str:
    return ", ".join([chart.grid.meter, *[f"{c.meter} from bar {chart.grid.place(Fraction(c.beat))[0]}" for c in chart.grid.changes]])


def _chords(chart: Chart, bar: int) -> list[tuple[Fraction, Chord | None]]:
    if bar > chart.grid.bars:
        return []
    start = chart.grid.bar_start(bar)

    def place(c: ChartChord) -> Fraction:
        return max(c.start, start) - start

    return [(place(c), c.chord) for c in chart.sounding_in(bar)]


def _say(chords: list[tuple[Fraction, Chord | None]]) -> str:
    return " ".join(symbol_of(chord) for _, chord in chords) or "nothing"


def _tune(chart: Chart, bar: int) -> set[tuple[Fraction, Fraction, int, bool]]:
    if bar > chart.grid.bars:
        return set()
    start, end = chart.grid.bar_start(bar), chart.grid.bar_start(bar + 1)
    return {(n.start - start, n.duration, n.midi, n.grace) for n in chart.notes_between(start, end)}


def _compare_parts(old: Chart, new: Chart) -> list[Change]:
    a = {p.start_bar: (p.bars, p.name, p.same_as) for p in old.parts}
    b = {p.start_bar: (p.bars, p.name, p.same_as) for p in new.parts}
    out = [Change(bar, "a part begins here") for bar in b if bar not in a]
    out += [Change(bar, "no part begins here any more") for bar in a if bar not in b]
    for part in new.parts:
        before = a.get(part.start_bar)
        if before is None:
            continue
        if before[1] != part.name:
            out.append(Change(part.start_bar, f"part {part.number} is called {part.name or 'nothing'}"))
        if before[2] != part.same_as:
            out.append(Change(part.start_bar, f"part {part.number} repeats part {part.same_as}" if part.same_as else f"part {part.number} stands on its own"))
    return out
