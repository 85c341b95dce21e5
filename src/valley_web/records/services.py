"""Changing records: one function a change, each with its transaction; what is dealt with can be brought back."""

from collections.abc import Mapping, Sequence
from datetime import date
from typing import Any

from django.db import transaction
from django.utils import timezone

from valley.formats.captions import list_step_times
from valley.records.calendar import Week
from valley.records.places import find_place
from valley.records.titles import TitleIndex, make_plain
from valley.records.way import ASKED, CHOSEN, CORRECTED, PUBLISHED, STAGES
from valley_web.common.errors import Gone, Unfit
from valley_web.common.seen import overtaken, said_of, tell_overtaken
from valley_web.lessons.services import teach_song
from valley_web.records import site
from valley_web.records.models import Asking, Correction, TimeSpent, ViewerComment, WorkWeek
from valley_web.records.selectors import get_week
from valley_web.songs import way
from valley_web.songs.deeds import note_deed
from valley_web.songs.models import LogEntry, Song
from valley_web.songs.selectors import get_recording

_LONGEST_DAY = 24 * 60.0


def find_song_like(title: str) -> Song | None:
    """The song or request that a title means, however it is spelled; the furthest on its way if there are several."""
    rows = Song.objects.filter(deleted_at=None).order_by("-stage", "id").values_list("title", flat=True)
    found = TitleIndex(rows).find_like(make_plain(title))
    return Song.objects.filter(deleted_at=None, title=found).order_by("-stage", "id").first() if found else None


def note_request(title: str, handle: str, *, note: str = "", votes: int = 1, actor: str, apart: bool = False, comment: ViewerComment | None = None) -> Song:
    """Note that a viewer asks for a song. A song of that title that is here already gets the vote; ``apart`` makes another request all the same."""
    title, handle = " ".join(title.split())[:200], " ".join(handle.split())[:80]
    if not title:
        raise Unfit("The request names no song.", "Write the song's title; who asks and why can be added.", kind="empty")
    with transaction.atomic():
        song = None if apart else find_song_like(title)
        if song is None:
            song = Song.objects.create(title=title)
            way.mark_stage(song, ASKED, actor=actor)
        if handle or comment:
            add_asking(song, handle or "a viewer", note=note, votes=votes, comment=comment, actor=actor)
        else:
            index_askings(song)
    return song


def add_asking(song: Song, handle: str, *, note: str = "", votes: int = 1, comment: ViewerComment | None = None, actor: str) -> Asking:
    """One more viewer. Somebody who has asked before is not counted twice."""
    asking = Asking.objects.filter(song=song, handle=handle).first()
    if asking is None:
        asking = Asking.objects.create(song=song, handle=handle[:80], note=note[:500], votes=max(1, votes), comment=comment)
    else:
        asking.votes = max(asking.votes, votes)
        asking.note = asking.note or note[:500]
        asking.save(update_fields=["votes", "note"])
    note_deed(f"noted that {asking.handle} asks for it", actor=actor, song=song)
    index_askings(song)
    return asking


def change_asking(asking_id: int, *, seen: Mapping[str, str], note: str | None = None, promise: str | None = None, actor: str) -> Song:
    """Change a viewer's words, or what was promised, each as it was ``seen`` before; what another window wrote meanwhile stays."""
    given = {"note": note and note.strip()[:500], "promise": promise and promise.strip()[:200]}
    wanted = {name: value for name, value in given.items() if value is not None}
    with transaction.atomic():
        asking = _get_asking(asking_id)
        now = {name: getattr(asking, name) for name in wanted}
        lost = overtaken(now, seen, wanted)
        if lost:
            LogEntry.objects.create(song=asking.song, kind=LogEntry.Kind.NOTE, text=f"{asking.handle}: {said_of(lost)}"[:500], actor=actor)
        else:
            Asking.objects.filter(pk=asking.pk).update(**wanted)
            note_deed(f"changed the wish of {asking.handle}" + (f", promised “{wanted['promise']}”" if promise else ""), actor=actor, song=asking.song)
            index_askings(asking.song)
    if lost:
        tell_overtaken(lost, now, "in the logbook")
    return asking.song


