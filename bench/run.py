"""Valley beside a textbook recipe on a folder of songs with truth, in one run on this machine.

    python bench/run.py [FOLDER …] [--no-textbook] [--no-lengths] [--json OUT]

A folder holds ``audio/<stem>.<any>`` and ``truth/<stem>.json``. Without a folder the project's own songs are taken: those in
``songs/``, made up by the composer and unseen by training and tuning, and the demo songs, whose truth is computed from
the data they were composed from.
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

from bench.lengths import measure_lengths
from bench.reliability import KINDS, Pairs, calibration_error, pair_items, tabulate
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
    """Mean of every metric (median for tuning), over all songs and by group; seconds a song; confidences against the truth."""
    rows: list[tuple[str, Row]] = []
    seconds, length = 0.0, 0.0
    pairs: Pairs = {kind: [] for kind in KINDS}
    for audio, truth in songs:
        began = time.perf_counter()
        found = hear(audio)
        seconds += time.perf_counter() - began
        length += float(found["duration"] if "duration" in found else truth["end"])
        rows.append((truth["group"], score(truth, found)))
        for kind, items in (pair_items(truth, found) if "duration" in found else {}).items():
            pairs[kind] += items
    groups = list(dict.fromkeys(group for group, _ in rows))
    return {
        "metrics": average([r for _, r in rows]),
        "groups": {group: average([r for g, r in rows if g == group]) for group in groups} if len(groups) > 1 else {},
        "seconds_a_song": seconds / len(rows),
        "share_of_real_time": seconds / length,
        "reliability": {kind: tabulate(items) for kind, items in pairs.items() if items},
        "calibration_error": {kind: calibration_error(items) for kind, items in pairs.items() if items},
    }


def average(rows: list[dict[str, float]]) -> dict[str, float]:
    means = {}
    for metric in METRICS:
        values = [r[metric] for r in rows if metric in r]
        if values:
            means[metric] = float(np.median(values) if "cents" in metric else np.mean(values))
    return means


def print_table(columns: dict[str, dict[str, float]], seconds: dict[str, float]) -> None:
    print(f"{'':20s}" + "".join(f"{name:>12s}" for name in columns))
    for metric in METRICS:
        values = [c.get(metric) for c in columns.values()]
        if any(v is not None for v in values):
            print(f"{metric:20s}" + "".join("           -" if v is None else f"{v:12.3f}" for v in values))
    print(f"{'seconds a song':20s}" + "".join(f"{seconds[name]:12.2f}" if name in seconds else "           -" for name in columns))


def print_reliability(result: Row) -> None:
    """One row a step of confidence: items and the share of them that was right, for every kind of item."""
    print("\nsaid to be sure     " + "".join(f"{kind:>16s}" for kind in result["reliability"]))
    steps = [f"{k}–{k + 10} %" for k in range(0, 100, 10)]
    for step in steps:
        cells = [next((r for r in table if r["said"] == step), None) for table in result["reliability"].values()]
        if any(cells):
            print(f"{step:20s}" + "".join(f"{'':>16s}" if c is None else f"{100 * c['right']:9.0f} %{c['items']:5d}" for c in cells))
    print(f"{'mean distance':20s}" + "".join(f"{100 * e:9.1f} %     " for e in result["calibration_error"].values()))


def print_lengths(rows: list[Row]) -> None:
    print("\nminutes   seconds   peak MB   first after   beats after   key, chords")
    for r in rows:
        first = r["first"]
        print(
            f"{r['minutes']:7d}{r['seconds']:10.1f}{r['peak_mb']:10.0f}"
            f"{first.get('glance', 0):14.1f}{first.get('beats', 0):14.1f}{first.get('chords', 0):15.1f}"
        )


def main() -> None:
    parser = argparse.ArgumentParser(description=__doc__, formatter_class=argparse.RawDescriptionHelpFormatter)
    parser.add_argument("folders", nargs="*", type=Path)
    parser.add_argument("--no-textbook", action="store_true")
    parser.add_argument("--no-lengths", action="store_true")
    parser.add_argument("--json", type=Path, default=ROOT / "bench" / "out" / "bench.json")
    args = parser.parse_args()
    own = {"made up": list(find_songs(ROOT / "bench" / "songs")), "demo": list(demo_songs())}
    sets = {f.name: list(find_songs(f)) for f in args.folders} or own
    report: dict[str, Any] = {}
    for name, songs in sets.items():
        if not songs:
            sys.exit(f"{name} holds no audio/ with truth/ beside it")
    heard = {name: measure(songs, hear_by_valley) for name, songs in sets.items()}  # before the textbook, so that the peak is Valley's own
    peak = resource.getrusage(resource.RUSAGE_SELF).ru_maxrss / 1024
    for name, songs in sets.items():
        print(f"\n{name}: {len(songs)} songs")
        results = {"Valley": heard[name]}
        if not args.no_textbook:
            from bench.textbook import hear_by_textbook

            results["textbook"] = measure(songs, hear_by_textbook)
        print_table({n: r["metrics"] for n, r in results.items()} | results["Valley"]["groups"], {n: r["seconds_a_song"] for n, r in results.items()})
        print_reliability(results["Valley"])
        print(f"\nValley's peak memory: {peak:.0f} MB")
        report[name] = results | {"peak_mb": peak}
    if not args.no_lengths:
        report["lengths"] = measure_lengths(next(iter(sets.values()))[0][0])
        print_lengths(report["lengths"])
    args.json.parent.mkdir(parents=True, exist_ok=True)
    args.json.write_text(json.dumps(report, indent=1))


if __name__ == "__main__":
    main()
