"""A version of a song is one document; order and length of lessons are part of it. Who did it is kept with every change."""

import logging

import django.db.models.deletion
import django.utils.timezone
from django.db import migrations, models

logger = logging.getLogger(__name__)


def fold(apps, schema_editor):
    from valley.errors import ValleyError
    from valley.formats.old_songs import fold_song

    revisions, songs = apps.get_model("songs", "Revision"), apps.get_model("songs", "Song")
    plans = {s.pk: (s.lesson_order, s.lesson_minutes) for s in songs.objects.all().iterator()}
    for revision in revisions.objects.all().iterator():
        try:
            revision.state = fold_song(revision.document, revision.choices, revision.teaching, *plans[revision.song_id])
        except (ValleyError, KeyError, TypeError, ValueError) as error:
            # Kept as it is, whole: it says that it cannot be read when it is asked for, and the other versions stand.
            logger.warning("version %s of song %s cannot be folded over: %s", revision.number, revision.song_id, error)
            revision.state = {"format": "valley-unread", "version": 0, "chart": revision.document, "choices": revision.choices, "teaching": revision.teaching}
        revision.save(update_fields=["state"])
    for song in songs.objects.exclude(revision=0):
        now = revisions.objects.filter(song=song, number=song.revision).first()
        if now is None or now.state.get("format") == "valley-unread":
            readable = [r.number for r in revisions.objects.filter(song=song, kept_aside=False) if r.state.get("format") != "valley-unread"]
            song.revision = max(readable, default=0)
            song.save(update_fields=["revision"])


class Migration(migrations.Migration):
    dependencies = [("songs", "0009_log_revision")]
    operations = [
        migrations.RenameModel("ChartRevision", "Revision"),
        migrations.AddField(
            "revision",
            "state",
            models.JSONField(default=dict, help_text="chart, choices of the hands, teaching and settings, as valley.formats.song_json writes them"),
            preserve_default=False,
        ),
        migrations.RunPython(fold, migrations.RunPython.noop),
        migrations.RemoveField("revision", "document"),
        migrations.RemoveField("revision", "choices"),
        migrations.RemoveField("revision", "teaching"),
        migrations.RemoveField("song", "lesson_order"),
        migrations.RemoveField("song", "lesson_minutes"),
        migrations.AlterField("revision", "edit", models.JSONField(blank=True, help_text="the edit that made it, so that it can be spread to repeats", null=True)),
        migrations.AlterField("song", "revision", models.PositiveIntegerField(default=0, help_text="number of the current version; 0 before one is made")),
        migrations.AddField(
            "revision",
            "key",
            models.CharField(
                blank=True, db_index=True, default="", help_text="the page's name for the edit, so that one which is sent twice is done once", max_length=40
            ),
            preserve_default=False,
        ),
        migrations.AddField("recording", "actor", models.CharField(default="owner", max_length=150)),
        migrations.AddField("listeningjob", "actor", models.CharField(default="owner", max_length=150)),
        migrations.AddField(
            "logentry",
            "about",
            models.CharField(blank=True, help_text="what a decision is about: the next one about it, made at once, takes its place", max_length=80),
        ),
        migrations.CreateModel(
            name="Deed",
            fields=[
                ("id", models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name="ID")),
                ("what", models.CharField(max_length=300)),
                ("actor", models.CharField(max_length=150)),
                ("at", models.DateTimeField(default=django.utils.timezone.now)),
                (
                    "song",
                    models.ForeignKey(blank=True, null=True, on_delete=django.db.models.deletion.CASCADE, related_name="deeds", to="songs.song"),
                ),
            ],
            options={"ordering": ["-id"]},
        ),
    ]
