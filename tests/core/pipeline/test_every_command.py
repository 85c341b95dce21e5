"""Every command: it says how it is used, refuses what it cannot read in one sentence, and leaves nothing half written."""

from __future__ import annotations

from pathlib import Path

import pytest

from valley.pipeline.cli import main
from valley.pipeline.commands import COMMANDS

READS = {
    "parts": [],
    "arrange": [],
    "check": [],
    "chart": [],
    "import": [],
    "lesson": ["--to", "out"],
    "export": ["--format", "chords.txt", "--out", "out.txt"],
    "hear": ["--out", "hearing.json"],
}
NAMES = [c.name for c in COMMANDS]


@pytest.mark.parametrize("name", NAMES)
def test_a_command_says_how_it_is_used(name: str, capsys: pytest.CaptureFixture[str]) -> None:
    with pytest.raises(SystemExit) as done:
        main([name, "--help"])
    assert done.value.code == 0
    said = capsys.readouterr().out
    assert said.startswith(f"usage: valley {name}")


def test_the_list_of_commands_tells_what_each_is_for(capsys: pytest.CaptureFixture[str]) -> None:
    with pytest.raises(SystemExit):
        main(["--help"])
    said = capsys.readouterr().out
    for command in COMMANDS:
        assert command.name in said
        assert command.help
    assert len(set(NAMES)) == len(NAMES)


@pytest.mark.parametrize("name", sorted(READS))
def test_a_file_that_is_not_there_is_one_sentence(name: str, tmp_path: Path, monkeypatch: pytest.MonkeyPatch, capsys: pytest.CaptureFixture[str]) -> None:
    monkeypatch.chdir(tmp_path)
    assert main([name, "gone.chords" if name != "hear" else "gone.mp3", *READS[name]]) == 2
    said = capsys.readouterr().err
    assert said.startswith("valley: ") and said.count("\n") == 1
    assert list(tmp_path.iterdir()) == []


@pytest.mark.parametrize("name", sorted(set(READS) - {"hear"}))
def test_a_file_that_makes_no_sense_is_one_sentence(name: str, tmp_path: Path, monkeypatch: pytest.MonkeyPatch, capsys: pytest.CaptureFixture[str]) -> None:
    monkeypatch.chdir(tmp_path)
    (tmp_path / "bad.chords").write_text("[Verse]\n| C | Hx |\n", "utf-8")
    assert main([name, "bad.chords", *READS[name]]) == 2
    said = capsys.readouterr().err
    assert said.startswith("valley: ") and said.count("\n") == 1
    assert "line 2" in said
    assert [p.name for p in tmp_path.iterdir()] == ["bad.chords"]


@pytest.mark.parametrize("name", ["chart", "export", "import"])
def test_a_folder_that_is_not_there_is_said_before_any_work(name: str, tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    text = tmp_path / "mill.chords"
    text.write_text("[Verse]\n| C | F |\n", "utf-8")
    more = ["--format", "chords.txt"] if name == "export" else []
    assert main([name, str(text), *more, "--out", str(tmp_path / "nowhere" / "out.json")]) == 2
    assert "make it first" in capsys.readouterr().err


def test_an_unknown_command_lists_the_known(capsys: pytest.CaptureFixture[str]) -> None:
    with pytest.raises(SystemExit) as done:
        main(["dream"])
    assert done.value.code == 2
    assert "arrange" in capsys.readouterr().err
