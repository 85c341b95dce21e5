"""Count how usual each chord and each move from chord to chord is in major and minor keys, over made-up songs (``valley.listening.moves``).

    python training/count_moves.py src/valley/listening/networks/moves.npz [--songs 5000:6200]

Songs as they were made, without any sound: half a minute.
"""

from __future__ import annotations

import argparse
import sys
from itertools import pairwise
from pathlib import Path

import numpy as np

ROOT = Path(__file__).parent.parent
sys.path[:0] = [str(ROOT / "src"), str(ROOT)]
from composer.compose import compose

from valley.listening.moves import KINDS, places_of
from valley.theory.chord import parse_harte
from valley.theory.pitch import parse_name


def main() -> None:
    parser = argparse.ArgumentParser(description=__doc__, formatter_class=argparse.RawDescriptionHelpFormatter)
    parser.add_argument("out", type=Path)
    parser.add_argument("--songs", default="5000:6200")
    args = parser.parse_args()
    first, last = map(int, args.songs.split(":"))
    places = 12 * len(KINDS)
    chords, moves = np.zeros((2, places), np.uint16), np.zeros((2, places, places), np.uint16)
    for seed in range(first, last):
        song = compose(seed)
        for key in song.keys:
            tonic, mode = parse_name(key["tonic"]).pitch_class, int(key["mode"] != "major")
            inside = [c["label"] for c in song.chords if key["start"] <= (c["start"] + c["end"]) / 2 < key["end"]]
            heard = [places_of(chord, np.array([tonic]))[0] for label in inside if (chord := parse_harte(label))]
            np.add.at(chords[mode], heard, 1)
            for a, b in pairwise(heard):
                moves[mode, a, b] += a != b
    np.savez_compressed(args.out, chords=chords, moves=moves)
    print(f"{chords.sum()} chords, {moves.sum()} moves")


if __name__ == "__main__":
    main()
