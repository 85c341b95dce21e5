"""Everything that is handed out of a song: one row a file. A new one is a writer in ``formats/`` and a row in ``HANDOUTS``."""

from __future__ import annotations

import hashlib
import io
import json
import re
import zipfile
from collections.abc import Callable, Collection, Iterator
from dataclasses import dataclass
from functools import lru_cache
from pathlib import Path
from typing import IO, cast

from valley.errors import ParameterError
from valley.formats._codec import save_bytes
from valley.formats.arrangement_json import dump_arrangement
from valley.formats.board_pdf import dump_board_pdf, dump_stand_pdf
from valley.formats.captions import dump_chapters, dump_srt, dump_vtt
from valley.formats.chart_json import dump_chart
from valley.formats.chord_chart import dump_chord_chart
from valley.formats.chords_csv import dump_chords_csv
from valley.formats.engraving import dump_pngs, dump_score_pdf
from valley.formats.hearing_json import dump_hearing
from valley.formats.keyboard_svg import dump_keyboard_svg, picture_range
from valley.formats.labels import dump_jams, dump_lab
from valley.formats.lesson_json import Document, dump_lesson
from valley.formats.lesson_pdf import dump_lesson_pdf
from valley.formats.lesson_text import dump_lesson_text
from valley.formats.midi import dump_midi
from valley.formats.musicxml import dump_musicxml
from valley.formats.shot_list import dump_shots_csv, dump_shots_pdf
from valley.formats.stills import draw_stills
from valley.model.arrangement import Grip
from valley.pipeline.viewers import dump_viewers_page
from valley.song.work import Work


@lru_cache(maxsize=4)
def _musicxml(work: Work) -> bytes:
    return dump_musicxml(work.chart, work.arrangement)


@lru_cache(maxsize=4)
def _printed(work: Work) -> bytes:
    """The score as it is engraved."""
    return dump_musicxml(work.chart, work.arrangement, to_print=True)


def document_of(work: Work) -> Document:
    return Document(work.song, work.arrangement, work.lesson)


@dataclass(frozen=True)
class Handout:
    """A file that can be made of a song. ``kind`` groups it: read, play, show, keep."""

    name: str
    title: str
    summary: str
    content_type: str
    kind: str
    make: Callable[[Work], bytes]


def _json(data: object) -> bytes:
    return (json.dumps(data, ensure_ascii=False, indent=1) + "\n").encode()


def _hearing(work: Work) -> bytes:
    if work.hearing is None:
        raise ParameterError("this song has not been listened to; there is no hearing to hand out")
    return _json(dump_hearing(work.hearing))


def _lesson_json(work: Work) -> bytes:
    return _json(dump_lesson(document_of(work)))


def _duration(work: Work) -> float:
    grid = work.chart.grid
    return work.hearing.duration if work.hearing else round(2 * grid.beats[-1] - grid.beats[-2], 3)


def _all_grips(work: Work) -> list[tuple[str, Grip]]:
    """Every grip with a file name that tells part, bar and chord."""
    rows = []
    for part in work.arrangement.parts:
        for i, grip in enumerate(part.grips, 1):
            bar = max(1, work.chart.grid.place(grip.start)[0])
            symbol = re.sub(r"[^A-Za-z0-9]+", "-", grip.symbol.replace("#", "s")).strip("-")
            rows.append((f"part{part.part}-{i:02d}-bar{bar:03d}-{symbol}", grip))
    return rows


def _pack(files: dict[str, bytes]) -> bytes:
    """A zip whose bytes depend on nothing but its files."""
    buffer = io.BytesIO()
    with zipfile.ZipFile(buffer, "w", zipfile.ZIP_DEFLATED) as archive:
        for name, content in files.items():
            _put(archive, name, content)
    return buffer.getvalue()


def _put(archive: zipfile.ZipFile, name: str, content: bytes) -> None:
    """A file of no date; what is packed already is not packed again."""
    info = zipfile.ZipInfo(name, (2020, 1, 1, 0, 0, 0))
    info.compress_type = zipfile.ZIP_STORED if name.endswith((".zip", ".png", ".pdf")) else zipfile.ZIP_DEFLATED
    info.external_attr = 0o644 << 16
    archive.writestr(info, content)


def _keyboards(work: Work) -> bytes:
    """Every grip as SVG and PNG, all on one stretch of keys."""
    rows = _all_grips(work)
    low, high = picture_range([g for _, g in rows])
    svgs = {name: dump_keyboard_svg(g, low=low, high=high) for name, g in rows}
    pngs = dump_pngs(list(svgs.values()))
    files = {f"svg/{name}.svg": svg.encode() for name, svg in svgs.items()}
    return _pack(files | {f"png/{name}.png": png for name, png in zip(svgs, pngs, strict=True)})


