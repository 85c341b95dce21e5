"""From a sound to a lesson, in the core and on the command line."""

import json
import os
import pty
import re
import subprocess
import sys
from pathlib import Path

import pytest

from tests.charts import make_work
from tests.sounds import SR, save, save_silent_video, song
from valley.audio.decode import Sound
from valley.charting.from_hearing import make_chart
from valley.formats.hearing_json import dump_hearing, load_hearing
from valley.fraction import Fraction as F
from valley.model.hearing import Hearing
from valley.pipeline import child
from valley.pipeline.cli import main
from valley.pipeline.handouts import HANDOUTS
from valley.pipeline.listen import hear_sound, listen
from valley.pipeline.progress import STAGES, Progress, Reporter
from valley.theory.chord import parse_harte

BARS = ["C", "Am", "F", "G"] * 2 + ["Dm", "G", "Em", "Am"] + ["C", "Am", "F", "G"]
TUNE = [(4 * bar + k, 1, 72 + step) for bar in range(16) for k, step in enumerate((0, 4, 2, 0))]


@pytest.fixture(scope="module")
def recording(tmp_path_factory: pytest.TempPathFactory) -> Path:
    y = song(BARS, bpm=110, tune=[(F(b), 0.9, m) for b, _, m in TUNE], cents=12)
    return save(y, tmp_path_factory.mktemp("sound") / "Morning Walk.m4a")


@pytest.fixture(scope="module")
def hearing(recording: Path) -> Hearing:
    return listen(recording)


def test_tempo_metre_tuning_and_key(hearing: Hearing) -> None:
    assert hearing.bpm == pytest.approx(110, rel=0.01)
    assert hearing.meter == "4/4"
    assert hearing.tuning_cents == pytest.approx(12, abs=3)
    assert [(k.tonic, k.mode) for k in hearing.keys] == [("C", "major")]
    assert hearing.downbeats[0] == pytest.approx(0.3, abs=0.06)


def test_chords_come_back_bar_by_bar(hearing: Hearing) -> None:
    right = 0
    for bar, symbol in enumerate(BARS):
        middle = 0.3 + (4 * bar + 2) * 60 / 110
        label = next(c.label for c in hearing.chords if c.start <= middle < c.end)
        chord = parse_harte(label)
        root = symbol.rstrip("m")
        right += chord is not None and str(chord.root) == root
    assert right >= 14


def test_everything_lies_in_order_within_the_recording(hearing: Hearing) -> None:
    assert hearing.chords[0].start == 0
    assert hearing.chords[-1].end == pytest.approx(hearing.duration, abs=0.2)
    assert all(a.end == b.start for a, b in zip(hearing.chords, hearing.chords[1:], strict=False))
    assert all(0 <= c.confidence <= 1 for c in hearing.chords)
    assert set(hearing.downbeats) <= set(hearing.beats)
    assert hearing.sections[0].label == "1"
    for section in hearing.sections:
        if section.same_as is not None:
            assert hearing.sections[section.same_as].label == section.label


def test_listening_twice_hears_the_same(recording: Path, hearing: Hearing) -> None:
    assert dump_hearing(listen(recording)) == dump_hearing(hearing)


def test_progress_is_told_in_order_and_reaches_the_end(recording: Path) -> None:
    seen: list[Progress] = []
    listen(recording, listener=seen.append)
    assert [p.fraction for p in seen] == sorted(p.fraction for p in seen)
    assert list(dict.fromkeys(p.stage for p in seen)) == [s for s, _, _ in STAGES]
    assert seen[-1].fraction == pytest.approx(1.0)
    assert any("C major" in p.found for p in seen)
    assert sum(weight for _, _, weight in STAGES) == pytest.approx(1.0)
    with pytest.raises(KeyError):
        Reporter(seen.append).tell("singing")


def test_noise_is_heard_without_a_crash() -> None:
    import numpy as np

    noise = (0.1 * np.random.default_rng(1).standard_normal(8 * SR)).astype(np.float32)
    heard, evidence = hear_sound(Sound(noise, SR), Reporter(lambda p: None))
    assert len(evidence.rows) >= 79
    assert heard.duration == pytest.approx(8, abs=0.1)
    assert make_work(make_chart(heard, "Noise"), hearing=heard).lesson.steps


