"""What Valley reads instead of listening to: one row a kind of file. A new one is a reader in ``formats/`` and a row in ``READERS``.

Readers load what they need when they are called: the table itself is light.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, replace
from pathlib import Path
from typing import Any

from valley.errors import FormatError, ParameterError
from valley.model.chart import Chart
from valley.model.choices import Choices
from valley.model.score import Score
from valley.song.state import SongState

_LOOKED_AT = 4096  # bytes by which a text is told from a recording


@dataclass(frozen=True)
class Reader:
    """Files with one of these ``endings``. ``read`` takes bytes and a title; ``score`` as well, where the file holds notes as they are played."""

    endings: tuple[str, ...]
    title: str
    read: Callable[[bytes, str], SongState]
    score: Callable[[bytes, str], Score] | None = None


def title_of(path: Path) -> str:
    return path.stem.replace("_", " ")


def mark_repeats(chart: Chart) -> Chart:
    """Parts that go like an earlier one, marked as its repeats with their differences."""
    from valley.charting.parts import relate_parts
    from valley.charting.route import suggest_repeats

    chart = relate_parts(chart, chart.parts)
    models = {s.number: s.model for s in suggest_repeats(chart)}
    return relate_parts(chart, [replace(p, same_as=p.same_as or models.get(p.number)) for p in chart.parts])


def _decode(data: bytes) -> str:
    try:
        return data.decode("utf-8-sig")
    except UnicodeDecodeError as error:
        raise FormatError(f"it is not text in UTF-8 (byte {error.start}); chart.json or a chord chart as text is wanted") from error


def _musicxml(data: bytes, title: str) -> Score:
    from valley.formats.score_in import read_musicxml

    return read_musicxml(data, title=title)


def _midi(data: bytes, title: str) -> Score:
    from valley.formats.midi_in import read_midi

    return read_midi(data, title=title)


def _of_score(read: Callable[[bytes, str], Score]) -> Callable[[bytes, str], SongState]:
    def read_song(data: bytes, title: str) -> SongState:
        from valley.charting.from_score import chart_score, write_hands, write_pedals

        score = read(data, title)
        chart = chart_score(score)
        hands = write_hands(score, chart)
        pedals = write_pedals(score, chart) if hands else ()
        return SongState(mark_repeats(chart), Choices(passages=hands, pedals=pedals, pedal=bool(pedals) or not hands))  # hands stay as they are written

    return read_song


def _chord_chart(data: bytes, title: str) -> SongState:
    from valley.edits.transpose import TransposeSong
    from valley.formats.chord_chart import OtherNotationError, parse_song_chart
    from valley.formats.loose_chart import is_loose, tidy_chart

    text, raised = _decode(data), 0
    try:
        chart, passages = parse_song_chart(text, title=title)
    except OtherNotationError:  # as people write charts
        if not is_loose(text):
            raise
        tidy, raised = tidy_chart(text)
        chart, passages = parse_song_chart(tidy, title=title)
    song = SongState(mark_repeats(chart), Choices(passages=passages))
    return TransposeSong(raised).apply(song)[0] if raised else song


def _chords_csv(data: bytes, title: str) -> SongState:
    from valley.formats.chords_csv import parse_chords_csv

    return SongState(mark_repeats(parse_chords_csv(_decode(data), title=title)))


def _lab(data: bytes, title: str) -> SongState:
    from valley.formats.labels import parse_lab

    return SongState(mark_repeats(parse_lab(_decode(data), title=title)))


def _json(data: bytes, title: str) -> SongState:
    """Our own documents: a chart, a hearing, a whole song."""
    from valley.charting.from_hearing import make_chart
    from valley.formats import chart_json, hearing_json, lesson_json, song_json
    from valley.formats._codec import parse_json

    document = parse_json(_decode(data))
    kind = document.get("format") if isinstance(document, dict) else None
    readers: dict[object, Callable[[Any], SongState]] = {
        chart_json.CHART_FORMAT: lambda d: SongState(chart_json.read_chart(d)),
        hearing_json.FORMAT: lambda d: SongState(make_chart(hearing_json.read_hearing(d), title)),
        lesson_json.FORMAT: lambda d: lesson_json.read_lesson(d).song,
        song_json.FORMAT: song_json.read_song,
    }
    if kind not in readers:
        raise FormatError(f"it says format={kind!r}; {', '.join(repr(k) for k in readers)} are read")
    return readers[kind](document)


READERS: tuple[Reader, ...] = (
    Reader((".musicxml", ".xml", ".mxl"), "MusicXML", _of_score(_musicxml), _musicxml),
    Reader((".mid", ".midi"), "MIDI", _of_score(_midi), _midi),
    Reader((".txt", ".text", ".chart", ".chords", ".md"), "a chord chart as text", _chord_chart),
    Reader((".csv",), "chords as a table", _chords_csv),
    Reader((".lab",), "chord labels with times", _lab),
    Reader((".json",), "Valley's own documents", _json),
)
ENDINGS: tuple[str, ...] = tuple(ending for reader in READERS for ending in reader.endings)
SCORE_ENDINGS: tuple[str, ...] = tuple(ending for reader in READERS if reader.score for ending in reader.endings)
_BY_ENDING = {ending: reader for reader in READERS for ending in reader.endings}


def is_notes(name: str) -> bool:
    """Whether a file is read rather than listened to, by its name.

    >>> is_notes("song.MusicXML"), is_notes("song.chords"), is_notes("song.mp3")
    (True, True, False)
    """
    return Path(name).suffix.lower() in _BY_ENDING


def holds_notes(file: Path) -> bool:
    """The same for a file that is at hand: a text without an ending is a chord chart."""
    return is_notes(file.name) or (file.suffix == "" and _is_text(file))


def _is_text(file: Path) -> bool:
    with file.open("rb") as handle:
        head = handle.read(_LOOKED_AT)
    if b"\0" in head or not head:
        return False
    try:
        head.decode("utf-8")
    except UnicodeDecodeError as error:
        return error.start > len(head) - 4  # a letter cut by the end of what was read
    return True


MOST_BARS, MOST_CHORDS, MOST_NOTES = 2_000, 8_000, 20_000  # of a song that is read from a file; longer ones are several


def _require_bounds(song: SongState) -> None:
    """No file makes a song that the pages and the lesson could not carry."""
    chart = song.chart
    written = sum(len(p.notes) for p in song.choices.passages)
    rows = (("bars", chart.grid.bars, MOST_BARS), ("chords", len(chart.chords), MOST_CHORDS), ("notes of the tune", len(chart.melody), MOST_NOTES))
    for what, count, most in (*rows, ("notes of the hands", written, 2 * MOST_NOTES), ("parts", len(chart.parts), MOST_BARS // 2)):
        if count > most:
            raise FormatError(f"it holds {count} {what}; a song has {most} at most, a longer one is read in several files")


_DAMAGE = (ArithmeticError, AttributeError, LookupError, MemoryError, RecursionError, TypeError, ValueError)


def read_any_song(data: bytes, name: str) -> SongState:
    """The song in a file that is not a recording: its chart, and what else was chosen where it says so.

    Raises
    ------
    FormatError
        naming the file's fault and the place in it
    """
    ending = Path(name).suffix.lower()
    reader = _BY_ENDING.get(ending, _BY_ENDING[".txt"])
    if ending in ("", ".txt") and data.lstrip(b"\xef\xbb\xbf \t\r\n").startswith(b"{"):
        reader = _BY_ENDING[".json"]
    try:
        song = reader.read(data, title_of(Path(name)))
        _require_bounds(song)
        return song
    except (FormatError, ParameterError) as error:
        raise FormatError(f"{name!r} cannot be read: {error}") from error
    except _DAMAGE as error:  # whatever a damaged file provokes in a reader is the file's fault, and is said as that
        raise FormatError(f"{name!r} cannot be read: it is damaged ({type(error).__name__})") from error


def read_any_score(data: bytes, name: str) -> Score:
    """The notes of a MusicXML or MIDI file, as they are in it.

    Raises
    ------
    FormatError
        the file is of another kind, or damaged
    """
    reader = _BY_ENDING.get(Path(name).suffix.lower())
    if reader is None or reader.score is None:
        raise FormatError(f"{name!r} holds no performance; a MIDI file (.mid) or MusicXML is wanted")
    return reader.score(data, title_of(Path(name)))
