"""A performance held against the arrangement: which struck key was which note, what was missed, what was struck besides.

The performance is matched to the arrangement by its notes alone, so it may be played freely and at any tempo: chords struck together are aligned to
chords written together by dynamic programming, after R. B. Dannenberg, "An On-Line Algorithm for Real-Time Accompaniment", ICMC 1984, in the form of
S. Needleman & C. Wunsch (1970) with one cost for what is left out or put in. Between matched chords time runs evenly, which places the rest on the
chart's beats.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Final

import numpy as np
import numpy.typing as npt

from valley.errors import FormatError
from valley.fraction import Fraction
from valley.model.arrangement import HANDS, Arrangement, PlayedNote
from valley.model.chart import Chart
from valley.model.score import ScoreNote
from valley.theory.pitch import spell_midi

_TOGETHER: Final = Fraction(1, 8)  # of a quarter: struck as one
_LEFT_OUT: Final = 0.45  # what it costs to leave a chord of either side unmatched
_FINEST: Final = 4  # to the beat
_OFF_BEAT: Final = 0.3  # of a beat: early or late enough to be heard
_LIKE: Final = 0.25  # of the notes that must be found again for the performance to be of this song
_PART_OF_BEAT: Final = Fraction(1, 2)


@dataclass(frozen=True)
class Struck:
    """One key as it was struck, on the chart's beats; ``right`` where the arrangement has it there."""

    start: Fraction
    midi: int
    hand: str
    right: bool


@dataclass(frozen=True)
class BarFault:
    """What went otherwise in one bar, as spelled notes by hand: "left E3"; ``timing`` is mean lateness in beats, below 0 early."""

    bar: int
    missing: tuple[str, ...]
    extra: tuple[str, ...]
    timing: float

    @property
    def words(self) -> str:
        said = []
        if self.missing:
            said.append(f"missing {', '.join(self.missing)}")
        if self.extra:
            said.append(f"struck besides {', '.join(self.extra)}")
        if abs(self.timing) >= _OFF_BEAT:
            said.append("late" if self.timing > 0 else "early")
        return "; ".join(said)


@dataclass(frozen=True)
class Performance:
    """``struck`` keys in order, bars that went otherwise, and the share of the arrangement's notes that were struck."""

    struck: tuple[Struck, ...]
    faults: tuple[BarFault, ...]
    found: float
    notes: int


@dataclass(frozen=True)
class _Together:
    at: float
    keys: frozenset[int]


def hold_against(chart: Chart, arrangement: Arrangement, performance: Sequence[ScoreNote]) -> Performance:
    """Match a performance (positions in quarters) to an arrangement.

    Raises
    ------
    FormatError
        the performance is of something else
    """
    expected = [n for part in arrangement.parts for n in part.notes if not n.grace]
    if not performance or not expected:
        raise FormatError("there is nothing to compare: the performance or the arrangement holds no notes")
    written = _gather([(n.start, n.midi) for n in expected], Fraction(0))
    played = _gather([(n.start, n.midi) for n in performance if not n.grace], _TOGETHER)
    pairs = _align(written, played)
    hits = sum(len(written[i].keys & played[j].keys) for i, j in pairs)
    total = sum(len(w.keys) for w in written)
    if hits < _LIKE * min(total, sum(len(p.keys) for p in played)):
        raise FormatError(f"only {hits} of the {total} notes of the arrangement were found; this performance seems to be of another song, part or key")
    beats = _place(written, played, pairs)
    off = _timing(written, played, pairs)
    hands = {(float(n.start), n.midi): n.hand for n in expected}
    matched = {j: i for i, j in pairs}
    own = {(float(n.start), n.midi): n.hand for n in performance}
    struck = []
    for j, group in enumerate(played):
        i = matched.get(j)
        for midi in sorted(group.keys):
            right = i is not None and midi in written[i].keys
            hand = hands[written[i].at, midi] if right and i is not None else own.get((group.at, midi)) or _nearest_hand(expected, beats[j], midi)
            struck.append(Struck(beats[j], midi, hand, right))
    return Performance(tuple(struck), _find_faults(chart, written, struck, hands, off, matched), hits / total if total else 0.0, total)


def _gather(notes: Sequence[tuple[Fraction, int]], within: Fraction) -> list[_Together]:
    """Notes that begin together, within a tolerance from the first of them."""
    out: list[tuple[Fraction, set[int]]] = []
    for start, midi in sorted(notes):
        if out and start - out[-1][0] <= within:
            out[-1][1].add(midi)
        else:
            out.append((start, {midi}))
    return [_Together(float(start), frozenset(keys)) for start, keys in out]


def _align(written: Sequence[_Together], played: Sequence[_Together]) -> list[tuple[int, int]]:
    """Index pairs (written, played) of the best alignment that share a key."""
    a, b = _matrix(written), _matrix(played)
    common = a @ b.T
    likeness = 2 * common / (a.sum(1)[:, None] + b.sum(1)[None, :])
    gain = np.where(common > 0, 0.3 + likeness, -_LEFT_OUT * 1.5)
    rows, columns = gain.shape
    best = np.zeros((rows + 1, columns + 1))
    steps = _LEFT_OUT * np.arange(columns + 1)
    # Beginning late and ending early is free in the arrangement: one part may be played alone.
    best[0] = -steps
    for i in range(1, rows + 1):
        line = np.zeros(columns + 1)
        line[1:] = np.maximum(best[i - 1, 1:] - _LEFT_OUT, best[i - 1, :-1] + gain[i - 1])
        best[i] = np.maximum.accumulate(line + steps) - steps
    i, j = int(best[:, columns].argmax()), columns
    pairs = []
    while i and j:
        if np.isclose(best[i, j], best[i - 1, j - 1] + gain[i - 1, j - 1]):
            if common[i - 1, j - 1] > 0:
                pairs.append((i - 1, j - 1))
            i, j = i - 1, j - 1
        elif np.isclose(best[i, j], best[i - 1, j] - _LEFT_OUT):
            i -= 1
        else:
            j -= 1
    return pairs[::-1]


