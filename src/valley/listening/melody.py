"""Melody and bass line: the leading note at each moment, then notes with onsets.

Salience comes from the note activations with a preference for the melody's register; a hidden Markov
model over pitches and silence follows the line, leaps costing more than steps (after M. Ryynänen & A. Klapuri,
"Automatic Transcription of Melody, Bass Line, and Chords in Polyphonic Music", Computer Music Journal 32,
2008). A held pitch is cut where it is struck again.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
import numpy.typing as npt
from scipy.ndimage import gaussian_filter1d, maximum_filter1d

from valley.errors import ParameterError

Doubles = npt.NDArray[np.float64]
Floats = npt.NDArray[np.float32]

LOW_MIDI = 24


@dataclass(frozen=True)
class Line:
    """What to follow: register (preferred from–to, fading over an octave), and the prices of the model."""

    low: int
    high: int
    prefer_low: float
    prefer_high: float
    rise: float  # preference for higher notes, in nats an octave
    leap: float  # nats a semitone
    switch: float  # to another pitch
    voicing: float  # into and out of silence
    silence: float  # share of the strong notes' level under which silence is likelier
    shortest: float  # seconds
    overtones: float  # share of a lower note's strength that its overtones may have
    power: float  # weight of the salience against the prices
    strike: float  # onset strength at which a held pitch counts as struck again


# Set by random search on the development songs (docs/listening.md).
MELODY = Line(
    low=50, high=93, prefer_low=68, prefer_high=75, rise=0.8, leap=1.67, switch=5.6, voicing=9.7, silence=0.333,
    shortest=0.072, overtones=0.05, power=2.33, strike=0.95,
)
BASS = Line(
    low=26, high=58, prefer_low=35, prefer_high=37, rise=0.0, leap=0.81, switch=9.2, voicing=5.9, silence=0.195,
    shortest=0.043, overtones=0.17, power=1.93, strike=0.9,
)


@dataclass(frozen=True)
class LineNote:
    """Frames from ``start`` to ``end`` (exclusive); ``strength`` 0 to 1."""

    start: int
    end: int
    midi: int
    strength: float


def follow_line(activations: Floats, envelope: Doubles, line: Line, fps: float) -> list[LineNote]:
    """Notes of the leading line.

    Parameters
    ----------
    activations : shape (frames, notes), column 0 is MIDI 24
    envelope : shape (frames,), onset strength in the line's band, 1 on average
    line : register and prices, such as ``MELODY`` or ``BASS``
    fps : frames a second
    """
    if activations.ndim != 2 or activations.shape[1] < line.high - LOW_MIDI + 1:
        raise ParameterError(f"activations has shape {activations.shape}; it must be frames × at least {line.high - LOW_MIDI + 1} notes")
    if not len(activations) or activations.max() <= 0:
        return []
    salience = _rate(activations, line)
    path = _decode(salience, line)
    onset = _onset_strength(activations[:, line.low - LOW_MIDI : line.high - LOW_MIDI + 1], envelope, fps)
    return _cut(path, onset, salience, _peaks(envelope), line, fps)


def _rate(activations: Floats, line: Line) -> Doubles:
    """Log salience of each pitch against silence: shape (frames, pitches)."""
    smooth = gaussian_filter1d(activations.astype(np.float64), 1.0, axis=0)
    part = _drop_overtones(smooth, line.overtones)[:, line.low - LOW_MIDI : line.high - LOW_MIDI + 1]
    midi = np.arange(line.low, line.high + 1)
    middle = 0.5 * (line.prefer_low + line.prefer_high)
    register = line.rise * (np.clip(midi, line.prefer_low, line.prefer_high) - middle) / 12
    register = register - 0.12 * np.maximum(0, line.prefer_low - midi) - 0.12 * np.maximum(0, midi - line.prefer_high)
    level = np.percentile(part.max(1), 80) + 1e-9
    return np.asarray(line.power * np.log((part / level + 0.01) / (line.silence + 0.01)) + register)


def _drop_overtones(activations: Doubles, share: float) -> Doubles:
    """Activations less what may be an overtone of a note an octave, a twelfth, two octaves or more below."""
    out = activations.copy()
    below = np.zeros_like(out)
    for interval in (12, 19, 24, 28):
        below[:, interval:] = np.maximum(below[:, interval:], activations[:, :-interval])
    return np.asarray(np.maximum(out - share * below, 0))


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


def _onset_strength(activations: Floats, envelope: Doubles, fps: float) -> Doubles:
    """How surely each pitch is struck in each frame: it rises, and something begins in the sound."""
    smooth = gaussian_filter1d(activations.astype(np.float64), 1.0, axis=0)
    lag = max(1, int(0.06 * fps))
    rise = np.zeros_like(smooth)
    rise[lag:-lag] = smooth[2 * lag :] - smooth[: -2 * lag]
    level = maximum_filter1d(smooth, int(fps), axis=0) + 1e-9
    struck = maximum_filter1d(np.minimum(envelope, 3.0), 3)[: len(smooth), None]
    return np.asarray(np.maximum(rise, 0) / level + line_weight(struck))


def line_weight(struck: Doubles) -> Doubles:
    """The envelope's share in a strike, saturating so that drums alone do not cut a held note."""
    return np.asarray(0.25 * np.clip(struck, 0, 2.5))


def _peaks(envelope: Doubles) -> npt.NDArray[np.int_]:
    """Frames at which something begins."""
    top = envelope == maximum_filter1d(envelope, 5)
    return np.nonzero(top & (envelope > 0.6))[0]


def _cut(
    path: npt.NDArray[np.int_], onset: Doubles, salience: Doubles, peaks: npt.NDArray[np.int_], line: Line, fps: float
) -> list[LineNote]:
    """Notes from the pitch path: cut where struck again, begun where the sound begins."""
    notes: list[LineNote] = []
    edges = [0, *(np.nonzero(np.diff(path))[0] + 1).tolist(), len(path)]
    shortest = max(2, int(round(line.shortest * fps)))
    reach = int(0.09 * fps)

    def snap(frame: int) -> int:
        i = int(np.searchsorted(peaks, frame))
        near = [int(p) for p in peaks[max(0, i - 1) : i + 1] if abs(int(p) - frame) <= reach]
        return min(near, key=lambda p: abs(p - frame)) if near else frame

    for a, b in zip(edges, edges[1:], strict=False):
        pitch = int(path[a])
        if pitch < 0 or b - a < shortest:
            continue
        strikes = [snap(a)]
        inside = peaks[(peaks >= a + shortest) & (peaks < b - shortest)]
        for t in inside.tolist():
            if onset[max(a, t - 2) : t + 4, pitch].max() > line.strike and t - strikes[-1] >= shortest + 1:
                strikes.append(t)
        for s, e in zip(strikes, [*strikes[1:], snap(b)], strict=False):
            if e - s < 2:
                continue
            strength = 1 / (1 + np.exp(-0.8 * float(salience[s:e, pitch].mean())))
            if notes and notes[-1].end > s:
                notes[-1] = LineNote(notes[-1].start, max(s, notes[-1].start + 1), notes[-1].midi, notes[-1].strength)
            notes.append(LineNote(s, e, pitch + line.low, float(strength)))
    return notes
