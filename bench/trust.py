"""Valley attacked as it runs: processes killed at random instants, two windows on one song, many people at once, copies made meanwhile.

What was acknowledged must be there.

.venv/bin/python bench/trust.py kills 200
.venv/bin/python bench/trust.py races 1000
.venv/bin/python bench/trust.py clients 20 --seconds 300
.venv/bin/python bench/trust.py copies 20
"""

from __future__ import annotations

import argparse
import copy
import hashlib
import os
import random
import shutil
import signal
import socket
import sqlite3
import statistics
import subprocess
import sys
import tempfile
import threading
import time
from collections import Counter
from collections.abc import Callable, Iterator
from concurrent.futures import ThreadPoolExecutor
from contextlib import contextmanager, suppress
from functools import partial
from pathlib import Path
from typing import Any

import psutil
import requests

ROOT = Path(__file__).parent.parent
sys.path[:0] = [str(ROOT / "src"), str(ROOT)]

from tests.sounds import save, song

CHART = b"Verse: | C | G | Am | F | C | G | F | C |\nRefrain: | F | G | C | Am | F | G | C | C |\n"
Answer = requests.Response


class Window:
    """One browser window: its cookies and its token."""

    def __init__(self, address: str) -> None:
        self._address, self._session = address, requests.Session()
        self._session.get(address, timeout=20)

    def call(self, method: str, path: str, **more: Any) -> Answer:
        headers = {"X-CSRFToken": self._session.cookies.get("csrftoken") or ""}
        return self._session.request(method, f"{self._address}/api/{path}", headers=headers, timeout=60, **more)

    def get(self, path: str) -> Any:
        answer = self.call("GET", path)
        answer.raise_for_status()
        return answer.json()

    def add(self, name: str, data: bytes) -> Answer:
        return self.call("POST", "songs", files={"file": (name, data)}, data={"again": "true"})


class Serving:
    """Valley on a folder, started and killed."""

    def __init__(self, data: Path) -> None:
        self.data = data
        with socket.socket() as probe:
            probe.bind(("127.0.0.1", 0))
            self._bind = f"127.0.0.1:{probe.getsockname()[1]}"
        self.address = f"http://{self._bind}"
        self._environment = os.environ | {"VALLEY_DATA": str(data), "DJANGO_SETTINGS_MODULE": "valley_web.config.settings"}
        self.manage("migrate", "--verbosity", "0")
        self.start()

    def manage(self, *words: str) -> None:
        """Run one command on the folder."""
        subprocess.run([sys.executable, "manage.py", *words], cwd=ROOT, env=self._environment, check=True, stdout=subprocess.DEVNULL)

    def start(self) -> None:
        command = [sys.executable, "manage.py", "serve", "--bind", self._bind]
        deadline = time.monotonic() + 120
        while True:  # what was killed may hold its address for another moment
            self.process = subprocess.Popen(command, cwd=ROOT, env=self._environment, stdout=subprocess.DEVNULL, stderr=subprocess.DEVNULL)
            if self.wait_until_up():
                return
            if time.monotonic() > deadline:
                raise TimeoutError("Valley does not start")

    def wait_until_up(self) -> bool:
        deadline = time.monotonic() + 90
        while time.monotonic() < deadline and self.process.poll() is None:
            try:
                if requests.get(f"{self.address}/api/session", timeout=10).ok:
                    return True
            except requests.RequestException:
                time.sleep(0.1)
        return False

    def kill_something(self, dice: random.Random) -> str:
        """The whole, the server, the worker or the listening that it does, by SIGKILL; what does not come again by itself is started."""
        family = psutil.Process(self.process.pid).children(recursive=True)
        names = {"web server": "valley_web.common.web_server", "worker": "work", "listening": "valley.pipeline.child"}
        what = dice.choice(["everything", "everything", "supervisor", *names])
        if what in ("everything", "supervisor"):
            for process in [psutil.Process(self.process.pid), *(family if what == "everything" else [])]:
                _kill(process)
            self.process.wait()
            psutil.wait_procs(family, timeout=30)
            self.start()
            return what
        hit = [p for p in family if names[what] in _command(p)]
        for process in hit[:1]:
            _kill(process)
        self.wait_until_up()
        return what if hit else "nothing"

    def stop(self) -> None:
        self.process.send_signal(signal.SIGTERM)
        self.process.wait(timeout=60)


def _kill(process: psutil.Process) -> None:
    with suppress(psutil.NoSuchProcess):
        process.kill()


