"""Tuning: how far the recording's pitch stands from A4 = 440 Hz.

Spectral peaks are placed exactly by parabolic interpolation of the log magnitude (J. O. Smith,
"Spectral Audio Signal Processing", 2011); their distances from equal temperament are averaged on the
circle of one semitone, weighted by size, and refined once around the first answer.
"""

from __future__ import annotations

import numpy as np
import numpy.typing as npt

Floats = npt.NDArray[np.float32]


def estimate_tuning(magnitudes: Floats, sr: int, n_fft: int) -> float:
    """Cents from A4 = 440 Hz, within -50 to 50.

    Parameters
    ----------
    magnitudes : shape (frames, bins), a spread of frames is enough
    sr : sample rate in hertz
    n_fft : window length of the spectrum in samples
    """
    lo, hi = int(150 * n_fft / sr), min(int(2200 * n_fft / sr), magnitudes.shape[1] - 2)
    if hi <= lo or not magnitudes.any():
        return 0.0
    log_mag = np.log(magnitudes + 1e-9)
    centre = log_mag[:, lo:hi]
    left, right = log_mag[:, lo - 1 : hi - 1], log_mag[:, lo + 1 : hi + 1]
    floor = np.log(magnitudes.max(1, keepdims=True) * 0.03 + 1e-9)
    frame, bin_ = np.nonzero((centre > left) & (centre >= right) & (centre > floor))
    if not len(frame):
        return 0.0
    a, b, c = left[frame, bin_], centre[frame, bin_], right[frame, bin_]
    offset = 0.5 * (a - c) / np.minimum(a - 2 * b + c, -1e-6)
    freqs = (bin_ + lo + offset) * sr / n_fft
    cents = 1200 * np.log2(freqs / 440.0)
    weight = np.exp(0.5 * b) * np.sqrt(freqs)
    mean = float(np.angle(np.sum(weight * np.exp(2j * np.pi * cents / 100))) / (2 * np.pi) * 100)
    for spread in (25.0, 12.0):
        rest = (cents - mean + 50) % 100 - 50
        near = np.abs(rest) < spread
        mean += float(np.average(rest[near], weights=weight[near])) if near.any() else 0.0
    return (mean + 50) % 100 - 50
