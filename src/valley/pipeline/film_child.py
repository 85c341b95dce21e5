"""A film as a process of its own: ``python -m valley.pipeline.film_child FOLDER STRETCHES``.

FOLDER holds song.json, film.json and, of songs that were heard, hearing.json; the film is written into it. What is done of it lies in the folder
STRETCHES, so that another try goes on from there. Progress and errors are told as by
``valley.pipeline.child``.
"""

from __future__ import annotations

import json
import sys
from collections.abc import Sequence
from pathlib import Path

from valley.errors import ValleyError
from valley.formats._codec import from_plain
from valley.formats.hearing_json import read_hearing
from valley.formats.song_json import read_song
from valley.pipeline.child import say_words
from valley.pipeline.cli import BAD_INPUT
from valley.pipeline.film import Film, save_film
from valley.song.work import Work


def main(argv: Sequence[str]) -> int:
    folder, stretches = Path(argv[0]), Path(argv[1])
    try:
        heard = folder / "hearing.json"
        hearing = read_hearing(json.loads(heard.read_text("utf-8"))) if heard.exists() else None
        work = Work(read_song(json.loads((folder / "song.json").read_text("utf-8"))), hearing)
        film = from_plain(json.loads((folder / "film.json").read_text("utf-8")), Film, "film")
        seconds = save_film(work, film, folder / "film", lambda words, share: say_words("film", words, share), stretches=stretches)
    except ValleyError as error:
        sys.stderr.write(f"{error}\n")
        return BAD_INPUT
    (folder / "made.json").write_text(json.dumps({"seconds": seconds}), "utf-8")
    return 0


if __name__ == "__main__":
    sys.exit(main(sys.argv[1:]))
