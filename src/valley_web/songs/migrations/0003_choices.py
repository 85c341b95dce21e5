"""Choices for the hands become part of every revision, so that they are undone like everything else."""

from django.db import migrations, models


def carry_over(apps, schema_editor):
    Song = apps.get_model("songs", "Song")
    ChartRevision = apps.get_model("songs", "ChartRevision")
    for song in Song.objects.all():
        choices = {"format": "valley-choices", "version": 1, "style": song.style, "hand": song.hand, "keyboard": str(song.keyboard)}
        ChartRevision.objects.filter(song=song).update(choices=choices)
        song.first_choices = choices
        song.save(update_fields=["first_choices"])


class Migration(migrations.Migration):

    dependencies = [("songs", "0002_versions")]

    operations = [
        migrations.AddField("chartrevision", "choices", models.JSONField(blank=True, default=dict, help_text="what was chosen for the hands; empty for the usual choices")),
        migrations.AddField("song", "first_choices", models.JSONField(blank=True, default=dict, help_text="choices for the hands with which the first chart begins; empty for the usual ones")),
        migrations.RunPython(carry_over, migrations.RunPython.noop),
        migrations.RemoveField("song", "style"),
        migrations.RemoveField("song", "hand"),
        migrations.RemoveField("song", "keyboard"),
    ]
