"""Beats: clicks of known tempo, drift, silence."""

from itertools import pairwise

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.sounds import SR, click, mix
from valley.audio.onsets import compute_onset_envelopes
from valley.errors import ListeningError, ParameterError
from valley.listening._beat_places import refine
from valley.listening.beats import combine_bands, estimate_tempo, track_beats
from valley.listening.downbeats import find_bars, measure_triple, rate_beats
from valley.listening.ear import Heard
from valley.listening.pulse import SIGNS, follow_pulse, hear_pulse, view_pulse

FPS = 50.0


def envelopes(times: list[float], seconds: float) -> np.ndarray:
    y = np.zeros(int(seconds * SR), np.float32)
    for i, t in enumerate(times):
        mix(y, click(seed=i), t)
    return compute_onset_envelopes(y, SR)


def pulse_of(times: list[float], seconds: float) -> np.ndarray:
    """What the network gives when it hears the beats well."""
    pulse = np.full(int(seconds * FPS) + 1, 0.03, np.float32)
    for t in times:
        frame = round(t * FPS)
        pulse[frame - 1 : frame + 2] = (0.4, 0.9, 0.4)
    return pulse


def in_bars(pulse: np.ndarray, downbeats: list[float] | None = None, weak: float = 0.0) -> np.ndarray:
    """A pulse with its downbeats: none where none are given; ``weak`` is heard midway between any two."""
    bars = np.zeros_like(pulse)
    if downbeats:
        bars = np.maximum(pulse_of(downbeats, len(pulse) / FPS), weak * pulse_of([(a + b) / 2 for a, b in pairwise(downbeats)], len(pulse) / FPS))[: len(pulse)]
    return np.stack([pulse, bars], axis=1).astype(np.float32)


def begins_of(times: list[float], seconds: float) -> np.ndarray:
    """How much begins in every frame, where one note begins at each of these times."""
    begins = np.zeros(int(seconds * FPS) + 1)
    for t in times:
        begins[round(t * FPS) + np.array([-1, 0, 1])] = (0.5, 1.0, 0.5)
    return begins


@pytest.mark.parametrize("bpm", [72, 96, 120, 132])
def test_a_click_gives_its_tempo_and_places(bpm: float) -> None:
    times = [0.4 + i * 60 / bpm for i in range(int(20 * bpm / 60))]
    track = track_beats(in_bars(pulse_of(times, 21)), envelopes(times, 21), begins_of(times, 21), FPS)
    assert track.bpm == pytest.approx(bpm, rel=0.02)
    inner = [t for t in times if 2 < t < 18]
    assert all(min(abs(b - t) for b in track.times) < 0.03 for t in inner)
    assert [round(t / track.bpm, 3) for t, _ in track.tempi] == [1, 0.5, 2]
    assert sum(p for _, p in track.tempi) == pytest.approx(1)
    assert track.tempi[0][1] > 0.5


def test_a_slow_drift_is_followed() -> None:
    times, t = [], 0.5
    for i in range(44):
        times.append(t)
        t += 60 / (100 + 0.35 * i)
    track = track_beats(in_bars(pulse_of(times, t + 1)), envelopes(times, t + 1), begins_of(times, t + 1), FPS)
    assert sum(min(abs(b - x) for b in track.times) < 0.05 for x in times[4:-4]) >= 34


def test_nothing_that_begins_has_no_beat() -> None:
    with pytest.raises(ListeningError, match="No beat"):
        track_beats(np.zeros((1000, 2), np.float32), np.zeros((1000, 4), np.float32), np.zeros(1000), FPS)
    with pytest.raises(ListeningError, match="No beat"):
        track_beats(np.ones((20, 2), np.float32), np.ones((20, 4), np.float32), np.ones(20), FPS)


def test_shapes_are_checked_at_the_door() -> None:
    with pytest.raises(ParameterError, match="frames × bands"):
        combine_bands(np.ones(100, np.float32))


def test_the_tempo_curve_peaks_at_the_tempo() -> None:
    activation = np.zeros(1500)
    activation[::30] = 1  # 100 to the minute
    lengths, salience = estimate_tempo(activation, FPS)
    assert lengths[salience.argmax()] == pytest.approx(30, abs=1)


