"""Who did what: kept with every change that makes no version of its own."""

from valley_web.songs.models import Deed, Song


def note_deed(what: str, *, actor: str, song: Song | None = None) -> None:
    Deed.objects.create(song=song, what=what[:300], actor=actor[:150])
