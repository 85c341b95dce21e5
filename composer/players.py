"""What is played on one instrument alone: a hymn in four voices, and a pianist's two hands."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from random import Random

from composer import band
from valley.theory.chord import Chord
from valley.theory.key import Key

Played = tuple[float, float, int, float, str]
"""Beat, length in beats, midi, loudness 0 to 1, and the part it belongs to."""


def play_hymn(rng: Random, chords: list[Chord | None], beats: int, key: Key) -> Iterator[Played]:
    """Soprano, alto, tenor and bass near where they were, a chord a beat, with passing notes."""
    soprano, alto, tenor, low = 72, 65, 57, 48
    scale = [n.pitch_class for n in key.scale()]
    shift = rng.choice([0, 0, -2, 2])
    hold = 0

    def near(target: int, lo: int, hi: int, allowed: list[int]) -> int:
        options = [p for p in range(lo, hi + 1) if p % 12 in allowed]
        return min(options or [p for p in range(target - 7, target + 8) if p % 12 in allowed], key=lambda p: (abs(p - target) + rng.uniform(0, 1.2), p))

    for i, chord in enumerate(chords):
        if chord is None:
            continue
        if hold:
            hold -= 1
            continue
        bar_end = (i // beats) % 4 == 3 and i % beats == beats - 2
        length = 2 if bar_end and i + 1 < len(chords) and chords[i + 1] == chord else 1
        hold = length - 1
        pcs = [n.pitch_class for n in chord.members()]
        soprano = near(soprano + rng.choice([-3, -2, 0, 0, 2, 3]), 60 + shift, 77 + shift, pcs)
        low = near(low, 40 + shift, 57 + shift, [chord.bass.pitch_class])
        missing = [pc for pc in pcs if pc not in (soprano % 12, low % 12)] or pcs
        alto = near(min(alto, soprano - 3), max(53, soprano - 13), soprano - 1, missing)
        rest = [pc for pc in pcs if pc not in (soprano % 12, low % 12, alto % 12)] or pcs
        tenor = near(min(tenor, alto - 3), max(low, alto - 13), max(low + 2, alto - 1), rest)
        for midi, part in ((soprano, "melody"), (alto, "alto"), (tenor, "tenor"), (low, "bass")):
            yield from _voice(rng, midi, part, i, length, scale)


def _voice(rng: Random, midi: int, part: str, at: int, length: int, scale: list[int]) -> Iterator[Played]:
    """One voice's note of a chord, now and then with a passing note after it."""
    if length == 1 and rng.random() < 0.07 and part != "melody":
        step = midi + rng.choice([-2, -1, 1, 2])
        if step % 12 in scale:
            yield at, 0.49, midi, 0.7, part
            yield at + 0.5, 0.47, step, 0.65, part
            return
    yield at, length * 0.97, midi, 0.75 if part == "melody" else 0.66, part


def _wide(rng: Random, chord: Chord, low: int, upper: list[int], at: float, length: int, eighth: float) -> Iterator[Played]:
    order = [low, *[min(upper, key=lambda p: abs(p - low - d)) for d in (7, 12, 16)]]
    walk = order + order[-2:0:-1]
    steps = int(round(length / eighth))
    for k in range(steps):
        rings = eighth * (steps - k if rng.random() < 0.3 else 1.4)
        yield at + k * eighth, rings, walk[k % len(walk)], 0.5 if k % round(1 / eighth) else 0.6, "bass" if k % len(walk) == 0 else "left"


def _alberti(rng: Random, chord: Chord, low: int, upper: list[int], at: float, length: int, eighth: float) -> Iterator[Played]:
    close = band.close_voicing(chord, low + 8)
    order = [close[0], close[-1], close[len(close) // 2], close[-1]] if round(1 / eighth) == 2 else [close[0], close[len(close) // 2], close[-1]]
    for k in range(int(round(length / eighth))):
        first = k % len(order) == 0
        yield at + k * eighth, eighth * 1.1, order[k % len(order)], 0.55, "bass" if first else "left"


def _low_and_upper(every: int | None, held: float) -> LeftHand:
    """A low note every so many beats (once a chord without), chords between; ``held`` is how much of the chord the low note lasts, 0 for a beat."""

    def play(rng: Random, chord: Chord, low: int, upper: list[int], at: float, length: int, eighth: float) -> Iterator[Played]:
        close = band.close_voicing(chord, 55)
        for k in range(length):
            if k % (every or length) == 0:
                yield at + k, length * held or 0.9, low, 0.66, "bass"
            else:
                yield from ((at + k, 0.85, n, 0.5, "left") for n in close)

    return play


def _octave(rng: Random, chord: Chord, low: int, upper: list[int], at: float, length: int, eighth: float) -> Iterator[Played]:
    yield at, length * 0.95, low, 0.68, "bass"
    yield at, length * 0.95, low + 12, 0.6, "left"


def _eighths(rng: Random, chord: Chord, low: int, upper: list[int], at: float, length: int, eighth: float) -> Iterator[Played]:
    close = band.close_voicing(chord, 52)
    yield at, length * 0.95, low, 0.66, "bass"
    for k in range(1, int(round(length / eighth))):
        for n in close:
            yield at + k * eighth, eighth * 0.9, n, 0.42, "left"


def _blocks(rng: Random, chord: Chord, low: int, upper: list[int], at: float, length: int, eighth: float) -> Iterator[Played]:
    yield at, length * 0.95, low, 0.68, "bass"
    for n in band.close_voicing(chord, 54):
        if n > low:
            yield at, length * 0.95, n, 0.52, "left"


LeftHand = Callable[[Random, Chord, int, list[int], float, int, float], Iterator[Played]]
LEFT_HANDS: dict[str, LeftHand] = {
    "blocks": _blocks,
    "wide": _wide,
    "low and upper": _low_and_upper(None, 0.95),
    "alberti": _alberti,
    "octave": _octave,
    "eighths": _eighths,
    "stride": _low_and_upper(2, 0),
}


def play_piano(rng: Random, left: str, thick: float, chord: Chord, at: float, length: int, quarters: float, under: int) -> Iterator[Played]:
    """One chord: a pattern in the left hand; the right hand fills chord notes below ``under``, the tune's lowest, the more the ``thick``er."""
    low = band.low_note(chord, 33 if left != "alberti" else 43)
    members = sorted({n.pitch_class for n in chord.members()})
    upper = [p for p in range(low + 5, low + 25) if p % 12 in members]
    yield from LEFT_HANDS[left](rng, chord, low, upper, at, length, 0.5 / quarters)
    fill = [p for p in range(under - 12, under) if p % 12 in members and p > low + 9]
    if thick > 0.35 and fill:
        for n in rng.sample(fill, min(len(fill), 1 if thick < 0.6 else 2 if thick < 0.85 else 3)):
            yield at, min(length, 2) * 0.95, n, 0.5, "right"
