"""The lesson sheet as PDF: chord table with keyboard pictures, the steps with their counts, and the notation of each part."""

from __future__ import annotations

from valley.formats.engraving import engrave, escape, head, typeset
from valley.formats.keyboard_svg import dump_keyboard_svg, picture_range, pretty
from valley.formats.musicxml import bars_of, dump_musicxml
from valley.model.arrangement import Arrangement, Grip
from valley.model.chart import Chart
from valley.model.lesson import Lesson
from valley.phrases import Words


def dump_lesson_pdf(chart: Chart, arrangement: Arrangement, lesson: Lesson) -> bytes:
    """A4, ready to print."""
    pictures: dict[str, bytes] = {}
    body = [head(lesson.title), f"#align(center)[= {escape(lesson.title)}]"]
    minutes = max(1, round(lesson.seconds / 60))
    keys = escape(", then ".join(str(a.key) for a in chart.keys))
    body.append(f"#align(center)[{keys} · {chart.grid.meter} · {round(chart.bpm)} to the minute · about {minutes} minutes]")
    body += _chord_table(arrangement, pictures)
    drawn: set[int] = set()
    words = Words(lesson.schools)
    for step in lesson.steps:
        body.append(f"== {escape(pretty(words.title(step)))}")
        if step.part is not None and step.part not in drawn and step.kind in ("right", "both", "left"):
            drawn.add(step.part)
            part = next(p for p in chart.parts if p.number == step.part)
            score = dump_musicxml(chart, arrangement, to_print=True, bars=bars_of(chart, part))
            for i, page in enumerate(engrave(score, width=1900)):
                name = f"part{step.part}-{i}.svg"
                pictures[name] = page.encode()
                body.append(f'#image("{name}", width: 100%)')
        for line, said in zip(step.lines, words.lines(step), strict=True):
            text = escape(pretty(said))
            body.append(f"- {text}" if line.item else f"{text}\n")
    pdf: bytes = typeset("\n".join(body), pictures)
    return pdf


def _chord_table(arrangement: Arrangement, pictures: dict[str, bytes]) -> list[str]:
    """Each chord once, three to a row, with its keys."""
    seen: dict[str, Grip] = {}
    for part in arrangement.parts:
        for grip in part.grips:
            seen.setdefault(grip.label, grip)
    cells = []
    low, high = picture_range(list(seen.values())) if seen else (0, 0)
    for i, grip in enumerate(seen.values()):
        name = f"chord{i}.svg"
        pictures[name] = dump_keyboard_svg(grip, low=low, high=high, transparent=True).encode()
        cells.append(f'[#image("{name}", width: 100%)]')
    if not cells:
        return []
    return ["== The chords", f"#grid(columns: 3, gutter: 6mm, {', '.join(cells)})"]
