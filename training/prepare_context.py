"""What the ear hears in prepared songs, for the network that listens over seconds.

    python training/prepare_context.py PREPARED OUT

Reads what ``prepare.py`` wrote. One ``.npz`` a song: ``heard`` (6 × frames × 84) as the ear that ships gives it, ``loud``
(frames × 84), and ``target`` and ``judged`` as they were.
"""

from __future__ import annotations

import sys
from pathlib import Path

import numpy as np

ROOT = Path(__file__).parent.parent
sys.path[:0] = [str(ROOT / "src"), str(ROOT)]

from valley.listening._networks import load_network


def main() -> None:
    source, out = Path(sys.argv[1]), Path(sys.argv[2])
    out.mkdir(parents=True, exist_ok=True)
    ear = load_network("ear")
    for path in sorted(source.glob("*.npz")):
        target = out / path.name
        if target.exists():
            continue
        with np.load(path) as song:
            heard = ear(long=song["long"][None].astype(np.float32), short=song["short"][None].astype(np.float32))[0]
            np.savez(target, heard=heard.astype(np.float16), loud=song["short"], target=song["target"], judged=song["judged"])


if __name__ == "__main__":
    main()
