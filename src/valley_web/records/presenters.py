"""Records as the browser shows them."""

from collections.abc import Mapping
from datetime import date, timedelta

from django.db.models import Sum
from django.utils import timezone

from valley.phrases import Words
from valley.records.calendar import Week
from valley.records.comments import CommentReading
from valley.records.estimates import Estimate, say_minutes, say_range
from valley.records.places import find_set_right
from valley.records.way import STAGES, WAY
from valley.records.weigh import weigh_correction
from valley_web.lessons.services import teach_song
from valley_web.records import selectors
from valley_web.records.api.schemas import (
    AskingOut,
    CalendarOut,
    CommentOut,
    CorrectionOut,
    DayOut,
    GroupOut,
    PlannedOut,
    PostOut,
    RecordsOut,
    ShelfOut,
    ShelfRowOut,
    SlotOut,
    StageOut,
    WaymarkOut,
    WeekOut,
)
from valley_web.records.models import Asking, Correction, TimeSpent, ViewerComment
from valley_web.songs.models import Song, StageMark
from valley_web.songs.presenters import show_song
from valley_web.songs.selectors import Shelf, get_chart

_SHOWN_DAYS = 42


def say_estimate(estimate: Estimate) -> str:
    """ "about 3 hours (2 to 4½ hours)"; the range is that in which four songs of five end."""
    if estimate.minutes <= 0:
        return ""
    said, span = f"about {say_minutes(estimate.minutes)}", say_range(estimate.low, estimate.high)
    return said if span == say_minutes(estimate.minutes) else f"{said} ({span})"


def show_shelf(shelf: Shelf) -> ShelfOut:
    rates = selectors.learn_rates()
    rows = []
    for song in shelf.songs:
        left = selectors.estimate_left(song, rates)
        rows.append(ShelfRowOut(song=show_song(song), minutes_left=left.minutes, time_left=f"about {say_minutes(left.minutes)}" if left.minutes else ""))
    return ShelfOut(
        rows=rows,
        total=shelf.total,
        stages=[StageOut(name=name, songs=shelf.by_stage.get(i, 0)) for i, name in enumerate(STAGES)],
        new_comments=ViewerComment.objects.filter(state=ViewerComment.State.NEW).count(),
    )


def show_records(song: Song) -> RecordsOut:
    rates = selectors.learn_rates()
    ahead = dict(selectors.estimate_stages(song, rates))
    reached = {m.stage: m.at for m in StageMark.objects.filter(song=song)}
    spent = dict(TimeSpent.objects.filter(song=song).values_list("stage").annotate(total=Sum("minutes")))
    plan, _ = selectors.plan_calendar(timezone.localdate())
    return RecordsOut(
        song=show_song(song),
        askings=[
            AskingOut(
                id=a.pk,
                handle=a.handle,
                note=a.note,
                votes=a.votes,
                promise=a.promise,
                asked_at=a.asked_at,
                came_from=a.came_from_id,
                came_from_title=a.came_from.title if a.came_from else "",
            )
            for a in Asking.objects.filter(song=song).select_related("came_from")
        ],
        way=[
            WaymarkOut(
                stage=i,
                name=stage.name,
                deed=stage.deed,
                reached_at=reached.get(i),
                spent=spent.get(i, 0.0),
                estimate=say_estimate(ahead[i]) if i in ahead else "",
                estimate_minutes=ahead[i].minutes if i in ahead else 0.0,
                looked_back=rates[i].songs if i in rates else 0,
            )
            for i, stage in enumerate(WAY)
        ],
        corrections=show_corrections(song),
        time_left=say_estimate(selectors.estimate_left(song, rates)),
        out_on=plan.out.get(song.pk),
        late_days=plan.late.get(song.pk, 0),
    )


