"""The chart: the corrected truth of a song in bars and beats.

Positions are beats from the first beat of the grid, as exact fractions; bar 1 begins ``pickup`` beats in.
The grid ties beats to seconds of the recording.
"""

from __future__ import annotations

from bisect import bisect_left, bisect_right
from collections.abc import Sequence
from dataclasses import dataclass, field, fields, replace
from itertools import pairwise

from valley.errors import ParameterError
from valley.fraction import Fraction
from valley.model._rules import (
    MaybeChord,
    require,
    require_ascending,
    require_finite,
    require_key,
    require_one_of,
    require_share,
    require_span,
)
from valley.model.hearing import Reading
from valley.theory.chord import label_of, symbol_of
from valley.theory.feel import FEELS, STRAIGHT, feel_named
from valley.theory.key import Key
from valley.theory.meter import Meter
from valley.values import derived


@dataclass(frozen=True)
class MeterChange:
    """A bar begins at this beat (counted from 0), and from it on the metre is another."""

    beat: int
    meter: str

    def __post_init__(self) -> None:
        Meter(self.meter)


MOST_BEATS = 40_000  # two hours at 330 to the minute; more is a slip or an attack


@dataclass(frozen=True)
class Grid:
    """Beat times in seconds, the metre and its changes, how many beats stand before bar 1, and how the halves of a beat are played."""

    beats: tuple[float, ...]
    meter: str
    pickup: int = 0
    changes: tuple[MeterChange, ...] = ()
    feel: str = STRAIGHT

    def __post_init__(self) -> None:
        feel_named(self.feel)
        if len(self.beats) < 2:
            raise ParameterError(f"beats={self.beats!r} must hold at least two beats; the recording may be too short")
        require(len(self.beats) <= MOST_BEATS, "beats", len(self.beats), f"be at most {MOST_BEATS}; the song is cut where it is counted twice too fast")
        require_finite("beats", sum(self.beats))
        require_ascending("beats", self.beats)
        if not 0 <= self.pickup < self.main_meter.beats:
            raise ParameterError(f"pickup={self.pickup} must be less than the {self.main_meter.beats} beats of a bar")
        places = [self.pickup, *[c.beat for c in self.changes], len(self.beats)]
        if any(b <= a for a, b in zip(places, places[1:], strict=False)):
            raise ParameterError(f"metre changes at beats {places[1:-1]} must ascend from bar 2 to the last bar")

    @property
    def main_meter(self) -> Meter:
        """The metre at the start."""
        return Meter(self.meter)

    @derived
    def _meters(self) -> tuple[Meter, ...]:
        """The metre of each numbered bar."""
        found, changes = self.main_meter, list(self.changes)
        rows = []
        for start in self._starts[:-1]:
            while changes and changes[0].beat <= start:
                found = Meter(changes.pop(0).meter)
            rows.append(found)
        return tuple(rows)

    @derived
    def _starts(self) -> tuple[int, ...]:
        """Beat at which each numbered bar begins, and where the last would end. A bar before a change may be cut short by it."""
        starts: list[int] = []
        segments = [(self.pickup, self.meter), *[(c.beat, c.meter) for c in self.changes], (len(self.beats), "")]
        for (start, meter), (end, _) in zip(segments, segments[1:], strict=False):
            starts += range(start, end, Meter(meter).beats)
        last = Meter(segments[-2][1]).beats
        return (*starts, starts[-1] + last)

    @derived
    def _bar_lines(self) -> tuple[Fraction, ...]:
        return tuple(Fraction(s) for s in self._starts)

    @property
    def bars(self) -> int:
        """How many numbered bars there are; the last may be cut short by the recording's end."""
        return len(self._starts) - 1

    def meter_of(self, bar: int) -> Meter:
        """The metre in a bar (from 1; the pickup has that of bar 1)."""
        return self._meters[min(max(bar, 1), self.bars) - 1]

    @derived
    def meter_names(self) -> tuple[str, ...]:
        """The metre of each bar, by its number; the pickup is bar 0."""
        return (self._meters[0].name, *(m.name for m in self._meters))

    def meter_at(self, beat: Fraction) -> Meter:
        return self.meter_of(self.place(beat)[0])

    def bar_start(self, bar: int) -> Fraction:
        """Beat at which a bar (from 1; 0 is the pickup) begins; one past the last bar gives its end."""
        if bar <= 0:
            return Fraction(0)
        if bar <= len(self._bar_lines):
            return self._bar_lines[bar - 1]
        return Fraction(self._starts[-1] + (bar - len(self._starts)) * self.meter_of(self.bars).beats)

    def place(self, beat: Fraction) -> tuple[int, Fraction]:
        """Bar number and beats into that bar; a pickup counts as the end of bar 0."""
        if beat < self.pickup:
            return 0, beat - self.pickup + self.main_meter.beats
        bar = min(bisect_right(self._starts, beat // 1), self.bars)  # bars begin on whole beats: whole numbers are quick to compare
        return bar, beat - self._starts[bar - 1]

    def count(self, beat: Fraction) -> str:
        """How a position is counted aloud, by the metre of its bar."""
        bar, into = self.place(beat)
        return self.meter_of(bar).count(into)

    def quarters(self, beat: Fraction) -> Fraction:
        """Quarter notes from the first beat to a position: beats are dotted in compound time."""
        total, segments = Fraction(0), [(0, self.meter), *[(c.beat, c.meter) for c in self.changes]]
        for i, (start, meter) in enumerate(segments):
            end = segments[i + 1][0] if i + 1 < len(segments) else beat
            total += max(Fraction(0), min(beat, Fraction(end)) - start) * Meter(meter).quarters_per_beat
        return total

    def sounds_at(self, beat: Fraction | float) -> Fraction | float:
        """The position at which what is written at another is heard: they differ in a song that swings."""
        found = self._in_pair(beat)
        return beat if found is None else found[0] + FEELS[self.feel].sounds_at(found[1], found[2])

    @derived
    def swung(self) -> tuple[tuple[int, int, Fraction], ...]:
        """First and last beat of every stretch in which something swings, and the beats of a pair there."""
        starts = [(0, self.meter), *[(c.beat, c.meter) for c in self.changes], (len(self.beats), "")]
        rows = [(a, b, FEELS[self.feel].pair_in(Meter(meter))) for (a, meter), (b, _) in pairwise(starts)]
        return tuple(row for row in rows if row[2])

    def _in_pair(self, position: Fraction | float) -> tuple[float, float, Fraction] | None:
        """Where the pair of swung notes begins in which a position lies, how far it is into it, and how long the pair is; None where nothing is swung."""
        if self.feel == STRAIGHT or position % 1 == 0:
            return None
        pair = FEELS[self.feel].pair_in(self.meter_at(Fraction(position // 1)))
        if not pair:
            return None
        begin = float(position // 1 + (position % 1) // pair * pair)
        return begin, float(position) - begin, pair

    def seconds(self, beat: Fraction | float) -> float:
        """Time of a position in the recording, between and beyond the beats by the nearest beat's length."""
        beat, last = self.sounds_at(beat), len(self.beats) - 1
        i = min(max(int(beat // 1), 0), last - 1)
        return self.beats[i] + float(beat - i) * (self.beats[i + 1] - self.beats[i])

    def position(self, seconds: float) -> float:
        """The beat that sounds at a time: the inverse of ``seconds``."""
        i = min(max(bisect_right(self.beats, seconds) - 1, 0), len(self.beats) - 2)
        heard = i + (seconds - self.beats[i]) / (self.beats[i + 1] - self.beats[i])
        found = self._in_pair(heard)
        return heard if found is None else found[0] + FEELS[self.feel].written_at(found[1], found[2])


@dataclass(frozen=True)
class KeyArea:
    start: Fraction
    tonic: str
    mode: str
    confidence: float = 1.0

    def __post_init__(self) -> None:
        require(self.start >= 0, "start", self.start, "be 0 or later")
        require_share("confidence", self.confidence)
        Key.of(self.tonic, self.mode)

    @property
    def key(self) -> Key:
        return Key.of(self.tonic, self.mode)


@dataclass(frozen=True)
class ChartChord:
    """A chord on the grid, None where none sounds; ``locked`` means that the creator set it, and listening again keeps it."""

    start: Fraction
    duration: Fraction
    chord: MaybeChord
    confidence: float = 1.0
    readings: tuple[Reading, ...] = ()
    locked: bool = False

    def __post_init__(self) -> None:
        if self.duration <= 0:
            raise ParameterError(f"chord {self.label} at beat {self.start} lasts {self.duration} beats; it must last longer than 0")
        require_span(self.start, self.duration)
        require_share("confidence", self.confidence)

    @derived
    def end(self) -> Fraction:
        return self.start + self.duration

    @property
    def label(self) -> str:
        """Harte's text of it."""
        return label_of(self.chord)

    @property
    def symbol(self) -> str:
        """As a player reads it."""
        return symbol_of(self.chord)


@dataclass(frozen=True)
class MelodyNote:
    """A note of the tune; a grace note is played just before its place and takes no time of its own in the count."""

    start: Fraction
    duration: Fraction
    midi: int
    confidence: float = 1.0
    locked: bool = False
    grace: bool = False

    def __post_init__(self) -> None:
        require_span(self.start, self.duration)
        require_key(self.midi)
        require_share("confidence", self.confidence)

    @derived
    def end(self) -> Fraction:
        return self.start + self.duration


@dataclass(frozen=True)
class Cue:
    """The creator's own short word at a beat, to find the place by."""

    start: Fraction
    text: str

    def __post_init__(self) -> None:
        require(self.start >= 0, "start", self.start, "be 0 or later")
        require(bool(self.text.strip()), "text", self.text, "hold a word")


DIFFERENCES = ("pitch", "chords", "ending", "shorter", "longer", "tune", "rests", "added", "notes")


@dataclass(frozen=True)
class Difference:
    """How a repeat differs from its model. ``bars`` are those of the repeat.

    "pitch": it lies ``amount`` half steps higher; "chords", and "ending" where they close it: ``now`` instead of ``then`` (moved along where it lies at
    another pitch); "shorter", "longer": by ``amount`` bars; "tune": another one; "rests", "added": the tune; "notes": ``amount`` notes of the tune.
    """

    kind: str
    bars: tuple[int, ...] = ()
    amount: int = 0
    now: tuple[MaybeChord, ...] = ()
    then: tuple[MaybeChord, ...] = ()
    moved: bool = False

    def __post_init__(self) -> None:
        require_one_of("kind", self.kind, DIFFERENCES)


KINSHIPS = ("new", "same", "moved", "chords", "varied")


@dataclass(frozen=True)
class Part:
    """A numbered stretch of whole bars; ``same_as`` is the number of the earlier part that it repeats."""

    number: int
    start_bar: int
    bars: int
    name: str = ""
    same_as: int | None = None
    kinship: str = "new"  # one of KINSHIPS
    differences: tuple[Difference, ...] = ()
    new_bars: int = 0  # bars that a learner has not met before
    moved: int = 0  # half steps by which a repeat lies above the part that it repeats

    def __post_init__(self) -> None:
        require(self.number >= 0, "number", self.number, "be 1 or more")  # 0: a part that is being put in and has no number yet
        require(self.start_bar >= 1, "start_bar", self.start_bar, "be 1 or more")
        require(1 <= self.bars <= MOST_BEATS, "bars", self.bars, "be 1 or more, and no more than a song has")
        require_one_of("kinship", self.kinship, KINSHIPS)
        require(-11 <= self.moved <= 11, "moved", self.moved, "be less than an octave")
        require(self.new_bars >= 0, "new_bars", self.new_bars, "be 0 or more")

    @property
    def end_bar(self) -> int:
        """The last bar that belongs to the part."""
        return self.start_bar + self.bars - 1


@dataclass(frozen=True)
class Chart:
    """Chords lie one after the other without gaps; melody notes ascend in time and do not overlap.

    ``transposed`` is how many half steps it lies above what was heard, where it was moved to another key.
    """

    title: str
    grid: Grid
    keys: tuple[KeyArea, ...]
    chords: tuple[ChartChord, ...]
    melody: tuple[MelodyNote, ...] = ()
    parts: tuple[Part, ...] = ()
    tuning_cents: float = 0.0
    bpm: float = field(default=0.0)
    cues: tuple[Cue, ...] = ()
    transposed: int = 0

    def __post_init__(self) -> None:
        require(-11 <= self.transposed <= 11, "transposed", self.transposed, "be -11 to 11 half steps")
        if not self.keys or self.keys[0].start > 0:
            raise ParameterError("the chart needs a key from its first beat on")
        for before, after in zip(self.chords, self.chords[1:], strict=False):
            if before.end != after.start:
                raise ParameterError(f"chords must follow each other; {before.label} ends at beat {before.end}, {after.label} begins at beat {after.start}")
        require_finite("tuning_cents", self.tuning_cents)
        require(0 <= self.bpm < 10_000, "bpm", self.bpm, "be beats to the minute")
        require_ascending("keys", (a.start for a in self.keys))
        require_ascending("cues", (c.start for c in self.cues))
        require_ascending("notes of the tune", (n.start for n in self.melody))
        for note, next_note in pairwise(self.melody):
            if note.end > next_note.start:
                require(False, "duration", note.duration, f"end the note at beat {note.start} before the next, at {next_note.start}")
        self._check_parts()

    def _check_parts(self) -> None:
        require_ascending("parts", (p.start_bar for p in self.parts))
        for i, part in enumerate(self.parts, 1):
            require(part.number == i, "number", part.number, f"be {i}; parts are numbered in order from 1")
            require(part.same_as is None or 1 <= part.same_as < i, "same_as", part.same_as, f"be an earlier part than {i}")
            require(part.start_bar <= self.grid.bars, "start_bar", part.start_bar, f"lie in the song, which has {self.grid.bars} bars")

    def key_at(self, beat: Fraction) -> Key:
        return self._keys[bisect_right(self._key_starts, beat, lo=1) - 1]

    @derived
    def _keys(self) -> tuple[Key, ...]:
        return tuple(area.key for area in self.keys)

    @derived
    def _key_starts(self) -> tuple[Fraction, ...]:
        return tuple(area.start for area in self.keys)

    @derived
    def chord_places(self) -> tuple[tuple[int, Fraction], ...]:
        """The bar in which each chord begins (0 is the pickup), and beats into it."""
        return tuple(self.grid.place(c.start) for c in self.chords)

    @derived
    def _chords_by_bar(self) -> dict[int, tuple[ChartChord, ...]]:
        rows: dict[int, list[ChartChord]] = {}
        places = self.chord_places
        for i, chord in enumerate(self.chords):
            first = last = places[i][0]
            if i + 1 < len(places):  # it ends where the next begins: on a bar line it is over with the bar before
                bar, into = places[i + 1]
                last = max(first, bar if into else bar - 1)
            else:
                last = self.grid.place(chord.end - Fraction(1, 64))[0]
            for bar in range(first, last + 1):
                rows.setdefault(bar, []).append(chord)
        return {bar: tuple(row) for bar, row in rows.items()}

    @derived
    def _placed_by_bar(self) -> dict[int, tuple[tuple[Fraction, MaybeChord], ...]]:
        starts = {bar: self.grid.bar_start(bar) for bar in self._chords_by_bar}
        return {bar: tuple((max(c.start, starts[bar]) - starts[bar], c.chord) for c in row) for bar, row in self._chords_by_bar.items()}

    def placed_in(self, bar: int) -> tuple[tuple[Fraction, MaybeChord], ...]:
        """The chords that sound in a bar, each with the beats into it at which it begins there; 0 for one that is held from before."""
        return self._placed_by_bar.get(bar, ())

    @derived
    def _chord_starts(self) -> tuple[Fraction, ...]:
        return tuple(c.start for c in self.chords)

    @derived
    def _melody_starts(self) -> tuple[Fraction, ...]:
        return tuple(n.start for n in self.melody)

    def sounding_in(self, bar: int) -> tuple[ChartChord, ...]:
        """The chords that sound in a bar (0 is the pickup), whole; found at once however long the song."""
        return self._chords_by_bar.get(bar, ())

    def _chords_between(self, start: Fraction, end: Fraction) -> tuple[ChartChord, ...]:
        first = max(0, bisect_right(self._chord_starts, start) - 1)
        found = self.chords[first : bisect_left(self._chord_starts, end)]
        return found[1:] if found and found[0].end <= start else found

    def notes_between(self, start: Fraction, end: Fraction) -> tuple[MelodyNote, ...]:
        """The notes of the tune that begin from one beat on and before another."""
        return self.melody[bisect_left(self._melody_starts, start) : bisect_left(self._melody_starts, end)]

    @derived
    def _spans(self) -> dict[tuple[int, int], tuple[Fraction, Fraction]]:
        return {}

    def span(self, part: Part) -> tuple[Fraction, Fraction]:
        """First beat of a part and the beat after its last; a pickup belongs to bar 1, and the last bar ends with the grid."""
        bars = part.start_bar, part.end_bar
        if bars not in self._spans:
            start = self.grid.bar_start(part.start_bar if part.start_bar > 1 else 0)
            self._spans[bars] = start, min(self.grid.bar_start(part.end_bar + 1), Fraction(len(self.grid.beats)))
        return self._spans[bars]

    def with_parts(self, parts: Sequence[Part]) -> Chart:
        """The same chart under other parts: nothing else is checked or worked out again."""
        chart = object.__new__(Chart)
        chart.__dict__.update(self.__dict__)
        chart.__dict__["parts"] = tuple(parts)
        chart._check_parts()
        return chart

    def only(self, part: Part) -> Chart:
        """The chart with the chords and notes of one part, and no parts, title or cues. What is checked holds for a stretch of what was checked."""
        chords, melody = self.holds(part)
        chart = object.__new__(Chart)
        chart.__dict__.update({f.name: getattr(self, f.name) for f in fields(self)}, title="", chords=chords, melody=melody, parts=(), cues=())
        return chart

    def chords_of(self, part: Part) -> tuple[ChartChord, ...]:
        """The chords that sound in a part, cut at its edges."""
        start, end = self.span(part)
        return tuple(
            c if c.start >= start and c.end <= end else replace(c, start=max(c.start, start), duration=min(c.end, end) - max(c.start, start))
            for c in self._chords_between(start, end)
        )

    def holds(self, part: Part) -> tuple[tuple[ChartChord, ...], tuple[MelodyNote, ...]]:
        """The chords and notes of a part as they are kept, for comparing two charts."""
        start, end = self.span(part)
        return self._chords_between(start, end), self.notes_between(start, end)

    def melody_of(self, part: Part) -> tuple[MelodyNote, ...]:
        """The melody notes that begin in a part; the last is cut at the part's edge."""
        start, end = self.span(part)
        return tuple(replace(n, duration=end - n.start) if n.end > end else n for n in self.notes_between(start, end))
