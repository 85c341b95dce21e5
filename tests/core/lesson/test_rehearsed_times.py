"""Times of a rehearsal in place of reckoned ones: captions, chapters, shots and minutes follow them."""

import csv
import io
from dataclasses import replace

import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.charts import chart_of
from valley.edits import ForgetStep, MergePart, TimeSteps, TookTime, WriteStep, apply_edit
from valley.errors import ParameterError
from valley.formats.captions import dump_chapters, dump_srt, list_step_times
from valley.formats.shot_list import dump_shots_csv
from valley.lesson.plan import plan_lessons
from valley.model.lesson import Step, StepTime
from valley.song.state import SongState
from valley.song.work import Work

SONG = SongState(chart_of(["C", "F", "G", "C", "Am", "F", "G", "C"], parts=[(1, 4, None), (5, 4, None)]))
KEYS = [s.key for s in Work(SONG).lesson.steps]


def step_of(song: SongState, key: str) -> Step:
    return next(s for s in Work(song).lesson.steps if s.key == key)


def timed(**seconds: float) -> SongState:
    return apply_edit(SONG, TimeSteps(tuple(TookTime(k.replace("__", "/").replace("_", "-"), s) for k, s in seconds.items())))[0]


@given(took=st.lists(st.floats(1, 3600), min_size=len(KEYS), max_size=len(KEYS)))
def test_every_hand_out_keeps_the_times_taken(took: list[float]) -> None:
    song, said = apply_edit(SONG, TimeSteps(tuple(TookTime(k, s) for k, s in zip(KEYS, took, strict=True))))
    assert said.startswith(f"times of {len(KEYS)} steps")
    lesson = Work(song).lesson
    assert all(s.rehearsed and abs(s.seconds - t) <= 0.11 for s, t in zip(lesson.steps, took, strict=True))
    begins = list_step_times(lesson)
    assert all(abs((b - a) - t) <= 0.11 for a, b, t in zip(begins, begins[1:], took, strict=False))
    cues = [line for line in dump_srt(lesson).splitlines() if "-->" in line]
    times = [tuple(seconds_of(part) for part in line.split(" --> ")) for line in cues]
    assert all(a <= b for a, b in times)
    assert all(b <= c + 0.002 for (_, b), (c, _) in zip(times, times[1:], strict=False))
    rows = list(csv.DictReader(io.StringIO(dump_shots_csv(Work(song)))))
    assert all(abs(float(row["seconds"]) - t) <= 0.21 for row, t in zip(rows, took, strict=True))
    assert abs(sum(p.minutes for p in plan_lessons(Work(song).lesson, 0)) - sum(took) / 60) <= 0.1


def seconds_of(clock: str) -> float:
    hours, minutes, rest = clock.replace(",", ".").split(":")
    return 3600 * int(hours) + 60 * int(minutes) + float(rest)


def test_playing_stays_as_long_as_the_bars_last() -> None:
    before = step_of(SONG, "part-1/left")
    assert before.playing_seconds > 5
    slow = step_of(timed(part_1__left=before.seconds + 20), "part-1/left")
    assert slow.playing_seconds == before.playing_seconds
    assert slow.speaking_seconds == pytest.approx(before.speaking_seconds + 20, abs=0.1)
    quick = step_of(timed(part_1__left=before.playing_seconds), "part-1/left")
    assert quick.seconds == pytest.approx(before.playing_seconds, abs=0.1)
    assert 0 < quick.speaking_seconds < quick.playing_seconds


def test_more_words_take_more_time_at_the_pace_of_the_rehearsal() -> None:
    song = timed(opening=60)
    usual = Work(SONG).lesson.steps[0].seconds
    longer = apply_edit(song, WriteStep("opening", lines=(" ".join(["word"] * 200),)))[0]
    reckoned = step_of(replace(longer, teaching=replace(longer.teaching, times=())), "opening").seconds
    assert step_of(longer, "opening").seconds == pytest.approx(60 * reckoned / usual, abs=0.1)
    assert step_of(apply_edit(longer, ForgetStep("opening"))[0], "opening").seconds == pytest.approx(60, abs=0.1)


def test_a_second_rehearsal_wins_where_it_was_taken_and_all_can_be_let_go() -> None:
    song = timed(opening=60, chords=40)
    again = apply_edit(song, TimeSteps((TookTime("chords", 25),)))[0]
    assert [(t.key, t.seconds) for t in again.teaching.times] == [("opening", 60), ("chords", 25)]
    reckoned, said = apply_edit(again, TimeSteps())
    assert Work(reckoned).lesson == Work(SONG).lesson
    assert said == "times of the steps as Valley reckons them"


def test_times_go_along_when_parts_get_other_numbers() -> None:
    song = timed(part_2__left=90)
    joined = apply_edit(song, MergePart(2))[0]
    assert {t.key for t in joined.teaching.times} <= {"part-1/left", "part-2/left"}
    assert dump_chapters(Work(joined).lesson)


@pytest.mark.parametrize(("seconds", "why"), [(0.2, "1 to 3600"), (4000, "1 to 3600"), (float("nan"), "seconds=nan")])
def test_a_time_that_cannot_be_is_refused(seconds: float, why: str) -> None:
    with pytest.raises(ParameterError, match=why):
        StepTime("opening", seconds, 30)
    with pytest.raises(ParameterError, match="it has opening"):
        apply_edit(SONG, TimeSteps((TookTime("encore", 20),)))
