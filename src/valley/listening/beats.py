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

from valley.errors import ListeningError, ParameterError

Floats = npt.NDArray[np.float32]
Doubles = npt.NDArray[np.float64]

MIN_BPM, MAX_BPM = 50.0, 200.0
_PREFERRED_BPM, _TEMPO_SPREAD = 102.0, 0.42  # of a log-normal over octaves, set on made-up songs
_FPS = 50.0
_MIDDLE_BPM = 84.0  # where counting at a tempo and at its double are equally usual
_TEMPO_CHANGE = 70.0  # stiffness of the tempo from beat to beat
_BEAT_SHARE = 10  # a beat takes 1/10 of its length


@dataclass(frozen=True)
class BeatTrack:
    """Beat times in seconds, median tempo, and how firmly the tempo stood out (0 to 1)."""

    times: Doubles
    bpm: float
    confidence: float


def combine_bands(envelopes: Floats) -> Doubles:
    """One beat activation, 0 to 1, from band fluxes (frames × 4)."""
    if envelopes.ndim != 2:
        raise ParameterError(f"envelopes has shape {envelopes.shape}; it must be frames × bands")
    weights = np.array([1.3, 1.0, 0.9, 0.6])[: envelopes.shape[1]]
    total = envelopes.astype(np.float64) @ weights / weights.sum()
    smooth = np.convolve(total, [0.25, 0.5, 0.25], mode="same")
    return np.asarray(1.0 - np.exp(-smooth / (2.2 * smooth.mean() + 1e-9)))


def estimate_tempo(activation: Doubles, fps: float) -> tuple[Doubles, Doubles]:
    """Salience of each beat length in frames, from the autocorrelation at one, two and four beats.

    Returns
    -------
    lengths : candidate beat lengths in frames
    salience : same shape, greatest for the likeliest tempo
    """
    lengths = np.arange(int(np.ceil(fps * 60 / MAX_BPM)), int(fps * 60 / MIN_BPM) + 1)
    centred = activation - activation.mean()
    size = 1 << int(np.ceil(np.log2(2 * len(centred))))
    power = np.abs(np.fft.rfft(centred, size)) ** 2
    auto = np.fft.irfft(power, size)[: len(centred)]
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


def track_beats(envelopes: Floats, fps: float) -> BeatTrack:
    """The likeliest chain of beats, at the level of tempo at which a musician would count.

    Parameters
    ----------
    envelopes : shape (frames, 4), onset strength by band from low to high
    fps : frames a second

    Raises
    ------
    ListeningError
        nothing begins anywhere, so there is no beat to follow
    """
    activation = combine_bands(envelopes)
    if len(activation) < 4 * fps or activation.max() <= 1e-6:
        raise ListeningError("No beat could be found; the recording holds no notes that begin.")
    lengths, salience = estimate_tempo(activation, fps)
    sizes = lengths.astype(int)
    log_prior = 2.5 * np.log(salience / salience.max() + 1e-4)
    path_frames = _decode(activation, sizes, log_prior)
    if len(path_frames) < 4:
        raise ListeningError("Fewer than four beats could be found; the recording may be too short or too free.")
    times = _choose_level(_refine(path_frames, activation), activation, envelopes) / fps
    median = float(np.median(np.diff(times)))
    order = np.sort(salience)[::-1]
    near = np.abs(np.log2(lengths / (median * fps))) < 0.08
    confidence = float(salience[near].max() / order[0]) if near.any() else 0.3
    return BeatTrack(times, 60 / median, confidence)


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


def _twice_as_fast(beats: Doubles, activation: Doubles, envelopes: Floats) -> float:
    """Evidence (log odds, up to scale) that the true beat is twice as fast as ``beats`` (frames).

    Speaks for it: a slow count; midpoints as strong as beats, most of all in the high band, where a
    backbeat sounds; much happening at the quarter points, which then are plain eighths.
    """
    def strength(share: float, x: npt.NDArray[np.floating]) -> float:
        i = np.clip((beats[:-1] + share * np.diff(beats)).astype(int), 1, len(x) - 3)
        return float(np.mean([x[i + k] for k in (-1, 0, 1, 2)]))

    base, high = strength(0, activation) + 1e-6, envelopes[:, 3]
    midpoint = strength(0.5, activation) / base
    quarter = 0.5 * (strength(0.25, activation) + strength(0.75, activation)) / base
    backbeat = min(strength(0.5, high) / (strength(0, high) + 1e-6), 1.5)
    bpm = _FPS * 60 / float(np.median(np.diff(beats)))
    tempo = float(np.log2(_MIDDLE_BPM / (bpm * np.sqrt(2))))
    return tempo + 2 * (backbeat - 0.75) + 2 * (midpoint - 0.65) + 2 * (quarter - 0.25)


def _choose_level(beats: Doubles, activation: Doubles, envelopes: Floats) -> Doubles:
    """Beats at twice or half the rate where the evidence says so."""
    bpm = _FPS * 60 / float(np.median(np.diff(beats)))
    if bpm * 2 <= MAX_BPM and _twice_as_fast(beats, activation, envelopes) > 0:
        middle = 0.5 * (beats[:-1] + beats[1:])
        return np.sort(np.concatenate([beats, _refine(middle.round().astype(int), activation)]))
    if bpm / 2 >= MIN_BPM and len(beats) > 8:
        phases = [beats[k::2] for k in (0, 1)]
        stronger = max(phases, key=lambda p: float(activation[p.astype(int).clip(0, len(activation) - 1)].mean()))
        if _twice_as_fast(stronger, activation, envelopes) < -0.15:
            return stronger
    return beats


def _refine(frames: npt.NDArray[np.int_], activation: Doubles) -> Doubles:
    """Beats moved to the activation's nearby peak (to parts of a frame), then evened out lightly."""
    out = frames.astype(np.float64)
    for i, f in enumerate(frames):
        lo, hi = max(1, f - 2), min(len(activation) - 1, f + 4)
        if hi - lo < 2:
            continue
        peak = lo + int(activation[lo:hi].argmax())
        if activation[peak] < 0.3 or not 0 < peak < len(activation) - 1:
            continue
        a, b, c = activation[peak - 1 : peak + 2]
        bend = a - 2 * b + c
        out[i] = peak + (0.5 * (a - c) / bend if bend < -1e-9 else 0.0)
    if len(out) > 4:
        middle = out.copy()
        middle[1:-1] = 0.25 * out[:-2] + 0.5 * out[1:-1] + 0.25 * out[2:]
        out = np.where(np.abs(middle - out) < 3, middle, out)
    return np.asarray(out)
