"""Viterbi decoding for states that like to stay: chords over beats, keys over chords."""

from __future__ import annotations

import numpy as np
import numpy.typing as npt

Doubles = npt.NDArray[np.float64]


def follow_sticky(fit: Doubles, change: Doubles) -> npt.NDArray[np.int_]:
    """The likeliest path when staying is free and a change costs the same whatever the new state.

    Because the price does not depend on the state, one maximum a step is enough: time is linear in states.

    Parameters
    ----------
    fit : shape (steps, states), log likelihoods
    change : shape (steps,), cost of a new state at each step
    """
    n, states = fit.shape
    score = fit[0].copy()
    stay = np.ones((n, states), bool)
    best_before = np.zeros(n, int)
    for t in range(1, n):
        best = int(score.argmax())
        best_before[t] = best
        jump = score[best] - change[t]
        stay[t] = score >= jump
        score = np.maximum(score, jump) + fit[t]
    path = np.empty(n, int)
    path[-1] = int(score.argmax())
    for t in range(n - 1, 0, -1):
        path[t - 1] = path[t] if stay[t, path[t]] else best_before[t]
    return path
