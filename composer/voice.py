"""A plain singing voice: harmonics of a gliding, vibrating pitch shaped by vowels' formants, with noisy consonants.

Formant centres are the usual textbook values for five vowels (after G. Peterson & H. Barney, 1952, rounded); the source
is a falling harmonic series. It sings invented syllables, so no words.
"""

from __future__ import annotations

from collections.abc import Sequence
from random import Random

import numpy as np
import numpy.typing as npt

Floats = npt.NDArray[np.float32]
SR = 22050
_STEP = 110  # samples a control point
_VOWELS = {"a": (730, 1090, 2440), "e": (530, 1840, 2480), "i": (270, 2290, 3010), "o": (570, 840, 2410), "u": (300, 870, 2240)}
_WIDTHS = (90.0, 110.0, 170.0)


def sing(notes: Sequence[tuple[float, float, int]], seconds: float, rng: Random) -> Floats:
    """Mono samples at 22.05 kHz of notes (start, end, midi)."""
    points = int(seconds * SR) // _STEP + 2
    pitch, loud, breath = np.zeros(points), np.zeros(points), np.zeros(points)
    formants = np.zeros((points, 3))
    rate, depth, delay = rng.uniform(4.8, 6.4), rng.uniform(0.12, 0.5), rng.uniform(0.1, 0.35)
    scoop, throat = rng.uniform(0, 1.5), rng.uniform(0.9, 1.2)
    glide = rng.uniform(0.02, 0.07)
    drift = np.convolve(np.random.default_rng(rng.randrange(2**31)).standard_normal(points), np.ones(60) / 60, "same") * 0.25
    ctl = SR / _STEP
    before: tuple[float, float, int] | None = None
    for note in notes:
        start, end, midi = note
        legato = before is not None and start - before[1] < 0.08 and rng.random() < 0.35
        a, b = int(start * ctl), max(int(start * ctl) + 4, int(end * ctl))
        b = min(b, points)
        if b - a < 4:
            continue
        t = np.arange(b - a) / ctl
        line = np.full(b - a, float(midi))
        origin = float(before[2]) if legato and before else midi - scoop * rng.random()
        line += (origin - midi) * np.exp(-t / glide)
        line += depth * np.clip((t - delay) / 0.2, 0, 1) * np.sin(2 * np.pi * rate * t + rng.uniform(0, 6)) + drift[a:b]
        pitch[a:b] = line
        rise = 0.015 if legato else rng.uniform(0.02, 0.06)
        shape = np.clip(t / rise, 0, 1) * np.clip((t[-1] - t + 0.01) / 0.06, 0, 1) * rng.uniform(0.8, 1.1)
        shape *= 1 + 0.15 * np.sin(np.pi * t / max(t[-1], 0.1))
        if not legato:
            gap = int(rng.uniform(0.02, 0.09) * ctl)  # the consonant closes the mouth before the vowel
            kind = rng.choice(["none", "stop", "hiss", "voiced"])
            if kind in ("stop", "hiss") and a - gap > 0:
                loud[a - gap : a] *= 0.1
                breath[a - gap : a] += (0.5 if kind == "hiss" else 0.15) * np.hanning(gap) if gap > 2 else 0
            elif kind == "voiced":
                shape[: int(0.05 * ctl)] *= 0.4
        loud[a:b] = shape
        vowel = np.array(_VOWELS[rng.choice("aeiou")]) * throat
        formants[a:b] = vowel
        before = note
    still = pitch <= 0
    pitch[still] = 60
    formants[formants[:, 0] <= 0] = np.array(_VOWELS["a"]) * throat
    kernel = np.ones(9) / 9
    formants = np.stack([np.convolve(np.pad(f, 4, "edge"), kernel, "valid") for f in formants.T], axis=1)
    grid = np.arange(points) * _STEP
    samples = np.arange(int(seconds * SR))
    f0 = np.interp(samples, grid, 440 * 2 ** ((pitch - 69) / 12))
    phase = 2 * np.pi * np.cumsum(f0) / SR
    out = np.zeros(len(samples))
    f0_control = 440 * 2 ** ((pitch - 69) / 12)
    tilt = rng.uniform(0.9, 1.5)
    for k in range(1, 36):
        f = f0_control * k
        gain = np.zeros(points)
        for j in range(3):
            gain += (1.0, 0.6, 0.35)[j] / (1 + ((f - formants[:, j]) / _WIDTHS[j]) ** 2)
        gain = (gain + 0.02) * k**-tilt * (f < SR / 2 - 500) * loud
        if gain.max() > 1e-4:
            out += np.interp(samples, grid, gain) * np.sin(k * phase)
    noise = np.random.default_rng(rng.randrange(2**31)).standard_normal(len(samples))
    noise = np.diff(noise, prepend=0.0)
    out += 0.25 * np.interp(samples, grid, breath + 0.03 * loud) * noise
    return np.asarray(out / (np.abs(out).max() + 1e-9), dtype=np.float32)
