"""Reading songs and charts. Every query that a page makes is here."""

from fractions import Fraction

from django.db.models import Prefetch, Q, QuerySet
from django.http import Http404

from valley.charting.edits.spread import Twin, find_twins
from valley.formats.chart_json import read_chart
from valley.formats.hearing_json import read_hearing
from valley.listening.evidence import Agreement, rate_agreement, read_evidence
from valley.model.chart import Chart
from valley.model.hearing import Hearing
from valley_web.songs.models import ChartRevision, HearingRecord, ListeningJob, Song


def list_songs(*, deleted: bool = False) -> QuerySet[Song]:
    """Songs with their recording and latest job, newest first, in two queries."""
    jobs = ListeningJob.objects.order_by("-id")
    return (
        Song.objects.filter(deleted_at__isnull=not deleted)
        .select_related("recording")
        .defer("recording__loudness")
        .prefetch_related(Prefetch("recording__jobs", queryset=jobs, to_attr="latest_jobs"))
    )


def list_current_charts(songs: list[Song]) -> dict[int, Chart]:
    """The current chart of every charted song, in one query."""
    wanted = Q()
    for song in songs:
        if song.revision:
            wanted |= Q(song=song, number=song.revision)
    if not wanted:
        return {}
    return {r.song_id: read_chart(r.document) for r in ChartRevision.objects.filter(wanted)}


def get_song(song_id: int) -> Song:
    song = list_songs().filter(pk=song_id).first()
    if song is None:
        raise Http404
    return song


def latest_job(song: Song) -> ListeningJob | None:
    """The newest job of a song that ``list_songs`` gave."""
    jobs: list[ListeningJob] = getattr(song.recording, "latest_jobs", [])
    return jobs[0] if jobs else None


def get_revision(song: Song, number: int | None = None) -> ChartRevision:
    """A revision of the chart, the current one without a number."""
    revision = ChartRevision.objects.filter(song=song, number=number or song.revision).first()
    if revision is None:
        raise Http404
    return revision


def get_chart(song: Song) -> Chart:
    return read_chart(get_revision(song).document)


def get_hearing(song: Song) -> Hearing | None:
    """The newest hearing of a song's recording."""
    record = HearingRecord.objects.filter(recording=song.recording).defer("evidence").first()
    return read_hearing(record.document) if record else None


def find_offer(song: Song, revision: ChartRevision) -> tuple[Twin, ...]:
    """Repeats to which the correction that made a revision could be spread."""
    place = (revision.edit or {}).get("start") or (revision.edit or {}).get("at")
    if place is None or not revision.parent:
        return ()
    return find_twins(read_chart(get_revision(song, revision.parent).document), Fraction(place))


def find_order(song: Song, chart: Chart) -> tuple[int, ...]:
    """Parts to teach in order. A choice that no longer fits the parts, which were split or joined since, gives way to all."""
    chosen = tuple(song.lesson_order)
    return chosen if len(set(chosen)) == len(chosen) and set(chosen) <= {p.number for p in chart.parts} else ()


def rate_bars(song: Song, chart: Chart) -> dict[int, Agreement]:
    """How well each bar of a chart explains the newest hearing's sound; empty where no evidence was kept."""
    data = HearingRecord.objects.filter(recording=song.recording).values_list("evidence", flat=True).first()
    return {a.bar: a for a in rate_agreement(chart, read_evidence(bytes(data)))} if data else {}


def find_redo(song: Song) -> int:
    """Number of the revision that redo would go to; 0 where there is none."""
    child = ChartRevision.objects.filter(song=song, parent=song.revision, number__gt=song.revision, kept_aside=False).order_by("-number").first()
    return child.number if child else 0