def _matrix(groups: Sequence[_Together]) -> npt.NDArray[np.float64]:
    out = np.zeros((len(groups), 128))
    for i, group in enumerate(groups):
        out[i, list(group.keys)] = 1.0
    return out


def _place(written: Sequence[_Together], played: Sequence[_Together], pairs: Sequence[tuple[int, int]]) -> list[Fraction]:
    """Beats of every played chord: those of its twin, or between its matched neighbours to the nearest quarter of a beat."""
    at = {j: Fraction(written[i].at).limit_denominator(96) for i, j in pairs}
    known = sorted(at)
    xs, ys = [played[j].at for j in known], [float(at[j]) for j in known]
    slope = (ys[-1] - ys[0]) / (xs[-1] - xs[0]) if len(xs) > 1 and xs[-1] > xs[0] else 1.0
    out = []
    for j, group in enumerate(played):
        if j in at:
            out.append(at[j])
            continue
        if group.at < xs[0]:
            beat = ys[0] - (xs[0] - group.at) * slope
        elif group.at > xs[-1]:
            beat = ys[-1] + (group.at - xs[-1]) * slope
        else:
            beat = float(np.interp(group.at, xs, ys))
        out.append(max(Fraction(0), Fraction(round(beat * _FINEST), _FINEST)))
    return out


def _timing(written: Sequence[_Together], played: Sequence[_Together], pairs: Sequence[tuple[int, int]]) -> dict[int, float]:
    """Lateness in beats of each matched written chord against the even line through its neighbours."""
    out: dict[int, float] = {}
    for k, (i, j) in enumerate(pairs):
        near = [*pairs[max(0, k - 4) : k], *pairs[k + 1 : k + 5]]
        if len(near) < 4:
            continue
        x = np.array([written[a].at for a, _ in near])
        y = np.array([played[b].at for _, b in near])
        if np.ptp(x) == 0:
            continue
        slope, base = np.polyfit(x, y, 1)
        if slope > 0:
            out[i] = float((played[j].at - (slope * written[i].at + base)) / slope)
    return out


def _nearest_hand(expected: Sequence[PlayedNote], beat: Fraction, midi: int) -> str:
    return min(expected, key=lambda n: (abs(n.start - beat), abs(n.midi - midi))).hand


def _find_faults(
    chart: Chart,
    written: Sequence[_Together],
    struck: Sequence[Struck],
    hands: dict[tuple[float, int], str],
    off: dict[int, float],
    matched: dict[int, int],
) -> tuple[BarFault, ...]:
    """By bar, between the first and the last chord that were played: what stands before or after was not meant."""
    if not matched:
        return ()
    first, last = min(matched.values()), max(matched.values())
    right = {(float(s.start), s.midi) for s in struck if s.right}
    rows: dict[int, tuple[list[str], list[str], list[float]]] = {}

    def row(beat: Fraction) -> tuple[list[str], list[str], list[float]]:
        bar = chart.grid.place(min(beat, Fraction(len(chart.grid.beats) - 1)))[0]
        return rows.setdefault(bar, ([], [], []))

    for i in range(first, last + 1):
        beat = Fraction(written[i].at).limit_denominator(96)
        for midi in sorted(written[i].keys):
            if (written[i].at, midi) not in right:
                row(beat)[0].append(f"{hands[written[i].at, midi]} {spell_midi(midi, chart.key_at(beat).tonic)}")
        if i in off:
            row(beat)[2].append(off[i])
    for s in struck:
        if not s.right:
            row(s.start)[1].append(f"{s.hand} {spell_midi(s.midi, chart.key_at(s.start).tonic)}")
    faults = [BarFault(bar, tuple(a), tuple(b), float(np.mean(c)) if c else 0.0) for bar, (a, b, c) in sorted(rows.items())]
    return tuple(f for f in faults if f.words)


def grips_played(chart: Chart, struck: Sequence[Struck]) -> tuple[tuple[Fraction, str, tuple[int, ...], tuple[int, ...]], ...]:
    """The grip struck with each chord as (start, label, left keys, right keys): what begins in its first half beat, five keys a hand at most.

    Chords under which nothing was struck are left out.
    """
    out = []
    for chord in chart.chords:
        within = [s for s in struck if chord.start <= s.start < chord.start + min(_PART_OF_BEAT, chord.duration)]
        if chord.chord is None or not within:
            continue
        held = {hand: sorted({s.midi for s in within if s.hand == hand}) for hand in HANDS}
        left, right = (_at_most_five(held[hand]) for hand in HANDS)
        out.append((chord.start, chord.label, left, right))
    return tuple(out)


def _at_most_five(keys: list[int]) -> tuple[int, ...]:
    """The outer keys stay: bass and top tell the chord and the tune."""
    return tuple(keys) if len(keys) <= 5 else (*keys[:2], *keys[-3:])
