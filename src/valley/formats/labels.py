"""Time-stamped annotations: chords as .lab in Harte's syntax, and everything as JAMS.

.lab: C. Harte, "Towards Automatic Extraction of Harmony Information", 2010: start, end, label, one a line.
JAMS: E. Humphrey et al., "JAMS: A JSON Annotated Music Specification", ISMIR 2014.
"""

from __future__ import annotations

import json
import math
from collections.abc import Iterable
from typing import Any, Final

from valley.errors import FormatError
from valley.formats.chord_chart import guess_key
from valley.fraction import Fraction
from valley.model.chart import Chart, ChartChord, Grid, Part
from valley.theory.chord import NO_CHORD, parse_harte, parse_symbol

_LONGEST: Final = 7200  # seconds


def dump_lab(chart: Chart) -> str:
    """The chords in seconds of the recording."""
    grid = chart.grid
    return "".join(f"{grid.seconds(c.start):.6f}\t{grid.seconds(c.end):.6f}\t{c.label}\n" for c in chart.chords)


def _label(text: str) -> str:
    """Harte's label of a chord, also where it is written as players write it ("Am")."""
    try:
        parse_harte(text)
    except FormatError:
        chord = parse_symbol(text)
        return chord.to_harte() if chord else NO_CHORD
    return text


def parse_lab(text: str, *, title: str = "Untitled", beats_per_minute: float = 0.0) -> Chart:
    """A chart from a .lab file: times are set on a grid of even beats, found from the chords' lengths where no tempo is given.

    Raises
    ------
    FormatError
        with the number of the line and what is wrong with it
    """
    rows: list[tuple[float, float, str]] = []
    for number, line in enumerate(text.splitlines(), 1):
        if not line.strip() or line.startswith("#"):
            continue
        words = line.split()
        try:
            if len(words) < 3:
                raise FormatError(f"{line.strip()!r} must hold start, end and a chord")
            start, end = float(words[0]), float(words[1])
            label = _label(words[2])
        except ValueError as error:
            raise FormatError(f"line {number}: {error}") from error
        if end <= start or (rows and start < rows[-1][1] - 0.05):
            raise FormatError(f"line {number}: {start} to {end} does not follow what is before it")
        rows.append((start, end, label))
    if not rows:
        raise FormatError("the .lab file holds no chords; each line is start, end and a label such as F:maj/3")
    if not all(math.isfinite(t) and 0 <= t <= _LONGEST for row in rows for t in row[:2]):
        raise FormatError(f"a time of the .lab file lies outside 0 to {_LONGEST} seconds, the longest recording")
    beat = 60 / beats_per_minute if beats_per_minute else _guess_beat([b - a for a, b, _ in rows])
    return _on_grid(rows, beat, title)


def _guess_beat(lengths: list[float]) -> float:
    """The beat, between 0.35 and 1 s, of which all lengths are most nearly multiples; longer beats win ties."""
    best = min((sum(abs(x / b - round(x / b)) for x in lengths) + 0.02 * len(lengths) * (1 / b), b) for b in [0.35 + 0.005 * i for i in range(131)])
    return best[1]


def _on_grid(rows: list[tuple[float, float, str]], beat: float, title: str) -> Chart:
    origin = rows[0][0]
    chords: list[ChartChord] = []
    for start, end, label in rows:
        a = Fraction(round((start - origin) / beat * 2), 2) if not chords else chords[-1].end
        b = Fraction(round((end - origin) / beat * 2), 2)
        if b > a:
            chords.append(ChartChord(a, b - a, parse_harte(label)))
    if not chords:
        raise FormatError("every chord of the .lab file is shorter than half a beat; is it in seconds?")
    beats = -(-int(chords[-1].end * 2) // 2)
    beats = max(4, -(-beats // 4) * 4)
    if chords[-1].end < beats:
        chords.append(ChartChord(chords[-1].end, beats - chords[-1].end, None))
    grid = Grid(tuple(round(origin + i * beat, 6) for i in range(beats)), "4/4")
    return Chart(title, grid, (guess_key(chords),), tuple(chords), (), (Part(1, 1, grid.bars, new_bars=grid.bars),), 0.0, round(60 / beat, 2))


def dump_jams(chart: Chart, *, duration: float) -> str:
    """Beats, chords, keys, sections and the melody as JAMS; ``duration`` of the recording in seconds."""
    grid = chart.grid

    def rows(values: Iterable[tuple[Fraction, Fraction, Any, float]]) -> list[dict[str, Any]]:
        return [
            {"time": round(grid.seconds(a), 6), "duration": round(grid.seconds(b) - grid.seconds(a), 6), "value": v, "confidence": round(c, 4)}
            for a, b, v, c in values
        ]

    ends = [*[k.start for k in chart.keys[1:]], Fraction(len(grid.beats))]
    annotations = {
        "beat": [{"time": round(t, 6), "duration": 0.0, "value": float(grid.place(Fraction(i))[1]) + 1, "confidence": None} for i, t in enumerate(grid.beats)],
        "chord": rows((c.start, c.end, c.label, c.confidence) for c in chart.chords),
        "key_mode": rows((k.start, end, f"{k.tonic}:{k.mode}", k.confidence) for k, end in zip(chart.keys, ends, strict=True)),
        "segment_open": rows((*chart.span(p), f"{p.number} {p.name}".strip(), 1.0) for p in chart.parts),
        "note_midi": rows((n.start, n.end, n.midi, n.confidence) for n in chart.melody if n.duration > 0),
    }
    meta = {
        "annotation_tools": "Valley",
        "annotation_rules": "",
        "data_source": "",
        "version": "",
        "corpus": "",
        "validation": "",
        "curator": {"name": "", "email": ""},
        "annotator": {},
    }
    document = {
        "annotations": [
            {"annotation_metadata": meta, "namespace": namespace, "data": data, "sandbox": {}, "time": 0, "duration": duration}
            for namespace, data in annotations.items()
        ],
        "file_metadata": {"title": chart.title, "artist": "", "release": "", "duration": duration, "identifiers": {}, "jams_version": "0.3.4"},
        "sandbox": {},
    }
    return json.dumps(document, ensure_ascii=False, indent=1) + "\n"
