"""Spectra on musical axes: short-time magnitudes, log-frequency bins at the recording's tuning, note activations.

After M. Mauch & S. Dixon, "Approximate Note Transcription for the Improved Identification of
Difficult Chords", ISMIR 2010: spectral whitening over an octave, then non-negative least squares
against harmonic templates. Two window lengths are joined: long below, where notes lie close, short above.
"""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np
import numpy.typing as npt
from scipy.fft import rfft
from scipy.ndimage import uniform_filter1d

from valley.errors import ParameterError

Floats = npt.NDArray[np.float32]

HOP = 441  # 20 ms at 22.05 kHz
BINS_PER_SEMITONE = 3
LOW_MIDI, HIGH_MIDI = 24, 108  # of the log-frequency axis; templates stop at TOP_NOTE
TOP_NOTE = 96
_LONG, _SHORT, _ATTACK = 8192, 4096, 2048
_SPLIT_MIDI = 62
_PARTIALS, _ROLL_OFF = 12, 0.7
_BLOCK = 1024  # frames


def compute_magnitudes(y: Floats, n_fft: int, *, hop_length: int = HOP, max_bin: int | None = None, kernel: Floats | None = None) -> Floats:
    """Hann-windowed magnitudes, frames centred on multiples of the hop.

    Parameters
    ----------
    y : shape (samples,)
    n_fft : window length in samples
    max_bin : keep so many bins from the lowest
    kernel : shape (bins, n); gathers the bins block by block, so that a long recording's full spectrum is never held

    Returns
    -------
    array, shape (frames, bins), or (frames, n) with a kernel
        scaled so that a full-scale sine reads 1
    """
    if n_fft < hop_length:
        raise ParameterError(f"n_fft={n_fft} must be at least hop_length={hop_length}; frames would skip samples")
    window = (0.5 - 0.5 * np.cos(2 * np.pi * np.arange(n_fft) / n_fft)).astype(np.float32)  # Hann's, for spectra
    count, bins = len(y) // hop_length + 1, max_bin or n_fft // 2 + 1
    out = np.empty((count, bins if kernel is None else kernel.shape[1]), np.float32)
    for i in range(0, count, _BLOCK):
        frames = _frames(y, i * hop_length - n_fft // 2, min(_BLOCK, count - i), n_fft, hop_length)
        magnitudes = np.abs(rfft(frames * window, axis=1)[:, :bins])  # scipy's takes many rows at once: three times as quick as numpy's
        out[i : i + _BLOCK] = magnitudes if kernel is None else magnitudes @ kernel
    out *= np.float32(2.0 / window.sum())
    return out


def _frames(y: Floats, start: int, count: int, size: int, hop_length: int) -> Floats:
    """``count`` windows from sample ``start`` on, nothing before the first sample and behind the last; shape (count, size)."""
    end = start + (count - 1) * hop_length + size
    inside = y[max(0, start) : end]
    padded = np.pad(inside, (max(0, -start), end - max(0, start) - len(inside)))
    return np.lib.stride_tricks.sliding_window_view(padded, size)[::hop_length]


def _axis() -> npt.NDArray[np.float64]:
    return np.arange(LOW_MIDI - 1 / 3, HIGH_MIDI + 0.5, 1 / BINS_PER_SEMITONE)


def _kernel(midi: npt.NDArray[np.float64], sr: int, n_fft: int, tuning_cents: float) -> Floats:
    """Matrix (n_fft bins × log bins) that gathers FFT bins around each log-frequency centre."""
    centre = 440.0 * 2 ** ((midi - 69 + tuning_cents / 100) / 12)
    width = np.maximum(centre * (2 ** (1 / (12 * BINS_PER_SEMITONE)) - 1), sr / n_fft)
    freqs = np.arange(n_fft // 2 + 1) * sr / n_fft
    weight = np.clip(1 - np.abs(freqs[:, None] - centre) / width, 0, None)
    return np.asarray(weight / np.maximum(weight.sum(0), 1e-9), np.float32)


def compute_log_spectrum(y: Floats, sr: int, *, tuning_cents: float = 0.0) -> Floats:
    """Magnitudes at three bins a semitone, tuned to the recording.

    Parameters
    ----------
    y : mono samples, shape (n,), -1 to 1
    sr : samples a second
    tuning_cents : how much higher than A4 = 440 Hz the recording is tuned

    Returns
    -------
    array, shape (frames, bins)
        bin ``3 * (m - 24) + 1`` is centred on MIDI number ``m``
    """
    midi = _axis()
    top = int(_LONG / sr * 440 * 2 ** ((HIGH_MIDI + 2 - 69) / 12)) + 2
    low = midi < _SPLIT_MIDI
    out = np.empty((len(y) // HOP + 1, len(midi)), np.float32)
    for n_fft, chosen in ((_LONG, low), (_SHORT, ~low)):
        bins = min(top * n_fft // _LONG + 1, n_fft // 2 + 1)
        out[:, chosen] = compute_magnitudes(y, n_fft, max_bin=bins, kernel=_kernel(midi[chosen], sr, n_fft, tuning_cents)[:bins])
    return out


def compute_attack_spectrum(y: Floats, sr: int, *, tuning_cents: float = 0.0) -> Floats:
    """Magnitudes at one bin a semitone from a short window: blurred in pitch below middle C, sharp in time.

    Parameters
    ----------
    y : mono samples, shape (n,), -1 to 1
    sr : samples a second
    tuning_cents : how much higher than A4 = 440 Hz the recording is tuned

    Returns
    -------
    array, shape (frames, 85)
        bin ``m - 24`` is centred on MIDI number ``m``
    """
    kernel = _kernel(np.arange(LOW_MIDI, HIGH_MIDI + 1).astype(np.float64), sr, _ATTACK, tuning_cents)
    return compute_magnitudes(y, _ATTACK, kernel=kernel)


def _whitened(log_spectrum: Floats) -> Iterator[Floats]:
    """The spectral envelope flattened over an octave either side, and what stands above it; block by block: half an hour has no room for copies."""
    blocks = [log_spectrum[i : i + _BLOCK] for i in range(0, len(log_spectrum), _BLOCK)]
    if not blocks:
        return
    deviation = np.empty_like(log_spectrum)
    for i, rows in enumerate(blocks):
        deviation[i * _BLOCK : (i + 1) * _BLOCK] = _spread(rows)[1]
    floor = np.float32(1e-5 + 0.02 * float(np.percentile(deviation, 95, overwrite_input=True)))
    del deviation
    for rows in blocks:
        mean, spread = _spread(rows)
        yield np.asarray(np.maximum(rows - mean, 0) / (spread + floor), np.float32)


def _spread(rows: Floats) -> tuple[Floats, Floats]:
    """Mean and standard deviation of each bin's neighbourhood, an octave either side."""
    size = 2 * 12 * BINS_PER_SEMITONE // 2 + 1
    mean = uniform_filter1d(rows, size, axis=1, mode="nearest")
    square = uniform_filter1d(rows**2, size, axis=1, mode="nearest")
    return mean, np.sqrt(np.maximum(square - mean**2, 0))


def _templates() -> Floats:
    """Harmonic series of each note on the log axis, shape (notes, bins), unit length."""
    axis = _axis()
    notes = np.arange(LOW_MIDI, TOP_NOTE + 1)
    out = np.zeros((len(notes), len(axis)), np.float32)
    for k in range(1, _PARTIALS + 1):
        place = notes[:, None] + 12 * np.log2(k)
        out += (_ROLL_OFF ** (k - 1) * np.exp(-0.5 * ((axis - place) / 0.28) ** 2)).astype(np.float32)
    return np.asarray(out / np.linalg.norm(out, axis=1, keepdims=True), np.float32)


def compute_activations(log_spectrum: Floats, *, iterations: int = 25) -> Floats:
    """How much of each note explains each frame: NNLS by multiplicative updates on the whitened spectrum.

    Parameters
    ----------
    log_spectrum : magnitudes, shape (frames, bins), three bins a semitone
    iterations : of the multiplicative updates

    Returns
    -------
    array, shape (frames, 73)
        column ``m - 24`` is MIDI number ``m``

    Source: D. D. Lee & H. S. Seung, NIPS 2000, Euclidean update with a fixed dictionary.
    """
    templates = _templates()
    gram = templates @ templates.T
    out = np.empty((len(log_spectrum), len(templates)), np.float32)
    for i, rows in enumerate(_whitened(log_spectrum)):
        target = rows @ templates.T
        h = target.copy()
        for _ in range(iterations):
            h *= target / (h @ gram + 1e-6)
        out[i * _BLOCK : (i + 1) * _BLOCK] = h
    return out
