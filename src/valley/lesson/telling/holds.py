"""How long keys are held, where that is not simply until the next: kept down while others of the hand move, or let go at once."""

from __future__ import annotations

from bisect import bisect_right
from collections.abc import Iterator, Mapping, Sequence

from valley.fraction import Fraction
from valley.lesson.telling.memory import Held, Memory
from valley.lesson.telling.tell_bars import HandTold
from valley.model.arrangement import PlayedNote
from valley.model.lesson import Line, LineNote
from valley.model.saying import Pitches, Several, say

_MOST = 8  # bars that are named; more is read from the sheet music
_FEWEST_SHORT = 4  # notes that make a manner of playing


def tell_holds(told: HandTold, bars: Sequence[int], memory: Memory) -> Iterator[Line]:
    """What the strokes alone do not say; nothing of bars that are held like others of their shape that were told before."""
    notes = sorted((n for bar in bars for n in told.notes.get(bar, ()) if not n.grace), key=lambda n: (n.start, n.midi))
    starts = sorted({n.start for n in notes} | {n.start for n in told.notes.get(bars[-1] + 1, ()) if not n.grace}) if notes else []
    struck: dict[Fraction, list[PlayedNote]] = {}
    for n in notes:
        struck.setdefault(n.start, []).append(n)
    held: dict[int, list[PlayedNote]] = {bar: [] for bar in bars}
    for n in notes:
        if _moves_under(n, struck, _after(n, starts)):
            held[told.grid.place(n.start)[0]].append(n)
    new = [bar for bar in bars if memory.holds_anew(told.hand, told.bars.get(bar, ()), _shape(told, bar, held[bar]))]
    fresh = [n for bar in new for n in held[bar]]
    speaks_for = tuple(LineNote(n.start, told.hand, n.pitch) for n in fresh)
    if fresh and _is_lowest_of_each(told, held):
        yield Line((say("holds lowest"),), "rule", fresh[0].start, told.hand, speaks_for)
    elif fresh:
        named = [say("held in bar", notes=Pitches(tuple(dict.fromkeys(n.pitch for n in held[bar]))), bar=bar) for bar in new if held[bar] and bar >= 1]
        if named:
            phrase = "holds" if len(named) <= _MOST else "holds and so on"
            yield Line((say(phrase, keys=Several(tuple(named[:_MOST]), "list")),), "rule", fresh[0].start, told.hand, speaks_for)
    here = [n for bar in new for n in told.notes.get(bar, ()) if not n.grace and not n.rings]
    if len(here) >= _FEWEST_SHORT and sum(_is_short(n, _after(n, starts)) for n in here) * 2 > len(here) and memory.first_time(f"short {told.hand}"):
        yield Line((say("plays short"),), "rule", here[0].start, told.hand)


def _after(note: PlayedNote, starts: Sequence[Fraction]) -> Fraction | None:
    """When the hand strikes next."""
    at = bisect_right(starts, note.start)
    return starts[at] if at < len(starts) else None


def _moves_under(note: PlayedNote, struck: Mapping[Fraction, Sequence[PlayedNote]], after: Fraction | None) -> bool:
    """Whether a key is still down when others of its hand have been struck after it; what rings on is the pedal's."""
    then = struck.get(after, ()) if after is not None else ()
    if after is None or note.rings or not then or any(n.midi == note.midi for n in then):
        return False
    return note.start + note.duration >= after + min(n.duration for n in then) / 2


def _is_short(note: PlayedNote, after: Fraction | None) -> bool:
    return after is not None and note.duration * 2 <= after - note.start


def _shape(told: HandTold, bar: int, held: Sequence[PlayedNote]) -> Held:
    """Which strokes of a bar are held, counted from its lowest key, so that a bar that lies elsewhere is held alike."""
    here = told.bars.get(bar, ())
    base = here[0].keys[0] if here and here[0].keys else 0
    return frozenset((told.grid.place(n.start)[1], n.midi - base) for n in held)


def _is_lowest_of_each(told: HandTold, held: Mapping[int, Sequence[PlayedNote]]) -> bool:
    """Whether in every bar that has several strokes the lowest key of the first one is held, and nothing else."""
    several = [bar for bar in held if len(told.bars.get(bar, ())) > 1]
    for bar in several:
        first = told.bars[bar][0]
        lowest = min((k for s in told.bars[bar] for k in s.keys), default=None)
        if [n.midi for n in held[bar]] != [lowest] or first.keys[:1] != (lowest,) or told.grid.place(held[bar][0].start)[1] != first.at:
            return False
    return len(several) > 1
