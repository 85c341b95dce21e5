"""Reading records: past times, what is left to do, the calendar, what viewers wrote."""

from collections import defaultdict
from collections.abc import Mapping
from dataclasses import dataclass
from datetime import date

from django.db.models import F, Sum

from valley.records.calendar import Job, Plan, Week, plan_work
from valley.records.comments import Comment, CommentReading, Group, group_requests, read_comments
from valley.records.estimates import Estimate, Past, Rate, add_up, learn_rate
from valley.records.way import ASKED, CHOSEN, PUBLISHED, WAY, size_of
from valley_web.records.models import TimeSpent, ViewerComment, WorkWeek
from valley_web.songs.models import Song

LOOKED_BACK = 40  # songs: how fast one works now, not how fast one was years ago
_MOST_COMMENTS = 1000
Rates = Mapping[int, Rate]


def learn_rates() -> Rates:
    """What the last songs took, by stage: only stages that were reached, for the others may not be at their end."""
    rows = (
        TimeSpent.objects.values_list("song_id", "stage", "song__stage", "song__bars", "song__bars_to_learn")
        .annotate(total=Sum("minutes"))
        .order_by("-song_id")
    )
    past: dict[int, list[Past]] = defaultdict(list)
    for _, stage, reached, bars, to_learn, minutes in rows[: LOOKED_BACK * len(WAY)]:
        if reached >= stage and minutes >= 1 and len(past[stage]) < LOOKED_BACK:
            past[stage].append(Past(size_of(stage, bars=bars, bars_to_learn=to_learn), minutes))
    return {stage: learn_rate(stage, past[stage]) for stage in range(CHOSEN, len(WAY))}


def estimate_stages(song: Song, rates: Rates) -> list[tuple[int, Estimate]]:
    """What is left until the song is out, stage by stage."""
    first = max(song.stage + 1, CHOSEN)
    return [(stage, rates[stage].estimate(size_of(stage, bars=song.bars, bars_to_learn=song.bars_to_learn))) for stage in range(first, PUBLISHED + 1)]


def estimate_left(song: Song, rates: Rates) -> Estimate:
    return add_up([e for _, e in estimate_stages(song, rates)])


def get_week() -> Week:
    row = WorkWeek.objects.first()
    if row is None:
        return Week()
    return Week(tuple(float(m) for m in row.minutes), frozenset(row.film), frozenset(row.publish), frozenset(date.fromisoformat(d) for d in row.off))


def plan_calendar(start: date, *, days: int = 120) -> tuple[Plan, dict[int, Song]]:
    """Every chosen song that is not out yet, laid out over the creator's hours."""
    songs = {s.pk: s for s in Song.objects.filter(deleted_at=None, stage__gt=ASKED, stage__lt=PUBLISHED).order_by("id")}
    rates, spent = learn_rates(), _spent_on_next()
    jobs = []
    for song in songs.values():
        work = [(stage, e.minutes) for stage, e in estimate_stages(song, rates)]
        if work:  # what was begun is nearer its end, but never at it before it is marked
            stage, minutes = work[0]
            work[0] = (stage, max(minutes - spent.get(song.pk, 0.0), 0.15 * minutes))
        jobs.append(Job(song.pk, song.title, tuple(work), song.votes, song.promised_for))
    return plan_work(jobs, get_week(), start, days=days), songs


def _spent_on_next() -> dict[int, float]:
    """Minutes given so far to the stage that each song is on its way to."""
    rows = TimeSpent.objects.filter(stage=F("song__stage") + 1).values_list("song_id").annotate(total=Sum("minutes"))
    return dict(rows)


@dataclass(frozen=True)
class Post:
    """New comments with what each is taken for, and the requests among them by song."""

    comments: dict[int, ViewerComment]
    readings: dict[int, CommentReading]
    groups: tuple[Group, ...]
    songs: dict[str, Song]


def read_post() -> Post:
    """Sort the comments that nobody has dealt with."""
    rows = list(ViewerComment.objects.filter(state=ViewerComment.State.NEW).select_related("song")[:_MOST_COMMENTS])
    # An older song of the same title gives way to the newer one.
    songs = {s.title: s for s in Song.objects.filter(deleted_at=None).only("id", "title", "stage", "votes").order_by("id")}
    comments = [Comment(c.pk, c.handle, c.text, c.song.title if c.song else "", c.reply_to_id, c.likes) for c in rows]
    readings = read_comments(comments, list(songs))
    groups = group_requests(comments, readings, list(songs))
    return Post({c.pk: c for c in rows}, {r.comment: r for r in readings}, groups, songs)
