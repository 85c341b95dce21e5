"""The creator's own words against the music: what Valley itself says is never called wrong, in any language, once a step is written over."""

from __future__ import annotations

from dataclasses import replace
from pathlib import Path

import pytest
from hypothesis import HealthCheck, assume, given, settings

from tests.songs import random_songs
from valley.checking.lesson import check_words
from valley.errors import ValleyError
from valley.lesson.overlay import change_step, lay_over, said_of
from valley.lesson.student import understands
from valley.model.lesson import StepEdit
from valley.pipeline.readers import read_any_song
from valley.song import SongState, Work

TALKS = sorted((Path(__file__).parents[1] / "lesson/talk").glob("*.chart"))


def in_language(song: SongState, language: str) -> Work:
    schools = replace(song.teaching.schools, language=language)
    return Work(replace(song, teaching=replace(song.teaching, schools=schools)))


def called_wrong(work: Work, *own: str, step: int | None = None) -> list[str]:
    """What is found where every step, or one, is written over with what it says anyway, and lines of ``own`` after it."""
    edits: tuple[StepEdit, ...] = ()
    for i, row in enumerate(work.lesson.steps):
        if step in (None, i):
            edits = change_step(edits, work.generated, StepEdit(row.key, lines=(*said_of(row, work.lesson.schools), *own)))
    return [f.sentence for f in check_words(work.chart, work.arrangement, lay_over(work.generated, edits))]


@pytest.mark.parametrize("language", ["en", "fr", "de", "es"])
@pytest.mark.parametrize("path", TALKS, ids=lambda p: p.stem)
def test_a_step_that_is_kept_as_valley_wrote_it_has_no_errors(path: Path, language: str) -> None:
    work = in_language(read_any_song(path.read_bytes(), f"{path.stem}.txt"), language)
    assert called_wrong(work) == []
    assert called_wrong(work, ".") == []


@given(random_songs())
@settings(max_examples=25, suppress_health_check=list(HealthCheck))
def test_nor_on_songs_of_any_kind(song: SongState) -> None:
    try:
        found = called_wrong(Work(song))
    except ValleyError:
        assume(False)
        return
    assert found == []


def test_a_slip_in_free_words_is_still_an_error_at_its_step() -> None:
    work = Work(read_any_song(next(p for p in TALKS if p.stem == "wold").read_bytes(), "wold.txt"))
    first = next(i for i, s in enumerate(work.lesson.steps) if s.part == 1)
    assert called_wrong(work, "In bar 3 we play C major.", step=first)
    assert called_wrong(work, "In bar 3 we play C minor.", step=first) == []


@pytest.mark.parametrize(
    ("text", "own_form"),
    [
        ("Bar 3: C3 on 1, G3 on 3.", True),
        ("Bars 5 to 8: like bars 1 to 4.", True),
        ("Hold each chord as it comes.", True),
        ("Left hand: as in part 1.", True),
        ("Bar 3 is where it gets hard.", False),
        ("Bar 3: take your time here.", False),
        ("And now C3, then G3, softly.", False),
    ],
)
def test_the_learner_takes_only_valleys_own_form_at_its_word(text: str, own_form: bool) -> None:
    work = Work(read_any_song(TALKS[0].read_bytes(), "x.txt"))
    assert understands(text, work.chart.grid, work.lesson.schools) == own_form