def test_the_command_line_writes_a_hearing(recording: Path, tmp_path: Path, hearing: Hearing) -> None:
    out = tmp_path / "hearing.json"
    assert main(["hear", str(recording), "--out", str(out)]) == 0
    assert load_hearing(out) == hearing


def test_a_terminal_gets_a_progress_bar(recording: Path, tmp_path: Path) -> None:
    screen, terminal = pty.openpty()
    command = [sys.executable, "-m", "valley.pipeline.cli", "hear", str(recording), "--out", str(tmp_path / "h.json")]
    with subprocess.Popen(command, stderr=terminal, stdout=subprocess.DEVNULL) as run:
        os.close(terminal)
        shown = b""
        while True:
            try:
                chunk = os.read(screen, 4096)
            except OSError:  # the other side is closed
                break
            if not chunk:
                break
            shown += chunk
    os.close(screen)
    assert run.returncode == 0
    assert "Following the beat" in shown.decode()
    assert "100 %" in shown.decode()


def test_without_a_file_the_hearing_is_printed(recording: Path, capsys: pytest.CaptureFixture[str]) -> None:
    assert main(["hear", str(recording)]) == 0
    assert json.loads(capsys.readouterr().out)["format"] == "valley-hearing"


def test_the_command_line_writes_a_lesson(recording: Path, tmp_path: Path) -> None:
    folder = tmp_path / "new" / "lesson"
    assert main(["lesson", str(recording), "--to", str(folder), "--style", "root-and-chord", "--hand", "small", "--keyboard", "61"]) == 0
    assert {p.name for p in folder.iterdir()} == {h.name for h in HANDOUTS} | {"manifest.json"}
    assert "Morning Walk" in (folder / "lesson.txt").read_text()


@pytest.mark.parametrize("trouble", ["missing", "text", "empty", "clip", "short"])
def test_bad_input_is_one_sentence_and_status_two(trouble: str, tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    path = tmp_path / f"{trouble}.mp4"
    if trouble == "text":
        path.write_text("just words " * 500)
    elif trouble == "empty":
        path.touch()
    elif trouble == "clip":
        save_silent_video(path)
    elif trouble == "short":
        path = save(song(["C"])[: 3 * SR], tmp_path / "short.wav")
    out = tmp_path / "hearing.json"
    assert main(["hear", str(path), "--out", str(out)]) == 2
    error = capsys.readouterr().err
    assert re.fullmatch(r"valley: [^\n]+[.]\n", error)
    assert not out.exists()


def test_places_that_cannot_be_written_are_named(recording: Path, tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    assert main(["hear", str(recording), "--out", str(tmp_path / "nowhere" / "h.json")]) == 2
    assert "no folder" in capsys.readouterr().err
    (tmp_path / "file").touch()
    assert main(["lesson", str(recording), "--to", str(tmp_path / "file")]) == 2
    assert main(["lesson", str(recording), "--to", str(tmp_path / "x"), "--hand", "huge"]) == 2
    assert not (tmp_path / "x").exists()


def test_the_child_process_speaks_lines_and_writes_its_files(recording: Path, tmp_path: Path) -> None:
    run = subprocess.run(
        [sys.executable, "-m", "valley.pipeline.child", str(recording), "walk.m4a", str(tmp_path), "600"], capture_output=True, text=True, check=True
    )
    lines = [json.loads(line) for line in run.stdout.splitlines()]
    assert lines[-1]["fraction"] == pytest.approx(1.0)
    assert load_hearing(tmp_path / "hearing.json").meter == "4/4"
    assert len(json.loads((tmp_path / "loudness.json").read_text())) > 100


def test_the_child_blames_the_file_by_the_name_the_user_knows(tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    (tmp_path / "abc").write_text("no sound here")
    assert child.main([str(tmp_path / "abc"), "letter.mp3", str(tmp_path), "600"]) == 2
    assert "'letter.mp3' is no recording" in capsys.readouterr().err


def test_importing_theory_and_model_is_quick_and_light() -> None:
    code = "import sys, valley.theory, valley.model.chart; print(any(m in sys.modules for m in ('numpy', 'pydantic', 'music21', 'django')))"
    assert subprocess.run([sys.executable, "-c", code], capture_output=True, text=True, check=True).stdout.strip() == "False"
