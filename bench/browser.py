"""How long a correction takes as the user sees it: a chart of 200 bars in a real browser, from key press to new drawing.

    python bench/browser.py [--bars 200] [--times 30]

Starts Valley in a folder of its own with one made-up song; Debian's Chromium presses the keys.
"""

from __future__ import annotations

import argparse
import json
import os
import socket
import statistics
import subprocess
import sys
import tempfile
import time
import urllib.request
from pathlib import Path
from random import Random

from valley.fraction import Fraction

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


def main() -> None:
    parser = argparse.ArgumentParser(description=__doc__, formatter_class=argparse.RawDescriptionHelpFormatter)
    parser.add_argument("--bars", type=int, default=200)
    parser.add_argument("--times", type=int, default=30)
    args = parser.parse_args()
    from playwright.sync_api import sync_playwright

    with socket.socket() as probe:
        probe.bind(("127.0.0.1", 0))
        port = probe.getsockname()[1]
    with tempfile.TemporaryDirectory() as folder:
        environment = os.environ | {"VALLEY_DATA": folder, "DJANGO_SETTINGS_MODULE": "valley_web.config.settings"}
        document = Path(folder) / "chart.json"
        document.write_text(json.dumps(make_document(args.bars)))
        subprocess.run([sys.executable, "manage.py", "migrate", "--verbosity", "0"], env=environment, cwd=ROOT, check=True)
        subprocess.run([sys.executable, "manage.py", "shell", "-v", "0", "-c", _FILL.format(path=str(document))], env=environment, cwd=ROOT, check=True)
        server = subprocess.Popen([sys.executable, "manage.py", "serve", "--bind", f"127.0.0.1:{port}"], env=environment, cwd=ROOT)
        try:
            for _ in range(100):
                try:
                    urllib.request.urlopen(f"http://127.0.0.1:{port}/api/session", timeout=2)
                    break
                except OSError:
                    time.sleep(0.2)
            with sync_playwright() as driver:
                browser = driver.chromium.launch(
                    executable_path="/usr/bin/chromium", args=["--no-sandbox", "--disable-background-networking", "--autoplay-policy=no-user-gesture-required"]
                )
                page = browser.new_page(viewport={"width": 1280, "height": 800})
                page.goto(f"http://127.0.0.1:{port}/songs/1/survey")
                page.wait_for_selector("[data-start]")
                page.wait_for_timeout(1500)
                page.evaluate(_WATCH)
                for i in range(args.times):
                    page.keyboard.press(str(2 + i % 4))
                    page.wait_for_timeout(900)
                edits = sorted(page.evaluate("window.__seen"))
                frames = page.evaluate("""async () => { const box = document.querySelector('[role=group]'); const gaps = []; let last = performance.now();
                    for (let i = 0; i < 120; i++) { box.scrollTop += 60;
                        await new Promise(requestAnimationFrame); const now = performance.now(); gaps.push(now - last); last = now; }
                    return gaps; }""")
                page.goto(f"http://127.0.0.1:{port}/songs/1/valley")
                page.wait_for_selector("g.grip")
                page.wait_for_timeout(1500)
                page.keyboard.press("ArrowDown")
                playing = page.evaluate("""async () => { const gaps = []; let last = performance.now(); const end = last + 5000;
                    const line = document.querySelector('[role=group] [aria-hidden=true]'); let beat = 0;
                    while (last < end) { await new Promise(requestAnimationFrame); const now = performance.now(); gaps.push(now - last); last = now;
                        if (line) { line.style.visibility = 'visible'; line.style.transform = `translateY(${(beat += 2) % 600}px)`; } }
                    return gaps; }""")
                browser.close()
        finally:
            server.terminate()
            server.wait(timeout=20)
    print(
        f"{args.bars} bars: a correction is drawn after {statistics.median(edits):.0f} ms (median of {len(edits)}), "
        f"{edits[int(0.95 * (len(edits) - 1))]:.0f} ms (95 %)"
    )
    print(f"the line running down the valley: {1000 / statistics.mean(playing):.0f} pictures a second, the longest gap {max(playing):.0f} ms")
    print(f"scrolling: {1000 / statistics.mean(frames):.0f} pictures a second, the longest gap {max(frames):.0f} ms")


if __name__ == "__main__":
    main()
