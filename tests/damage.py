"""Ways in which files are damaged: cut, torn, doubled, with bytes turned over and with numbers that no song needs."""

from __future__ import annotations

import random
import re
from collections.abc import Callable
from pathlib import Path

GOLDEN = Path(__file__).parent / "golden"
# Files of every kind that is read, by the name under which they are sent.
WHOLE: dict[str, bytes] = {
    name: (GOLDEN / f"{song}.{ending}").read_bytes()
    for song in ("two_lanterns", "nine_lanterns", "oats_and_iron")
    for ending, name in {
        "score.musicxml": f"{song}.musicxml",
        "hands.mid": f"{song}.mid",
        "chords.txt": f"{song}.txt",
        "chords.csv": f"{song}.csv",
        "chords.lab": f"{song}.lab",
        "chart.json": f"{song}.chart.json",
        "lesson.json": f"{song}.lesson.json",
    }.items()
    if (GOLDEN / f"{song}.{ending}").exists()
}
_ODD = (b"1e9999999", b"nan", b"-1", b"0", b"99999999999999999999", b"1/0", b"4294967296", b"")
_ODD += (b"\xff", b"\x00", b"{", b"]", b'"', b"<", b"&amp;", b"\xed\xa0\x80")
_NUMBER = re.compile(rb"\d+")


def _cut(data: bytes, rng: random.Random) -> bytes:
    return data[: rng.randrange(len(data))]


def _tear(data: bytes, rng: random.Random) -> bytes:
    a = rng.randrange(len(data))
    return data[:a] + data[a + rng.randint(1, 200) :]


def _double(data: bytes, rng: random.Random) -> bytes:
    a = rng.randrange(len(data))
    piece = data[a : a + rng.randint(1, 400)]
    return data[:a] + piece * rng.randint(2, 5) + data[a:]


def _turn_over(data: bytes, rng: random.Random) -> bytes:
    out = bytearray(data)
    for _ in range(rng.randint(1, 6)):
        out[rng.randrange(len(out))] = rng.randrange(256)
    return bytes(out)


def _odd_number(data: bytes, rng: random.Random) -> bytes:
    places = list(_NUMBER.finditer(data))
    if not places:
        return _turn_over(data, rng)
    at = rng.choice(places)
    return data[: at.start()] + rng.choice(_ODD) + data[at.end() :]


def _swap_lines(data: bytes, rng: random.Random) -> bytes:
    lines = data.split(b"\n")
    if len(lines) < 3:
        return _turn_over(data, rng)
    a, b = rng.sample(range(len(lines)), 2)
    lines[a], lines[b] = lines[b], lines[a]
    return b"\n".join(lines)


WAYS: tuple[Callable[[bytes, random.Random], bytes], ...] = (_cut, _tear, _double, _turn_over, _odd_number, _odd_number, _swap_lines)


def damaged(seed: int) -> tuple[str, bytes]:
    """The name and the bytes of one damaged file; the same for the same seed."""
    rng = random.Random(seed)
    name = rng.choice(sorted(WHOLE))
    data = WHOLE[name]
    for _ in range(rng.randint(1, 3)):
        data = rng.choice(WAYS)(data, rng) or b" "
    return name, data
