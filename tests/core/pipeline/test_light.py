"""Commands that only compute answer at once: what is heavy is loaded where it is used."""

from __future__ import annotations

import subprocess
import sys

import pytest

HEAVY = ("numpy", "scipy", "av", "onnxruntime", "music21", "verovio", "pydantic", "django", "valley.listening", "valley.audio")


@pytest.mark.parametrize("words", ["name F4 A4 C5 E5", "styles", "patterns", "finger C4 D4 E4 --hand left", "--help"])
def test_nothing_heavy_is_loaded(words: str) -> None:
    program = (
        "import sys\nfrom valley.pipeline.cli import main\ntry:\n    main(sys.argv[1:])\nexcept SystemExit:\n    pass\n"
        f"print('loaded:', *[m for m in {HEAVY!r} if m in sys.modules])"
    )
    done = subprocess.run([sys.executable, "-c", program, *words.split()], capture_output=True, text=True, check=True)
    assert done.stdout.rstrip().endswith("loaded:"), done.stdout.splitlines()[-1]
