"""Charts as they were shown last, so that after a change only what is another need be made and sent again."""

from collections import OrderedDict
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime
from typing import Any

from valley.model.chart import Chart
from valley_web.songs.api.schemas import ChartOut, ChartPatchOut, Schema, SpliceOut
from valley_web.songs.models import Revision

_MOST = 12


@dataclass(frozen=True)
class Shown:
    """A chart, and what the page was told of it."""

    song: int
    chart: Chart
    out: ChartOut


_SHOWN: OrderedDict[tuple[int, datetime], Shown] = OrderedDict()


def remember_shown(revision: Revision, chart: Chart, out: ChartOut) -> ChartOut:
    _SHOWN[revision.pk, revision.made_at] = Shown(revision.song_id, chart, out)
    while len(_SHOWN) > _MOST:
        _SHOWN.popitem(last=False)
    return out


def last_shown(song: int) -> Shown | None:
    """The version of a song that was shown last, whichever it was."""
    return next((s for s in reversed(_SHOWN.values()) if s.song == song), None)


def shown_as(revision: Revision) -> ChartOut | None:
    """What the page was told of a version; None where it was not, or long ago."""
    found = _SHOWN.get((revision.pk, revision.made_at))
    return found.out if found else None


def carry_shown(before: Revision, after: Revision) -> None:
    """A version whose chart is that of the one before is known as that was shown."""
    found = _SHOWN.get((before.pk, before.made_at))
    if found and before.pk != after.pk:
        remember_shown(after, found.chart, found.out.model_copy(update={"revision": after.number}))


def make_patch(before: ChartOut, after: ChartOut) -> ChartPatchOut:
    """What makes one chart of the other: single values that differ, and of every list the one stretch that does."""
    fields: dict[str, Any] = {}
    rows: dict[str, SpliceOut] = {}
    for name in ChartOut.model_fields:
        old, new = getattr(before, name), getattr(after, name)
        if isinstance(new, list):
            if splice := _splice(old, new):
                rows[name] = splice
        elif old != new:
            fields[name] = new
    return ChartPatchOut(base=before.revision, fields=fields, rows=rows)


def _splice(old: Sequence[Any], new: Sequence[Any]) -> SpliceOut | None:
    at, most = 0, min(len(old), len(new))
    while at < most and (old[at] is new[at] or old[at] == new[at]):
        at += 1
    if at == len(old) == len(new):
        return None
    end = 0
    while end < most - at and (old[-1 - end] is new[-1 - end] or old[-1 - end] == new[-1 - end]):
        end += 1
    fresh = new[at : len(new) - end]
    return SpliceOut(at=at, gone=len(old) - end - at, rows=[r.model_dump(mode="json") if isinstance(r, Schema) else r for r in fresh])
