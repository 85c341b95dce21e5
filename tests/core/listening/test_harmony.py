"""Tuning, chroma, chords and keys on exact chroma."""

import numpy as np
import pytest

from tests.sounds import SR, song
from valley.audio.spectra import compute_magnitudes
from valley.errors import ParameterError
from valley.listening._vocabulary import load_vocabulary
from valley.listening.chords import change_costs, decode_chords, score_chords, weigh_by_key
from valley.listening.chroma import average_between, compute_beat_chroma
from valley.listening.keys import find_keys
from valley.listening.tuning import estimate_tuning
from valley.theory.chord import parse_symbol
from valley.theory.key import Key


def chroma_of(symbols: str, beats: int = 2) -> tuple[np.ndarray, np.ndarray]:
    """Ideal treble and bass chroma, so many beats a chord."""
    treble, bass = [], []
    for symbol in symbols.split():
        chord = parse_symbol(symbol)
        row, low = np.full(12, 0.05), np.full(12, 0.02)
        if chord:
            for name in chord.members():
                row[name.pitch_class] = 1
            low[chord.bass.pitch_class] = 1
        treble += [row / np.linalg.norm(row)] * beats
        bass += [low / np.linalg.norm(low)] * beats
    return np.array(treble), np.array(bass)


def decode(symbols: str, *, key: Key | None = None, beats: int = 2) -> list[str]:
    treble, bass = chroma_of(symbols, beats)
    fit = score_chords(treble, bass, np.ones(len(treble)))
    if key:
        fit = fit - weigh_by_key([key] * len(fit))
    vocabulary = load_vocabulary()
    chosen = [vocabulary.chords[r.row] for r in decode_chords(fit, change_costs(np.arange(len(fit)) % 4, 4))]
    return [c.respelled(key or Key.of("C", "major")).to_symbol() for c in chosen if c]


@pytest.mark.parametrize("cents", [-35.0, -8.0, 0.0, 14.0, 40.0])
def test_tuning_is_found_to_three_cents(cents: float) -> None:
    y = song(["C", "F", "G", "Am"], cents=cents)
    found = estimate_tuning(compute_magnitudes(y, 8192, hop_length=3528, max_bin=1200), SR, 8192)
    assert found == pytest.approx(cents, abs=3)


def test_silence_is_in_tune() -> None:
    assert estimate_tuning(np.zeros((10, 1200), np.float32), SR, 8192) == 0.0


@pytest.mark.parametrize(
    "symbols",
    ["C Am F G", "C G/B Am Am/G", "Dm7 G7 Cmaj7", "Ebmaj7 Cm7 Fm7 Bb7", "Bdim C", "Am7b5 D7 Gm", "C F/A Fm C", "Gsus4 G C"],
)
def test_plain_chroma_gives_its_chords_with_their_bass(symbols: str) -> None:
    key = Key.of("Eb", "major") if "b" in symbols else None
    assert decode(symbols, key=key) == symbols.split()


def test_readings_begin_with_the_chosen_chord_and_sum_to_at_most_one() -> None:
    treble, bass = chroma_of("C Am F G7")
    for run in decode_chords(score_chords(treble, bass, np.ones(8)), np.full(8, 3.0)):
        probabilities = [p for _, p in run.readings]
        assert run.readings[0][0] == run.row
        assert len(run.readings) == 5
        assert sum(probabilities) <= 1.0 + 1e-9


def test_silence_is_no_chord() -> None:
    treble, bass = chroma_of("C C C")
    level = np.array([1, 1, 0.01, 0.01, 1, 1])
    runs = decode_chords(score_chords(treble, bass, level), np.full(6, 1.0))
    assert [load_vocabulary().chords[r.row] is None for r in runs] == [False, True, False]


def test_shapes_are_checked_at_the_door() -> None:
    with pytest.raises(ParameterError, match="same shape"):
        score_chords(np.ones((3, 12)), np.ones((4, 12)), np.ones(3))
    with pytest.raises(ParameterError, match="must be equal"):
        decode_chords(np.ones((3, 5)), np.ones(2))
    with pytest.raises(ParameterError, match="at least two"):
        average_between(np.ones((3, 5), np.float32), np.array([1.0]))
    with pytest.raises(ParameterError, match="equal in number"):
        find_keys([None], np.ones((2, 12)))


@pytest.mark.parametrize(
    ("symbols", "keys"),
    [
        ("C F G C Am F G C", ["C major"]),
        ("Am Dm E7 Am F Dm E7 Am", ["A minor"]),
        ("Eb Ab Bb7 Eb Cm Fm Bb7 Eb", ["Eb major"]),
        ("C F G C C F G C C F G C D G A7 D D G A7 D D G A7 D", ["C major", "D major"]),
    ],
)
def test_keys_follow_cadence_and_tonic(symbols: str, keys: list[str]) -> None:
    treble, _ = chroma_of(symbols)
    chords = [parse_symbol(s) for s in symbols.split() for _ in range(2)]
    assert [str(run.key) for run in find_keys(chords, treble)] == keys


def test_no_chords_give_no_keys() -> None:
    assert find_keys([], np.zeros((0, 12))) == []


def test_chroma_folds_octaves_and_averages() -> None:
    activations = np.zeros((10, 73), np.float32)
    activations[:, 60 - 24] = 1
    activations[:, 72 - 24] = 1
    activations[:, 36 - 24] = 1
    treble, bass, level = compute_beat_chroma(activations, np.array([0.0, 5.0, 10.0]))
    assert treble.shape == bass.shape == (2, 12)
    assert treble[0].argmax() == bass[0].argmax() == 0
    assert level[0] == pytest.approx(level[1])
