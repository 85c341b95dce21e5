"""The command line over charts and names."""

import json
from pathlib import Path

import pytest

from valley.pipeline.cli import main

CHART = "key: F major\n[Verse]\n| F | C/E | Dm | Bb |\n[Refrain]\n| Bb | F | Gm7 | C7 |\n[Verse]\n| F | C/E | Dm | Bbm |\n"


@pytest.fixture
def text(tmp_path: Path) -> Path:
    path = tmp_path / "two_lanterns.txt"
    path.write_text(CHART, "utf-8")
    return path


def test_a_chord_chart_becomes_chart_json_and_its_parts(text: Path, tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    out = tmp_path / "chart.json"
    assert main(["chart", str(text), "--out", str(out)]) == 0
    assert main(["parts", str(out), "--json", str(tmp_path / "parts.json")]) == 0
    listed = json.loads((tmp_path / "parts.json").read_text("utf-8"))
    assert [(p["same_as"], p["occurrences"]) for p in listed["parts"]] == [(None, [1, 3]), (None, [2]), (1, [1, 3])]
    assert listed["parts"][2]["differences"] == ["another ending, bar 12: Bbm instead of Bb"]
    assert (listed["bars_to_learn"], listed["bars_to_play"]) == (9, 12)
    assert main(["parts", str(text)]) == 0
    assert "9 bars to learn, 12 bars to play." in capsys.readouterr().out


@pytest.mark.parametrize(
    ("notes", "key", "harte"),
    [
        ("G2 B2 D3 F3", "E minor", "G:7"),
        ("E G C", "C major", "C:maj/3"),
        ("A2 C3 E3 G3", "C major", "A:min7"),
        ("F#3, A3, C4, E4", "G major", "F#:hdim7"),
    ],
)
def test_names_are_ranked_with_reasons(notes: str, key: str, harte: str, capsys: pytest.CaptureFixture[str]) -> None:
    assert main(["name", notes, "--key", key, "--json"]) == 0
    first = json.loads(capsys.readouterr().out)["names"][0]
    assert first["harte"] == harte and first["missing"] == [] and first["added"] == []
    assert all(n["member"] for n in first["notes"]) and "is the root" in first["reason"]


def test_bad_files_are_one_sentence(tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    (tmp_path / "bad.json").write_text('{"format": "valley-chart", "version": 1, "title": 3}', "utf-8")
    (tmp_path / "broken.json").write_text("{", "utf-8")
    (tmp_path / "wrong.txt").write_text("| C | X9 |", "utf-8")
    for name in ("bad.json", "broken.json", "wrong.txt", "absent.json"):
        assert main(["parts", str(tmp_path / name)]) == 2
        said = capsys.readouterr().err
        assert said.startswith("valley: ") and said.count("\n") == 1, said
    assert main(["name", "C4 H4"]) == 2
    assert "'H4' is no pitch" in capsys.readouterr().err
