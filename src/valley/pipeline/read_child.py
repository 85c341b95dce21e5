"""Reading a file of notes as a process of its own: ``python -m valley.pipeline.read_child song|score NAME SECONDS``, the file on standard input.

Writes the song, or the notes as they are played, as JSON to standard output. Exit status 2 with one sentence on standard error means that the
file is at fault. Where the system has such bounds, the process takes no more than ``SECONDS`` of computing and two gigabytes.
"""

from __future__ import annotations

import gc
import sys
from collections.abc import Sequence

from valley.errors import ValleyError
from valley.formats.score_json import write_score
from valley.formats.song_json import write_song
from valley.pipeline.cli import BAD_INPUT
from valley.pipeline.readers import read_any_score, read_any_song

_MOST_MEMORY = 2 * 2**30


def bound(seconds: int) -> None:
    """The system's own bounds; nothing where it has none."""
    try:
        import resource
    except ImportError:  # not on every system
        return
    resource.setrlimit(resource.RLIMIT_AS, (_MOST_MEMORY, _MOST_MEMORY))
    resource.setrlimit(resource.RLIMIT_CPU, (seconds, seconds))


def main(argv: Sequence[str]) -> int:
    what, name, seconds = argv
    bound(int(seconds))
    gc.set_threshold(50_000, 20, 50)  # a score is many small objects, all of which are needed to the end
    data = sys.stdin.buffer.read()
    try:
        sys.stdout.write(write_song(read_any_song(data, name)) if what == "song" else write_score(read_any_score(data, name)))
    except ValleyError as error:
        sys.stderr.write(f"{error}\n")
        return BAD_INPUT
    return 0


if __name__ == "__main__":
    sys.exit(main(sys.argv[1:]))
