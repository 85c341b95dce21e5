"""Melody, bass and structure on made features."""

import numpy as np
import pytest

from valley.errors import ParameterError
from valley.listening.melody import BASS, MELODY, follow_line
from valley.listening.sections import compare_bars, find_sections, rate_novelty

FPS = 50.0


def roll(notes: list[tuple[int, int, int]], frames: int) -> tuple[np.ndarray, np.ndarray]:
    """Activations and an onset envelope of (start, end, midi)."""
    activations = np.full((frames, 73), 0.001, np.float32)
    envelope = np.full(frames, 0.1)
    for start, end, midi in notes:
        activations[start:end, midi - 24] = np.linspace(1.0, 0.5, end - start)
        envelope[start] = 3.0
    return activations, envelope


def test_a_tune_comes_back_note_for_note() -> None:
    tune = [(10, 34, 67), (35, 59, 69), (60, 84, 71), (85, 109, 72), (110, 160, 67)]
    found = follow_line(*roll(tune, 200), MELODY, FPS)
    assert [n.midi for n in found] == [67, 69, 71, 72, 67]
    assert all(abs(n.start - s) <= 3 for n, (s, _, _) in zip(found, tune, strict=True))


def test_a_note_struck_twice_is_two_notes() -> None:
    found = follow_line(*roll([(10, 39, 67), (40, 70, 67)], 100), MELODY, FPS)
    assert [n.midi for n in found] == [67, 67]


def test_the_bass_is_the_low_line() -> None:
    notes = [(0, 50, 36), (0, 50, 64), (50, 100, 41), (50, 100, 65)]
    assert [n.midi for n in follow_line(*roll(notes, 110), BASS, FPS)] == [36, 41]


def test_silence_has_no_line_and_shapes_are_checked() -> None:
    assert follow_line(np.zeros((100, 73), np.float32), np.zeros(100), MELODY, FPS) == []
    assert follow_line(np.zeros((0, 73), np.float32), np.zeros(0), MELODY, FPS) == []
    with pytest.raises(ParameterError, match="shape"):
        follow_line(np.zeros((100, 12), np.float32), np.zeros(100), MELODY, FPS)


def bars_of(pattern: str, length: int, seed: int = 0) -> tuple[np.ndarray, np.ndarray]:
    """Chroma and colour of sections by letters, each of so many bars."""
    rng = np.random.default_rng(seed)
    kinds = {k: (rng.random((length, 48)) ** 3, rng.random(8) * 3) for k in sorted(set(pattern))}
    chroma = np.concatenate([kinds[k][0] + 0.03 * rng.random((length, 48)) for k in pattern])
    colour = np.concatenate([np.tile(kinds[k][1], (length, 1)) + 0.05 * rng.random((length, 8)) for k in pattern])
    return chroma, colour


@pytest.mark.parametrize("length", [4, 8])
def test_sections_and_their_repeats_are_found(length: int) -> None:
    runs = find_sections(*compare_bars(*bars_of("ABABCB", length)))
    assert [r.start for r in runs] == [i * length for i in range(6)]
    assert [r.group for r in runs] == [0, 1, 0, 1, 2, 1]


def test_no_bars_no_sections() -> None:
    assert find_sections(np.zeros((0, 0)), np.zeros((0, 0))) == []


def test_one_bar_is_one_section() -> None:
    assert [(r.start, r.end) for r in find_sections(np.ones((1, 1)), np.ones((1, 1)))] == [(0, 1)]


def test_novelty_peaks_at_the_change() -> None:
    same = np.ones((8, 8))
    similarity = np.block([[same, -same], [-same, same]])
    assert int(rate_novelty(similarity, 4).argmax()) == 8
    with pytest.raises(ParameterError, match="equal in number"):
        compare_bars(np.ones((3, 12)), np.ones((2, 8)))
