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


def test_hands_styles_patterns_and_fingers(text: Path, tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    out = tmp_path / "hands.json"
    command = ["arrange", str(text), "--style", "root-and-chord", "--level", "easier", "--hand", "small"]
    command += ["--keyboard", "61", "--frame", "C2-C6", "--pattern", "broken"]
    assert main([*command, "--json", str(out)]) == 0
    made = json.loads(out.read_text("utf-8"))
    grip = made["parts"][0]["grips"][0]
    assert grip["chord"] == "F:maj" and grip["start_beat"] == "0" and grip["duration_beat"] == "4" and grip["why"]
    assert {"pitch", "midi", "finger", "optional"} <= set(grip["left"][0]) and set(grip["reach_mm"]) == {"left", "right"}
    assert {n["duration_beat"] for n in made["parts"][0]["notes"] if n["hand"] == "left"} == {"1/2"}
    assert main([*command, "--weight", "kept=9", "--json", str(out)]) == 0
    for wrong in ("kept=much", "luck=1"):
        assert main([*command, "--weight", wrong]) == 2
    assert main(["styles", "--json", str(out)]) == 0 and len(json.loads(out.read_text("utf-8"))) >= 12
    assert main(["patterns", "--json", str(out)]) == 0 and len(json.loads(out.read_text("utf-8"))) >= 16
    capsys.readouterr()
    assert main(["finger", "C4 D4 E4 F4 G4 A4 B4 C5", "--hand", "right", "--json"]) == 0
    assert json.loads(capsys.readouterr().out)["fingers"] == [1, 2, 3, 1, 2, 3, 4, 5]


def test_lessons_checks_proofs_exports_and_imports(text: Path, tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    folder = tmp_path / "lesson"
    assert main(["lesson", str(text), "--to", str(folder), "--style", "shared-chord", "--school", "naming=german"]) == 0
    assert json.loads((folder / "manifest.json").read_text("utf-8"))["song"] == "two lanterns"
    assert main(["check", str(folder / "lesson.json")]) == 0
    lesson = json.loads((folder / "lesson.json").read_text("utf-8"))
    lesson["arrangement"]["parts"][0]["grips"][0]["right"][0]["pitch"] = "F#7"
    (tmp_path / "spoiled.json").write_text(json.dumps(lesson), "utf-8")
    capsys.readouterr()
    assert main(["check", str(tmp_path / "spoiled.json"), "--json"]) == 1
    assert json.loads(capsys.readouterr().out)["findings"][0]["check"] == "pitch"
    words = tmp_path / "words.txt"
    words.write_text("In bar 1 we play F minor.", "utf-8")
    assert main(["proof", str(words), "--chart", str(text), "--json"]) == 1
    claim = json.loads(capsys.readouterr().out)["claims"][0]
    assert (claim["text"], claim["kind"], claim["verdict"], claim["expected"]) == ("F minor", "chord", "contradicts", "F")
    assert main(["export", str(text), "--format", "musicxml", "--out", str(tmp_path / "a.musicxml")]) == 0
    assert main(["import", str(tmp_path / "a.musicxml"), "--out", str(tmp_path / "back.json")]) == 0
    assert [c["chord"] for c in json.loads((tmp_path / "back.json").read_text("utf-8"))["chords"]][:2] == ["F:maj", "C:maj/3"]
    assert main(["export", str(text), "--format", "zip", "--out", str(tmp_path / "all.zip")]) == 0
    assert main(["export", str(text), "--format", "poster", "--out", str(tmp_path / "x")]) == 2
    (tmp_path / "bad.mid").write_bytes(b"MThd")
    assert main(["import", str(tmp_path / "bad.mid")]) == 2
    assert main(["lesson", str(text), "--to", str(tmp_path / "y"), "--school", "naming=tonic"]) == 2


def test_a_performance_is_held_against_the_hands(text: Path, tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    mine = tmp_path / "mine.mid"
    assert main(["export", str(text), "--format", "hands.mid", "--out", str(mine), "--style", "root-and-chord"]) == 0
    capsys.readouterr()
    assert main(["played", str(mine), "--chart", str(text), "--style", "root-and-chord"]) == 0
    assert capsys.readouterr().out.startswith("100% of ")
    out = tmp_path / "played.json"
    assert main(["played", str(mine), "--chart", str(text), "--style", "thirds", "--json", str(out)]) == 1
    held = json.loads(out.read_text("utf-8"))
    assert 0 < held["found"] < 1
    assert held["bars"][0]["missing"] or held["bars"][0]["extra"]
    assert {s["hand"] for s in held["struck"]} == {"left", "right"}
    assert main(["played", str(text), "--chart", str(text)]) == 2
    assert "holds no performance" in capsys.readouterr().err
    assert main(["played", str(tmp_path / "absent.mid"), "--chart", str(text)]) == 2
