"""Spectra, activations and onsets on sounds whose notes and times are known."""

import numpy as np
import pytest

from tests.sounds import SR, click, mix, tone
from valley.audio.loudness import measure_loud_frames
from valley.audio.onsets import compute_loudness, compute_onset_envelopes
from valley.audio.spectra import HOP, compute_activations, compute_log_spectrum, compute_magnitudes
from valley.errors import ParameterError


@pytest.mark.parametrize("midi", [36, 48, 60, 67, 72, 84])
def test_one_note_activates_its_own_place(midi: int) -> None:
    y = tone(midi, 1.0)
    activations = compute_activations(compute_log_spectrum(y, SR))
    middle = activations[20:30].mean(0)
    assert int(middle.argmax()) + 24 == midi


def test_tuning_is_followed() -> None:
    sharp = tone(60, 1.0, cents=30)
    tuned = compute_log_spectrum(sharp, SR, tuning_cents=30)[25]
    plain = compute_log_spectrum(tone(60, 1.0), SR)[25]
    assert int(tuned[:130].argmax()) == int(plain[:130].argmax()) == 3 * (60 - 24) + 1


def test_a_triad_activates_its_three_notes() -> None:
    y = tone(60, 1.0) + tone(64, 1.0) + tone(67, 1.0)
    middle = compute_activations(compute_log_spectrum(y, SR))[20:30].mean(0)
    assert {int(i) + 24 for i in np.argsort(-middle)[:3]} == {60, 64, 67}


def test_magnitudes_are_scaled_to_a_full_sine() -> None:
    y = np.sin(2 * np.pi * 160 * np.arange(SR) / 8192).astype(np.float32)  # on the middle of a bin
    assert compute_magnitudes(y, 8192)[25].max() == pytest.approx(1.0, abs=0.02)
    with pytest.raises(ParameterError, match="n_fft=256"):
        compute_magnitudes(y, 256)


def test_onsets_stand_where_clicks_are() -> None:
    y = np.zeros(6 * SR, np.float32)
    times = [1.0, 2.0, 3.5, 4.2]
    for t in times:
        mix(y, click(), t)
    strength = compute_onset_envelopes(y, SR).sum(1)
    peaks = sorted(np.argsort(-strength)[:40] * HOP / SR)
    for t in times:
        assert min(abs(p - t) for p in peaks) < 0.04
    assert strength[: int(0.8 * SR / HOP)].max() < 0.1 * strength.max()


def test_loudness_is_drawn_between_nothing_and_all() -> None:
    y = np.concatenate([np.zeros(SR, np.float32), tone(60, 1.0)])
    level = compute_loudness(y, SR, points_per_second=20)
    assert len(level) == 40
    assert level[:19].max() == 0
    assert level.max() == 1
    assert compute_loudness(np.zeros(0, np.float32), SR).size == 0


def test_gathering_by_blocks_is_the_same_as_all_at_once() -> None:
    y = np.random.default_rng(4).standard_normal(30 * SR).astype(np.float32)
    kernel = np.random.default_rng(5).random((1025, 7)).astype(np.float32)
    assert np.allclose(compute_magnitudes(y, 2048, kernel=kernel), compute_magnitudes(y, 2048) @ kernel, rtol=1e-4)


def test_how_loud_the_loud_frames_are() -> None:
    y = np.concatenate([np.zeros(4 * SR, np.float32), 0.5 * np.sin(np.arange(SR) / 7).astype(np.float32)])
    assert measure_loud_frames(y) == pytest.approx(0.5 / np.sqrt(2), rel=0.02)
    assert measure_loud_frames(0.1 * y) == pytest.approx(0.1 * measure_loud_frames(y))
    assert measure_loud_frames(np.zeros(SR, np.float32)) == measure_loud_frames(np.zeros(0, np.float32)) == 0


def test_onsets_of_quiet_samples_taken_to_be_loud_are_those_of_loud_ones() -> None:
    y = np.zeros(3 * SR, np.float32)
    for t in (0.5, 1.2, 2.0):
        mix(y, click(), t)
    assert np.allclose(compute_onset_envelopes(0.25 * y, SR, gain=4.0), compute_onset_envelopes(y, SR), atol=1e-3)
    assert not np.allclose(compute_onset_envelopes(0.25 * y, SR), compute_onset_envelopes(y, SR), atol=1e-3)
