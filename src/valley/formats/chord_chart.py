"""A plain chord chart as text: read wherever chart.json is, and written again. See docs/formats/chord-chart.md.

::

    title: Two Lanterns
    key: F major
    meter: 4/4
    tempo: 76

    [Verse]
    | F | C/E | Dm:3 C:1 | Bb |
"""

from __future__ import annotations

import re
from collections.abc import Callable, Sequence
from dataclasses import dataclass, field, replace

from valley.errors import FormatError, ValleyError
from valley.formats.chart_lines import Cell, cells_of, is_line, read_cues, read_passages, read_tune, write_lines
from valley.fraction import Fraction
from valley.model.chart import Chart, ChartChord, Grid, KeyArea, MeterChange, Part
from valley.model.passage import Passage
from valley.theory.amounts import read_amount
from valley.theory.bar_row import HELD, LENGTH, SAME, cells_between, read_words, share_bar
from valley.theory.chord import NO_CHORD, parse_harte, parse_symbol
from valley.theory.feel import STRAIGHT, feel_named
from valley.theory.key import Key
from valley.theory.meter import Meter

_HEADER = re.compile(r"(title|key|meter|metre|tempo|feel|pickup)\s*:\s*(.+)$", re.IGNORECASE)
_PART = re.compile(r"\[([^\]]*)\]\s*$")


class OtherNotationError(FormatError):
    """A line is not in this notation, though it may be a chart written otherwise; whatever else is wrong is a slip in this one."""


@dataclass
class _Draft:
    """What has been read so far; beats count from the first beat of the chart."""

    title: str = ""
    meter: str = "4/4"
    tempo: float = 100.0
    feel: str = STRAIGHT
    pickup: int = 0
    keys: list[KeyArea] = field(default_factory=list)
    changes: list[MeterChange] = field(default_factory=list)
    first_meter: str = ""
    chords: list[tuple[Fraction, Fraction, str]] = field(default_factory=list)
    bars: list[int] = field(default_factory=list)  # first beat of every bar, the pickup's left out
    beats: list[float] = field(default_factory=list)  # length of each beat in seconds
    parts: list[tuple[str, int]] = field(default_factory=list)  # name, index of the first bar
    begun: bool = False
    row: tuple[int, int] = (1, 0)  # number of the first bar of the last line of bars, and how many
    cells: list[Cell] = field(default_factory=list)  # of the lines under the bars

    @property
    def now(self) -> int:
        return len(self.beats)


def parse_chord_chart(text: str, *, title: str = "Untitled") -> Chart:
    """The chart of a text, without what its lines say of the hands; see ``parse_song_chart``."""
    return parse_song_chart(text, title=title)[0]


def parse_song_chart(text: str, *, title: str = "Untitled") -> tuple[Chart, tuple[Passage, ...]]:
    """The chart of a text, with its tune and cue words, and what both hands play where it is written.

    Parts are bracketed lines; without any, stanzas between blank lines; which of them are repeats is not looked for here.
    ``title`` is used where the text has none.

    Raises
    ------
    FormatError
        with the number of the line, what stands there and what is wanted
    """
    draft = _Draft()
    bracketed = any(_PART.match(line.strip()) for line in text.splitlines())
    fresh = True
    for number, raw in enumerate(text.splitlines(), 1):
        line = raw.strip().lstrip("\ufeff")
        if not line or line.startswith("//"):
            fresh = fresh or not line
            continue
        try:
            if is_line(line):
                draft.cells += cells_of(line, *draft.row, number)
                fresh = False
                continue
            fresh = _read_line(draft, line, new_stanza=fresh and not bracketed)
        except OtherNotationError as error:
            raise OtherNotationError(f"line {number}: {error}") from error
        except ValleyError as error:
            raise FormatError(f"line {number}: {error}") from error
    if not draft.bars:
        raise FormatError("the chord chart holds no bars; write them between bars, such as | F | C/E | Dm | Bb |")
    chart = _finish(draft, draft.title or title)
    tune, cues = read_tune(draft.cells, chart.grid), read_cues(draft.cells, chart.grid)
    return replace(chart, melody=tune, cues=cues), read_passages(draft.cells, chart.grid)


def _read_line(draft: _Draft, line: str, *, new_stanza: bool) -> bool:
    """Take one line in; gives whether the next bar may begin a stanza."""
    header, part = _HEADER.match(line), _PART.match(line)
    if part:
        draft.parts.append((part[1].strip(), len(draft.bars)))
        return False
    if "|" in line and not header:
        if new_stanza:
            draft.parts.append(("", len(draft.bars)))
        first = len(draft.bars) + 1 if draft.begun or not draft.pickup else 0
        for cell in cells_between(line):
            _read_bar(draft, cell)
        draft.row = (first, len(draft.bars) + 1 - first)
        return False
    if header:
        _HEADS[header[1].lower()](draft, header[2].strip())
        return new_stanza
    raise OtherNotationError(f"{line!r} is neither a header (key: F major), a part ([Verse]) nor bars (| F | C/E |)")