def _command(process: psutil.Process) -> list[str]:
    try:
        return process.cmdline()
    except psutil.Error:
        return []


@contextmanager
def serving() -> Iterator[Serving]:
    with tempfile.TemporaryDirectory() as folder:
        valley = Serving(Path(folder))
        try:
            yield valley
        finally:
            valley.stop()


class Diary:
    """What the server acknowledged."""

    def __init__(self) -> None:
        self.edits: list[str] = []
        self.lines: list[str] = []
        self.requests: list[str] = []
        self.recordings: list[str] = []

    def total(self) -> int:
        return len(self.edits) + len(self.lines) + len(self.requests) + len(self.recordings)


def _work(valley: Serving, song_id: int, diary: Diary, over: threading.Event, wav: bytes) -> None:
    """Changes without end, each noted when it is acknowledged."""
    number = 0
    while not over.is_set():
        try:
            window = Window(valley.address)
            while not over.is_set():
                number += 1
                _change(window, song_id, number, diary, wav)
        except requests.RequestException:
            time.sleep(0.05)


def _change(window: Window, song_id: int, number: int, diary: Diary, wav: bytes) -> None:
    revision = window.get(f"songs/{song_id}/revision")["revision"]
    title = f"Title {number}"
    body = {"revision": revision, "edit": {"kind": "rename_song", "title": title}, "key": f"key-{number}"}
    if window.call("POST", f"songs/{song_id}/edits", json=body).ok:
        diary.edits.append(title)
    if window.call("POST", f"songs/{song_id}/log", json=[{"kind": "note", "text": f"line {number}"}]).ok:
        diary.lines.append(f"line {number}")
    if window.call("POST", "requests", json={"title": f"Wanted {number}", "handle": "@a", "apart": True}).ok:
        diary.requests.append(f"Wanted {number}")
    if number % 9 == 0:
        data = wav + number.to_bytes(8, "big")  # another file each time
        if window.add(f"take {number}.wav", data).ok:
            diary.recordings.append(hashlib.sha256(data).hexdigest())


def kills(count: int, seed: int) -> None:
    """Kill until it is enough, then look for everything that was acknowledged."""
    dice, diary, over, killed = random.Random(seed), Diary(), threading.Event(), Counter[str]()
    with tempfile.TemporaryDirectory() as folder, serving() as valley:
        wav = save(song(["C", "F"]), Path(folder) / "take.wav").read_bytes()
        song_id = Window(valley.address).add("chart.txt", CHART).json()["id"]
        worker = threading.Thread(target=_work, args=(valley, song_id, diary, over, wav))
        worker.start()
        while sum(n for what, n in killed.items() if what != "nothing") < count:
            time.sleep(dice.uniform(0.0, 1.5))
            killed[valley.kill_something(dice)] += 1
        over.set()
        worker.join()
        print(f"killed: {dict(killed)}; acknowledged: {diary.total()}")
        _wait_for_listenings(valley)
        for line in _find_losses(valley.data, diary):
            print(line)
        print(f"parts of files before tidying: {len(list((valley.data / 'uploads').iterdir()))}")


def _wait_for_listenings(valley: Serving) -> None:
    deadline = time.monotonic() + 600
    with sqlite3.connect(valley.data / "valley.sqlite3") as base:
        waiting = "SELECT count(*) FROM songs_listeningjob WHERE state IN ('waiting', 'running')"
        while base.execute(waiting).fetchone()[0] and time.monotonic() < deadline:
            time.sleep(1.0)


def _find_losses(data: Path, diary: Diary) -> Iterator[str]:
    """Everything that was acknowledged and is not in a data folder, or in a copy of one."""
    with sqlite3.connect(data / "valley.sqlite3") as base:

        def rows(query: str) -> set[str]:
            return {str(row[0]) for row in base.execute(query)}

        states = Counter(row[0] for row in base.execute("SELECT state FROM songs_listeningjob"))
        titles = rows("SELECT json_extract(state, '$.chart.title') FROM songs_revision")
        yield f"database: {base.execute('PRAGMA integrity_check').fetchone()[0]}; listenings: {dict(states)}"
        lines, wanted = rows("SELECT text FROM songs_logentry"), rows("SELECT title FROM songs_song")
        for what, said, there in (("edits", diary.edits, titles), ("lines", diary.lines, lines), ("requests", diary.requests, wanted)):
            yield f"{what} lost: {len(set(said) - there)} of {len(said)}"
        stored = list(base.execute("SELECT sha256, stored_name FROM songs_recording"))
    whole = {sha for sha, name in stored if hashlib.sha256((data / "recordings" / name).read_bytes()).hexdigest() == sha}
    yield f"recordings lost: {len(set(diary.recordings) - whole)} of {len(diary.recordings)}; not whole: {len(stored) - len(whole)}"
    known = {name for _, name in stored}
    files = {p.name for p in (data / "recordings").iterdir()}
    yield f"recordings of nobody: {len(files - known)}"


