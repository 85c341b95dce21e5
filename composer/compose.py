"""One made-up song: form, harmony, tune, parts and their times, with the truth a listener should find.

Everything is drawn from one seed. Genres differ in metre, tempo, harmonic rhythm, richness, instruments and feel.
"""

from __future__ import annotations

from dataclasses import dataclass, field
from itertools import groupby
from random import Random
from typing import Any

import numpy as np

from composer import band, harmony
from composer.melody import Tune
from valley.theory.chord import Chord
from valley.theory.key import Key


@dataclass(frozen=True)
class Genre:
    meters: tuple[str, ...]
    bpm: tuple[int, int]  # quarters (dotted quarters in 6/8) a minute
    rhythm: tuple[float, ...]  # bars a chord
    richness: str
    comps: tuple[str, ...]
    basses: tuple[str, ...]
    drums: tuple[str, ...]
    programs: tuple[int, ...]  # of the chord instrument
    leads: tuple[int, ...]
    drift: float = 0.006
    swing: float = 0.0  # chance of a swung feel
    rubato: float = 0.0


_PIANOS = (0, 0, 1, 2, 4, 5)
_GUITARS = (24, 25, 26, 27)
_LEADS = (0, 11, 22, 26, 40, 42, 52, 53, 54, 56, 60, 64, 65, 66, 68, 71, 73, 74, 75, 79, 80, 81, 82, 85)
GENRES: dict[str, Genre] = {
    "ballad": Genre(
        ("4/4", "4/4", "6/8"),
        (56, 84),
        (1, 1, 0.5, 2),
        "pop",
        ("held", "beats", "eighths", "arpeggio"),
        ("held", "held", "pushed", "dotted"),
        ("none", "backbeat", "half time", "shaker"),
        _PIANOS,
        _LEADS,
    ),
    "pop": Genre(
        ("4/4",),
        (84, 132),
        (1, 1, 0.5, 2),
        "pop",
        ("eighths", "beats", "strum", "syncopated", "arpeggio", "offbeat"),
        ("held", "eighths", "root and fifth", "dotted", "pushed", "beats"),
        ("backbeat", "four", "busy", "half time"),
        (0, 4, 24, 25, 26, 27, 48, 89, 90),
        _LEADS,
    ),
    "rock": Genre(
        ("4/4", "4/4", "2/4"),
        (96, 172),
        (1, 1, 2, 0.5),
        "plain",
        ("eighths", "beats", "held", "strum"),
        ("eighths", "beats", "dotted", "octaves"),
        ("backbeat", "busy"),
        (25, 26, 27, 28, 29, 30, 16, 18),
        _LEADS,
    ),
    "soul": Genre(
        ("4/4",),
        (66, 116),
        (1, 1, 0.5),
        "rich",
        ("charleston", "offbeat", "beats", "held", "syncopated"),
        ("dotted", "walking", "pushed", "root and fifth"),
        ("backbeat", "busy", "brush"),
        (4, 5, 26, 0, 16),
        _LEADS,
        swing=0.5,
    ),
    "folk": Genre(
        ("3/4", "3/4", "6/8", "4/4", "2/4"),
        (66, 150),
        (1, 1, 2, 0.5),
        "plain",
        ("strum", "arpeggio", "second half", "alberti", "beats"),
        ("held", "root and fifth", "beats"),
        ("none", "shaker", "brush", "none"),
        (*_GUITARS, 15, 21, 46, 0),
        _LEADS,
        0.01,
    ),
    "electronic": Genre(
        ("4/4",),
        (100, 140),
        (1, 2, 1),
        "pop",
        ("held", "eighths", "arpeggio", "offbeat", "syncopated"),
        ("eighths", "octaves", "held"),
        ("four", "four", "busy"),
        (50, 51, 62, 63, 81, 89, 90, 91),
        _LEADS,
        0.0,
    ),
    "swing": Genre(
        ("4/4", "3/4"),
        (80, 180),
        (1, 0.5, 0.5),
        "rich",
        ("charleston", "held", "offbeat"),
        ("walking", "root and fifth", "walking"),
        ("brush", "none"),
        (0, 4, 26),
        _LEADS,
        swing=0.9,
    ),
    "waltz": Genre(
        ("3/4",),
        (84, 180),
        (1, 1, 2),
        "plain",
        ("second half", "second half", "arpeggio", "held"),
        ("held",),
        ("none", "brush"),
        (0, 21, 24, 46, 48),
        _LEADS,
        0.012,
    ),
    "chamber": Genre(
        ("4/4", "3/4", "6/8"),
        (54, 120),
        (1, 0.5),
        "romantic",
        ("held", "arpeggio", "alberti", "tremolo", "beats"),
        ("held", "beats"),
        ("none",),
        (48, 49, 46, 19, 6, 68, 52),
        _LEADS,
        0.012,
    ),
    "leadsheet": Genre(
        ("4/4", "3/4"),
        (70, 190),
        (1, 0.5, 1),
        "rich",
        ("beats", "held", "charleston", "second half"),
        ("held", "walking", "root and fifth"),
        ("none", "brush"),
        (0, 0, 4, 24),
        (0, 65, 66, 56, 73, 71, 40, 11),
        swing=0.4,
    ),
    "artsong": Genre(
        ("4/4", "3/4", "6/8", "2/4"),
        (56, 112),
        (1, 0.5, 0.5),
        "romantic",
        ("arpeggio", "eighths", "beats", "alberti", "tremolo"),
        ("held", "beats"),
        ("none",),
        (0, 1),
        (52, 53, 54, 40, 42, 68),
        0.015,
        rubato=0.5,
    ),
    "hymn": Genre(("4/4", "4/4", "3/4"), (60, 112), (0.25,), "hymn", (), (), ("none",), (19, 16, 52, 48, 0, 20, 53, 61), (), 0.006, rubato=0.15),
    "piano": Genre(("4/4", "4/4", "3/4", "6/8", "2/4"), (56, 148), (1, 1, 0.5), "romantic", (), (), ("none",), (0, 0, 0, 1, 2), (), 0.012, rubato=0.4),
}
_WEIGHTS = {
    "ballad": 3,
    "pop": 4,
    "rock": 3,
    "soul": 3,
    "folk": 3,
    "electronic": 3,
    "swing": 2,
    "waltz": 2,
    "chamber": 2,
    "leadsheet": 2,
    "artsong": 3,
    "hymn": 4,
    "piano": 7,
}
QUARTERS = {"4/4": (4, 1.0), "3/4": (3, 1.0), "2/4": (2, 1.0), "6/8": (2, 1.5)}
LONGEST = 100  # seconds, about
_FORMS = ("ABABCB", "IAABACBO", "AABA", "ABCABC", "IABABO", "AABBAB", "ABAB", "IAABCBB", "ABACA", "AABAB", "IABABCBB", "AAB")


