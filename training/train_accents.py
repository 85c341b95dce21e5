"""Teach the network of accents (``valley.listening.accents``) where bars begin, from scores as ``read_scores.py`` writes them and made-up songs.

    python training/train_accents.py SCORES OUT.npz [--songs 1000:1200]

Needs scikit-learn. Each piece is seen several times as a listener would hear it: notes missing, cut short, doubled, a little off. Every seventh piece,
by the checksum of its name, is only looked at afterwards.
"""

from __future__ import annotations

import argparse
import json
import sys
from pathlib import Path
from random import Random
from typing import Any
from zlib import crc32

import numpy as np
from sklearn.neural_network import MLPClassifier

ROOT = Path(__file__).parent.parent
sys.path[:0] = [str(ROOT / "src"), str(ROOT)]
from composer.compose import compose

from valley.listening.accents import BeatNote, stack, view_beats

SEEN = 5  # times that each piece is heard


def read(path: Path) -> tuple[str, list[BeatNote], list[bool]]:
    """A piece's name, its notes in beats, and for each beat whether a bar begins there."""
    piece: dict[str, Any] = json.loads(path.read_text())
    places, first = [], []
    for bar in piece["bars"]:
        for k, beat in enumerate(bar["beats"]):
            places.append(bar["start"] + beat)
            first.append(k == 0 and bool(bar["first"]))
    at = np.array(places)
    index = np.arange(len(at))

    def beats(quarters: float) -> float:
        return float(np.interp(quarters, at, index)) if quarters <= at[-1] else index[-1] + (quarters - at[-1]) / piece["bars"][-1]["beat"]

    return piece["path"], [BeatNote(beats(s), beats(s + n), int(m)) for s, n, m, _ in piece["notes"]], first


def make(seed: int) -> tuple[str, list[BeatNote], list[bool]]:
    """The same of a made-up song; what its drums play is no note."""
    song = compose(seed)
    at = np.array(song.beats)

    def beats(seconds: float) -> float:
        return float(np.interp(seconds, at, np.arange(len(at)))) if seconds <= at[-1] else len(at) - 1 + (seconds - at[-1]) / float(at[-1] - at[-2])

    notes = [BeatNote(beats(n.start), beats(n.end), n.midi) for n in song.notes if n.part != "drums"]
    firsts = set(np.abs(at[None, :] - np.array(song.downbeats)[:, None]).argmin(1).tolist())
    return f"{song.genre} {seed}", notes, [i in firsts for i in range(len(at))]


def heard(notes: list[BeatNote], rng: Random) -> list[BeatNote]:
    """The notes as a listener gets them."""
    missed, short, doubled = rng.uniform(0, 0.3), rng.uniform(0.5, 1.0), rng.uniform(0, 0.08)
    found = []
    for n in notes:
        if rng.random() < missed:
            continue
        start = n.start + rng.gauss(0, 0.03)
        found.append(BeatNote(start, start + max(0.1, (n.end - n.start) * rng.uniform(short, 1.0)), n.midi))
        if rng.random() < doubled:
            found.append(BeatNote(start, start + 0.5 * (n.end - n.start), n.midi + 12))
    return found


def main() -> None:
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("scores", type=Path)
    parser.add_argument("out", type=Path)
    parser.add_argument("--songs", default="0:0", help="seeds, first:last (exclusive)")
    args = parser.parse_args()
    rng = Random(5)
    rows: dict[bool, list[Any]] = {True: [], False: []}
    truth: dict[bool, list[bool]] = {True: [], False: []}
    kept: list[tuple[str, Any, list[bool]]] = []
    first_seed, last_seed = map(int, args.songs.split(":"))
    for source in [*sorted(args.scores.glob("*.json")), *range(first_seed, last_seed)]:
        name, notes, first = read(source) if isinstance(source, Path) else make(source)
        held = crc32(name.encode()) % 7 == 0
        for _ in range(1 if held else SEEN):
            x = stack(view_beats(heard(notes, rng), len(first)))
            rows[held].append(x)
            truth[held] += first
        if held:
            kept.append((name, x, first))
    x, y = np.concatenate(rows[False]), np.array(truth[False])
    mean, scale = x.mean(0), x.std(0) + 1e-6
    print(f"{len(y)} beats to learn from, {y.mean():.2f} of them firsts; {len(truth[True])} held out", flush=True)
    net = MLPClassifier((48, 16), alpha=0.03, batch_size=512, learning_rate_init=1e-3, max_iter=8, random_state=3, verbose=True)
    net.fit((x - mean) / scale, y)
    layers = [(w.copy(), b.copy()) for w, b in zip(net.coefs_, net.intercepts_, strict=True)]
    w, b = layers[0]  # the scaling goes into the first layer
    layers[0] = (w / scale[:, None], b - (mean / scale) @ w)
    np.savez_compressed(args.out, **{k: v.astype(np.float32) for i, (w, b) in enumerate(layers) for k, v in ((f"w{i}", w), (f"b{i}", b))})
    xs, ys = np.concatenate(rows[True]), np.array(truth[True])
    p = net.predict_proba((xs - mean) / scale)[:, 1]
    print(f"held out: right at .5 {np.mean((p > 0.5) == ys):.3f}; mean p at firsts {p[ys].mean():.2f}, else {p[~ys].mean():.2f}")
    # How often the likeliest phase of the true number of beats is the true one.
    right = []
    for _, view, first in kept:
        p = net.predict_log_proba((view - mean) / scale)
        odds, places = p[:, 1] - p[:, 0], np.nonzero(np.array(first))[0]
        beats = int(np.median(np.diff(places)))
        phase = max(range(beats), key=lambda k: odds[k::beats].sum())
        right.append(phase == int(np.median(places % beats)))
    print(f"phase right in {sum(right)} of {len(right)} pieces")


if __name__ == "__main__":
    main()
