"""A version's state may be given as it is. What is kept, and how, stays the same: nothing is written anew."""

from django.db import migrations, models

import valley_web.songs.models


class Migration(migrations.Migration):
    dependencies = [("songs", "0013_links")]

    operations = [
        migrations.SeparateDatabaseAndState(
            state_operations=[
                migrations.AlterField(
                    model_name="revision",
                    name="state",
                    field=models.JSONField(
                        encoder=valley_web.songs.models.StateEncoder,
                        help_text="chart, choices of the hands, teaching and settings, as valley.formats.song_json writes them",
                    ),
                )
            ]
        )
    ]
