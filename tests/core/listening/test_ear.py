"""The trained ear on tones whose notes are known, and on nothing."""

import threading

import numpy as np
import pytest

from tests.sounds import SR, mix, tone
from valley.audio.spectra import HOP, compute_attack_spectrum, compute_log_spectrum
from valley.errors import ParameterError
from valley.listening import ear
from valley.listening.ear import LOW_MIDI, Heard, hear_notes
from valley.listening.notes import find_notes


def listen_to(notes: list[tuple[float, float, int]], seconds: float = 4.0) -> Heard:
    y = np.zeros(int(seconds * SR), np.float32)
    for start, length, midi in notes:
        mix(y, tone(midi, length), start, 0.5)
    return hear_notes(compute_log_spectrum(y, SR), compute_attack_spectrum(y, SR))


CHORDS = [(0.5, 1.4, 48), (0.5, 1.4, 55), (0.5, 1.4, 64), (2.0, 1.4, 53), (2.0, 1.4, 57), (2.0, 1.4, 72)]


def test_chords_are_heard_note_by_note() -> None:
    heard = listen_to(CHORDS)
    found = {(n.midi, round(n.start * HOP / SR, 1)) for n in find_notes(heard.sounds, heard.begins)}
    true = {(m, t) for t, _, m in CHORDS}
    assert len(found & true) >= 5
    assert len(found - true) <= 2


def test_the_bass_is_the_lowest_line() -> None:
    heard = listen_to(CHORDS)
    middle = [heard.bass[int(t * SR / HOP)].argmax() + LOW_MIDI for t in (1.0, 2.6)]
    assert middle == [48, 53]


def test_silence_has_no_notes() -> None:
    nothing = hear_notes(np.zeros((300, 252), np.float32), np.zeros((300, 84), np.float32))
    assert find_notes(nothing.sounds, nothing.begins) == []
    assert hear_notes(np.zeros((0, 252), np.float32), np.zeros((0, 84), np.float32)).sounds.shape == (0, 84)


def test_the_same_sound_is_heard_the_same_whatever_else_runs() -> None:
    alone = listen_to(CHORDS)
    stop = threading.Event()

    def be_busy() -> None:
        x = np.random.default_rng(0).random((300, 300))
        while not stop.is_set():
            x = x @ x % 1.0

    crowd = [threading.Thread(target=be_busy) for _ in range(4)]
    for thread in crowd:
        thread.start()
    try:
        again = [listen_to(CHORDS) for _ in range(2)]
    finally:
        stop.set()
        for thread in crowd:
            thread.join()
    for other in again:
        assert all(np.array_equal(getattr(alone, f), getattr(other, f)) for f in Heard.__dataclass_fields__)


def test_long_songs_are_heard_in_pieces_without_seams() -> None:
    rng = np.random.default_rng(3)
    long, short = rng.random((2300, 252)).astype(np.float32), rng.random((2300, 84)).astype(np.float32)
    told: list[float] = []
    whole = hear_notes(long, short, told.append)
    assert whole.sounds.shape == (2300, 84)
    assert told[-1] == 1.0
    jump = np.abs(np.diff(whole.sounds, axis=0)).mean(1)
    assert jump[995:1005].max() < 3 * jump.mean()
    with pytest.raises(ParameterError, match="equal frames"):
        hear_notes(long, short[:-1])


def test_a_quiet_beginning_is_heard_as_quiet_however_the_song_is_cut_up(monkeypatch: pytest.MonkeyPatch) -> None:
    """Loudness is measured on the whole song, not on the chunk that the network is given."""
    dice = np.random.default_rng(3)
    fade = np.repeat([0.01, 1.0], 1200)[:, None].astype(np.float32)
    long, short = (fade * dice.random((2400, bins)).astype(np.float32) ** 6 for bins in (255, 85))
    in_chunks = ear.hear_notes(long, short)
    monkeypatch.setattr(ear, "_CHUNK", 2400)
    at_once = ear.hear_notes(long, short)
    for name in ("sounds", "begins", "tune", "tune_begins", "bass", "bass_begins"):
        np.testing.assert_allclose(getattr(in_chunks, name), getattr(at_once, name), atol=2e-5)