def drop_asking(asking_id: int, *, actor: str) -> Song:
    asking = _get_asking(asking_id)
    LogEntry.objects.create(song=asking.song, kind=LogEntry.Kind.NOTE, text=f"{asking.handle} no longer asks for it: {asking.note}"[:500], actor=actor)
    asking.delete()
    index_askings(asking.song)
    return asking.song


def _get_asking(asking_id: int) -> Asking:
    asking = Asking.objects.filter(pk=asking_id).select_related("song").first()
    if asking is None:
        raise Gone()
    return asking


def index_askings(song: Song) -> None:
    """Votes, and the words by which the song is found through its viewers."""
    rows = list(Asking.objects.filter(song=song).values_list("handle", "note", "votes"))
    votes = sum(v for _, _, v in rows)
    Song.objects.filter(pk=song.pk).update(votes=votes)
    song.votes = votes
    way.index_song(song, make_plain(" ".join(f"{handle} {note}" for handle, note, _ in rows)) or " ")


def merge_requests(song: Song, into: Song, *, actor: str) -> None:
    """Two requests that mean one song: the viewers go over, and the emptied request leaves the shelf. ``part_again`` undoes it."""
    if song.pk == into.pk:
        raise Unfit("A request cannot be merged with itself.", "Choose another song.")
    if song.revision or get_recording(song):
        said = f"“{song.title}” has a chart or a recording of its own."
        raise Unfit(said, "Only requests can be merged into a song; take it off the shelf instead.")
    with transaction.atomic():
        for asking in Asking.objects.filter(song=song):
            if Asking.objects.filter(song=into, handle=asking.handle).exists():
                continue  # this viewer asks for both; one vote is enough
            asking.song, asking.came_from = into, asking.came_from or song
            asking.save(update_fields=["song", "came_from"])
        Song.objects.filter(pk=song.pk).update(deleted_at=timezone.now())
        LogEntry.objects.create(song=into, kind=LogEntry.Kind.DECISION, text=f"merged with the request “{song.title}”", actor=actor)
        index_askings(song)
        index_askings(into)


def part_again(song: Song, request_id: int, *, actor: str) -> Song:
    """Undo a merging: the request returns with the viewers that came from it."""
    gone = Song.objects.filter(pk=request_id).first()
    if gone is None or not Asking.objects.filter(song=song, came_from=gone).exists():
        raise Gone()
    with transaction.atomic():
        Song.objects.filter(pk=gone.pk).update(deleted_at=None)
        Asking.objects.filter(song=song, came_from=gone).update(song=gone, came_from=None)
        LogEntry.objects.create(song=song, kind=LogEntry.Kind.DECISION, text=f"parted from the request “{gone.title}” again", actor=actor)
        index_askings(song)
        index_askings(gone)
    return gone


def mark_way(song: Song, stage: int, *, reached: bool, seen: int | None = None, actor: str) -> None:
    """Set a waymark by hand, or take it and all after it back; the logbook keeps it.

    Taking back says how far the song was ``seen`` to be: marks that another window set beyond that are not taken with it.
    """
    with transaction.atomic():
        now = Song.objects.select_for_update().values_list("stage", flat=True).get(pk=song.pk)
        said = f"{STAGES[stage]}" if reached else f"not {STAGES[stage]} after all"
        lost = {} if reached else overtaken({"way": now}, {} if seen is None else {"way": min(seen, now)}, {"way": said})
        if lost:
            LogEntry.objects.create(song=song, kind=LogEntry.Kind.NOTE, text=said_of(lost)[:500], actor=actor)
        else:
            way.mark_stage(song, stage, reached=reached, actor=actor)
            LogEntry.objects.create(song=song, kind=LogEntry.Kind.DECISION, text=said, actor=actor)
    if lost:
        tell_overtaken(lost, {"way": STAGES[now]}, "in the logbook")


