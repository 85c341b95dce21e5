"""Practice tracks, measured on the sound: where notes begin, how loud it is, who is heard in which ear."""

import io

import av
import numpy as np
import pytest

from tests.charts import chart_of, make_work
from valley.audio.loudness import limit, measure_loudness
from valley.audio.packing import KINDS
from valley.audio.piano import RATE, Stroke, play, sound_of_key
from valley.errors import ParameterError
from valley.fraction import Fraction as F
from valley.model.choices import Choices
from valley.pipeline.practice import MIXES, Track, dump_track, render_track

CHART = chart_of(["C", "Am", "F", "G"], tune=[(0, 2, 67), (4, 1, 69), (6, 2, 72), (8, 4, 69), (12, 4, 71)], parts=[(1, 2, None), (3, 2, None)], bpm=90)
WORK = make_work(CHART, Choices(style="root-and-chord", pattern="every-beat"))


def onset(sound: np.ndarray) -> float:
    """Seconds until a note is heard: a fiftieth of its peak."""
    level = np.abs(sound).max(0)
    return float(np.argmax(level > 0.02 * level.max())) / RATE


@pytest.mark.parametrize("midi", range(21, 109, 3))
def test_every_key_begins_within_two_milliseconds_of_its_place(midi: int) -> None:
    sound = play([Stroke(0.5, 1.2, midi)], 2.0)
    assert abs(onset(sound) - 0.5) < 0.002


def test_every_key_sounds_at_its_pitch() -> None:
    for midi in (33, 45, 50, 57, 61, 69, 76, 83):
        y = sound_of_key(midi)[: 2 * RATE]
        spectrum = np.abs(np.fft.rfft(y * np.hanning(len(y)), 8 * len(y)))
        freq = np.fft.rfftfreq(8 * len(y), 1 / RATE)
        wanted = 440 * 2 ** ((midi - 69) / 12)
        near = (freq > wanted * 0.94) & (freq < wanted * 1.06)
        found = freq[near][np.argmax(spectrum[near])]
        assert abs(1200 * np.log2(found / wanted)) < 15, midi


@pytest.mark.parametrize("mix", MIXES)
def test_a_track_is_even_in_loudness_and_never_clips(mix: str) -> None:
    sound = render_track(CHART, WORK.arrangement, Track(mix=mix, metronome=True))
    assert abs(measure_loudness(sound, RATE) + 16) < 1
    assert np.abs(sound).max() < 0.95


def test_a_hand_alone_is_that_hand_and_ears_are_apart() -> None:
    quiet = {"count_in": False}
    left, right = (render_track(CHART, WORK.arrangement, Track(mix=m, **quiet)) for m in ("left", "right"))  # type: ignore[arg-type]
    low = {n.midi for p in WORK.arrangement.parts for n in p.notes if n.hand == "left"}
    assert max(low) < 60
    power = np.abs(np.fft.rfft(left.mean(0))) ** 2
    freq = np.fft.rfftfreq(left.shape[1], 1 / RATE)
    assert freq[np.argmax(power)] < 300
    ears = render_track(CHART, WORK.arrangement, Track(mix="ears", **quiet))  # type: ignore[arg-type]
    for ear, alone in ((0, left), (1, right)):
        length = min(ears.shape[1], alone.shape[1])
        assert np.corrcoef(ears[ear, :length], alone.mean(0)[:length])[0, 1] > 0.99


def test_speed_part_and_count_in_shape_its_length() -> None:
    def seconds(**asked: object) -> float:
        return render_track(CHART, WORK.arrangement, Track(**asked)).shape[1] / RATE - 2.5  # type: ignore[arg-type]

    bar = 4 * 60 / 90
    assert seconds(count_in=False) == pytest.approx(4 * bar, abs=0.02)
    assert seconds() == pytest.approx(5 * bar, abs=0.02)
    assert seconds(part=2) == pytest.approx(3 * bar, abs=0.02)
    assert seconds(speed=0.5, part=1, count_in=False) == pytest.approx(4 * bar, abs=0.02)


