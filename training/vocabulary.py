"""Write the chord vocabulary as numbers for ``train_chords.py``: ``python training/vocabulary.py OUT.npz``."""

from __future__ import annotations

import sys
from pathlib import Path

import numpy as np

sys.path.insert(0, str(Path(__file__).parent.parent / "src"))

from valley.listening._vocabulary import load_vocabulary

if __name__ == "__main__":
    chords = [c for c in load_vocabulary().chords if c]
    names = list(dict.fromkeys(c.quality.harte for c in chords))
    np.savez(
        sys.argv[1],
        roots=[c.root.pitch_class for c in chords],
        qualities=[names.index(c.quality.harte) for c in chords],
        basses=[c.bass.pitch_class for c in chords],
        intervals=[(c.bass.pitch_class - c.root.pitch_class) % 12 for c in chords],
    )
