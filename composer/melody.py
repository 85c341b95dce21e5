"""Tunes over a progression: chord notes on strong places, steps between, breath at phrase ends."""

from __future__ import annotations

from random import Random

from valley.theory.chord import Chord
from valley.theory.key import Key

TuneNote = tuple[float, float, int]  # beat, length in beats, midi

# Rhythms of one bar as lengths in quarters (negative = rest), by number of quarters.
_RHYTHMS: dict[float, tuple[tuple[float, ...], ...]] = {
    4: (
        (1, 1, 1, 1),
        (2, 1, 1),
        (1, 0.5, 0.5, 1, 1),
        (0.5,) * 8,
        (1.5, 0.5, 2),
        (3, 1),
        (4,),
        (-1, 1, 1, 1),
        (-0.5, 0.5, 0.5, 0.5, 1, 1),
        (1.5, 1.5, 1),
        (0.5, 1, 0.5, 1, 1),
        (0.75, 0.25, 1, 2),
        (0.5, 0.5, 1, 0.5, 0.5, 1),
        (-0.5, 1, 1, 0.5, 1),
        (2, 2),
        (1, 2, 1),
        (0.25, 0.25, 0.5, 1, 0.5, 0.5, 1),
        (0.5, 0.25, 0.25, 0.5, 0.5, 2),
        (1.5, 0.5, 0.5, 0.5, 1),
        (0.75, 0.75, 0.5, 2),
        (-2, 0.5, 0.5, 0.5, 0.5),
    ),
    3: ((1, 1, 1), (2, 1), (3,), (1, 0.5, 0.5, 1), (1.5, 0.5, 1), (0.5,) * 6, (-1, 1, 1), (1, 2), (0.5, 0.5, 1, 1)),
    2: ((1, 1), (2,), (0.5, 0.5, 1), (1, 0.5, 0.5), (0.5,) * 4, (0.75, 0.25, 1), (-0.5, 0.5, 0.5, 0.5)),
    1: ((1,), (1,), (0.5, 0.5)),
    1.5: ((0.5, 0.5, 0.5), (1, 0.5), (1.5,), (0.5, 1), (0.75, 0.25, 0.5)),
}
_HALVES: dict[float, tuple[int, int]] = {5: (3, 2), 7: (4, 3)}  # quarters of an odd bar's halves, either first


class Tune:
    """Composes one passage; call :meth:`over` with the chord of each bar's moments."""

    def __init__(self, rng: Random, low: int, high: int, density: float) -> None:
        self.rng, self.low, self.high, self.density = rng, low, high, density
        self.pitch = rng.randint(low + (high - low) // 4, high - (high - low) // 4)

    def over(self, chords: list[Chord | None], key: Key, beats: int, quarters: float, groups: tuple[int, ...] = ()) -> list[TuneNote]:
        """``chords`` one a beat, ``groups`` of beats in odd eighths; returns notes in beats. A motif's rhythm comes back every other bar."""
        rng, notes = self.rng, []
        bars = len(chords) // beats
        motifs = [self._rhythm(beats, quarters, groups) for _ in range(rng.choice([2, 3, 4]))]
        scale = [n.pitch_class for n in key.scale()]
        for bar in range(bars):
            rhythm = motifs[bar % len(motifs)] if rng.random() < 0.75 else self._rhythm(beats, quarters, groups)
            last = bar % 4 == 3 or bar == bars - 1
            if last and rng.random() < 0.6:
                rhythm = [max(1.0, beats - 1.0), -1.0] if beats > 1 else [float(beats)]
            at = float(bar * beats)
            for length in rhythm:
                chord = chords[min(len(chords) - 1, int(at + 1e-6))]
                if length > 0 and chord is not None:
                    strong = abs(at - round(at)) < 1e-6
                    self.pitch = self._step(chord, scale, strong, closing=last)
                    notes.append((at, length, self.pitch))
                at += abs(length)
        return notes

    def _rhythm(self, beats: int, quarters: float, groups: tuple[int, ...]) -> list[float]:
        """Lengths in beats that fill the bar."""
        rng = self.rng
        whole = beats * quarters
        if whole in _HALVES:
            first, second = rng.sample(_HALVES[whole], 2)
            pieces = [*rng.choice(_RHYTHMS[first]), *rng.choice(_RHYTHMS[second])]
        elif groups:
            pieces = [p for g in groups for p in rng.choice(_RHYTHMS[g * quarters])]
        elif quarters == 1.5:
            pieces = [p for _ in range(beats) for p in rng.choice(_RHYTHMS[1.5])]
        else:
            known = _RHYTHMS[whole] if whole in _RHYTHMS else _RHYTHMS[4]
            options = [o for o in known if (len(o) <= whole) == (rng.random() > self.density)] or list(known)
            pieces = list(rng.choice(options))
        return [p / quarters for p in pieces]

    def _step(self, chord: Chord, scale: list[int], strong: bool, *, closing: bool) -> int:
        rng = self.rng
        members = [n.pitch_class for n in chord.members()]
        wanted = members if strong and rng.random() < 0.85 or closing else sorted(set(scale) | set(members))
        near = [p for p in range(self.pitch - 9, self.pitch + 10) if self.low <= p <= self.high and p % 12 in wanted]
        if not near:
            near = [p for p in range(self.low, self.high + 1) if p % 12 in wanted] or [self.pitch]
        centre = 0.5 * (self.low + self.high)
        weights = [2.718 ** (-abs(p - self.pitch) / 2.6 - ((p - centre) / (self.high - self.low)) ** 2 * 3) * (0.45 if p == self.pitch else 1) for p in near]
        return rng.choices(near, weights)[0]
