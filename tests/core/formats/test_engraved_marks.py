"""Part numbers on an engraved page: in the line of the chord symbols, on no finger, symbol or other number."""

import re
from dataclasses import replace

import pytest

from tests.charts import chart_of, make_work
from valley.formats.engraved_marks import lift_marks
from valley.formats.engraving import engrave
from valley.formats.keyboard_svg import pretty
from valley.formats.musicxml import dump_musicxml
from valley.model.choices import Choices

Box = tuple[float, float, float, float]  # left, top, right, foot
_REH = re.compile(r'class="reh"[^>]*>\s*<rect [^>]*?x="(-?\d+)" y="(-?\d+)" height="(\d+)" width="(\d+)"')
_TEXT = re.compile(r'class="(fing|harm)">\s*<text x="(-?\d+)" y="(-?\d+)"[^>]*>(.*?)</text>', re.DOTALL)


def boxes(page: str) -> tuple[list[Box], list[Box]]:
    """The part numbers; fingers and chord symbols, narrowly measured."""
    marks = [(x, y, x + w, y + h) for x, y, h, w in (map(float, row) for row in _REH.findall(page))]
    texts: list[Box] = []
    for kind, x, y, inside in _TEXT.findall(page):
        size = 303 if kind == "fing" else 405
        width = 0.4 * size * len(re.sub(r"<[^>]*>|\s", "", inside))
        left = float(x) - (width / 2 if kind == "fing" else 0)
        texts.append((left, float(y) - 0.6 * size, left + width, float(y)))
    return marks, texts


def overlap(a: Box, b: Box) -> bool:
    return a[0] < b[2] and b[0] < a[2] and a[1] < b[3] and b[1] < a[3]


def first_after(mark: Box, page: str) -> str:
    """The chord symbol that comes first after a mark's left edge, in its system."""
    at = float("inf")
    found = ""
    for kind, x, y, inside in _TEXT.findall(page):
        if kind == "harm" and mark[0] <= float(x) < at and -200 < float(y) - mark[3] < 700:
            at, found = float(x), re.sub(r"<[^>]*>|\s", "", inside)
    return found


@pytest.mark.parametrize("style", ["root-and-chord", "full-melody", "block-and-melody", "thirds"])
@pytest.mark.parametrize("bars", [["Bb/D", "Cm7b5", "F#m7(b5)", "G"], ["Cmaj7 Am7 Dm7 G7sus4", "Ebmaj7/G Abmaj7", "F", "G7"]])
@pytest.mark.parametrize("names", [("", "", ""), ("Opening", "Verse and a long name", "End")])
def test_no_number_stands_on_something_else(style: str, bars: list[str], names: tuple[str, str, str]) -> None:
    tune = [(i, 1, [60, 76, 67, 79, 64, 81][i % 6]) for i in range(32)]
    chart = chart_of(bars * 2, tune=tune, parts=[(1, 3, None), (4, 2, None), (6, 3, None)])
    chart = replace(chart, parts=tuple(replace(p, name=name) for p, name in zip(chart.parts, names, strict=True)))
    work = make_work(chart, Choices(style=style))
    firsts = [pretty(chart.chords_of(p)[0].chord.to_symbol()) for p in chart.parts]  # type: ignore[union-attr]
    for page in engrave(dump_musicxml(work.chart, work.arrangement, to_print=True)):
        marks, texts = boxes(page)
        assert len(marks) == 3
        assert not [(m, t) for m in marks for t in texts if overlap(m, t)]
        assert [first_after(mark, page) for mark in marks] == firsts


def test_a_page_without_numbers_or_symbols_stays_as_it_is() -> None:
    assert lift_marks("<svg><g class='note'/></svg>") == "<svg><g class='note'/></svg>"
