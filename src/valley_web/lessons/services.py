"""From a song's current state to what its hands play, its lesson and its files. What is made is computed when it is asked for."""

from collections.abc import Iterator, Sequence
from dataclasses import replace
from functools import lru_cache

from valley.arranging.arrange import list_candidates
from valley.arranging.performance import Performance, grips_played, hold_against
from valley.audio.packing import KINDS
from valley.checking import Finding, check_song
from valley.edits import PlayedGrip, TakePlayed
from valley.errors import ParameterError, ValleyError
from valley.formats.captions_in import Transcript, read_transcript
from valley.formats.engraving import engrave
from valley.formats.musicxml import bars_of, dump_musicxml
from valley.formats.stage import SHAPES
from valley.fraction import Fraction
from valley.lesson.proof import Claim, read_proof
from valley.model.arrangement import Arrangement, Grip
from valley.pipeline.handouts import Handout, handout_named, make_frames, make_stills, stream_zip
from valley.pipeline.practice import Track, dump_track
from valley.pipeline.slowed import Slowed, dump_slowed
from valley.song import Work
from valley_web.common.errors import Gone, Unfit
from valley_web.songs import storage
from valley_web.songs.models import LogEntry, Song
from valley_web.songs.reading import read_performance
from valley_web.songs.selectors import get_recording, get_work
from valley_web.songs.services import mark_ready


def voice(work: Work, *, with_links: bool = False) -> Arrangement:
    """What both hands play, or the reason why they cannot."""
    try:
        return work.linked if with_links else work.arrangement
    except ValleyError as error:
        raise Unfit(str(error), kind="voicing") from error


def try_voicing(song: Song, *, style: str = "", level: str = "") -> Work:
    """The song in another style or at another level, without what was set grip by grip or for single parts."""
    work = get_work(song)
    now = work.song.choices
    other = replace(now, style=style or now.style, level=level or now.level, parts=(), grips=())
    return Work(replace(work.song, choices=other), work.hearing)


def find_candidates(song: Song, start: Fraction) -> tuple[tuple[Grip, float], ...]:
    """Other grips for one chord, and the movement each asks for."""
    work = get_work(song)
    return list_candidates(work.chart, work.choices, start, played=work.played)


def hold_performance(song: Song, name: str, data: bytes) -> tuple[Performance, TakePlayed]:
    """A played file against what the hands play now, and the edit that would take its grips."""
    score, work = read_performance(data, name), get_work(song)
    held = hold_against(work.chart, voice(work), score.notes)
    return held, TakePlayed(tuple(PlayedGrip(*row) for row in grips_played(work.chart, held.struck)))


def teach_song(song: Song) -> Work:
    """The song with its lesson made, or the reason why it cannot be."""
    work = get_work(song)
    try:
        _ = work.lesson
    except ValleyError as error:
        raise Unfit(str(error), kind="voicing") from error
    return work


@lru_cache(maxsize=8)
def check_work(work: Work) -> tuple[Finding, ...]:
    """The findings of a song, made once for every page that asks for them."""
    return check_song(work)


def find_faults(song: Song) -> tuple[Finding, ...]:
    return check_work(teach_song(song))


def set_ready(song: Song, *, ready: bool, despite: bool, actor: str) -> None:
    errors = sum(f.severity == "error" for f in find_faults(song)) if ready else 0
    mark_ready(song, errors=errors, ready=ready, despite=despite, actor=actor)


def proof_words(song: Song, text: str, *, naming: str, octaves: str, language: str) -> tuple[Transcript, tuple[Claim, ...]]:
    """What is said, out of words or captions with their times, and what it claims."""
    work, said = get_work(song), read_transcript(text)
    return said, read_proof(said.text, work.chart, voice(work), naming=naming, octaves=octaves, language=language)


_SHEET = 1.4  # a page of paper is so much higher than wide


def draw_score(song: Song, part: int | None, width: int) -> tuple[str, ...]:
    """The sheet music, whole or of one part, as SVG pages."""
    work = get_work(song)
    chart = work.chart
    bars = None
    if part is not None:
        found = next((p for p in chart.parts if p.number == part), None)
        if found is None:
            raise Gone(f"Part {part} is not in this song.", f"It has parts 1 to {len(chart.parts)}.")
        bars = bars_of(chart, found)
    return engrave(dump_musicxml(chart, voice(work), to_print=True, bars=bars), width=width, height=round(_SHEET * width))


def make_handout(song: Song, name: str) -> tuple[str, str, bytes]:
    """File name, content type and content of a hand-out; "frames-2.zip" are the frames of part 2, "stills-upright.zip" cards of a size."""
    work, stem = get_work(song), name.removesuffix(".zip")
    try:
        if stem.startswith("frames-") and stem[7:].isdigit():
            return name, "application/zip", make_frames(work, int(stem[7:]))
        if stem.startswith("stills-") and stem[7:] in SHAPES:
            return name, "application/zip", make_stills(work, stem[7:])
        handout = _named(name)
        return handout.name, handout.content_type, handout.make(work)
    except ValleyError as error:
        raise Unfit(str(error), kind="voicing") from error


def _named(name: str) -> Handout:
    try:
        return handout_named(name)
    except ParameterError as error:
        raise Gone(str(error), "Choose another hand-out.") from error


def pack_handouts(song: Song, names: Sequence[str]) -> Iterator[bytes]:
    """A zip of the hand-outs that were chosen, or of all, as they are made; what cannot be made at all is told before it begins."""
    work = get_work(song)
    wanted = [_named(name).name for name in names]
    try:
        _ = work.arrangement, work.lesson
    except ValleyError as error:
        raise Unfit(str(error), kind="voicing") from error
    return stream_zip(work, wanted)


def write_log(song: Song, lines: Sequence[tuple[str, str, int | None, int]], *, actor: str) -> None:
    """Lines of the logbook: kind, words, bar, how often."""
    words = [(kind, " ".join(text.split())[:500], bar, count) for kind, text, bar, count in lines]
    if not words or any(not text for _, text, _, _ in words):
        raise Unfit("The line is empty.", "Write what you want to remember.")
    LogEntry.objects.bulk_create([LogEntry(song=song, kind=kind, text=text, bar=bar, count=max(1, count), actor=actor) for kind, text, bar, count in words])


@lru_cache(maxsize=6)
def _track(work: Work, track: Track) -> bytes:
    return dump_track(work.chart, work.arrangement, track)


def slow_recording(song: Song, slowed: Slowed) -> tuple[str, str, bytes]:
    """Name, content type and bytes of the recording, slower, for rehearsing to."""
    recording = get_recording(song)
    if recording is None:
        raise Gone("This song has no recording.", "Add one, or rehearse to a practice track.")
    content = _slowed(get_work(song), recording.stored_name, recording.original_name, slowed)
    return f"{slowed.title}.{slowed.kind}", KINDS[slowed.kind][2], content


@lru_cache(maxsize=2)
def _slowed(work: Work, stored_name: str, shown_name: str, slowed: Slowed) -> bytes:
    return dump_slowed(storage.path_of(stored_name), work.chart, slowed, shown_name=shown_name)


def make_track(song: Song, track: Track) -> tuple[str, str, bytes]:
    """Name, content type and bytes of a practice track; the last few are kept, as a browser asks for one piece by piece."""
    content = _track(get_work(song), track)
    _, _, content_type = KINDS[track.kind]
    return f"{track.title}.{track.kind}", content_type, content
