"""A viewer's correction held against the chart: is it right, is it mended already, or does it speak of something else?"""

from __future__ import annotations

from collections.abc import Sequence

from valley.model.chart import Chart
from valley.records.places import read_symbol


def weigh_correction(chart: Chart, bar: int | None, wanted: Sequence[str], said: Sequence[str]) -> str:
    """In a sentence, what the chart says at the place; empty where the correction names no bar of this song.

    ``wanted`` and ``said`` are symbols as ``places.find_set_right`` gives them; a letter alone may be a note or a major chord.
    """
    if bar is None:
        return ""
    first = 0 if chart.grid.pickup else 1
    if not first <= bar <= chart.grid.bars:
        return f"There is no bar {bar} in this song; it has bars {first} to {chart.grid.bars}."
    there = [c for place in chart.sounding_in(bar) if (c := place.chord) is not None]
    names = " ".join(c.to_symbol() for c in there) or "no chord"
    holds = {c.to_symbol(): c for c in there}

    def is_there(symbol: str) -> bool:
        chord = read_symbol(symbol)
        return chord is not None and any((c.root, c.quality) == (chord.root, chord.quality) for c in holds.values())

    if any(is_there(s) for s in wanted):
        return f"Bar {bar} has {names} in your chart: what the viewer asks for is there already. Look whether the lesson was filmed from an older version."
    if any(is_there(s) for s in said):
        ask = f"; the viewer hears {' or '.join(wanted)}" if wanted else ""
        return f"Bar {bar} has {names} in your chart{ask}. Listen to the place."
    tune = [n.midi % 12 for n in chart.melody if chart.grid.place(n.start)[0] == bar]
    notes = [c for s in (*wanted, *said) if len(s) <= 2 and (c := read_symbol(s)) is not None]
    sounding = {pc for c in there for pc in c.pitch_classes()} | set(tune)
    if notes:
        heard = [n.to_symbol() for n in notes if n.root.pitch_class in sounding]
        which = f"{', '.join(heard)} {'sound' if len(heard) > 1 else 'sounds'}" if heard else "none sounds"
        return f"Bar {bar} has {names}; of the notes named, {which} there in your chart."
    return f"Bar {bar} has {names} in your chart."
