"""Whose note it is, told from the seconds around: tune and bass again, after the ear.

The ear sees half a second to either side. Which of two voices is the tune, and whether a tone that still sounds is a tune
that rests, is told by what goes on for longer: register, strength, what sounds above and below, where the line has been.
A small convolutional network looks at the ear's probabilities ten times a second over twelve seconds to either side, for
every pitch alike, and corrects them at full rate (dilated convolutions in time after A. van den Oord et al., "WaveNet",
2016; a correction on top of a first network's salience after R. Bittner et al., "Multitask Learning for Fundamental
Frequency Estimation in Music", 2018). Trained by ``training/train_context.py``.
"""

from __future__ import annotations

from typing import Final

import numpy as np
import numpy.typing as npt

from valley.errors import ParameterError
from valley.listening._networks import load_network
from valley.listening.ear import PITCHES, Heard, scale_input

Floats = npt.NDArray[np.float32]

_POOL: Final = 5  # frames that the network looks at together; what it gets is a multiple of them
_CHUNK: Final = 2000  # frames
_MARGIN: Final = 500


def follow_context(heard: Heard, short: Floats) -> Heard:
    """The ear's probabilities, corrected by what is heard around.

    Parameters
    ----------
    heard : of the ear, each of shape (frames, 84)
    short : shape (frames, ≥ 84), the spectrum sharp in time, one bin a semitone from MIDI 24
    """
    frames = len(heard.sounds)
    if len(short) != frames or short.shape[1] < PITCHES:
        raise ParameterError(f"short {short.shape} must have the ear's {frames} frames, and {PITCHES} bins or more")
    run = load_network("context")
    ear = np.stack([heard.sounds, heard.begins, heard.tune, heard.tune_begins, heard.bass, heard.bass_begins])
    loud = scale_input(short[:, :PITCHES])
    out = np.empty_like(ear)
    for at in range(0, frames, _CHUNK):
        first, last = max(0, at - _MARGIN), min(frames, at + _CHUNK + _MARGIN)
        missing = -(last - first) % _POOL
        result = run(
            heard=np.pad(ear[:, first:last], ((0, 0), (0, missing), (0, 0)))[None],
            loud=np.pad(loud[first:last], ((0, missing), (0, 0)))[None],
        )[0]
        size = min(_CHUNK, frames - at)
        out[:, at : at + size] = result[:, at - first : at - first + size]
    return Heard(*out)
