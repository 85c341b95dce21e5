"""The lesson as a shot list: from second to second, what is said and what is shown, as a table (CSV) and to print (PDF).

Times are those of captions and chapters, so that the three agree. Still pictures are named as their files are.
"""

from __future__ import annotations

import csv
import io
from collections.abc import Sequence
from dataclasses import dataclass

from valley.formats.captions import list_step_times
from valley.formats.engraving import escape, head, typeset
from valley.formats.keyboard_svg import pretty
from valley.formats.stills import Still, draw_stills
from valley.model.lesson import Step
from valley.phrases import Words
from valley.song.work import Work

COLUMNS = ("shot", "from", "to", "seconds", "part", "title", "words", "show", "plays")
_HANDS = {"left": "left hand", "right": "right hand", "both": "both hands"}


@dataclass(frozen=True)
class Shot:
    """A step as it is filmed. ``show`` tells what is to be seen, in order; ``plays`` what is played, "" for nothing."""

    number: int
    begins: float
    ends: float
    part: int | None
    title: str
    words: str
    show: tuple[str, ...]
    plays: str


def list_shots(work: Work) -> list[Shot]:
    """A shot a step of the lesson.

    Parameters
    ----------
    work : the song
    """
    lesson, words = work.lesson, Words(work.lesson.schools)
    begins = list_step_times(lesson)
    last = begins[-1] + lesson.steps[-1].seconds if begins else 0.0
    cards = draw_stills(work)
    return [
        Shot(i, a, b, step.part, words.title(step), " ".join(words.lines(step)), tuple(_show(work, step, cards)), _plays(work, step))
        for i, (step, a, b) in enumerate(zip(lesson.steps, begins, [*begins[1:], last], strict=False), 1)
    ]


def _show(work: Work, step: Step, cards: Sequence[Still]) -> list[str]:
    """Still pictures that belong to a step, and the hands where they play."""
    names = [c.name for c in cards]

    def called(*beginnings: str) -> list[str]:
        return [n for n in names if n.startswith(beginnings)]

    shown: list[str] = []
    if step.kind == "opening":
        shown += called("01", "02")
    elif step.kind == "chords":
        shown += called("05")
    elif step.part is not None and step.kind not in ("pedal", "repeat"):
        shown += [n for n in names if n in (f"03-board-part{step.part}", f"04-count-part{step.part}")]
    if step.playing_seconds > 0:
        shown.append("the hands")
    if step.kind == "closing":
        shown += called("06")[-1:]
    return shown or ["you, speaking"]


def _plays(work: Work, step: Step) -> str:
    """Such as "left hand, bars 5 to 8, 90 %, twice"."""
    if not step.playing_seconds or step.start is None or step.end is None:
        return ""
    grid = work.chart.grid
    first, last = max(1, grid.place(step.start)[0]), max(1, grid.place(step.end - (step.end - step.start) / 1000)[0])
    bars = f"bar {first}" if first == last else f"bars {first} to {last}"
    times = {1: "", 2: ", twice"}.get(step.plays, f", {step.plays} times")
    return f"{_HANDS[step.hands]}, {bars}, {round(100 * step.speed)} %{times}"


def clock(seconds: float) -> str:
    """Such as 2:05.

    >>> clock(125.4)
    '2:05'
    """
    minutes, rest = divmod(round(seconds), 60)
    return f"{minutes}:{rest:02d}"


def dump_shots_csv(work: Work) -> str:
    """One row a shot, times in seconds from the start of the film."""
    buffer = io.StringIO()
    writer = csv.writer(buffer, lineterminator="\n")
    writer.writerow(COLUMNS)
    for s in list_shots(work):
        times = f"{s.begins:.1f}", f"{s.ends:.1f}", f"{s.ends - s.begins:.1f}"
        writer.writerow([s.number, *times, s.part or "", s.title, s.words, "; ".join(s.show), s.plays])
    return buffer.getvalue()


def dump_shots_pdf(work: Work) -> bytes:
    """The same to print: what is said beside what is shown, with room to tick off."""
    shots = list_shots(work)
    title = escape(work.chart.title)
    body = [head(work.chart.title), f"#align(center)[= {title}]", f"#align(center)[{len(shots)} shots · {clock(shots[-1].ends) if shots else '0:00'}]"]
    cells = []
    for s in shots:
        plays = f" \\ #text(weight: 700)[{escape(s.plays)}]" if s.plays else ""
        said = f"*{escape(pretty(s.title))}* \\ #text(size: 0.85em)[{escape(pretty(s.words))}]"
        cells.append(f"[□ {s.number}], [{clock(s.begins)}], [{said}], [#text(size: 0.85em)[{escape('; '.join(s.show))}{plays}]]")
    style = "stroke: (x, y) => (top: 0.4pt + luma(190)), inset: (x: 3pt, y: 4pt), columns: (12mm, 14mm, 1fr, 52mm)"
    body.append(f"#table({style}, {', '.join(cells)})")
    pdf: bytes = typeset("\n".join(body))
    return pdf
