"""Tune, bass, played notes and structure on made features."""

import numpy as np
import pytest

from valley.errors import ParameterError
from valley.listening.lines import BASS, MELODY, follow_line
from valley.listening.notes import find_notes
from valley.listening.sections import compare_bars, find_sections, rate_novelty

FPS = 50.0


def roll(notes: list[tuple[int, int, int]], frames: int) -> tuple[np.ndarray, np.ndarray]:
    """What a good ear gives for (start, end, midi): sure while it sounds, a peak where it begins."""
    sounds, begins = np.full((frames, 84), 0.02, np.float32), np.full((frames, 84), 0.01, np.float32)
    for start, end, midi in notes:
        sounds[start:end, midi - 24] = 0.9
        begins[max(0, start - 1) : start + 2, midi - 24] = (0.4, 0.9, 0.4)[-min(3, start + 2) :]
    return sounds, begins


def test_a_tune_comes_back_note_for_note() -> None:
    tune = [(10, 34, 67), (35, 59, 69), (60, 84, 71), (85, 109, 72), (110, 160, 67)]
    found = follow_line(*roll(tune, 200), MELODY, FPS)
    assert [n.midi for n in found] == [67, 69, 71, 72, 67]
    assert all(abs(n.start - s) <= 1 for n, (s, _, _) in zip(found, tune, strict=True))
    assert all(0.8 < n.strength < 1 for n in found)


def test_a_note_struck_twice_is_two_notes() -> None:
    found = follow_line(*roll([(10, 39, 67), (40, 70, 67)], 100), MELODY, FPS)
    assert [n.midi for n in found] == [67, 67]


@pytest.mark.parametrize("tail", [0, 6, 12, 20])
def test_a_note_ends_with_its_voice_and_not_with_the_room(tail: int) -> None:
    sounds, begins = roll([(10, 40, 67)], 120)
    sounds[40 : 40 + tail, 67 - 24] = np.linspace(0.49, 0.2, tail)  # it rings on, less and less
    (note,) = follow_line(sounds, begins, MELODY, FPS)
    assert note.end == 40
    (low,) = follow_line(*roll([(10, 40, 40)], 120), BASS, FPS)
    assert low.end == 40


def test_a_note_that_is_never_sure_keeps_some_length() -> None:
    sounds, begins = roll([(10, 40, 67)], 80)
    sounds[10:40, 67 - 24] = 0.45
    found = follow_line(sounds, begins, MELODY, FPS)
    assert all(n.end - n.start >= 2 for n in found)


def test_a_flicker_of_another_pitch_is_no_note() -> None:
    sounds, begins = roll([(10, 80, 67)], 100)
    sounds[40:42, 74 - 24] = 0.95
    assert [n.midi for n in follow_line(sounds, begins, MELODY, FPS)] == [67]


def test_silence_has_no_line_and_shapes_are_checked() -> None:
    nothing = np.zeros((100, 84), np.float32)
    assert follow_line(nothing, nothing, MELODY, FPS) == []
    assert follow_line(nothing[:0], nothing[:0], BASS, FPS) == []
    with pytest.raises(ParameterError, match="must both be frames"):
        follow_line(nothing[:, :12], nothing[:, :12], MELODY, FPS)


def test_every_played_note_is_found_with_its_length() -> None:
    played = [(5, 30, 48), (5, 55, 60), (5, 55, 64), (31, 60, 48), (40, 60, 72)]
    found = find_notes(*roll(played, 90))
    assert [(round(n.start), n.midi) for n in found] == sorted((s, m) for s, _, m in played)
    ends = {(round(n.start), n.midi): n.end for n in found}
    assert all(abs(ends[s, m] - e) <= 3 for s, e, m in played)
    with pytest.raises(ParameterError, match="one shape"):
        find_notes(np.zeros((3, 84), np.float32), np.zeros((4, 84), np.float32))


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


@pytest.mark.parametrize("seed", range(3))
def test_parts_of_a_song_are_mostly_of_one_length(seed: int) -> None:
    """A middle part whose halves come again among themselves was cut into fours in a song of eights."""
    chroma, colour = bars_of("ABACABACDEDFABAC", 4, seed)
    colour = colour.reshape(-1, 8, 8).mean(1).repeat(8, 0)  # one sound for each part
    assert [r.start for r in find_sections(*compare_bars(chroma, colour))] == list(range(0, 64, 8))


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


def test_a_bar_that_is_cut_short_ends_a_part() -> None:
    song = compare_bars(*bars_of("ABCD", 6))
    starts = [r.start for r in find_sections(*song)]
    assert 18 not in starts
    assert 18 in [r.start for r in find_sections(*song, [4] * 17 + [2] + [4] * 6)]
    assert [r.start for r in find_sections(*song, [4] * 24)] == starts
