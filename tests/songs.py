"""Random songs: any chart in one to three parts, with settings, grips, words and plans of the creator's own."""

from __future__ import annotations

from dataclasses import replace
from fractions import Fraction

from hypothesis import strategies as st

from tests.charts import random_charts
from valley.arranging.pattern_library import PATTERNS
from valley.arranging.styles import LEVELS, STYLES
from valley.charting.parts import relate_parts
from valley.model.chart import Chart, Cue, KeyArea, Part
from valley.model.choices import Choices, ChordPattern, ChosenNote, GripChoice, LinkChoice, PartChoice
from valley.model.lesson import Settings, StepEdit, Teaching
from valley.model.passage import Passage, WrittenNote
from valley.model.schools import Schools, school_options
from valley.song import SongState


@st.composite
def charts_in_parts(draw: st.DrawFn) -> Chart:
    """A random chart cut into parts, later ones maybe repeats of the first; with cue words and a change of key."""
    chart = draw(random_charts())
    cuts = sorted(draw(st.sets(st.integers(2, max(2, chart.grid.bars)), max_size=2)) & set(range(2, chart.grid.bars + 1)))
    edges = [1, *cuts, chart.grid.bars + 1]
    names = st.sampled_from(["", "verse", "lift"])
    parts = [
        Part(i + 1, a, b - a, draw(names), same_as=1 if i and draw(st.booleans()) else None) for i, (a, b) in enumerate(zip(edges, edges[1:], strict=False))
    ]
    cues = tuple(Cue(Fraction(b), "turn") for b in sorted(draw(st.sets(st.integers(0, len(chart.grid.beats) - 1), max_size=2))))
    keys = chart.keys
    if draw(st.booleans()):
        keys = (*keys, KeyArea(Fraction(len(chart.grid.beats) // 2), *draw(st.sampled_from([("Db", "major"), ("E", "minor")]))))
    return relate_parts(replace(chart, cues=cues, keys=keys), parts)


def _maybe(values: st.SearchStrategy[str]) -> st.SearchStrategy[str | None]:
    return st.none() | values


@st.composite
def written_notes(draw: st.DrawFn, duration: Fraction) -> tuple[WrittenNote, ...]:
    """What a creator might write for a hand in so many beats: keys on eighths and triplets, held, starred, fingered, grace notes."""
    rows = {}
    for _ in range(draw(st.integers(0, 6))):
        start = draw(st.sampled_from([Fraction(k, d) for d in (2, 3) for k in range(int(duration * d))]))
        lasting = min(draw(st.sampled_from([Fraction(1, 3), Fraction(1, 2), Fraction(1), Fraction(4)])), duration - start)
        midi, voice = draw(st.integers(36, 84)), draw(st.sampled_from([1, 1, 2]))
        finger, flags = draw(st.none() | st.integers(1, 5)), draw(st.sets(st.sampled_from(["optional", "accent", "grace", "rings"]), max_size=2))
        rows[start, voice, midi] = WrittenNote(start, lasting, midi, finger=finger, voice=voice, **dict.fromkeys(flags, True))
    return tuple(rows[k] for k in sorted(rows))


@st.composite
def random_passages(draw: st.DrawFn, beats: int) -> tuple[Passage, ...]:
    passages = []
    for hand in ("left", "right"):
        if draw(st.integers(0, 2)):
            continue
        first = draw(st.integers(0, beats - 1))
        lasting = Fraction(draw(st.integers(1, min(8, beats - first))))
        passages.append(
            Passage(
                hand, Fraction(first), lasting, draw(written_notes(lasting)), draw(st.sampled_from([(), None, (1, 2)])), level=draw(st.sampled_from(LEVELS))
            )
        )
    return tuple(sorted(passages, key=lambda p: (p.start, p.hand)))


@st.composite
def random_choices(draw: st.DrawFn, chart: Chart) -> Choices:
    styles, levels, patterns = st.sampled_from(sorted(STYLES)), st.sampled_from(LEVELS), st.sampled_from(sorted(PATTERNS))
    grips = []
    for place in chart.chords:
        if place.chord and draw(st.integers(0, 3)) == 0:
            low = draw(st.integers(36, 47))
            grips.append(GripChoice(place.start, place.chord, (ChosenNote(low, finger=5),), (ChosenNote(60), ChosenNote(64, True)), "mine"))
    own = [
        PartChoice(p.number, draw(_maybe(styles)), draw(_maybe(levels)), lead_in=draw(st.booleans()), ending=draw(st.sampled_from(["", "octaves", "rolled"])))
        for p in chart.parts
        if draw(st.booleans())
    ]
    first = chart.chords[0].start
    return Choices(
        style=draw(styles),
        level=draw(levels),
        pattern=draw(patterns),
        pedal=draw(st.booleans()),
        parts=tuple(own),
        grips=tuple(grips),
        taken_links=(LinkChoice(first, "walk", "easier"),) if draw(st.booleans()) else (),
        passages=draw(random_passages(len(chart.grid.beats))),
        chord_patterns=(ChordPattern(first, draw(patterns)),) if draw(st.booleans()) else (),
    )


@st.composite
def random_songs(draw: st.DrawFn) -> SongState:
    chart = draw(charts_in_parts())
    order = tuple(draw(st.permutations([p.number for p in chart.parts]))) if draw(st.booleans()) else ()
    schools = Schools(**{m: draw(st.sampled_from(options)) for m, options in school_options().items()})
    edits = (StepEdit("part-1/both", lines=("Slowly.",), over=("x",)), StepEdit("own-1", "Sit well", ("Sit.",), after="", added=True))
    teaching = Teaching(schools, edits if draw(st.booleans()) else ())
    minutes = draw(st.sampled_from([0.0, 5.0, 12.5]))
    return SongState(chart, draw(random_choices(chart)), teaching, Settings(order, minutes))
