"""Seconds and memory against length: one recording repeated to 1, 2, 4, 8 and 16 minutes, each heard in a fresh process."""

from __future__ import annotations

import json
import subprocess
import sys
import tempfile
import wave
from pathlib import Path
from typing import Any

import numpy as np

MINUTES = (1, 2, 4, 8, 16)
ROOT = Path(__file__).parent.parent
_CHILD = """
import json, resource, sys, time
began = time.perf_counter()
sys.path.insert(0, sys.argv[2])
from valley.pipeline.listen import listen
first = {}
def told(progress):
    if progress.found:
        first.setdefault(progress.stage, time.perf_counter() - began)
hearing = listen(sys.argv[1], listener=told)
print(json.dumps({"seconds": time.perf_counter() - began, "peak_mb": resource.getrusage(resource.RUSAGE_SELF).ru_maxrss / 1024, "first": first}))
"""


def measure_lengths(audio: Path) -> list[dict[str, Any]]:
    """One row a length; ``first`` holds the seconds after which each stage told its first finding."""
    from valley.audio.decode import load_sound

    sound = load_sound(audio)
    rows = []
    with tempfile.TemporaryDirectory() as folder:
        for minutes in MINUTES:
            samples = np.resize(sound.y, minutes * 60 * sound.sr)
            path = Path(folder) / f"{minutes}.wav"
            with wave.open(str(path), "wb") as file:
                file.setnchannels(1)
                file.setsampwidth(2)
                file.setframerate(sound.sr)
                file.writeframes((np.clip(samples, -1, 1) * 32767).astype("<i2").tobytes())
            done = subprocess.run([sys.executable, "-c", _CHILD, str(path), str(ROOT / "src")], check=True, capture_output=True, text=True)
            rows.append({"minutes": minutes} | json.loads(done.stdout))
    return rows
