"""The lines of the music that a list of names can follow: a hand's notes in order, the tune, the bass, a scale, the chords one after another."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from itertools import groupby

from valley.lesson.proof._desk import Desk
from valley.lesson.proof._scope import Found
from valley.model.arrangement import HANDS, LEFT, RIGHT, Grip, PlayedNote
from valley.theory.chord import Chord
from valley.theory.pitch import PitchName, parse_pitch

_MINOR_THIRD = -3  # in fifths, as the members of a quality are
TUNE, SCALE, BASS, CHORDS, STROKES, TOP, SIGNATURE = "tune", "scale", "bass", "chords", "strokes", "top", "signature"


@dataclass(frozen=True)
class Item:
    """One place of a line: a note, with its key where it has one, or a chord."""

    name: PitchName
    midi: int | None = None
    chord: Chord | None = None

    def fits(self, row: Found, *, strict: bool) -> bool:
        """Whether a name in the text can mean it; ``strict``: a bare letter in a list of chords is a major chord."""
        if row.name.pitch_class != self.name.pitch_class:
            return False
        if self.chord is None:
            return not row.is_chord and (row.octave is None or row_midi(row) == self.midi)
        if row.octave is not None or (row.bass and row.bass.pitch_class != self.chord.bass.pitch_class):
            return False
        if row.quality:
            return row.quality == self.chord.quality
        return bool(row.bass) or not strict or _MINOR_THIRD not in self.chord.quality.members


@dataclass(frozen=True)
class Line:
    """``places`` are where a list may begin in it; an ``unordered`` line is a set."""

    kind: str
    items: tuple[Item, ...]
    places: tuple[int, ...] = (0,)
    unordered: bool = False


def row_midi(row: Found) -> int:
    natural = PitchName(row.name.fifths - 7 * row.name.alter).pitch_class
    return 12 * ((row.octave or 0) + 1) + natural + row.name.alter


def lines_here(desk: Desk) -> Iterator[Line]:
    """Every line of the bars, part or song that the words are about."""
    grips = desk.grips_here()
    if not grips:
        return
    bars = desk.context.bars
    grid = desk.scope.chart.grid
    start = grid.bar_start(bars[0] if bars[0] > 1 else 0) if bars else grips[0].start
    end = grid.bar_start(bars[-1] + 1) if bars else grips[-1].end
    notes = [n for n in desk.scope.notes if start <= n.start < end and not n.grace]
    yield from _scales(desk, grips)
    tune = tuple(_note(desk, n.midi) for n in desk.scope.chart.notes_between(start, end) if start <= n.start < end)
    yield from _both_ways(TUNE, tune or tuple(_note(desk, n.midi) for n in desk.scope.chart.melody))  # before it begins, the tune is that to come
    for hand in (desk.context.hand,) if desk.context.hand else HANDS:
        mine = [n for n in notes if n.hand == hand]
        yield from _both_ways(STROKES, tuple(_item(n) for n in mine))
        lows = tuple(_item(min(group, key=lambda n: n.midi)) for _, group in groupby(mine, key=lambda n: n.start) if group)
        yield from _both_ways(STROKES if hand == RIGHT else BASS, lows)
        tops = tuple(_item(max(group, key=lambda n: n.midi)) for _, group in groupby(mine, key=lambda n: n.start))
        yield from _both_ways(TOP, tops)
        for index in (0, 1, -1):
            held = [(g.left if hand == LEFT else g.right) for g in grips]
            kind = BASS if hand == LEFT and not index else TOP
            yield from _both_ways(kind, tuple(Item(parse_pitch(h[index].pitch)[0], h[index].midi) for h in held if len(h) > max(index, 0)))
    chords = [g.chord for g in grips]
    yield from _both_ways(BASS, tuple(Item(c.bass) for c in chords))
    yield from _both_ways(CHORDS, tuple(Item(c.root, chord=c) for c in chords))
    once = tuple(dict.fromkeys(chords))
    yield Line(CHORDS, tuple(Item(c.root, chord=c) for c in once), tuple(range(len(once))))


def _scales(desk: Desk, grips: Sequence[Grip]) -> Iterator[Line]:
    for key in dict.fromkeys(desk.scope.chart.key_at(g.start) for g in grips):
        scale = (*key.scale(), key.tonic)
        yield Line(SCALE, tuple(Item(n) for n in scale))
        yield Line(SCALE, tuple(Item(n) for n in reversed(scale)))
        signs = [n for n in key.scale() if n.alter]
        if signs:
            yield Line(SIGNATURE, tuple(Item(n) for n in sorted(signs, key=lambda n: n.fifths, reverse=key.signature < 0)), unordered=True)


def _both_ways(kind: str, items: tuple[Item, ...]) -> Iterator[Line]:
    """Every note, and with what is struck again told once."""
    if not items:
        return
    yield Line(kind, items, tuple(range(len(items))))
    once = tuple(a for i, a in enumerate(items) if not i or a != items[i - 1])
    if len(once) < len(items):
        yield Line(kind, once, tuple(range(len(once))))


def _item(note: PlayedNote) -> Item:
    return Item(parse_pitch(note.pitch)[0], note.midi)


def _note(desk: Desk, midi: int) -> Item:
    return Item(desk.scope.chart.keys[0].key.spell(midi % 12), midi)
