"""Metre and downbeats: where the bars begin.

Each beat is rated by signs of a bar's first beat: harmony and bass change there, low notes begin there, the
backbeat (in four, high sounds on 2 and 4) does not fall there. A cyclic hidden Markov model per metre places
the bars; it may slip by a beat at a price, so that one odd bar does not turn all that follow
(after M. Mauch & S. Dixon 2010, metric position as a hidden variable). Where neither drums nor chords tell, the notes do (``accents``).
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
import numpy.typing as npt

from valley.errors import ParameterError
from valley.listening._bar_lines import SHAPES, BarLines, Shape, place_bar_lines

Doubles = npt.NDArray[np.float64]
Floats = npt.NDArray[np.float32]

_COMPOUND = (Shape(4, 0.0, 2), Shape(2, -0.6, None), Shape(3, -0.5, None))  # four dotted beats are two bars of 6/8, as it is mostly written
_COMPOUND_METERS = {4: "6/8", 2: "6/8", 3: "9/8"}
_HALF_BAR = 0.35  # of the evidence for a bar also speaks for its half
_W_CHROMA, _W_BASS, _W_LOW, _W_BACKBEAT, _W_NETWORK = 1.0, 0.7, 0.35, 0.5, 1.0
_W_ACCENTS, _SURE, _UNSURE = 1.4, 0.34, 0.26  # what the notes say counts where the pulse network tells beats apart by less than this spread
_BOTH_THIRDS = 0.1  # share of the beat's strength that each of its thirds must have beyond the half for 6/8
_SLOW_BPM, _LAST_THIRD = 80.0, 0.4  # a strong last third alone is swing at speed, compound time when slow


@dataclass(frozen=True)
class Bars:
    """Metre, index of the beats that are downbeats, and each beat's place in its bar."""

    meter: str
    downbeats: npt.NDArray[np.int_]
    positions: npt.NDArray[np.int_]
    confidence: float


def _standardise(x: Doubles) -> Doubles:
    return np.asarray((x - x.mean()) / (x.std() + 1e-9))


def _hear_bars(downbeat: Doubles, beats: int) -> Doubles:
    """Log probability of what the network hears, for each place in a bar of so many beats: shape (beats heard, beats)."""
    p = np.clip(downbeat, 0.03, 0.97)
    out = np.repeat(np.log(1 - p)[:, None], beats, axis=1)
    out[:, 0] = np.log(p)
    return out


def _weigh_accents(accents: Doubles, downbeat: Doubles) -> Doubles:
    """Log odds that a bar begins, by what the notes say, as far as the network leaves it open: a drum kit it hears better than notes tell it."""
    return _W_ACCENTS * float(np.clip((_SURE - downbeat.std()) / (_SURE - _UNSURE), 0, 1)) * np.clip(accents, -3, 3)


def rate_beats(chroma: Doubles, bass: Doubles, onset_at_beat: Doubles) -> tuple[Doubles, Doubles]:
    """Evidence of a downbeat, and of a backbeat, at each beat.

    Parameters
    ----------
    chroma, bass : shape (beats, 12), of the interval that begins at the beat
    onset_at_beat : shape (beats, 4), onset strength by band from low to high
    """
    if not len(chroma) == len(bass) == len(onset_at_beat):
        raise ParameterError(f"{len(chroma)} chroma, {len(bass)} bass and {len(onset_at_beat)} onset rows must be equal in number")

    def change(x: Doubles) -> Doubles:
        padded = np.concatenate([x[:1], x])
        return np.asarray(1 - (padded[:-1] * padded[1:]).sum(1))

    wide = np.array([1 - float(_mean_of(chroma, t - 2, t) @ _mean_of(chroma, t, t + 2)) for t in range(len(chroma))])
    evidence = (
        _W_CHROMA * _standardise(0.5 * change(chroma) + wide) + _W_BASS * _standardise(change(bass)) + _W_LOW * _standardise(np.log1p(onset_at_beat[:, 0]))
    )
    backbeat = _standardise(np.log1p(onset_at_beat[:, 3]) - 0.5 * np.log1p(onset_at_beat[:, 0]))
    return evidence, backbeat


