"""What the creator wrote for a hand, laid over what Valley proposes: in its own place, and in the repeats where it holds as well."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass, replace

from valley.arranging.passage_levels import notes_at
from valley.fraction import Fraction
from valley.model.arrangement import RIGHT, Link, PlayedNote
from valley.model.chart import Chart, Part
from valley.model.choices import Choices
from valley.model.passage import Passage, WrittenNote


@dataclass(frozen=True)
class Placed:
    """A passage where it holds, with its ``notes`` there for the part's level: ``begin`` is where they count from, and it is law from ``start`` to ``end``."""

    hand: str
    source: str
    times: tuple[int, ...] | None
    notes: tuple[WrittenNote, ...]
    begin: Fraction
    start: Fraction
    end: Fraction
    up: int = 0


def place_passages(chart: Chart, passages: Sequence[Passage], part: Part, level: str) -> tuple[Placed, ...]:
    """The passages that hold in a part at a level, the weaker first: what is carried over from another occurrence gives way to what was written here, what
    was written for another level to what was written for this one."""
    start, end = chart.span(part)
    by_level = sorted(passages, key=lambda p: p.level == level)
    own = [_place(p, level, p.start, max(p.start, start), min(p.end, end)) for p in by_level if p.start < end and p.end > start]
    carried = [found for p in by_level if (found := _carry(chart, p, part, level))]
    return (*carried, *own)


def _place(passage: Passage, level: str, begin: Fraction, start: Fraction, end: Fraction, up: int = 0) -> Placed:
    return Placed(passage.hand, passage.source, passage.times, notes_at(passage, level, start - begin, end - begin), begin, start, end, up)


def level_of(choices: Choices, part: Part) -> str:
    """The level at which a part is played: its own, its model's, or the song's."""
    model = choices.of_part(part.same_as) if part.same_as else None
    return choices.of_part(part.number).level or (model.level if model else None) or choices.level


def level_at(chart: Chart, choices: Choices, beat: Fraction) -> str:
    """The level that holds at a beat."""
    home = home_of(chart, beat)
    return level_of(choices, home) if home else choices.level


def home_of(chart: Chart, beat: Fraction) -> Part | None:
    """The part in which a beat lies."""
    bar = max(chart.grid.place(beat)[0], 1)
    return next((p for p in chart.parts if p.start_bar <= bar <= p.end_bar), None) if beat < len(chart.grid.beats) else None


def _carry(chart: Chart, passage: Passage, part: Part, level: str) -> Placed | None:
    home = home_of(chart, passage.start)
    if home is None or home == part or (home.same_as or home.number) != (part.same_as or part.number):
        return None
    if passage.times is not None and part.number not in passage.times:
        return None
    first, last = chart.span(home)
    begin = passage.start + chart.span(part)[0] - first
    end = min(begin + passage.duration, begin + last - passage.start, chart.span(part)[1])
    return _place(passage, level, begin, begin, end, part.moved - home.moved) if begin < end else None


def lay_passages(chart: Chart, notes: Iterable[PlayedNote], placed: Sequence[Placed]) -> list[PlayedNote]:
    """The notes with every passage over them. What sounds into a passage ends where it begins."""
    kept = list(notes)
    for there in placed:
        kept = [short for n in kept if (short := _give_way(n, there))]
        kept += [_play(chart, there, n) for n in there.notes]
    return kept


def _give_way(note: PlayedNote, there: Placed) -> PlayedNote | None:
    if note.hand != there.hand or note.start >= there.end or note.end <= there.start:
        return None if note.hand == there.hand and note.grace and there.start <= note.start < there.end else note
    return replace(note, duration=there.start - note.start) if note.start < there.start else None


def _play(chart: Chart, there: Placed, note: WrittenNote) -> PlayedNote:
    at, midi = there.begin + note.start, note.midi + there.up
    pitch = note.pitch if note.pitch and not there.up else spell_at(chart, at, midi)
    sung = there.hand == RIGHT and any(m.start == at and (m.midi - midi) % 12 == 0 for m in chart.notes_between(at, at + Fraction(1, 1024)))
    return PlayedNote(
        there.hand,
        at,
        note.duration,
        midi,
        pitch,
        melody=sung,
        finger=note.finger,
        accent=note.accent,
        rings=note.rings,
        voice=note.voice,
        grace=note.grace,
        optional=note.optional,
        source=there.source,
    )


def spell_at(chart: Chart, beat: Fraction, midi: int) -> str:
    """A key's name where it sounds: as the chord has it, else as the key has it."""
    key = chart.key_at(beat)
    chord = next((c.chord for c in chart.sounding_in(chart.grid.place(beat)[0]) if c.start <= beat < c.end), None)
    return (chord.name_of(midi % 12, key) if chord else key.spell(midi % 12)).at(midi)


def free_links(links: Sequence[Link], placed: Sequence[Placed]) -> tuple[Link, ...]:
    """The links that no passage stands over."""

    def stands_over(there: Placed, link: Link) -> bool:
        return (there.hand == link.hand or link.hand == "both") and link.start < there.end and link.start + link.duration > there.start

    return tuple(k for k in links if not any(stands_over(p, k) for p in placed))
