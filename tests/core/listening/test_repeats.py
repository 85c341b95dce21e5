"""Repeats heard together: noise averages out, true differences stay."""

import numpy as np
import pytest

from valley.errors import ParameterError
from valley.listening.repeats import find_counterparts, pool_repeats
from valley.listening.sections import SectionRun

SECTIONS = [SectionRun(0, 2, 0, 1.0), SectionRun(2, 3, 1, 1.0), SectionRun(3, 5, 0, 1.0)]


def test_bars_find_their_twins_unless_they_differ() -> None:
    similarity = np.ones((5, 5))
    similarity[1, 4] = similarity[4, 1] = 0.1
    assert find_counterparts(SECTIONS, similarity) == {0: [3], 1: [], 2: [], 3: [0], 4: []}


def test_a_shorter_repeat_has_no_twin_at_its_end() -> None:
    sections = [SectionRun(0, 3, 0, 1.0), SectionRun(3, 4, 0, 1.0)]
    assert find_counterparts(sections, np.ones((4, 4))) == {0: [3], 1: [], 2: [], 3: [0]}


def test_pooling_brings_noisy_repeats_nearer_to_the_truth() -> None:
    rng = np.random.default_rng(2)
    truth = rng.random((4, 12))
    truth /= np.linalg.norm(truth, axis=1, keepdims=True)
    noisy = np.concatenate([truth + 0.3 * rng.random((4, 12)) for _ in range(3)])
    noisy /= np.linalg.norm(noisy, axis=1, keepdims=True)
    pooled = pool_repeats(noisy, [0, 4, 8, 12], {0: [1, 2], 1: [0, 2], 2: [0, 1]})
    assert np.allclose(pooled[:4], pooled[4:8])
    spread = np.linalg.norm(noisy[:4] - noisy[4:8])
    assert np.linalg.norm(pooled[:4] - noisy[4:8]) < spread


def test_bars_of_other_lengths_are_not_pooled() -> None:
    chroma = np.eye(12)[:7]
    assert np.allclose(pool_repeats(chroma, [0, 4, 7], {0: [1], 1: [0]}), chroma)
    with pytest.raises(ParameterError, match="beyond the 7 intervals"):
        pool_repeats(chroma, [0, 4, 9], {})
