"""Listening as a process of its own: ``python -m valley.pipeline.child SOURCE NAME FOLDER MAX_SECONDS``.

Writes hearing.json, loudness.json and evidence.npz into FOLDER and one JSON line of progress after another to standard
output. Exit status 2 with one sentence on standard error means that the file is at fault.
"""

from __future__ import annotations

import json
import sys
from collections.abc import Sequence
from pathlib import Path

from valley.audio.decode import Sound, load_sound
from valley.audio.onsets import compute_loudness
from valley.errors import ValleyError
from valley.formats.hearing_json import save_hearing
from valley.listening.evidence import dump_evidence
from valley.pipeline.cli import BAD_INPUT
from valley.pipeline.listen import hear_loaded
from valley.pipeline.progress import Progress, Reporter

LOUDNESS_RATE = 20.0  # points a second


def say(progress: Progress) -> None:
    """One line for the parent; if nobody reads any more, end here."""
    say_words(progress.stage, progress.words, progress.fraction, progress.found)


def say_words(stage: str, words: str, fraction: float, found: str = "") -> None:
    """The line itself: what is done, in words, the share of the whole, and what was found."""
    message = {"stage": stage, "words": words, "fraction": round(fraction, 4), "found": found}
    sys.stdout.write(json.dumps(message) + "\n")
    sys.stdout.flush()


def main(argv: Sequence[str]) -> int:
    source, name, folder, max_seconds = argv
    report = Reporter(say)
    loudness: list[float] = []

    def load() -> Sound:
        report.tell("decode")
        sound = load_sound(source, max_seconds=float(max_seconds), shown_name=name, on_progress=lambda share: report.tell("decode", share))
        report.tell("decode", 1.0, sound.warning)
        loudness.extend(round(float(x), 3) for x in compute_loudness(sound.y, sound.sr, points_per_second=LOUDNESS_RATE))
        return sound

    try:
        hearing, evidence = hear_loaded(load, report)
    except ValleyError as error:
        sys.stderr.write(f"{error}\n")
        return BAD_INPUT
    (Path(folder) / "loudness.json").write_text(json.dumps(loudness), "utf-8")
    (Path(folder) / "evidence.npz").write_bytes(dump_evidence(evidence))
    save_hearing(hearing, Path(folder) / "hearing.json")
    return 0


if __name__ == "__main__":
    sys.exit(main(sys.argv[1:]))