def test_the_count_falls_on_the_beats_before_the_first_note() -> None:
    sound = render_track(CHART, WORK.arrangement, Track(part=2, mix="left"))
    beat = 60 / 90
    for i in range(4):
        at = round(i * beat * RATE)
        assert np.abs(sound[:, at : at + 400]).max() > 5 * np.abs(sound[:, at + 6000 : at + 9000]).max()
    first = min(n.start for n in WORK.arrangement.of_part(2).notes if n.hand == "left")
    assert first == F(8)


@pytest.mark.parametrize("kind", KINDS)
def test_files_are_read_by_another_reader_with_their_tags(kind: str) -> None:
    data = dump_track(CHART, WORK.arrangement, Track(kind=kind, part=1, speed=0.7))
    with av.open(io.BytesIO(data)) as file:
        stream = file.streams.audio[0]
        tags = {k.lower(): v for k, v in {**file.metadata, **stream.metadata}.items()}
        assert "part 1, both hands, 70 %" in tags["title"]
        samples = sum(f.samples for f in file.decode(stream))
        assert samples / stream.rate == pytest.approx(3 * 4 * 60 / 90 / 0.7 + 2.5, abs=0.1)


def test_what_is_not_there_is_said() -> None:
    with pytest.raises(ParameterError, match="part=9 is not one of"):
        render_track(CHART, WORK.arrangement, Track(part=9))
    long = make_work(chart_of(["C"] * 120, bpm=60), Choices())
    with pytest.raises(ParameterError, match="would last 16 minutes; 10 is the most: choose one part, or a higher speed"):
        render_track(long.chart, long.arrangement, Track(speed=0.5, count_in=False))
    with pytest.raises(ParameterError, match="speed=9"):
        Track(speed=9)
    with pytest.raises(ParameterError, match="mix='tune'"):
        Track(mix="tune")


def test_loudness_is_that_of_the_standard() -> None:
    """BS.1770: a full-scale sine of 997 Hz in one channel is -3.01 LUFS; silence has none."""
    t = np.arange(5 * RATE) / RATE
    one = np.stack([np.sin(2 * np.pi * 997 * t), np.zeros_like(t)]).astype(np.float32)
    assert measure_loudness(one, RATE) == pytest.approx(-3.01, abs=0.05)
    assert measure_loudness(np.zeros((2, RATE), np.float32), RATE) == float("-inf")
    assert np.abs(limit(4 * one, RATE)).max() <= 0.8901


@pytest.mark.parametrize("midi", [36, 48, 57, 64, 72, 79])
def test_a_harder_stroke_is_louder_and_brighter(midi: int) -> None:
    """At every step of force, also where one layer of samples ends and the next begins."""

    def look(force: float) -> tuple[float, float]:
        y = play([Stroke(0.0, 2.0, midi, force)], 1.0).sum(0)
        power = np.abs(np.fft.rfft(y[: RATE // 2] * np.hanning(RATE // 2)))
        freq = np.fft.rfftfreq(RATE // 2, 1 / RATE)
        return float(np.sqrt((y[: RATE // 2] ** 2).mean())), float((power * freq).sum() / power.sum())

    loud, bright = zip(*(look(f / 10) for f in range(2, 11)), strict=True)
    assert all(b > a for a, b in zip(loud, loud[1:], strict=False))
    assert bright[0] < bright[4] < bright[8]


@pytest.mark.parametrize("midi", [28, 60, 88])
@pytest.mark.parametrize("force", [0.2, 0.5, 0.9])
def test_every_touch_begins_at_its_place(midi: int, force: float) -> None:
    assert abs(onset(play([Stroke(0.5, 1.2, midi, force)], 2.0)) - 0.5) < 0.002
