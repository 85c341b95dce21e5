"""Scores written by people, as plain notes in beats, for ``composer/perform.py`` to play.

    python training/read_scores.py OUT [--limit 400]

Writes one JSON file a piece: ``family``, ``meter``, ``bars`` (each with its start in quarters and its beats), and ``notes`` as
[start, length, midi, voice], times in quarters. The pieces are those of the corpus that music21 ships, without those that are kept
for examination and named in RESERVED.
"""

from __future__ import annotations

import argparse
import json
from pathlib import Path
from random import Random
from typing import Any

from music21 import corpus, meter, stream, tempo

# Never read: paths below the corpus, or their beginnings.
RESERVED = [
    "bach/choraleAnalyses",
    "bach/bwv269",
    "bach/bwv347",
    "bach/bwv153.1",
    "bach/bwv86.6",
    "bach/bwv267",
    "bach/bwv281",
    "bach/bwv17.7",
    "bach/bwv40.8",
    "bach/bwv38.6",
    "bach/bwv65.2",
    "bach/bwv33.6",
    "bach/bwv184.5",
    "bach/bwv277",
    "bach/bwv311",
    "bach/bwv145.5",
    "bach/bwv318",
    "bach/bwv351",
    "bach/bwv302",
    "bach/bwv846",
    "bach/bwv248.12-2",
    "bach/bwv66.6",
    "bach/bwv9",
    "monteverdi/",
    "leadSheet/",
    "nottingham-dataset/",
    "schubert/",
    "schumann_robert/",
    "schumann_clara/",
    "weber/",
    "liliuokalani/",
    "joplin/",
    "chopin/",
    "mozart/k545",
    "cpebach/",
    "schoenberg/",
    "beach/",
    "johnson_j_r/",
    "miscFolk/",
    "verdi/",
    "webern/",
    "corelli/",
    "haydn/opus74no1",
]
FAMILIES = {  # beginning of the path: family, most pieces taken
    "bach/": ("chorale", 130),
    "beethoven/": ("quartet", 30),
    "mozart/": ("quartet", 20),
    "haydn/": ("quartet", 12),
    "handel/": ("quartet", 2),
    "palestrina/": ("choir", 40),
    "josquin/": ("choir", 8),
    "trecento/": ("choir", 14),
    "oneills1850/": ("dance", 20),
    "ryansMammoth/": ("dance", 60),
    "airdsAirs/": ("dance", 6),
}
LONGEST = 800  # quarters; what comes after is left out


def beat_of(time: meter.TimeSignature) -> float:
    """The beat that a musician counts, in quarters."""
    if time.denominator == 8 and time.numerator % 3 == 0:
        return 1.5
    return 4 / time.denominator if time.denominator < 8 or time.numerator % 3 else 0.5


def read(path: str, family: str) -> dict[str, Any] | None:
    score = corpus.parse(path)
    if isinstance(score, stream.Opus):
        score = score.scores[0]
    parts = list(score.parts)
    if not parts or len(parts) > 8:
        return None
    notes = []
    for voice, part in enumerate(parts):
        for n in part.flatten().stripTies().notes:
            if n.duration.isGrace or n.quarterLength <= 0 or float(n.offset) > LONGEST:
                continue
            pitches = getattr(n, "pitches", ())
            notes += [[round(float(n.offset), 4), round(float(n.quarterLength), 4), p.midi, voice] for p in pitches]
    bars: list[dict[str, Any]] = []
    time: meter.TimeSignature | None = None
    for m in parts[0].getElementsByClass(stream.Measure):
        here = m.timeSignature or next(iter(m.getTimeSignatures(returnDefault=False)), None)
        time = here or time or meter.TimeSignature("4/4")
        length = float(m.duration.quarterLength)
        if length <= 0 or float(m.offset) > LONGEST:
            continue
        beat = beat_of(time)
        whole = float(time.barDuration.quarterLength)
        missing = whole - length if not bars and length < whole else 0.0
        beats = [k * beat - missing for k in range(round(whole / beat)) if -1e-6 <= k * beat - missing < length - 1e-6]
        bars.append({"start": round(float(m.offset), 4), "length": length, "beats": [round(b, 4) for b in beats], "first": missing == 0.0, "beat": beat})
    if len(bars) < 6 or len(notes) < 40 or time is None:
        return None
    marks = [str(t.text) for t in score.flatten().getElementsByClass(tempo.TempoText)][:1]
    return {"path": path, "family": family, "meter": time.ratioString, "voices": len(parts), "mark": marks[0] if marks else "", "bars": bars, "notes": notes}


def main() -> None:
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("out", type=Path)
    parser.add_argument("--limit", type=int, default=1000)
    parser.add_argument("--only", default="", help="beginning of the paths that are read, such as bach/; then all of them")
    args = parser.parse_args()
    args.out.mkdir(parents=True, exist_ok=True)
    base = Path(str(corpus.getCorePaths()[0])).parents[1]
    base = next(p for p in Path(str(corpus.getCorePaths()[0])).parents if p.name == "corpus")
    paths = sorted({str(Path(str(p)).relative_to(base)) for p in corpus.getCorePaths()})
    paths = [p for p in paths if not p.startswith(tuple(RESERVED))]
    rng = Random(7)
    rng.shuffle(paths)
    taken: dict[str, int] = {}
    for path in paths:
        start = next((s for s in FAMILIES if path.startswith(s)), None)
        if start is None or sum(taken.values()) >= args.limit or not path.startswith(args.only):
            continue
        if not args.only and taken.get(start, 0) >= FAMILIES[start][1]:
            continue
        name = path.replace("/", "-").rsplit(".", 1)[0]
        target = args.out / f"{name}.json"
        if not target.exists():
            try:
                piece = read(str(base / path), FAMILIES[start][0])
            except Exception as error:  # a score that its reader cannot read is left out, whatever the reason
                print(f"{path}: {type(error).__name__} {error}", flush=True)
                continue
            if piece is None:
                continue
            piece["path"] = path
            target.write_text(json.dumps(piece))
        taken[start] = taken.get(start, 0) + 1
        print(path, taken[start], flush=True)


if __name__ == "__main__":
    main()
