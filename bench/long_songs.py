"""What a song of many bars costs the server: one correction, the lesson, the checks, a page of sheet music; CPU of this process, medians.

.venv/bin/python bench/long_songs.py [--bars 57 104 304 900] [--times 7]
"""

from __future__ import annotations

import argparse
import json
import os
import resource
import statistics
import sys
import tempfile
import time
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from pathlib import Path
from typing import Any

ROOT = Path(__file__).parent.parent
sys.path[:0] = [str(ROOT / "src"), str(ROOT)]


@contextmanager
def installed() -> Iterator[None]:
    """Valley's server in this process, on a folder of its own."""
    with tempfile.TemporaryDirectory() as folder:
        os.environ["VALLEY_DATA"], os.environ["DJANGO_SETTINGS_MODULE"] = folder, "valley_web.config.settings"
        import django
        from django.core.management import call_command

        django.setup()
        call_command("migrate", verbosity=0)
        yield


def measure(bars: int, times: int) -> None:
    """One row a kind of request: milliseconds of CPU in the median, and the size of the answer."""
    from django.test import Client

    from bench.browser import make_document
    from valley.formats.chart_json import read_chart
    from valley.formats.song_json import dump_song
    from valley.song import SongState
    from valley_web.songs.services import Upload, import_song

    data = json.dumps(dump_song(SongState(read_chart(make_document(bars))))).encode()
    song = import_song(Upload("song.json", len(data), [data]), actor="bench")
    page = Client(SERVER_NAME="localhost")
    path = f"/api/songs/{song.pk}"

    def correct(number: int) -> Any:
        revision = page.get(f"{path}/revision").json()["revision"]
        edit = {"kind": "set_chord", "start": f"{4 * (number % bars)}", "text": ("Am", "F", "Dm7")[number % 3]}
        body = {"revision": revision, "have": revision, "edit": edit}
        return page.post(f"{path}/edits", json.dumps(body), content_type="application/json")

    rows: list[tuple[str, Callable[[int], Any]]] = [
        ("a correction", correct),
        ("the lesson after it", lambda n: page.get(f"{path}/lesson")),
        ("the lesson again", lambda n: page.get(f"{path}/lesson")),
        ("the checks", lambda n: page.get(f"{path}/findings")),
        ("sheet of one part", lambda n: page.get(f"{path}/score?part=1")),
    ]
    took: dict[str, list[float]] = {what: [] for what, _ in rows}
    sizes: dict[str, int] = {}
    for number in range(times + 1):
        for what, call in rows:
            began = time.process_time()
            answer = call(number)
            if answer.status_code >= 400:
                raise SystemExit(f"{what}: {answer.content[:300]!r}")
            if number:  # the first is cold
                took[what].append(1000 * (time.process_time() - began))
            sizes[what] = len(answer.content)
    memory = resource.getrusage(resource.RUSAGE_SELF).ru_maxrss / 1024
    told = "; ".join(f"{what} {statistics.median(t):.0f} ms, {sizes[what] / 1000:.0f} kB" for what, t in took.items())
    print(f"{bars} bars: {told}; {memory:.0f} MB at most so far")


def main() -> None:
    parser = argparse.ArgumentParser(description=__doc__, formatter_class=argparse.RawDescriptionHelpFormatter)
    parser.add_argument("--bars", type=int, nargs="+", default=[57, 104, 304, 900])
    parser.add_argument("--times", type=int, default=7)
    asked = parser.parse_args()
    with installed():
        for bars in asked.bars:
            measure(bars, asked.times)


if __name__ == "__main__":
    main()
