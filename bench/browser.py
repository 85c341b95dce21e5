"""What the page takes as the user sees it, in a real browser: what the first page weighs, views from press to drawing, corrections from key to drawing.

    python bench/browser.py [--bars 57 104 304] [--times 12] [--rounds 5]

Starts Valley in a folder of its own with one made-up song for each length; Debian's Chromium presses the keys.
"""

from __future__ import annotations

import argparse
import json
import os
import shutil
import socket
import statistics
import subprocess
import sys
import tempfile
import time
import urllib.request
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path
from random import Random
from typing import TYPE_CHECKING

from valley.fraction import Fraction

if TYPE_CHECKING:
    from playwright.sync_api import Page

ROOT = Path(__file__).parent.parent
sys.path[:0] = [str(ROOT / "src"), str(ROOT)]

_FILL = """
from valley.pipeline.charts import load_song
from valley_web.songs.changes import take_state
from valley_web.songs.models import Recording, Song
song = Song.objects.create(title="Long walk")
Recording.objects.create(
    song=song, original_name="none.wav", stored_name="0" * 32, content_type="audio/wav", size=1, sha256="0", duration=400, loudness=[0.5] * 8000
)
take_state(song, load_song({path!r}), "made for measuring", actor="owner")
"""
_WATCH = """() => { window.__seen = []; let pressed = 0;
  addEventListener('keydown', () => { pressed = performance.now(); }, true);
  new MutationObserver(() => requestAnimationFrame(() => { if (pressed) { window.__seen.push(performance.now() - pressed); pressed = 0; } }))
    .observe(document.querySelector('[role=group]'), {subtree: true, childList: true, attributes: true, characterData: true}); }"""


