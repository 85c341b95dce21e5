"""Still pictures: every card of every size lies inside its margins, says what is played, and speaks the school of names."""

import io
import re
import zipfile
from dataclasses import replace
from xml.etree import ElementTree

import pytest

from tests.charts import chart_of, make_work
from valley.errors import ParameterError
from valley.formats.stage import SHAPES
from valley.formats.stills import draw_stills
from valley.model.choices import Choices
from valley.model.schools import Schools
from valley.pipeline.handouts import make_stills
from valley.pipeline.painting import read_png
from valley.song.work import Work

CHART = chart_of(["C", "Am", "F", "Bb"], tune=[(0, 2, 67), (4, 1, 69), (6, 2, 72), (8, 4, 69), (12, 4, 70)], parts=[(1, 2, None), (3, 2, None)])
WORK = make_work(CHART, Choices(style="root-and-chord", pattern="every-beat"))


def texts(svg: str) -> list[str]:
    return [t for t in ElementTree.fromstring(svg).itertext() if t.strip()]  # noqa: S314 – our own drawing


@pytest.mark.parametrize("shape", SHAPES)
def test_every_card_is_whole_and_inside_its_margins(shape: str) -> None:
    width, height = SHAPES[shape]
    cards = draw_stills(WORK, shape)
    assert len({c.name for c in cards}) == len(cards)
    assert [c.name[:2] for c in cards] == sorted(c.name[:2] for c in cards)
    for card in cards:
        root = ElementTree.fromstring(card.svg)  # noqa: S314 – our own drawing
        assert (root.get("width"), root.get("height")) == (f"{width}", f"{height}")
        assert texts(card.svg)
        for x, y in re.findall(r'<text x="([\d.-]+)" y="([\d.-]+)"', re.sub(r"<g transform.*?</g>", "", card.svg)):
            assert 0.03 * width < float(x) < 0.97 * width
            assert 0.03 * height < float(y) < 0.99 * height


def test_the_cards_say_what_is_played() -> None:
    cards = {c.name: texts(c.svg) for c in draw_stills(WORK)}
    assert cards["01-title"][0] == CHART.title
    assert cards["02-scale-1-C-major"][0] == "The scale of C major"
    assert cards["02-scale-1-C-major"][1].split() == ["C", "D", "E", "F", "G", "A", "B"]
    assert [t for t in cards["03-board-part2"] if t in ("F", "B♭", "C")] == ["F", "B♭"]
    assert cards["06-after-part1"] == ["Next", "Part 2", "F\u2003B♭"]
    grips = [g for p in WORK.arrangement.parts for g in p.grips]
    for grip in grips:
        card = next(t for name, t in cards.items() if name.startswith("05") and t[0] == grip.symbol.replace("b", "♭"))
        assert [n.pitch.replace("b", "♭") for n in grip.left] == [word.strip("()") for word in card[1].split()]
    assert sum(name.startswith("05") for name in cards) == len({(g.symbol, tuple(n.midi for n in g.notes)) for g in grips})


def test_a_count_card_shows_which_hand_strikes_when() -> None:
    card = next(c for c in draw_stills(WORK) if c.name == "04-count-part1")
    assert [t for t in texts(card.svg) if t.isdigit()] == ["1", "2", "3", "4"]
    struck = {n.hand: {n.start for n in WORK.arrangement.of_part(1).notes if n.start < 4} for n in WORK.arrangement.of_part(1).notes}
    assert card.svg.count("<rect x=") == len(struck.get("left", ()))
    assert card.svg.count("<circle") == len(struck.get("right", ()))


@pytest.mark.parametrize(("naming", "language", "wanted"), [("german", "de", "B"), ("syllables", "fr", "sib"), ("letters", "en", "B♭")])
def test_the_cards_speak_the_school_of_names(naming: str, language: str, wanted: str) -> None:
    schools = Schools(naming=naming, language=language)  # type: ignore[arg-type]
    work = Work(replace(WORK.song, teaching=replace(WORK.song.teaching, schools=schools)))
    board = next(c for c in draw_stills(work) if c.name == "03-board-part2")
    assert wanted in [t.strip() for t in texts(board.svg)]


def test_a_shape_that_is_not_there_is_said() -> None:
    with pytest.raises(ParameterError, match="shape"):
        draw_stills(WORK, "4k")


def test_the_pictures_have_the_size_of_the_screen() -> None:
    with zipfile.ZipFile(io.BytesIO(make_stills(WORK, "720p"))) as archive:
        pngs = [n for n in archive.namelist() if n.endswith(".png")]
        assert len(pngs) == len(archive.namelist()) / 2
        assert read_png(archive.read(pngs[0])).shape[:2] == (720, 1280)
