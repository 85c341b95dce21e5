"""Sounds with known truth, made from sines and clicks: what the tests listen to."""

from __future__ import annotations

from collections.abc import Sequence
from pathlib import Path

import av
import numpy as np
import numpy.typing as npt

from valley.fraction import Fraction
from valley.theory.chord import parse_symbol

SR = 22050
Samples = npt.NDArray[np.float32]


def tone(midi: float, seconds: float, *, sr: int = SR, partials: int = 6, cents: float = 0.0) -> Samples:
    """A plucked tone: decaying partials."""
    t = np.arange(int(seconds * sr)) / sr
    f = 440 * 2 ** ((midi - 69 + cents / 100) / 12)
    y = sum(0.6**k * np.sin(2 * np.pi * f * (k + 1) * t) for k in range(partials) if f * (k + 1) < sr / 2)
    return (np.asarray(y) * np.exp(-1.5 * t) * np.minimum(1, t / 0.005) * np.minimum(1, (seconds - t) / 0.02)).astype(np.float32)


def click(seconds: float = 0.03, *, sr: int = SR, seed: int = 0) -> Samples:
    t = np.arange(int(seconds * sr)) / sr
    noise = np.random.default_rng(seed).standard_normal(len(t))
    return (noise * np.exp(-150 * t) * 0.5).astype(np.float32)


def mix(y: Samples, piece: Samples, at: float, gain: float = 1.0, *, sr: int = SR) -> None:
    start = int(at * sr)
    end = min(len(y), start + len(piece))
    if end > start:
        y[start:end] += gain * piece[: end - start]


def song(
    symbols: Sequence[str],
    *,
    bpm: float = 120.0,
    beats_per_bar: int = 4,
    tune: Sequence[tuple[Fraction | float, float, int]] = (),
    cents: float = 0.0,
    lead_in: float = 0.3,
) -> Samples:
    """One chord a bar with bass, clicks on the beats (strong on the first), and a tune as (beat, beats, midi)."""
    beat = 60 / bpm
    y = np.zeros(int((lead_in + len(symbols) * beats_per_bar * beat + 0.8) * SR), np.float32)
    for bar, symbol in enumerate(symbols):
        chord = parse_symbol(symbol)
        for k in range(beats_per_bar):
            at = lead_in + (bar * beats_per_bar + k) * beat
            mix(y, click(seed=bar * 7 + k), at, 0.5 if k == 0 else 0.3)
            if chord is None:
                continue
            if k == 0:
                mix(y, tone(36 + chord.bass.pitch_class, beats_per_bar * beat, cents=cents), at, 0.6)
            for name in chord.members():
                mix(y, tone(55 + (name.pitch_class - 55) % 12, beat, cents=cents), at, 0.22)
    for start, length, midi in tune:
        mix(y, tone(midi, float(length) * beat, cents=cents, partials=4), lead_in + float(start) * beat, 0.7)
    loud: Samples = (0.8 * y / np.abs(y).max()).astype(np.float32)
    return loud


def save(y: Samples, path: Path, *, sr: int = SR, layout: str = "mono", wanted: int = 0) -> Path:
    """Encode by the path's ending: wav, mp3, m4a, opus, flac; ``wanted`` is the file's own where it is not the usual one."""
    codec, rate = {
        ".wav": ("pcm_s16le", sr),
        ".mp3": ("libmp3lame", 44100),
        ".m4a": ("aac", 44100),
        ".opus": ("libopus", 48000),
        ".flac": ("flac", sr),
    }[path.suffix]
    rate = wanted or rate
    with av.open(str(path), "w") as out:
        stream = out.add_stream(codec, rate=rate)
        stream.layout = layout
        resampler, fifo = av.AudioResampler(format=stream.format.name, layout=layout, rate=rate), av.AudioFifo()
        frame = av.AudioFrame.from_ndarray(np.ascontiguousarray(y[None]), format="fltp", layout="mono")
        frame.sample_rate = sr
        for piece in [*resampler.resample(frame), *resampler.resample(None)]:
            fifo.write(piece)
        while (chunk := fifo.read(stream.frame_size or 4096, partial=True)) is not None:
            out.mux(stream.encode(chunk))
        out.mux(stream.encode(None))
    return path


def save_silent_video(path: Path, seconds: float = 6.0) -> Path:
    """A video that has no sound track."""
    with av.open(str(path), "w") as out:
        stream = out.add_stream("mpeg4", rate=5)
        stream.width = stream.height = 64
        stream.pix_fmt = "yuv420p"
        for i in range(int(seconds * 5)):
            frame = av.VideoFrame.from_ndarray(np.full((64, 64, 3), i * 3 % 255, np.uint8), format="rgb24")
            out.mux(stream.encode(frame))
        out.mux(stream.encode(None))
    return path
