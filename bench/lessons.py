"""Lessons of made-up songs: how long they are, and whether a learner who does what the words say plays what is written.

    .venv/bin/python bench/lessons.py [--songs N]

Songs are drawn from seeds: repeats note for note, at another pitch, with another ending or another tune, pickups, two chords a bar, metres, rhythms
from halves to sixteenths and triplets, links, every style, level and pattern.
"""

from __future__ import annotations

import argparse
import random
from collections import Counter
from itertools import product

from valley.arranging.pattern_library import PATTERNS
from valley.arranging.styles import LEVELS, STYLES
from valley.charting.parts import relate_parts
from valley.errors import ValleyError
from valley.fraction import Fraction
from valley.lesson.script import build_lesson
from valley.lesson.student import compare_hands, read_lesson
from valley.model.chart import Chart, ChartChord, Grid, KeyArea, MelodyNote, Part
from valley.model.choices import Choices
from valley.model.lesson import Teaching
from valley.model.schools import Schools, read_schools
from valley.phrases import say_lesson
from valley.song import SongState, Work
from valley.theory._chord_table import Quality
from valley.theory.chord import Chord, parse_symbol
from valley.theory.key import Key

SCHOOLS = (
    "",
    "length=short",
    "length=thorough",
    "hands=chord-by-chord",
    "order=pattern-first",
    "octaves=words",
    "naming=german",
    "naming=syllables, flats=spoken",
    "alignment=anchors",
    "octaves=c3, inversions=words, spelling=simple, flats=spoken",
    "language=de, naming=german",
    "language=fr, naming=syllables",
    "language=es, naming=syllables, flats=spoken, inversions=words",
    "language=de, naming=german, octaves=words, hands=chord-by-chord",
    "language=fr, naming=syllables, octaves=words, flats=spoken, length=thorough",
    "language=es, naming=letters, octaves=words, order=pattern-first",
    "order=pattern-last, length=thorough",
    "order=plain-first",
    "order=plain-first, language=de, hands=chord-by-chord, alignment=anchors",
    "order=pattern-last, language=fr, length=short",
    "order=plain-first, language=es",
)
_DEGREES = ((0, ""), (2, "m"), (4, "m"), (5, ""), (7, ""), (9, "m"), (5, "maj7"), (7, "7"), (2, "m7"), (9, "m7"), (0, "add9"), (7, "sus4"), (4, "7"))
_RHYTHMS = {
    "4/4": ((2, 2), (1, 1, 1, 1), (1.5, 0.5, 1, 1), (0.5,) * 8, (4,), (1, 0.5, 0.5, 2), (0.25, 0.25, 0.5, 1, 2), (3, 1)),
    "3/4": ((3,), (1, 1, 1), (2, 1), (1.5, 0.5, 1), (0.5,) * 6),
    "2/4": ((2,), (1, 1), (0.5, 0.5, 1), (0.5,) * 4),
    "6/8": ((2,), (1, 1), ("2/3", "1/3", "2/3", "1/3"), ("1/3",) * 6),
}


def make_song(seed: int) -> Chart:
    """A song of two to eight parts with the repeats that songs have."""
    rng = random.Random(seed)
    meter = rng.choice(("4/4", "4/4", "4/4", "3/4", "6/8", "2/4"))
    beats = 2 if meter in ("6/8", "2/4") else int(meter[0])
    tonic = rng.randrange(12)
    key = Key.from_pitch_class(tonic, rng.choice(("major", "minor")))
    sections = [_section(rng, meter, beats, key, rng.choice((2, 4, 4, 8))) for _ in range(rng.randint(1, 4))]
    route = [0]
    while len(route) < rng.randint(2, 8):
        route.append(rng.randrange(len(sections)) if rng.random() < 0.6 else min(max(route) + 1, len(sections) - 1))
    pickup = rng.choice((0, 0, 1)) if beats > 1 else 0
    chords = [ChartChord(Fraction(0), Fraction(pickup), None)] if pickup else []
    tune, parts, at, bar = [], [], Fraction(pickup), 1
    if pickup:
        tune.append(MelodyNote(Fraction(0), Fraction(pickup), 64))
    seen: dict[int, int] = {}
    for number, section in enumerate(route, 1):
        rows, notes = sections[section]
        moved = rng.choice((0, 0, 0, 0, 1, 2)) if section in seen else 0
        rows, notes = [*rows], [*notes]
        if section in seen and rng.random() < 0.3:
            rows[-1] = (key.spell((tonic + 7) % 12), "", rows[-1][2])
        if section in seen and notes and rng.random() < 0.3:
            start, length, midi = notes[-1]
            notes[-1] = (start, length, midi + 2)
        length = sum((r[2] for r in rows), Fraction(0))
        now = at
        for root, quality, beats_of in rows:
            chord = Chord(key.spell((root.pitch_class + moved) % 12), _quality(quality))
            chords.append(ChartChord(now, beats_of, chord.respelled(key)))
            now += beats_of
        tune += [MelodyNote(at + start, long, midi + moved) for start, long, midi in notes]
        parts.append(Part(number, bar, int(length / beats), same_as=seen.get(section)))
        seen.setdefault(section, number)
        bar, at = bar + int(length / beats), at + length
    grid = Grid(tuple(round(0.5 * i, 3) for i in range(int(at))), meter, pickup)
    chart = Chart(f"Song {seed}", grid, (KeyArea(Fraction(0), str(key.tonic), key.mode),), tuple(chords), tuple(tune), (), 0.0, 120.0)
    return relate_parts(chart, parts)


