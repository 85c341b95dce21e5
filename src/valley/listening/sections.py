"""Structure: where parts begin, and which repeat.

Bars are compared with each other by their chroma, beat for beat, and by their colour (level by band). Boundaries
lie on downbeats and maximise, by dynamic programming over bars, the novelty at their edges (J. Foote,
"Automatic Audio Segmentation Using a Measure of Audio Novelty", ICME 2000), the repetition of whole stretches
elsewhere (after J. Paulus & A. Klapuri 2009, a cost over segments and their groups) and whole phrases. Most parts of a
song are equally long, but which length that is differs from song to song: every usual one is tried, and the best taken.
Stretches that repeat get one label.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from itertools import pairwise

import numpy as np
import numpy.typing as npt

from valley.errors import ParameterError

Doubles = npt.NDArray[np.float64]

_LENGTH_BONUS = {1: -1.2, 2: -0.5, 4: 0.15, 8: 1.0, 16: 2.0, 12: 0.2, 6: -0.6, 10: -0.6}
_ODD_LENGTH = -2.0
_LAST_BAR = -0.7  # one by itself at the end, in which the last chord rings
_UNIT_BONUS = 0.1  # a bar of a part that is as long as most are
_UNITS = {4: 0.0, 6: -1.4, 8: 0.0, 16: -2.5}  # lengths that most parts can have, and how much likelier that is, for 32 bars of music
_LONGEST = 16
_WHOLE_PART = 8  # bars up to which two halves that never part are joined
_NOVELTY, _REPEAT, _LIKE = 1.2, 1.5, 0.45  # from ``_LIKE`` on a stretch is rated as a repeat
_KERNELS = (2, 4, 8)  # bars to either side in which novelty is looked for
_AFTER_SHORT = 1.0  # more novelty behind a bar that is cut short
_SAME = 0.5  # mean similarity from which two stretches carry one label


@dataclass(frozen=True)
class SectionRun:
    """Bars ``start`` to ``end`` (exclusive) with a group number; confidence 0 to 1."""

    start: int
    end: int
    group: int
    confidence: float


def compare_bars(chroma: Doubles, colour: Doubles) -> tuple[Doubles, Doubles]:
    """Similarity of every two bars by harmony, and by harmony and colour together.

    Parameters
    ----------
    chroma : shape (bars, beats × 12)
    colour : shape (bars, n), log levels by band

    Returns
    -------
    harmony, both : shape (bars, bars), about 0 for unrelated bars and 1 for equal ones
    """
    if len(chroma) != len(colour):
        raise ParameterError(f"{len(chroma)} chroma and {len(colour)} colour rows must be equal in number")
    unit = chroma / np.maximum(np.linalg.norm(chroma, axis=1, keepdims=True), 1e-9)
    raw = unit @ unit.T
    base = np.median(raw)
    harmony = np.clip((raw - base) / max(1 - base, 1e-6), -1, 1)
    scaled = (colour - colour.mean(0)) / (colour.std(0) + 0.15)
    distance = ((scaled[:, None] - scaled[None]) ** 2).mean(2)
    return harmony, 0.5 * harmony + 0.5 * (2 * np.exp(-distance) - 1)


def rate_novelty(similarity: Doubles, half: int) -> Doubles:
    """Checkerboard novelty before each bar with ``half`` bars either side, 0 to about 1.

    Parameters
    ----------
    similarity : of each bar with each, shape (bars, bars), 0 to 1
    half : bars either side
    """
    n = len(similarity)
    out = np.zeros(n)
    for i in range(1, n):
        h = min(half, i, n - i)
        before, after = slice(i - h, i), slice(i, i + h)
        within = similarity[before, before].mean() + similarity[after, after].mean()
        out[i] = (within - 2 * similarity[before, after].mean()) * np.sqrt(h / half)
    return np.asarray(np.maximum(out, 0) / (out.max() + 1e-9))


def find_sections(harmony: Doubles, both: Doubles, lengths: Sequence[int] = ()) -> list[SectionRun]:
    """Sections over the bars, from ``compare_bars``.

    Parameters
    ----------
    harmony : similarity of harmony, shape (bars, bars)
    both : of harmony and sound together, shape (bars, bars)
    lengths : beats of each bar; a bar that is cut short mostly ends a part. All are alike without it
    """
    n = len(harmony)
    if n == 0:
        return []
    novelty = np.mean([rate_novelty(both, half) for half in _KERNELS], axis=0)
    for bar, (before, after) in enumerate(pairwise(lengths), 1):
        novelty[bar] += _AFTER_SHORT * (before < after)
    diagonal = _diagonal_means(harmony, min(_LONGEST, n))
    rated = [_NOVELTY * novelty[: n - length + 1] + _rate_repeats(diagonal[length], length) for length in range(1, len(diagonal))]
    edges = max((_divide(rated, n, unit) for unit in _UNITS), key=lambda found: found[0])[1]
    if len(edges) > 2 and edges[-1] - edges[-2] == 1:  # the last chord's ringing is no part of its own
        edges.pop(-2)
    runs = _label(edges, harmony, both, novelty)
    while (pair := _always_together(runs)) is not None:
        inner = {b.start for a, b in zip(runs, runs[1:], strict=False) if (a.group, b.group) == pair}
        edges = [e for e in edges if e not in inner]
        runs = _label(edges, harmony, both, novelty)
    return runs


def _always_together(runs: list[SectionRun]) -> tuple[int, int] | None:
    """Two groups of half phrases that never occur apart, and so are one part: its first half and its second."""
    groups = [r.group for r in runs]
    for a, b in zip(runs, runs[1:], strict=False):
        if a.group == b.group or b.end - a.start > _WHOLE_PART or min(b.end - b.start, a.end - a.start) < 3:
            continue
        count = groups.count(a.group)
        joined = sum(x == a.group and y == b.group for x, y in zip(groups, groups[1:], strict=False))
        if count >= 2 and count == groups.count(b.group) == joined:
            return a.group, b.group
    return None


def _divide(rated: Sequence[Doubles], bars: int, unit: int) -> tuple[float, list[int]]:
    """The best division of a song most of whose parts have ``unit`` bars: its value and its edges, by dynamic programming.

    Parameters
    ----------
    rated : for every length from 1 bar on, how well a part of it begins at each bar
    """
    bonus = [_LENGTH_BONUS.get(length, _ODD_LENGTH) + _UNIT_BONUS * length * (length == unit) for length in range(1, len(rated) + 1)]
    values = [(row + extra).tolist() for row, extra in zip(rated, bonus, strict=True)]
    values[0][bars - 1] += _LAST_BAR - bonus[0]
    best, back = [0.0], [0]
    for end in range(1, bars + 1):
        value, start = max((best[end - length] + values[length - 1][end - length], end - length) for length in range(1, min(len(values), end) + 1))
        best.append(value)
        back.append(start)
    edges = [bars]
    while edges[-1]:
        edges.append(back[edges[-1]])
    return best[-1] + _UNITS[unit] * bars / 32, edges[::-1]


def _diagonal_means(similarity: Doubles, longest: int) -> list[Doubles]:
    """For each length, the mean similarity of the stretch at i with the stretch at j: a list of matrices."""
    out = [np.zeros((0, 0)), similarity]
    total = similarity.copy()
    for length in range(2, longest + 1):
        total = total[:-1, :-1] + similarity[length - 1 :, length - 1 :]
        out.append(total / length)
    return out


def _rate_repeats(likeness: Doubles, length: int) -> Doubles:
    """How much a stretch of so many bars from each bar on comes again elsewhere. ``likeness``: of those stretches with each other."""
    i = np.arange(len(likeness))
    apart = np.where(np.abs(i[:, None] - i) >= length, likeness, 0.0)
    if length < 3:
        return np.zeros(len(likeness))
    return np.asarray(_REPEAT * np.maximum(0.0, apart.max(1) - _LIKE) * length / 4)


def _label(edges: list[int], harmony: Doubles, both: Doubles, novelty: Doubles) -> list[SectionRun]:
    groups: list[list[tuple[int, int]]] = []
    runs = []
    for a, b in zip(edges, edges[1:], strict=False):
        rated = [(max(_likeness(harmony, both, (a, b), other) for other in members), g) for g, members in enumerate(groups)]
        likeness, group = max(rated, default=(-1.0, -1))
        if likeness < _SAME:
            group = len(groups)
            groups.append([])
            sure = min(1.0, 0.5 + max(0.0, _SAME - likeness))
        else:
            sure = min(1.0, 0.5 + 1.2 * (likeness - _SAME))
        groups[group].append((a, b))
        runs.append(SectionRun(a, b, group, float(0.5 * sure + 0.5 * min(1.0, 0.4 + novelty[a]))))
    return runs


def _likeness(harmony: Doubles, both: Doubles, one: tuple[int, int], other: tuple[int, int]) -> float:
    """Mean similarity of two stretches bar by bar; a different length costs."""
    length = min(one[1] - one[0], other[1] - other[0])
    longer = max(one[1] - one[0], other[1] - other[0])
    i = np.arange(length)
    value = 0.75 * harmony[one[0] + i, other[0] + i].mean() + 0.25 * both[one[0] + i, other[0] + i].mean()
    return float(value * (length / longer) ** 0.5)
