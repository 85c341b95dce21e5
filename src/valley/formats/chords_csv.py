"""The chord chart as CSV: one row a chord."""

from __future__ import annotations

import csv
import io

from valley.errors import FormatError, ValleyError
from valley.formats.chord_chart import guess_key, parse_chord_chart
from valley.formats.chord_tables import read_rows, table_as_bars, table_as_labels
from valley.formats.labels import parse_lab
from valley.fraction import Fraction
from valley.model.chart import Chart, ChartChord, Grid, KeyArea, Part
from valley.theory.amounts import read_amount
from valley.theory.chord import NO_CHORD, parse_symbol
from valley.theory.key import Key
from valley.theory.meter import Meter

COLUMNS = ("part", "bar", "count", "beats", "chord", "harte", "key", "meter", "seconds")


def dump_chords_csv(chart: Chart) -> str:
    """Part, bar, count, length in beats, symbol, Harte's label, key, metre, time in the recording."""
    buffer = io.StringIO()
    writer = csv.writer(buffer, lineterminator="\n")
    writer.writerow(COLUMNS)
    for chord in chart.chords:
        bar, into = chart.grid.place(chord.start)
        part = next((f"{p.number} {p.name}".strip() for p in chart.parts if chart.span(p)[0] <= chord.start < chart.span(p)[1]), "")
        parsed = chord.chord
        writer.writerow(
            [
                part,
                bar,
                into + 1,
                chord.duration,
                parsed.to_symbol() if parsed else NO_CHORD,
                chord.label,
                chart.key_at(chord.start),
                chart.grid.meter_at(chord.start).name,
                f"{chart.grid.seconds(chord.start):.3f}",
            ]
        )
    return buffer.getvalue()


def parse_chords_csv(text: str, *, title: str = "Untitled", tempo: float = 100.0) -> Chart:
    """A chart from rows with at least ``beats`` and ``chord``; ``key``, ``meter``, ``part`` and ``seconds`` are used where they are.

    Raises
    ------
    FormatError
        with the number of the row
    """
    reader = csv.DictReader(io.StringIO(text.lstrip("\ufeff")))
    names = {(n or "").strip().lower(): n for n in reader.fieldnames or ()}
    if "chord" not in names or "beats" not in names:
        return _foreign(text, title)
    chords: list[ChartChord] = []
    keys: list[KeyArea] = []
    parts: list[tuple[str, Fraction]] = []
    times: list[tuple[Fraction, float]] = []
    meter, now = "", Fraction(0)
    for number, row in enumerate(reader, 2):
        cell = {clean: (row.get(name) or "").strip() for clean, name in names.items()}
        try:
            length = read_amount(cell["beats"])
            chord = parse_symbol(cell["chord"])
            chords.append(ChartChord(now, length, chord))
            meter = meter or (Meter(cell["meter"]).name if cell.get("meter") else "")
            if cell.get("key"):
                key = Key.of(*cell["key"].split(" ", 1)) if " " in cell["key"] else Key.of(cell["key"], "major")
                if not keys or keys[-1].key != key:
                    keys.append(KeyArea(now, str(key.tonic), key.mode))
            if cell.get("seconds"):
                times.append((now, float(cell["seconds"])))
        except (ValueError, ZeroDivisionError, ValleyError) as error:
            raise FormatError(f"row {number}: {error}") from error
        if cell.get("part") and (not parts or parts[-1][0] != cell["part"]):
            parts.append((cell["part"], now))
        now += length
    if not chords:
        raise FormatError("the CSV holds no chords")
    bar = Meter(meter or "4/4")
    beats = max(bar.beats, -(-int(now * 2) // 2))
    beats = -(-beats // bar.beats) * bar.beats
    if now < beats:
        chords.append(ChartChord(now, beats - now, None))
    grid = Grid(_beat_times(beats, times, tempo), bar.name)
    heads = [(name, grid.place(start)[0]) for name, start in parts] or [("", 1)]
    edges = [bar for _, bar in heads[1:]] + [grid.bars + 1]
    listed = tuple(
        Part(
            n,
            bar if n > 1 else 1,
            end - (bar if n > 1 else 1),
            name.split(" ", 1)[1] if name[:1].isdigit() and " " in name else ("" if name.isdigit() else name),
            new_bars=end - bar,
        )
        for n, ((name, bar), end) in enumerate(((h, e) for h, e in zip(heads, edges, strict=True) if e > h[1]), 1)
    )
    return Chart(title, grid, tuple(keys) or (guess_key(chords),), tuple(chords), (), listed, 0.0, round(60 / (grid.beats[1] - grid.beats[0]), 2))


def _foreign(text: str, title: str) -> Chart:
    """A table that others wrote, by what its columns mean."""
    names, rows = read_rows(text)
    if "chord" in names and rows and "bar" in names:
        return parse_chord_chart(table_as_bars(rows, title), title=title)
    if "chord" in names and rows and "start" in names:
        return parse_lab(table_as_labels(rows), title=title)
    wanted = "a column of chords is needed, with the beats of each, or with bars, or with times"
    raise FormatError(f"the first line names {', '.join(names) or 'nothing'}; {wanted}")


def _beat_times(beats: int, times: list[tuple[Fraction, float]], tempo: float) -> tuple[float, ...]:
    """Beats at the times that the rows give, evenly between them."""
    if len(times) < 2 or any(b[1] <= a[1] for a, b in zip(times, times[1:], strict=False)):
        return tuple(round(i * 60 / tempo, 6) for i in range(beats))
    found = []
    for i in range(beats):
        k = max(0, min(len(times) - 2, next((j for j, (at, _) in enumerate(times) if at > i), len(times)) - 1))
        (a, ta), (b, tb) = times[k], times[k + 1]
        found.append(round(ta + float((i - a) / (b - a)) * (tb - ta), 6))
    return tuple(found)