def make_document(bars: int) -> dict[str, object]:
    """A chart of so many bars with two chords a bar, a tune in quarters and a part every eight bars, every second a repeat."""
    from valley.charting.parts import relate_parts
    from valley.formats.chart_json import dump_chart
    from valley.model.chart import Chart, ChartChord, Grid, KeyArea, MelodyNote, Part
    from valley.model.hearing import Reading
    from valley.theory.chord import parse_harte

    rng = Random(1)
    names = ["C:maj", "A:min7", "F:maj", "G:7", "E:min", "D:min7"]
    chords = []
    for i in range(2 * bars):
        label = names[(i * 5 + (i // 32) % 2) % len(names)]
        others = tuple(Reading(n, 0.1) for n in names if n != label)[:4]
        chords.append(ChartChord(Fraction(2 * i), Fraction(2), parse_harte(label), rng.random(), (Reading(label, 0.5), *others)))
    tune = tuple(MelodyNote(Fraction(i), Fraction(1), 64 + (i * 7) % 12) for i in range(4 * bars))
    grid = Grid(tuple(round(0.5 * i, 3) for i in range(4 * bars)), "4/4")
    chart = Chart("Long walk", grid, (KeyArea(Fraction(0), "C", "major"),), tuple(chords), tune, (), 0.0, 120.0)
    parts = [Part(k + 1, 8 * k + 1, 8, same_as=None if k < 4 else k % 4 + 1) for k in range(bars // 8)]
    return dump_chart(relate_parts(chart, parts))


# Scripts and styles that the first page waits for; what other pages need is fetched when it stands.
_WEIGHT = """(() => { const all = performance.getEntriesByType('resource').filter((r) => /\\.(js|css)$/.test(r.name));
  const shelf = all.find((r) => r.name.includes('/shelf-')).startTime + 20; const sum = (rows) => rows.reduce((n, r) => n + r.transferSize, 0);
  return [sum(all.filter((r) => r.startTime <= shelf)), sum(all)]; })()"""
VIEWS = {"survey": "[data-start]", "parts": "aside h2", "valley": "g.grip", "script": "[data-step]", "hand-outs": ".paper svg", "records": "main h2"}
# From the press on a view's name to the picture in which what it shows first has been drawn.
_SWITCH = """([name, shown]) => new Promise((done) => { const began = performance.now();
  [...document.querySelectorAll('nav a')].find((a) => a.getAttribute('href').endsWith('/' + name)).click();
  const look = () => (document.querySelector(shown) ? requestAnimationFrame(() => done(performance.now() - began)) : requestAnimationFrame(look));
  look(); })"""


@contextmanager
def serving(bars: int) -> Iterator[str]:
    """Valley with one song of so many bars, in a folder of its own; gives its address."""
    with socket.socket() as probe:
        probe.bind(("127.0.0.1", 0))
        address = f"127.0.0.1:{probe.getsockname()[1]}"
    with tempfile.TemporaryDirectory() as folder:
        environment = os.environ | {"VALLEY_DATA": folder, "DJANGO_SETTINGS_MODULE": "valley_web.config.settings"}
        document = Path(folder) / "chart.json"
        document.write_text(json.dumps(make_document(bars)))
        subprocess.run([sys.executable, "manage.py", "migrate", "--verbosity", "0"], env=environment, cwd=ROOT, check=True)
        subprocess.run([sys.executable, "manage.py", "shell", "-v", "0", "-c", _FILL.format(path=str(document))], env=environment, cwd=ROOT, check=True)
        server = subprocess.Popen([sys.executable, "manage.py", "serve", "--bind", address], env=environment, cwd=ROOT)
        try:
            for _ in range(100):
                try:
                    urllib.request.urlopen(f"http://{address}/api/session", timeout=2)
                    break
                except OSError:
                    time.sleep(0.2)
            yield f"http://{address}"
        finally:
            server.terminate()
            server.wait(timeout=20)


def correct_and_scroll(page: Page, times: int) -> str:
    """How long a correction takes to be drawn, and how smoothly things move."""
    page.evaluate(_WATCH)
    for i in range(times):
        page.keyboard.press(str(2 + i % 4))
        page.wait_for_timeout(900)
    edits = sorted(page.evaluate("window.__seen"))
    frames = page.evaluate("""async () => { const box = document.querySelector('[role=group]'); const gaps = []; let last = performance.now();
        for (let i = 0; i < 120; i++) { box.scrollTop += 60;
            await new Promise(requestAnimationFrame); const now = performance.now(); gaps.push(now - last); last = now; }
        return gaps; }""")
    return (
        f"a correction is drawn after {statistics.median(edits):.0f} ms (median of {len(edits)}), {edits[int(0.95 * (len(edits) - 1))]:.0f} ms (95 %); "
        f"scrolling {1000 / statistics.mean(frames):.0f} pictures a second, the longest gap {max(frames):.0f} ms"
    )


def go_around(page: Page, rounds: int) -> str:
    """How long each view takes to stand there, once it was seen before."""
    took: dict[str, list[float]] = {name: [] for name in VIEWS}
    for n in range(rounds + 1):  # the first round fetches what each view needs
        for name, shown in VIEWS.items():
            page.wait_for_timeout(700)
            waited = page.evaluate(_SWITCH, [name, shown])
            if n:
                took[name].append(waited)
    return ", ".join(f"{name} {statistics.median(times):.0f} ms" for name, times in took.items())


def main() -> None:
    parser = argparse.ArgumentParser(description=__doc__, formatter_class=argparse.RawDescriptionHelpFormatter)
    parser.add_argument("--bars", type=int, nargs="+", default=[57, 104, 304])
    parser.add_argument("--times", type=int, default=12, help="corrections")
    parser.add_argument("--rounds", type=int, default=5, help="through all views")
    args = parser.parse_args()
    from playwright.sync_api import sync_playwright

    for bars in args.bars:
        with serving(bars) as address, sync_playwright() as driver:
            browser = driver.chromium.launch(
                executable_path=shutil.which("chromium-headless-shell") or shutil.which("chromium"),
                args=["--no-sandbox", "--disable-background-networking", "--autoplay-policy=no-user-gesture-required"],
            )
            page = browser.new_page(viewport={"width": 1280, "height": 800})
            page.goto(address)
            page.wait_for_selector("h2")
            page.wait_for_timeout(1500)
            first, whole = page.evaluate(_WEIGHT)
            print(f"{bars} bars: the first page {first / 1000:.0f} kB of scripts and styles over the wire, {whole / 1000:.0f} kB with all others", flush=True)
            page.goto(f"{address}/songs/1/survey")
            page.wait_for_selector("[data-start]")
            page.wait_for_timeout(1500)
            print(f"  {go_around(page, args.rounds)}", flush=True)
            page.goto(f"{address}/songs/1/survey")
            page.wait_for_selector("[data-start]")
            page.wait_for_timeout(1500)
            print(f"  {correct_and_scroll(page, args.times)}", flush=True)
            browser.close()


if __name__ == "__main__":
    main()