@dataclass
class Note:
    """A sounding note; times in seconds."""

    start: float
    end: float
    midi: int
    loud: float
    part: str


@dataclass
class Song:
    name: str
    genre: str
    seed: int
    meter: str
    bpm: float
    beats: list[float]
    downbeats: list[float]
    end: float
    keys: list[dict[str, Any]]
    chords: list[dict[str, Any]]
    sections: list[dict[str, Any]]
    notes: list[Note]
    programs: dict[str, int]
    levels: dict[str, float]
    sung: bool
    swing: float
    details: dict[str, Any] = field(default_factory=dict)

    def truth(self) -> dict[str, Any]:
        """What a perfect listener would hear, in the fields of hearing.json."""

        def rows(part: str) -> list[dict[str, Any]]:
            return [{"start": round(n.start, 4), "end": round(n.end, 4), "midi": n.midi} for n in self.notes if n.part == part]

        pitched = [n for n in self.notes if n.part != "drums"]
        group = {"hymn": "chorales", "piano": "piano", "leadsheet": "leadsheets", "artsong": "artsongs"}.get(self.genre, "sung" if self.sung else "synthetic")
        out = {
            "title": self.name,
            "group": group,
            "genre": self.genre,
            "bpm": round(self.bpm, 3),
            "meter": self.meter,
            "end": round(self.end, 4),
            "beats": [round(b, 4) for b in self.beats],
            "downbeats": [round(b, 4) for b in self.downbeats],
            "keys": self.keys,
            "chords": self.chords,
            "melody": rows("melody") or rows("top"),
            "bass": rows("bass"),
            "sections": self.sections,
            "swing": self.swing,
            **self.details,
        }
        everything = [{"start": round(n.start, 4), "end": round(n.end, 4), "midi": n.midi} for n in sorted(pitched, key=lambda n: (n.start, n.midi))]
        return out | {"notes" if self.genre == "piano" else "all_notes": everything}


