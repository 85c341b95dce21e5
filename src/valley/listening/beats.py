"""Beats and tempo by a bar-pointer hidden Markov model at the beat level.

A state is a place inside a beat and the beat's length in frames; the pointer moves one place a frame
and may change its length only at a beat (F. Krebs, S. Böck & G. Widmer, "An Efficient State-Space
Model for Joint Tempo and Meter Tracking", ISMIR 2015). Because movement inside a beat is certain,
decoding is a shift of one vector a frame and a small matrix at the beats: plain NumPy is enough.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
import numpy.typing as npt
from scipy.fft import irfft, rfft

from valley.errors import ListeningError, ParameterError
from valley.listening._beat_places import refine
from valley.listening.tempo_level import MAX_BPM, MIN_BPM, choose_level, strength

Floats = npt.NDArray[np.float32]
Doubles = npt.NDArray[np.float64]

_PREFERRED_BPM, _TEMPO_SPREAD = 102.0, 0.42  # of a log-normal over octaves, set on made-up songs
_TEMPO_CHANGE = 70.0  # stiffness of the tempo from beat to beat
_BEAT_SHARE = 10  # a beat takes 1/10 of its length


@dataclass(frozen=True)
class BeatTrack:
    """Beat times in seconds, median tempo, how firmly the beats stood out (0 to 1), and tempi with their probabilities.

    ``tempi`` holds the chosen tempo first, then its half and its double.
    """

    times: Doubles
    bpm: float
    confidence: float
    tempi: tuple[tuple[float, float], ...]


def combine_bands(envelopes: Floats) -> Doubles:
    """One beat activation, 0 to 1, from band fluxes (frames × 4).

    Parameters
    ----------
    envelopes : flux, shape (frames, 4)
    """
    if envelopes.ndim != 2:
        raise ParameterError(f"envelopes has shape {envelopes.shape}; it must be frames × bands")
    weights = np.array([1.3, 1.0, 0.9, 0.6])[: envelopes.shape[1]]
    total = envelopes.astype(np.float64) @ weights / weights.sum()
    smooth = np.convolve(total, [0.25, 0.5, 0.25], mode="same")
    return np.asarray(1.0 - np.exp(-smooth / (2.2 * smooth.mean() + 1e-9)))


def estimate_tempo(activation: Doubles, fps: float) -> tuple[Doubles, Doubles]:
    """Salience of each beat length in frames, from the autocorrelation at one, two and four beats.

    Parameters
    ----------
    activation : beat activation, shape (frames,), 0 to 1
    fps : frames a second

    Returns
    -------
    lengths : candidate beat lengths in frames
    salience : same shape, greatest for the likeliest tempo
    """
    lengths = np.arange(int(np.ceil(fps * 60 / MAX_BPM)), int(fps * 60 / MIN_BPM) + 1)
    centred = activation - activation.mean()
    size = 1 << int(np.ceil(np.log2(2 * len(centred))))
    power = np.abs(rfft(centred, size)) ** 2
    auto = irfft(power, size)[: len(centred)]
    auto = auto / (np.arange(len(auto), 0, -1) + 1e-9)
    auto = auto / (auto[0] + 1e-12)

    def at(lag: Doubles) -> Doubles:
        lag = np.minimum(lag, len(auto) - 2)
        i = lag.astype(int)
        best = np.maximum(auto[np.maximum(i - 1, 0)], np.maximum(auto[i], auto[np.minimum(i + 1, len(auto) - 1)]))
        return np.asarray(best)

    base = lengths.astype(np.float64)
    salience = at(base) + 0.7 * at(2 * base) + 0.5 * at(4 * base) + 0.3 * at(3 * base)
    prior = np.exp(-0.5 * (np.log2(60 * fps / base / _PREFERRED_BPM) / _TEMPO_SPREAD) ** 2)
    return base, np.maximum(salience, 1e-3) * prior


def track_beats(pulse: Floats, envelopes: Floats, begins: Doubles, fps: float) -> BeatTrack:
    """The likeliest chain of beats, at the level of tempo at which a musician would count.

    Parameters
    ----------
    pulse : shape (frames, 2), probability of a beat and of a downbeat, from the pulse network
    envelopes : shape (frames, 4), onset strength by band from low to high, to set each beat exactly
    begins : shape (frames,), how much begins
    fps : frames a second

    Raises
    ------
    ListeningError
        nothing begins anywhere, so there is no beat to follow
    """
    onsets = combine_bands(envelopes)[: len(pulse)]
    if len(pulse) < 4 * fps or onsets.max() <= 1e-6:
        raise ListeningError("No beat could be found; the recording holds no notes that begin.")
    activation = np.clip(pulse[:, 0].astype(np.float64), 1e-3, 0.999)
    lengths, salience = estimate_tempo(activation, fps)
    log_prior = 2.5 * np.log(salience / salience.max() + 1e-4)
    path = _decode(activation, lengths.astype(int), log_prior)
    if len(path) < 4:
        raise ListeningError("Fewer than four beats could be found; the recording may be too short or too free.")
    beats = refine(path, 0.6 * activation / activation.max() + 0.4 * onsets)
    beats, levels = choose_level(beats, activation, pulse[:, 1], envelopes, begins)
    times = beats / fps
    bpm = 60 / float(np.median(np.diff(times)))
    return BeatTrack(times, bpm, strength(beats, 0.0, activation), tuple((bpm * rate, p) for rate, p in zip((1.0, 0.5, 2.0), levels, strict=True)))


def _decode(activation: Doubles, sizes: npt.NDArray[np.int_], log_prior: Doubles) -> npt.NDArray[np.int_]:
    """Frames at which a beat begins, by Viterbi over (beat length, place inside the beat)."""
    n = len(activation)
    starts = np.concatenate([[0], np.cumsum(sizes)[:-1]])
    total = int(sizes.sum())
    ends = starts + sizes - 1
    place = np.arange(total) - np.repeat(starts, sizes)
    on_beat = place < np.maximum(1, np.repeat(sizes, sizes) // _BEAT_SHARE)
    change = -_TEMPO_CHANGE * np.abs(sizes[:, None] / sizes[None, :] - 1)  # [to, from]
    change -= np.log(np.exp(change).sum(0, keepdims=True))
    log_on = np.log(np.clip(activation, 1e-3, 1))
    log_off = np.log(np.clip(1 - activation, 1e-3, 1) / (_BEAT_SHARE - 1))
    score = np.repeat(log_prior - np.log(sizes), sizes)
    came_from = np.empty((n, len(sizes)), np.int16)
    step_prior = 0.02 * log_prior
    for t in range(n):
        if t:
            last = score[ends]
            options = change + last[None, :]
            best = options.argmax(1)
            came_from[t] = best
            score[1:] = score[:-1].copy()
            score[starts] = options[np.arange(len(sizes)), best] + step_prior
        score += np.where(on_beat, log_on[t], log_off[t])
    state = int(score.argmax())
    tempo, where = int(np.searchsorted(starts, state, side="right") - 1), int(place[state])
    beats, t = [], n - 1
    while t >= where:
        t -= where
        beats.append(t)
        if t == 0:
            break
        tempo = int(came_from[t, tempo])
        where = int(sizes[tempo]) - 1
        t -= 1
    return np.array(beats[::-1])