def _read_key(draft: _Draft, value: str) -> None:
    tonic, _, mode = value.partition(" ")
    try:
        key = Key.of(tonic.removesuffix("m") or tonic, (mode.strip().lower() or ("minor" if tonic.endswith("m") else "major")))
    except ValleyError as error:
        raise OtherNotationError(str(error)) from error
    area = KeyArea(Fraction(draft.now), str(key.tonic), key.mode)
    draft.keys = [k for k in draft.keys if k.start != area.start] + [area]


def _read_title(draft: _Draft, value: str) -> None:
    draft.title = value


def _read_meter(draft: _Draft, value: str) -> None:
    before, after = Meter(draft.meter), Meter(value)
    if draft.begun and before.division == after.division == 2:
        draft.tempo *= float(before.quarters_per_beat / after.quarters_per_beat)  # the quarter goes on as it went
    draft.meter = value


def _read_tempo(draft: _Draft, value: str) -> None:
    try:
        draft.tempo = float(value.split()[0])
    except ValueError:
        raise FormatError(f"tempo {value!r} must be beats to the minute, such as 76") from None
    if not 20 <= draft.tempo <= 400:  # what is no number lies nowhere
        raise FormatError(f"tempo {value} must lie between 20 and 400 beats to the minute")


def _read_feel(draft: _Draft, value: str) -> None:
    draft.feel = feel_named(" ".join(value.lower().split())).name


def _read_pickup(draft: _Draft, value: str) -> None:
    if draft.begun:
        raise FormatError("the pickup stands before the first bar")
    if not value.isdigit() or len(value) > 3:
        raise FormatError(f"pickup {value!r} must be whole beats before bar 1")
    draft.pickup = int(value)


_HEADS: dict[str, Callable[[_Draft, str], None]] = {
    "title": _read_title,
    "key": _read_key,
    "meter": _read_meter,
    "metre": _read_meter,
    "tempo": _read_tempo,
    "feel": _read_feel,
    "pickup": _read_pickup,
}


def _read_bar(draft: _Draft, cell: str) -> None:
    length = Meter(draft.meter).beats
    if not draft.begun:
        draft.begun, draft.first_meter = True, draft.meter
        if draft.pickup:
            if draft.pickup >= length:
                raise FormatError(f"a pickup of {draft.pickup} beats fills a bar of {draft.meter}; it must be shorter")
            _place(draft, cell, draft.pickup)
            return
    if len(draft.bars) >= _MOST_BARS:
        raise FormatError(f"the chart has more than {_MOST_BARS} bars")
    last = draft.changes[-1].meter if draft.changes else draft.first_meter
    if draft.meter != last:
        draft.changes.append(MeterChange(draft.now, draft.meter))
    draft.bars.append(draft.now)
    _place(draft, cell, length)


def _place(draft: _Draft, cell: str, beats: int) -> None:
    """The chords of one bar, sharing it equally or as their beats say."""
    start, words = Fraction(draft.now), cell.split()
    if cell == SAME:
        if len(draft.bars) < 2:
            raise FormatError("% repeats the bar before, but there is none")
        before = draft.bars[-2]
        repeated = [(at, n, label) for at, n, label in draft.chords if at >= before]
        if sum((n for _, n, _ in repeated), Fraction(0)) != beats:
            raise FormatError(f"% repeats a bar of another length than {beats} beats; write its chords out")
        draft.chords += [(at - before + start, n, label) for at, n, label in repeated]
    elif not words:
        _hold(draft, start, Fraction(beats))
    elif len(words) == 1 and (long := LENGTH.match(cell)) and read_amount(long[2]) > beats and read_amount(long[2]) % beats == 0:
        _place_long(draft, long[1], beats, int(read_amount(long[2]) / beats))
        return
    else:
        at = start
        for label, n in _share(words, beats, draft.meter):
            if label == HELD:
                _hold(draft, at, n)
            else:
                draft.chords.append((at, n, label))
            at += n
    draft.beats += [60 / draft.tempo] * beats


def _hold(draft: _Draft, start: Fraction, beats: Fraction) -> None:
    """The chord before goes on, without being struck again."""
    if draft.chords:
        at, n, label = draft.chords[-1]
        draft.chords[-1] = (at, n + beats, label)
    else:
        draft.chords.append((start, beats, NO_CHORD))


def _place_long(draft: _Draft, symbol: str, beats: int, bars: int) -> None:
    """One chord that is held over several bars."""
    chord = parse_symbol(symbol)
    draft.chords.append((Fraction(draft.now), Fraction(beats * bars), chord.to_harte() if chord else NO_CHORD))
    draft.beats += [60 / draft.tempo] * beats
    for _ in range(bars - 1):
        draft.bars.append(draft.now)
        draft.beats += [60 / draft.tempo] * beats


_MOST_BARS = 10_000  # as many as the beats that a chart may have, in its shortest bars


def _share(words: Sequence[str], beats: int, meter: str) -> list[tuple[str, Fraction]]:
    try:
        row = read_words(words)
    except FormatError as error:
        raise OtherNotationError(str(error)) from error
    return share_bar(row, beats, meter)


