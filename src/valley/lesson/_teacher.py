"""What every step needs: the music, the schools, each hand bar by bar, and what a learner knows so far."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Sequence
from dataclasses import dataclass, field
from typing import Literal

from valley.fraction import Fraction
from valley.lesson.telling.hand_bars import Placed, bars_of
from valley.lesson.telling.memory import Memory
from valley.lesson.telling.tell_bars import HandTold
from valley.lesson.telling.tell_hand import ChordTold, Manner, Stretch
from valley.model._rules import MaybeChord
from valley.model.arrangement import HANDS, Arrangement, HandNote, PartArrangement, PlayedNote
from valley.model.chart import Chart, Part
from valley.model.lesson import Line, LineNote
from valley.model.saying import Counts, Pitches, Saying, Sound, Value, say
from valley.model.schools import Schools
from valley.phrases import Words
from valley.theory.chord import Chord
from valley.values import derived

Which = Literal["own", "plain", "all"]


@dataclass
class Teacher:
    """The song as it is taught. ``patterns``: title and summary of each pattern by name; ``recorded``: there is a recording to play along with."""

    chart: Chart
    arrangement: Arrangement
    schools: Schools
    patterns: dict[str, tuple[str, str]]
    recorded: bool = False
    memory: Memory = field(default_factory=Memory)

    @derived
    def _words(self) -> Words:
        return Words(self.schools)

    @property
    def short(self) -> bool:
        return self.schools.length == "short"

    @property
    def thorough(self) -> bool:
        return self.schools.length == "thorough"

    @property
    def manner(self) -> Manner:
        shown = "" if self.schools.fingering == "hidden" or self.short else "all" if self.thorough else "unusual"
        return Manner(self.schools.order == "block-first" and not self.short, shown, "" if self.short else "all" if self.thorough else "short")

    def name(self, chord: MaybeChord) -> str:
        """A chord as it is said: what it is known by."""
        return self._words.say(say("named", chord=Sound(chord)))

    def place(self, beat: Fraction) -> tuple[int, str]:
        """Bar and count of a beat; bar 0 is the pickup."""
        return self.chart.grid.place(beat)[0], self.chart.grid.count(beat)

    def at(self, phrase: str, beat: Fraction, **values: Value) -> Saying:
        """A saying with its bar and count; what stands before bar 1 says so."""
        bar, count = self.place(beat)
        if bar < 1:
            return say(f"{phrase} pickup", count=Counts((count,)), **values)
        return say(phrase, bar=bar, count=Counts((count,)), **values)

    def bars(self, part: Part) -> tuple[int, ...]:
        """The bars of a part, with the pickup before bar 1."""
        grid = self.chart.grid
        last = min(part.end_bar, grid.bars)
        return (*((0,) if part.start_bar == 1 and grid.pickup else ()), *range(part.start_bar, last + 1))

    def rows(self, part: Part) -> list[tuple[MaybeChord, Fraction, Fraction]]:
        """Chord, beginning and length of everything that sounds in a part, silences (None) among them."""
        start, end = self.chart.span(part)
        rows: list[tuple[MaybeChord, Fraction, Fraction]] = []
        now = start
        for grip in self.arrangement.of_part(part.number).grips:
            if grip.start > now:
                rows.append((None, now, grip.start - now))
            rows.append((grip.chord, grip.start, grip.duration))
            now = grip.end
        if now < end:
            rows.append((None, now, end - now))
        return rows

    def stretch(self, part: Part, bars: Sequence[int] | None = None) -> Stretch:
        chords = tuple(ChordTold(self.name(chord), start, length, _members(chord)) for chord, start, length in self.rows(part) if chord is not None)
        return Stretch(self.bars(part) if bars is None else tuple(bars), chords)

    def hand(self, hand: str, notes: Which = "own") -> HandTold:
        """One hand through the whole song.

        ``notes``: "own", what parts play in their own bars; "plain", without what joins the chords; "all", with what leads from one part into the next.
        """
        return self._hands[hand, notes]

    @derived
    def _hands(self) -> dict[tuple[str, str], HandTold]:
        grid = self.chart.grid
        bars = {p.number: set(self.bars(p)) for p in self.chart.parts}
        # Where each note lies is found once: it is asked for by every view of every hand.
        every = sorted(
            (Placed(n, *grid.place(n.start), part=p.part) for p in self.arrangement.parts for n in p.notes),
            key=lambda there: (there.note.start, not there.note.grace, there.note.midi),
        )
        own = [there for there in every if there.bar in bars[there.part]]
        chosen = {"all": every, "own": own, "plain": [there for there in own if not there.note.link]}
        found = {}
        for hand in HANDS:
            views: dict[int, HandTold] = {}  # each view holds the one before and more: of as many notes it is the same
            for which in ("plain", "own", "all"):
                mine = [there for there in chosen[which] if there.note.hand == hand]
                if len(mine) not in views:
                    rows: dict[int, list[PlayedNote]] = defaultdict(list)
                    for there in mine:
                        rows[there.bar].append(there.note)
                    views[len(mine)] = HandTold(hand, grid, bars_of(mine), dict(rows), self.schools.alignment == "anchors")
                found[hand, which] = views[len(mine)]
        return found

    def arranged(self, part: Part) -> PartArrangement:
        return self.arrangement.of_part(part.number)


_COLOURS = (2, 9)  # ninth and sixth: a figure may strike them above any root


def _members(chord: Chord) -> frozenset[int]:
    root = chord.root.pitch_class
    return frozenset((*[n.pitch_class for n in chord.members()], chord.bass.pitch_class, *[(root + up) % 12 for up in _COLOURS]))


def pitches(notes: Sequence[HandNote | PlayedNote]) -> Pitches:
    """Keys from the bottom up, with what may be left out."""
    starred = tuple(n.pitch for n in notes if isinstance(n, HandNote) and n.optional)
    return Pitches(tuple(n.pitch for n in notes), starred)


def line(*said: Saying, kind: str = "", beat: Fraction | None = None, hands: str = "", notes: Sequence[LineNote] = (), item: bool = False) -> Line:
    return Line(said, kind, beat, hands, tuple(notes), item)
