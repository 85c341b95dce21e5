"""The textbook recipe, written with librosa: what Valley is measured against in the same run.

beat_track; downbeat = strongest of four phases; constant-Q chroma with binary templates and Viterbi;
Krumhansl profiles; pYIN on the harmonic part; checkerboard novelty for sections.
"""

from __future__ import annotations

from pathlib import Path
from typing import Any

import librosa
import numpy as np

from valley.audio.decode import load_sound

HOP = 512
NAMES = ["C", "Db", "D", "Eb", "E", "F", "F#", "G", "Ab", "A", "Bb", "B"]
TEMPLATES = {"maj": (0, 4, 7), "min": (0, 3, 7), "7": (0, 4, 7, 10), "maj7": (0, 4, 7, 11), "min7": (0, 3, 7, 10)}
MAJOR = np.array([6.35, 2.23, 3.48, 2.33, 4.38, 4.09, 2.52, 5.19, 2.39, 3.66, 2.29, 2.88])
MINOR = np.array([6.33, 2.68, 3.52, 5.38, 2.60, 3.53, 2.54, 4.75, 3.98, 2.69, 3.34, 3.17])


def hear_by_textbook(path: Path) -> dict[str, Any]:
    """The same fields as hearing.json, as far as the recipe goes."""
    sound = load_sound(path)
    y, sr = sound.y, sound.sr
    tuning = float(librosa.estimate_tuning(y=y, sr=sr))
    harmonic, percussive = librosa.effects.hpss(y)
    onset = librosa.onset.onset_strength(y=y, sr=sr, hop_length=HOP)
    tempo, frames = librosa.beat.beat_track(onset_envelope=onset, sr=sr, hop_length=HOP)
    beats = librosa.frames_to_time(frames, sr=sr, hop_length=HOP)
    phase = int(np.argmax([onset[frames[k::4]].mean() for k in range(4)])) if len(frames) > 8 else 0
    chroma = librosa.feature.chroma_cqt(y=harmonic, sr=sr, hop_length=HOP, tuning=tuning)
    synced = librosa.util.sync(chroma, [int(f) for f in frames], aggregate=np.median) if len(frames) else chroma
    edges = np.concatenate([[0.0], beats, [sound.duration]])
    chords = _chords(synced, edges)
    return {
        "bpm": float(np.atleast_1d(tempo)[0]),
        "meter": "4/4",
        "tuning_cents": 100 * tuning,
        "beats": beats.tolist(),
        "downbeats": beats[phase::4].tolist(),
        "keys": [_key(chroma, sound.duration)],
        "chords": chords,
        "melody": _melody(harmonic, sr, 130, 1400),
        "bass": _melody(harmonic, sr, 35, 200),
        "sections": _sections(synced, edges),
    }


def _chords(chroma: np.ndarray, edges: np.ndarray) -> list[dict[str, Any]]:
    rows = [(f"{NAMES[r]}:{q}", [(r + i) % 12 for i in notes]) for q, notes in TEMPLATES.items() for r in range(12)]
    templates = np.zeros((len(rows), 12))
    for i, (_, notes) in enumerate(rows):
        templates[i, notes] = 1 / np.sqrt(len(notes))
    fit = templates @ (chroma / (np.linalg.norm(chroma, axis=0) + 1e-9))
    probability = np.exp(12 * fit)
    probability /= probability.sum(0)
    path = librosa.sequence.viterbi_discriminative(probability, librosa.sequence.transition_loop(len(rows), 0.7))
    return [{"start": float(edges[i]), "end": float(edges[i + 1]), "label": rows[p][0]} for i, p in enumerate(path[: len(edges) - 1])]


def _key(chroma: np.ndarray, duration: float) -> dict[str, Any]:
    mean = chroma.mean(1)
    rated = [(float(np.corrcoef(mean, np.roll(profile, k))[0, 1]), k, mode) for profile, mode in ((MAJOR, "major"), (MINOR, "minor")) for k in range(12)]
    _, tonic, mode = max(rated)
    return {"start": 0.0, "end": duration, "tonic": NAMES[tonic], "mode": mode}


def _melody(y: np.ndarray, sr: int, low: float, high: float) -> list[dict[str, Any]]:
    f0, voiced, _ = librosa.pyin(y, fmin=low, fmax=high, sr=sr, hop_length=HOP, frame_length=4096 if low < 60 else 2048)
    midi = np.where(voiced, np.round(librosa.hz_to_midi(np.where(voiced, f0, 440))), 0).astype(int)
    notes, start = [], 0
    for i in range(1, len(midi) + 1):
        if i == len(midi) or midi[i] != midi[start]:
            if midi[start] and i - start >= 4:
                notes.append({"start": start * HOP / sr, "end": i * HOP / sr, "midi": int(midi[start])})
            start = i
    return notes


def _sections(chroma: np.ndarray, edges: np.ndarray) -> list[dict[str, Any]]:
    similarity = np.asarray(librosa.segment.recurrence_matrix(chroma, mode="affinity", sym=True))
    half = 16
    kernel = np.kron([[1, -1], [-1, 1]], np.ones((half, half)))
    padded = np.pad(similarity, half)
    novelty = np.array([(padded[i : i + 2 * half, i : i + 2 * half] * kernel).sum() for i in range(len(similarity))])
    novelty -= novelty.min()
    peaks = librosa.util.peak_pick(novelty / (novelty.max() + 1e-9), pre_max=8, post_max=8, pre_avg=16, post_avg=16, delta=0.05, wait=8)
    bounds = sorted({0, *(int(p) for p in peaks), len(edges) - 1})
    return [
        {"start": float(edges[a]), "end": float(edges[b]), "label": str(i + 1), "same_as": None}
        for i, (a, b) in enumerate(zip(bounds, bounds[1:], strict=False))
    ]
