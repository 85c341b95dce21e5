"""Does the same recording give the same chart when it comes in another way? No truth is needed: what is heard is held against itself.

    python bench/steady.py FOLDER [--seconds 90] [--of 10] [--json OUT]

Every recording of a folder is heard as it is, and then shifted by half steps, a little faster and slower, quieter, with noise, begun half a minute
later, and encoded at 64 kbit/s. What is heard is moved back (in time, in pitch) and compared over the time that both share.
"""

from __future__ import annotations

import argparse
import json
import sys
import tempfile
from collections.abc import Callable, Iterator
from dataclasses import dataclass
from pathlib import Path
from typing import Any

import mir_eval
import numpy as np

ROOT = Path(__file__).parent.parent
sys.path[:0] = [str(ROOT / "src"), str(ROOT)]

from valley.audio.decode import Sound, load_sound
from valley.audio.packing import pack_sound
from valley.errors import ValleyError
from valley.model.hearing import Hearing
from valley.pipeline.listen import hear_sound
from valley.pipeline.progress import Reporter, ignore_progress
from valley.theory.chord import Chord

STEP = 0.02  # seconds between two moments that are compared
LATER = 30.0  # seconds left out where it is begun later
FIELDS = ("root", "major/minor", "beats", "downbeats", "tempo")
Samples = Any


@dataclass(frozen=True)
class Way:
    """One way in which a recording may come: how its sound changes, and what that does to its chart."""

    name: str
    change: Callable[[Samples, int], Samples]
    half_steps: int = 0
    speed: float = 1.0
    cut: float = 0.0  # seconds missing at the beginning


def stretched(half_steps: float = 0.0, speed: float = 1.0) -> Callable[[Samples, int], Samples]:
    def change(y: Samples, rate: int) -> Samples:
        from python_stretch.Signalsmith import Stretch

        stretch = Stretch()
        stretch.preset(1, rate)
        stretch.timeFactor = speed
        stretch.setTransposeSemitones(half_steps)
        return np.asarray(stretch.process(np.ascontiguousarray(y[None], dtype=np.float32)), dtype=np.float32)[0]

    return change


def with_noise(y: Samples, rate: int) -> Samples:
    """White noise 30 dB below the recording's own mean strength."""
    strength = float(np.sqrt(np.mean(y**2))) * 10 ** (-30 / 20)
    return y + np.random.default_rng(0).normal(0, strength, len(y)).astype(np.float32)


def at_64_kbit(y: Samples, rate: int) -> Samples:
    with tempfile.NamedTemporaryFile(suffix=".mp3") as file:
        file.write(pack_sound(np.ascontiguousarray(y[None]), rate, "mp3", {}, bit_rate=64_000))
        file.flush()
        return load_sound(file.name).y


WAYS = (
    *(Way(f"{n:+d} half steps", stretched(half_steps=n), half_steps=n) for n in (-3, -2, -1, 1, 2, 3)),
    Way("4 % faster", stretched(speed=1.04), speed=1.04),
    Way("4 % slower", stretched(speed=0.96), speed=0.96),
    Way("a quarter as loud", lambda y, rate: 0.25 * y),
    Way("with noise", with_noise),
    Way("begun 30 s later", lambda y, rate: y[int(LATER * rate) :], cut=LATER),
    Way("at 64 kbit/s", at_64_kbit),
)


def hear(y: Samples, rate: int) -> Hearing:
    return hear_sound(Sound(y, rate), Reporter(ignore_progress))[0]


def compare(first: Hearing, second: Hearing, way: Way) -> dict[str, float]:
    """Shares of what is shared: time on which roots, and major or minor, agree; F-measures of beats and downbeats; whether the tempo is the same.

    A chord without a third agrees with itself alone.
    """
    end = min(first.duration, second.duration * way.speed + way.cut)
    moments = np.arange(way.cut + STEP, end, STEP)
    ours, theirs = _chords_at(first, moments), _chords_at(second, (moments - way.cut) / way.speed)
    roots, thirds = [], []
    for a, b in zip(ours, theirs, strict=True):
        moved = None if b is None else ((b[0] - way.half_steps) % 12, b[1])
        roots.append((a and a[0]) == (moved and moved[0]))
        thirds.append(a == moved)
    back = [np.array(times) * way.speed + way.cut for times in (second.beats, second.downbeats)]
    bpm = second.bpm / way.speed
    return {
        "root": float(np.mean(roots)),
        "major/minor": float(np.mean(thirds)),
        "beats": _agree(np.array(first.beats), back[0], way.cut, end),
        "downbeats": _agree(np.array(first.downbeats), back[1], way.cut, end),
        "tempo": float(abs(bpm / first.bpm - 1) < 0.06),
    }