@pytest.mark.parametrize(("beats", "meter"), [(4, "4/4"), (3, "3/4")])
def test_bars_begin_where_harmony_and_bass_change(beats: int, meter: str) -> None:
    n = beats * 14
    rng = np.random.default_rng(3)
    chroma = np.repeat(rng.random((14, 12)), beats, axis=0)
    chroma /= np.linalg.norm(chroma, axis=1, keepdims=True)
    onsets = 0.5 + 0.1 * rng.random((n, 4))
    onsets[::beats, 0] += 1
    evidence, backbeat = rate_beats(np.roll(chroma, 1, axis=0), np.roll(chroma, 1, axis=0), np.roll(onsets, 1, axis=0))
    bars = find_bars(evidence, backbeat, np.full(n, 0.3), np.zeros(n), (-0.2, -0.2), 100)
    assert bars.meter == meter
    assert set(bars.downbeats % beats) == {1}


def test_the_networks_downbeats_decide_where_harmony_is_silent() -> None:
    n = 48
    downbeat = np.full(n, 0.1)
    downbeat[2::4] = 0.9
    flat = np.full((n, 12), 1 / np.sqrt(12))
    evidence, backbeat = rate_beats(flat, flat, np.ones((n, 4)))
    assert set(find_bars(evidence, backbeat, downbeat, np.zeros(n), (-0.2, -0.2), 100).downbeats % 4) == {2}


def test_the_pulse_network_follows_clicks() -> None:
    times = [0.4 + i * 0.5 for i in range(50)]
    onsets = envelopes(times, 26)
    nothing = np.zeros((len(onsets), 84), np.float32)
    heard = Heard(nothing, nothing, nothing, nothing, nothing, nothing)
    signs = view_pulse(onsets, heard)
    assert signs.shape == (len(onsets), SIGNS)
    pulse = hear_pulse(signs)
    at = np.array([pulse[round(t * FPS) - 1 : round(t * FPS) + 2, 0].max() for t in times[8:40]])
    between = np.array([pulse[round((t + 0.25) * FPS), 0] for t in times[8:40]])
    assert np.median(at) > 2 * np.median(between)
    with pytest.raises(ParameterError, match="equal in number"):
        view_pulse(onsets[:-9], heard)
    with pytest.raises(ParameterError, match="frames ×"):
        hear_pulse(np.zeros((10, 3), np.float32))


def test_thirds_of_the_beat_make_compound_time() -> None:
    envelope = np.zeros(3000)
    places = np.arange(10, 2900, 54.0)
    for share, strength in ((0, 1.0), (1 / 3, 0.6), (2 / 3, 0.7)):
        envelope[(places + share * 54).astype(int)] = strength
    triple = measure_triple(envelope, places)
    assert min(triple) > 0.4
    n = len(places)
    evidence = np.tile([1.0, -1.0], n)[:n]
    assert find_bars(evidence, np.zeros(n), np.full(n, 0.5), np.zeros(n), triple, 55).meter == "6/8"


@settings(max_examples=200)
@given(st.integers(0, 2**32 - 1), st.integers(3, 40), st.integers(2, 40))
def test_beats_ascend_wherever_loud_sounds_stand(seed: int, count: int, gap: int) -> None:
    """A loud off-beat close by drew a beat past its neighbour, and the recording could not be heard at all."""
    chance = np.random.default_rng(seed)
    frames = np.cumsum(chance.integers(1, gap, count))
    activation = chance.random(int(frames[-1]) + 8) * (chance.random(int(frames[-1]) + 8) < 0.3)
    beats = refine(frames, activation)
    assert (np.diff(beats) > 0).all()
    assert np.abs(beats - frames).max() < gap + 4


def test_looking_several_times_finds_the_same_clicks() -> None:
    times = [0.4 + i * 0.5 for i in range(50)]
    onsets = envelopes(times, 26)
    nothing = np.zeros((len(onsets), 84), np.float32)
    pulse = follow_pulse(onsets, Heard(nothing, nothing, nothing, nothing, nothing, nothing))
    assert pulse.shape == (len(onsets), 2)
    assert 0 <= pulse.min() <= pulse.max() <= 1
    at = [pulse[round(t * FPS) - 1 : round(t * FPS) + 2, 0].max() for t in times[8:40]]
    between = [pulse[round((t + 0.25) * FPS), 0] for t in times[8:40]]
    assert np.median(at) > 2 * np.median(between)


