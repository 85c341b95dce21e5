"""Changing a song's state: one service for every edit, and moving along the versions. Nothing that was saved is ever lost."""

from collections.abc import Sequence
from dataclasses import replace
from typing import Any

from django.db import transaction
from django.db.models import Max

from valley.edits import Edit, HandsEdit, TransposeSong, apply_edit
from valley.formats.edit_json import dump_edit, read_edit
from valley.pipeline.decisions import find_decision
from valley.song import SongState
from valley_web.common.errors import Conflict
from valley_web.common.seen import overtaken, said_of, tell_overtaken
from valley_web.songs import way
from valley_web.songs.deeds import note_deed
from valley_web.songs.logbook import note_decision
from valley_web.songs.models import Revision, Song
from valley_web.songs.selectors import find_redo, get_revision, get_state, get_work, remember_state, state_of


def keep_version(
    song: Song,
    state: SongState,
    what: str,
    *,
    actor: str,
    parent: int | None = None,
    current: bool = True,
    edit: dict[str, Any] | None = None,
    key: str = "",
) -> Revision:
    """A new version of a song that is locked for it; with ``current`` the one that is shown."""
    last = Revision.objects.filter(song=song).aggregate(last=Max("number"))["last"] or 0
    revision = Revision.objects.create(
        song=song,
        number=last + 1,
        parent=song.revision if parent is None else parent,
        state=state,
        what=what[:300],
        actor=actor,
        kept_aside=not current,
        edit=edit,
        key=key[:40],
    )
    remember_state(revision, state)
    if current:
        _show(song, revision.number, state)
    return revision


def _show(song: Song, number: int, state: SongState) -> None:
    """Make a version the current one. Its title goes with it, so that the shelf and the lesson never disagree."""
    song.revision, song.title = number, state.chart.title
    way.note_chart(song, state.chart, "revision", "title", "changed_at")


def _lock(song: Song) -> Song:
    """The song as it stands now, held until the change is done."""
    song.refresh_from_db(from_queryset=Song.objects.select_for_update())
    return song


def edit_song(song: Song, *, base: int, edit: Edit, spread: Sequence[int] = (), actor: str, key: str = "") -> Revision:
    """Do an edit. One that was made on a version which is no longer the current one is kept aside and reported.

    ``key`` is the page's own name for it: an edit that comes again, because its answer was lost on the way, is done once.
    """
    with transaction.atomic():
        song = _lock(song)
        if key and (done := Revision.objects.filter(song=song, key=key).first()):
            return done
        before, played = get_state(song, base), get_work(song, base).played if isinstance(edit, HandsEdit | TransposeSong) else ()
        after, what = apply_edit(before, edit, spread, played=played)
        if base == song.revision:
            made = keep_version(song, after, what, actor=actor, edit=None if spread else dump_edit(edit), key=key)
            if decision := find_decision(before, after, edit, what, played):
                note_decision(song, made, decision, actor=actor)
            return made
        kept = keep_version(song, after, what, actor=actor, parent=base, current=False, key=key)
        now = get_revision(song)
    raise Conflict(
        "This song was changed in another window.",
        f"Your change ({what}) is kept as version {kept.number}. The last change now is: {now.what}. "
        "Look at the place and make your change again if you still want it.",
        kind="conflict",
        data={"kept": kept.number, "current": song.revision},
    )


def spread_change(song: Song, *, base: int, parts: Sequence[int], actor: str) -> Revision:
    """Make the last edit in other parts that repeat the passage as well."""
    with transaction.atomic():
        song = _lock(song)
        last = get_revision(song)
        if last.number != base or last.edit is None:
            raise Conflict("The song has moved on since that change.", "Make the change in the other parts by hand, or undo back to it.", kind="conflict")
        edit, work = read_edit(last.edit), get_work(song, last.parent)
        after, what = apply_edit(work.song, edit, parts, played=work.played if isinstance(edit, HandsEdit | TransposeSong) else ())
        return keep_version(song, after, what, actor=actor)


def name_version(song: Song, number: int, name: str, *, seen: str, actor: str) -> None:
    """Give a version a name to find it by, where it has the one that was ``seen``; an empty one takes it away."""
    wanted = {"name": " ".join(name.split())[:80]}
    with transaction.atomic():
        revision = get_revision(_lock(song), number)
        now = {"name": revision.name}
        lost = overtaken(now, {"name": seen}, wanted)
        if not lost:
            revision.name = wanted["name"]
            revision.save(update_fields=["name"])
        note_deed(said_of(lost) if lost else f"called version {number} “{revision.name}”", actor=actor, song=song)
    if lost:
        tell_overtaken(lost, now, "in the song's record of deeds")


def refuse_unseen(song: Song, base: int) -> None:
    """A step along the versions is meant for what was seen: another window's change is not taken back without a word."""
    if base and base != song.revision:
        raise Conflict(
            "This song was changed in another window.",
            f"The last change now is: {get_revision(song).what}. Look at it, and take the step again if you still want it.",
            kind="moved",
            data={"current": song.revision},
        )


def bring_back(song: Song, number: int, *, base: int = 0, actor: str) -> Revision:
    """Make an earlier version the current one, as a new version: nothing that came after it is lost."""
    with transaction.atomic():
        song = _lock(song)
        refuse_unseen(song, base)
        old = get_revision(song, number)
        what = f"version {number} brought back" + (f": {old.name}" if old.name else "")
        return keep_version(song, state_of(old), what, actor=actor)


def step_back(song: Song, *, base: int = 0, actor: str) -> None:
    """Undo: to the version that the current one was made from."""
    with transaction.atomic():
        song = _lock(song)
        refuse_unseen(song, base)
        now = get_revision(song)
        if now.parent:
            _show(song, now.parent, get_state(song, now.parent))
            note_deed(f"undid version {now.number}: {now.what}", actor=actor, song=song)


def step_forward(song: Song, *, base: int = 0, actor: str) -> None:
    """Redo: to the newest version made from the current one."""
    with transaction.atomic():
        song = _lock(song)
        refuse_unseen(song, base)
        if child := find_redo(song):
            _show(song, child, get_state(song, child))
            note_deed(f"did version {child} again", actor=actor, song=song)


def take_state(song: Song, state: SongState, what: str, *, actor: str) -> Revision:
    """Another state as a new version of a song, under the title that the song has."""
    named = replace(state, chart=replace(state.chart, title=song.title))
    return keep_version(song, named, what, actor=actor)
