"""Changing songs: one function a change, each with its transaction and its record."""

from collections.abc import Callable, Iterable, Sequence
from dataclasses import dataclass
from datetime import date
from pathlib import PurePath
from typing import Any, Literal

from django.db import transaction
from django.db.models import Max
from django.http import Http404
from django.utils import timezone
from pydantic import TypeAdapter

from valley.arranging.changes import ChangeGrip, HandsEdit, SetChordPattern, TakeLink, change_hands
from valley.charting.edits import Edit, apply_edit, set_title
from valley.charting.edits.chords import SetChord
from valley.charting.from_hearing import make_chart
from valley.charting.relisten import listen_again
from valley.formats.chart_json import dump_chart, read_chart
from valley.formats.choices_json import dump_choices, dump_teaching, read_choices
from valley.formats.hearing_json import read_hearing
from valley.lesson.plan import plan_lessons
from valley.model.chart import Chart
from valley.model.choices import Choices
from valley.model.lesson import Teaching
from valley.pipeline.charts import place_played
from valley.pipeline.decisions import say_decision, say_reading
from valley.pipeline.imports import read_any_song
from valley.records.way import CHOSEN, SCRIPTED
from valley_web.common.problems import ProblemError
from valley_web.songs import storage, way
from valley_web.songs.logbook import note_decision
from valley_web.songs.models import ChartRevision, HearingRecord, ListeningJob, LogEntry, Recording, Song
from valley_web.songs.selectors import find_redo, get_hearing, get_recording, get_revision

State = ListeningJob.State
MOST_BYTES_OF_NOTES = 20 * 2**20
_EDITS: TypeAdapter[Edit] = TypeAdapter(Edit)


@dataclass(frozen=True)
class Upload:
    """A file as it arrives: the name it came with, and its bytes."""

    name: str
    size: int
    chunks: Iterable[bytes]


def title_from(name: str) -> str:
    """A song's first title from a file's name, whatever is in it.

    >>> title_from("../my_song (live).mp3")
    'my song (live)'
    """
    stem = PurePath(name.replace("\\", "/")).stem
    clean = "".join(c if c.isprintable() else " " for c in stem).replace("_", " ")
    return " ".join(clean.split())[:200] or "Untitled song"


def add_recording(upload: Upload, *, title: str = "", again: bool = False, actor: str = "owner", demo: str | None = None, to: Song | None = None) -> Song:
    """Store a recording as a new song, or as that of a song which has none, and put it in line for listening.

    A file that is already here is refused unless ``again`` says that it is meant.
    """
    _refuse_empty(upload)
    if to is not None and get_recording(to):
        raise ProblemError(409, f"“{to.title}” has a recording already.", "Add this one as another song.", kind="taken")
    stored, size, sha256 = storage.store_file(upload.chunks)
    try:
        twin = Recording.objects.filter(sha256=sha256, song__deleted_at=None).select_related("song").first()
        if twin and not again:
            raise ProblemError(
                409,
                f"This recording is already on the shelf as “{twin.song.title}”.",
                "Open that song, or add the file once more as another song.",
                kind="twin",
                data={"song": twin.song_id},
            )
        with transaction.atomic():
            song = to or Song.objects.create(title=title.strip()[:200] or title_from(upload.name), demo=demo)
            recording = Recording.objects.create(
                song=song, original_name=upload.name[:255], stored_name=stored, content_type=storage.guess_type(stored), size=size, sha256=sha256
            )
            if demo is None:
                ListeningJob.objects.create(recording=recording)
            _choose(song, actor)
    except BaseException:
        storage.drop_file(stored)
        raise
    return song


def _refuse_empty(upload: Upload) -> None:
    if upload.size == 0:
        raise ProblemError(400, f"{upload.name!r} is empty (0 bytes).", "The copy or download may have broken off; fetch it once more.", kind="empty")


def _choose(song: Song, actor: str) -> None:
    """A song that something is brought for is one that was chosen."""
    way.index_song(song)
    if song.stage < CHOSEN:
        way.mark_stage(song, CHOSEN, actor=actor)