def show_corrections(song: Song) -> list[CorrectionOut]:
    rows = list(Correction.objects.filter(song=song))
    titles: Mapping[str, str] = {}
    if song.revision and any(c.step for c in rows):
        lesson = teach_song(song).lesson
        titles = {s.key: Words(lesson.schools).title(s) for s in lesson.steps}
    chart = get_chart(song) if song.revision and rows else None
    out = []
    for c in rows:
        wanted, said = find_set_right(c.text)
        out.append(
            CorrectionOut(
                id=c.pk,
                handle=c.handle,
                text=c.text,
                bar=c.bar,
                step=c.step,
                step_title=titles.get(c.step, ""),
                state=c.state,  # type: ignore[arg-type]  # the model's choices are these words
                answer=c.answer,
                weighed=weigh_correction(chart, c.bar, wanted, said) if chart else "",
                made_at=c.made_at,
            )
        )
    return out


def show_post(post: selectors.Post, limit: int = 40) -> PostOut:
    """The post, at most ``limit`` of each of its three lists, and how long each is."""
    by_kind = {kind: [c for c in post.comments.values() if post.readings[c.pk].kind == kind] for kind in ("correction", "other")}
    corrections = by_kind["correction"][:limit]
    charts = {c.song_id: get_chart(c.song) for c in corrections if c.song and c.song.revision}

    def show(comment: ViewerComment) -> CommentOut:
        reading: CommentReading = post.readings[comment.pk]
        chart = charts.get(comment.song_id or 0)
        return CommentOut(
            id=comment.pk,
            handle=comment.handle,
            text=comment.text,
            likes=comment.likes,
            under=comment.song.title if comment.song else "",
            under_id=comment.song_id,
            posted_at=comment.posted_at,
            why=reading.why,
            bar=reading.place.bar,
            place=reading.place.words,
            weighed=weigh_correction(chart, reading.place.bar, reading.wanted, reading.said) if chart and reading.kind == "correction" else "",
        )

    groups = []
    for g in post.groups[:limit]:
        known = post.songs.get(g.known)
        groups.append(
            GroupOut(
                title=g.title,
                known_id=known.pk if known else None,
                known_stage=STAGES[known.stage] if known else "",
                votes=g.votes,
                viewers=len(g.handles),
                spellings=list(g.spellings),
                comments=[show(post.comments[i]) for i in g.comments],
            )
        )
    return PostOut(
        groups=groups,
        corrections=[show(c) for c in corrections],
        others=[show(c) for c in by_kind["other"][:limit]],
        total_groups=len(post.groups),
        total_corrections=len(by_kind["correction"]),
        total_others=len(by_kind["other"]),
        dealt_with=ViewerComment.objects.exclude(state=ViewerComment.State.NEW).count(),
    )


def show_week(week: Week) -> WeekOut:
    return WeekOut(minutes=list(week.minutes), film=sorted(week.film), publish=sorted(week.publish), off=sorted(week.off))


def show_calendar(start: date) -> CalendarOut:
    week = selectors.get_week()
    plan, songs = selectors.plan_calendar(start)
    rates = selectors.learn_rates()
    days = []
    for day in (start + timedelta(i) for i in range(_SHOWN_DAYS)):
        slots = [
            SlotOut(
                song_id=s.song, title=songs[s.song].title, stage=s.stage, deed=WAY[s.stage].deed, minutes=s.minutes, words=say_minutes(s.minutes), done=s.done
            )
            for s in plan.slots
            if s.day == day
        ]
        free = week.minutes_on(day)
        days.append(DayOut(day=day, free=free, film=day.weekday() in week.film, publish=day.weekday() in week.publish, off=day in week.off, slots=slots))
    planned = []
    for song in songs.values():
        left = selectors.estimate_left(song, rates)
        planned.append(
            PlannedOut(
                song_id=song.pk,
                title=song.title,
                votes=song.votes,
                promised_for=song.promised_for,
                out_on=plan.out.get(song.pk),
                late_days=plan.late.get(song.pk, 0),
                time_left=f"about {say_minutes(left.minutes)}",
            )
        )
    planned.sort(key=lambda p: (p.out_on or date.max, p.title))
    return CalendarOut(days=days, songs=planned, week=show_week(week), minutes_total=sum(s.minutes for s in plan.slots))
