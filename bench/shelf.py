"""How long the shelf takes with 5,000 songs: searched, filtered and sorted, through the whole API, on a database of its own.

python bench/shelf.py [--songs 5000] [--times 15]
"""

from __future__ import annotations

import argparse
import os
import random
import statistics
import sys
import tempfile
import time
from datetime import date, timedelta
from pathlib import Path

ROOT = Path(__file__).parent.parent
sys.path[:0] = [str(ROOT / "src"), str(ROOT)]

ASKS: tuple[tuple[str, dict[str, str]], ...] = (
    ("everything, newest first", {}),
    ("one word", {"q": "lantern"}),
    ("three words, by votes", {"q": "eb major harbour", "order": "votes"}),
    ("a viewer's handle", {"q": "@v77"}),
    ("one waymark, by title", {"stage": "charted", "order": "title"}),
    ("promised soonest", {"order": "promised"}),
    ("fewest bars to learn, far down", {"order": "shortest", "offset": "4000"}),
    ("nothing is found", {"q": "zzz"}),
)
WORDS = (
    "lantern",
    "harbour",
    "copper",
    "mill",
    "tram",
    "snow",
    "ferry",
    "gravel",
    "honey",
    "kettle",
    "umbrella",
    "staircase",
    "orchard",
    "compass",
    "fennel",
    "iron",
    "oats",
    "moon",
    "letters",
    "street",
)


def fill(songs: int) -> None:
    from valley.records.titles import make_plain
    from valley.records.way import FILMED
    from valley_web.records.models import Asking, TimeSpent
    from valley_web.songs.models import Recording, Song, StageMark

    rng = random.Random(1)
    rows = []
    for i in range(songs):
        title = f"{rng.choice(WORDS).title()} {rng.choice(WORDS).title()} {i}"
        facts = f"{rng.choice(['C', 'Eb', 'G', 'F#'])} {rng.choice(['major', 'minor'])} · 4/4 · {rng.randint(60, 160)} to the minute"
        asks = " ".join(f"@v{rng.randint(1, 999)} please for my sister" for _ in range(3))
        rows.append(
            Song(
                title=title,
                facts=facts,
                stage=rng.randint(0, 8),
                votes=rng.randint(0, 60),
                bars=rng.randint(16, 120),
                bars_to_learn=rng.randint(8, 60),
                revision=1,
                sought=f"{make_plain(f'{title} {facts}')}\n{make_plain(asks)}",
                promised_for=date(2026, 1, 1) + timedelta(rng.randint(0, 300)) if rng.random() < 0.1 else None,
            )
        )
    made = Song.objects.bulk_create(rows)
    Asking.objects.bulk_create(Asking(song=s, handle=f"@v{n}") for s in made for n in range(3))
    StageMark.objects.bulk_create(StageMark(song=s, stage=n) for s in made for n in range(9))
    TimeSpent.objects.bulk_create(TimeSpent(song=s, stage=FILMED, day=date(2026, 1, 1), minutes=60) for s in made[:2000])
    Recording.objects.bulk_create(
        Recording(song=s, original_name="a.mp3", stored_name=f"{i:032x}", content_type="audio/mpeg", size=1, sha256=f"{i:064x}", loudness=[0.5] * 4000)
        for i, s in enumerate(made[:3000])
    )


def main() -> None:
    parser = argparse.ArgumentParser(description=__doc__, formatter_class=argparse.RawDescriptionHelpFormatter)
    parser.add_argument("--songs", type=int, default=5000)
    parser.add_argument("--times", type=int, default=15)
    args = parser.parse_args()
    with tempfile.TemporaryDirectory() as folder:
        os.environ |= {"VALLEY_DATA": folder, "DJANGO_SETTINGS_MODULE": "valley_web.config.settings"}
        import django

        django.setup()
        from django.core.management import call_command
        from django.test import Client

        call_command("migrate", verbosity=0)
        fill(args.songs)
        client = Client(HTTP_HOST="localhost")
        client.get("/api/session")  # what is imported at the first request of all is not the shelf's
        print(f"{args.songs} songs; milliseconds for the whole answer, median and slowest of {args.times}\n")
        for name, ask in ASKS:
            took, total = [], 0
            for _ in range(args.times):
                began = time.perf_counter()
                answer = client.get("/api/shelf", ask)
                took.append(1000 * (time.perf_counter() - began))
                total = answer.json()["total"]
            print(f"{name:32} {statistics.median(took):6.1f} {max(took):7.1f}   {total} found")
        from valley_web.records.services import fetch_comments

        fetched = fetch_comments(actor="bench", at_most=200)
        others = {f"the post, {fetched} new comments": "/api/post", "the calendar": "/api/calendar", "one song's records": "/api/songs/1/records"}
        for name, address in others.items():
            took = []
            for _ in range(5):
                began = time.perf_counter()
                client.get(address)
                took.append(1000 * (time.perf_counter() - began))
            print(f"{name:32} {statistics.median(took):6.1f} {max(took):7.1f}")


if __name__ == "__main__":
    main()