def make_stills(work: Work, shape: str = "1080p") -> bytes:
    """Cards to cut into a film, each as SVG and PNG, of one size."""
    cards = draw_stills(work, shape)
    pngs = dump_pngs([c.svg for c in cards], ppi=96.0)
    files = {f"svg/{c.name}.svg": c.svg.encode() for c in cards}
    return _pack(files | {f"png/{c.name}.png": png for c, png in zip(cards, pngs, strict=True)})


def make_frames(work: Work, part: int) -> bytes:
    """Transparent PNG frames for a video of one part, one a grip, with the time at which each begins."""
    arranged = work.arrangement.of_part(part)
    low, high = picture_range(arranged.grips)
    svgs = [dump_keyboard_svg(g, low=low, high=high, transparent=True) for g in arranged.grips]
    grid = work.chart.grid
    files = {f"frame{i:04d}.png": png for i, png in enumerate(dump_pngs(svgs), 1)}
    times = [
        {"file": name, "start_seconds": round(grid.seconds(g.start), 3), "end_seconds": round(grid.seconds(g.end), 3), "chord": g.symbol}
        for name, g in zip(files, arranged.grips, strict=True)
    ]
    return _pack(files | {"frames.json": _json({"part": part, "frames": times})})


def _frames(work: Work) -> bytes:
    return make_frames(work, work.chart.parts[0].number)


HANDOUTS: tuple[Handout, ...] = (
    Handout(
        "score.pdf",
        "Sheet music",
        "Both staves with chord symbols, and fingers where they change, to print.",
        "application/pdf",
        "read",
        lambda w: dump_score_pdf(_printed(w), w.chart.title),
    ),
    Handout(
        "lesson.pdf",
        "Lesson sheet",
        "Chord pictures, notation and counts, step by step.",
        "application/pdf",
        "read",
        lambda w: dump_lesson_pdf(w.chart, w.arrangement, w.lesson),
    ),
    Handout(
        "board.pdf",
        "Board of grips",
        "A row a chord: left and right, where each hand goes, what makes it easy. To film or to print.",
        "application/pdf",
        "read",
        lambda w: dump_board_pdf(w.chart, w.arrangement, w.song.teaching.schools),
    ),
    Handout(
        "stand.pdf",
        "Page for the music stand",
        "Parts, order of play and each grip once, on one page.",
        "application/pdf",
        "read",
        lambda w: dump_stand_pdf(w.chart, w.arrangement, w.song.teaching.schools),
    ),
    Handout(
        "lesson.txt", "The lesson in words", "Step by step, to read aloud.", "text/plain; charset=utf-8", "read", lambda w: dump_lesson_text(w.lesson).encode()
    ),
    Handout(
        "chords.txt",
        "Chord chart",
        "Bars, parts, chords and notes as plain text.",
        "text/plain; charset=utf-8",
        "read",
        lambda w: dump_chord_chart(w.chart, w.choices.passages).encode(),
    ),
    Handout("score.musicxml", "Notation file", "MusicXML 4, for any notation program.", "application/vnd.recordare.musicxml+xml", "play", _musicxml),
    Handout(
        "hands.mid",
        "MIDI file",
        "A track a hand and the tune, in the recording's own tempo.",
        "audio/midi",
        "play",
        lambda w: dump_midi(w.chart, w.arrangement),
    ),
    Handout(
        "viewers.html",
        "A page for viewers",
        "One file: keys that light up, hands apart, slower, parts repeated, sheet music. Needs no network.",
        "text/html; charset=utf-8",
        "show",
        dump_viewers_page,
    ),
    Handout("keyboards.zip", "Keyboard pictures", "Every grip as SVG and PNG.", "application/zip", "show", _keyboards),
    Handout(
        "stills.zip",
        "Still pictures",
        "Title, scale, chords, counts, grips, what comes next: 1920 × 1080, SVG and PNG.",
        "application/zip",
        "show",
        make_stills,
    ),
    Handout("frames.zip", "Frames for a video", "Transparent pictures of the first part with their times.", "application/zip", "show", _frames),
    Handout("shots.pdf", "Shot list", "What is said and what is shown, from minute to minute, to tick off.", "application/pdf", "show", dump_shots_pdf),
    Handout("shots.csv", "Shot list as a table", "The same, one row a shot.", "text/csv; charset=utf-8", "show", lambda w: dump_shots_csv(w).encode()),
    Handout("captions.vtt", "Captions", "WebVTT, timed to the steps.", "text/vtt; charset=utf-8", "show", lambda w: dump_vtt(w.lesson).encode()),
    Handout(
        "captions.srt", "Captions (SRT)", "The same for other players.", "application/x-subrip; charset=utf-8", "show", lambda w: dump_srt(w.lesson).encode()
    ),
    Handout("chapters.txt", "Chapters", "A time and a title for every step.", "text/plain; charset=utf-8", "show", lambda w: dump_chapters(w.lesson).encode()),
    Handout("chords.csv", "Chords as a table", "One row a chord.", "text/csv; charset=utf-8", "keep", lambda w: dump_chords_csv(w.chart).encode()),
    Handout("chords.lab", "Chord labels", "Start, end and Harte's label.", "text/plain; charset=utf-8", "keep", lambda w: dump_lab(w.chart).encode()),
    Handout(
        "annotation.jams",
        "Annotation",
        "Beats, chords, keys, sections, tune as JAMS.",
        "application/json",
        "keep",
        lambda w: dump_jams(w.chart, duration=_duration(w)).encode(),
    ),
    Handout("lesson.json", "The whole song", "Everything in one file, to read in again.", "application/json", "keep", _lesson_json),
    Handout("chart.json", "The chart", "Bars, keys, chords, melody and parts.", "application/json", "keep", lambda w: _json(dump_chart(w.chart))),
    Handout(
        "arrangement.json",
        "Both hands as data",
        "Every grip with its notes, reach and reason.",
        "application/json",
        "keep",
        lambda w: _json(dump_arrangement(w.arrangement)),
    ),
    Handout("hearing.json", "What was heard", "The listening before any correction.", "application/json", "keep", _hearing),
)


