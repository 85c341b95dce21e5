"""Tuning, chroma, chords and keys on exact chroma."""

from pathlib import Path
from typing import Any

import numpy as np
import pytest

from tests.sounds import SR, song
from valley.audio.spectra import compute_magnitudes
from valley.errors import ParameterError
from valley.listening._vocabulary import load_vocabulary
from valley.listening.chords import change_costs, decode_chords, rate_chords, rate_chords_together, weigh_by_key
from valley.listening.chroma import average_between, compute_beat_chroma
from valley.listening.ear import Heard
from valley.listening.harmony import MIDDLE, add_context, view_harmony, view_harmony_anew
from valley.listening.keys import find_keys
from valley.listening.tuning import estimate_tuning
from valley.theory.chord import Chord, parse_symbol
from valley.theory.key import Key
from valley.theory.pitch import parse_name, spell_pitch_class


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


def views_of(symbols: str, beats: int = 2) -> np.ndarray:
    """What a good ear gives for held chords over their bass: see ``view_harmony`` for the ten views."""
    rows = []
    for symbol in symbols.split():
        chord = parse_symbol(symbol)
        view = np.full((10, 12), 0.03, np.float32)
        if chord:
            members, low = [n.pitch_class for n in chord.members()], chord.bass.pitch_class
            view[0, members], view[1, members], view[2, low] = 0.5, 0.85, 0.9
            view[3, members] = 0.25
            view[4:6, low], view[6, low] = 0.9, 0.3
            view[8, members], view[9, low] = 1 / np.sqrt(len(members)), 1.0
        rows += [view] * beats
    return np.array(rows)


def decode(symbols: str, *, key: Key | None = None, beats: int = 2) -> list[str]:
    views = views_of(symbols, beats)
    fit = rate_chords(views, np.ones(len(views)))
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
    ["C Am F G", "C G/B Am Am/G", "Dm7 G7 Cmaj7", "Ebmaj7 Cm7 Fm7 Bb7", "Am7b5 D7 Gm", "C F/A Fm C", "Gsus4 G C"],
)
def test_plain_views_give_its_chords_with_their_bass(symbols: str) -> None:
    key = Key.of("Eb", "major") if "b" in symbols else None
    assert decode(symbols, key=key) == symbols.split()


def test_readings_begin_with_the_chosen_chord_and_sum_to_at_most_one() -> None:
    for run in decode_chords(rate_chords(views_of("C Am F G7"), np.ones(8)), np.full(8, 3.0)):
        probabilities = [p for _, p in run.readings]
        assert run.readings[0][0] == run.row
        assert len(run.readings) == 5
        assert sum(probabilities) <= 1.0 + 1e-9


def test_silence_is_no_chord() -> None:
    level = np.array([1, 1, 0.01, 0.01, 1, 1])
    runs = decode_chords(rate_chords(views_of("C C C"), level), np.full(6, 1.0))
    assert [load_vocabulary().chords[r.row] is None for r in runs] == [False, True, False]


def test_shapes_are_checked_at_the_door() -> None:
    with pytest.raises(ParameterError, match="one interval each"):
        rate_chords(np.ones((3, 10, 12), np.float32), np.ones(4))
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


def test_a_part_in_a_near_key_is_heard_where_a_part_begins() -> None:
    symbols = ("G C D7 G Em Am D7 G " + "C F G7 C Am Dm G7 C " + "G C D7 G Em Am D7 G").split()
    treble, _ = chroma_of(" ".join(symbols))
    chords = [parse_symbol(s) for s in symbols for _ in range(2)]
    assert [str(run.key) for run in find_keys(chords, treble, [16, 32])] == ["G major", "C major", "G major"]
    assert len(find_keys(chords, treble)) == 1  # within a part it is passing


@pytest.mark.parametrize("tonic", range(12))
def test_keys_move_with_their_chords(tonic: int) -> None:
    """What is usual in one key is as usual in every other."""
    chords = [parse_symbol(s) for s in ["Am", "F", "C", "G", "Am", "F", "E7", "Am", "Dm", "G7", "C", "F", "Dm", "E7", "Am"] for _ in range(4)]
    moved = [Chord(spell_pitch_class((c.root.pitch_class + tonic) % 12, parse_name("C")), c.quality) for c in chords if c]
    plain = np.zeros((len(chords), 12))
    assert [(r.start, r.end, r.key.tonic.pitch_class, r.key.mode) for r in find_keys(moved, plain)] == [(0, len(chords), (9 + tonic) % 12, "minor")]


def test_no_chords_give_no_keys() -> None:
    assert find_keys([], np.zeros((0, 12))) == []


@pytest.mark.parametrize("up", range(1, 12))
def test_all_twelve_keys_are_treated_alike(up: int) -> None:
    views = views_of("C Am7 Dm7/F G7 Cmaj7 F#m7b5", 1)
    here, there = rate_chords(views, np.ones(6)), rate_chords(np.roll(views, up, axis=2), np.ones(6))
    chords = load_vocabulary().chords
    place = {(c.root.pitch_class, c.quality.harte, c.bass_interval): i for i, c in enumerate(chords) if c}
    moved = [place[(c.root.pitch_class + up) % 12, c.quality.harte, c.bass_interval] if c else len(chords) - 1 for c in chords]
    assert np.allclose(here, there[:, moved], atol=2e-3)


def test_the_training_script_adds_the_same_context() -> None:
    source = (Path(__file__).parents[3] / "training" / "train_chords.py").read_text()
    body = source[source.index("def add_context") : source.index("class Songs")]
    names: dict[str, Any] = {"np": np}
    exec(body, names)  # noqa: S102 - our own script, which needs PyTorch to be imported whole
    views = np.random.default_rng(1).random((20, 10, 12)).astype(np.float32)
    assert np.allclose(names["add_context"](views), add_context(views), atol=1e-6)


def test_chroma_folds_octaves_and_averages() -> None:
    activations = np.zeros((10, 73), np.float32)
    activations[:, 60 - 24] = 1
    activations[:, 72 - 24] = 1
    activations[:, 36 - 24] = 1
    treble, bass, level = compute_beat_chroma(activations, np.array([0.0, 5.0, 10.0]))
    assert treble.shape == bass.shape == (2, 12)
    assert treble[0].argmax() == bass[0].argmax() == 0
    assert level[0] == pytest.approx(level[1])


def test_several_looks_hold_the_plain_one_and_are_rated_together() -> None:
    rng = np.random.default_rng(2)
    rows = [rng.random((60, 84)).astype(np.float32) ** 4 for _ in range(6)]
    activations, edges = rng.random((60, 73)).astype(np.float32), np.arange(0.0, 61, 12)
    looks = view_harmony_anew(Heard(*rows), activations, edges)
    assert looks.shape == (5, 3, 10, 12)
    assert np.allclose(looks[:, MIDDLE], view_harmony(Heard(*rows), activations, edges))
    assert np.allclose(looks[:, :, 3:8], looks[:, MIDDLE : MIDDLE + 1, 3:8]), "what knows no registers is the same in every look"
    level = np.ones(5)
    together = rate_chords_together(looks, level)
    assert np.allclose(together, np.mean([rate_chords(looks[:, i], level) for i in range(3)], axis=0))
    assert np.allclose(rate_chords_together(looks[:, :1], level), rate_chords(looks[:, 0], level))
