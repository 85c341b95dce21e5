"""The trained ears: small convolutional networks that tell from the spectrum which notes sound, and whose they are.

For every frame and pitch it gives the probability that a note sounds, that one begins, and the same for the tune and for
the bass line. Input is the log-frequency spectrum stacked at harmonic distances (after R. Bittner, B. McFee, J. Salamon,
P. Li & J. Bello, "Deep Salience Representations for F0 Estimation in Polyphonic Music", ISMIR 2017) and a short-window
spectrum for sharp beginnings (onsets and frames as two tasks: C. Hawthorne et al., "Onsets and Frames", ISMIR 2018).
Two of them listen, and the mean of what they say is taken: one that looks at a tenth of a second, and one that was taught further, on voices and scores above
all, and looks a second to either side. Where one is mistaken the other seldom is in the same way (L. Hansen & P. Salamon, "Neural Network Ensembles", IEEE PAMI
1990). Trained by ``training/train_ear.py``, written in whole numbers by ``training/quantise.py``, run by ONNX Runtime on the processor.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

import numpy as np
import numpy.typing as npt

from valley.errors import ParameterError
from valley.listening._networks import load_network

Floats = npt.NDArray[np.float32]

LOW_MIDI, PITCHES = 24, 84
_FLOOR_DECADES = 3.5  # of loudness below the song's loud frames; what lies deeper reads 0
_CHUNK, _MARGIN = 1000, 100  # frames; the margin covers what the networks see to either side
_EARS = ("ear", "ear_wide")


@dataclass(frozen=True)
class Heard:
    """Probabilities in every frame for every pitch from MIDI 24, each of shape (frames, 84)."""

    sounds: Floats
    begins: Floats
    tune: Floats
    tune_begins: Floats
    bass: Floats
    bass_begins: Floats


def scale_input(spectrum: Floats) -> Floats:
    """Loudness on a scale from 0 to about 1, in decades below the song's loud frames.

    Parameters
    ----------
    spectrum : magnitudes, shape (frames, bins)
    """
    if spectrum.ndim != 2:
        raise ParameterError(f"spectrum has shape {spectrum.shape}; it must be frames × bins")
    return _scaled(spectrum, _find_reference(spectrum))


def _find_reference(spectrum: Floats) -> float:
    """How loud the song's loud frames are."""
    return float(np.percentile(spectrum.max(1), 95)) + 1e-9 if len(spectrum) else 1.0


def _scaled(spectrum: Floats, reference: float) -> Floats:
    return np.asarray(np.clip(np.log10(spectrum / reference + 1e-7) / _FLOOR_DECADES + 1, 0, 1.3), np.float32)


def hear_notes(long: Floats, short: Floats, on_progress: Callable[[float], None] = lambda share: None) -> Heard:
    """Run the networks over a recording.

    Parameters
    ----------
    long : shape (frames, ≥ 252), three bins a semitone from MIDI 24
    short : shape (frames, ≥ 84), one bin a semitone from MIDI 24
    on_progress : told the share done
    """
    if len(long) != len(short) or long.shape[1] < 3 * PITCHES or short.shape[1] < PITCHES:
        raise ParameterError(f"long {long.shape} and short {short.shape} must have equal frames, and 252 and 84 bins or more")
    ears = [load_network(name) for name in _EARS]
    loud, loud_short = _find_reference(long), _find_reference(short)
    out = np.empty((6, len(long), PITCHES), np.float32)
    for at in range(0, len(long), _CHUNK):
        inputs = {"long": _window(long, at, 3 * PITCHES, loud), "short": _window(short, at, PITCHES, loud_short)}
        result = sum(ear(**inputs)[0] for ear in ears) / np.float32(len(ears))
        size = min(_CHUNK, len(long) - at)
        out[:, at : at + size] = result[:, _MARGIN : _MARGIN + size]
        on_progress((at + size) / len(long))
    return Heard(*out)


def _window(values: Floats, at: int, bins: int, reference: float) -> Floats:
    """One chunk with its margins as the network takes it, shape (1, frames, bins); nothing before the start and behind the end."""
    first, last = at - _MARGIN, at + _CHUNK + _MARGIN
    inside = _scaled(values[max(0, first) : last, :bins], reference)
    return np.pad(inside, ((max(0, -first), last - first - max(0, -first) - len(inside)), (0, 0)))[None]
