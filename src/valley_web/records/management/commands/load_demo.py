"""Put the demo on the shelf: songs with recordings, all but the last listened to; two lessons that are out already; requests, times, reports.

Only what is missing is added, and songs of the user's own are never touched.
"""

from datetime import timedelta
from pathlib import Path
from typing import Any

from django.conf import settings
from django.core.management import call_command
from django.core.management.base import BaseCommand
from django.utils import timezone

from valley.formats.choices_json import dump_choices
from valley.model.choices import Choices
from valley.records.way import ARRANGED, CHARTED, CHOSEN, FILMED, LISTENED, PUBLISHED, SCRIPTED
from valley_web.records import services
from valley_web.songs.listening import start_listening
from valley_web.songs.models import Recording, Song
from valley_web.songs.services import Upload, add_recording, import_song
from valley_web.songs.way import mark_stage

# File name without its ending, title, voicing style and pattern to show first; the last is left for the user to try.
DEMO_SONGS = (
    ("paper_harbour", "Paper Harbour", "fifth-and-melody", "held", True),
    ("the_millwheel", "The Millwheel", "block-and-melody", "broken", True),
    ("copper_weather", "Copper Weather", "root-and-chord", "bass-and-beats", True),
    ("last_tram_waltz", "Last Tram Waltz", "block-and-melody", "held", False),
)
# Lessons that came out before, read from chord charts; minutes that each stage took.
PAST_LESSONS = (
    ("oats_and_iron", "Oats and Iron", {LISTENED: 4, CHARTED: 22, ARRANGED: 41, SCRIPTED: 30, FILMED: 75, PUBLISHED: 25}, 34),
    ("nine_lanterns", "Nine Lanterns", {LISTENED: 6, CHARTED: 15, ARRANGED: 24, SCRIPTED: 26, FILMED: 58, PUBLISHED: 40}, 12),
)
# Title, how much is wanted, days until it was promised, and who asks in which words.
REQUESTS = (
    ("Lantern Street", "the verse and the refrain", 0, (("@harbourlight", "for my sister's birthday", 4), ("@slowfingers", "please in an easy key", 1))),
    ("Snow on the Ferry", "only the first half", 0, (("@ninth_floor", "the slow version", 2),)),
    ("Gravel and Honey", "", 0, (("@tea_at_four", "", 1),)),
)
ASKED_TOO = {
    "Paper Harbour": (("@two_cats", "with the real left hand", 3), ("@rainpiano", "", 1)),
    "The Millwheel": (("@lowtide", "for small hands, please", 2),),
}
PROMISED = {"Paper Harbour": (16, "@two_cats", "this month"), "The Millwheel": (40, "@lowtide", "")}
REPORTS = (
    ("oats_and_iron", "@pedalboard", "bar 8 should be a plain A, not A7"),
    ("nine_lanterns", "@counting_on_you", "the count in bar 5 is off, there are only three beats"),
)


class Command(BaseCommand):
    help = "Load the demo songs and records that are not here yet."

    def handle(self, *args: Any, **options: Any) -> None:
        folder = settings.DEMO_DIR
        fresh = not Song.objects.filter(demo__isnull=False).exists()
        for stem, title, minutes, ago in PAST_LESSONS:
            if not Song.objects.filter(demo=stem).exists():
                self.add_past(folder / "charts" / f"{stem}.txt", stem, title, minutes, ago)
        waiting = False
        for stem, title, style, pattern, heard in reversed(DEMO_SONGS):
            song = Song.objects.filter(demo=stem).first() or self.add(folder / "audio", stem, title, style, pattern)
            if heard and song.revision == 0 and song.deleted_at is None:
                start_listening(song, actor="demo")
                waiting = True
        if fresh:
            self.add_requests()
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

    def add_past(self, path: Path, stem: str, title: str, minutes: dict[int, int], ago: int) -> None:
        """A lesson that is out: its chart, the times it took, what a viewer reports."""
        song = import_song(Upload(path.name, path.stat().st_size, [path.read_bytes()]), title=title, actor="demo")
        Song.objects.filter(pk=song.pk).update(demo=stem, created_at=timezone.now() - timedelta(ago + 9))
        song.refresh_from_db()
        for stage in range(CHOSEN, PUBLISHED + 1):
            mark_stage(song, stage, actor="demo")
            song.marks.filter(stage=stage).update(at=timezone.now() - timedelta(ago + PUBLISHED - stage))
            if stage in minutes:
                services.spend_time(song, stage, minutes[stage], day=timezone.localdate() - timedelta(ago), by_hand=True, actor="demo")
        for told, handle, text in REPORTS:
            if told == stem:
                services.note_correction(song, text, handle=handle, actor="demo")

    def add_requests(self) -> None:
        today = timezone.localdate()
        for title, wanted, _, askers in REQUESTS:
            for handle, note, votes in askers:
                song = services.note_request(title, handle, note=note, votes=votes, actor="demo")
            Song.objects.filter(pk=song.pk).update(wanted=wanted)
        for title, rows in ASKED_TOO.items():
            for handle, note, votes in rows:
                services.note_request(title, handle, note=note, votes=votes, actor="demo")
        for title, (days, handle, promise) in PROMISED.items():
            Song.objects.filter(title=title, demo__isnull=False).update(promised_for=today + timedelta(days))
            asking = Song.objects.get(title=title, demo__isnull=False).askings.filter(handle=handle).first()
            if asking and promise:
                services.change_asking(asking.pk, seen={"promise": asking.promise}, promise=promise, actor="demo")
