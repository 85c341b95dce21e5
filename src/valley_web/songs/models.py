"""What is kept of a song: its recording, the jobs that listen to it, what was heard, every revision of its chart."""

import json
from typing import Any

from django.db import models
from django.utils import timezone

from valley.formats.song_json import write_song
from valley.song import SongState


class StateEncoder(json.JSONEncoder):
    """Takes a song's state as it is: by far the quickest way to keep the many notes of a long song."""

    def encode(self, o: Any) -> str:
        return write_song(o) if isinstance(o, SongState) else super().encode(o)


class Song(models.Model):
    """One song in hand. Deleting sets a time; nothing is thrown away."""

    title = models.CharField(max_length=200)
    demo = models.CharField(max_length=60, unique=True, null=True, blank=True, help_text="name of the demo song, if it is one")
    first_choices = models.JSONField(default=dict, blank=True, help_text="choices for the hands with which the first chart begins; empty for the usual ones")
    rights = models.CharField(max_length=1000, blank=True, help_text="what permission is held for song, recording and sheet music")
    ready_at = models.DateTimeField(null=True, blank=True, help_text="when the lesson was marked ready to film")
    ready_despite = models.PositiveSmallIntegerField(default=0, help_text="errors that stood open when it was marked ready")
    revision = models.PositiveIntegerField(default=0, help_text="number of the current version; 0 before one is made")
    stage = models.PositiveSmallIntegerField(default=0, db_index=True, help_text="how far it is on its way; a number of valley.records.way.WAY")
    votes = models.PositiveIntegerField(default=0, db_index=True, help_text="viewers who ask for it")
    wanted = models.CharField(max_length=300, blank=True, help_text="how much of it is to be taught, and for whom")
    promised_for = models.DateField(null=True, blank=True, help_text="day by which the lesson was promised")
    corrections = models.PositiveSmallIntegerField(default=0, help_text="reports of viewers that are still open")
    # Read off the current chart whenever it changes, so that a shelf of thousands is listed without opening one.
    facts = models.CharField(max_length=200, blank=True)
    doubts = models.PositiveIntegerField(default=0)
    bars = models.PositiveIntegerField(default=0)
    bars_to_learn = models.PositiveIntegerField(default=0)
    sought = models.TextField(blank=True, help_text="what it is found by: title, facts, viewers, wishes, in plain letters")
    created_at = models.DateTimeField(default=timezone.now)
    changed_at = models.DateTimeField(auto_now=True)
    deleted_at = models.DateTimeField(null=True, blank=True)

    class Meta:
        ordering = ["-created_at", "-id"]
        indexes = [models.Index(fields=["deleted_at", "-created_at"], name="shelf_by_age")]

    def __str__(self) -> str:
        return self.title


class StageMark(models.Model):
    """A waymark that a song has reached, and when."""

    song = models.ForeignKey(Song, on_delete=models.CASCADE, related_name="marks")
    stage = models.PositiveSmallIntegerField()
    at = models.DateTimeField(default=timezone.now)
    actor = models.CharField(max_length=150, default="owner")

    class Meta:
        ordering = ["stage"]
        constraints = [models.UniqueConstraint(fields=["song", "stage"], name="one_mark_a_stage")]

    def __str__(self) -> str:
        return f"{self.song_id} reached stage {self.stage}"


class Recording(models.Model):
    """An uploaded file under a name of our own; the name it came with is only ever shown."""

    song = models.OneToOneField(Song, on_delete=models.CASCADE, related_name="recording")
    original_name = models.CharField(max_length=255)
    stored_name = models.CharField(max_length=64, unique=True)
    content_type = models.CharField(max_length=60)
    size = models.PositiveBigIntegerField()
    sha256 = models.CharField(max_length=64, db_index=True)
    duration = models.FloatField(default=0.0, help_text="seconds; 0 before it is decoded")
    warning = models.CharField(max_length=300, blank=True)
    loudness = models.JSONField(default=list, help_text="levels 0 to 1, LOUDNESS_RATE a second")
    added_at = models.DateTimeField(default=timezone.now)
    actor = models.CharField(max_length=150, default="owner")

    def __str__(self) -> str:
        return self.original_name


class HearingRecord(models.Model):
    """What was heard; never edited. A new listening makes a new one."""

    recording = models.ForeignKey(Recording, on_delete=models.CASCADE, related_name="hearings")
    document = models.JSONField()
    evidence = models.BinaryField(default=bytes, help_text="what sounds when, to hold charts against; empty for hearings made before it was kept")
    made_at = models.DateTimeField(default=timezone.now)

    class Meta:
        ordering = ["-id"]

    def __str__(self) -> str:
        return f"hearing {self.pk} of {self.recording_id}"


