"""Damaged files by the hundred: each is refused in a sentence, or makes a song that everything can be made of, in little time.

``make fuzz`` tries thousands; the usual run a slice of them, the same every time.
"""

import os
import time

import pytest

from tests.damage import damaged
from valley.checking import check_song
from valley.errors import FormatError, ValleyError
from valley.formats.midi import dump_midi
from valley.formats.song_json import dump_song
from valley.pipeline.readers import read_any_song
from valley.song import Work

FILES = int(os.environ.get("VALLEY_FUZZ_FILES", "210"))
PER_TEST = 30
_LONGEST = 10.0  # seconds of its own work that a file may take the server, however busy the machine is


def try_file(seed: int) -> str:
    """What became of a damaged file; anything but a sentence or a whole song fails."""
    name, data = damaged(seed)
    began = time.process_time()
    try:
        song = read_any_song(data, name)
    except FormatError as error:
        assert str(error).startswith(f"{name!r} cannot be read: ") and "\n" not in str(error), error
        return "refused"
    dump_song(song)
    work = Work(song)
    try:
        dump_midi(work.chart, work.arrangement)
        check_song(work)
    except ValleyError as error:  # a song that no hand can play, told as such
        assert str(error)
    assert time.process_time() - began < _LONGEST, f"{name}, seed {seed}, took too long"
    return "read"


@pytest.mark.parametrize("first", range(0, FILES, PER_TEST))
def test_a_damaged_file_is_told_or_whole(first: int) -> None:
    for seed in range(first, min(first + PER_TEST, FILES)):
        try:
            try_file(seed)
        except Exception as error:
            raise AssertionError(f"seed {seed}, {damaged(seed)[0]}: {error!r}") from error
