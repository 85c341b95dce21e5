"""What to work on when: the songs in hand laid out over the hours that the creator has.

The order is W. E. Smith's for one worker ("Various Optimizers for Single-Stage Production", Naval Research Logistics Quarterly 3,
1956): the song that most viewers wait for per hour of work comes first; where dates were promised, the order is built from its
end, and a song may stand last only if its promise allows it. Promises that cannot all be kept are chosen so that most are
(J. M. Moore, "An n Job, One Machine Sequencing Algorithm for Minimizing the Number of Late Jobs", Management Science 15, 1968).
Work is then laid into days: songs are finished one after the other, filming waits for a day on which the room is quiet,
publishing for a day on which lessons come out, one a day.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, field
from datetime import date, timedelta
from heapq import heapify, heappop, heappush
from typing import Final

from valley.errors import ParameterError
from valley.records.way import FILMED, PUBLISHED

_SHORTEST: Final = 10.0  # minutes that are worth sitting down for
_OVERRUN: Final = 1.15  # a day may be that much longer where it brings a piece of work to its end
_LONGEST: Final = 366  # days looked ahead at most


@dataclass(frozen=True)
class Week:
    """Minutes for Valley's work on each weekday, Monday first; weekdays for filming and for publishing (0 is Monday); days off."""

    minutes: tuple[float, ...] = (60.0, 60.0, 60.0, 60.0, 60.0, 120.0, 0.0)
    film: frozenset[int] = frozenset({5})
    publish: frozenset[int] = frozenset({3})
    off: frozenset[date] = frozenset()

    def __post_init__(self) -> None:
        if len(self.minutes) != 7 or any(not 0 <= m <= 1440 for m in self.minutes):
            raise ParameterError(f"minutes={self.minutes} must be seven numbers from 0 to 1440, Monday first")
        if any(not 0 <= day <= 6 for day in (*self.film, *self.publish)):
            raise ParameterError("weekdays for filming and publishing must be 0 (Monday) to 6 (Sunday)")

    def minutes_on(self, day: date) -> float:
        return 0.0 if day in self.off else self.minutes[day.weekday()]


@dataclass(frozen=True)
class Job:
    """A song in hand: what is left to do as (stage, minutes), how many wait for it, until when it was promised."""

    song: int
    title: str
    work: tuple[tuple[int, float], ...]
    votes: int = 0
    promised: date | None = None

    @property
    def minutes(self) -> float:
        return sum(m for _, m in self.work)


@dataclass(frozen=True)
class Slot:
    """Work on one song towards one stage on one day; ``done`` where the stage is reached by it."""

    day: date
    song: int
    stage: int
    minutes: float
    done: bool


@dataclass(frozen=True)
class Plan:
    """Slots by day; when each song is out; songs with the days by which they miss their promise; songs that find no place at all."""

    slots: tuple[Slot, ...]
    out: dict[int, date] = field(default_factory=dict)
    late: dict[int, int] = field(default_factory=dict)
    left: tuple[int, ...] = ()


def order_jobs(jobs: Sequence[Job], week: Week, start: date) -> list[Job]:
    """Smith's order, with as many promises kept as can be; one that cannot be kept comes as soon as those allow."""
    until = _keepable(jobs, week, start)
    total = sum(j.minutes for j in jobs)
    # From the end on: what may stand last at this total is free to choose from, the least worth first.
    waiting = sorted((j for j in jobs if j.song in until), key=lambda j: until[j.song])
    free = [(_worth(j, until), -j.song, k, j) for k, j in enumerate(jobs) if j.song not in until]
    heapify(free)
    order: list[Job] = []
    while free or waiting:
        while waiting and (until[waiting[-1].song] >= total - 1e-6 or not free):
            job = waiting.pop()
            heappush(free, (_worth(job, until), -job.song, len(jobs) + len(waiting), job))
        last = heappop(free)[-1]
        order.append(last)
        total -= last.minutes
    return order[::-1]


def _keepable(jobs: Sequence[Job], week: Week, start: date) -> dict[int, float]:
    """Promises that can be kept together, as minutes of work until their day: earliest first, and where it becomes too much the longest gives way."""
    kept: list[Job] = []
    until: dict[int, float] = {}
    total = 0.0
    for job in sorted((j for j in jobs if j.promised), key=lambda j: (j.promised or date.max, j.song)):
        kept.append(job)
        total += job.minutes
        until[job.song] = _minutes_until(week, start, job.promised or date.max)
        if total > until[job.song]:
            longest = max(kept, key=lambda j: (j.minutes, j.song))
            kept.remove(longest)
            total -= longest.minutes
            del until[longest.song]
    return until


def _worth(job: Job, until: dict[int, float]) -> float:
    """Viewers per minute; a promise that is broken already is made good first."""
    broken = job.promised is not None and job.song not in until
    return float("inf") if broken else (1 + job.votes) / max(job.minutes, 1.0)


def _minutes_until(week: Week, start: date, end: date) -> float:
    """Minutes of work there are from ``start`` to ``end``, both counted."""
    days = (end - start).days + 1
    return sum(week.minutes_on(start + timedelta(i)) for i in range(min(max(days, 0), _LONGEST)))


def plan_work(jobs: Sequence[Job], week: Week, start: date, *, days: int = 120) -> Plan:
    """Lay out all work from ``start`` on.

    Raises
    ------
    ParameterError
        days is not 1 to 366
    """
    if not 1 <= days <= _LONGEST:
        raise ParameterError(f"days={days} must be 1 to {_LONGEST}")
    queue = order_jobs(jobs, week, start)
    todo = {j.song: list(j.work) for j in queue}
    slots: list[Slot] = []
    out: dict[int, date] = {}
    for day in (start + timedelta(i) for i in range(days)):
        _fill_day(day, week, queue, todo, slots, out)
    late = {j.song: (out[j.song] - j.promised).days for j in queue if j.promised and j.song in out and out[j.song] > j.promised}
    unplaced = [j for j in queue if todo[j.song]]
    late |= {j.song: (start + timedelta(days) - j.promised).days for j in unplaced if j.promised and j.promised < start + timedelta(days)}
    return Plan(tuple(slots), out, late, tuple(j.song for j in unplaced))


def _fill_day(day: date, week: Week, queue: Sequence[Job], todo: dict[int, list[tuple[int, float]]], slots: list[Slot], out: dict[int, date]) -> None:
    """One day: each song in turn goes as far as the day's time and kind allow."""
    free = week.minutes_on(day)
    published = False
    for job in queue:
        if free <= 0:
            break
        work = todo[job.song]
        while work and free > 0:
            stage, need = work[0]
            if stage == FILMED and day.weekday() not in week.film:
                break
            if stage == PUBLISHED and (published or day.weekday() not in week.publish):
                break
            # Estimates are not so exact that a quarter of an hour would be left for another day.
            given = need if need <= free * _OVERRUN else min(free, need)
            if given < min(_SHORTEST, need):
                free = 0.0
                break
            done = given >= need - 1e-9
            slots.append(Slot(day, job.song, stage, given, done))
            free = max(0.0, free - given)
            if not done:
                work[0] = (stage, need - given)
                break
            work.pop(0)
            if stage == PUBLISHED:
                published, out[job.song] = True, day
