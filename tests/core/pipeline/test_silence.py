"""Silence is music: a part without chords is taught by its tune or as rest, and every hand-out is made of it.

It made arrangement, lesson, checks, score and every hand-out end with a traceback.
"""

from __future__ import annotations

from pathlib import Path

import pytest

from tests.charts import chart_of, make_work
from valley.arranging.styles import STYLES
from valley.checking import ERROR, check_song
from valley.model.choices import Choices
from valley.phrases import Words
from valley.pipeline.cli import main
from valley.pipeline.handouts import each_file
from valley.song.work import Work

TUNE = [(float(i), 1.0, 65 + i % 5) for i in range(16)]


def song(style: str = "root-and-chord", *, sung: bool, chords: list[str] | None = None) -> Work:
    chart = chart_of(chords or ["N"] * 4 + ["F", "C/E", "Dm", "Bb"], key=("F", "major"), tune=TUNE if sung else (), parts=[(1, 4, None), (5, 4, None)])
    return make_work(chart, Choices(style=style))


@pytest.mark.parametrize("sung", [True, False], ids=["with a tune", "without"])
@pytest.mark.parametrize("style", STYLES)
def test_a_part_without_chords_is_arranged_taught_and_checked(style: str, sung: bool) -> None:
    work = song(style, sung=sung)
    assert [p.part for p in work.arrangement.parts] == [1, 2]
    assert {s.part for s in work.lesson.steps} >= {1, 2}
    assert not [f for f in check_song(work) if f.severity == ERROR]


def test_a_silent_part_with_a_tune_is_taught_by_it_and_one_without_as_rest() -> None:
    for sung, word in ((True, "the tune is alone"), (False, "rest, and count")):
        work = song(sung=sung)
        words = Words(work.lesson.schools)
        lines = [line for step in work.lesson.steps if step.part == 1 for line in words.lines(step)]
        assert any(word in line for line in lines), lines


@pytest.mark.parametrize("chords", [["N"] * 4 + ["F", "C/E", "Dm", "Bb"], ["N"] * 8], ids=["one part", "the whole song"])
@pytest.mark.parametrize("sung", [True, False], ids=["with a tune", "without"])
def test_every_hand_out_is_made_of_silence(chords: list[str], sung: bool) -> None:
    files = dict(each_file(song(sung=sung, chords=chords)))
    assert files["score.musicxml"].startswith(b"<?xml")
    assert files["lesson.pdf"].startswith(b"%PDF")
    assert all(data for name, data in files.items() if name.endswith((".mid", ".svg", ".zip", ".json", ".txt")))


def test_the_command_line_goes_through_with_it(tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    text = tmp_path / "quiet_mill.chords"
    text.write_text("key: G major\n[Opening]\n| N | N | N | N |\n[Verse]\n| G | Em | C | D |\n", "utf-8")
    for command in (["chart"], ["parts"], ["arrange"], ["lesson", "--to", str(tmp_path / "out")], ["export", "--format", "musicxml"]):
        name, *more = command
        out = ["--out", str(tmp_path / "score.musicxml")] if name == "export" else []
        assert main([name, str(text), *more, *out]) == 0, capsys.readouterr().err
