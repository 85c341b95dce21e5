"""The listening of a song: asked for, stopped, kept."""

from dataclasses import replace
from typing import Any

from django.db import transaction
from django.utils import timezone

from valley.charting.from_hearing import make_chart
from valley.charting.relisten import listen_again
from valley.formats.choices_json import read_choices
from valley.formats.hearing_json import read_hearing
from valley.model.hearing import Hearing
from valley.song import SongState
from valley_web.common.errors import Gone, Unfit
from valley_web.songs.calls import call_for_listeners
from valley_web.songs.changes import keep_version
from valley_web.songs.deeds import note_deed
from valley_web.songs.models import HearingRecord, ListeningJob, Song
from valley_web.songs.selectors import get_recording, get_state

State = ListeningJob.State


def start_listening(song: Song, *, actor: str) -> ListeningJob:
    """Put a song in line, once: a job that waits or runs is given back as it is."""
    with transaction.atomic():
        recording = get_recording(song)
        if recording is None:
            raise Unfit("There is no recording to listen to.", "Add one first: on the song's records page, or drop it there.", kind="silent")
        active = ListeningJob.objects.filter(recording__song=song, state__in=[State.WAITING, State.RUNNING]).first()
        call_for_listeners()
        return active or ListeningJob.objects.create(recording=recording, actor=actor)


def cancel_listening(job_id: int, *, actor: str) -> ListeningJob:
    """Stop a job: at once while it waits, within a moment while it runs."""
    with transaction.atomic():
        job = ListeningJob.objects.select_for_update().select_related("recording__song").filter(pk=job_id).first()
        if job is None:
            raise Gone()
        if job.state == State.WAITING:
            job.state, job.finished_at = State.CANCELLED, timezone.now()
        elif job.state == State.RUNNING:
            job.cancel_asked = True
        job.save()
        note_deed("stopped the listening", actor=actor, song=job.recording.song)
    return job


def keep_hearing(job: ListeningJob, document: dict[str, Any], loudness: list[float], warning: str, *, evidence: bytes = b"") -> bool:
    """Store what a finished job heard, make the first chart of it, close the job: all or nothing.

    Only who holds the job may keep its hearing: False where another worker has taken it over, or it was stopped meanwhile.
    """
    hearing = read_hearing(document)
    with transaction.atomic():
        held = ListeningJob.objects.select_for_update().select_related("recording__song").get(pk=job.pk)
        if held.state != State.RUNNING or held.attempts != job.attempts:
            return False
        recording = held.recording
        HearingRecord.objects.create(recording=recording, document=document, evidence=evidence)
        recording.duration, recording.loudness, recording.warning = hearing.duration, loudness, warning[:300]
        recording.save(update_fields=["duration", "loudness", "warning"])
        song = Song.objects.select_for_update().get(pk=recording.song_id)
        state, what = _chart(song, hearing)
        keep_version(song, state, what, actor="Valley")
        held.state, held.fraction, held.finished_at, held.error = State.DONE, 1.0, timezone.now(), ""
        held.save()
    return True


def _chart(song: Song, hearing: Hearing) -> tuple[SongState, str]:
    """The first chart of a song, or what was heard anew under what the creator set."""
    if song.revision == 0:
        return SongState(make_chart(hearing, song.title), read_choices(song.first_choices)), "Heard in the recording"
    now = get_state(song)
    chart, told = listen_again(now.chart, hearing)
    said = f"; it hears {len(told)} of your chords otherwise" if told else ""
    return replace(now, chart=chart), f"Listened again; what you set is kept{said}"
