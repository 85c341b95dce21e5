"""Charts for the tests: fixed ones written by hand, and random ones by the thousand."""

from __future__ import annotations

from collections.abc import Sequence

from tests.dice import Dice, thrown
from valley.charting.parts import relate_parts
from valley.checking import Finding, check_song
from valley.edits import Edit, apply_edit
from valley.fraction import Fraction
from valley.model.chart import Chart, ChartChord, Grid, KeyArea, MelodyNote, Part
from valley.model.choices import Choices
from valley.model.hearing import Hearing
from valley.model.lesson import Lesson, Settings, Step, StepEdit, Teaching
from valley.model.schools import Schools
from valley.phrases import Words
from valley.song import SongState, Work
from valley.theory._chord_table import QUALITIES
from valley.theory.chord import Chord, parse_symbol
from valley.theory.key import Key
from valley.theory.meter import SUPPORTED, Meter
from valley.theory.pitch import PitchName

C_MAJOR = Chord(PitchName(0), QUALITIES[0])


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
    beats = Meter(meter).beats
    chords: list[ChartChord] = []
    if pickup:
        chords.append(ChartChord(Fraction(0), Fraction(pickup), None))
    for i, bar in enumerate(bars):
        symbols = bar.split()
        for k, symbol in enumerate(symbols):
            chord = parse_symbol(symbol)
            length = Fraction(beats, len(symbols))
            chords.append(ChartChord(pickup + i * beats + k * length, length, chord))
    grid = Grid(tuple(round(0.25 + i * 60 / bpm, 4) for i in range(pickup + beats * len(bars))), meter, pickup)
    chart = Chart("Test", grid, (KeyArea(Fraction(0), *key),), tuple(chords), tuple(MelodyNote(Fraction(a), Fraction(b), m) for a, b, m in tune), (), 0.0, bpm)
    listed = parts or [(1, len(bars), None)]
    return relate_parts(chart, [Part(n, start, count, same_as=same) for n, (start, count, same) in enumerate(listed, 1)])


def throw_chord(dice: Dice) -> Chord:
    key = Key.from_pitch_class(dice.between(0, 11), "major")
    quality = dice.one_of(QUALITIES)
    return Chord(key.spell(dice.between(0, 11)), quality, dice.one_of((0, *quality.members)))


def throw_chart(dice: Dice) -> Chart:
    """One to six bars in any key and metre, with any chords and a tune that lies in a singable range."""
    meter = dice.one_of(SUPPORTED)
    beats = Meter(meter).beats
    key = Key.from_pitch_class(dice.between(0, 11), dice.one_of(("major", "minor")))
    count = dice.between(1, 6)
    chords = [ChartChord(Fraction(i * beats), Fraction(beats), throw_chord(dice).respelled(key)) for i in range(count)]
    step = Fraction(1, 3) if Meter(meter).division == 3 else Fraction(1, 2)
    tune: list[MelodyNote] = []
    at = Fraction(0)
    rests = dice.one_of((0, 5, 5, 2))  # no tune; one rest in five; one in two
    while at < count * beats and rests:
        length = step * dice.between(1, 4)
        if dice.between(1, rests) > 1:
            tune.append(MelodyNote(at, min(length, count * beats - at), dice.between(57, 84)))
        at += length
    grid = Grid(tuple(0.5 * i for i in range(max(2, count * beats))), meter)
    chart = Chart("Random", grid, (KeyArea(Fraction(0), str(key.tonic), key.mode),), tuple(chords), tuple(tune), (), 0.0, 120.0)
    return relate_parts(chart, [Part(1, 1, count)])


random_chords = thrown(throw_chord)
random_charts = thrown(throw_chart)


def make_work(
    chart: Chart,
    choices: Choices | None = None,
    *,
    schools: Schools | None = None,
    order: Sequence[int] = (),
    edits: Sequence[StepEdit] = (),
    hearing: Hearing | None = None,
) -> Work:
    """A song of which so much was chosen."""
    teaching = Teaching(schools or Schools(), tuple(edits))
    return Work(SongState(chart, choices or Choices(), teaching, Settings(tuple(order))), hearing)


def findings_of(chart: Chart, choices: Choices | None = None, *, order: Sequence[int] = (), edits: Sequence[StepEdit] = ()) -> tuple[Finding, ...]:
    return check_song(make_work(chart, choices, order=order, edits=edits))


def correct(chart: Chart, edit: Edit, spread: Sequence[int] = ()) -> tuple[Chart, str]:
    """The chart after an edit, and what it did in words."""
    song, said = apply_edit(SongState(chart), edit, spread)
    return song.chart, said


def choose(chart: Chart, choices: Choices, edit: Edit, *, played: Sequence[MelodyNote] = ()) -> tuple[Choices, str]:
    """The choices after an edit of the hands, and what it did in words."""
    song, said = apply_edit(SongState(chart, choices), edit, played=played)
    return song.choices, said


def spoken(step: Step, schools: Schools | None = None) -> tuple[str, ...]:
    """The lines of a step in words."""
    return Words(schools).lines(step)


def all_words(lesson: Lesson) -> str:
    """Every line of a lesson in words."""
    return "\n".join(text for step in lesson.steps for text in spoken(step, lesson.schools))
