"""Reading songs and charts. Every query that a page makes is here."""

from collections import OrderedDict
from dataclasses import dataclass
from datetime import datetime
from functools import cached_property, lru_cache

from django.db.models import Count, F, Prefetch, Q, QuerySet
from django.db.models.expressions import OrderBy

from valley.charting.transpose import transpose_chart
from valley.charting.twins import Twin, find_twins
from valley.errors import ParameterError
from valley.formats.edit_json import read_edit
from valley.formats.hearing_json import read_hearing
from valley.formats.song_json import read_song
from valley.listening.evidence import Agreement, Evidence, Rated, rate_agreement, read_evidence
from valley.model.chart import Chart
from valley.model.hearing import Hearing, Tempo
from valley.records.titles import make_plain
from valley.song import SongState, Work
from valley_web.common.errors import Gone
from valley_web.songs.models import HearingRecord, ListeningJob, Recording, Revision, Song

ORDERS: dict[str, tuple[str | OrderBy, ...]] = {
    "newest": ("-created_at", "-id"),
    "title": ("title", "id"),
    "votes": ("-votes", "-created_at"),
    "furthest": ("-stage", "-changed_at"),
    "promised": (F("promised_for").asc(nulls_last=True), "-votes"),
    "shortest": ("bars_to_learn", "title"),
    "changed": ("-changed_at", "-id"),
}


def list_songs(*, deleted: bool = False) -> QuerySet[Song]:
    """Songs with their recording and latest job, newest first, in two queries."""
    jobs = ListeningJob.objects.order_by("-id")
    return (
        Song.objects.filter(deleted_at__isnull=not deleted)
        .select_related("recording")
        .defer("recording__loudness")
        .prefetch_related(Prefetch("recording__jobs", queryset=jobs, to_attr="latest_jobs"))
    )


@dataclass(frozen=True)
class Shelf:
    """One stretch of the shelf, how many songs the search finds, and how many of them stand at each stage."""

    songs: list[Song]
    total: int
    by_stage: dict[int, int]


def search_shelf(words: str = "", *, stage: int | None = None, order: str = "newest", deleted: bool = False, offset: int = 0, limit: int = 60) -> Shelf:
    """Songs whose title, facts, viewers or wishes hold every word, at a stage if one is named."""
    if order not in ORDERS:
        raise ParameterError(f"order={order!r} must be one of {', '.join(ORDERS)}")
    found = Q(deleted_at__isnull=not deleted)
    for word in make_plain(words).split():
        found &= Q(sought__contains=word)
    by_stage = dict(Song.objects.filter(found).order_by().values_list("stage").annotate(n=Count("id")))
    total = sum(by_stage.values()) if stage is None else by_stage.get(stage, 0)
    if stage is not None:
        found &= Q(stage=stage)
    # The numbers first, the rows then: SQLite sorts numbers without reading documents.
    ids = list(Song.objects.filter(found).order_by(*ORDERS[order]).values_list("id", flat=True)[offset : offset + limit])
    rows = {s.pk: s for s in list_songs(deleted=deleted).filter(pk__in=ids)}
    return Shelf([rows[i] for i in ids if i in rows], total, by_stage)


def get_standing(song_id: int) -> tuple[int, datetime]:
    """Number of a song's current version, and when anything about it was changed last; or Gone."""
    standing = Song.objects.filter(pk=song_id, deleted_at=None).values_list("revision", "changed_at").first()
    if standing is None:
        raise Gone()
    return standing


def get_song(song_id: int) -> Song:
    song = list_songs().filter(pk=song_id).first()
    if song is None:
        raise Gone()
    return song


def latest_job(song: Song) -> ListeningJob | None:
    """The newest job of a song that ``list_songs`` gave."""
    jobs: list[ListeningJob] = getattr(get_recording(song), "latest_jobs", [])
    return jobs[0] if jobs else None


def get_recording(song: Song) -> Recording | None:
    """The song's recording; a request, or a song read from a file of notes, has none."""
    return getattr(song, "recording", None)


def get_revision(song: Song, number: int | None = None) -> Revision:
    """A revision of the chart, the current one without a number."""
    revision = Revision.objects.defer("state").filter(song=song, number=number or song.revision).first()
    if revision is None:
        raise Gone()
    return revision


