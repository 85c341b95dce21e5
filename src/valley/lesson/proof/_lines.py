"""The lines of the music that a list of names can follow: a hand's notes in order, the tune, the bass, a scale, the chords one after another."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, field
from functools import cached_property
from itertools import groupby

from valley.fraction import Fraction
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
    head: bool = field(default=False, compare=False)  # whether a bar begins with it
    start: Fraction | None = field(default=None, compare=False)

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
    """``places`` are where a list may begin in it, ``heads`` those of them where a bar begins; an ``unordered`` line is a set."""

    kind: str
    items: tuple[Item, ...]
    places: tuple[int, ...] = (0,)
    unordered: bool = False
    heads: frozenset[int] = frozenset()

    @cached_property
    def classes(self) -> tuple[int, ...]:
        """The pitch class of each item: thousands of places are asked whether a list can begin there."""
        return tuple(item.name.pitch_class for item in self.items)


def row_midi(row: Found) -> int:
    natural = PitchName(row.name.fifths - 7 * row.name.alter).pitch_class
    return 12 * ((row.octave or 0) + 1) + natural + row.name.alter


def lines_here(desk: Desk, *, near: bool = False) -> Iterator[Line]:
    """Every line of the bars, part or song that the words are about, or of the chord that was counted to.

    Parameters
    ----------
    near : only of the chord that the talk has come to and the next one, where it has come to one
    """
    if desk.pinned:
        yield from lines_of(desk, desk.context.grips)
    elif near and len(desk.context.grips) == 1:
        start = desk.context.grips[0].start
        after = [g for g in desk.grips_here() if g.start >= start][:2]
        if after:
            yield from lines_of(desk, after[:1])
            yield from _kept(desk, after, start, after[-1].end)
    elif grips := desk.grips_here():
        bars, grid = desk.context.bars, desk.scope.chart.grid
        start = grid.bar_start(bars[0] if bars[0] > 1 else 0) if bars else grips[0].start
        yield from _kept(desk, grips, start, grid.bar_start(bars[-1] + 1) if bars else grips[-1].end)


def lines_of(desk: Desk, grips: Sequence[Grip]) -> Iterator[Line]:
    """Every line of each of these chords by itself."""
    for grip in grips:
        yield from _kept(desk, [grip], grip.start, grip.end)


def _kept(desk: Desk, grips: Sequence[Grip], start: Fraction, end: Fraction) -> tuple[Line, ...]:
    """The lines of a stretch and hand, made once for a text: a sentence is read in several places, and the next asks for them again."""
    key = (start, end, desk.context.hand, grips[0].start, grips[-1].start, len(grips))
    if key not in desk.lines:
        desk.lines[key] = tuple(_lines_between(desk, grips, start, end))
    return desk.lines[key]


def _lines_between(desk: Desk, grips: Sequence[Grip], start: Fraction, end: Fraction) -> Iterator[Line]:
    grid = desk.scope.chart.grid
    notes = [n for n in desk.scope.notes if start <= n.start < end and not n.grace]

    def at_head(beat: Fraction) -> bool:
        return beat == grid.bar_start(grid.place(beat)[0])

    def item(note: PlayedNote) -> Item:
        return Item(parse_pitch(note.pitch)[0], note.midi, head=at_head(note.start), start=note.start)

    yield from _scales(desk, grips)
    tune = tuple(_note(desk, n.midi, head=at_head(n.start), start=n.start) for n in desk.scope.chart.notes_between(start, end) if start <= n.start < end)
    yield from _both_ways(TUNE, tune or tuple(_note(desk, n.midi) for n in desk.scope.chart.melody))  # before it begins, the tune is that to come
    for hand in (desk.context.hand,) if desk.context.hand else HANDS:
        mine = [n for n in notes if n.hand == hand]
        yield from _both_ways(STROKES, tuple(item(n) for n in mine))
        strokes = [tuple(item(n) for n in group) for _, group in groupby(mine, key=lambda n: n.start)]
        anew = [s for i, s in enumerate(strokes) if not i or s != strokes[i - 1]]
        if len(anew) < len(strokes):  # "F and C, B flat and F": what is struck again is told once
            yield _line(STROKES, tuple(note for stroke in anew for note in stroke))
        lows = tuple(item(min(group, key=lambda n: n.midi)) for _, group in groupby(mine, key=lambda n: n.start) if group)
        yield from _both_ways(STROKES if hand == RIGHT else BASS, lows)
        tops = tuple(item(max(group, key=lambda n: n.midi)) for _, group in groupby(mine, key=lambda n: n.start))
        yield from _both_ways(TOP, tops)
        for index in (0, 1, -1):
            held = [((g.left if hand == LEFT else g.right), at_head(g.start)) for g in grips]
            kind = BASS if hand == LEFT and not index else TOP
            yield from _both_ways(kind, tuple(Item(parse_pitch(h[index].pitch)[0], h[index].midi, head=head) for h, head in held if len(h) > max(index, 0)))
    chords = [g.chord for g in grips]
    yield from _both_ways(BASS, tuple(Item(g.chord.bass, head=at_head(g.start)) for g in grips))
    yield from _both_ways(CHORDS, tuple(Item(g.chord.root, chord=g.chord, head=at_head(g.start)) for g in grips))
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
    yield _line(kind, items)
    once = tuple(a for i, a in enumerate(items) if not i or a != items[i - 1])
    if len(once) < len(items):
        yield _line(kind, once)


def _line(kind: str, items: tuple[Item, ...]) -> Line:
    return Line(kind, items, tuple(range(len(items))), heads=frozenset(i for i, item in enumerate(items) if item.head))


def _note(desk: Desk, midi: int, *, head: bool = False, start: Fraction | None = None) -> Item:
    return Item(desk.scope.chart.keys[0].key.spell(midi % 12), midi, head=head, start=start)
