"""Put the demo songs on the shelf, and listen to all but the last. Songs of the user's own are never touched."""

from pathlib import Path
from typing import Any

from django.conf import settings
from django.core.management import call_command
from django.core.management.base import BaseCommand

from valley.formats.choices_json import dump_choices
from valley.model.choices import Choices
from valley_web.songs.models import Recording, Song
from valley_web.songs.services import Upload, add_recording, start_listening

# File name without its ending, title, voicing style and pattern to show first; the last is left for the user to try.
DEMO_SONGS = (
    ("paper_harbour", "Paper Harbour", "fifth-and-melody", "held", True),
    ("the_millwheel", "The Millwheel", "block-and-melody", "broken", True),
    ("copper_weather", "Copper Weather", "root-and-chord", "bass-and-beats", True),
    ("last_tram_waltz", "Last Tram Waltz", "block-and-melody", "held", False),
)


class Command(BaseCommand):
    help = "Load the demo songs that are not here yet."

    def handle(self, *args: Any, **options: Any) -> None:
        folder = settings.ROOT / "demo" / "audio"
        waiting = False
        for stem, title, style, pattern, heard in reversed(DEMO_SONGS):
            song = Song.objects.filter(demo=stem).first() or self.add(folder, stem, title, style, pattern)
            if heard and song.revision == 0 and song.deleted_at is None:
                start_listening(song, actor="demo")
                waiting = True
        if waiting:
            self.stdout.write("Listening to the demo songs (about half a minute, once) …")
            self.stdout.flush()
            call_command("work", once=True)
        self.stdout.write(f"{Recording.objects.count()} recordings on the shelf.")

    def add(self, folder: Path, stem: str, title: str, style: str, pattern: str) -> Song:
        path = next(folder.glob(f"{stem}.*"))
        upload = Upload(path.name, path.stat().st_size, [path.read_bytes()])
        song = add_recording(upload, title=title, again=True, actor="demo", demo=stem)
        Song.objects.filter(pk=song.pk).update(first_choices=dump_choices(Choices(style=style, pattern=pattern)))
        return song
