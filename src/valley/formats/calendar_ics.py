"""The plan of work as an iCalendar file (RFC 5545): one whole-day entry for each song, stage and day."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from datetime import date, timedelta
from typing import Final

_DEEDS: Final = ("Note", "Choose", "Record", "Chart", "Hands", "Script", "Film", "Publish", "Corrections")
_WIDTH: Final = 73  # octets in a line before it is folded


def dump_ics(rows: Sequence[tuple[date, int, int, float]], titles: Mapping[int, str]) -> str:
    """``rows`` are (day, song, stage, minutes); ``titles`` name the songs.

    >>> text = dump_ics([(date(2026, 3, 5), 7, 6, 90.0)], {7: "Paper Harbour"})
    >>> "SUMMARY:Film: Paper Harbour (90 min)" in text
    True
    """
    lines = ["BEGIN:VCALENDAR", "VERSION:2.0", "PRODID:-//Valley//plan of work//EN"]
    for day, song, stage, minutes in rows:
        lines += [
            "BEGIN:VEVENT",
            f"UID:{song}-{stage}-{day:%Y%m%d}@valley.invalid",
            f"DTSTAMP:{day:%Y%m%d}T000000Z",
            f"DTSTART;VALUE=DATE:{day:%Y%m%d}",
            f"DTEND;VALUE=DATE:{day + timedelta(1):%Y%m%d}",
            f"SUMMARY:{_escape(f'{_DEEDS[stage]}: {titles[song]} ({round(minutes)} min)')}",
            "TRANSP:TRANSPARENT",
            "END:VEVENT",
        ]
    lines.append("END:VCALENDAR")
    return "".join(f"{_fold(line)}\r\n" for line in lines)


def _escape(text: str) -> str:
    return text.replace("\\", "\\\\").replace(";", "\\;").replace(",", "\\,").replace("\n", "\\n")


def _fold(line: str) -> str:
    """Long lines go on after a line break and a space; no letter is cut in two."""
    pieces, piece = [], ""
    for letter in line:
        if len((piece + letter).encode()) > _WIDTH:
            pieces.append(piece)
            piece = letter
        else:
            piece += letter
    return "\r\n ".join([*pieces, piece])
