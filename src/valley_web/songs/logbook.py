"""The logbook as Valley keeps it: decisions with their reasons, each with the version it made, so that what was undone is not told."""

from dataclasses import dataclass

from django.db.models import Sum

from valley.pipeline.decisions import Decision
from valley_web.songs.models import LogEntry, Revision, Song

_KEPT_IN_VIEW = 2000


def note_decision(song: Song, revision: Revision, decision: Decision, *, actor: str) -> None:
    """Keep a decision. One about the same thing, made just before, is taken into it: the last word counts, not every try."""
    last = LogEntry.objects.filter(song=song).first()
    text = f"{decision.what}, {decision.reason}" if decision.reason else decision.what
    if last is not None and last.revision == revision.parent and last.about == decision.about:
        LogEntry.objects.filter(pk=last.pk).update(text=text[:500], revision=revision.number)
        return
    LogEntry.objects.create(
        song=song, kind=LogEntry.Kind.DECISION, text=text[:500], bar=decision.bar, revision=revision.number, actor=actor, about=decision.about
    )


@dataclass(frozen=True)
class Log:
    """The newest lines of a logbook, how many there are, and how often the fingers slipped in which bar."""

    lines: list[LogEntry]
    total: int
    slips: list[tuple[int, int]]


def read_log(song: Song, most: int) -> Log:
    """The logbook with at most so many of its lines; slips are counted over all of it, the worst bar first."""
    lines = _list_lines(song)
    slips = LogEntry.objects.filter(song=song, kind=LogEntry.Kind.SLIP, bar__isnull=False).order_by().values_list("bar")
    counted = slips.annotate(times=Sum("count")).order_by("-times", "bar").values_list("bar", "times")[:5]
    return Log(lines[:most], len(lines), [(bar, times) for bar, times in counted if bar is not None])


def _list_lines(song: Song) -> list[LogEntry]:
    """Lines, the newest first, without decisions that were undone."""
    parents = dict(Revision.objects.filter(song=song).values_list("number", "parent"))
    line, at = set(), song.revision
    while at and at not in line:
        line.add(at)
        at = parents.get(at, 0)
    return [e for e in LogEntry.objects.filter(song=song)[:_KEPT_IN_VIEW] if e.revision is None or e.revision in line]
