"""Who asks for a song, what viewers write and report, how long work took, and the hours there are."""

from django.db import models
from django.utils import timezone

from valley_web.songs.models import Song


class ViewerComment(models.Model):
    """A comment as it came from the video site. Nothing is thrown away: one that is of no use is set aside."""

    class State(models.TextChoices):
        NEW = "new", "new"
        REQUEST = "request", "taken as a request"
        CORRECTION = "correction", "taken as a correction"
        ASIDE = "aside", "set aside"

    site_id = models.CharField(max_length=60, unique=True)
    song = models.ForeignKey(Song, on_delete=models.SET_NULL, null=True, blank=True, related_name="comments", help_text="whose lesson it stands under")
    handle = models.CharField(max_length=80)
    text = models.CharField(max_length=2000)
    likes = models.PositiveIntegerField(default=0)
    reply_to = models.ForeignKey("self", on_delete=models.SET_NULL, null=True, blank=True, related_name="replies")
    state = models.CharField(max_length=10, choices=State.choices, default=State.NEW, db_index=True)
    posted_at = models.DateTimeField(default=timezone.now)

    class Meta:
        ordering = ["id"]

    def __str__(self) -> str:
        return f"{self.handle}: {self.text[:40]}"


class Asking(models.Model):
    """One viewer who asks for a song; ``votes`` counts those who agree as well."""

    song = models.ForeignKey(Song, on_delete=models.CASCADE, related_name="askings")
    handle = models.CharField(max_length=80)
    note = models.CharField(max_length=500, blank=True)
    votes = models.PositiveIntegerField(default=1)
    promise = models.CharField(max_length=200, blank=True, help_text="what was promised to this viewer")
    comment = models.ForeignKey(ViewerComment, on_delete=models.SET_NULL, null=True, blank=True, related_name="askings")
    came_from = models.ForeignKey(Song, on_delete=models.SET_NULL, null=True, blank=True, related_name="+", help_text="the request it was merged from")
    asked_at = models.DateTimeField(default=timezone.now)

    class Meta:
        ordering = ["-votes", "id"]

    def __str__(self) -> str:
        return f"{self.handle} asks for {self.song_id}"


class Correction(models.Model):
    """What a viewer reports as wrong, at its bar and step, and what became of it."""

    class State(models.TextChoices):
        OPEN = "open", "open"
        MENDED = "mended", "mended"
        KEPT = "kept", "kept as it is"

    song = models.ForeignKey(Song, on_delete=models.CASCADE, related_name="reports")
    handle = models.CharField(max_length=80)
    text = models.CharField(max_length=2000)
    bar = models.PositiveIntegerField(null=True, blank=True)
    step = models.CharField(max_length=80, blank=True, help_text="key of a lesson's step")
    state = models.CharField(max_length=10, choices=State.choices, default=State.OPEN)
    answer = models.CharField(max_length=500, blank=True)
    comment = models.ForeignKey(ViewerComment, on_delete=models.SET_NULL, null=True, blank=True, related_name="reports")
    made_at = models.DateTimeField(default=timezone.now)
    closed_at = models.DateTimeField(null=True, blank=True)

    class Meta:
        ordering = ["-id"]

    def __str__(self) -> str:
        return f"{self.state} correction of {self.song_id}: {self.text[:40]}"


class TimeSpent(models.Model):
    """Minutes of work towards a stage of a song, on one day."""

    song = models.ForeignKey(Song, on_delete=models.CASCADE, related_name="times")
    stage = models.PositiveSmallIntegerField()
    day = models.DateField()
    minutes = models.FloatField()
    by_hand = models.BooleanField(default=False)

    class Meta:
        ordering = ["day", "stage"]
        constraints = [models.UniqueConstraint(fields=["song", "stage", "day", "by_hand"], name="one_time_a_day")]

    def __str__(self) -> str:
        return f"{self.minutes} minutes on {self.song_id}"


class WorkWeek(models.Model):
    """The hours the creator has, one row: minutes by weekday (Monday first), weekdays for filming and publishing, days off (ISO)."""

    minutes = models.JSONField(default=list)
    film = models.JSONField(default=list)
    publish = models.JSONField(default=list)
    off = models.JSONField(default=list)

    def __str__(self) -> str:
        return f"{sum(self.minutes):.0f} minutes a week"
