"""Beats and tempo by a bar-pointer hidden Markov model at the beat level.

A state is a place inside a beat and the beat's length in frames; the pointer moves one place a frame
and may change its length only at a beat (F. Krebs, S. Böck & G. Widmer, "An Efficient State-Space
Model for Joint Tempo and Meter Tracking", ISMIR 2015). Because movement inside a beat is certain,
decoding is a shift of one vector a frame and a small matrix at the beats: plain NumPy is enough.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

import numpy as np
import numpy.typing as npt
from scipy.fft import irfft, rfft

from valley.errors import ListeningError, ParameterError

Floats = npt.NDArray[np.float32]
Doubles = npt.NDArray[np.float64]

MIN_BPM, MAX_BPM = 42.0, 212.0
_PREFERRED_BPM, _TEMPO_SPREAD = 102.0, 0.42  # of a log-normal over octaves, set on made-up songs
_FPS = 50.0
_SLOWEST_COMPOUND, _FASTEST_COMPOUND = 42.0, 126.0  # dotted beats a minute
_USUAL_COMPOUND, _SURE, _SURER = 84.0, 0.7, 0.85  # faster ones, jigs, must be heard more surely against the beats counted first
_SECOND_BEAT = 0.65
_COUNTED = (30.0, 250.0)  # beats a minute that a musician may count; nothing else is offered
_TWICE, _LEVEL_ODDS = 0.78, 10.0  # how strong, against a beat, a beat midway must be heard to be one, and how much that decides
_BACKBEAT_ODDS = 4.5  # what a strong backbeat midway adds, and a weak one takes
_MIDDLE_BPM, _MIDDLE_ODDS = 78.0, 0.5  # where a slower beat and its double are as usual, and how much an octave of tempo tells where nothing else does
_TEMPO_CHANGE = 70.0  # stiffness of the tempo from beat to beat
_BEAT_SHARE = 10  # a beat takes 1/10 of its length
_NEAREST = 0.5  # of their distance before: as near as two beats may come when they are moved to what is heard


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


def track_beats(pulse: Floats, envelopes: Floats, fps: float) -> BeatTrack:
    """The likeliest chain of beats, at the level of tempo at which a musician would count.

    Parameters
    ----------
    pulse : shape (frames,), probability of a beat, from the pulse network
    envelopes : shape (frames, 4), onset strength by band from low to high, to set each beat exactly
    fps : frames a second

    Raises
    ------
    ListeningError
        nothing begins anywhere, so there is no beat to follow
    """
    onsets = combine_bands(envelopes)[: len(pulse)]
    if len(pulse) < 4 * fps or onsets.max() <= 1e-6:
        raise ListeningError("No beat could be found; the recording holds no notes that begin.")
    activation = np.clip(pulse.astype(np.float64), 1e-3, 0.999)
    lengths, salience = estimate_tempo(activation, fps)
    log_prior = 2.5 * np.log(salience / salience.max() + 1e-4)
    path = _decode(activation, lengths.astype(int), log_prior)
    if len(path) < 4:
        raise ListeningError("Fewer than four beats could be found; the recording may be too short or too free.")
    beats = _refine(path, 0.6 * activation / activation.max() + 0.4 * onsets)
    beats, levels = _choose_level(beats, activation, envelopes)
    times = beats / fps
    bpm = 60 / float(np.median(np.diff(times)))
    return BeatTrack(times, bpm, _strength(beats, 0.0, activation), tuple((bpm * rate, p) for rate, p in zip((1.0, 0.5, 2.0), levels, strict=True)))


def _strength(beats: Doubles, share: float, curve: Doubles) -> float:
    """Mean of a curve's nearby peaks at a share of the way between beats (in frames)."""
    i = np.clip(np.round(beats[:-1] + share * np.diff(beats)).astype(int), 2, len(curve) - 3)
    return float(np.mean(np.max([curve[i + k] for k in (-2, -1, 0, 1, 2)], axis=0)))


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

    Speaks for it: the pulse network hears beats midway, nearly as sure as the beats; midpoints are strong in the high band, where a backbeat
    sounds; and, a little, a tempo so slow that its double is the more usual.
    """
    high = envelopes[:, 3].astype(np.float64)
    backbeat = min(_strength(beats, 0.5, high) / (_strength(beats, 0.0, high) + 1e-6), 1.5)
    midway = _strength(beats, 0.5, activation) / (_strength(beats, 0.0, activation) + 1e-3)
    usual = 2 * _MIDDLE_ODDS * np.log2(_MIDDLE_BPM * float(np.median(np.diff(beats))) / (60 * _FPS))
    return float(_LEVEL_ODDS * (midway - _TWICE) + _BACKBEAT_ODDS * (backbeat - 0.5) + usual)


def _choose_level(beats: Doubles, activation: Doubles, envelopes: Floats) -> tuple[Doubles, tuple[float, float, float]]:
    """Beats at twice or half the rate where the evidence says so; and how likely are this level, its half and its double."""

    def share(odds: float) -> float:
        return float(1 / (1 + np.exp(-odds)))

    bpm = _FPS * 60 / float(np.median(np.diff(beats)))
    dotted = _dotted(beats, activation)
    if dotted is not None:
        beats = dotted
    elif bpm * 2 <= MAX_BPM and _twice_as_fast(beats, activation, envelopes) > 0:
        beats = np.sort(np.concatenate([beats, between_beats(beats, activation)]))
    elif bpm / 2 >= MIN_BPM and len(beats) > 8:
        slower = _stronger_half(beats, activation)
        if _twice_as_fast(slower, activation, envelopes) < 0:
            beats = slower
    bpm = _FPS * 60 / float(np.median(np.diff(beats)))
    double = share(_twice_as_fast(beats, activation, envelopes)) if 2 * bpm <= _COUNTED[1] else 0.0
    half = share(-_twice_as_fast(_stronger_half(beats, activation), activation, envelopes)) if len(beats) > 8 and bpm / 2 >= _COUNTED[0] else 0.0
    here = (1 - double) * (1 - half)
    total = here + double + half + 1e-9
    return beats, (here / total, half / total, double / total)


def between_beats(beats: Doubles, activation: Doubles | Floats) -> Doubles:
    """One place midway between any two beats (frames), where a peak of the activation is near, on that."""
    middle = 0.5 * (beats[:-1] + beats[1:])
    near = _refine(middle.round().astype(int), np.asarray(activation, np.float64))
    return np.where(np.abs(near - middle) < 0.25 * np.diff(beats), near, middle)


def _dotted(beats: Doubles, activation: Doubles) -> Doubles | None:
    """Beats one and a half times as long where the pulse says so: two eighths were counted where a compound beat has three."""
    bpm = _FPS * 60 / float(np.median(np.diff(beats)))
    if not _SLOWEST_COMPOUND <= bpm * 2 / 3 <= _FASTEST_COMPOUND or len(beats) < 12:
        return None
    around = np.convolve(activation, np.ones(4) / 4, mode="same")  # a sure beat is broad as well as high

    def mean_at(places: Doubles) -> float:
        return float(around[places.astype(int).clip(0, len(around) - 1)].mean())

    eighths = np.sort(np.concatenate([beats, 0.5 * (beats[:-1] + beats[1:])]))
    strength = [mean_at(eighths[k::3]) for k in range(3)]
    best = int(np.argmax(strength))
    others = (sum(strength) - strength[best]) / 2
    sure = _SURE if bpm * 2 / 3 <= _USUAL_COMPOUND else _SURER
    if strength[best] > 1.22 * others and strength[best] > sure * mean_at(beats) and _has_second_beat(mean_at, eighths, best):
        return eighths[best::3]
    return None


def _has_second_beat(mean_at: Callable[[Doubles], float], eighths: Doubles, first: int) -> bool:
    """Whether the fourth eighth of six is heard about as surely as the third and fifth: in six eighths it is a beat, in a waltz it lies between two."""
    sixths = [mean_at(eighths[k::6]) for k in range(6)]
    strongest = max((first, first + 3), key=lambda k: sixths[k])
    third, fourth, fifth = (sixths[(strongest + k) % 6] for k in (2, 3, 4))
    return fourth > _SECOND_BEAT * max(third, fifth)


def _stronger_half(beats: Doubles, activation: Doubles) -> Doubles:
    """Every second beat, those that are heard more strongly."""
    return max((beats[k::2] for k in (0, 1)), key=lambda p: float(activation[p.astype(int).clip(0, len(activation) - 1)].mean()))


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
    return _in_order(out, frames.astype(np.float64))


def _in_order(moved: Doubles, before: Doubles) -> Doubles:
    """Moved beats, but those that came too near to a neighbour, or past it, stay where they were: a loud off-beat close by draws them there.

    ``before`` ascends; so does what is given back.
    """
    out = moved.copy()
    gaps = np.diff(before)
    while len(out) > 1:
        near = np.flatnonzero(np.diff(out) < _NEAREST * gaps)
        near = near[(out[near] != before[near]) | (out[near + 1] != before[near + 1])]
        if len(near) == 0:
            return out
        for i in (near, near + 1):
            out[i] = before[i]
    return out