def _chords_at(hearing: Hearing, moments: Samples) -> list[tuple[int, int | None] | None]:
    """Root as a pitch class and the kind of third at each moment (seconds); None without a chord."""
    starts = np.array([c.start for c in hearing.chords])
    kinds = [None if (chord := c.chord) is None else (chord.root.pitch_class, _third(chord)) for c in hearing.chords]
    return [kinds[int(place)] for place in np.maximum(np.searchsorted(starts, moments, side="right") - 1, 0)]


def _third(chord: Chord) -> int | None:
    """Half steps from root to third; None for one that is suspended or open."""
    return None if chord.third is None else (chord.third - chord.root.pitch_class) % 12


def _agree(ours: Samples, theirs: Samples, start: float, end: float) -> float:
    """F-measure within 70 ms over the time that both have, but for half a second at either end, where one may have nothing yet."""
    inside = [times[(times > start + 0.5) & (times < end - 0.5)] for times in (ours, theirs)]
    return float(mir_eval.beat.f_measure(*inside)) if all(len(times) for times in inside) else float(len(inside[0]) == len(inside[1]))


def find_recordings(folder: Path, most: int) -> list[Path]:
    """Evenly over the folder, so that no one band fills the list."""
    found = sorted(p for p in folder.rglob("*") if p.suffix.lower() in (".ogg", ".mp3", ".opus", ".flac", ".wav", ".m4a"))
    return [found[int(i)] for i in np.unique(np.linspace(0, len(found) - 1, most).round())] if found else []


def measure(paths: list[Path], seconds: float, ways: tuple[Way, ...] = WAYS) -> Iterator[tuple[Path, str, dict[str, float] | str]]:
    """One row a recording and way; where it cannot be heard, the sentence in place of the figures."""
    for path in paths:
        try:
            sound = load_sound(path)
            y = sound.y[: int(seconds * sound.sr)]
            first = hear(y, sound.sr)
        except ValleyError as error:
            yield path, "as it is", str(error)
            continue
        for way in ways:
            if way.cut and len(y) / sound.sr < 2 * way.cut:
                continue
            try:
                yield path, way.name, compare(first, hear(way.change(y, sound.sr), sound.sr), way)
            except ValleyError as error:
                yield path, way.name, str(error)


def main() -> None:
    parser = argparse.ArgumentParser(description=__doc__, formatter_class=argparse.RawDescriptionHelpFormatter)
    parser.add_argument("folder", type=Path)
    parser.add_argument("--seconds", type=float, default=90.0)
    parser.add_argument("--of", type=int, default=10, help="how many recordings")
    parser.add_argument("--json", type=Path)
    given = parser.parse_args()
    rows: list[tuple[str, str, dict[str, float]]] = []
    for path, name, found in measure(find_recordings(given.folder, given.of), given.seconds):
        if isinstance(found, str):
            print(f"{path.stem}, {name}: {found}", flush=True)
            continue
        rows.append((path.stem, name, found))
        print(f"{path.stem[:30]:32s}{name:20s}" + "".join(f"{found[f]:12.2f}" for f in FIELDS), flush=True)
        if given.json:
            given.json.write_text(json.dumps(rows))
    print(f"\n{'':52s}" + "".join(f"{field:>12s}" for field in FIELDS))
    for name in [way.name for way in WAYS] + [""]:
        mine = [found for _, way, found in rows if not name or way == name]
        if mine:
            print(f"{name or 'mean':52s}" + "".join(f"{np.mean([f[field] for f in mine]):12.3f}" for field in FIELDS))


if __name__ == "__main__":
    main()
