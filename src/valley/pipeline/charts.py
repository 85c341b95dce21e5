"""A song from whatever holds one: a recording, which is listened to, or a file that is read."""

from __future__ import annotations

from pathlib import Path

from valley.model.chart import Chart
from valley.pipeline import MAX_MINUTES
from valley.pipeline.progress import Listener
from valley.pipeline.readers import holds_notes, read_any_song, title_of
from valley.song.state import SongState
from valley.song.work import Work


def load_song(path: str | Path) -> SongState:
    """The song in a file that is not a recording.

    Raises
    ------
    FormatError
        naming the file's fault and the place in it
    """
    file = Path(path)
    return read_any_song(file.read_bytes(), file.name)


def load_work(path: str | Path, *, max_minutes: float = MAX_MINUTES, listener: Listener | None = None, title: str = "") -> Work:
    """The work of any file that has a song in it; a recording is listened to first, and a hearing is kept with what it charts."""
    file = Path(path)
    if holds_notes(file):
        from valley.formats.hearing_json import find_hearing

        return Work(load_song(file), find_hearing(file))
    from valley.charting.from_hearing import make_chart
    from valley.pipeline.listen import listen

    more = {"listener": listener} if listener else {}
    hearing = listen(file, max_seconds=max_minutes * 60, **more)
    return Work(SongState(make_chart(hearing, title or title_of(file))), hearing)


def load_chart(path: str | Path, *, max_minutes: float = MAX_MINUTES, listener: Listener | None = None) -> Chart:
    """The chart of any file that has one in it."""
    return load_work(path, max_minutes=max_minutes, listener=listener).chart