def _finish(draft: _Draft, title: str) -> Chart:
    times = [0.0]
    for seconds in draft.beats[:-1]:
        times.append(round(times[-1] + seconds, 6))
    if len(times) < 2:
        raise FormatError("the chord chart holds a single beat; write at least one whole bar")
    chords = [ChartChord(start, length, parse_harte(label)) for start, length, label in draft.chords]
    keys = sorted(draft.keys, key=lambda k: k.start) or [guess_key(chords)]
    if keys[0].start > 0:
        keys = [replace(guess_key([c for c in chords if c.start < keys[0].start]), start=Fraction(0)), *keys]
    grid = Grid(tuple(times), draft.first_meter, draft.pickup, tuple(draft.changes), draft.feel)
    heads = draft.parts or [("", 0)]
    heads = heads if heads[0][1] == 0 else [("", 0), *heads]
    edges = [first for _, first in heads] + [len(draft.bars)]
    spans = [(name, a, b - a) for (name, a), b in zip(heads, edges[1:], strict=True) if b > a]
    parts = [Part(n, a + 1, bars, name, new_bars=bars) for n, (name, a, bars) in enumerate(spans, 1)]
    return Chart(title, grid, tuple(keys), tuple(chords), (), tuple(parts), 0.0, round(60 / draft.beats[0], 3))


def guess_key(chords: Sequence[ChartChord]) -> KeyArea:
    """Where no key is written: the key whose scale holds most of the chords' notes, a chord of its tonic at either end preferred."""
    named = [(c.duration, chord) for c in chords if (chord := c.chord)]
    if not named:
        return KeyArea(Fraction(0), "C", "major", 0.0)

    def fit(key: Key) -> float:
        scale = {n.pitch_class for n in key.scale()} | ({(key.tonic.pitch_class + 11) % 12} if key.mode == "minor" else set())
        inside = sum(float(d) * sum(pc in scale for pc in chord.pitch_classes()) / len(chord.pitch_classes()) for d, chord in named)
        third = 4 if key.mode == "major" else -3
        home = sum(chord.root.pitch_class == key.tonic.pitch_class and third in chord.quality.members for _, chord in (named[0], named[-1]))
        return inside + home * 0.15 * sum(float(d) for d, _ in named)

    best = max((Key.from_pitch_class(pc, mode) for mode in ("major", "minor") for pc in range(12)), key=fit)
    return KeyArea(Fraction(0), str(best.tonic), best.mode, 0.5)


def dump_chord_chart(chart: Chart, passages: Sequence[Passage] = ()) -> str:
    """The text of a chart, and of what was written for the hands: what it reads back has the same bars, chords, keys, metres, parts, tune, cue words
    and notes."""
    grid = chart.grid
    lines = [f"title: {chart.title}", f"key: {chart.keys[0].key}", f"meter: {grid.meter}", f"tempo: {chart.bpm:g}"]
    lines += [f"feel: {grid.feel}"] if grid.feel != STRAIGHT else []
    if grid.pickup:
        lines.append(f"pickup: {grid.pickup}")
    heads = {p.start_bar: p for p in chart.parts}
    keys = {grid.place(k.start)[0]: k for k in chart.keys[1:]}
    meters = {grid.place(Fraction(c.beat))[0]: c.meter for c in grid.changes}
    row: list[str] = []
    first = 0

    def flush() -> None:
        if row:
            lines.append("| " + " | ".join(row) + " |")
            lines.extend(write_lines(chart, passages, range(first, first + len(row))))
            row.clear()

    for bar in range(0 if grid.pickup else 1, grid.bars + 1):
        opens = heads.get(bar) if bar else heads.get(1)
        if opens and (bar == 0 or bar > 1 or not grid.pickup):
            flush()
            lines += ["", f"[{opens.name or f'Part {opens.number}'}]"]
        if bar in meters or bar in keys or len(row) == 4:
            flush()
        lines += [f"key: {keys[bar].key}"] if bar in keys else []
        lines += [f"meter: {meters[bar]}"] if bar in meters else []
        first = first if row else bar
        row.append(_dump_bar(chart, bar))
    flush()
    return "\n".join(lines) + "\n"


def _dump_bar(chart: Chart, bar: int) -> str:
    start, end = chart.grid.bar_start(bar), chart.grid.bar_start(bar + 1)
    inside = [c for c in chart.sounding_in(bar) if c.start < end and c.end > start]
    if len(inside) == 1 and inside[0].start < start and inside[0].end >= end:
        return ""  # held on
    names = [HELD if c.start < start else c.chord.to_symbol() if c.chord else NO_CHORD for c in inside]
    said = [(name, min(c.end, end) - max(c.start, start)) for name, c in zip(names, inside, strict=True)]
    if said:
        short = end - start - sum((n for _, n in said), Fraction(0))  # a bar that the recording cuts short is written whole
        said[-1] = (said[-1][0], said[-1][1] + short)
    if len({n for _, n in said}) <= 1:
        return " ".join(symbol for symbol, _ in said)
    return " ".join(f"{symbol}:{n}" for symbol, n in said)