@dataclass
class _Passage:
    degrees: list[tuple[str, int]]  # degree and its beats
    chords: list[Chord | None]  # one a beat
    tune: list[tuple[float, float, int]]


class _Writer:
    def __init__(self, seed: int, genre: str | None) -> None:
        self.rng = rng = Random(seed)
        self.seed = seed
        self.genre = genre or rng.choices(list(_WEIGHTS), list(_WEIGHTS.values()))[0]
        self.style = GENRES[self.genre]
        self.meter = rng.choice(self.style.meters)
        self.beats, self.quarters = QUARTERS[self.meter]
        low, high = self.style.bpm
        self.bpm = rng.uniform(low, high) / (1.0 if self.quarters == 1 else 1.25)
        self.bpm = max(self.bpm, 46.0)
        self.swing = rng.uniform(0.58, 0.68) if rng.random() < self.style.swing else 0.0
        mode = rng.choice(["major", "major", "major", "minor", "minor"])
        self.key = Key.from_pitch_class(rng.randrange(12), mode)
        self.richness = harmony.TABLE[self.style.richness if rng.random() < 0.7 else rng.choice(["plain", "pop", "rich"])]
        self.sung = self.genre not in ("hymn", "piano", "leadsheet") and rng.random() < (0.75 if self.genre == "artsong" else 0.3)
        self.raw: list[tuple[float, float, int, float, str]] = []
        top = rng.choice([(55, 72), (60, 79), (62, 81), (64, 84), (57, 74), (48, 67)]) if self.sung else rng.choice([(60, 79), (64, 84), (57, 76), (67, 88)])
        self.range = top
        self.bass_low = rng.choice([28, 31, 33, 36])
        self.density = rng.uniform(0.2, 0.8)

    def passage(self, key: Key, bars: int, *, last: bool) -> _Passage:
        rng, beats = self.rng, self.beats
        rhythm = rng.choice(self.style.rhythm)
        if self.beats in (2, 3) and rhythm == 0.5:
            rhythm = 1
        span = max(1, round(rhythm * beats))
        count = -(-bars * beats // span)
        names = harmony.walk(rng, count, key.mode, self.richness, end="close" if last else "")
        degrees: list[tuple[str, int]] = []
        for name in names:
            length = span
            if degrees and rng.random() < 0.12 and span >= 2 and degrees[-1][1] >= 2:  # push a change: uneven lengths
                shift = span // 2
                degrees[-1] = (degrees[-1][0], degrees[-1][1] + shift)
                length = span - shift
            degrees.append((name, length))
        cache: dict[tuple[str, int], Chord] = {}
        chords: list[Chord | None] = []
        again = rng.random() < 0.8  # a loop's chords keep their dress
        for i, (name, length) in enumerate(degrees):
            slot = (name, i % 4 if again else i)
            if slot not in cache:
                cache[slot] = harmony.build(rng, name, key, self.richness)
            chords += [cache[slot]] * length
        chords = chords[: bars * beats]
        while len(chords) < bars * beats:
            chords.append(chords[-1])
        if last:
            final = harmony.build(rng, "I" if key.mode == "major" else "i", key, harmony.TABLE["plain"])
            chords[-min(beats, len(chords)) :] = [Chord(final.root, final.quality)] * min(beats, len(chords))
        tune = Tune(rng, *self.range, self.density).over(chords, key, beats, self.quarters)
        return _Passage(degrees, chords, tune)

    def write(self) -> Song:
        rng = self.rng
        form = rng.choice(_FORMS)
        if self.genre in ("hymn", "artsong", "piano"):
            form = rng.choice(["AABA", "ABA", "AB", "AABB", "ABAC", "ABAB"])
        bars_of = {s: rng.choice([8, 8, 8, 4, 6]) if s not in "IO" else rng.choice([2, 4]) for s in sorted(set(form))}
        if self.meter in ("2/4", "6/8", "3/4"):
            bars_of = {s: b if s in "IO" else max(b, 8) for s, b in bars_of.items()}
        while len(form) > 2 and sum(bars_of[s] for s in form) * self.beats * 60 / self.bpm > LONGEST:
            form = form[:-1]
        plan, change = self._keys(form)
        passages: dict[tuple[str, str], _Passage] = {}
        walls: list[tuple[str, int, int, Key]] = []
        all_chords: list[Chord | None] = []
        base: dict[str, _Passage] = {}
        self._choose_band()
        for i, (name, key) in enumerate(zip(form, plan, strict=True)):
            last = i == len(form) - 1
            if (name, str(key)) not in passages:
                if name in base and base[name][1].mode == key.mode:  # type: ignore[index]
                    passages[name, str(key)] = self._moved(base[name][0], base[name][1], key)  # type: ignore[index]
                else:
                    passages[name, str(key)] = self.passage(key, bars_of[name], last=last)
                    base.setdefault(name, (passages[name, str(key)], key))  # type: ignore[arg-type]
            passage = passages[name, str(key)]
            at = len(all_chords)
            self._play(passage, at, intensity=i / len(form), melody=name not in "IO" or rng.random() < 0.3, key=key)
            all_chords += passage.chords
            walls.append((name, at, len(all_chords), key))
        return self._finish(all_chords, walls, change)

    def _keys(self, form: str) -> tuple[list[Key], str]:
        rng = self.rng
        change = rng.choices(["none", "lift", "relative", "parallel", "fifth"], [6, 2, 1.5, 1, 1])[0]
        keys = [self.key] * len(form)
        tonic, mode = self.key.tonic.pitch_class, self.key.mode
        if change == "lift":
            at = rng.randint(max(1, len(form) // 2), len(form) - 1)
            other = Key.from_pitch_class((tonic + rng.choice([1, 2, 2, 3])) % 12, mode)
            keys[at:] = [other] * (len(form) - at)
        elif change != "none":
            other = {
                "relative": Key.from_pitch_class((tonic + (9 if mode == "major" else 3)) % 12, "minor" if mode == "major" else "major"),
                "parallel": Key.from_pitch_class(tonic, "minor" if mode == "major" else "major"),
                "fifth": Key.from_pitch_class((tonic + rng.choice([5, 7])) % 12, mode),
            }[change]
            where = "C" if "C" in form else "B"
            keys = [other if s == where else self.key for s in form]
            if where == form[-1]:
                keys[-1] = self.key
        return keys, change

    def _moved(self, passage: _Passage, old: Key, new: Key) -> _Passage:
        """The same passage in another key."""
        up = (new.tonic.pitch_class - old.tonic.pitch_class + 6) % 12 - 6
        interval = (up * 7 + 5) % 12 - 5
        chords = [Chord(c.root.up(interval), c.quality, c.bass_interval).respelled(new) if c else None for c in passage.chords]
        return _Passage(passage.degrees, chords, [(t, d, m + up) for t, d, m in passage.tune])

    def _choose_band(self) -> None:
        rng, style = self.rng, self.style
        self.comp_style = rng.choice(style.comps) if style.comps else ""
        self.bass_style = rng.choice(style.basses) if style.basses else ""
        self.drum_style = rng.choice(style.drums)
        program = rng.choice(style.programs)
        self.programs = {
            "chords": program,
            "melody": rng.choice(style.leads) if style.leads else program,
            "bass": rng.choice([32, 33, 33, 34, 35, 38, 39, 36]),
            "pad": rng.choice([48, 49, 50, 52, 89, 90, 91, 16]),
        }
        self.levels = {
            "chords": rng.uniform(0.55, 0.95),
            "melody": rng.uniform(0.85, 1.15),
            "bass": rng.uniform(0.7, 1.1),
            "pad": rng.uniform(0.2, 0.55),
            "drums": rng.uniform(0.35, 1.0),
            "second": rng.uniform(0.4, 0.7),
        }
        self.pad = style.comps != () and rng.random() < 0.4
        self.second = style.comps != () and rng.random() < 0.25
        self.around = rng.choice([55, 58, 60, 62, 65])
        if self.genre in ("artsong", "leadsheet", "chamber", "waltz") and rng.random() < 0.6:
            self.programs["bass"] = program  # the piano's own left hand
        if self.genre in ("piano", "hymn"):
            self.programs = dict.fromkeys(("chords", "melody", "bass"), program)
            self.left = rng.choice(["blocks", "wide", "low and upper", "alberti", "octave", "eighths", "stride"])
            self.thick = rng.random()
        self.before: list[int] | None = None

    def _add(self, at: float, length: float, midi: int, loud: float, part: str) -> None:
        self.raw.append((at, length, midi, loud, part))

    def _play(self, passage: _Passage, at: int, *, intensity: float, melody: bool, key: Key) -> None:
        if self.genre == "hymn":
            self._play_hymn(passage, at, key)
            return
        spans = self._spans(passage.chords)
        if melody:
            for t, d, m in passage.tune:
                self._add(at + t, d * self.rng.uniform(0.86, 0.99), m, 0.85, "melody")
                if self.second and intensity > 0.3 and not self.sung:
                    chord = passage.chords[min(len(passage.chords) - 1, int(t))]
                    under = [p for p in range(m - 9, m - 2) if chord and p % 12 in chord.pitch_classes()]
                    if under:
                        self._add(at + t, d * 0.9, max(under), 0.55, "second")
        for i, (a, b, chord) in enumerate(spans):
            after = spans[i + 1][2] if i + 1 < len(spans) else None
            for start, length in self._split(a, b):
                if self.genre == "piano":
                    self._play_piano(passage, chord, at + start, length, at, melody)
                    continue
                self.before = close = band.close_voicing(chord, self.around, self.before)
                for hit in band.comp(self.rng, self.comp_style, close, at + start, length, self.quarters):
                    self._add(*hit, "chords")
                for hit in band.bass(self.rng, self.bass_style, chord, after, at + start, length, self.quarters, self.bass_low):
                    self._add(*hit, "bass")
            if self.pad and intensity > 0.25:
                for n in band.close_voicing(chord, self.around + 6):
                    self._add(at + a, (b - a) * 0.98, n, 0.5, "pad")
        quiet = intensity < 0.15 and self.rng.random() < 0.5
        for bar in range(len(passage.chords) // self.beats):
            for t, d, m, v in band.drums(self.rng, "none" if quiet else self.drum_style, self.beats, self.quarters, first=bar == 0):
                self._add(at + bar * self.beats + t, d, m, v, "drums")

    def _spans(self, chords: list[Chord | None]) -> list[tuple[int, int, Chord]]:
        out, i = [], 0
        for chord, group in groupby(chords):
            n = len(list(group))
            if chord is not None:
                out.append((i, i + n, chord))
            i += n
        return out

    def _split(self, a: int, b: int) -> list[tuple[int, int]]:
        """A chord's span cut at bar lines, where instruments begin anew."""
        cuts = [a, *[k for k in range(a + 1, b) if k % self.beats == 0], b]
        return [(x, y - x) for x, y in zip(cuts, cuts[1:], strict=False)]

    def _play_hymn(self, passage: _Passage, at: int, key: Key) -> None:
        rng = self.rng
        soprano, alto, tenor, low = 72, 65, 57, 48
        scale = [n.pitch_class for n in key.scale()]
        shift = rng.choice([0, 0, -2, 2])
        hold = 0
        for i, chord in enumerate(passage.chords):
            if chord is None:
                continue
            if hold:
                hold -= 1
                continue
            bar_end = (i // self.beats) % 4 == 3 and i % self.beats == self.beats - 2
            length = 2 if bar_end and i + 1 < len(passage.chords) and passage.chords[i + 1] == chord else 1
            hold = length - 1
            pcs = [n.pitch_class for n in chord.members()]

            def near(target: int, lo: int, hi: int, allowed: list[int]) -> int:
                options = [p for p in range(lo, hi + 1) if p % 12 in allowed]
                return min(options or [p for p in range(target - 7, target + 8) if p % 12 in allowed], key=lambda p: (abs(p - target) + rng.uniform(0, 1.2), p))

            soprano = near(soprano + rng.choice([-3, -2, 0, 0, 2, 3]), 60 + shift, 77 + shift, pcs)
            low = near(low, 40 + shift, 57 + shift, [chord.bass.pitch_class])
            missing = [pc for pc in pcs if pc not in (soprano % 12, low % 12)] or pcs
            alto = near(min(alto, soprano - 3), max(53, soprano - 13), soprano - 1, missing)
            rest = [pc for pc in pcs if pc not in (soprano % 12, low % 12, alto % 12)] or pcs
            tenor = near(min(tenor, alto - 3), max(low, alto - 13), max(low + 2, alto - 1), rest)
            for midi, part in ((soprano, "melody"), (alto, "alto"), (tenor, "tenor"), (low, "bass")):
                if length == 1 and rng.random() < 0.07 and part != "melody":
                    step = midi + rng.choice([-2, -1, 1, 2])
                    if step % 12 in scale:
                        self._add(at + i, 0.49, midi, 0.7, part)
                        self._add(at + i + 0.5, 0.47, step, 0.65, part)
                        continue
                self._add(at + i, length * 0.97, midi, 0.75 if part == "melody" else 0.66, part)

    def _play_piano(self, passage: _Passage, chord: Chord, at: float, length: int, base: int, melody: bool) -> None:
        """Left hand patterns; right hand fills chord notes under the tune."""
        rng, eighth = self.rng, 0.5 / self.quarters
        low = band.low_note(chord, 33 if self.left != "alberti" else 43)
        members = sorted({n.pitch_class for n in chord.members()})
        upper = [p for p in range(low + 5, low + 25) if p % 12 in members]
        steps = int(round(length / eighth))
        if self.left == "wide":
            order = [low, *[min(upper, key=lambda p: abs(p - low - d)) for d in (7, 12, 16)]]
            walk = order + order[-2:0:-1]
            for k in range(steps):
                self._add(
                    at + k * eighth,
                    eighth * (steps - k if rng.random() < 0.3 else 1.4),
                    walk[k % len(walk)],
                    0.6 if k % 2 == 0 else 0.5,
                    "bass" if k % len(walk) == 0 else "left",
                )
        elif self.left == "alberti":
            close = band.close_voicing(chord, low + 8)
            order = [close[0], close[-1], close[len(close) // 2], close[-1]]
            for k in range(steps):
                self._add(at + k * eighth, eighth * 1.1, order[k % 4], 0.55, "bass" if k % 4 == 0 else "left")
        elif self.left in ("low and upper", "stride"):
            close = band.close_voicing(chord, 55)
            for k in range(length):
                if k % (2 if self.left == "stride" else length) == 0:
                    self._add(at + k, 0.9 if self.left == "stride" else length * 0.95, low, 0.66, "bass")
                else:
                    for n in close:
                        self._add(at + k, 0.85, n, 0.5, "left")
        elif self.left == "octave":
            self._add(at, length * 0.95, low, 0.68, "bass")
            self._add(at, length * 0.95, low + 12, 0.6, "left")
        elif self.left == "eighths":
            close = band.close_voicing(chord, 52)
            self._add(at, length * 0.95, low, 0.66, "bass")
            for k in range(1, steps):
                for n in close:
                    self._add(at + k * eighth, eighth * 0.9, n, 0.42, "left")
        else:
            self._add(at, length * 0.95, low, 0.68, "bass")
            for n in band.close_voicing(chord, 54):
                if n > low:
                    self._add(at, length * 0.95, n, 0.52, "left")
        under_top = min((m for t, d, m in passage.tune if at - base <= t < at - base + length), default=79) if melody else 80
        fill = [p for p in range(under_top - 12, under_top) if p % 12 in members and p > low + 9]
        if self.thick > 0.35 and fill:
            chosen = rng.sample(fill, min(len(fill), 1 if self.thick < 0.6 else 2 if self.thick < 0.85 else 3))
            for n in chosen:
                self._add(at, min(length, 2) * 0.95, n, 0.5, "right")

    def _finish(self, chords: list[Chord | None], walls: list[tuple[str, int, int, Key]], change: str) -> Song:
        rng = self.rng
        total = len(chords)
        times = self._clock(total)

        def seconds(beat: float) -> float:
            whole = int(np.floor(beat))
            part = beat - whole
            if self.swing and self.quarters == 1:
                part = part / 0.5 * self.swing if part < 0.5 else self.swing + (part - 0.5) / 0.5 * (1 - self.swing)
            return float(np.interp(whole + part, np.arange(len(times)), times))

        loose = rng.choice([0.002, 0.006, 0.01, 0.015])
        notes = []
        for at, length, midi, loud, part in self.raw:
            start = max(0.02, seconds(at) + rng.gauss(0, loose / 1.5) * (0.5 if part == "drums" else 1))
            end = max(start + 0.06, seconds(at + length))
            notes.append(Note(start, end, midi, max(0.1, min(1.0, loud + rng.uniform(-0.1, 0.1))), part))
        notes = _without_overlaps(notes)
        if self.genre == "piano":
            _mark_lines(notes)
        key_rows: list[dict[str, Any]] = []
        for _, a, b, key in walls:
            if key_rows and (key_rows[-1]["tonic"], key_rows[-1]["mode"]) == (str(key.tonic), key.mode):
                key_rows[-1]["end"] = round(times[b], 4)
            else:
                key_rows.append({"start": round(times[a], 4), "end": round(times[b], 4), "tonic": str(key.tonic), "mode": key.mode})
        rows = [{"start": 0.0, "end": round(times[0], 4), "label": "N"}]
        i = 0
        for chord, group in groupby(chords):
            n = len(list(group))
            rows.append({"start": round(times[i], 4), "end": round(times[i + n], 4), "label": chord.to_harte() if chord else "N"})
            i += n
        first: dict[str, int] = {}
        sections = []
        for j, (name, a, b, _) in enumerate(walls):
            sections.append({"start": round(times[a], 4), "end": round(times[b], 4), "label": name, "same_as": first.get(name)})
            first.setdefault(name, j)
        gaps = np.diff(times[: total + 1])
        return Song(
            name=f"Study {self.seed}",
            genre=self.genre,
            seed=self.seed,
            meter=self.meter,
            bpm=60 / float(np.median(gaps)),
            beats=times[:total].tolist(),
            downbeats=times[0 : total : self.beats].tolist(),
            end=float(times[total]),
            keys=key_rows,
            chords=rows,
            sections=sections,
            notes=notes,
            programs=self.programs,
            levels=self.levels,
            sung=self.sung,
            swing=round(self.swing, 3),
            details={"key_change": change},
        )

    def _clock(self, total: int) -> np.ndarray:
        """Seconds of every beat: slow drift, rubato by phrases, a held end."""
        rng = self.rng
        beat = 60 / self.bpm
        drift = 0.0
        rubato = self.style.rubato * rng.random()
        period = 4 * self.beats
        out = [rng.uniform(0.1, 1.2)]
        slow_end = rng.random() < 0.5
        for i in range(total + 2):
            drift = max(-0.05, min(0.05, 0.92 * drift + rng.gauss(0, self.style.drift * 0.5)))
            length = beat * (1 + drift)
            phase = (i % period) / period
            length *= 1 + rubato * (0.12 * (2 * abs(phase - 0.5)) ** 2 - 0.04)
            if self.genre == "hymn" and rubato > 0.05 and i % period >= period - 1:
                length *= 1.25
            if slow_end and i >= total - self.beats:
                length *= 1 + 0.12 * (i - total + self.beats + 1) / self.beats
            out.append(out[-1] + length)
        return np.array(out)


def _without_overlaps(notes: list[Note]) -> list[Note]:
    """No two soundings of one key at once in the same part family: the later cuts the earlier."""
    out: list[Note] = []
    last: dict[tuple[str, int], Note] = {}
    for note in sorted(notes, key=lambda n: n.start):
        before = last.get((note.part, note.midi))
        if before is not None and before.end > note.start - 0.01:
            if note.start - before.start < 0.03:
                continue
            before.end = max(before.start + 0.03, note.start - 0.01)
        last[note.part, note.midi] = note
        out.append(note)
    return out


def _mark_lines(notes: list[Note]) -> None:
    """On one instrument the same key in two parts sounds once; keep the tune's note."""
    rank = {"melody": 0, "bass": 1, "left": 2, "right": 3}
    notes.sort(key=lambda n: (round(n.start, 2), rank.get(n.part, 4)))
    held: dict[int, Note] = {}
    kept = []
    for note in notes:
        before = held.get(note.midi)
        if before is not None and note.start - before.start < 0.04:
            continue
        if before is not None and before.end > note.start - 0.01:
            before.end = note.start - 0.01
        held[note.midi] = note
        kept.append(note)
    notes[:] = [n for n in kept if n.end > n.start + 0.02]


def compose(seed: int, genre: str | None = None) -> Song:
    """A song from a seed."""
    return _Writer(seed, genre).write()
