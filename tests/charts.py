"""Charts for the tests: fixed ones written by hand, and random ones by the thousand."""

from __future__ import annotations

from collections.abc import Sequence
from fractions import Fraction

from hypothesis import strategies as st

from valley.charting.parts import relate_parts
from valley.model.chart import Chart, ChartChord, Grid, KeyArea, MelodyNote, Part
from valley.theory._chord_table import QUALITIES
from valley.theory.chord import Chord, parse_symbol
from valley.theory.key import Key
from valley.theory.metre import Metre


def chart_of(
    bars: Sequence[str],
    *,
    key: tuple[str, str] = ("C", "major"),
    meter: str = "4/4",
    tune: Sequence[tuple[Fraction | int, Fraction | int, int]] = (),
    parts: Sequence[tuple[int, int, int | None]] = (),
    bpm: float = 120.0,
    pickup: int = 0,
) -> Chart:
    """Bars of chord symbols separated by blanks, sharing the bar equally; parts as (start bar, bars, same as)."""
    beats = Metre(meter).beats
    chords: list[ChartChord] = []
    if pickup:
        chords.append(ChartChord(Fraction(0), Fraction(pickup), "N"))
    for i, bar in enumerate(bars):
        symbols = bar.split()
        for k, symbol in enumerate(symbols):
            chord = parse_symbol(symbol)
            length = Fraction(beats, len(symbols))
            chords.append(ChartChord(pickup + i * beats + k * length, length, chord.to_harte() if chord else "N"))
    grid = Grid(tuple(round(0.25 + i * 60 / bpm, 4) for i in range(pickup + beats * len(bars))), meter, pickup)
    chart = Chart("Test", grid, (KeyArea(Fraction(0), *key),), tuple(chords), tuple(MelodyNote(Fraction(a), Fraction(b), m) for a, b, m in tune), (), 0.0, bpm)
    listed = parts or [(1, len(bars), None)]
    return relate_parts(chart, [Part(n, start, count, same_as=same) for n, (start, count, same) in enumerate(listed, 1)])


@st.composite
def random_chords(draw: st.DrawFn) -> Chord:
    key = Key.from_pitch_class(draw(st.integers(0, 11)), "major")
    quality = draw(st.sampled_from(QUALITIES))
    bass = draw(st.sampled_from((0, *quality.members)))
    return Chord(key.spell(draw(st.integers(0, 11))), quality, bass)


@st.composite
def random_charts(draw: st.DrawFn) -> Chart:
    """One to six bars in any key and metre, with any chords and a tune that lies in a singable range."""
    meter = draw(st.sampled_from(("2/4", "3/4", "4/4", "6/8")))
    beats = Metre(meter).beats
    key = Key.from_pitch_class(draw(st.integers(0, 11)), draw(st.sampled_from(("major", "minor"))))
    count = draw(st.integers(1, 6))
    chords = [ChartChord(Fraction(i * beats), Fraction(beats), draw(random_chords()).respelled(key).to_harte()) for i in range(count)]
    step = Fraction(1, 3) if meter == "6/8" else Fraction(1, 2)
    tune: list[MelodyNote] = []
    at = Fraction(0)
    while at < count * beats and draw(st.booleans()):
        length = step * draw(st.integers(1, 4))
        if draw(st.integers(0, 4)):
            tune.append(MelodyNote(at, min(length, count * beats - at), draw(st.integers(57, 84))))
        at += length
    grid = Grid(tuple(0.5 * i for i in range(max(2, count * beats))), meter)
    chart = Chart("Random", grid, (KeyArea(Fraction(0), str(key.tonic), key.mode),), tuple(chords), tuple(tune), (), 0.0, 120.0)
    return relate_parts(chart, [Part(1, 1, count)])
