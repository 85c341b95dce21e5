"""A chart from whatever holds one: a recording, our JSON, a chord chart as text or CSV, .lab, MusicXML, MIDI."""

from __future__ import annotations

import json
from collections.abc import Callable
from dataclasses import replace
from fractions import Fraction
from pathlib import Path

from valley.audio.decode import MAX_SECONDS
from valley.charting.from_hearing import make_chart
from valley.charting.from_score import chart_score
from valley.charting.parts import compare_parts, relate_parts
from valley.charting.route import suggest_repeats
from valley.errors import FormatError
from valley.formats.chart_json import CHART_FORMAT, read_chart
from valley.formats.chord_chart import parse_chord_chart
from valley.formats.chords_csv import parse_chords_csv
from valley.formats.hearing_json import FORMAT as HEARING_FORMAT
from valley.formats.hearing_json import read_hearing
from valley.formats.labels import parse_lab
from valley.formats.lesson_json import FORMAT as LESSON_FORMAT
from valley.formats.lesson_json import read_lesson
from valley.formats.score_in import read_midi, read_musicxml
from valley.model.chart import Chart, Grid, MelodyNote
from valley.model.hearing import Hearing
from valley.model.score import Score
from valley.pipeline.listen import listen
from valley.pipeline.progress import Listener

_LOOKED_AT = 4096  # bytes by which a text is told from a recording
_SCORES: dict[str, Callable[..., Score]] = {
    ".musicxml": read_musicxml,
    ".xml": read_musicxml,
    ".mxl": read_musicxml,
    ".mid": read_midi,
    ".midi": read_midi,
}
IMPORTS = (".json", ".txt", ".csv", ".lab", *_SCORES)


def title_of(path: Path) -> str:
    return path.stem.replace("_", " ")


def load_song(path: str | Path, *, max_seconds: float = MAX_SECONDS, listener: Listener | None = None) -> Chart:
    """The chart of any file that has one in it; a recording is listened to first."""
    file = Path(path)
    if holds_chart(file):
        return load_any_chart(file)
    hearing = listen(file, max_seconds=max_seconds, listener=listener) if listener else listen(file, max_seconds=max_seconds)
    return make_chart(hearing, title_of(file))


def holds_chart(file: Path) -> bool:
    """Whether a file is read as a chart or score, rather than listened to."""
    return file.suffix.lower() in IMPORTS or _is_text(file)


def load_any_chart(path: str | Path) -> Chart:
    """The chart in a file that is not a recording.

    Raises
    ------
    FormatError
        naming the file's fault and the place in it
    """
    file = Path(path)
    return read_any_chart(file.read_bytes(), file.name)


def read_any_chart(data: bytes, name: str) -> Chart:
    """As ``load_any_chart``, from bytes; the kind is told by the name's ending and by what is inside."""
    ending, title = Path(name).suffix.lower(), title_of(Path(name))
    if ending in _SCORES:
        score = (read_midi if ending.startswith(".mid") else read_musicxml)(data, title=title)
        return mark_repeats(chart_score(score))
    try:
        text = data.decode("utf-8-sig")
    except UnicodeDecodeError as error:
        raise FormatError(f"{name!r} is not text in UTF-8 (byte {error.start}); chart.json or a chord chart as text is wanted") from error
    if text.lstrip().startswith("{"):
        return _read_json(text, name, title)
    if ending == ".lab":
        return mark_repeats(parse_lab(text, title=title))
    if ending == ".csv":
        return mark_repeats(parse_chords_csv(text, title=title))
    return mark_repeats(parse_chord_chart(text, title=title))


def _read_json(text: str, name: str, title: str) -> Chart:
    try:
        data = json.loads(text)
    except json.JSONDecodeError as error:
        raise FormatError(f"{name!r} is not JSON: line {error.lineno}, {error.msg}") from error
    kind = data.get("format") if isinstance(data, dict) else None
    if kind == HEARING_FORMAT:
        return make_chart(read_hearing(data), title)
    if kind == LESSON_FORMAT:
        return read_lesson(data).chart
    if kind != CHART_FORMAT:
        raise FormatError(f"{name!r} says format={kind!r}; {CHART_FORMAT!r}, {HEARING_FORMAT!r} or {LESSON_FORMAT!r} is wanted")
    return read_chart(data)


def read_any_score(data: bytes, name: str) -> Score:
    """The notes of a MusicXML or MIDI file, as they are in it.

    Raises
    ------
    FormatError
        the file is of another kind, or damaged
    """
    ending = Path(name).suffix.lower()
    if ending not in _SCORES:
        raise FormatError(f"{name!r} holds no performance; a MIDI file (.mid) or MusicXML is wanted")
    return (read_midi if ending.startswith(".mid") else read_musicxml)(data, title=title_of(Path(name)))


def place_played(hearing: Hearing, grid: Grid) -> tuple[MelodyNote, ...]:
    """The keys heard struck, set on a chart's grid to the nearest quarter of a beat, in order."""
    placed = []
    for note in hearing.notes:
        start = Fraction(round(grid.position(note.start) * 4), 4)
        end = max(Fraction(round(grid.position(note.end) * 4), 4), start + Fraction(1, 4))
        placed.append(MelodyNote(start, end - start, note.midi, note.confidence))
    return tuple(sorted(placed, key=lambda n: (n.start, n.midi)))


def mark_repeats(chart: Chart) -> Chart:
    """Parts that go like an earlier one, marked as its repeats with the differences in words."""
    chart = relate_parts(chart, chart.parts)
    models = {s.number: s.model for s in suggest_repeats(chart)}
    return relate_parts(chart, [replace(p, same_as=p.same_as or models.get(p.number)) for p in chart.parts])


def real_differences(chart: Chart, number: int) -> tuple[str, ...]:
    """How a repeat really differs from what it repeats, whatever the chart says of it."""
    by_number = {p.number: p for p in chart.parts}
    part = by_number[number]
    model = by_number.get(part.same_as or 0)
    return compare_parts(chart, model, part).words if model else ()


def _is_text(file: Path) -> bool:
    with file.open("rb") as handle:
        head = handle.read(_LOOKED_AT)
    if b"\0" in head or not head:
        return False
    try:
        head.decode("utf-8")
    except UnicodeDecodeError as error:
        return error.start > len(head) - 4  # a letter cut by the end of what was read
    return file.suffix.lower() in ("", ".chart", ".chords", ".text", ".md")
