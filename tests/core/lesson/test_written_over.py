"""Words written over a step: what is left as Valley says it still speaks of its notes, what is the creator's stays as it was typed."""

from __future__ import annotations

from dataclasses import replace

import pytest

from tests.core.lesson.test_proof_talk import WORK
from valley.checking.lesson import check_words
from valley.checking.told import check_told
from valley.edits.teaching import WriteStep
from valley.lesson.overlay import change_step, lay_over, said_of
from valley.model.lesson import OWN, Lesson, Step, StepEdit
from valley.phrases import Words

LESSON = WORK.generated
FIRST = next(s for s in LESSON.steps if s.part == 1 and len(s.lines) > 2)
SAID = said_of(FIRST, LESSON.schools)


def written(*lines: str) -> Lesson:
    return lay_over(LESSON, change_step((), LESSON, StepEdit(FIRST.key, lines=lines)))


def step_of(lesson: Lesson) -> Step:
    return next(s for s in lesson.steps if s.key == FIRST.key)


def test_lines_that_are_left_keep_their_kind_and_their_notes() -> None:
    step = step_of(written(*SAID, "Take your time here."))
    assert step.edited and not step.stale
    assert [(row.kind, row.notes, row.beat, row.hands) for row in step.lines[:-1]] == [(row.kind, row.notes, row.beat, row.hands) for row in FIRST.lines]
    assert step.lines[-1].kind == OWN and step.lines[-1].notes == ()
    assert said_of(step, LESSON.schools) == (*SAID, "Take your time here.")


@pytest.mark.parametrize("index", range(len(SAID)))
def test_a_line_with_one_word_more_is_the_creators_own(index: int) -> None:
    lines = [*SAID]
    lines[index] = f"{lines[index]} Slowly."
    step = step_of(written(*lines))
    assert [row.kind == OWN for row in step.lines] == [i == index for i in range(len(SAID))]


def test_blanks_make_no_difference() -> None:
    step = step_of(written(*(f"  {text}  " for text in SAID)))
    assert all(row.kind != OWN for row in step.lines)


def test_lines_may_be_put_in_another_order_or_left_out() -> None:
    turned = step_of(written(*reversed(SAID)))
    assert [row.kind for row in turned.lines] == [row.kind for row in reversed(FIRST.lines)]
    short = step_of(written(SAID[0]))
    assert len(short.lines) == 1 and short.lines[0].kind == FIRST.lines[0].kind
    assert {n for row in FIRST.lines for n in row.notes} == set(short.notes)  # what the step has to tell stays known


def test_what_is_left_out_is_missed_and_what_is_left_is_no_error() -> None:
    def found(lesson: Lesson) -> list[str]:
        return [f.check for check in (check_words, check_told) for f in check(WORK.chart, WORK.arrangement, lesson)]

    assert found(written(*SAID)) == []
    assert found(written(*SAID, "Listen to the recording once more.")) == []
    telling = next(i for i, row in enumerate(FIRST.lines) if row.kind == "bars" and row.notes)
    assert found(written(*(text for i, text in enumerate(SAID) if i != telling))) == ["told"]
    assert "words" in found(written(*SAID, "In bar 3 we play B flat minor."))


def test_in_another_language_the_words_stay_as_they_were_typed() -> None:
    edits = change_step((), LESSON, StepEdit(FIRST.key, lines=(*SAID, "Take your time here.")))
    german = replace(WORK.song, teaching=replace(WORK.song.teaching, schools=replace(WORK.song.teaching.schools, language="de")))
    other = lay_over(type(WORK)(german).generated, edits)
    assert said_of(step_of(other), other.schools) == (*SAID, "Take your time here.")
    assert step_of(other).stale


def test_the_change_is_told_by_the_steps_title_and_not_by_its_key() -> None:
    def told(edit: WriteStep) -> str:
        return edit.apply(WORK.song)[1]

    title = Words(LESSON.schools).title(FIRST)
    assert told(WriteStep(FIRST.key, lines=("Slowly.",))) == f"step “{title}” rewritten"
    assert told(WriteStep(FIRST.key, left_out=True)) == f"step “{title}” left out"
    assert told(WriteStep("own-1", title="A break", lines=("Stretch your hands.",), added=True)) == "step “A break” added"
    assert told(WriteStep("own-1", lines=("Stretch your hands.",), added=True)) == "a step of your own added"


def test_a_finding_says_the_right_words_once() -> None:
    [finding] = check_words(WORK.chart, WORK.arrangement, written(*SAID, "Bar 4 is A minor."))
    assert finding.sentence.count("A7") == 1, finding.sentence