def import_song(upload: Upload, *, title: str = "", actor: str, to: Song | None = None) -> Song:
    """A song from a file of notes or chords: a new one, or, with ``to``, as the next version of one that is here.

    A file that cannot be read changes nothing.
    """
    _refuse_empty(upload)
    if upload.size > MOST_BYTES_OF_NOTES:
        said = f"{upload.name!r} has {upload.size // 2**20} MB; a file of notes has 20 at most."
        raise ProblemError(413, said, "Is it a recording? Then give it its own ending.")
    made = read_any_song(b"".join(upload.chunks), upload.name)
    named = title.strip()[:200] or (to.title if to else made.chart.title if made.chart.title != "Untitled" else title_from(upload.name))
    chart = set_title(made.chart, named)
    teaching = dump_teaching(made.teaching)
    with transaction.atomic():
        song = Song.objects.select_for_update().get(pk=to.pk) if to else Song.objects.create(title=chart.title)
        keep = to is not None and made.choices == Choices()
        # Without a tune the right hand would have nothing to do in the usual voicing.
        choices = Choices(style="root-and-chord") if made.choices == Choices() and not chart.melody else made.choices
        _add_revision(
            song, chart, f"read from {upload.name}", actor=actor, choices=None if keep else dump_choices(choices), teaching=None if keep else teaching
        )
        if made.order:
            Song.objects.filter(pk=song.pk).update(lesson_order=list(made.order))
    return song


def start_listening(song: Song, *, actor: str) -> ListeningJob:
    """Put a song in line, once: a job that waits or runs is given back as it is."""
    with transaction.atomic():
        recording = get_recording(song)
        if recording is None:
            raise ProblemError(422, "There is no recording to listen to.", "Add one first: on the song's records page, or drop it there.", kind="silent")
        active = ListeningJob.objects.filter(recording__song=song, state__in=[State.WAITING, State.RUNNING]).first()
        return active or ListeningJob.objects.create(recording=recording)


def cancel_listening(job_id: int, *, actor: str) -> ListeningJob:
    """Stop a job: at once while it waits, within a moment while it runs."""
    with transaction.atomic():
        job = ListeningJob.objects.select_for_update().filter(pk=job_id).first()
        if job is None:
            raise Http404
        if job.state == State.WAITING:
            job.state, job.finished_at = State.CANCELLED, timezone.now()
        elif job.state == State.RUNNING:
            job.cancel_asked = True
        job.save()
    return job


def keep_hearing(job_id: int, document: dict[str, Any], loudness: list[float], warning: str, *, evidence: bytes = b"") -> None:
    """Store what a finished job heard, make the first chart of it, close the job: all or nothing."""
    hearing = read_hearing(document)
    with transaction.atomic():
        job = ListeningJob.objects.select_related("recording__song").get(pk=job_id)
        recording = job.recording
        HearingRecord.objects.create(recording=recording, document=document, evidence=evidence)
        recording.duration, recording.loudness, recording.warning = hearing.duration, loudness, warning[:300]
        recording.save(update_fields=["duration", "loudness", "warning"])
        song = recording.song
        if song.revision == 0:
            _add_revision(song, make_chart(hearing, song.title), "Heard in the recording", actor="Valley", choices=song.first_choices)
        else:
            chart, told = listen_again(read_chart(get_revision(song).document), hearing)
            said = f"; it hears {len(told)} of your chords otherwise" if told else ""
            _add_revision(song, chart, f"Listened again; what you set is kept{said}", actor="Valley")
        job.state, job.fraction, job.finished_at, job.error = State.DONE, 1.0, timezone.now(), ""
        job.save()


def _add_revision(
    song: Song,
    chart: Chart,
    what: str,
    *,
    actor: str,
    parent: int | None = None,
    current: bool = True,
    edit: dict[str, Any] | None = None,
    choices: dict[str, Any] | None = None,
    teaching: dict[str, Any] | None = None,
) -> ChartRevision:
    """Without ``choices`` or ``teaching`` those of the revision it is made from go on."""
    if choices is None or teaching is None:
        before = ChartRevision.objects.filter(song=song, number=song.revision if parent is None else parent).only("choices", "teaching").first()
        choices = choices if choices is not None else before.choices if before else {}
        teaching = teaching if teaching is not None else before.teaching if before else {}
    last = ChartRevision.objects.filter(song=song).aggregate(last=Max("number"))["last"] or 0
    revision = ChartRevision.objects.create(
        song=song,
        number=last + 1,
        parent=song.revision if parent is None else parent,
        document=dump_chart(chart),
        choices=choices or {},
        teaching=teaching or {},
        what=what[:300],
        actor=actor,
        kept_aside=not current,
        edit=edit,
    )
    if current:
        song.revision = revision.number
        song.save(update_fields=["revision", "changed_at"])
        way.note_chart(song, chart)
    return revision


