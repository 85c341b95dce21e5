"""The plan of work: nothing is lost, no day is overfilled, promises are kept where they can be."""

from collections import defaultdict
from datetime import date, timedelta

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from valley.errors import ParameterError
from valley.formats.calendar_ics import dump_ics
from valley.records.calendar import Job, Week, order_jobs, plan_work
from valley.records.way import CHARTED, FILMED, PUBLISHED, SCRIPTED

MONDAY = date(2026, 3, 2)
ALL = frozenset(range(7))
FREE = Week((120.0,) * 7, ALL, ALL)


def job(song: int, minutes: float = 60, votes: int = 0, promised: date | None = None) -> Job:
    return Job(song, f"Song {song}", ((CHARTED, minutes / 2), (FILMED, minutes / 4), (PUBLISHED, minutes / 4)), votes, promised)


jobs = st.lists(
    st.builds(
        Job,
        st.integers(1, 10_000),
        st.just("x"),
        st.lists(st.tuples(st.sampled_from([CHARTED, SCRIPTED]), st.floats(1, 400)), max_size=2).map(
            lambda w: tuple(sorted(dict(w).items())) + ((FILMED, 50.0), (PUBLISHED, 20.0))
        ),
        st.integers(0, 50),
        st.one_of(st.none(), st.integers(0, 90).map(lambda d: MONDAY + timedelta(d))),
    ),
    max_size=9,
    unique_by=lambda j: j.song,
)
weeks = st.builds(
    Week,
    st.lists(st.sampled_from([0.0, 30.0, 60.0, 150.0]), min_size=7, max_size=7).map(tuple),
    st.frozensets(st.integers(0, 6), min_size=1),
    st.frozensets(st.integers(0, 6), min_size=1),
    st.frozensets(st.integers(0, 60).map(lambda d: MONDAY + timedelta(d)), max_size=5),
)


@settings(max_examples=150)
@given(jobs, weeks)
def test_plans_hold_what_they_promise(todo: list[Job], week: Week) -> None:
    plan = plan_work(todo, week, MONDAY)
    by_day: dict[date, float] = defaultdict(float)
    by_piece: dict[tuple[int, int], float] = defaultdict(float)
    published: dict[date, int] = defaultdict(int)
    for slot in plan.slots:
        by_day[slot.day] += slot.minutes
        by_piece[slot.song, slot.stage] += slot.minutes
        if slot.stage == FILMED:
            assert slot.day.weekday() in week.film
        if slot.stage == PUBLISHED:
            assert slot.day.weekday() in week.publish
            published[slot.day] += slot.done
    assert all(minutes <= week.minutes_on(day) * 1.15 + 1e-6 for day, minutes in by_day.items())
    assert all(n <= 1 for n in published.values())
    for j in todo:
        for stage, minutes in j.work:
            done = by_piece[j.song, stage]
            assert done <= minutes + 1e-6
            if j.song not in plan.left:
                assert done == pytest.approx(minutes)
    # Each song is either out or left, and its stages come in their order.
    assert {j.song for j in todo} == set(plan.out) | set(plan.left)
    for j in todo:
        days = [(s.stage, s.day) for s in plan.slots if s.song == j.song]
        assert days == sorted(days)


def test_what_most_wait_for_per_hour_comes_first() -> None:
    few, many, short = job(1, 60, votes=1), job(2, 60, votes=9), job(3, 20, votes=4)
    assert [j.song for j in order_jobs([few, many, short], FREE, MONDAY)] == [3, 2, 1]


def test_a_promise_goes_before_votes_only_as_far_as_it_must() -> None:
    wanted = job(1, 240, votes=90)
    soon = job(2, 120, promised=MONDAY + timedelta(1))
    later = job(3, 120, promised=MONDAY + timedelta(30))
    assert [j.song for j in order_jobs([wanted, soon, later], FREE, MONDAY)] == [2, 1, 3]


def test_a_promise_that_cannot_be_kept_is_told_and_does_not_hurt_the_others() -> None:
    plan = plan_work([job(1, 600, promised=MONDAY), job(2, 60, promised=MONDAY + timedelta(1))], FREE, MONDAY)
    assert plan.out[2] <= MONDAY + timedelta(1)
    assert plan.late[1] > 0
    assert 2 not in plan.late


def test_filming_waits_for_a_quiet_day_and_other_songs_go_on_meanwhile() -> None:
    week = Week((60.0,) * 7, frozenset({5}), ALL)
    plan = plan_work([job(1, 80, votes=5), job(2, 80)], week, MONDAY)
    filmed = {s.song: s.day for s in plan.slots if s.stage == FILMED and s.done}
    assert filmed == {1: date(2026, 3, 7), 2: date(2026, 3, 7)}
    assert [s.song for s in plan.slots if s.stage == CHARTED] == [1, 2, 2] or [s.song for s in plan.slots if s.stage == CHARTED] == [1, 2]


def test_without_hours_nothing_is_laid_out_and_nothing_is_lost() -> None:
    plan = plan_work([job(1, promised=MONDAY)], Week((0.0,) * 7), MONDAY, days=30)
    assert (plan.slots, plan.left, plan.late) == ((), (1,), {1: 30})
    assert plan_work([], FREE, MONDAY).slots == ()


def test_weeks_that_make_no_sense_are_refused() -> None:
    with pytest.raises(ParameterError, match="seven numbers"):
        Week((60.0,) * 6)
    with pytest.raises(ParameterError, match="0 \\(Monday\\)"):
        Week(film=frozenset({7}))
    with pytest.raises(ParameterError, match="days=0"):
        plan_work([], FREE, MONDAY, days=0)


def test_the_calendar_file_keeps_to_its_rules() -> None:
    text = dump_ics([(MONDAY, 1, FILMED, 45.0), (MONDAY, 2, PUBLISHED, 20.0)], {1: "Rain, wind; and \\ a long title " + "ü" * 60, 2: "Two"})
    lines = text.split("\r\n")
    assert lines[0] == "BEGIN:VCALENDAR"
    assert lines[-2:] == ["END:VCALENDAR", ""]
    assert all(len(line.encode()) <= 75 for line in lines)
    unfolded = text.replace("\r\n ", "")
    assert "SUMMARY:Film: Rain\\, wind\\; and \\\\ a long title" in unfolded
    assert unfolded.count("BEGIN:VEVENT") == unfolded.count("END:VEVENT") == 2
    assert "DTEND;VALUE=DATE:20260303" in unfolded
