"""How well a chart explains the sound: what was heard, kept small, and every bar of a chart held against it.

Ten times a second the evidence holds, for each of the twelve pitch classes, how surely it sounds, how surely it is the bass
and how surely it is the tune. A chord agrees with the sound as far as its notes sound and others do not; a bass and a
tune as far as they are heard to be there.
"""

from __future__ import annotations

import io
from dataclasses import dataclass
from functools import cached_property

import numpy as np
import numpy.typing as npt

from valley.errors import FormatError, ParameterError
from valley.fraction import Fraction
from valley.listening.ear import Heard
from valley.model.chart import Chart, ChartChord, MelodyNote

RATE = 10.0  # rows a second
SOUND, BASS, TUNE = 0, 1, 2
_CHORD_SHARE, _BASS_SHARE, _TUNE_SHARE = 0.55, 0.2, 0.25  # of a bar's agreement


@dataclass(frozen=True)
class Evidence:
    """``rows`` has shape (tenths of a second, 3, 12): sound, bass and tune by pitch class from C, 0 to 255."""

    rows: npt.NDArray[np.uint8]

    @cached_property
    def _summed(self) -> npt.NDArray[np.float64]:
        return np.concatenate([np.zeros((1, 3, 12)), np.cumsum(self.rows / 255, axis=0)])

    def mean(self, start: float, end: float) -> npt.NDArray[np.float64]:
        """What sounds on average between two times in seconds: shape (3, 12), 0 to 1; the nearest tenth where the recording does not reach."""
        a = min(max(int(start * RATE), 0), len(self.rows) - 1)
        b = min(max(int(np.ceil(end * RATE)), a + 1), len(self.rows))
        return np.asarray((self._summed[b] - self._summed[a]) / (b - a))


@dataclass(frozen=True)
class Agreement:
    """Of one bar, each 0 to 1; None where the chart says nothing there."""

    bar: int
    chords: float | None
    bass: float | None
    tune: float | None
    whole: float


@dataclass(frozen=True)
class Rated:
    """A chart and how well each of its numbered bars agrees with the sound."""

    chart: Chart
    bars: tuple[Agreement, ...]


def keep_evidence(heard: Heard, fps: float) -> Evidence:
    """Fold the ear's probabilities to pitch classes, ten rows a second.

    Parameters
    ----------
    heard : the trained ear's probabilities
    fps : frames a second
    """
    step = fps / RATE
    edges = np.append(np.arange(0, len(heard.sounds), step).astype(int), len(heard.sounds))
    parts = []
    for values in (heard.sounds, heard.bass, heard.tune):
        octaves = values.reshape(len(values), -1, 12).max(1)  # column 0 is a C
        summed = np.concatenate([np.zeros((1, 12)), np.cumsum(octaves, axis=0, dtype=np.float64)])
        mean = (summed[edges[1:]] - summed[edges[:-1]]) / np.maximum(edges[1:] - edges[:-1], 1)[:, None]
        parts.append(np.round(255 * np.clip(mean, 0, 1)).astype(np.uint8))
    return Evidence(np.stack(parts, axis=1))


def dump_evidence(evidence: Evidence) -> bytes:
    """Compressed bytes, some 40 kB a minute at most.

    Parameters
    ----------
    evidence : what sounds, ten times a second
    """
    buffer = io.BytesIO()
    np.savez_compressed(buffer, rows=evidence.rows)
    return buffer.getvalue()


def read_evidence(data: bytes) -> Evidence:
    """Evidence from its bytes, or FormatError.

    Parameters
    ----------
    data : of ``dump_evidence``
    """
    try:
        with np.load(io.BytesIO(data), allow_pickle=False) as file:
            rows = file["rows"]
    except (OSError, ValueError, KeyError) as error:
        raise FormatError(f"{len(data)} bytes are no evidence of a hearing; listen to the song again") from error
    if rows.ndim != 3 or rows.shape[1:] != (3, 12) or rows.dtype != np.uint8:
        raise FormatError(f"evidence of shape {rows.shape} must be tenths of a second × 3 × 12; listen to the song again")
    return Evidence(rows)


