"""Decoding: every kind of file in, every kind of trouble in one sentence."""

from pathlib import Path
from typing import Any

import numpy as np
import pytest

from tests.sounds import SR, save, save_silent_video, song, tone
from valley.audio.decode import load_sound
from valley.errors import AudioDecodeError

Y = song(["C", "F", "G", "C"])


@pytest.mark.parametrize("ending", [".wav", ".mp3", ".m4a", ".opus", ".flac"])
def test_every_kind_of_recording_is_read(tmp_path: Path, ending: str) -> None:
    sound = load_sound(save(Y, tmp_path / f"song{ending}"))
    assert sound.sr == SR
    assert sound.duration == pytest.approx(len(Y) / SR, abs=0.15)
    assert sound.warning == ""
    assert np.abs(sound.y).max() <= 1
    assert np.sqrt((sound.y**2).mean()) == pytest.approx(np.sqrt((Y**2).mean()), rel=0.15)


@pytest.mark.parametrize("later", [{"layout": "stereo"}, {"wanted": 48000}, {"layout": "stereo", "wanted": 22050}])
def test_a_file_that_goes_over_to_stereo_or_another_rate_is_read_to_its_end(tmp_path: Path, later: dict[str, Any]) -> None:
    """Such files, joined from pieces, ended in a traceback."""
    first, second = save(Y, tmp_path / "a.mp3").read_bytes(), save(Y, tmp_path / "b.mp3", **later).read_bytes()
    sound = load_sound(write(tmp_path / "joined.mp3", first + second))
    assert sound.duration == pytest.approx(2 * len(Y) / SR, abs=0.4)
    half = len(sound.y) // 2
    levels = [float(np.sqrt((part**2).mean())) for part in (sound.y[:half], sound.y[half:])]
    assert levels[0] == pytest.approx(levels[1], rel=0.15)


def test_progress_goes_up_to_the_end(tmp_path: Path) -> None:
    seen: list[float] = []
    load_sound(save(Y, tmp_path / "song.mp3"), on_progress=seen.append)
    assert seen == sorted(seen)
    assert seen[-1] == pytest.approx(1.0, abs=0.02)


def write(path: Path, data: bytes) -> Path:
    path.write_bytes(data)
    return path


def test_files_that_are_no_recordings_say_so(tmp_path: Path) -> None:
    with pytest.raises(AudioDecodeError, match=r"'notes\.mp3' is no recording"):
        load_sound(write(tmp_path / "notes.mp3", b"this is a text, not sound\n" * 200))
    with pytest.raises(AudioDecodeError, match=r"'list' is no recording"):  # which FFmpeg takes for speech
        load_sound(write(tmp_path / "list", b"milk, bread, strings " * 400))
    with pytest.raises(AudioDecodeError, match="empty"):
        load_sound(write(tmp_path / "empty.wav", b""))
    with pytest.raises(AudioDecodeError, match="no file"):
        load_sound(tmp_path / "missing.wav")


def test_a_video_without_sound_says_so(tmp_path: Path) -> None:
    with pytest.raises(AudioDecodeError, match="video without sound"):
        load_sound(save_silent_video(tmp_path / "clip.mp4"))


def test_silence_and_shortness_are_told_apart(tmp_path: Path) -> None:
    with pytest.raises(AudioDecodeError, match="silent"):
        load_sound(save(np.zeros(8 * SR, np.float32), tmp_path / "silence.wav"))
    with pytest.raises(AudioDecodeError, match=r"3\.0 s; at least 5 s"):
        load_sound(save(tone(60, 3.0), tmp_path / "short.wav"))


def test_too_long_a_recording_is_refused_by_its_limit(tmp_path: Path) -> None:
    with pytest.raises(AudioDecodeError, match="limit is 0 minutes"):
        load_sound(save(Y, tmp_path / "long.mp3"), max_seconds=6)


@pytest.mark.parametrize("ending", [".wav", ".mp3", ".flac"])
def test_a_file_that_breaks_off_gives_what_it_has_and_says_so(tmp_path: Path, ending: str) -> None:
    whole = save(song(["C", "F", "G", "C"] * 3), tmp_path / f"whole{ending}").read_bytes()
    sound = load_sound(write(tmp_path / f"half{ending}", whole[: len(whole) * 6 // 10]))
    assert sound.duration > 10
    assert "breaks off" in sound.warning


def test_a_damaged_stretch_does_not_lose_the_rest(tmp_path: Path) -> None:
    data = bytearray(save(song(["C", "F", "G", "C"] * 2), tmp_path / "a.mp3").read_bytes())
    data[len(data) // 2 : len(data) // 2 + 3000] = b"\xab" * 3000
    sound = load_sound(write(tmp_path / "damaged.mp3", bytes(data)))
    assert sound.duration > 12


def test_messages_show_the_name_the_user_knows(tmp_path: Path) -> None:
    with pytest.raises(AudioDecodeError, match="my song"):
        load_sound(write(tmp_path / "0f3a", b"no sound"), shown_name="my song.mp3")