def _quality(suffix: str) -> Quality:
    chord = parse_symbol(f"C{suffix}")
    if chord is None:
        raise ValueError(suffix)
    return chord.quality


def _section(rng: random.Random, meter: str, beats: int, key: Key, bars: int) -> tuple[list, list]:  # type: ignore[type-arg]  # rows of a draft
    rows, notes = [], []
    tonic = key.tonic.pitch_class
    for bar in range(bars):
        halves = beats % 2 == 0 and rng.random() < 0.25
        for _ in range(2 if halves else 1):
            degree, quality = rng.choice(_DEGREES)
            rows.append((key.spell((tonic + degree) % 12), quality, Fraction(beats, 2 if halves else 1)))
        if rng.random() < 0.85:
            now, midi = Fraction(bar * beats), rng.randint(62, 76)
            for long in rng.choice(_RHYTHMS[meter]):
                midi = min(81, max(60, midi + rng.choice((-3, -2, -1, 0, 1, 2, 3))))
                if rng.random() < 0.9:
                    notes.append((now, Fraction(long), midi))
                now += Fraction(long)
    if rng.random() < 0.5 and bars >= 4:
        half = len(rows) // 2
        rows = rows[:half] * 2 if sum(r[2] for r in rows[:half]) * 2 == bars * beats else rows
    return rows, notes


def hold_against(work: Work) -> tuple[int, int, tuple[str, ...]]:
    """Bars of both hands that a learner plays otherwise than written, of how many, and what was not understood."""
    chart, schools = work.chart, work.song.teaching.schools
    lesson = build_lesson(chart, work.arrangement, schools=schools)  # without the versions for other hands, which teach no notes
    heard = read_lesson(say_lesson(lesson), chart.grid, schools)
    differ = compare_hands(heard, work.arrangement, chart.grid, [p.number for p in chart.parts])
    return len(differ), 2 * chart.grid.bars, heard.doubts


def work_of(chart: Chart, style: str, level: str, pattern: str, schools: Schools, *, links: bool) -> Work:
    return Work(SongState(chart, Choices(style=style, level=level, pattern=pattern, links="all" if links else "chosen"), Teaching(schools)))


def main() -> None:
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("--songs", type=int, default=2, help="songs for each style, pattern and school")
    asked = parser.parse_args()
    wrong, bars, refused, lessons, by_school = 0, 0, 0, 0, Counter[str]()
    seed = 0
    for style, pattern, school in product(sorted(STYLES), sorted(PATTERNS), SCHOOLS):
        for _ in range(asked.songs):
            seed += 1
            chart = make_song(seed)
            work = work_of(chart, style, LEVELS[seed % 3], pattern, read_schools(school), links=seed % 4 == 0)
            try:
                bad, all_of_them, doubts = hold_against(work)
            except ValleyError:
                refused += 1
                continue
            lessons, wrong, bars = lessons + 1, wrong + bad, bars + all_of_them
            if bad or doubts:
                by_school[school] += 1
                print(f"seed {seed} {style} {pattern} {school!r}: {bad} bars otherwise; {doubts[:2]}")
    print(f"{lessons} lessons, {refused} refused: {wrong} of {bars} bars of a hand played otherwise than written; by school {dict(by_school)}")


if __name__ == "__main__":
    main()
