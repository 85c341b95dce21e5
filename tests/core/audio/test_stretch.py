"""Slower at the same pitch, measured on the sound."""

import io
from pathlib import Path

import av
import numpy as np
import pytest
import soundfile

from tests.charts import chart_of
from valley.audio.stretch import change_speed
from valley.errors import ParameterError
from valley.pipeline.slowed import CAUTION, Slowed, dump_slowed, span_of

RATE = 44_100
CHART = chart_of(["C", "Am", "F", "G"], parts=[(1, 2, None), (3, 2, None)], bpm=120)


def pitch_of(y: np.ndarray) -> float:
    """Hertz of the strongest partial, to a fraction of a cent."""
    spectrum = np.abs(np.fft.rfft(y * np.hanning(len(y)), 8 * len(y)))
    k = int(np.argmax(spectrum))
    a, b, c = np.log(spectrum[k - 1 : k + 2] + 1e-12)
    return float((k + 0.5 * (a - c) / (a - 2 * b + c)) * RATE / (8 * len(y)))


@pytest.mark.parametrize("speed", [0.4, 0.5, 0.7, 0.85, 1.2])
@pytest.mark.parametrize("hertz", [110.0, 440.0, 1318.5])
def test_the_pitch_stays_and_the_length_changes(speed: float, hertz: float) -> None:
    t = np.arange(3 * RATE) / RATE
    y = (0.4 * np.sin(2 * np.pi * hertz * t)).astype(np.float32)
    slow = change_speed(y[None], RATE, speed)[0]
    assert len(slow) == pytest.approx(len(y) / speed, rel=0.001)
    middle = slow[len(slow) // 4 : -len(slow) // 4]
    assert abs(1200 * np.log2(pitch_of(middle) / hertz)) < 3
    assert 0.35 < np.sqrt(2 * np.mean(middle**2)) < 0.45


@pytest.mark.parametrize("speed", [0.4, 0.5, 0.7, 0.85])
def test_what_is_struck_stays_in_time(speed: float) -> None:
    y = np.zeros(6 * RATE, np.float32)
    places = np.arange(0.5, 5.6, 0.5)
    for at in places:
        n = np.arange(int(0.08 * RATE))
        y[round(at * RATE) : round(at * RATE) + len(n)] += (np.sin(2 * np.pi * 700 * n / RATE) * np.exp(-n / 900)).astype(np.float32)
    slow = np.abs(change_speed(y[None], RATE, speed)[0])
    for at in places:
        window = slow[round((at / speed - 0.1) * RATE) : round((at / speed + 0.1) * RATE)]
        heard = np.argmax(window > 0.3 * window.max()) / RATE - 0.1
        assert abs(heard) * speed < 0.006, (at, heard)  # in the recording's own time
    assert np.array_equal(slow, np.abs(change_speed(y[None], RATE, speed)[0]))


def test_one_part_begins_a_bar_before_and_tells_whose_sound_it_is(tmp_path: Path) -> None:
    t = np.arange(10 * RATE) / RATE
    path = tmp_path / "song.wav"
    soundfile.write(path, 0.3 * np.sin(2 * np.pi * 330 * t) * (t > 0.2), RATE)
    assert span_of(CHART, Slowed(part=2)) == pytest.approx((2.25, 8.25), abs=0.01)
    assert span_of(CHART, Slowed(part=1)) == pytest.approx((0.0, 4.25), abs=0.01)
    assert span_of(CHART, Slowed(part=2, lead=False))[0] == pytest.approx(4.25, abs=0.01)
    content = dump_slowed(path, CHART, Slowed(part=2, speed=0.5, kind="flac"))
    with av.open(io.BytesIO(content)) as file:
        assert file.metadata["title"] == "Test – part 2 of the recording, 50 %"
        assert CAUTION in (file.metadata.get("comment") or file.metadata.get("COMMENT") or "")
        sound = np.concatenate([f.to_ndarray().reshape(-1) for f in file.decode(audio=0)])
    assert len(sound) / RATE == pytest.approx(12.0, abs=0.2)


def test_what_cannot_be_slowed_is_said(tmp_path: Path) -> None:
    with pytest.raises(ParameterError, match=r"speed=0\.1 must be 0\.4"):
        Slowed(speed=0.1)
    with pytest.raises(ParameterError, match=r"speed=9"):
        change_speed(np.zeros((1, 8), np.float32), RATE, 9)
    with pytest.raises(ParameterError, match=r"part=7 is not one of the song's parts \[1, 2\]"):
        span_of(CHART, Slowed(part=7))
    short = tmp_path / "short.wav"
    soundfile.write(short, 0.3 * np.sin(np.arange(5 * RATE + 900) / 20), RATE)
    late = chart_of(["C"] * 12, parts=[(1, 6, None), (7, 6, None)], bpm=60)
    with pytest.raises(ParameterError, match="the recording ends at 5 s"):
        dump_slowed(short, late, Slowed(part=2))
