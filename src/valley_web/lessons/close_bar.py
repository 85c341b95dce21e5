"""A bar seen close, made ready to show: what each hand plays in it, as notes and as it is typed."""

from valley.arranging.passages import Placed, home_of, level_of, place_passages
from valley.charting.hand_text import write_hand
from valley.edits.passages import bar_span, notes_in
from valley.fraction import Fraction
from valley.model.arrangement import HANDS
from valley.song import Work
from valley_web.lessons.api.schemas import BarCloseOut, BarNoteOut, HandBarOut


def show_bar(work: Work, beat: Fraction) -> BarCloseOut:
    """The bar in which a beat lies, hand by hand."""
    chart, grid = work.chart, work.chart.grid
    first, last = bar_span(chart, beat)
    home = home_of(chart, first)
    placed = place_passages(chart, work.choices.passages, home, level_of(work.choices, home)) if home else ()
    family = [p for p in chart.parts if home and (p.same_as or p.number) == (home.same_as or home.number)]
    fingers = {(n.hand, n.start - first, n.midi): n.finger for p in work.arrangement.parts for n in p.notes if first <= n.start < last}
    hands = []
    for hand in HANDS:
        notes = notes_in(work.arrangement, hand, first, last)
        over = [p for p in placed if p.hand == hand and p.start < last and p.end > first]
        rows = [
            BarNoteOut(
                start=str(first + n.start),
                duration=str(n.duration),
                start_beats=float(n.start),
                duration_beats=float(n.duration),
                midi=n.midi,
                pitch=n.pitch,
                grace=n.grace,
                rings=n.rings,
                optional=n.optional,
                finger=fingers.get((hand, n.start, n.midi)),
            )
            for n in notes
        ]
        text = write_hand(notes, grid, first, last - first)
        hands.append(HandBarOut(hand=hand, text=text, written=bool(over), holds=_say_times(over[-1]) if over else "", notes=rows))
    beats = [first + i for i in range(-int(-(last - first) // 1))]
    return BarCloseOut(
        bar=grid.place(first)[0],
        start=str(first),
        duration=str(last - first),
        duration_beats=float(last - first),
        counts=[grid.count(b) for b in beats],
        thirds=grid.meter_at(first).division == 3,
        before=str(bar_span(chart, first - 1)[0]) if first > 0 else None,
        after=str(last) if last < len(grid.beats) else None,
        repeated=len(family) > 1,
        hands=hands,
    )


_SOURCES = {"written": "written by you", "imported": "from your score", "played": "as you played it"}


def _say_times(placed: Placed) -> str:
    """Whose notes they are and where they hold, as a teacher would say it."""
    where = "every time" if placed.times is None else f"here and in part {', '.join(map(str, placed.times))}" if placed.times else "here only"
    return f"{_SOURCES[placed.source]}, {where}"
