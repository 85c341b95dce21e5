"""Write made-up songs with truth: ``python -m composer FOLDER --seeds 1000:1020 [--genre hymn] [--fonts FluidR3,TimGM6mb]``."""

from __future__ import annotations

import argparse
import sys
from pathlib import Path

sys.path.insert(0, str(Path(__file__).parent.parent / "src"))

from composer.compose import compose
from composer.genres import GENRES
from composer.sound import FONTS, record


def main() -> None:
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("folder", type=Path)
    parser.add_argument("--seeds", default="1:9", help="first:last (exclusive)")
    parser.add_argument("--genre", choices=list(GENRES))
    parser.add_argument("--fonts", default=",".join(FONTS))
    parser.add_argument("--kbps", type=int)
    args = parser.parse_args()
    first, last = map(int, args.seeds.split(":"))
    fonts = tuple(f for f in args.fonts.split(",") if Path(FONTS[f]).exists())
    if not fonts:
        sys.exit("No soundfont was found; install Debian's fluid-soundfont-gm or timgm6mb-soundfont.")
    for seed in range(first, last):
        song = compose(seed, args.genre)
        record(song, args.folder, f"s{seed:05d}", fonts, kbps=args.kbps)
        print(
            f"{seed}: {song.genre}, {song.meter} at {song.bpm:.0f}, {song.keys[0]['tonic']} {song.keys[0]['mode']}, {song.end:.0f} s, {len(song.chords)} chords"
        )


if __name__ == "__main__":
    main()
