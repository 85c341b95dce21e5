"""The chords of a song by key: each once, how often and where, what it shares with its neighbours, what it does."""

from __future__ import annotations

from collections import Counter, defaultdict
from dataclasses import dataclass

from valley.charting.functions import describe_function
from valley.fraction import Fraction
from valley.model.chart import Chart, ChartChord
from valley.theory.chord import Chord
from valley.theory.key import Key
from valley.theory.roman import write_roman


@dataclass(frozen=True)
class Neighbour:
    """A chord that often follows, and the notes that both hold."""

    chord: Chord
    times: int
    common: tuple[str, ...]


@dataclass(frozen=True)
class Entry:
    """One chord in one key. ``bars`` are where it sounds; ``unusual`` says why it sounds so, or is empty."""

    key: str
    chord: Chord
    times: int
    beats: Fraction
    bars: tuple[int, ...]
    function: str
    roman: str
    unusual: str
    after: tuple[Neighbour, ...]


def list_vocabulary(chart: Chart) -> tuple[Entry, ...]:
    """Every chord of every key, keys in the order of the song, in each the most frequent chord first."""
    groups: defaultdict[tuple[str, Chord], list[tuple[ChartChord, int]]] = defaultdict(list)
    turns = iter([(area.start, str(area.key)) for area in chart.keys[1:]])
    name, (turn, then) = str(chart.keys[0].key), next(turns, (None, ""))
    for placed, (bar, _) in zip(chart.chords, chart.chord_places, strict=True):
        while turn is not None and turn <= placed.start:
            name, (turn, then) = then, next(turns, (None, ""))
        if placed.chord:
            groups[name, placed.chord].append((placed, max(1, bar)))
    follows: defaultdict[Chord, Counter[Chord]] = defaultdict(Counter)
    for before, after in zip(chart.chords, chart.chords[1:], strict=False):
        if before.chord and after.chord and before.chord != after.chord:
            follows[before.chord][after.chord] += 1
    keys = list(dict.fromkeys(key for key, _ in groups))
    rows = []
    for (name, chord), places in groups.items():
        key = chart.key_at(places[0][0].start)
        neighbours = tuple(Neighbour(other, times, common_notes(chord, other)) for other, times in follows[chord].most_common(3))
        bars = tuple(dict.fromkeys(bar for _, bar in places))
        rows.append(
            Entry(
                name,
                chord,
                len(places),
                sum((c.duration for c, _ in places), Fraction(0)),
                bars,
                describe_function(chord, key),
                write_roman(chord, key),
                explain_unusual(chord, key),
                neighbours,
            )
        )
    return tuple(sorted(rows, key=lambda e: (keys.index(e.key), -e.times, -e.beats, e.chord.to_harte())))


def common_notes(one: Chord, other: Chord) -> tuple[str, ...]:
    """Names of the notes that two chords share, as the first spells them."""
    return tuple(str(n) for n in one.members() if n.pitch_class in other.pitch_classes())


def explain_unusual(chord: Chord, key: Key) -> str:
    """Why a chord stands out in its key, in a sentence; empty for the chords that everyone expects."""
    scale = {n.pitch_class for n in key.scale()}
    outside = [n for n in chord.members() if n.pitch_class not in scale]
    members, degree = chord.quality.members, key.degree(chord.root.pitch_class)
    if not outside:
        if 1 in members and 4 not in members and -3 not in members and len(members) > 2:
            return "suspended: its third is held back, so the ear waits for it"
        return ""
    names = " and ".join(str(n) for n in outside)
    if key.is_minor and degree == 7 and 4 in members:
        return f"{outside[0]} is raised to lead home more strongly"
    dominant = 4 in members and 5 not in members
    target = (degree + 5) % 12
    if dominant and (key.tonic.pitch_class + target) % 12 in scale and degree not in (0, 7) and not _is_borrowed(chord, key):
        return f"{names} is not in {key}: it leans into {key.spell(key.tonic.pitch_class + target)}, which it prepares like a dominant"
    if len(members) == 4 and -9 in members or (-6 in members and -3 in members and degree in (1, 6)):
        return f"{names} is not in {key}: a passing tension that slides into the next chord"
    if not key.is_minor and _is_borrowed(chord, key):
        return f"{names} is borrowed from {key.tonic} minor, which darkens it"
    if key.is_minor and _is_borrowed(chord, key):
        return f"{names} is borrowed from {key.tonic} major, which brightens it"
    raised_fourth = (key.tonic.pitch_class + 6) % 12
    if [n.pitch_class for n in outside] == [raised_fourth]:
        return f"{names} is the raised fourth of {key}, which gives it a floating light"
    return f"{names} is not in {key}, so the ear turns its head"


def _is_borrowed(chord: Chord, key: Key) -> bool:
    other = Key(key.tonic, "major" if key.is_minor else "minor")
    return {n.pitch_class for n in chord.members()} <= {n.pitch_class for n in other.scale()}
