"""Choices of voicing, the hands of a song, its lesson and its files."""

import re
from urllib.parse import quote

from django.http import HttpRequest, HttpResponse
from ninja import Router

from valley.arranging.reach import HANDS, KEYBOARDS, hand_named, keyboard_range
from valley.arranging.styles import STYLES
from valley.lesson.moves import describe_move
from valley.model.arrangement import Grip, HandNote
from valley.model.chart import Chart
from valley.theory.chord import name_inversion, parse_harte
from valley_web.common.problems import Problem
from valley_web.lessons import services
from valley_web.lessons.api.schemas import (
    ArrangementOut,
    ChoicesOut,
    GripOut,
    HandNoteOut,
    HandoutOut,
    HandoutsOut,
    PartArrangementOut,
    PlayedNoteOut,
    StepOut,
    StyleOut,
)
from valley_web.songs.selectors import get_song

router = Router()
PROBLEMS = {frozenset({400, 404, 422}): Problem}
CAUTION = (
    "Songs, recordings and sheet music belong to someone. Note what permission you hold, and check the law where you live "
    "before you publish any of this."
)


@router.get("/choices", response=ChoicesOut)
def get_choices(request: HttpRequest) -> ChoicesOut:
    """Voicing styles, hands and keyboards to choose from."""
    styles = [StyleOut(name=s.name, title=s.title, summary=s.summary) for s in STYLES.values()]
    return ChoicesOut(styles=styles, hands=list(HANDS), keyboards=list(KEYBOARDS))


@router.get("/songs/{song_id}/arrangement", response={200: ArrangementOut, **PROBLEMS})
def get_arrangement(request: HttpRequest, song_id: int) -> ArrangementOut:
    """What both hands play in every part, as the song's settings say."""
    song = get_song(song_id)
    chart, arrangement = services.arrange_song(song)
    hand = hand_named(song.hand)
    lowest, highest = keyboard_range(song.keyboard)
    parts = []
    for part in arrangement.parts:
        grips = [_grip(chart, before, grip, hand.comfort_mm) for before, grip in zip((None, *part.grips), part.grips, strict=False)]
        notes = [PlayedNoteOut(hand=n.hand, start_beats=float(n.start), duration_beats=float(n.duration), midi=n.midi, pitch=n.pitch, melody=n.melody)
                 for n in part.notes]
        parts.append(PartArrangementOut(part=part.part, grips=grips, notes=notes))
    return ArrangementOut(revision=song.revision, style=song.style, hand=song.hand, comfort_mm=hand.comfort_mm, most_mm=hand.most_mm,
                          lowest=lowest, highest=highest, parts=parts)


def _grip(chart: Chart, before: Grip | None, grip: Grip, comfort_mm: float) -> GripOut:
    bar, beat = chart.grid.place(grip.start)
    chord = parse_harte(grip.label)
    held = {n.midi for n in (*before.left, *before.right)} if before else set()

    def notes(hand: tuple[HandNote, ...]) -> list[HandNoteOut]:
        return [HandNoteOut(pitch=n.pitch, midi=n.midi, member=n.member, kept=n.midi in held) for n in hand]

    return GripOut(
        start_beats=float(grip.start), duration_beats=float(grip.duration), bar=max(bar, 0), beat=float(beat) + 1,
        count=chart.grid.count(grip.start), symbol=grip.symbol, inversion=name_inversion(chord) if chord else "",
        left=notes(grip.left), right=notes(grip.right), reach_left_mm=grip.reach_left_mm, reach_right_mm=grip.reach_right_mm,
        strained=max(grip.reach_left_mm, grip.reach_right_mm) > comfort_mm, omits=list(grip.omits), why=grip.why,
        move=describe_move(before, grip) if before else "",
    )


@router.get("/songs/{song_id}/handouts", response={200: HandoutsOut, **PROBLEMS})
def list_handouts(request: HttpRequest, song_id: int) -> HandoutsOut:
    """Files to download, and the lesson to read."""
    song = get_song(song_id)
    files = [HandoutOut(name=h.name, title=h.title, summary=h.summary, address=f"/api/songs/{song.pk}/handouts/{h.name}") for h in services.HANDOUTS]
    steps = [StepOut(title=s.title, lines=list(s.lines), part=s.part) for s in services.teach_song(song).steps]
    return HandoutsOut(files=files, steps=steps, caution=CAUTION)


@router.get("/songs/{song_id}/handouts/{name}", include_in_schema=False)
def download_handout(request: HttpRequest, song_id: int, name: str) -> HttpResponse:
    song = get_song(song_id)
    handout = services.handout_named(name)
    response = HttpResponse(handout.make(song), content_type=handout.content_type)
    shown = f"{song.title} {handout.name}"
    plain = re.sub(r"[^A-Za-z0-9 ._-]", "_", shown)
    response["Content-Disposition"] = f"attachment; filename=\"{plain}\"; filename*=UTF-8''{quote(shown)}"
    return response
