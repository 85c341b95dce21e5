"""Onset envelopes: how much new sound begins at each moment, whole and by band.

Log-compressed spectral flux with a vibrato-tolerant maximum over neighbouring bands, after
S. Böck & G. Widmer, "Maximum Filter Vibrato Suppression for Onset Detection", DAFx 2013.
"""

from __future__ import annotations

import numpy as np
from scipy.ndimage import maximum_filter1d, uniform_filter1d

from valley.audio.spectra import HOP, Floats, compute_magnitudes

BANDS_HZ = ((30.0, 160.0), (160.0, 800.0), (800.0, 3500.0), (3500.0, 10500.0))
_N_FFT = 2048


def _filterbank(sr: int) -> Floats:
    """Twelve triangles an octave from 30 Hz up, shape (bins, bands)."""
    freqs = np.arange(_N_FFT // 2 + 1) * sr / _N_FFT
    centre = np.unique(np.round(30 * 2 ** (np.arange(0, 102) / 12) / (sr / _N_FFT))) * (sr / _N_FFT)
    centre = centre[(centre > 0) & (centre < sr / 2)]
    out = np.zeros((len(freqs), len(centre) - 2), np.float32)
    for i in range(len(centre) - 2):
        a, b, c = centre[i : i + 3]
        out[:, i] = np.clip(np.minimum((freqs - a) / (b - a), (c - freqs) / (c - b)), 0, None)
    return out


def compute_onset_envelopes(y: Floats, sr: int, *, gain: float = 1.0) -> Floats:
    """Flux in four bands, 20 ms a frame.

    Parameters
    ----------
    y : mono samples, shape (n,), -1 to 1
    sr : samples a second
    gain : how many times as loud the samples are taken to be

    Returns
    -------
    array, shape (frames, 4)
        each band divided by its own local level, so that quiet passages count as loud ones do
    """
    bank = _filterbank(sr)
    centres = (np.arange(_N_FFT // 2 + 1) * sr / _N_FFT) @ bank / bank.sum(0)
    bands = np.log1p(1000 * gain * compute_magnitudes(y, _N_FFT, kernel=bank))
    reference = maximum_filter1d(bands, 3, axis=1)
    lag = 2
    flux = np.zeros_like(bands)
    flux[lag:] = np.maximum(bands[lag:] - reference[:-lag], 0)
    out = np.stack([flux[:, (centres >= lo) & (centres < hi)].mean(1) for lo, hi in BANDS_HZ], axis=1)
    level = uniform_filter1d(out, int(8 * sr / HOP), axis=0, mode="reflect")
    overall = out.mean(0, keepdims=True)
    return np.asarray(out / (0.7 * level + 0.3 * overall + 1e-4), np.float32)


def compute_loudness(y: Floats, sr: int, *, points_per_second: float = 20.0) -> Floats:
    """Root-mean-square level for drawing, shape (n,), 0 to 1 of the loudest stretch.

    Parameters
    ----------
    y : mono samples, shape (n,), -1 to 1
    sr : samples a second
    points_per_second : of the drawing
    """
    step = int(sr / points_per_second)
    trimmed = y[: len(y) // step * step].reshape(-1, step)
    level = np.sqrt(np.einsum("ij,ij->i", trimmed, trimmed, dtype=np.float64) / step)  # no squares of half an hour are held
    return np.asarray(level / (level.max() if level.size and level.max() > 0 else 1.0), np.float32)