def rate_agreement(chart: Chart, evidence: Evidence, known: Rated | None = None) -> tuple[Agreement, ...]:
    """Agreement of every numbered bar with the sound.

    Parameters
    ----------
    chart : as corrected
    evidence : what sounds, ten times a second
    known : a chart that was rated by the same evidence; bars that are the very same in it are not rated again

    Raises
    ------
    ParameterError
        the evidence is empty
    """
    if not len(evidence.rows):
        raise ParameterError("evidence holds no rows; the recording was shorter than a tenth of a second")
    bars = range(1, chart.grid.bars + 1)
    if known is None or known.chart.grid != chart.grid or known.chart.chords[-1].end != chart.chords[-1].end:
        return tuple(_rate_bar(chart, evidence, bar) for bar in bars)
    there = known.chart
    return tuple(known.bars[bar - 1] if _chords_and_tune(there, bar) == _chords_and_tune(chart, bar) else _rate_bar(chart, evidence, bar) for bar in bars)


def _ends(chart: Chart, bar: int) -> tuple[Fraction, Fraction]:
    return chart.grid.bar_start(bar), min(chart.grid.bar_start(bar + 1), chart.chords[-1].end)


def _chords_and_tune(chart: Chart, bar: int) -> tuple[tuple[ChartChord, ...], tuple[MelodyNote, ...]]:
    return chart.sounding_in(bar), chart.notes_between(*_ends(chart, bar))


def _rate_bar(chart: Chart, evidence: Evidence, bar: int) -> Agreement:
    start, end = _ends(chart, bar)

    def mean(a: Fraction, b: Fraction) -> npt.NDArray[np.float64]:
        return evidence.mean(chart.grid.seconds(a), chart.grid.seconds(b))

    placed, notes = _chords_and_tune(chart, bar)
    chords: list[tuple[float, float]] = []
    basses: list[tuple[float, float]] = []
    for c in placed:
        chord = c.chord
        a, b = max(c.start, start), min(c.end, end)
        if b <= a:
            continue
        heard, weight = mean(a, b), float(b - a)
        if chord is None:
            chords.append((float(np.clip(1 - heard[SOUND].max(), 0, 1)), weight))
            continue
        chords.append((_fit_chord([n.pitch_class for n in chord.members()], heard[SOUND]), weight))
        basses.append((float(heard[BASS][chord.bass.pitch_class] / max(0.25, heard[BASS].max())), weight))
    tune = [(min(1.0, float(mean(n.start, min(n.end, end))[TUNE][n.midi % 12]) * 1.25), float(n.duration)) for n in notes if not n.grace]
    parts = [(_average(chords), _CHORD_SHARE), (_average(basses), _BASS_SHARE), (_average(tune), _TUNE_SHARE)]
    found = [(value, weight) for value, weight in parts if value is not None]
    whole = sum(v * w for v, w in found) / sum(w for _, w in found) if found else 0.0
    return Agreement(bar, parts[0][0], parts[1][0], parts[2][0], round(whole, 3))


def _average(values: list[tuple[float, float]]) -> float | None:
    total = sum(w for _, w in values)
    return round(sum(v * w for v, w in values) / total, 3) if total else None


def _fit_chord(members: list[int], sound: npt.NDArray[np.float64]) -> float:
    """How far the chord's notes sound and others do not: 1 for exactly these, 0 for none of them."""
    inside = np.array([sound[pc] for pc in members])
    outside = np.delete(sound, members)
    loudest = max(0.2, float(sound.max()))
    present = float(np.minimum(inside / (0.6 * loudest), 1).mean())
    foreign = float(np.clip(outside / loudest - 0.35, 0, 1).sum()) / max(len(members), 1)
    return float(np.clip(present - foreign, 0, 1))