def spend_time(song: Song, stage: int, minutes: float, *, day: date | None = None, by_hand: bool = False, actor: str) -> None:
    """Add minutes of work; by hand they may be taken back with a number below 0."""
    if stage < CHOSEN or not -_LONGEST_DAY <= minutes <= _LONGEST_DAY:
        said = f"{minutes} minutes of work towards “{STAGES[stage]}” cannot be noted."
        raise Unfit(said, "Give minutes up to a day, and a stage from chosen on.")
    with transaction.atomic():
        row, made = TimeSpent.objects.select_for_update().get_or_create(
            song=song, stage=stage, day=day or timezone.localdate(), by_hand=by_hand, defaults={"minutes": max(0.0, minutes)}
        )
        if not made:
            row.minutes = min(_LONGEST_DAY, max(0.0, row.minutes + minutes))
            row.save(update_fields=["minutes"])
        if by_hand:
            note_deed(f"noted {minutes:g} minutes towards “{STAGES[stage]}”", actor=actor, song=song)


def _fields_of(week: Week) -> dict[str, list[Any]]:
    return {
        "minutes": list(week.minutes),
        "film": sorted(week.film),
        "publish": sorted(week.publish),
        "off": sorted(d.isoformat() for d in week.off),
    }


def set_week(week: Week, *, seen: Week, actor: str) -> None:
    """Set the hours there are; what another window has changed since ``seen`` is not written over."""
    with transaction.atomic():
        before, wanted, now = _fields_of(seen), _fields_of(week), _fields_of(get_week())
        changed = {name: value for name, value in wanted.items() if value != before[name]}
        lost = overtaken(now, before, changed)
        if lost:
            note_deed(said_of(lost)[:300], actor=actor)
        else:
            WorkWeek.objects.update_or_create(pk=1, defaults=now | changed)
            note_deed(f"set the week to {', '.join(f'{m:g}' for m in week.minutes)} minutes", actor=actor)
    if lost:
        tell_overtaken(lost, {name: ", ".join(map(str, now[name])) for name in lost}, "in the record of deeds")


def fetch_comments(*, at_most: int = 30, actor: str) -> int:
    """Fetch what is new on the video site; gives how many comments came."""
    rows = site.fetch(ViewerComment.objects.count(), at_most)
    with transaction.atomic():
        for row in rows:
            song = find_song_like(row.under) if row.under else None
            above = ViewerComment.objects.filter(site_id=row.reply_to).first() if row.reply_to else None
            ViewerComment.objects.get_or_create(
                site_id=row.id,
                defaults={
                    "handle": row.handle[:80],
                    "text": row.text[:2000],
                    "likes": row.likes,
                    "posted_at": row.at,
                    "song": song,
                    "reply_to": above,
                },
            )
        note_deed(f"fetched {len(rows)} comments", actor=actor)
    return len(rows)


def take_request(title: str, comment_ids: Sequence[int], *, song: Song | None = None, actor: str) -> Song:
    """Take comments as requests for one song: for ``song``, or for the one that the title means."""
    comments = list(ViewerComment.objects.filter(pk__in=comment_ids))
    if not comments:
        raise Gone("These comments are not here any more.", "Load the page again.")
    with transaction.atomic():
        taken = song or note_request(title, "", actor=actor)
        for comment in comments:
            add_asking(taken, comment.handle, note=comment.text, votes=1 + comment.likes, comment=comment, actor=actor)
        ViewerComment.objects.filter(pk__in=comment_ids).update(state=ViewerComment.State.REQUEST)
    return taken


def set_aside(comment_ids: Sequence[int], *, actor: str) -> None:
    with transaction.atomic():
        ViewerComment.objects.filter(pk__in=comment_ids).update(state=ViewerComment.State.ASIDE)
        note_deed(f"set {len(comment_ids)} comments aside", actor=actor)


def bring_back_comments(comment_ids: Sequence[int], *, actor: str) -> None:
    """Undo: comments are new again, and what was made of them goes; a request that stood on them alone leaves the shelf."""
    with transaction.atomic():
        askings = Asking.objects.filter(comment_id__in=comment_ids)
        songs = {a.song_id: a.song for a in askings.select_related("song")}
        askings.delete()
        for song in songs.values():
            index_askings(song)
            if not song.revision and get_recording(song) is None and song.stage == ASKED and not Asking.objects.filter(song=song).exists():
                Song.objects.filter(pk=song.pk).update(deleted_at=timezone.now())
        reports = Correction.objects.filter(comment_id__in=comment_ids)
        reported = {c.song_id: c.song for c in reports.select_related("song")}
        reports.delete()
        for song in reported.values():
            count_corrections(song)
        ViewerComment.objects.filter(pk__in=comment_ids).update(state=ViewerComment.State.NEW)
        note_deed(f"brought {len(comment_ids)} comments back", actor=actor)


