"""A small stand-in for a video site: it hands out viewers' comments, a few at a time, as a site's feed would.

It reads made-up comments from a file that ships with Valley. A bridge to a real site would offer the same ``fetch``.
"""

import json
from dataclasses import dataclass
from datetime import UTC, datetime, timedelta
from functools import lru_cache
from pathlib import Path

from valley.errors import FormatError

FEED = Path(__file__).with_name("feed.json")
_FIRST_DAY = datetime(2026, 9, 1, 9, tzinfo=UTC)


@dataclass(frozen=True)
class Posted:
    """One comment as the site tells it; ``under`` is the title of the lesson, ``reply_to`` the id of another comment."""

    id: str
    handle: str
    text: str
    under: str
    likes: int
    reply_to: str
    at: datetime


@lru_cache(maxsize=4)
def _load(path: Path) -> tuple[Posted, ...]:
    try:
        rows = json.loads(path.read_text("utf-8"))["comments"]
        return tuple(
            Posted(
                str(r["id"]),
                r["handle"],
                r["text"],
                r.get("under", ""),
                int(r.get("likes", 0)),
                str(r.get("reply_to", "")),
                _FIRST_DAY + timedelta(hours=7 * i),
            )
            for i, r in enumerate(rows)
        )
    except (OSError, ValueError, KeyError, TypeError) as error:
        raise FormatError(f"the feed {path.name!r} cannot be read: {error}") from error


def fetch(after: int, at_most: int = 30) -> tuple[Posted, ...]:
    """The comments that come after so many that were fetched before."""
    return _load(FEED)[after : after + at_most]
