"""Checks of a song: each gives findings with place, severity, a sentence, and the edit that mends it where one way is sure.

A new check is a function in the file of its subject and its name in the tuple at the end of that file; one of the hands looks at one part at a time, unless
it says otherwise.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace
from functools import lru_cache

from valley.arranging.reach import hand_named, key_range, keyboard_range
from valley.checking import chart as chart_checks
from valley.checking import hands as hands_checks
from valley.checking import lesson as lesson_checks
from valley.checking import notes as notes_checks
from valley.checking._grips import Room
from valley.checking.finding import ERROR, NOTE, WARNING, Finding, Mend
from valley.fraction import Fraction
from valley.model.arrangement import Arrangement
from valley.model.chart import Chart
from valley.model.choices import Choices, gist_of
from valley.model.lesson import Lesson
from valley.song.work import Work

_KEPT = 512  # parts whose findings are kept
_ORDER = {ERROR: 0, WARNING: 1, NOTE: 2}


def check_song(work: Work) -> tuple[Finding, ...]:
    """Every open finding of a song's chart, hands and lesson, the gravest first, then in the order of the song."""
    meant = {m.place for m in work.choices.meant}
    return tuple(f for f in _find_all(work) if _place(f) not in meant)


def closed_findings(work: Work) -> tuple[tuple[Finding, str], ...]:
    """The findings that the creator means as they are, each with the reason that was given."""
    reasons = {m.place: m.reason for m in work.choices.meant}
    return tuple((f, reasons[_place(f)]) for f in _find_all(work) if _place(f) in reasons)


@lru_cache(maxsize=4)
def _find_all(work: Work) -> tuple[Finding, ...]:
    return check_all(work.chart, work.arrangement, work.lesson, room_of(work.choices))


def _place(finding: Finding) -> tuple[str, Fraction | None, str]:
    return finding.check, finding.start, gist_of(finding.sentence)


def room_of(choices: Choices) -> Room:
    """The room that hand, keyboard and camera give."""
    hand, keyboard = hand_named(choices.hand), keyboard_range(choices.keyboard)
    return Room(hand.comfort_mm, hand.most_mm, keyboard, key_range(choices.frame) if choices.frame else keyboard, choices.bass == "root")


def check_all(chart: Chart, arrangement: Arrangement | None = None, lesson: Lesson | None = None, room: Room | None = None) -> tuple[Finding, ...]:
    """Findings of what there is: the chart alone, or with the hands (which need their ``room``) and the lesson."""
    found = [f for check in chart_checks.CHECKS for f in check(chart)]
    if arrangement is not None and room is not None:
        for played in arrangement.parts:
            found += _check_part(chart.only(chart.parts[played.part - 1]), replace(arrangement, parts=(played,)), room)
        found += [f for check in hands_checks.CHECKS_OF_ALL for f in check(chart, arrangement, room)]
        if lesson is not None:
            found += [f for check in lesson_checks.CHECKS for f in check(chart, arrangement, lesson)]
    return tuple(sorted(_thin(found), key=lambda f: (_ORDER[f.severity], f.start if f.start is not None else Fraction(-1))))


@lru_cache(maxsize=_KEPT)
def _check_part(chart: Chart, arrangement: Arrangement, room: Room) -> tuple[Finding, ...]:
    """The findings of one part's hands, from its own chords and notes alone: a correction elsewhere leaves them as they are."""
    return tuple(f for check in (*hands_checks.CHECKS, *notes_checks.CHECKS) for f in check(chart, arrangement, room))


def _thin(found: Sequence[Finding]) -> list[Finding]:
    """Of findings that say one thing of several places the first, with how often it comes."""
    times: dict[tuple[str, str], int] = {}
    for f in found:
        if f.alike:
            times[f.check, f.alike] = times.get((f.check, f.alike), 0) + 1
    out: list[Finding] = []
    for f in found:
        more = times.pop((f.check, f.alike), 0) if f.alike else 1
        if more > 1:
            out.append(replace(f, sentence=f"{f.sentence[:-1]} (and in {more - 1} more place{'s' if more > 2 else ''})."))
        elif more:
            out.append(f)
    return out


__all__ = ["ERROR", "NOTE", "WARNING", "Finding", "Mend", "Room", "check_all", "check_song", "closed_findings", "room_of"]
