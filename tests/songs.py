"""Random songs: any chart in one to three parts, with settings, grips, words and plans of the creator's own."""

from __future__ import annotations

from dataclasses import replace

from tests.charts import throw_chart
from tests.dice import Dice, thrown
from valley.arranging.pattern_library import PATTERNS
from valley.arranging.styles import LEVELS, STYLES
from valley.charting.parts import relate_parts
from valley.fraction import Fraction
from valley.model.chart import Chart, Cue, KeyArea, Part
from valley.model.choices import Choices, ChordPattern, ChosenNote, GripChoice, LinkChoice, PartChoice
from valley.model.lesson import Settings, StepEdit, Teaching
from valley.model.passage import Passage, WrittenNote
from valley.model.schools import Schools, school_options
from valley.song import SongState

_STYLES, _PATTERNS = sorted(STYLES), sorted(PATTERNS)


def throw_chart_in_parts(dice: Dice) -> Chart:
    """A random chart cut into parts, later ones maybe repeats of the first; with cue words and a change of key."""
    chart = throw_chart(dice)
    edges = [1, *sorted(dice.some_of(range(2, chart.grid.bars + 1), 2)), chart.grid.bars + 1]
    parts = [
        Part(i + 1, a, b - a, dice.one_of(("", "verse", "lift")), same_as=1 if i and dice.coin() else None)
        for i, (a, b) in enumerate(zip(edges, edges[1:], strict=False))
    ]
    cues = tuple(Cue(Fraction(b), "turn") for b in sorted(dice.some_of(range(len(chart.grid.beats)), 2)))
    keys = chart.keys
    if dice.coin():
        keys = (*keys, KeyArea(Fraction(len(chart.grid.beats) // 2), *dice.one_of([("Db", "major"), ("E", "minor")])))
    return relate_parts(replace(chart, cues=cues, keys=keys), parts)


def throw_notes(dice: Dice, duration: Fraction) -> tuple[WrittenNote, ...]:
    """What a creator might write for a hand in so many beats: keys on eighths and triplets, held, starred, fingered, grace notes."""
    rows = {}
    places = [Fraction(k, d) for d in (2, 3) for k in range(int(duration * d))]
    for _ in range(dice.between(0, 6)):
        start = dice.one_of(places)
        lasting = min(dice.one_of([Fraction(1, 3), Fraction(1, 2), Fraction(1), Fraction(4)]), duration - start)
        midi, voice = dice.between(36, 84), dice.one_of((1, 1, 2))
        flags = dice.some_of(("optional", "accent", "grace", "rings"), 2)
        rows[start, voice, midi] = WrittenNote(start, lasting, midi, finger=dice.maybe(range(1, 6)), voice=voice, **dict.fromkeys(flags, True))
    return tuple(rows[k] for k in sorted(rows))


def throw_passages(dice: Dice, beats: int) -> tuple[Passage, ...]:
    passages = []
    for hand in ("left", "right"):
        if dice.between(0, 2):
            continue
        first = dice.between(0, beats - 1)
        lasting = Fraction(dice.between(1, min(8, beats - first)))
        times = dice.one_of([(), None, (1, 2)])
        passages.append(Passage(hand, Fraction(first), lasting, throw_notes(dice, lasting), times, level=dice.one_of(LEVELS)))
    return tuple(sorted(passages, key=lambda p: (p.start, p.hand)))


def throw_choices(dice: Dice, chart: Chart) -> Choices:
    grips = []
    for place in chart.chords:
        if place.chord and dice.between(0, 3) == 0:
            low = dice.between(36, 47)
            grips.append(GripChoice(place.start, place.chord, (ChosenNote(low, finger=5),), (ChosenNote(60), ChosenNote(64, True)), "mine"))
    own = [
        PartChoice(p.number, dice.maybe(_STYLES), dice.maybe(LEVELS), lead_in=dice.coin(), ending=dice.one_of(("", "octaves", "rolled")))
        for p in chart.parts
        if dice.coin()
    ]
    first = chart.chords[0].start
    return Choices(
        style=dice.one_of(_STYLES),
        level=dice.one_of(LEVELS),
        pattern=dice.one_of(_PATTERNS),
        pedal=dice.coin(),
        parts=tuple(own),
        grips=tuple(grips),
        taken_links=(LinkChoice(first, "walk", "easier"),) if dice.coin() else (),
        passages=throw_passages(dice, len(chart.grid.beats)),
        chord_patterns=(ChordPattern(first, dice.one_of(_PATTERNS)),) if dice.coin() else (),
    )


def throw_song(dice: Dice) -> SongState:
    chart = throw_chart_in_parts(dice)
    order = tuple(dice.shuffled([p.number for p in chart.parts])) if dice.coin() else ()
    schools = Schools(**{m: dice.one_of(options) for m, options in school_options().items()})
    edits = (StepEdit("part-1/both", lines=("Slowly.",), over=("x",)), StepEdit("own-1", "Sit well", ("Sit.",), after="", added=True))
    teaching = Teaching(schools, edits if dice.coin() else ())
    return SongState(chart, throw_choices(dice, chart), teaching, Settings(order, dice.one_of((0.0, 5.0, 12.5))))


charts_in_parts = thrown(throw_chart_in_parts)
written_notes = thrown(throw_notes)
random_passages = thrown(throw_passages)
random_songs = thrown(throw_song)
