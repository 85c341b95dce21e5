"""Valley beside a textbook recipe on a folder of songs with truth, in one run on this machine.

    python bench/run.py [FOLDER …] [--no-textbook] [--json OUT]

A folder holds ``audio/<stem>.<any>`` and ``truth/<stem>.json``. Without a folder the project's own demo songs are
taken, whose truth is computed from the data they were composed from.
"""

from __future__ import annotations

import argparse
import json
import resource
import sys
import time
from collections.abc import Callable, Iterator
from pathlib import Path
from typing import Any

import numpy as np

ROOT = Path(__file__).parent.parent
sys.path[:0] = [str(ROOT / "src"), str(ROOT)]

from bench.scoring import METRICS, score
from valley.formats.hearing_json import dump_hearing
from valley.pipeline.listen import listen

Row = dict[str, Any]


def hear_by_valley(path: Path) -> Row:
    return dump_hearing(listen(path))


def find_songs(folder: Path) -> Iterator[tuple[Path, Row]]:
    for truth in sorted((folder / "truth").glob("*.json")):
        audio = next(iter(sorted((folder / "audio").glob(f"{truth.stem}.*"))), None)
        if audio:
            yield audio, json.loads(truth.read_text("utf-8"))


def demo_songs() -> Iterator[tuple[Path, Row]]:
    from demo.render import FORMATS, truth_of

    for stem, ending in FORMATS.items():
        yield ROOT / "demo" / "audio" / f"{stem}.{ending}", truth_of(stem)


def measure(songs: list[tuple[Path, Row]], hear: Callable[[Path], Row]) -> Row:
    """Mean of every metric (median for tuning), seconds a song, and the chords' confidence against their truth."""
    rows, seconds, length = [], 0.0, 0.0
    pairs: list[tuple[float, bool]] = []
    for audio, truth in songs:
        began = time.perf_counter()
        found = hear(audio)
        seconds += time.perf_counter() - began
        length += found.get("duration", truth["end"])
        rows.append(score(truth, found))
        pairs += confidence_pairs(truth, found)
    means = {}
    for metric in METRICS:
        values = [r[metric] for r in rows if metric in r]
        if values:
            means[metric] = float(np.median(values) if "cents" in metric else np.mean(values))
    return {"metrics": means, "seconds_a_song": seconds / len(rows), "share_of_real_time": seconds / length, "reliability": reliability(pairs)}


def confidence_pairs(truth: Row, found: Row) -> list[tuple[float, bool]]:
    """Confidence of each heard chord, and whether its notes and bass are right at its middle."""
    from valley.theory.chord import parse_harte

    pairs = []
    for chord in found["chords"]:
        middle = (chord["start"] + chord["end"]) / 2
        label = next((c["label"] for c in truth["chords"] if c["start"] <= middle < c["end"]), "N")
        if "confidence" not in chord or label in ("N", "X"):
            continue
        ours, theirs = parse_harte(chord["label"]), parse_harte(label)
        right = ours is not None and theirs is not None and ours.pitch_classes() == theirs.pitch_classes() and (
            ours.bass.pitch_class == theirs.bass.pitch_class)
        pairs.append((chord["confidence"], right))
    return pairs


def reliability(pairs: list[tuple[float, bool]]) -> list[Row]:
    table = []
    for low in np.arange(0, 1, 0.1):
        inside = [right for confidence, right in pairs if low <= confidence < low + 0.1 or (low > 0.85 and confidence >= 1)]
        if inside:
            table.append({"said": f"{100 * low:.0f}–{100 * low + 10:.0f} %", "chords": len(inside), "right": float(np.mean(inside))})
    return table


def print_table(results: dict[str, Row]) -> None:
    print(f"{'':20s}" + "".join(f"{name:>12s}" for name in results))
    for metric in METRICS:
        values = [r["metrics"].get(metric) for r in results.values()]
        if any(v is not None for v in values):
            print(f"{metric:20s}" + "".join("           -" if v is None else f"{v:12.3f}" for v in values))
    print(f"{'seconds a song':20s}" + "".join(f"{r['seconds_a_song']:12.2f}" for r in results.values()))
    table = next(iter(results.values()))["reliability"]
    if table:
        print("\nchord confidence     chords   right")
        for row in table:
            print(f"{row['said']:18s}{row['chords']:9d}{row['right']:8.2f}")


def main() -> None:
    parser = argparse.ArgumentParser(description=__doc__, formatter_class=argparse.RawDescriptionHelpFormatter)
    parser.add_argument("folders", nargs="*", type=Path)
    parser.add_argument("--no-textbook", action="store_true")
    parser.add_argument("--json", type=Path, default=ROOT / "bench" / "out" / "bench.json")
    args = parser.parse_args()
    sets = {f.name: list(find_songs(f)) for f in args.folders} or {"demo": list(demo_songs())}
    report: dict[str, Any] = {}
    for name, songs in sets.items():
        if not songs:
            sys.exit(f"{name} holds no audio/ with truth/ beside it")
        print(f"\n{name}: {len(songs)} songs")
        results = {"Valley": measure(songs, hear_by_valley)}
        peak = resource.getrusage(resource.RUSAGE_SELF).ru_maxrss / 1024
        if not args.no_textbook:
            from bench.textbook import hear_by_textbook

            results["textbook"] = measure(songs, hear_by_textbook)
        print_table(results)
        print(f"\nValley's peak memory: {peak:.0f} MB")
        report[name] = results | {"peak_mb": peak}
    args.json.parent.mkdir(parents=True, exist_ok=True)
    args.json.write_text(json.dumps(report, indent=1))


if __name__ == "__main__":
    main()