class Revision(models.Model):
    """One version of a song: its whole state as one document. ``parent`` is the number of the version it was made from; undo goes there."""

    song = models.ForeignKey(Song, on_delete=models.CASCADE, related_name="revisions")
    number = models.PositiveIntegerField()
    parent = models.PositiveIntegerField(default=0)
    state = models.JSONField(encoder=StateEncoder, help_text="chart, choices of the hands, teaching and settings, as valley.formats.song_json writes them")
    what = models.CharField(max_length=300)
    name = models.CharField(max_length=80, blank=True, help_text="given by the creator, to find the version again")
    edit = models.JSONField(null=True, blank=True, help_text="the edit that made it, so that it can be spread to repeats")
    key = models.CharField(max_length=40, blank=True, db_index=True, help_text="the page's name for the edit, so that one which is sent twice is done once")
    kept_aside = models.BooleanField(default=False, help_text="made in a window that was out of date, and so never current")
    actor = models.CharField(max_length=150, default="owner")
    made_at = models.DateTimeField(default=timezone.now)

    class Meta:
        ordering = ["number"]
        constraints = [models.UniqueConstraint(fields=["song", "number"], name="one_revision_a_number")]

    def __str__(self) -> str:
        return f"revision {self.number} of {self.song_id}"


class Job(models.Model):
    """Long work, claimed by a worker under a lease: a worker that dies lets it lapse, and another takes it up."""

    class State(models.TextChoices):
        WAITING = "waiting", "waiting"
        RUNNING = "running", "running"
        DONE = "done", "done"
        FAILED = "failed", "failed"
        CANCELLED = "cancelled", "cancelled"

    state = models.CharField(max_length=10, choices=State.choices, default=State.WAITING, db_index=True)
    stage = models.CharField(max_length=60, blank=True)
    fraction = models.FloatField(default=0.0)
    found = models.JSONField(default=list)
    error = models.CharField(max_length=400, blank=True)
    attempts = models.PositiveSmallIntegerField(default=0, help_text="claims so far; who holds the job knows it by this number")
    failures = models.PositiveSmallIntegerField(default=0, help_text="how often the work itself broke off, not its worker or the machine")
    not_before = models.DateTimeField(null=True, blank=True, help_text="when it is tried again after a failure, or a full disk")
    cancel_asked = models.BooleanField(default=False)
    lease_until = models.DateTimeField(null=True, blank=True)
    actor = models.CharField(max_length=150, default="owner")
    made_at = models.DateTimeField(default=timezone.now)
    finished_at = models.DateTimeField(null=True, blank=True)

    class Meta:
        abstract = True
        ordering = ["-id"]

    def __str__(self) -> str:
        return f"job {self.pk} ({self.state})"


class ListeningJob(Job):
    """One listening to a recording."""

    recording = models.ForeignKey(Recording, on_delete=models.CASCADE, related_name="jobs")


class FilmJob(Job):
    """One film of a song, as it was at a revision. ``stored_name`` is its file, "" until it is made and after it is cleared away."""

    song = models.ForeignKey(Song, on_delete=models.CASCADE, related_name="films")
    revision = models.PositiveIntegerField(help_text="of the song that it shows")
    wanted = models.JSONField(help_text="what was asked for, as valley.pipeline.film.Film has it")
    file_name = models.CharField(max_length=80)
    stored_name = models.CharField(max_length=64, blank=True)
    size = models.PositiveBigIntegerField(default=0)
    seconds = models.FloatField(default=0.0)


class ShareLink(models.Model):
    """A link by which somebody without an account sees a song's page for viewers."""

    song = models.ForeignKey(Song, on_delete=models.CASCADE, related_name="links")
    token = models.CharField(max_length=64, unique=True)
    actor = models.CharField(max_length=150, default="owner")
    made_at = models.DateTimeField(default=timezone.now)
    taken_back_at = models.DateTimeField(null=True, blank=True)

    class Meta:
        ordering = ["-id"]

    def __str__(self) -> str:
        return f"link to {self.song_id}"


class LogEntry(models.Model):
    """A line of the logbook: a note by hand, a decision with its reason, or slips at the keyboard."""

    class Kind(models.TextChoices):
        NOTE = "note", "note"
        DECISION = "decision", "decision"
        SLIP = "slip", "slip"

    song = models.ForeignKey(Song, on_delete=models.CASCADE, related_name="log")
    kind = models.CharField(max_length=10, choices=Kind.choices, default=Kind.NOTE)
    text = models.CharField(max_length=500)
    bar = models.PositiveIntegerField(null=True, blank=True)
    count = models.PositiveIntegerField(default=1)
    revision = models.PositiveIntegerField(null=True, blank=True, help_text="the version that the decision made; when it is undone the line is not told")
    about = models.CharField(max_length=80, blank=True, help_text="what a decision is about: the next one about it, made at once, takes its place")
    actor = models.CharField(max_length=150, default="owner")
    made_at = models.DateTimeField(default=timezone.now)

    class Meta:
        ordering = ["-id"]

    def __str__(self) -> str:
        return f"{self.kind} of {self.song_id}: {self.text}"


class Deed(models.Model):
    """Who did what, and when: one line for every change that makes no version of its own."""

    song = models.ForeignKey(Song, on_delete=models.CASCADE, null=True, blank=True, related_name="deeds")
    what = models.CharField(max_length=300)
    actor = models.CharField(max_length=150)
    at = models.DateTimeField(default=timezone.now)

    class Meta:
        ordering = ["-id"]

    def __str__(self) -> str:
        return f"{self.actor} {self.what}"
