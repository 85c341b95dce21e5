"""The shortcut gives the same path as the plain algorithm over all pairs of states."""

import numpy as np
from hypothesis import given
from hypothesis import strategies as st

from valley.listening._sticky import follow_sticky


def value_of(path: np.ndarray, fit: np.ndarray, change: np.ndarray) -> float:
    moved = np.diff(path) != 0
    return float(fit[np.arange(len(path)), path].sum() - change[1:][moved].sum())


def best_by_all_pairs(fit: np.ndarray, change: np.ndarray) -> float:
    score = fit[0]
    for t in range(1, len(fit)):
        cost = np.where(np.eye(fit.shape[1], dtype=bool), 0, change[t])
        score = (score[None, :] - cost).max(1) + fit[t]
    return float(score.max())


@given(st.integers(0, 10_000), st.integers(1, 12), st.integers(1, 6), st.floats(0, 5))
def test_the_path_is_the_best_there_is(seed: int, steps: int, states: int, price: float) -> None:
    rng = np.random.default_rng(seed)
    fit, change = rng.normal(size=(steps, states)), price * rng.random(steps)
    path = follow_sticky(fit, change)
    assert np.isclose(value_of(path, fit, change), best_by_all_pairs(fit, change))


def test_a_dear_change_is_not_made_for_one_odd_step() -> None:
    fit = np.array([[1.0, 0], [1, 0], [0, 1], [1, 0], [1, 0]])
    assert follow_sticky(fit, np.full(5, 3.0)).tolist() == [0] * 5
    assert follow_sticky(fit, np.full(5, 0.1)).tolist() == [0, 0, 1, 0, 0]
