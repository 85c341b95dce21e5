"""Tune and bass line: one note at a time, followed through the trained ear's probabilities.

A hidden Markov model over pitches and silence follows the line, leaps costing more than steps (after M. Ryynänen &
A. Klapuri, "Automatic Transcription of Melody, Bass Line, and Chords in Polyphonic Music", Computer Music Journal 32,
2008); a held pitch is cut where the ear hears it begin again.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
import numpy.typing as npt
from scipy.ndimage import maximum_filter1d

from valley.errors import ParameterError

Doubles = npt.NDArray[np.float64]
Floats = npt.NDArray[np.float32]

LOW_MIDI = 24


@dataclass(frozen=True)
class Line:
    """What to follow: the register, and the prices of the model in nats."""

    low: int
    high: int
    leap: float  # a semitone
    switch: float  # to another pitch
    voicing: float  # into and out of silence
    sure: float  # probability from which a pitch is likelier than silence
    power: float  # weight of the probabilities against the prices
    strike: float  # probability of a beginning at which a held pitch counts as struck again
    shortest: float  # seconds
    rings: float = 0.0  # probability below which the end of a note is only its ringing on


# Set on made-up songs (docs/listening.md).
MELODY = Line(low=45, high=96, leap=1.5, switch=1.75, voicing=5.5, sure=0.4, power=0.72, strike=0.47, shortest=0.06, rings=0.5)
BASS = Line(low=24, high=64, leap=0.12, switch=1.6, voicing=2.25, sure=0.3, power=0.27, strike=0.77, shortest=0.06)


@dataclass(frozen=True)
class LineNote:
    """Frames from ``start`` to ``end`` (exclusive), ``start`` to parts of a frame; ``strength`` 0 to 1."""

    start: float
    end: float
    midi: int
    strength: float


def follow_line(sounds: Floats, begins: Floats, line: Line, fps: float) -> list[LineNote]:
    """Notes of one line.

    Parameters
    ----------
    sounds, begins : shape (frames, pitches), column 0 is MIDI 24; probability that the line sounds, or begins, a pitch
    line : register and prices, such as ``MELODY`` or ``BASS``
    fps : frames a second
    """
    if sounds.shape != begins.shape or sounds.ndim != 2 or sounds.shape[1] < line.high - LOW_MIDI + 1:
        raise ParameterError(f"sounds {sounds.shape} and begins {begins.shape} must both be frames × at least {line.high - LOW_MIDI + 1} pitches")
    if not len(sounds):
        return []
    columns = slice(line.low - LOW_MIDI, line.high - LOW_MIDI + 1)
    p = np.clip(sounds[:, columns].astype(np.float64), 1e-4, 1 - 1e-4)
    salience = line.power * (np.log(p / (1 - p)) - np.log(line.sure / (1 - line.sure)))
    return _cut(_decode(salience, line), p, begins[:, columns], line, fps)


def _decode(salience: Doubles, line: Line) -> npt.NDArray[np.int_]:
    """Pitch index in each frame, -1 for silence."""
    n, pitches = salience.shape
    index = np.arange(pitches)
    move = -line.switch - line.leap * np.abs(index[:, None] - index[None, :]).clip(0, 12)
    move[index, index] = 0.0
    score, silent = salience[0].copy(), 0.0
    back = np.empty((n, pitches + 1), np.int16)
    for t in range(1, n):
        options = move + score[None, :]
        came = options.argmax(1)
        value = options[index, came]
        from_silence = silent - line.voicing
        came = np.where(value >= from_silence, came, pitches)
        best = int(score.argmax())
        leave = score[best] - line.voicing
        back[t, :pitches] = came
        back[t, pitches] = pitches if silent >= leave else best
        silent = max(silent, leave)
        score = np.maximum(value, from_silence) + salience[t]
    path = np.empty(n, int)
    path[-1] = int(score.argmax()) if score.max() > silent else pitches
    for t in range(n - 1, 0, -1):
        path[t - 1] = back[t, path[t]]
    return np.where(path == pitches, -1, path)


def _cut(path: npt.NDArray[np.int_], p: Doubles, begins: Floats, line: Line, fps: float) -> list[LineNote]:
    """Notes from the pitch path: begun where the ear hears a beginning, cut where struck again."""
    peaks = (begins == maximum_filter1d(begins, 5, axis=0)) & (begins > line.strike)
    weak_peaks = (begins == maximum_filter1d(begins, 5, axis=0)) & (begins > 0.1)
    notes: list[LineNote] = []
    edges = [0, *(np.nonzero(np.diff(path))[0] + 1).tolist(), len(path)]
    shortest = max(2, round(line.shortest * fps))
    reach = round(0.08 * fps)
    for a, b in zip(edges, edges[1:], strict=False):
        pitch = int(path[a])
        if pitch < 0 or b - a < shortest:
            continue
        lo = max(0, a - reach)
        near = np.nonzero(weak_peaks[lo : a + reach + 1, pitch])[0] + lo
        first = int(near[begins[near, pitch].argmax()]) if len(near) else a
        strikes = [first, *(t for t in (np.nonzero(peaks[a:b, pitch])[0] + a).tolist() if first + shortest <= t <= b - shortest)]
        kept = [strikes[0]]
        for t in strikes[1:]:
            if t - kept[-1] >= shortest:
                kept.append(t)
        for s, e in zip(kept, [*kept[1:], b], strict=True):
            if e - s < 2:
                continue
            start = refine_peak(begins[:, pitch], s)
            if notes and notes[-1].end > start:
                before = notes.pop()
                if start - before.start >= 2:
                    notes.append(LineNote(before.start, start, before.midi, before.strength))
            notes.append(LineNote(start, float(_end_of_key(p[:, pitch], s, e, line)), pitch + line.low, float(p[s:e, pitch].mean())))
    return notes


def _end_of_key(p: Doubles, start: int, end: int, line: Line) -> int:
    """Where a note ends that is followed until it dies away: the room goes on after the voice or the key, and is no part of its length."""
    sure = np.nonzero(p[start:end] >= line.rings)[0]
    return max(start + min(2, end - start), start + int(sure[-1]) + 1 if len(sure) else end)


def refine_peak(curve: Floats, frame: int) -> float:
    """Place of a peak to parts of a frame, by a parabola through its neighbours.

    Parameters
    ----------
    curve : shape (frames,)
    frame : where the peak stands
    """
    if not 0 < frame < len(curve) - 1:
        return float(frame)
    a, b, c = (float(v) for v in curve[frame - 1 : frame + 2])
    bend = a - 2 * b + c
    return frame + (float(np.clip(0.5 * (a - c) / bend, -0.5, 0.5)) if bend < -1e-9 else 0.0)
