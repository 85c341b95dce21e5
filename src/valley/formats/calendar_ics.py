"""The plan of work as an iCalendar file (RFC 5545): one whole-day entry for each song, stage and day."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from datetime import UTC, date, datetime, timedelta
from typing import Final

from icalendar import Calendar, Event

_DEEDS: Final = ("Note", "Choose", "Record", "Chart", "Hands", "Script", "Film", "Publish", "Corrections")


def dump_ics(rows: Sequence[tuple[date, int, int, float]], titles: Mapping[int, str]) -> str:
    """``rows`` are (day, song, stage, minutes); ``titles`` name the songs.

    >>> text = dump_ics([(date(2026, 3, 5), 7, 6, 90.0)], {7: "Paper Harbour"})
    >>> "SUMMARY:Film: Paper Harbour (90 min)" in text
    True
    """
    calendar = Calendar()
    calendar.add("version", "2.0")
    calendar.add("prodid", "-//Valley//plan of work//EN")
    for day, song, stage, minutes in rows:
        event = Event()
        event.add("uid", f"{song}-{stage}-{day:%Y%m%d}@valley.invalid")
        event.add("dtstamp", datetime(day.year, day.month, day.day, tzinfo=UTC))
        event.add("dtstart", day)
        event.add("dtend", day + timedelta(1))
        event.add("summary", f"{_DEEDS[stage]}: {titles[song]} ({round(minutes)} min)")
        event.add("transp", "TRANSPARENT")
        calendar.add_component(event)
    text: str = calendar.to_ical().decode("utf-8")
    return text
