"""Long files of notes are read in a process of their own: the same song, the same faults, and bounds that hold."""

import random
import zipfile
from io import BytesIO

import pytest

from tests.charts import chart_of
from tests.dice import Dice
from tests.songs import throw_song
from tests.web.conftest import PageClient
from valley.errors import FormatError
from valley.formats.midi import dump_midi
from valley.formats.musicxml import dump_musicxml
from valley.pipeline.readers import read_any_score, read_any_song
from valley.song import SongState, Work
from valley_web.songs import reading

WORK = Work(SongState(chart_of(["C", "Am7", "F", "G7"] * 4, tune=[(0, 2, 72), (4, 4, 69), (8, 2, 77)])))
SCORE = dump_musicxml(WORK.chart, WORK.arrangement)
MIDI = dump_midi(WORK.chart, WORK.arrangement)


def test_a_long_score_is_the_same_song_and_the_same_notes_read_apart(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(reading, "SHORT", 0)
    for name, data in (("long.musicxml", SCORE), ("long.mid", MIDI)):
        assert reading.read_song_file(data, name) == read_any_song(data, name)
        assert reading.read_performance(data, name) == read_any_score(data, name)
    packed = BytesIO()
    with zipfile.ZipFile(packed, "w", zipfile.ZIP_DEFLATED) as archive:
        archive.writestr("score.xml", SCORE)
    assert reading.read_song_file(packed.getvalue(), "long.mxl") == read_any_song(packed.getvalue(), "long.mxl")


def test_hands_words_and_settings_come_through_as_they_are(monkeypatch: pytest.MonkeyPatch) -> None:
    from valley.formats.song_json import write_song

    monkeypatch.setattr(reading, "SHORT", 0)
    song = throw_song(Dice(random.Random(5)))
    assert reading.read_song_file(write_song(song).encode(), "song.json") == song


def test_what_is_small_only_while_it_is_packed_is_read_apart(monkeypatch: pytest.MonkeyPatch) -> None:
    asked = []
    monkeypatch.setattr(reading, "_read_apart", lambda what, data, name: asked.append(what) or {})
    monkeypatch.setattr(reading, "read_song", lambda document: document)
    packed = BytesIO()
    with zipfile.ZipFile(packed, "w", zipfile.ZIP_DEFLATED) as archive:
        archive.writestr("score.xml", SCORE + b" " * reading.SHORT)
    assert len(packed.getvalue()) < reading.SHORT
    reading.read_song_file(packed.getvalue(), "small.mxl")
    assert asked == ["song"]
    assert reading.read_song_file(b"| C | F |\n| G | C |\n", "short.txt")
    assert asked == ["song"]


def test_faults_are_told_in_the_same_sentence(monkeypatch: pytest.MonkeyPatch) -> None:
    damaged = SCORE[: len(SCORE) // 2]
    with pytest.raises(FormatError) as here:
        read_any_song(damaged, "half.musicxml")
    monkeypatch.setattr(reading, "SHORT", 0)
    with pytest.raises(FormatError) as apart:
        reading.read_song_file(damaged, "half.musicxml")
    assert str(apart.value) == str(here.value)
    with pytest.raises(FormatError, match="no performance"):
        reading.read_performance(b"| C |", "chart.txt")


def test_what_takes_too_long_is_stopped_and_told(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(reading, "_PATIENCE", 0.1)
    monkeypatch.setattr(reading, "_child", lambda *_: ["sleep", "20"])
    with pytest.raises(FormatError, match="read in several files"):
        reading._read_apart("song", SCORE, "endless.musicxml", seconds=1)


def test_a_long_file_becomes_a_song_through_the_page(site: PageClient) -> None:
    bars = "\n".join("| C | Am7 | F | G7 | Dm | Em | Bb | A7 |" for _ in range(240))
    text = f"title: Long Way\n\n[All]\n{bars}\n".encode() + b"\n" * reading.SHORT
    made = site.upload("long_way.txt", text).json()
    assert (made["title"], made["bars"]) == ("Long Way", 1920)
