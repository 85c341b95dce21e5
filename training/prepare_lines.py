"""From prepared songs and a trained ear to what the pulse and chord networks learn from.

    python training/prepare_lines.py SONGS OUT

One ``.npz`` a song: ``pulse`` (looks × frames × signs) with beats and downbeats in seconds; ``views`` of the harmony (looks × intervals × …) on the
true beats, a little off as a tracker would be, with the row of the vocabulary that is right (-1: not judged). The looks are those with which recordings are
heard: with the edges of registers where they are, lower and higher.
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
from valley.errors import FormatError
from valley.listening._vocabulary import load_vocabulary
from valley.listening.harmony import view_harmony
from valley.listening.pulse import view_pulse
from valley.pipeline.features import measure
from valley.pipeline.progress import Reporter, ignore_progress
from valley.theory.chord import parse_harte


def find_row(label: str) -> int:
    """The vocabulary's row that sounds like a label; -1 where the truth is not judged."""
    vocabulary = load_vocabulary()
    if label == "N":
        return len(vocabulary) - 1
    try:
        chord = parse_harte(label)
    except FormatError:
        return -1
    if chord is None:
        return -1
    for wanted in (chord.bass_interval, 0):
        for i, row in enumerate(vocabulary.chords):
            if row and row.root.pitch_class == chord.root.pitch_class and row.quality == chord.quality and (row.bass_interval - wanted) % 12 == 0:
                return i
    return -1


def prepare(audio: Path, truth: dict[str, Any], out: Path) -> None:
    features = measure(load_sound(audio), Reporter(ignore_progress))
    rng = np.random.default_rng(len(truth["beats"]))
    beats = np.array(truth["beats"])
    edges = np.append(beats, truth["end"])
    sets = []
    for higher in (-2, 0, 0, 2):
        off = (edges + rng.normal(0, 0.015)) + rng.normal(0, 0.008, len(edges))
        sets.append(view_harmony(features.heard, features.activations, off * features.fps, moved=higher))
    middle = 0.5 * (edges[:-1] + edges[1:])
    labels = [next((c["label"] for c in truth["chords"] if c["start"] <= t < c["end"]), "N") for t in middle]
    np.savez(
        out,
        pulse=np.stack([view_pulse(features.onsets, features.heard, moved=higher) for higher in (-3, 0, 3)]).astype(np.float16),
        beats=beats,
        downbeats=np.array(truth["downbeats"]),
        fps=features.fps,
        views=np.stack(sets).astype(np.float16),
        rows=np.array([find_row(label) for label in labels]),
        meter=truth["meter"],
        score="tune_judged" in truth,  # a score written by people and performed
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
