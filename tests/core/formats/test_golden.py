"""Every textual hand-out against the files in tests/golden, so that a change in any of them is seen.

VALLEY_GOLDEN=write python -m pytest tests/core/formats/test_golden.py     writes them anew; read the difference before you commit it.
"""

import io
import os
import re
import zipfile
from pathlib import Path

import pytest

from tests.charts import make_work
from valley.model.choices import Choices
from valley.pipeline.charts import load_song
from valley.pipeline.handouts import handout_named
from valley.song import Work

FOLDER = Path(__file__).parents[2] / "golden"
NAMES = (
    "score.musicxml",
    "lesson.txt",
    "chords.txt",
    "chords.csv",
    "chords.lab",
    "annotation.jams",
    "captions.vtt",
    "captions.srt",
    "chapters.txt",
    "lesson.json",
    "chart.json",
    "arrangement.json",
    "hands.mid",
)


DEMO = Path(__file__).parents[3] / "demo/charts"
# Of the demo's own charts, what a reader or a player gets: one in four with repeats, one in three.
SHORT = ("score.musicxml", "lesson.txt", "chords.txt", "captions.vtt", "chapters.txt", "hands.mid")


@pytest.fixture(scope="module")
def work() -> Work:
    return make_work(load_song(FOLDER / "two_lanterns.txt").chart, Choices(style="root-and-chord", level="standard", pattern="low-then-upper"))


@pytest.fixture(scope="module", params=["oats_and_iron", "nine_lanterns"])
def demo(request: pytest.FixtureRequest) -> tuple[str, Work]:
    return request.param, make_work(load_song(DEMO / f"{request.param}.txt").chart, Choices(style="root-and-chord", pattern="held"))


@pytest.mark.parametrize("name", NAMES)
def test_hand_outs_are_as_they_were(work: Work, name: str) -> None:
    compare("two_lanterns", name, work)


@pytest.mark.parametrize("name", SHORT)
def test_those_of_the_demo_are_as_they_were(demo: tuple[str, Work], name: str) -> None:
    compare(demo[0], name, demo[1])


def compare(stem: str, name: str, work: Work) -> None:
    made = handout_named(name).make(work)
    if name == "score.musicxml":
        made = re.sub(rb"<encoding-date>[^<]*</encoding-date>|<software>[^<]*</software>", b"", made)  # the day, and the library's version
        made = re.sub(rb'id="P[0-9a-f]{32}"|>P[0-9a-f]{32}<', b"", made)
    path = FOLDER / f"{stem}.{name}"
    if os.environ.get("VALLEY_GOLDEN") == "write":
        path.write_bytes(made)
    assert made == path.read_bytes(), f"{name} differs from tests/golden; write it anew if the change is meant"


def test_pictures_are_as_they_were(work: Work) -> None:
    archive = zipfile.ZipFile(io.BytesIO(handout_named("keyboards.zip").make(work)))
    first = next(n for n in archive.namelist() if n.endswith(".svg"))
    path = FOLDER / "two_lanterns.grip.svg"
    if os.environ.get("VALLEY_GOLDEN") == "write":
        path.write_bytes(archive.read(first))
    assert archive.read(first) == path.read_bytes()


def test_the_sample_lesson_in_the_docs_is_the_one_that_is_written_today() -> None:
    assert (FOLDER.parent.parent / "docs" / "sample-lesson.txt").read_text() == (FOLDER / "oats_and_iron.lesson.txt").read_text()
