"""What the listening tasks look at, 50 times a second: spectra of the samples, then what the trained ear hears in them.

Each step needs less than the one before, so half an hour of samples, spectra and probabilities need never be held at once.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Final

import numpy as np
import numpy.typing as npt

from valley.audio.decode import Sound
from valley.audio.loudness import measure_loud_frames
from valley.audio.onsets import compute_onset_envelopes
from valley.audio.spectra import HOP, compute_activations, compute_attack_spectrum, compute_log_spectrum, compute_magnitudes
from valley.listening.ear import Heard, hear_notes
from valley.listening.tuning import estimate_tuning
from valley.pipeline.progress import Reporter

Floats = npt.NDArray[np.float32]
COLOURS: Final = 8  # bands by whose loudness parts of a song are told apart
_TUNING_FFT: Final = 8192
_LOUD: Final = 0.42  # strength of the loud frames to which every recording is brought: that of the songs the networks were taught on


@dataclass(frozen=True)
class Spectra:
    """Measured on the samples, which are not needed afterwards."""

    duration: float  # seconds
    fps: float
    tuning_cents: float
    long: Floats  # frames × log-frequency bins
    short: Floats  # frames × semitones, sharp in time
    onsets: Floats  # frames × 4 bands


@dataclass(frozen=True)
class Features:
    """What the tasks look at."""

    duration: float  # seconds
    fps: float
    tuning_cents: float
    colours: Floats  # frames × 8, loudness of wide bands from the lowest
    activations: Floats  # frames × notes
    onsets: Floats  # frames × 4 bands
    heard: Heard


def take_spectra(sound: Sound, report: Reporter) -> Spectra:
    """Tuning, spectra at that tuning, onset envelopes; all as if the recording were as loud as what was taught."""
    report.tell("tuning")
    coarse = compute_magnitudes(sound.y, _TUNING_FFT, hop_length=HOP * 8, max_bin=1200)
    tuning = estimate_tuning(coarse, sound.sr, _TUNING_FFT)
    side = "in tune" if abs(tuning) < 2 else f"{abs(tuning):.0f} cents {'sharp' if tuning > 0 else 'flat'}"
    report.tell("spectrum", 0.0, side)
    gain = _LOUD / (measure_loud_frames(sound.y) or _LOUD)
    long = compute_log_spectrum(sound.y, sound.sr, tuning_cents=tuning)
    long *= np.float32(gain)
    report.tell("spectrum", 0.6)
    short = compute_attack_spectrum(sound.y, sound.sr, tuning_cents=tuning)
    onsets = compute_onset_envelopes(sound.y, sound.sr, gain=gain)
    return Spectra(sound.duration, sound.sr / HOP, tuning, long, short, onsets)


def hear_spectra(spectra: Spectra, report: Reporter) -> Features:
    """What the trained ear hears, and the little of the spectra that is still looked at afterwards."""
    report.tell("notes")
    heard = hear_notes(spectra.long, spectra.short, lambda share: report.tell("notes", share))
    width = spectra.long.shape[1] // COLOURS
    colours = np.stack([spectra.long[:, i * width : (i + 1) * width].mean(1) for i in range(COLOURS)], axis=1)
    return Features(spectra.duration, spectra.fps, spectra.tuning_cents, colours, compute_activations(spectra.long), spectra.onsets, heard)


def measure(sound: Sound, report: Reporter) -> Features:
    """Both steps for a sound that is short, or kept anyway."""
    return hear_spectra(take_spectra(sound, report), report)
