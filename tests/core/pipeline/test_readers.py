"""One table of what is read: by ending, by what stands in the file, and with the place where it breaks."""

from __future__ import annotations

import json
from pathlib import Path

import pytest

from tests.charts import chart_of, make_work
from valley.errors import FormatError
from valley.formats.chart_json import dump_chart
from valley.formats.song_json import dump_song
from valley.model.choices import Choices
from valley.pipeline.charts import load_chart, load_song
from valley.pipeline.handouts import each_file
from valley.pipeline.readers import ENDINGS, READERS, SCORE_ENDINGS, holds_notes, is_notes, read_any_score, read_any_song, title_of
from valley.song import SongState

WORK = make_work(chart_of(["F", "C/E", "Dm", "Bb"] * 2, key=("F", "major"), parts=[(1, 4, None), (5, 4, 1)]), Choices(style="octaves"))
TEXT = "key: F major\n[Verse]\n| F | C/E | Dm | Bb |\n"


@pytest.fixture(scope="module")
def files() -> dict[str, bytes]:
    return dict(each_file(WORK))


def chords(song: SongState) -> list[str]:
    return [c.chord.to_symbol() if c.chord else "N" for c in song.chart.chords]


def test_no_ending_is_read_twice_and_every_reader_says_what_it_reads() -> None:
    assert len(set(ENDINGS)) == len(ENDINGS)
    assert all(ending.startswith(".") and ending == ending.lower() for ending in ENDINGS)
    assert all(reader.title for reader in READERS)
    assert set(SCORE_ENDINGS) == {".musicxml", ".xml", ".mxl", ".mid", ".midi"}


@pytest.mark.parametrize("name", ["score.musicxml", "hands.mid", "chords.txt", "chords.csv", "chart.json", "lesson.json"])
def test_what_is_handed_out_is_read_by_its_ending(files: dict[str, bytes], name: str) -> None:
    assert chords(read_any_song(files[name], name))[:4] == ["F", "C/E", "Dm", "Bb"]
    assert read_any_song(files[name], name.upper()).chart.grid.bars == 8


@pytest.mark.parametrize("ending", [".txt", ".text", ".chart", ".chords", ".md"])
def test_a_chord_chart_is_one_whatever_its_text_is_called(ending: str) -> None:
    assert chords(read_any_song(TEXT.encode(), f"quiet_mill{ending}")) == ["F", "C/E", "Dm", "Bb"]
    assert is_notes(f"Quiet Mill{ending.upper()}")


def test_a_text_without_an_ending_is_a_chord_chart_and_a_recording_is_none(tmp_path: Path) -> None:
    text, sound, empty = tmp_path / "song", tmp_path / "take", tmp_path / "nothing"
    text.write_text(TEXT)
    sound.write_bytes(b"\x00\x01RIFF" * 900)
    empty.write_bytes(b"")
    assert holds_notes(text)
    assert not holds_notes(sound)
    assert not holds_notes(empty)
    assert chords(load_song(text)) == ["F", "C/E", "Dm", "Bb"]


def test_a_letter_cut_by_the_end_of_what_is_looked_at_is_still_text(tmp_path: Path) -> None:
    file = tmp_path / "song"
    file.write_bytes(("x" * 4095 + "é" + "x" * 100).encode())
    assert holds_notes(file)


def test_marks_before_the_text_and_our_documents_under_another_name() -> None:
    assert chords(read_any_song(b"\xef\xbb\xbf" + TEXT.encode(), "a.txt")) == ["F", "C/E", "Dm", "Bb"]
    chart = json.dumps(dump_chart(WORK.chart)).encode()
    for name in ("a.txt", "a", "a.json"):
        assert read_any_song(b"  \n" + chart, name).chart.chords == WORK.chart.chords


def test_a_whole_song_comes_with_all_that_was_chosen() -> None:
    song = read_any_song(json.dumps(dump_song(WORK.song)).encode(), "song.json")
    assert song == WORK.song
    assert song.choices.style == "octaves"


@pytest.mark.parametrize(
    ("data", "name", "words"),
    [
        (b"\xff\xfe\x00", "a.txt", "not text in UTF-8"),
        (b"{", "a.json", "'a.json' cannot be read"),
        (b"[1, 2]", "a.json", "format=None"),
        (b'{"format": "valley-dream"}', "a.json", "format='valley-dream'"),
        (b'{"format": "valley-chart", "version": 99}', "a.json", "99"),
        (b'{"format": "valley-song", "version": 1}', "a.json", "chart is missing"),
        (b"no music", "a.mid", "the MIDI file cannot be read"),
        (b"<score", "a.musicxml", "the file is no MusicXML"),
        (b"<?xml version='1.0'?><score-partwise><part-list>", "a.musicxml", "the MusicXML cannot be read"),
        (b"", "a.csv", "'a.csv' cannot be read"),
        (b"words without bars", "a.chords", "line 1"),
    ],
)
def test_what_cannot_be_read_is_refused_with_the_reason(data: bytes, name: str, words: str) -> None:
    with pytest.raises(FormatError, match="cannot be read") as error:
        read_any_song(data, name)
    assert words in str(error.value)


def test_a_broken_rule_is_told_with_its_place() -> None:
    broken = dump_chart(WORK.chart)
    for path, value in (("chord", "C:wild"), ("duration", "-4")):
        spoiled = json.loads(json.dumps(broken))
        spoiled["chords"][1][path] = value
        with pytest.raises(FormatError, match=r"chords\.1") as error:
            read_any_song(json.dumps(spoiled).encode(), "chart.json")
        assert value.lstrip("-") in str(error.value)


def test_only_notes_are_a_performance(files: dict[str, bytes]) -> None:
    assert read_any_score(files["hands.mid"], "mine.mid").notes
    for name in ("mine.txt", "mine.mp3", "mine"):
        with pytest.raises(FormatError, match="holds no performance"):
            read_any_score(b"x", name)


def test_titles_and_charts_from_files(tmp_path: Path) -> None:
    file = tmp_path / "two_old_mills.chords"
    file.write_text(TEXT)
    assert title_of(file) == "two old mills"
    assert load_chart(file).title == "two old mills"
