"""Songs as they were kept before their state was one document: chart, choices and teaching side by side, the order of lessons elsewhere.

What an old version holds is never lost: values that no chart could hold are set right one by one, the rest stays as the creator left it.
"""

from __future__ import annotations

from collections.abc import Callable, Iterable
from dataclasses import replace
from typing import Any

from valley.errors import ValleyError
from valley.formats.chart_json import CHART_FORMAT, read_chart
from valley.formats.choices_json import FORMAT as CHOICES_FORMAT
from valley.formats.choices_json import TEACHING_FORMAT, read_choices, read_teaching
from valley.formats.song_json import dump_song
from valley.fraction import Fraction
from valley.model.chart import KINSHIPS, Chart
from valley.model.choices import Choices
from valley.model.lesson import Settings, Teaching
from valley.song.state import SongState
from valley.theory.amounts import read_amount
from valley.theory.chord import NO_CHORD, parse_harte
from valley.theory.key import Key

Row = dict[str, Any]


def fold_song(document: Row, choices: Row, teaching: Row, order: Iterable[int], minutes: float) -> Row:
    """One version of old as a document of today.

    Raises
    ------
    FormatError
        the chart cannot be set right: its grid is no grid
    """
    chart = _read(document)
    kept = _choices(choices, len(chart.parts))
    numbers = tuple(dict.fromkeys(int(n) for n in order))
    fits = all(1 <= n <= len(chart.parts) for n in numbers)
    settings = Settings(numbers if fits else (), minutes if minutes == 0 or 2 <= minutes <= 600 else 0.0)
    try:
        song = SongState(chart, kept, _teaching(teaching), settings)
    except ValleyError:  # a name that was taken out meanwhile: single settings go, grips and words stay
        song = SongState(chart, Choices(grips=kept.grips), _teaching(teaching), settings)
    return dump_song(song)


def _read(document: Row) -> Chart:
    try:
        return read_chart(document)
    except ValleyError:
        return read_chart(mend_chart(document))


def _choices(data: Row, parts: int) -> Choices:
    """Choices, without those for parts that are not there any more."""
    try:
        kept = read_choices(data)
    except ValleyError:
        kept = read_choices({"format": CHOICES_FORMAT, "version": 1} | _each(data, ("grips", "taken_links", "chord_patterns"), read_choices))
    return replace(kept, parts=tuple(p for p in kept.parts if p.part <= parts))


def _teaching(data: Row) -> Teaching:
    try:
        return read_teaching(data)
    except ValleyError:
        return read_teaching({"format": TEACHING_FORMAT, "version": 1} | _each(data, ("edits",), read_teaching))


def _each(data: Row, lists: Iterable[str], read: Callable[[Row], object]) -> Row:
    """Of lists the rows that can be read."""
    head = {name: data[name] for name in ("format", "version") if name in data}
    kept: Row = {}
    for name in lists:
        rows = []
        for row in data.get(name, ()):
            try:
                read(head | {name: [row]})
            except ValleyError:
                continue
            rows.append(row)
        kept[name] = rows
    return kept


def mend_chart(document: Row) -> Row:
    """A chart of version 1 whose impossible values are set right: unreadable chords become none, notes and cues that cannot be are left out."""
    beats = len(document["grid"]["beats"])
    return document | {
        "format": CHART_FORMAT,
        "version": 1,
        "chords": _chords(document.get("chords", ())),
        "keys": _keys(document.get("keys", ())),
        "melody": _melody(document.get("melody", ()), beats),
        "cues": _ascending(r for r in document.get("cues", ()) if str(r.get("text", "")).strip() and _beat(r["start"]) >= 0),
        "parts": _parts(document.get("parts", ())),
    }


def _beat(text: object) -> Fraction:
    return read_amount(str(text))


def _chords(rows: Iterable[Row]) -> list[Row]:
    """In a row without gaps; what cannot be read is none."""
    out: list[Row] = []
    for row in rows:
        if _beat(row["duration"]) <= 0:
            continue
        start = _beat(out[-1]["start"]) + _beat(out[-1]["duration"]) if out else max(Fraction(0), _beat(row["start"]))
        readings = [r for r in row.get("readings", ()) if _is_chord(r["label"]) and 0 <= r["probability"] <= 1]
        label = row["label"] if _is_chord(row["label"]) else NO_CHORD
        sure = min(max(float(row.get("confidence", 1.0)), 0.0), 1.0)
        out.append(row | {"start": str(start), "label": label, "readings": readings, "confidence": sure})
    return out


def _is_chord(label: object) -> bool:
    try:
        parse_harte(str(label))
    except ValleyError:
        return False
    return True


def _keys(rows: Iterable[Row]) -> list[Row]:
    kept = []
    for row in rows:
        try:
            Key.of(row["tonic"], row["mode"])
        except ValleyError:
            continue
        kept.append(row)
    ordered = _ascending(kept)
    return ordered if ordered and _beat(ordered[0]["start"]) <= 0 else [{"start": "0", "tonic": "C", "mode": "major", "confidence": 0.0}, *ordered]


def _melody(rows: Iterable[Row], beats: int) -> list[Row]:
    """Notes of a piano in order of time, each ending where the next begins."""
    fit = [r for r in rows if 0 <= int(r["midi"]) <= 127 and _beat(r["duration"]) > 0 and 0 <= _beat(r["start"]) < beats]
    out = _ascending(fit)
    for row, after in zip(out, out[1:], strict=False):
        if _beat(row["start"]) + _beat(row["duration"]) > _beat(after["start"]):
            row["duration"] = str(_beat(after["start"]) - _beat(row["start"]))
    return out


def _ascending(rows: Iterable[Row]) -> list[Row]:
    """In order of time, of two at one beat the first."""
    by_start: dict[Fraction, Row] = {}
    for row in rows:
        by_start.setdefault(_beat(row["start"]), dict(row))
    return [by_start[start] for start in sorted(by_start)]


def _parts(rows: Iterable[Row]) -> list[Row]:
    """Numbered in order of their bars; kinship is found anew."""
    by_bar = {max(1, int(r["start_bar"])): r for r in rows if int(r["bars"]) >= 1}
    number = {by_bar[bar]["number"]: i for i, bar in enumerate(sorted(by_bar), 1)}
    out = []
    for i, bar in enumerate(sorted(by_bar), 1):
        row = by_bar[bar]
        model = number.get(row.get("same_as"), 0)
        kinship = row.get("kinship") if row.get("kinship") in KINSHIPS else "new"
        out.append(row | {"number": i, "start_bar": bar, "same_as": model if 0 < model < i else None, "kinship": kinship, "moved": 0, "new_bars": 0})
    return out
