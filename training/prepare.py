"""Turn made-up songs into training data: spectra as the listening sees them, and which notes truly sound.

    python training/prepare.py SONGS OUT

Writes one ``.npz`` a song: ``long`` (frames × 252), ``short`` (frames × 84) as 16-bit floats on the network's scale, and
``target`` (6 × frames × 84) in half steps: 2 sure, 1 beside an onset.
"""

from __future__ import annotations

import sys
from pathlib import Path
from typing import Any

import numpy as np

ROOT = Path(__file__).parent.parent
sys.path[:0] = [str(ROOT / "src"), str(ROOT)]

from bench.run import find_songs

from valley.audio.decode import load_sound
from valley.audio.spectra import HOP, compute_attack_spectrum, compute_log_spectrum, compute_magnitudes
from valley.listening.ear import LOW_MIDI, PITCHES, scale_input
from valley.listening.tuning import estimate_tuning


def mark(rows: list[dict[str, Any]], frames: int, fps: float) -> tuple[np.ndarray, np.ndarray]:
    """Sounding and beginning, shape (frames, pitches)."""
    sounds, begins = np.zeros((frames, PITCHES), np.uint8), np.zeros((frames, PITCHES), np.uint8)
    for row in rows:
        pitch, a, b = row["midi"] - LOW_MIDI, round(row["start"] * fps), round(row["end"] * fps)
        if 0 <= pitch < PITCHES and a < frames - 1:
            sounds[a : max(b, a + 2), pitch] = 2
            begins[max(0, a - 1) : a + 2, pitch] = np.maximum(begins[max(0, a - 1) : a + 2, pitch], 1)
            begins[a, pitch] = 2
    return sounds, begins


def prepare(audio: Path, truth: dict[str, Any], out: Path) -> None:
    sound = load_sound(audio)
    tuning = estimate_tuning(compute_magnitudes(sound.y, 8192, hop_length=HOP * 8, max_bin=1200), sound.sr, 8192)
    long = compute_log_spectrum(sound.y, sound.sr, tuning_cents=tuning)
    short = compute_attack_spectrum(sound.y, sound.sr, tuning_cents=tuning)
    frames, fps = len(long), sound.sr / HOP
    everything = truth.get("notes") or truth.get("all_notes") or []
    parts = [mark(rows, frames, fps) for rows in (everything, truth["melody"], truth["bass"])]
    target = np.stack([layer for pair in parts for layer in pair])
    judged = [True] * 2 + [truth.get("tune_judged", True)] * 2 + [truth.get("bass_judged", True)] * 2  # a score does not say which voice is the tune
    np.savez(
        out,
        long=scale_input(long)[:, : 3 * PITCHES].astype(np.float16),
        short=scale_input(short)[:, :PITCHES].astype(np.float16),
        target=target,
        judged=np.array(judged),
    )


def main() -> None:
    source, out = Path(sys.argv[1]), Path(sys.argv[2])
    out.mkdir(parents=True, exist_ok=True)
    for audio, truth in find_songs(source):
        target = out / f"{audio.stem}.npz"
        if not target.exists():
            prepare(audio, truth, target)


if __name__ == "__main__":
    main()