def races(count: int, seed: int) -> None:
    """Two windows write at the same moment, each on what it saw before; nothing may be lost without a word."""
    dice, told, lost = random.Random(seed), Counter[str](), 0
    with serving() as valley, ThreadPoolExecutor(2) as both:
        windows = [Window(valley.address) for _ in range(2)]
        song_id = windows[0].add("chart.txt", CHART).json()["id"]
        for number in range(count):
            kind = dice.choice(list(RACES))
            writes = [RACES[kind](windows[0], song_id, f"{number}{side}") for side in "ab"]
            answers = list(both.map(lambda pair: pair[0].call(*pair[1][0], **pair[1][1]), zip(windows, writes, strict=True)))
            codes = sorted(a.status_code for a in answers)
            told[f"{kind} {codes}"] += 1
            lost += not _is_kept(windows[0], song_id, kind, number, answers)
    print(f"races: {count}; lost without a word: {lost}")
    for line, times in sorted(told.items()):
        print(f"  {line}: {times}")


Write = tuple[tuple[str, str], dict[str, Any]]


def _rights(window: Window, song_id: int, text: str) -> Write:
    seen = window.get(f"songs/{song_id}")["rights"]
    return ("PATCH", f"songs/{song_id}"), {"json": {"rights": text, "seen": {"rights": seen}}}


def _wishes(window: Window, song_id: int, text: str) -> Write:
    seen = window.get(f"songs/{song_id}")["wanted"]
    return ("PATCH", f"songs/{song_id}"), {"json": {"wanted": text, "seen": {"wanted": seen}}}


def _title(window: Window, song_id: int, text: str) -> Write:
    seen = window.get(f"songs/{song_id}")["title"]
    return ("PATCH", f"songs/{song_id}"), {"json": {"title": text, "seen": {"title": seen}}}


def _edit(window: Window, song_id: int, text: str) -> Write:
    revision = window.get(f"songs/{song_id}/revision")["revision"]
    return ("POST", f"songs/{song_id}/edits"), {"json": {"revision": revision, "edit": {"kind": "rename_song", "title": text}, "key": text}}


def _undo_or_edit(window: Window, song_id: int, text: str) -> Write:
    if text.endswith("b"):
        return _edit(window, song_id, text)
    return ("POST", f"songs/{song_id}/undo"), {"json": {"revision": window.get(f"songs/{song_id}/revision")["revision"]}}


RACES: dict[str, Callable[[Window, int, str], Write]] = {"rights": _rights, "wishes": _wishes, "title": _title, "edit": _edit, "undo or edit": _undo_or_edit}


def _is_kept(window: Window, song_id: int, kind: str, number: int, answers: list[Answer]) -> bool:
    """Whether both texts are somewhere: the one in its field, the other told by a refusal and kept in the logbook or among the versions."""
    if any(a.status_code not in (200, 409) for a in answers):
        return False
    now = window.get(f"songs/{song_id}")
    log = " ".join(line["text"] for line in window.get(f"songs/{song_id}/log?limit=20")["lines"])
    versions = " ".join(v["what"] for v in window.get(f"songs/{song_id}/revisions?limit=20")["versions"])
    kept = f"{now['rights']} {now['wanted']} {now['title']} {log} {versions}"
    texts = [f"{number}{side}" for side in ("b" if kind == "undo or edit" else "ab")]
    return all(text in kept for text in texts) and sum(a.status_code == 200 for a in answers) in (1, 2)


