"""What viewers get, measured on a made-up song of about three minutes: practice tracks, films, the page, and where every note of a track begins.

.venv/bin/python bench/viewers.py [--seconds 180] [--films]
"""

from __future__ import annotations

import argparse
import statistics
import sys
import tempfile
import time
from dataclasses import replace
from pathlib import Path

import numpy as np

ROOT = Path(__file__).parent.parent
sys.path[:0] = [str(ROOT / "src"), str(ROOT)]

from bench.browser import make_document
from valley.audio.packing import KINDS
from valley.audio.piano import RATE
from valley.formats.chart_json import read_chart
from valley.model.arrangement import Arrangement, PlayedNote
from valley.model.chart import Chart
from valley.model.choices import Choices
from valley.pipeline.film import Film, save_film
from valley.pipeline.practice import Track, dump_track, render_track
from valley.pipeline.viewers import dump_viewers_page
from valley.song import SongState, Work

_FILMS = (("webm", "1080p", 30), ("webm", "1080p", 60), ("webm", "upright", 30), ("mov", "1080p", 30), ("mp4", "1080p", 30), ("mp4", "720p", 30))
_HEARD = 0.02  # of a note's peak: from here on it is heard


def song_of(seconds: float) -> Work:
    """A made-up song of 72 bars, two chords a bar and a tune in quarters, its beats set so that it lasts so long."""
    chart = read_chart(make_document(72))
    beat = seconds / len(chart.grid.beats)
    timed = replace(chart.grid, beats=tuple(round(0.25 + i * beat, 4) for i in range(len(chart.grid.beats))))
    return Work(SongState(replace(chart, grid=timed, bpm=60 / beat), Choices(pattern="broken")))


def find_onsets(chart: Chart, arrangement: Arrangement) -> list[float]:
    """By how many seconds each note of a track begins off its place: every note is rendered by itself, at its place in the whole track."""
    track = Track("both", speed=0.7, count_in=False)
    begins = chart.grid.seconds(chart.span(chart.parts[0])[0])
    off: list[float] = []
    for note in (n for p in arrangement.parts for n in p.notes if not n.grace):
        level = np.abs(render_track(chart, _only(arrangement, note), track)).max(0)
        heard = float(np.argmax(level > _HEARD * level.max())) / RATE
        off.append(heard - (chart.grid.seconds(note.start) - begins) / track.speed)
    return off


def _only(arrangement: Arrangement, note: PlayedNote) -> Arrangement:
    """The arrangement with one note left."""
    return replace(arrangement, parts=tuple(replace(p, notes=tuple(n for n in p.notes if n is note)) for p in arrangement.parts))


def main() -> None:
    parser = argparse.ArgumentParser(description=__doc__, formatter_class=argparse.RawDescriptionHelpFormatter)
    parser.add_argument("--seconds", type=float, default=180.0)
    parser.add_argument("--films", action="store_true", help="films as well; takes minutes")
    asked = parser.parse_args()
    work = song_of(asked.seconds)
    length = work.chart.grid.seconds(work.chart.span(work.chart.parts[-1])[1])
    print(f"a song of {length:.0f} s, {len(work.chart.parts)} parts, {sum(len(p.notes) for p in work.arrangement.parts)} notes")
    for kind in KINDS:
        began = time.perf_counter()
        size = len(dump_track(work.chart, work.arrangement, Track(kind=kind)))
        print(f"track as {kind:5} made in {time.perf_counter() - began:5.1f} s, {size / 1e6:5.1f} MB")
    began = time.perf_counter()
    page = dump_viewers_page(work)
    print(f"page for viewers  made in {time.perf_counter() - began:5.1f} s, {len(page) / 1e6:5.1f} MB")
    part = replace(work.arrangement, parts=work.arrangement.parts[:1])
    off = [1000 * abs(x) for x in find_onsets(work.chart, part)]
    print(f"{len(off)} notes begin off their places by {statistics.mean(off):.2f} ms on average, {max(off):.2f} ms at most")
    if not asked.films:
        return
    with tempfile.TemporaryDirectory() as folder:
        for kind, shape, rate in _FILMS:
            film = Film(kind=kind, shape=shape, rate=rate)
            path = Path(folder) / film.name
            began = time.perf_counter()
            lasts = save_film(work, film, path)
            took, heavy = time.perf_counter() - began, path.stat().st_size / 1e6
            print(f"film {kind:4} {shape:7} {rate} a second: {lasts:5.0f} s in {took:5.0f} s, {lasts / took:4.1f} times real time, {heavy:6.1f} MB")


if __name__ == "__main__":
    main()
