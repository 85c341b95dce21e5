"""How long work will take, from how long it took.

Times of one task spread over songs much like a log-normal (E. Limpert, W. Stahel & M. Abbt, "Log-normal Distributions across the
Sciences", BioScience 51, 2001), so minutes for a unit of size are averaged as logarithms. The usual rate counts as two songs, so that
the first lessons are not estimated from one odd day; the range is the predictive interval of the normal model with a conjugate prior
(A. Gelman et al., *Bayesian Data Analysis*, 3rd ed., section 3.3). Asking one's own past instead of one's hopes: D. Kahneman &
A. Tversky, "Intuitive Prediction", 1979.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Final

from valley.errors import ParameterError
from valley.records.way import WAY

_PRIOR_SONGS: Final = 2.0
_PRIOR_SPREAD: Final = 0.45  # of the logarithm: two songs of one size differ by about half
_INSIDE: Final = 0.8


@dataclass(frozen=True)
class Past:
    """One song's work towards a stage: its size in the stage's unit, and the minutes it took."""

    size: float
    minutes: float


@dataclass(frozen=True)
class Estimate:
    """Minutes, and the range in which four songs of five will end; ``songs`` were looked back at."""

    minutes: float
    low: float
    high: float
    songs: int


@dataclass(frozen=True)
class Rate:
    """What the past says of a stage: the logarithm of minutes for a unit of size, how far four of five lie from it, songs looked back at."""

    log_rate: float
    reach: float
    songs: int
    usual: float = 1.0

    def estimate(self, size: float) -> Estimate:
        """Minutes for a song of a size.

        Raises
        ------
        ParameterError
            the size is not above 0
        """
        if size <= 0:
            raise ParameterError(f"size={size} must be above 0; a song of no bars is not charted yet")
        if not self.usual:
            return Estimate(0.0, 0.0, 0.0, self.songs)
        low, middle, high = (math.exp(self.log_rate + by) * size for by in (-self.reach, 0.0, self.reach))
        return Estimate(middle, low, high, self.songs)


def learn_rate(stage: int, past: Sequence[Past] = ()) -> Rate:
    """The rate of the work towards a stage.

    Raises
    ------
    ParameterError
        a past size or time is not above 0
    """
    if any(p.size <= 0 or p.minutes <= 0 for p in past):
        raise ParameterError("every past size and time must be above 0; a stage that took no time has nothing to tell")
    usual = WAY[stage].usual
    if not usual:
        return Rate(0.0, 0.0, len(past), 0.0)
    logs = [math.log(p.minutes / p.size) for p in past]
    n, prior = len(logs), math.log(usual)
    weight = _PRIOR_SONGS + n
    mean = (_PRIOR_SONGS * prior + sum(logs)) / weight
    own = sum(logs) / n if n else 0.0
    squares = _PRIOR_SONGS * _PRIOR_SPREAD**2 + sum((x - own) ** 2 for x in logs) + _PRIOR_SONGS * n / weight * (own - prior) ** 2
    spread = math.sqrt(squares / weight * (weight + 1) / weight)
    from scipy.special import stdtrit  # takes a tenth of a second to load

    return Rate(mean, float(stdtrit(weight, (1 + _INSIDE) / 2)) * spread, n, usual)


def estimate_minutes(stage: int, size: float, past: Sequence[Past] = ()) -> Estimate:
    """How long the work towards a stage will take for a song of a size.

    >>> round(estimate_minutes(6, 20).minutes)
    60
    >>> slow = [Past(20, 120.0)] * 10
    >>> round(estimate_minutes(6, 20, slow).minutes)
    107
    """
    return learn_rate(stage, past).estimate(size)


def add_up(estimates: Sequence[Estimate]) -> Estimate:
    """Several pieces of work after each other. Ranges are added as independent: by the root of the sum of squares.

    >>> add_up([]).minutes
    0.0
    """
    minutes = sum((e.minutes for e in estimates), 0.0)
    low = math.sqrt(sum((e.minutes - e.low) ** 2 for e in estimates))
    high = math.sqrt(sum((e.high - e.minutes) ** 2 for e in estimates))
    return Estimate(minutes, max(0.0, minutes - low), minutes + high, min((e.songs for e in estimates), default=0))


def say_minutes(minutes: float) -> str:
    """A time as one would say it; no more exact than it can be known.

    >>> say_minutes(7), say_minutes(52), say_minutes(95), say_minutes(300)
    ('5 minutes', '50 minutes', '1½ hours', '5 hours')
    """
    if minutes < 3:
        return "a moment"
    if minutes < 55:
        step = 5 if minutes < 30 else 10
        return f"{max(step, round(minutes / step) * step)} minutes"
    halves = round(minutes / 30) if minutes < 600 else round(minutes / 60) * 2
    whole = halves // 2
    if halves % 2:
        return f"{whole}½ hours"
    return f"{whole} hour{'s' if whole > 1 else ''}"


def say_range(low: float, high: float) -> str:
    """Two times with their unit said once where it is one.

    >>> say_range(14, 52), say_range(40, 150), say_range(60, 200), say_range(9, 11)
    ('15 to 50 minutes', '40 minutes to 2½ hours', '1 to 3½ hours', '10 minutes')
    """
    one, two = say_minutes(low), say_minutes(high)
    if one == two:
        return one
    number, _, unit = one.partition(" ")
    same = unit.rstrip("s") == two.partition(" ")[2].rstrip("s")
    return f"{number} to {two}" if same else f"{one} to {two}"
