"""The shelf: songs that are added, read from files, renamed, marked ready, taken away and brought back. One function a change."""

from collections.abc import Iterable, Mapping
from dataclasses import dataclass, replace
from pathlib import PurePath

from django.db import transaction
from django.utils import timezone

from valley.edits import RenameSong
from valley.model.choices import Choices
from valley.model.lesson import Settings, Teaching
from valley.records.way import CHOSEN, SCRIPTED
from valley.song import SongState
from valley_web.common.errors import Conflict, Empty, Gone, TooMuch, Unfit
from valley_web.common.seen import overtaken, said_of, tell_overtaken
from valley_web.songs import storage, way
from valley_web.songs.calls import call_for_listeners
from valley_web.songs.changes import edit_song, refuse_unseen, take_state
from valley_web.songs.deeds import note_deed
from valley_web.songs.listening import cancel_listening
from valley_web.songs.models import HearingRecord, ListeningJob, LogEntry, Recording, Song
from valley_web.songs.reading import read_song_file
from valley_web.songs.selectors import get_recording, get_state

State = ListeningJob.State
MOST_BYTES_OF_NOTES = 20 * 2**20


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
        raise Conflict(f"“{to.title}” has a recording already.", "Add this one as another song.", kind="taken")
    stored, size, sha256 = storage.store_file(upload.chunks)
    try:
        twin = Recording.objects.filter(sha256=sha256, song__deleted_at=None).select_related("song").first()
        if twin and not again:
            raise Conflict(
                f"This recording is already on the shelf as “{twin.song.title}”.",
                "Open that song, or add the file once more as another song.",
                kind="twin",
                data={"song": twin.song_id},
            )
        with transaction.atomic():
            song = to or Song.objects.create(title=title.strip()[:200] or title_from(upload.name), demo=demo)
            recording = Recording.objects.create(
                song=song,
                original_name=upload.name[:255],
                stored_name=stored,
                content_type=storage.guess_type(stored),
                size=size,
                sha256=sha256,
                actor=actor,
            )
            if demo is None:
                ListeningJob.objects.create(recording=recording, actor=actor)
                call_for_listeners()
            _choose(song, actor)
    except BaseException:
        storage.drop_file(stored)
        raise
    return song


def _refuse_empty(upload: Upload) -> None:
    if upload.size == 0:
        raise Empty(f"{upload.name!r} is empty (0 bytes).", "The copy or download may have broken off; fetch it once more.", kind="empty")


def _choose(song: Song, actor: str) -> None:
    """A song that something is brought for is one that was chosen."""
    way.index_song(song)
    if song.stage < CHOSEN:
        way.mark_stage(song, CHOSEN, actor=actor)


def import_song(upload: Upload, *, title: str = "", actor: str, to: Song | None = None, base: int = 0) -> Song:
    """A song from a file of notes or chords: a new one, or, with ``to``, as the next version of one that is here.

    A file that cannot be read changes nothing; nor does one that was meant for version ``base`` where another window has changed the song since.
    """
    _refuse_empty(upload)
    if upload.size > MOST_BYTES_OF_NOTES:
        said = f"{upload.name!r} has {upload.size // 2**20} MB; a file of notes has 20 at most."
        raise TooMuch(said, "Is it a recording? Then give it its own ending.")
    made = read_song_file(b"".join(upload.chunks), upload.name)
    named = title.strip()[:200] or (to.title if to else made.chart.title if made.chart.title != "Untitled" else title_from(upload.name))
    with transaction.atomic():
        song = Song.objects.select_for_update().get(pk=to.pk) if to else Song.objects.create(title=named)
        if to:
            refuse_unseen(song, base)
        song.title = named
        take_state(song, _with_choices(song, made), f"read from {upload.name}", actor=actor)
    return song


def _with_choices(song: Song, made: SongState) -> SongState:
    """A file that brings nothing but a chart leaves what was chosen for a song that is here, as far as it fits."""
    if (made.choices, made.teaching, made.settings) != (Choices(), Teaching(), Settings()):
        return made
    if song.revision:
        now, parts = get_state(song), len(made.chart.parts)
        choices = replace(now.choices, parts=tuple(p for p in now.choices.parts if p.part <= parts))
        order = now.settings.order if all(n <= parts for n in now.settings.order) else ()
        return SongState(made.chart, choices, now.teaching, replace(now.settings, order=order))
    # Without a tune the right hand would have nothing to do in the usual voicing.
    return made if made.chart.melody else replace(made, choices=Choices(style="root-and-chord"))