def change_chart(song: Song, *, base: int, edit: Edit, spread: Sequence[int] = (), actor: str) -> ChartRevision:
    """Correct a chart. A correction made on a chart that has moved on meanwhile is kept aside and reported."""
    with transaction.atomic():
        song = Song.objects.select_for_update().get(pk=song.pk)
        changed, what = apply_edit(read_chart(get_revision(song, base).document), edit, spread)
        if base == song.revision:
            made = _add_revision(song, changed, what, actor=actor, edit=None if spread else _EDITS.dump_python(edit, mode="json"))
            if isinstance(edit, SetChord):
                said = say_reading(read_chart(get_revision(song, base).document), edit)
                note_decision(song, made, f"{what}{said}", bar=changed.grid.place(edit.start)[0], actor=actor)
            return made
        kept = _add_revision(song, changed, what, actor=actor, parent=base, current=False)
        now = get_revision(song)
    raise ProblemError(
        409,
        "This chart was changed in another window.",
        f"Your change ({what}) is kept as version {kept.number}. The chart's last change now is: {now.what}. "
        "Look at the place and make your change again if you still want it.",
        kind="conflict",
        data={"kept": kept.number, "current": song.revision},
    )


def change_choices(song: Song, *, base: int, edit: HandsEdit, actor: str) -> ChartRevision:
    """Change what the hands play. Kept aside and reported, like a correction, where the song has moved on meanwhile."""
    hearing = get_hearing(song)
    with transaction.atomic():
        song = Song.objects.select_for_update().get(pk=song.pk)
        old = get_revision(song, base)
        chart = read_chart(old.document)
        played = place_played(hearing, chart.grid) if hearing else ()
        choices, what = change_hands(chart, read_choices(old.choices), edit, played=played)
        if base == song.revision:
            made = _add_revision(song, chart, what, actor=actor, choices=dump_choices(choices))
            bar = chart.grid.place(edit.start)[0] if isinstance(edit, ChangeGrip | TakeLink | SetChordPattern) else None
            note_decision(song, made, say_decision(chart, read_choices(old.choices), choices, edit, what, played), bar=bar, actor=actor)
            return made
        kept = _add_revision(song, chart, what, actor=actor, parent=base, current=False, choices=dump_choices(choices))
    raise ProblemError(
        409,
        "This song was changed in another window.",
        f"Your change ({what}) is kept as version {kept.number}. Look at the place and make it again if you still want it.",
        kind="conflict",
        data={"kept": kept.number, "current": song.revision},
    )


def change_teaching(song: Song, *, base: int, make: Callable[[ChartRevision], tuple[Teaching, str]], actor: str) -> ChartRevision:
    """Change schools or steps of the lesson; ``make`` gives the new teaching of a revision and what was done."""
    with transaction.atomic():
        song = Song.objects.select_for_update().get(pk=song.pk)
        old = get_revision(song, base)
        teaching, what = make(old)
        kept = base != song.revision
        revision = _add_revision(
            song, read_chart(old.document), what, actor=actor, parent=base, current=not kept, choices=old.choices, teaching=dump_teaching(teaching)
        )
        if not kept and not what.startswith("step "):
            note_decision(song, revision, what, actor=actor)
    if kept:
        raise ProblemError(
            409,
            "This song was changed in another window.",
            f"Your change ({what}) is kept as version {revision.number}. Look at the lesson and make it again if you still want it.",
            kind="conflict",
            data={"kept": revision.number, "current": song.revision},
        )
    return revision


def replace_chart(song: Song, chart: Chart, what: str, *, actor: str) -> ChartRevision:
    """Another chart for a song, as a new version."""
    with transaction.atomic():
        song = Song.objects.select_for_update().get(pk=song.pk)
        return _add_revision(song, chart, what, actor=actor)


def mark_ready(song: Song, *, errors: int, ready: bool, despite: bool, actor: str) -> None:
    """Mark the lesson ready to film; with errors open only where it is said that they are known."""
    if ready and errors and not despite:
        raise ProblemError(
            409,
            f"{errors} error{'s are' if errors > 1 else ' is'} still open in this lesson.",
            "Mend them, or mark it ready all the same; the number of open errors is then kept with it.",
            kind="findings",
            data={"errors": errors},
        )
    with transaction.atomic():
        Song.objects.filter(pk=song.pk).update(ready_at=timezone.now() if ready else None, ready_despite=errors if ready else 0)
        way.mark_stage(song, SCRIPTED, reached=ready, actor="Valley")
        known = f", with {errors} error{'s' if errors > 1 else ''} known" if ready and errors else ""
        text = f"{'ready to film' if ready else 'not ready to film after all'}{known}"
        LogEntry.objects.create(song=song, kind=LogEntry.Kind.DECISION, text=text, actor=actor)


