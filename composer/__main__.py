"""Write made-up songs with truth: ``python -m composer FOLDER --seeds 1000:1020 [--genre hymn] [--fonts FluidR3,TimGM6mb]``.

With ``--scores FOLDER`` pieces written by people are performed instead (``training/read_scores.py`` writes them): one for each seed.
"""

from __future__ import annotations

import argparse
import json
import sys
from pathlib import Path
from random import Random

sys.path.insert(0, str(Path(__file__).parent.parent / "src"))

from composer.compose import compose
from composer.genres import GENRES
from composer.odd_bars import drop_beats
from composer.perform import FAMILIES, perform
from composer.sound import FONTS, record


def main() -> None:
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("folder", type=Path)
    parser.add_argument("--seeds", default="1:9", help="first:last (exclusive)")
    parser.add_argument("--genre", choices=list(GENRES))
    parser.add_argument("--fonts", default=",".join(FONTS))
    parser.add_argument("--kbps", type=int)
    parser.add_argument("--scores", type=Path)
    parser.add_argument("--family", action="append", help="of the scores; any without it")
    parser.add_argument("--dropped", action="store_true", help="with beats dropped at the end of sections")
    parser.add_argument("--sung", action="store_true", help="only those of the seeds whose tune is sung")
    parser.add_argument("--samples", type=float, default=0.0, help="share of the piano pieces played by Valley's own samples")
    args = parser.parse_args()
    first, last = map(int, args.seeds.split(":"))
    fonts = tuple(f for f in args.fonts.split(",") if Path(FONTS[f]).exists())
    if not fonts:
        sys.exit("No soundfont was found; install Debian's fluid-soundfont-gm or timgm6mb-soundfont.")
    pieces = [p for f in sorted(args.scores.glob("*.json")) if (p := json.loads(f.read_text()))["family"] in (args.family or FAMILIES)] if args.scores else []
    for seed in range(first, last):
        song = perform(pieces[seed % len(pieces)], seed) if pieces else compose(seed, args.genre)
        if args.sung and not song.sung:
            continue
        if args.dropped:
            drop_beats(song, Random(seed))
        record(song, args.folder, f"s{seed:05d}", fonts, kbps=args.kbps, samples=args.samples)
        key = f"{song.keys[0]['tonic']} {song.keys[0]['mode']}" if song.keys else "key not told"
        print(f"{seed}: {song.genre}, {song.meter} at {song.bpm:.0f}, {key}, {song.end:.0f} s, {len(song.chords)} chords", flush=True)


if __name__ == "__main__":
    main()
