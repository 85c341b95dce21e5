"""The logbook as Valley keeps it: decisions with their reasons, each with the version it made, so that what was undone is not told."""

from valley_web.songs.models import ChartRevision, LogEntry, Song

_SHOWN = 500


def note_decision(song: Song, revision: ChartRevision, text: str, *, bar: int | None = None, actor: str) -> None:
    """Keep a decision. One about the same thing, made just before, is taken into it: the last word counts, not every try."""
    last = LogEntry.objects.filter(song=song).first()
    again = last is not None and last.revision == revision.parent and last.bar == bar and last.text.split(",")[0] == text.split(",")[0]
    if last is not None and again:
        LogEntry.objects.filter(pk=last.pk).update(text=text[:500], revision=revision.number)
    else:
        LogEntry.objects.create(song=song, kind=LogEntry.Kind.DECISION, text=text[:500], bar=bar, revision=revision.number, actor=actor)


def list_lines(song: Song) -> list[LogEntry]:
    """Lines, the newest first, without decisions that were undone."""
    parents = dict(ChartRevision.objects.filter(song=song).values_list("number", "parent"))
    line, at = set(), song.revision
    while at and at not in line:
        line.add(at)
        at = parents.get(at, 0)
    return [e for e in LogEntry.objects.filter(song=song)[:_SHOWN] if e.revision is None or e.revision in line]
