"""Listening at the edges: what is no song is heard with little certainty; what must always hold, holds."""

from collections.abc import Callable
from functools import cache

import numpy as np
import pytest
from scipy.signal import resample_poly

from tests.sounds import SR, Samples, click, mix, song, tone
from valley.audio.decode import Sound
from valley.model.hearing import Hearing
from valley.pipeline.listen import hear_sound
from valley.pipeline.progress import Reporter
from valley.theory.chord import parse_harte

LOOP = ["C", "Am", "F", "G"] * 3
RNG = np.random.default_rng(5)


def hear(y: Samples) -> Hearing:
    return hear_sound(Sound(np.ascontiguousarray(y, dtype=np.float32), SR), Reporter(lambda p: None))[0]


def noise(seconds: float, gain: float = 0.1) -> Samples:
    return (gain * np.random.default_rng(1).standard_normal(int(seconds * SR))).astype(np.float32)


def drums(seconds: float = 16.0) -> Samples:
    y = np.zeros(int(seconds * SR), np.float32)
    for i in range(int(seconds * 2)):
        mix(y, click(0.12, seed=i), i * 0.5, 0.8 if i % 2 else 0.5)
    return y


def speech(seconds: float = 14.0) -> Samples:
    """Syllables of gliding pitch with pauses, like someone talking."""
    rng = np.random.default_rng(3)
    y = np.zeros(int(seconds * SR), np.float32)
    at = 0.0
    while at < seconds - 0.6:
        length = rng.uniform(0.08, 0.3)
        t = np.arange(int(length * SR)) / SR
        pitch = rng.uniform(95, 160) * 2 ** (rng.uniform(-0.4, 0.2) * t / length)
        phase = 2 * np.pi * np.cumsum(pitch) / SR
        voice = sum(np.sin(k * phase) / k for k in range(1, 12)) * np.hanning(len(t))
        mix(y, (0.3 * voice).astype(np.float32), at)
        at += length + rng.exponential(0.12)
    return y