def _mean_of(x: Doubles, a: int, b: int) -> Doubles:
    part = x[max(0, a) : max(1, b)]
    mean = part.mean(0)
    return np.asarray(mean / (np.linalg.norm(mean) + 1e-9))


def find_bars(evidence: Doubles, backbeat: Doubles, downbeat: Doubles, accents: Doubles, triple: tuple[float, float], bpm: float) -> Bars:
    """Metre and downbeats.

    Parameters
    ----------
    evidence, backbeat : shape (beats,), from ``rate_beats``
    downbeat : shape (beats,), probability of a downbeat, from the pulse network
    accents : shape (beats,), log odds of a downbeat, from the notes
    triple : strength at the first and second third of the beat, less that at its half, as a share of the beat's
    bpm : beats a minute
    """
    noted = _weigh_accents(accents, downbeat)
    compound = min(triple) > _BOTH_THIRDS or (bpm < _SLOW_BPM and triple[1] > _LAST_THIRD and triple[0] > 0)
    shapes = _COMPOUND if compound else SHAPES
    heard = [rate_places(shape, evidence, backbeat, downbeat) for shape in shapes]
    found = place_bar_lines([np.concatenate([e[:, :1] + noted[:, None], e[:, 1:]], axis=1) for e in heard], shapes)
    return count_bars(found, shapes, heard, None if compound else "{}/4")


def count_bars(found: BarLines, shapes: tuple[Shape, ...], heard: list[Doubles], name: str | None) -> Bars:
    """Bars as they are counted, with the metre of most.

    Parameters
    ----------
    found : where they fall
    shapes, heard : the kinds of bars, and for each the log odds of every beat at every place of it by what is heard alone
    name : of the metre, with the beats put in; None for compound time, of which four beats are two bars of 6/8
    """
    # How sure it is, is said by what is heard alone: so it was measured.
    sure = (
        float(np.mean([heard[s][t, k] + shapes[s].prior for t, (s, k) in enumerate(zip(found.shapes, found.positions, strict=True))]))
        if len(found.shapes)
        else 0.0
    )
    lengths = np.array([shape.beats for shape in shapes])[found.shapes]
    positions = found.positions if name else np.where(lengths == 4, found.positions % 2, found.positions)
    usual = int(np.bincount(lengths).argmax())
    meter = name.format(usual) if name else _COMPOUND_METERS[usual]
    return Bars(meter, np.nonzero(positions == 0)[0], positions, float(1 / (1 + np.exp(-3 * sure))))


def rate_places(shape: Shape, evidence: Doubles, backbeat: Doubles, downbeat: Doubles) -> Doubles:
    """Log odds of every beat at every place of such a bar, by what is heard: shape (count, beats of the bar)."""
    emission = np.repeat(-evidence[:, None] / (shape.beats - 1), shape.beats, axis=1)
    emission[:, 0] = evidence
    if shape.beats == 4:
        emission[:, [1, 3]] += 0.5 * _W_BACKBEAT * backbeat[:, None]
        emission[:, [0, 2]] -= 0.5 * _W_BACKBEAT * backbeat[:, None]
    if shape.half is not None:
        emission[:, shape.half] += _HALF_BAR * evidence
    return emission + _W_NETWORK * _hear_bars(downbeat, shape.beats)


def measure_triple(envelope: Doubles, beats: Doubles) -> tuple[float, float]:
    """How strong onsets are at each third of the beat beyond those at its half, as shares of the beat's strength.

    Parameters
    ----------
    envelope : how much begins, shape (frames,)
    beats : beat places in frames
    """

    def at(share: float) -> float:
        i = np.clip(np.round(beats[:-1] + share * np.diff(beats)).astype(int), 2, len(envelope) - 3)
        return float(np.mean([envelope[i + k] for k in (-1, 0, 1)]))

    base, half = at(0) + 1e-9, at(0.5)
    return (at(1 / 3) - 0.7 * half) / base, (at(2 / 3) - 0.7 * half) / base