def copy_song(song: Song, *, actor: str) -> Song:
    """Another song with the same recording, what was heard in it, and the version in hand; what is asked and logged stays with the first."""
    recording = get_recording(song)
    stored = ""
    try:
        if recording:
            stored, _, _ = storage.store_file(storage.read_chunks(recording.stored_name))
        with transaction.atomic():
            copy = Song.objects.create(title=f"{song.title[:190]} (copy)", rights=song.rights, first_choices=song.first_choices)
            if recording:
                _copy_recording(recording, copy, stored, actor)
            if song.revision:
                state = get_state(song)
                take_state(copy, replace(state, chart=replace(state.chart, title=copy.title)), f"copied from “{song.title}”", actor=actor)
            _choose(copy, actor)
            note_deed(f"copied “{song.title}”", actor=actor, song=copy)
    except BaseException:
        if stored:
            storage.drop_file(stored)
        raise
    return copy


def _copy_recording(recording: Recording, copy: Song, stored: str, actor: str) -> None:
    whole = Recording.objects.get(pk=recording.pk)  # every field of it, whatever was read before
    heard = HearingRecord.objects.filter(recording=recording).first()
    whole.pk, whole.song, whole.stored_name, whole.actor = None, copy, stored, actor
    whole.save(force_insert=True)
    if heard:
        heard.pk, heard.recording = None, whole
        heard.save(force_insert=True)


def mark_ready(song: Song, *, errors: int, ready: bool, despite: bool, actor: str) -> None:
    """Mark the lesson ready to film; with errors open only where it is said that they are known."""
    if ready and errors and not despite:
        raise Conflict(
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


def change_song(song: Song, *, seen: Mapping[str, object], actor: str, **wanted: object) -> None:
    """Rename a song, note permission, wishes and promises: ``title``, ``rights``, ``wanted``, ``promised_for``, each as it was ``seen`` before.

    What is not given stays; what another window changed meanwhile is not written over, but kept in the logbook and told. A charted song is
    renamed by an edit.
    """
    fields = _tidy(wanted)
    with transaction.atomic():
        song = Song.objects.select_for_update().get(pk=song.pk)
        now = {name: getattr(song, name) for name in fields}
        lost = overtaken(now, seen, fields)
        if lost:
            LogEntry.objects.create(song=song, kind=LogEntry.Kind.NOTE, text=said_of(lost)[:500], actor=actor)
        else:
            Song.objects.filter(pk=song.pk).update(changed_at=timezone.now(), **fields)
            if "title" in fields and song.revision:
                edit_song(song, base=song.revision, edit=RenameSong(str(fields["title"])), actor=actor)
            note_deed(f"changed {', '.join(fields) or 'nothing'}", actor=actor, song=song)
            song.refresh_from_db()
            way.index_song(song)
    if lost:
        tell_overtaken(lost, now, "in the logbook")


def _tidy(wanted: Mapping[str, object]) -> dict[str, object]:
    fields = dict(wanted)
    if isinstance(rights := fields.get("rights"), str):
        fields["rights"] = rights.strip()[:1000]
    if isinstance(kind := fields.get("wanted"), str):
        fields["wanted"] = " ".join(kind.split())[:300]
    if isinstance(title := fields.get("title"), str):
        if not title.strip():
            raise Unfit("The title is empty.", "Give the song a name.")
        fields["title"] = title.strip()[:200]
    return {name: value for name, value in fields.items() if value is not None or name == "promised_for"}


def delete_song(song: Song, *, actor: str) -> None:
    """Take a song off the shelf; its job is stopped, everything else stays for bringing it back."""
    for job in ListeningJob.objects.filter(recording__song=song, state__in=[State.WAITING, State.RUNNING]):
        cancel_listening(job.pk, actor=actor)
    Song.objects.filter(pk=song.pk).update(deleted_at=timezone.now())
    note_deed("took the song off the shelf", actor=actor, song=song)


def restore_song(song_id: int, *, actor: str) -> None:
    song = Song.objects.filter(pk=song_id).first()
    if song is None:
        raise Gone()
    Song.objects.filter(pk=song_id).update(deleted_at=None)
    note_deed("put the song back on the shelf", actor=actor, song=song)
