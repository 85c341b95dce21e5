"""One made-up song: form, harmony, tune, parts and their times, with the truth a listener should find.

Everything is drawn from one seed. Genres differ in metre, tempo, harmonic rhythm, richness, instruments and feel.
"""

from __future__ import annotations

from dataclasses import dataclass
from itertools import groupby
from random import Random

import numpy as np

from composer import band, harmony
from composer.genres import GENRES, GROUPS, QUARTERS, WEIGHTS
from composer.melody import Tune
from composer.players import play_hymn, play_piano
from composer.song import Note, Song
from composer.times import chord_rows, clock, key_rows, mark_lines, section_rows, without_overlaps
from valley.theory.chord import Chord
from valley.theory.key import Key

LONGEST = 100  # seconds, about
_FORMS = ("ABABCB", "IAABACBO", "AABA", "ABCABC", "IABABO", "AABBAB", "ABAB", "IAABCBB", "ABACA", "AABAB", "IABABCBB", "AAB")


@dataclass
class _Passage:
    degrees: list[tuple[str, int]]  # degree and its beats
    chords: list[Chord | None]  # one a beat
    tune: list[tuple[float, float, int]]


class _Writer:
    def __init__(self, seed: int, genre: str | None) -> None:
        self.rng = rng = Random(seed)
        self.seed = seed
        self.genre = genre or rng.choices(list(WEIGHTS), list(WEIGHTS.values()))[0]
        self.style = GENRES[self.genre]
        self.meter = rng.choice(self.style.meters)
        self.beats, self.quarters = QUARTERS[self.meter]
        low, high = self.style.bpm
        self.bpm = rng.uniform(low, high) / (1.25 if self.quarters == 1.5 else 1.0)
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
        self.groups: tuple[int, ...] = rng.choice(GROUPS[self.meter]) if self.meter in GROUPS else ()

    def passage(self, key: Key, bars: int, *, last: bool) -> _Passage:
        rng, beats = self.rng, self.beats
        rhythm = rng.choice(self.style.rhythm)
        if self.beats != 4 and rhythm == 0.5:
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
        tune = Tune(rng, *self.range, self.density).over(chords, key, beats, self.quarters, self.groups)
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
        base: dict[str, tuple[_Passage, Key]] = {}
        self._choose_band()
        for i, (name, key) in enumerate(zip(form, plan, strict=True)):
            last = i == len(form) - 1
            if (name, str(key)) not in passages:
                if name in base and base[name][1].mode == key.mode:
                    passages[name, str(key)] = self._moved(base[name][0], base[name][1], key)
                else:
                    passages[name, str(key)] = self.passage(key, bars_of[name], last=last)
                    base.setdefault(name, (passages[name, str(key)], key))
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
            for hit in play_hymn(self.rng, passage.chords, self.beats, key):
                self._add(at + hit[0], *hit[1:])
            return
        if melody:
            self._sing(passage, at, second=self.second and intensity > 0.3 and not self.sung)
        spans = self._spans(passage.chords)
        for i, (a, b, chord) in enumerate(spans):
            after = spans[i + 1][2] if i + 1 < len(spans) else None
            for start, length in self._split(a, b):
                self._accompany(passage, chord, after, at, start, length, melody=melody)
            if self.pad and intensity > 0.25:
                for n in band.close_voicing(chord, self.around + 6):
                    self._add(at + a, (b - a) * 0.98, n, 0.5, "pad")
        quiet = intensity < 0.15 and self.rng.random() < 0.5
        for bar in range(len(passage.chords) // self.beats):
            for t, d, m, v in band.drums(self.rng, "none" if quiet else self.drum_style, self.beats, self.quarters, first=bar == 0, groups=self.groups):
                self._add(at + bar * self.beats + t, d, m, v, "drums")

    def _sing(self, passage: _Passage, at: int, *, second: bool) -> None:
        """The tune, and another voice under it. Half of the passages leave bars to the band alone."""
        bars = len(passage.chords) // self.beats
        silent = {b for b in range(bars) if self.rng.random() < 0.2} if self.rng.random() < 0.5 else set()
        for t, d, m in passage.tune:
            if int(t) // self.beats in silent:
                continue
            self._add(at + t, d * self.rng.uniform(0.86, 0.99), m, 0.85, "melody")
            chord = passage.chords[min(len(passage.chords) - 1, int(t))]
            under = [p for p in range(m - 9, m - 2) if chord and p % 12 in chord.pitch_classes()] if second else []
            if under:
                self._add(at + t, d * 0.9, max(under), 0.55, "second")

    def _accompany(self, passage: _Passage, chord: Chord, after: Chord | None, at: int, start: int, length: int, *, melody: bool) -> None:
        """One bar's share of one chord."""
        if self.genre == "piano":
            under = min((m for t, d, m in passage.tune if start <= t < start + length), default=79) if melody else 80
            for hit in play_piano(self.rng, self.left, self.thick, chord, at + start, length, self.quarters, under):
                self._add(*hit)
            return
        self.before = close = band.close_voicing(chord, self.around, self.before)
        for struck in band.comp(self.rng, self.comp_style, close, at + start, length, self.quarters):
            self._add(*struck, "chords")
        for struck in band.bass(self.rng, self.bass_style, chord, after, at + start, length, self.quarters, self.bass_low):
            self._add(*struck, "bass")

    def _spans(self, chords: list[Chord | None]) -> list[tuple[int, int, Chord]]:
        out, i = [], 0
        for chord, group in groupby(chords):
            n = len(list(group))
            if chord is not None:
                out.append((i, i + n, chord))
            i += n
        return out

    def _split(self, a: int, b: int) -> list[tuple[int, int]]:
        """A chord's span cut at bar lines, where instruments begin anew, and in odd eighths at each group."""
        starts = {sum(self.groups[:k]) for k in range(len(self.groups))} or {0}
        cuts = [a, *[k for k in range(a + 1, b) if k % self.beats in starts], b]
        return [(x, y - x) for x, y in zip(cuts, cuts[1:], strict=False)]

    def _finish(self, chords: list[Chord | None], walls: list[tuple[str, int, int, Key]], change: str) -> Song:
        rng = self.rng
        total = len(chords)
        times = clock(rng, self.style, self.genre, self.bpm, self.beats, total)

        def seconds(beat: float) -> float:
            whole = int(np.floor(beat))
            part = beat - whole
            if self.swing and self.quarters == 1:
                part = part / 0.5 * self.swing if part < 0.5 else self.swing + (part - 0.5) / 0.5 * (1 - self.swing)
            return float(np.interp(whole + part, np.arange(len(times)), times))

        loose = rng.choice([0.002, 0.006, 0.01, 0.015])
        # A pianist's or an organist's phrases swell; a band's level is its own.
        swell = [rng.uniform(0.55, 1.15) if self.genre in ("piano", "artsong", "slow") else 1.0 for _ in range(total // 8 + 2)]
        notes = []
        for at, length, midi, loud, part in self.raw:
            start = max(0.02, seconds(at) + rng.gauss(0, loose / 1.5) * (0.5 if part == "drums" else 1))
            end = max(start + 0.06, seconds(at + length))
            force = (loud + rng.uniform(-0.1, 0.1)) * float(np.interp(at / 8, np.arange(len(swell)), swell))
            notes.append(Note(start, end, midi, max(0.1, min(1.0, force)), part))
        notes = without_overlaps(notes)
        if self.genre == "piano":
            mark_lines(notes)
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
            keys=key_rows(walls, times),
            chords=chord_rows(chords, times),
            sections=section_rows(walls, times),
            notes=notes,
            programs=self.programs,
            levels=self.levels,
            sung=self.sung,
            swing=round(self.swing, 3),
            details={"key_change": change},
        )


def compose(seed: int, genre: str | None = None) -> Song:
    """A song from a seed."""
    return _Writer(seed, genre).write()