def copies(count: int) -> None:
    """Copies made while somebody works on a large database without pause; at the end the last one is put in the place of what is there."""
    diary, over, took = Diary(), threading.Event(), list[float]()
    with tempfile.TemporaryDirectory() as folder, serving() as valley:
        wav = save(song(["C", "F"]), Path(folder) / "take.wav").read_bytes()
        window = Window(valley.address)
        song_id = window.add("chart.txt", CHART).json()["id"]
        with sqlite3.connect(valley.data / "valley.sqlite3", timeout=60) as base:
            base.execute("CREATE TABLE filler (bytes)")
            base.executemany("INSERT INTO filler VALUES (?)", [(os.urandom(1_000_000),) for _ in range(300)])
        worker = threading.Thread(target=_work, args=(valley, song_id, diary, over, wav))
        worker.start()
        lost = 0
        for number in range(count):
            before = copy.deepcopy(diary)
            began = time.monotonic()
            valley.manage("backup", f"{folder}/copies")
            took.append(time.monotonic() - began)
            newest = max(Path(folder, "copies").iterdir(), key=lambda p: p.stat().st_mtime)
            said = list(_find_losses(newest, before))
            lost += sum(" lost: 0 " not in line for line in said if " lost: " in line)
            if number + 1 < count:
                valley.manage("backup", "--check", str(newest))
                shutil.rmtree(newest)
        over.set()
        worker.join()
        valley.stop()
        valley.manage("restore", str(newest))
        valley.start()
        print(f"{count} copies in {statistics.median(took):.1f} s in the median, {max(took):.1f} s at most; {diary.total()} changes meanwhile")
        print(f"kinds of change that were acknowledged before a copy began and are not in it: {lost}")
        print(f"after the last was put back: {'; '.join(_find_losses(valley.data, before))}")


def clients(count: int, seconds: float) -> None:
    """So many people at once, each on a song of their own: how long they wait, and what went wrong."""
    times: dict[str, list[float]] = {}
    wrong, lock = Counter[str](), threading.Lock()
    with serving() as valley:
        deadline = time.monotonic() + seconds

        def person(number: int) -> None:
            window, dice = Window(valley.address), random.Random(number)
            song_id = window.add("chart.txt", CHART).json()["id"]
            while time.monotonic() < deadline:
                for what, call in _visit(window, song_id, dice):
                    began = time.monotonic()
                    answer = call()
                    with lock:
                        times.setdefault(what, []).append(time.monotonic() - began)
                        if answer.status_code >= 400:
                            wrong[f"{what} {answer.status_code}"] += 1
                    time.sleep(dice.uniform(0.2, 1.5))

        with ThreadPoolExecutor(count) as people:
            list(people.map(person, range(count)))
        memory = max(p.memory_info().rss for p in psutil.Process(valley.process.pid).children(recursive=True)) / 2**20
    print(f"{count} people, {seconds:.0f} s: {sum(map(len, times.values()))} requests; wrong: {dict(wrong) or 'none'}; largest process {memory:.0f} MB")
    for what, took in sorted(times.items()):
        cuts = statistics.quantiles(took, n=100)
        print(f"  {what}: {len(took)}, median {1000 * cuts[49]:.0f} ms, 95 % within {1000 * cuts[94]:.0f} ms, worst {1000 * max(took):.0f} ms")


def _visit(window: Window, song_id: int, dice: random.Random) -> Iterator[tuple[str, Callable[[], Answer]]]:
    yield "shelf", lambda: window.call("GET", "shelf")
    yield "chart", lambda: window.call("GET", f"songs/{song_id}/chart")
    for _ in range(4):
        revision = window.get(f"songs/{song_id}/revision")["revision"]
        chord = dice.choice(["C", "Am7", "Fmaj7", "G/B", "Dm"])
        edit = {"kind": "set_chord", "start": f"{4 * dice.randrange(16)}", "text": chord}
        yield "edit", partial(window.call, "POST", f"songs/{song_id}/edits", json={"revision": revision, "edit": edit})
    yield "lesson", lambda: window.call("GET", f"songs/{song_id}/lesson")
    yield "sheet", lambda: window.call("GET", f"songs/{song_id}/score")


def main() -> None:
    parser = argparse.ArgumentParser(description=__doc__, formatter_class=argparse.RawDescriptionHelpFormatter)
    parser.add_argument("what", choices=["kills", "races", "clients", "copies"])
    parser.add_argument("count", type=int)
    parser.add_argument("--seconds", type=float, default=300.0)
    parser.add_argument("--seed", type=int, default=1)
    asked = parser.parse_args()
    if asked.what == "kills":
        kills(asked.count, asked.seed)
    elif asked.what == "races":
        races(asked.count, asked.seed)
    elif asked.what == "copies":
        copies(asked.count)
    else:
        clients(asked.count, asked.seconds)


if __name__ == "__main__":
    main()