def spread_change(song: Song, *, base: int, parts: Sequence[int], actor: str) -> ChartRevision:
    """Make the last correction in other parts that repeat the passage as well."""
    with transaction.atomic():
        song = Song.objects.select_for_update().get(pk=song.pk)
        last = get_revision(song)
        if last.number != base or last.edit is None:
            raise ProblemError(
                409, "The chart has moved on since that change.", "Make the change in the other parts by hand, or undo back to it.", kind="conflict"
            )
        edit = _EDITS.validate_python(last.edit)
        changed, what = apply_edit(read_chart(get_revision(song, last.parent).document), edit, parts)
        return _add_revision(song, changed, what, actor=actor)


def name_version(song: Song, number: int, name: str, *, actor: str) -> None:
    """Give a version a name to find it by; an empty one takes it away."""
    revision = get_revision(song, number)
    revision.name = " ".join(name.split())[:80]
    revision.save(update_fields=["name"])


def bring_back(song: Song, number: int, *, actor: str) -> ChartRevision:
    """Make an earlier version the current one, as a new version: nothing that came after it is lost."""
    with transaction.atomic():
        song = Song.objects.select_for_update().get(pk=song.pk)
        old = get_revision(song, number)
        chart = read_chart(old.document)
        what = f"version {number} brought back" + (f": {old.name}" if old.name else "")
        revision = _add_revision(song, chart, what, actor=actor, choices=old.choices, teaching=old.teaching)
        Song.objects.filter(pk=song.pk).update(title=chart.title)
    return revision


def step_back(song: Song, *, actor: str) -> None:
    """Undo: to the revision that the current one was made from."""
    with transaction.atomic():
        song = Song.objects.select_for_update().get(pk=song.pk)
        parent = get_revision(song).parent
        if parent:
            _go_to(song, parent)


def step_forward(song: Song, *, actor: str) -> None:
    """Redo: to the newest revision made from the current one."""
    with transaction.atomic():
        song = Song.objects.select_for_update().get(pk=song.pk)
        if child := find_redo(song):
            _go_to(song, child)


def _go_to(song: Song, number: int) -> None:
    """Make a revision current. Its title goes with it, so that the shelf and the lesson never disagree."""
    chart = read_chart(get_revision(song, number).document)
    song.revision, song.title = number, chart.title
    song.save(update_fields=["revision", "title", "changed_at"])
    way.note_chart(song, chart)


def change_song(
    song: Song,
    *,
    actor: str,
    title: str | None = None,
    rights: str | None = None,
    lesson_order: list[int] | None = None,
    lesson_minutes: float | None = None,
    wanted: str | None = None,
    promised_for: "date | None | Literal['']" = "",
) -> None:
    """Rename a song, note permission, wishes and promises, or choose what its lessons teach and how long they are. What is not given stays."""
    if rights is not None:
        song.rights = rights.strip()[:1000]
    if lesson_order is not None or lesson_minutes is not None:
        order = song.lesson_order if lesson_order is None else lesson_order
        minutes = song.lesson_minutes if lesson_minutes is None else lesson_minutes
        plan_lessons(read_chart(get_revision(song).document), order=order, minutes=minutes)
        song.lesson_order, song.lesson_minutes = order, minutes
    with transaction.atomic():
        if title is not None:
            if not title.strip():
                raise ProblemError(422, "The title is empty.", "Give the song a name.")
            song.title = title.strip()[:200]
            if song.revision:
                renamed = set_title(read_chart(get_revision(song).document), song.title)
                _add_revision(song, renamed, f"renamed to {song.title}", actor=actor)
        if wanted is not None:
            song.wanted = " ".join(wanted.split())[:300]
        if promised_for != "":
            song.promised_for = promised_for
        song.save(update_fields=["title", "rights", "lesson_order", "lesson_minutes", "wanted", "promised_for", "changed_at"])
        way.index_song(song)


def delete_song(song: Song, *, actor: str) -> None:
    """Take a song off the shelf; its job is stopped, everything else stays for bringing it back."""
    for job in ListeningJob.objects.filter(recording__song=song, state__in=[State.WAITING, State.RUNNING]):
        cancel_listening(job.pk, actor=actor)
    Song.objects.filter(pk=song.pk).update(deleted_at=timezone.now())


def restore_song(song_id: int, *, actor: str) -> None:
    if not Song.objects.filter(pk=song_id).update(deleted_at=None):
        raise Http404
