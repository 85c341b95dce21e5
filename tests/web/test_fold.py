"""The database of before opens with everything in it: the migration itself, over rows as they were stored."""

from importlib import import_module

import pytest
from django.db import connection
from django.db.migrations.executor import MigrationExecutor

from tests.core.formats.test_old_songs import CHOICES, TEACHING
from tests.core.model.test_construction import old_chart
from valley.formats.song_json import read_song

NOW = ("songs", "0010_one_state")


@pytest.mark.django_db(transaction=True)
def test_old_versions_are_folded_and_what_cannot_be_read_is_kept_aside() -> None:
    executor = MigrationExecutor(connection)
    executor.migrate([("records", None), ("songs", "0009_log_revision")])
    try:
        apps = executor.loader.project_state(("songs", "0009_log_revision")).apps
        old_song, old_revision = apps.get_model("songs", "Song"), apps.get_model("songs", "ChartRevision")
        song = old_song.objects.create(title="Old", revision=2, lesson_order=[2, 1], lesson_minutes=8)
        broken = old_chart()
        broken["grid"]["beats"] = [0.0, 0.0]
        old_revision.objects.create(song=song, number=1, document=old_chart(), choices=CHOICES, teaching=TEACHING, what="heard")
        old_revision.objects.create(song=song, number=2, parent=1, document=broken, what="broken", edit={"kind": "set_chord", "start": "0", "text": "C"})
        executor = MigrationExecutor(connection)
        executor.migrate([NOW])
        apps = executor.loader.project_state(NOW).apps
        revisions = {r.number: r for r in apps.get_model("songs", "Revision").objects.filter(song_id=song.pk)}
        state = read_song(revisions[1].state)
        assert (state.settings.order, state.teaching.schools.naming, state.choices.style) == ((2, 1), "german", "shell")
        assert revisions[2].state["chart"] == broken
        assert apps.get_model("songs", "Song").objects.get(pk=song.pk).revision == 1
    finally:
        executor = MigrationExecutor(connection)
        executor.migrate(executor.loader.graph.leaf_nodes())
        import_module("valley_web.songs.models").Song.objects.all().delete()