def handout_named(name: str) -> Handout:
    """By file name, or by its ending or stem where only one has it ("musicxml", "chords.csv", "vtt")."""
    found = [h for h in HANDOUTS if h.name == name] or [h for h in HANDOUTS if name in (Path(h.name).suffix[1:], Path(h.name).stem)]
    aliases = {
        "chords": "chords.txt",
        "text": "chords.txt",
        "midi": "hands.mid",
        "lesson": "lesson.json",
        "chart": "chart.json",
        "arrangement": "arrangement.json",
        "pdf": "score.pdf",
        "csv": "chords.csv",
        "json": "lesson.json",
        "txt": "chords.txt",
        "harte": "chords.lab",
    }
    if name in aliases:
        found = [h for h in HANDOUTS if h.name == aliases[name]]
    if len(found) != 1:
        raise ParameterError(f"there is no hand-out {name!r}; choose one of {', '.join(h.name for h in HANDOUTS)}")
    return found[0]


def each_file(work: Work, names: Collection[str] = ()) -> Iterator[tuple[str, bytes]]:
    """Every file with its name as it is made, and at last manifest.json with the size and SHA-256 of each.

    Parameters
    ----------
    work : the song
    names : of the hand-outs that are wanted; all of them where none is named

    Raises
    ------
    ParameterError
        there is no such hand-out
    """
    wanted = [handout_named(n).name for n in names] or [h.name for h in HANDOUTS if h.name != "hearing.json" or work.hearing]
    listed = []
    for handout in HANDOUTS:
        if handout.name in wanted:
            content = handout.make(work)
            listed.append({"name": handout.name, "title": handout.title, "bytes": len(content), "sha256": hashlib.sha256(content).hexdigest()})
            yield handout.name, content
    manifest = {"format": "valley-manifest", "version": 1, "song": work.chart.title, "style": work.choices.style, "level": work.choices.level, "files": listed}
    yield "manifest.json", _json(manifest)


def stream_zip(work: Work, names: Collection[str] = ()) -> Iterator[bytes]:
    """A zip of the files, piece by piece as they are made: none of it waits for the rest, and no more than one file is held."""
    pipe = _Pipe()
    with zipfile.ZipFile(cast(IO[bytes], pipe), "w", zipfile.ZIP_DEFLATED) as archive:
        for name, content in each_file(work, names):
            _put(archive, name, content)
            yield pipe.take()
    yield pipe.take()


class _Pipe:
    """What is written into it, taken out again bit by bit; it cannot be wound back, and zips are written so that they need not be."""

    def __init__(self) -> None:
        self._held = bytearray()

    def write(self, data: bytes) -> int:
        self._held += data
        return len(data)

    def flush(self) -> None:
        """Nothing waits but what is taken."""

    def take(self) -> bytes:
        taken = bytes(self._held)
        self._held.clear()
        return taken


def save_all(work: Work, folder: Path) -> list[Path]:
    """Write every hand-out, each whole or not at all, the manifest last."""
    saved = []
    for name, content in each_file(work):
        save_bytes(content, folder / name)
        saved.append(folder / name)
    return saved
