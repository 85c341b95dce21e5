"""Tables of chords as other programs and people write them, made into what we read: rows with bars and beats, or with times in seconds.

Commas, semicolons or tabs stand between the columns; the first line names them, in whatever order: bar and chord; bar, beat and chord; time and chord;
start, end and label.
"""

from __future__ import annotations

import csv
import io
import re
from collections.abc import Sequence

from valley.errors import FormatError
from valley.fraction import Fraction
from valley.theory.amounts import read_amount
from valley.theory.chord import parse_harte, parse_symbol

_MEANT = {
    "bar": ("bar", "measure", "takt", "mesure", "compás", "compas"),
    "beat": ("beat", "count", "schlag", "temps", "tiempo", "pos", "position"),
    "chord": ("chord", "symbol", "label", "name", "akkord", "accord", "acorde", "value"),
    "start": ("start", "time", "onset", "begin", "seconds", "from", "zeit", "start_time", "time_seconds", "début"),
    "end": ("end", "stop", "offset", "to", "end_time", "ende", "fin"),
    "key": ("key", "tonart"),
    "meter": ("meter", "metre", "time signature", "time_signature", "signature"),
    "part": ("part", "section", "teil", "partie"),
}
_MOST_BARS = 2000
_LAST = 4.0  # seconds that a single chord lasts where nobody says; the last of several lasts like the one before

Row = dict[str, str]


def read_rows(text: str) -> tuple[list[str], list[Row]]:
    """The columns of a table by what they mean, and its rows; columns that mean nothing here keep their names."""
    clean = text.lstrip("\ufeff")
    first = clean.partition("\n")[0]
    mark = max(",;\t", key=first.count)
    reader = csv.reader(io.StringIO(clean), delimiter=mark)
    table = [[cell.strip() for cell in row] for row in reader if any(cell.strip() for cell in row)]
    if not table:
        return [], []
    names = [next((kind for kind, words in _MEANT.items() if name.lower() in words), name.lower()) for name in table[0]]
    return names, [dict(zip(names, row, strict=False)) for row in table[1:]]


def table_as_bars(rows: Sequence[Row], title: str) -> str:
    """Rows with bars, and beats where they have them, as a chord chart in our own text. A bar without a row holds the chord before.

    Raises
    ------
    FormatError
        with the number of the row
    """
    meter = next((r["meter"] for r in rows if r.get("meter")), "4/4")
    beats = Fraction(int(meter.split("/")[0])) if re.fullmatch(r"\d+/\d+", meter) else Fraction(4)
    if re.fullmatch(r"(?:6|9|12)/8", meter):
        beats /= 3
    bars: dict[int, list[tuple[Fraction, str]]] = {}
    heads: dict[int, str] = {}
    for number, row in enumerate(rows, 2):
        try:
            bar = int(row.get("bar") or 0)
            at = read_amount(row["beat"]) - 1 if row.get("beat") else None
        except ValueError as error:
            raise FormatError(f"row {number}: {error}") from error
        if not 1 <= bar <= _MOST_BARS:
            raise FormatError(f"row {number}: bar {row.get('bar')!r} must be 1 to {_MOST_BARS}")
        if at is not None and not 0 <= at < beats:
            raise FormatError(f"row {number}: beat {row['beat']} is not in a bar of {meter}")
        if row.get("part") and row["part"] not in heads.values():
            heads[bar] = row["part"]
        bars.setdefault(bar, []).append((at if at is not None else Fraction(-1), _symbol(row, number)))
    lines = [f"title: {title}", f"meter: {meter}", *(f"key: {rows[0]['key']}" for _ in "k" if rows[0].get("key"))]
    for bar in range(1, max(bars) + 1):
        if bar in heads:
            lines.append(f"[{heads[bar]}]")
        lines.append(f"| {_write_bar(bars.get(bar, []), beats)} |")
    return "\n".join(lines) + "\n"


def _write_bar(chords: Sequence[tuple[Fraction, str]], beats: Fraction) -> str:
    if all(at < 0 for at, _ in chords):
        return " ".join(symbol for _, symbol in chords)
    placed = sorted((max(at, Fraction(0)), symbol) for at, symbol in chords)
    if placed[0][0] > 0:
        placed.insert(0, (Fraction(0), "_"))
    ends = [at for at, _ in placed[1:]] + [beats]
    return " ".join(f"{symbol}:{end - at}" for (at, symbol), end in zip(placed, ends, strict=True) if end > at)


def table_as_labels(rows: Sequence[Row]) -> str:
    """Rows with times as lines of labels: start, end, chord; a row without an end lasts until the next.

    Raises
    ------
    FormatError
        with the number of the row
    """
    starts = []
    for number, row in enumerate(rows, 2):
        try:
            starts.append(_seconds(row.get("start", "")))
        except ValueError:
            raise FormatError(f"row {number}: {row.get('start')!r} is no time; write seconds, such as 12.5, or minutes and seconds, such as 1:02.5") from None
    lines = []
    for i, (row, start) in enumerate(zip(rows, starts, strict=True)):
        follows = starts[i + 1] if i + 1 < len(starts) else start + (start - starts[i - 1] if i else _LAST)
        end = _seconds(row["end"]) if row.get("end") else follows
        chord = parse_symbol(_symbol(row, i + 2))
        lines.append(f"{start} {end} {chord.to_harte() if chord else 'N'}")
    return "\n".join(lines) + "\n"


def _symbol(row: Row, number: int) -> str:
    """A chord as a symbol, be it written so or as Harte's label."""
    text = row.get("chord", "")
    try:
        chord = parse_harte(text) if ":" in text else parse_symbol(text)
    except FormatError as error:
        raise FormatError(f"row {number}: {error}") from error
    return chord.to_symbol() if chord else "N"


def _seconds(text: str) -> float:
    total = 0.0
    for piece in text.replace(",", ".").split(":"):
        total = 60 * total + float(piece)
    return total