def note_correction(
    song: Song, text: str, *, handle: str = "", bar: int | None = None, step: str = "", comment: ViewerComment | None = None, actor: str
) -> Correction:
    """Attach a report to its bar and step. What is not given is read from the words; a time in the film leads to the step that runs then."""
    if not text.strip():
        raise Unfit("The correction is empty.", "Write what is wrong, and in which bar.", kind="empty")
    place = find_place(text)
    bar = place.bar if bar is None else bar
    if not step and song.revision and (place.step or place.part or place.seconds is not None):
        step = _find_step(song, place.step, place.part, place.seconds)
    with transaction.atomic():
        made = Correction.objects.create(song=song, handle=handle[:80] or "a viewer", text=text.strip()[:2000], bar=bar, step=step[:80], comment=comment)
        if comment:
            ViewerComment.objects.filter(pk=comment.pk).update(state=ViewerComment.State.CORRECTION)
        count_corrections(song)
        note_deed(f"noted a report of {made.handle}", actor=actor, song=song)
    return made


def _find_step(song: Song, number: int | None, part: int | None, seconds: int | None) -> str:
    """Key of the step by its number, by a time in the film, or the first of a part; empty where there is none."""
    lesson = teach_song(song).lesson
    if number is not None:
        return lesson.steps[number - 1].key if 1 <= number <= len(lesson.steps) else ""
    if seconds is not None:
        running = [step for step, start in zip(lesson.steps, list_step_times(lesson), strict=True) if start <= seconds]
        return running[-1].key if running else ""
    return next((s.key for s in lesson.steps if s.part == part), "")


def close_correction(correction_id: int, state: str, *, seen: str, answer: str = "", actor: str) -> Song:
    """Mended, kept as it is with a reason, or open again; ``seen`` is the state that it had, and another window's answer is not written over."""
    if state not in Correction.State.values:
        raise Unfit(f"state={state!r} must be one of {', '.join(Correction.State.values)}.")
    with transaction.atomic():
        correction = Correction.objects.select_for_update().filter(pk=correction_id).select_related("song").first()
        if correction is None:
            raise Gone()
        now = correction.get_state_display() + (f": {correction.answer}" if correction.answer else "")
        lost = {"report of " + correction.handle: answer or state} if correction.state not in (seen, state) else {}
        if lost:
            LogEntry.objects.create(song=correction.song, kind=LogEntry.Kind.NOTE, text=said_of(lost)[:500], bar=correction.bar, actor=actor)
        else:
            _close(correction, state, answer, actor)
    if lost:
        tell_overtaken(lost, dict.fromkeys(lost, now), "in the logbook")
    return correction.song


def _close(correction: Correction, state: str, answer: str, actor: str) -> None:
    correction.state, correction.answer = state, answer.strip()[:500]
    correction.closed_at = None if state == Correction.State.OPEN else timezone.now()
    correction.save(update_fields=["state", "answer", "closed_at"])
    if state != Correction.State.OPEN:
        where = f"bar {correction.bar}: " if correction.bar is not None else ""
        said = f"{where}{correction.handle} reported “{correction.text[:200]}”: {correction.get_state_display()}{'; ' if answer else ''}{answer}"
        LogEntry.objects.create(song=correction.song, kind=LogEntry.Kind.DECISION, text=said[:500], bar=correction.bar, actor=actor)
    count_corrections(correction.song)


def count_corrections(song: Song) -> None:
    """Keep the number of open reports beside the song. A published lesson with every report answered is a corrected one."""
    mine = Correction.objects.filter(song=song)
    still = mine.filter(state=Correction.State.OPEN).count()
    Song.objects.filter(pk=song.pk).update(corrections=still)
    if still and song.stage == CORRECTED:
        way.mark_stage(song, CORRECTED, reached=False, actor="Valley")
    elif not still and song.stage == PUBLISHED and mine.exists():
        way.mark_stage(song, CORRECTED, actor="Valley")
