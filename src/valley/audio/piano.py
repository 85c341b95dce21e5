"""A piano that plays into an array: the samples that ship with Valley, laid at the places of notes.

One layer of samples every minor third, moved to the keys between by resampling; softer strokes are darker (a one-pole low-pass), as felt makes them.
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
def _recorded() -> dict[int, Floats]:
    """The samples by key, each from where its hammer strikes."""
    found = {}
    for path in sorted(SAMPLES.glob("*.mp3")):
        name = path.stem
        midi = 12 * (int(name[-1]) + 1) + _STEPS[name[0]] + ("s" in name[1:-1])
        with av.open(str(path)) as source:
            y = np.concatenate([f.to_ndarray().mean(0) for f in source.decode(audio=0)]).astype(np.float32)
        onset = int(np.argmax(np.abs(y) > _ONSET * np.abs(y).max()))
        found[midi] = y[max(0, onset - int(_LEAD * RATE)) :]
    if not found:
        raise ParameterError(f"no piano samples lie in {SAMPLES}; the installation is not whole")
    return found


@lru_cache(maxsize=128)
def sound_of_key(midi: int) -> Floats:
    """The sound of a key, six seconds at most: the nearest sample, played faster or slower by at most a whole step.

    Parameters
    ----------
    midi : MIDI number, 21 to 108
    """
    if not 21 <= midi <= 108:
        raise ParameterError(f"midi={midi} is no key of a piano; 21 to 108 are")
    recorded = _recorded()
    nearest = min(recorded, key=lambda k: (abs(k - midi), k))
    y = recorded[nearest]
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
    y = sound_of_key(midi)
    if force >= 0.9:
        return y
    keep = 0.35 * (0.9 - force)  # of the sample before: the softer, the darker
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
