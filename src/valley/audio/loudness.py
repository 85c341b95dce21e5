"""How loud sound is, and bringing it to a level: ITU-R BS.1770-4 (K-weighting, gated), and a limiter that looks ahead."""

from __future__ import annotations

import numpy as np
import numpy.typing as npt

Floats = npt.NDArray[np.float32]
_BLOCK, _HOP = 0.4, 0.1  # seconds
_ABSOLUTE, _RELATIVE = -70.0, -10.0
_AHEAD = 0.004
_THOUGHT = 8192  # samples, longer than the limiter looks ahead
_FRAME = 1024  # samples, a twentieth of a second as recordings are heard
_HISS = 1e-12  # of full scale, 170 dB under what counts as silence


def _shelf(rate: int) -> tuple[npt.NDArray[np.float64], npt.NDArray[np.float64]]:
    """The head's high shelf of BS.1770, for any rate (bilinear transform, as in EBU Tech 3341's reference)."""
    f0, gain, q = 1681.974450955533, 3.999843853973347, 0.7071752369554196
    k = np.tan(np.pi * f0 / rate)
    vh, vb = 10 ** (gain / 20), (10 ** (gain / 20)) ** 0.4996667741545416
    a0 = 1 + k / q + k * k
    b = np.array([vh + vb * k / q + k * k, 2 * (k * k - vh), vh - vb * k / q + k * k]) / a0
    return b, np.array([1, 2 * (k * k - 1) / a0, (1 - k / q + k * k) / a0])


def _high_pass(rate: int) -> tuple[npt.NDArray[np.float64], npt.NDArray[np.float64]]:
    f0, q = 38.13547087602444, 0.5003270373238773
    k = np.tan(np.pi * f0 / rate)
    a0 = 1 + k / q + k * k
    return np.array([1.0, -2.0, 1.0]), np.array([1, 2 * (k * k - 1) / a0, (1 - k / q + k * k) / a0])


def _hops(y: Floats, rate: int, hop: int) -> npt.NDArray[np.float64]:
    """The weighted power of every whole hop, filtered piece by piece, so that an hour needs no more room than a minute."""
    from scipy.signal import sosfilt  # takes a second to load, which only who measures should wait for

    sections = np.stack([np.concatenate(f(rate)) for f in (_shelf, _high_pass)])
    state = np.zeros((len(sections), len(y), 2))
    size = 100 * hop
    hiss = _HISS * np.random.default_rng(0).standard_normal(size)
    out = []
    for at in range(0, y.shape[1], size):
        piece = y[:, at : at + size].astype(np.float64)
        piece += hiss[: piece.shape[1]]  # else the filters ring out into numbers so small that the processor takes a hundred times as long
        piece, state = sosfilt(sections, piece, axis=1, zi=state)
        squared = (piece**2).sum(0)
        whole = len(squared) // hop
        out.append(squared[: whole * hop].reshape(whole, hop).sum(1))
    return np.concatenate(out) if out else np.zeros(0)


def measure_loud_frames(y: Floats) -> float:
    """Root mean square of the loud frames of mono samples, shape (n,): nine frames of ten are softer. 0 for silence."""
    size = _FRAME if len(y) >= _FRAME else max(1, len(y))
    frames = y[: len(y) // size * size].reshape(-1, size)
    if not frames.size:
        return 0.0
    power = np.einsum("ij,ij->i", frames, frames, dtype=np.float64) / size
    return float(np.sqrt(np.percentile(power, 90)))


def measure_loudness(y: Floats, rate: int) -> float:
    """Integrated loudness in LUFS; -inf for silence.

    Parameters
    ----------
    y : shape (channels, samples), full scale is 1
    """
    hop = round(_HOP * rate)
    power = _hops(y, rate, hop)
    whole = round(_BLOCK / _HOP)
    if len(power) < whole:
        power = np.concatenate([power, np.zeros(whole - len(power))])
    energy = np.convolve(power, np.ones(whole), "valid") / (whole * hop)
    with np.errstate(divide="ignore"):
        level = -0.691 + 10 * np.log10(energy)
        loud = energy[level > _ABSOLUTE]
        if not len(loud):
            return float("-inf")
        gate = -0.691 + 10 * np.log10(loud.mean()) + _RELATIVE
        kept = energy[level > max(gate, _ABSOLUTE)]
        return float(-0.691 + 10 * np.log10(kept.mean()))


def limit(y: Floats, rate: int, ceiling: float = 0.89) -> Floats:
    """No sample above the ceiling: the gain goes down before a peak and comes up after it, both channels alike."""
    peaks = np.abs(y).max(0)
    out = y.astype(np.float32)  # a copy
    for begin, end in _loud_stretches(peaks, ceiling):
        need = np.minimum(1.0, ceiling / np.maximum(peaks[begin:end], 1e-9))
        out[:, begin:end] *= np.minimum(_gain(need, max(1, round(_AHEAD * rate))), need)
    return out


def _loud_stretches(peaks: Floats, ceiling: float) -> list[tuple[int, int]]:
    """Where the gain must be thought about: blocks that go over the ceiling, and one to each side."""
    loud = np.maximum.reduceat(peaks, np.arange(0, len(peaks), _THOUGHT)) > ceiling if len(peaks) else np.zeros(0, bool)
    near = np.convolve(loud, np.ones(3), "same") > 0
    edges = np.flatnonzero(np.diff(np.concatenate([[False], near, [False]]).astype(int)))
    return [(int(a) * _THOUGHT, min(int(b) * _THOUGHT, len(peaks))) for a, b in edges.reshape(-1, 2)]


def _gain(need: npt.NDArray[np.floating], width: int) -> npt.NDArray[np.floating]:
    from scipy.ndimage import minimum_filter1d, uniform_filter1d

    gain: npt.NDArray[np.floating] = uniform_filter1d(minimum_filter1d(need, 2 * width + 1), width)
    return gain


def bring_to(y: Floats, rate: int, lufs: float = -16.0) -> Floats:
    """Sound at a loudness, within the limiter's reach; silence stays silence."""
    for _ in range(3):  # limiting takes some of it away again
        now = measure_loudness(y, rate)
        if not np.isfinite(now) or abs(now - lufs) < 0.2:
            break
        y = limit((y * 10 ** ((lufs - now) / 20)).astype(np.float32), rate)
    return y
