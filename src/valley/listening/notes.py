"""The notes actually played: every beginning that the trained ear hears, and how long it sounds.

After C. Hawthorne et al., "Onsets and Frames: Dual-Objective Piano Transcription", ISMIR 2018: a note starts where a
beginning is likely and lasts while its pitch is likely to sound.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
import numpy.typing as npt
from scipy.ndimage import maximum_filter1d

from valley.errors import ParameterError
from valley.listening.lines import LOW_MIDI, refine_peak

Floats = npt.NDArray[np.float32]

_BEGIN, _HOLD, _SHORTEST = 0.6, 0.55, 2  # probabilities; frames
_SURE, _EARLY = 0.6, 5  # a beginning counts where the pitch then sounds so surely, on average over these frames
_GAP = 2  # frames of doubt inside a note that do not end it


@dataclass(frozen=True)
class PlayedNote:
    """Frames from ``start`` to ``end``; ``strength`` is the probability of its beginning."""

    start: float
    end: float
    midi: int
    strength: float


def find_notes(sounds: Floats, begins: Floats, *, begin: float = _BEGIN) -> list[PlayedNote]:
    """All notes, in order of their beginnings.

    Parameters
    ----------
    sounds, begins : shape (frames, pitches), probabilities; column 0 is MIDI 24
    begin : probability from which a beginning counts
    """
    if sounds.shape != begins.shape:
        raise ParameterError(f"sounds {sounds.shape} and begins {begins.shape} must have one shape")
    peaks = (begins == maximum_filter1d(begins, 5, axis=0)) & (begins >= begin)
    notes = []
    for pitch in np.nonzero(peaks.any(0))[0].tolist():
        starts = np.nonzero(peaks[:, pitch])[0]
        silent = np.nonzero(~maximum_filter1d(sounds[:, pitch] >= _HOLD, _GAP + 1, origin=-((_GAP + 1) // 2), mode="constant"))[0]
        starts = np.array([s for s in starts.tolist() if sounds[s : s + _EARLY, pitch].mean() >= _SURE], int)
        for i, start in enumerate(starts.tolist()):
            limit = int(starts[i + 1]) if i + 1 < len(starts) else len(sounds)
            after = np.searchsorted(silent, start + _SHORTEST)
            end = min(limit, int(silent[after]) if after < len(silent) else len(sounds))
            notes.append(PlayedNote(refine_peak(begins[:, pitch], start), float(end), pitch + LOW_MIDI, float(begins[start, pitch])))
    return sorted(notes, key=lambda n: (n.start, n.midi))