@given(st.integers(0, 83), st.integers(-6, 6))
def test_every_beginning_is_in_one_register_wherever_the_edges_are(pitch: int, moved: int) -> None:
    silent, begins = np.zeros((40, 84), np.float32), np.zeros((40, 84), np.float32)
    begins[20, pitch] = 1
    signs = view_pulse(np.zeros((40, 4), np.float32), Heard(silent, begins, silent, silent, silent, silent), moved=moved)
    assert signs[20, 4:8].sum() == pytest.approx(1)
    assert signs[:20, 4:8].sum() == 0


def test_no_tempo_is_offered_that_nobody_counts() -> None:
    slow = [0.3 + i * 60 / 46 for i in range(30)]
    track = track_beats(in_bars(pulse_of(slow, 41)), envelopes(slow, 41), begins_of(slow, 41), FPS)
    assert all(p == 0 for bpm, p in track.tempi if not 30 <= bpm <= 250)
    assert sum(p for _, p in track.tempi) == pytest.approx(1)


def test_a_jig_is_counted_by_its_dotted_beats() -> None:
    eighths = [0.3 + i * 60 / 300 for i in range(180)]
    seconds = 37
    pulse = np.maximum(pulse_of(eighths[::3], seconds), 0.35 * pulse_of(eighths, seconds))
    assert track_beats(in_bars(pulse), envelopes(eighths, seconds), begins_of(eighths, seconds), FPS).bpm == pytest.approx(100, rel=0.02)


def test_a_fast_waltz_is_no_jig() -> None:
    """Its first beat is strong and its others weak, so that of every third eighth one is a first beat and one lies between the others."""
    beats = [0.3 + i * 60 / 148 for i in range(90)]
    seconds = 37
    pulse = np.maximum(pulse_of(beats[::3], seconds), 0.3 * pulse_of(beats, seconds))
    assert track_beats(in_bars(pulse), envelopes(beats, seconds), begins_of(beats, seconds), FPS).bpm == pytest.approx(148, rel=0.02)


@pytest.mark.parametrize(("shares", "counted"), [((), 48), ((0.5,), 96), ((1 / 3, 2 / 3), 96)])
def test_beats_that_are_played_in_halves_or_thirds_are_not_counted_half_as_fast(shares: tuple[float, ...], counted: float) -> None:
    """Every second of these beats is weak; where nothing begins between them they are halves of slower ones."""
    beats = [0.3 + i * 60 / 96 for i in range(60)]
    between = [t + share * 60 / 96 for t in beats for share in shares]
    pulse = np.maximum(pulse_of(beats[::2], 39), 0.7 * pulse_of(beats, 39)).astype(np.float32)
    track = track_beats(in_bars(pulse), envelopes(beats[::2], 39), begins_of(beats + between, 39), FPS)
    assert track.bpm == pytest.approx(counted, rel=0.02)


@pytest.mark.parametrize(("other", "counted"), [(0.3, 47), (0.9, 141)])
def test_a_slow_six_is_no_fast_waltz(other: float, counted: float) -> None:
    """Nothing begins between the beats, and a bar on every third of them: on every second time as surely in a waltz, less so in six eighths."""
    beats = [0.3 + i * 60 / 141 for i in range(90)]
    pulse = in_bars(pulse_of(beats, 40), beats[::6], other)
    track = track_beats(pulse, envelopes(beats[::3], 40), begins_of(beats, 40), FPS)
    assert track.bpm == pytest.approx(counted, rel=0.02)
    assert min(abs(track.times - beats[6])) < 0.03


@pytest.mark.parametrize(("bar", "counted"), [(4, 60), (3, 120)])
def test_beats_with_nothing_between_them_are_halves_of_slower_ones_but_not_in_bars_of_three(bar: int, counted: float) -> None:
    beats = [0.3 + i * 60 / 120 for i in range(78)]
    pulse = in_bars(pulse_of(beats, 40), beats[::bar])
    track = track_beats(pulse, envelopes(beats[::2], 40), begins_of(beats, 40), FPS)
    assert track.bpm == pytest.approx(counted, rel=0.02)