class Versions:
    """The current version of a song, and others by their numbers: what one answer speaks of is asked for once."""

    def __init__(self, song: Song, *numbers: int) -> None:
        self.song = song
        wanted = {song.revision, *numbers} - {0}
        self._rows = {r.number: r for r in Revision.objects.defer("state").filter(song=song, number__in=wanted)}
        self.current = self[song.revision]

    def __getitem__(self, number: int) -> Revision:
        if number not in self._rows:
            self._rows[number] = get_revision(self.song, number)
        return self._rows[number]

    @cached_property
    def redo(self) -> int:
        """Number of the version that redo would go to; 0 where there is none."""
        return find_redo(self.song)

    @cached_property
    def offer(self) -> tuple[Twin, ...]:
        """Repeats to which the edit that made the current version could be spread."""
        made = self.current
        place = read_edit(made.edit).place if made.edit and made.parent else None
        return find_twins(state_of(self[made.parent]).chart, place) if place is not None else ()


_STATES: OrderedDict[tuple[int, datetime], SongState] = OrderedDict()
_MOST_STATES = 24


def state_of(revision: Revision) -> SongState:
    """What a version holds. A version never changes, so the last few are kept as they were read."""
    key = (revision.pk, revision.made_at)
    found = _STATES.get(key)
    return found if found is not None else remember_state(revision, read_song(revision.state))


def remember_state(revision: Revision, state: SongState) -> SongState:
    """Keep a version's state at hand: that of one that was just made needs no reading."""
    _STATES[revision.pk, revision.made_at] = state
    while len(_STATES) > _MOST_STATES:
        _STATES.popitem(last=False)
    return state


def get_state(song: Song, number: int | None = None) -> SongState:
    """The song's state at a version, the current one without a number."""
    return state_of(get_revision(song, number))


def get_chart(song: Song) -> Chart:
    return get_state(song).chart


def get_hearing(song: Song) -> Hearing | None:
    """The newest hearing of a song's recording."""
    record = HearingRecord.objects.filter(recording__song=song).defer("evidence").first()
    return read_hearing(record.document) if record else None


def heard_tempi(song: Song) -> tuple[Tempo, ...]:
    """At which tempi the newest hearing says that the song can be counted; none where it was made before that was kept."""
    rows = HearingRecord.objects.filter(recording__song=song).values_list("document__tempi", flat=True).first()
    return tuple(Tempo(row["bpm"], row["probability"]) for row in rows or ())


@lru_cache(maxsize=8)
def _made_of(state: SongState, hearing: Hearing | None) -> Work:
    return Work(state, hearing)


def get_work(song: Song, number: int | None = None) -> Work:
    """A song with all that is made of it. A page asks for hands, lesson and findings of one state: they are made once, and kept for the last few states."""
    return _made_of(get_state(song, number), get_hearing(song))


def rate_bars(song: Song, chart: Chart) -> dict[int, Agreement]:
    """How well each bar of a chart explains the newest hearing's sound; empty where no evidence was kept."""
    hearing = HearingRecord.objects.filter(recording__song=song).values_list("pk", "made_at").first()
    evidence = _evidence_of(*hearing) if hearing else None
    if hearing is None or evidence is None:
        return {}
    sounding = transpose_chart(chart, -chart.transposed)
    found = rate_agreement(sounding, evidence, _RATED.get(hearing))
    _RATED[hearing] = Rated(sounding, found)
    while len(_RATED) > _MOST_RATED:
        _RATED.popitem(last=False)
    return {a.bar: a for a in found}


_RATED: OrderedDict[tuple[int, datetime], Rated] = OrderedDict()
_MOST_RATED = 8


@lru_cache(maxsize=_MOST_RATED)
def _evidence_of(hearing: int, _made_at: datetime) -> Evidence | None:
    """What was heard when, of a hearing by its number and its time: another database, or one brought back, may use a number again."""
    data = HearingRecord.objects.values_list("evidence", flat=True).get(pk=hearing)
    return read_evidence(bytes(data)) if data else None


def find_redo(song: Song) -> int:
    """Number of the revision that redo would go to; 0 where there is none."""
    later = Revision.objects.filter(song=song, parent=song.revision, number__gt=song.revision, kept_aside=False)
    return later.order_by("-number").values_list("number", flat=True).first() or 0