def rubato() -> Samples:
    """Chords whose beats wander between fast and slow."""
    y = np.zeros(40 * SR, np.float32)
    at = 0.3
    for i in range(40):
        chord = parse_harte(("C:maj", "A:min", "F:maj", "G:maj")[i // 4 % 4])
        assert chord is not None
        for name in chord.members():
            mix(y, tone(55 + (name.pitch_class - 55) % 12, 0.9), at, 0.25)
        at += 0.62 + 0.35 * np.sin(i / 3.0)
    return y[: int((at + 1) * SR)]


def singing() -> Samples:
    """One voice alone."""
    y = np.zeros(18 * SR, np.float32)
    for i, midi in enumerate((67, 69, 71, 72, 71, 69, 67, 64, 65, 67, 69, 67, 65, 64, 62, 60) * 2):
        mix(y, tone(midi, 0.5, partials=5), 0.3 + 0.5 * i, 0.7)
    return y


@cache
def plain() -> Samples:
    return song(LOOP)


def fading() -> Samples:
    y = plain().copy()
    return (y * np.linspace(1, 0, len(y)) ** 2).astype(np.float32)


def joined() -> Samples:
    return np.concatenate([song(LOOP[:8]), np.zeros(2 * SR, np.float32), song(["D", "Bm", "G", "A"] * 2, bpm=92)]).astype(np.float32)


EDGES: dict[str, Callable[[], Samples]] = {
    "quiet": lambda: noise(12, 1e-4),
    "noise": lambda: noise(12),
    "clicks": lambda: drums(12) * 0.3,
    "drums": drums,
    "speech": speech,
    "rubato": rubato,
    "singing": singing,
    "fade": fading,
    "in the middle": lambda: plain()[int(1.37 * SR) :],
    "two songs": joined,
    "short": lambda: plain()[: 6 * SR],
}


@cache
def heard_at(edge: str) -> Hearing:
    return hear(EDGES[edge]())


@pytest.mark.parametrize("edge", EDGES)
def test_a_hearing_is_in_order_whatever_is_heard(edge: str) -> None:
    heard = heard_at(edge)
    assert list(heard.beats) == sorted(set(heard.beats))
    assert set(heard.downbeats) <= set(heard.beats)
    assert heard.chords[0].start == 0 and heard.chords[-1].end == pytest.approx(heard.duration, abs=0.25)
    assert all(a.end == b.start for a, b in zip(heard.chords, heard.chords[1:], strict=False))
    for rows in (heard.keys, heard.sections):
        assert all(a.end <= b.start + 1e-6 for a, b in zip(rows, rows[1:], strict=False))
    for rows in (heard.chords, heard.keys, heard.melody, heard.bass, heard.sections, heard.notes):
        assert all(0 <= r.confidence <= 1 and r.end > r.start for r in rows)
    assert all(len(c.alternatives) <= 5 for c in heard.chords)


@pytest.mark.parametrize("edge", ["quiet", "noise", "clicks", "drums"])
def test_where_there_is_no_harmony_none_is_claimed(edge: str) -> None:
    heard = heard_at(edge)
    silent = sum(c.end - c.start for c in heard.chords if c.label == "N")
    proud = sum(c.end - c.start for c in heard.chords if c.label != "N" and c.confidence > 0.6)
    assert silent >= 0.5 * heard.duration or proud <= 0.2 * heard.duration, [(c.label, c.confidence) for c in heard.chords]


def test_speech_gives_no_certain_chords() -> None:
    heard = heard_at("speech")
    proud = sum(c.end - c.start for c in heard.chords if c.label != "N" and c.confidence > 0.8)
    assert proud <= 0.5 * heard.duration


def test_wandering_time_is_less_certain_than_steady_time() -> None:
    assert heard_at("rubato").beat_confidence < hear(plain()).beat_confidence


def sounding(heard: Hearing, up: int = 0) -> list[tuple[float, frozenset[int]]]:
    rows = []
    for c in heard.chords:
        chord = c.chord
        rows.append((c.start, frozenset((pc + up) % 12 for pc in chord.pitch_classes()) if chord else frozenset()))
    return rows


def overlap(a: list[tuple[float, frozenset[int]]], b: list[tuple[float, frozenset[int]]], end: float, stretch: float = 1.0) -> float:
    """Share of the time at which both hold the same notes; the second runs ``stretch`` times as fast."""
    times = np.arange(0.2, end - 0.2, 0.1)

    def at(rows: list[tuple[float, frozenset[int]]], t: float) -> frozenset[int]:
        return next((notes for start, notes in reversed(rows) if start <= t), frozenset())

    return float(np.mean([at(a, t) == at(b, t / stretch) for t in times]))


def test_doubling_the_level_changes_nothing() -> None:
    half, whole = hear(plain() * 0.35), hear(plain() * 0.7)
    assert overlap(sounding(half), sounding(whole), half.duration) > 0.98
    assert np.allclose(half.beats, whole.beats, atol=0.03) and half.keys[0].tonic == whole.keys[0].tonic


def test_playing_the_sound_faster_moves_keys_and_chords_alike() -> None:
    """Two half steps up: as many samples a second as nine to eight, which is a whole tone."""
    before = hear(plain())
    faster = resample_poly(plain(), 8, 9).astype(np.float32)
    after = hear(faster)
    first, moved = before.keys[0], after.keys[0]
    assert (parse_harte(f"{moved.tonic}:maj").root.pitch_class - parse_harte(f"{first.tonic}:maj").root.pitch_class) % 12 == 2  # type: ignore[union-attr]
    assert first.mode == moved.mode
    assert overlap(sounding(before, up=2), sounding(after), before.duration, stretch=9 / 8) > 0.95
    assert after.bpm == pytest.approx(before.bpm * 9 / 8, rel=0.03)
