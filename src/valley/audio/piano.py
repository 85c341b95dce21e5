"""A piano that plays into an array: the samples that ship with Valley, laid at the places of notes.

Three layers of samples every minor third, struck softly, well and hard, moved to the keys between by resampling; between the layers softer strokes
are darker (a one-pole low-pass), as felt makes them. All layers are brought to the middle one's strength, so that how loud a stroke is, is one rule.
"""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from functools import lru_cache
from pathlib import Path
from typing import Final

import av
import numpy as np
import numpy.typing as npt

from valley.errors import ParameterError

Floats = npt.NDArray[np.float32]
RATE: Final = 44_100
SAMPLES: Final = Path(__file__).parent / "samples"
LAYERS: Final = {"samples_soft": 0.4, "samples": 0.7, "samples_hard": 1.0}  # folders of samples, and up to which force each is played
_STEPS = {"C": 0, "D": 2, "E": 4, "F": 5, "G": 7, "A": 9, "B": 11}
_LETS_GO = 0.09  # seconds in which a string falls silent under the damper, to a third
_UNDAMPED = 89  # keys from here up have no damper
_ONSET = 0.02  # of a sample's peak: there the hammer is heard
_LEAD = 0.0005  # seconds kept before it


@dataclass(frozen=True)
class Stroke:
    """A key struck at ``start`` seconds and let go at ``end``; ``force`` from 0 to 1; ``pan`` from -1 (left ear) to 1."""

    start: float
    end: float
    midi: int
    force: float = 0.6
    pan: float = 0.0


@lru_cache(maxsize=1)
def _sampled() -> dict[int, str]:
    """The keys that were recorded, and their files' names."""
    found = {12 * (int(name[-1]) + 1) + _STEPS[name[0]] + ("s" in name[1:-1]): name for name in (path.stem for path in SAMPLES.glob("*.mp3"))}
    if not found:
        raise ParameterError(f"no piano samples lie in {SAMPLES}; the installation is not whole")
    return found


@lru_cache(maxsize=100)
def _load(name: str, layer: str) -> Floats:
    """One sample from where its hammer strikes."""
    with av.open(str(SAMPLES.parent / layer / f"{name}.mp3")) as source:
        y = np.concatenate([f.to_ndarray().mean(0) for f in source.decode(audio=0)]).astype(np.float32)
    onset = int(np.argmax(np.abs(y) > _ONSET * np.abs(y).max()))
    y = y[max(0, onset - int(_LEAD * RATE)) :]
    if layer != SAMPLES.name:
        y *= _strength(_load(name, SAMPLES.name)) / _strength(y)
    return y


def _strength(y: Floats) -> float:
    """Of what is heard at once: root mean square of the first half second."""
    return float(np.sqrt(np.mean(y[: RATE // 2] ** 2)))


@lru_cache(maxsize=128)
def sound_of_key(midi: int, layer: str = SAMPLES.name) -> Floats:
    """The sound of a key, six seconds at most: the nearest sample, played faster or slower by at most a whole step.

    Parameters
    ----------
    midi : MIDI number, 21 to 108
    layer : how it is struck, one of ``LAYERS``
    """
    if not 21 <= midi <= 108:
        raise ParameterError(f"midi={midi} is no key of a piano; 21 to 108 are")
    nearest = min(_sampled(), key=lambda k: (abs(k - midi), k))
    y = _load(_sampled()[nearest], layer)
    ratio = 2 ** ((midi - nearest) / 12)
    if ratio == 1:
        return y
    places = np.arange(0, len(y) - 1, ratio)
    moved: Floats = np.interp(places, np.arange(len(y)), y).astype(np.float32)
    return moved


def play(strokes: Iterable[Stroke], seconds: float) -> Floats:
    """All strokes mixed: an array of shape (2, samples), left and right, at ``RATE``; not yet brought to a level.

    Parameters
    ----------
    seconds : how long the array is; what rings on after it is cut
    """
    out = np.zeros((2, round(seconds * RATE)), np.float32)
    for s in strokes:
        at = round(s.start * RATE) - int(_LEAD * RATE)
        y = _struck(s.midi, round(s.force, 1))
        if s.midi < _UNDAMPED:
            y = _let_go(y, s.end - s.start)
        skip = max(0, -at)
        y = y[skip : skip + out.shape[1] - max(0, at)]
        angle = (s.pan + 1) * np.pi / 4  # constant power
        gain = 0.25 + 0.75 * s.force
        begin = max(0, at)
        out[0, begin : begin + len(y)] += gain * np.cos(angle) * y
        out[1, begin : begin + len(y)] += gain * np.sin(angle) * y
    return out


@lru_cache(maxsize=512)
def _struck(midi: int, force: float) -> Floats:
    layer = next(name for name, reaches in LAYERS.items() if force <= reaches)
    y = sound_of_key(midi, layer)
    keep = 0.35 * (LAYERS[layer] - force)  # of the sample before: the softer, the darker
    if keep <= 0:
        return y
    from scipy.signal import lfilter  # takes a second to load

    darker: Floats = lfilter([1 - keep], [1, -keep], y).astype(np.float32)
    return darker


def _let_go(y: Floats, seconds: float) -> Floats:
    """A sound under its damper from ``seconds`` on."""
    end = round(max(seconds, 0.04) * RATE)
    if end >= len(y):
        return y
    tail = min(len(y) - end, round(6 * _LETS_GO * RATE))
    fade = np.exp(-np.arange(tail) / (_LETS_GO * RATE)).astype(np.float32)
    return np.concatenate([y[:end], y[end : end + tail] * fade])


def click(seconds: float, *, strong: bool) -> Floats:
    """A click of the metronome, one channel."""
    t = np.arange(round(0.06 * RATE)) / RATE
    tone: Floats = (np.sin(2 * np.pi * (1320 if strong else 990) * t) * np.exp(-t / 0.012) * (0.5 if strong else 0.32)).astype(np.float32)
    return tone[: max(1, round(seconds * RATE))]
