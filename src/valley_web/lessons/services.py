"""From a song's current chart and choices to what its hands play, its lesson and its files. Pure, so nothing is stored."""

import json
from collections.abc import Callable
from dataclasses import dataclass
from fractions import Fraction

from valley.arranging.arrange import arrange, list_candidates
from valley.errors import ValleyError
from valley.formats.arrangement_json import dump_arrangement
from valley.formats.chart_json import dump_chart, read_chart
from valley.formats.choices_json import read_choices
from valley.formats.hearing_json import dump_hearing
from valley.formats.lesson_text import dump_lesson_text
from valley.formats.midi import dump_midi
from valley.formats.musicxml import dump_musicxml
from valley.lesson.script import build_lesson
from valley.model.arrangement import Arrangement, Grip
from valley.model.chart import Chart, MelodyNote
from valley.model.choices import Choices
from valley.model.lesson import Lesson
from valley.pipeline.charts import place_played
from valley_web.common.problems import ProblemError
from valley_web.songs.models import Song
from valley_web.songs.selectors import find_order, get_chart, get_hearing, get_revision


@dataclass(frozen=True)
class Handout:
    """A file that can be made of a song."""

    name: str
    title: str
    summary: str
    content_type: str
    make: Callable[[Song], bytes]


@dataclass(frozen=True)
class Voiced:
    """A song's chart, what was chosen for the hands, and what they play."""

    chart: Chart
    choices: Choices
    arrangement: Arrangement
    revision: int
    last_change: str


def get_played(song: Song, chart: Chart) -> tuple[MelodyNote, ...]:
    hearing = get_hearing(song)
    return place_played(hearing, chart.grid) if hearing else ()


def voice_song(song: Song, *, with_links: bool = False, choices: Choices | None = None) -> Voiced:
    """The current chart, voiced as chosen, or as ``choices`` say instead."""
    revision = get_revision(song)
    chart = read_chart(revision.document)
    chosen = choices or read_choices(revision.choices)
    try:
        return Voiced(chart, chosen, arrange(chart, chosen, played=get_played(song, chart), with_links=with_links), revision.number, revision.what)
    except ValleyError as error:
        raise ProblemError(422, str(error), kind="voicing") from error


def arrange_song(song: Song) -> tuple[Chart, Arrangement]:
    voiced = voice_song(song)
    return voiced.chart, voiced.arrangement


def find_candidates(song: Song, start: Fraction) -> tuple[Chart, tuple[tuple[Grip, float], ...]]:
    """Other grips for one chord, and the movement each asks for."""
    revision = get_revision(song)
    chart = read_chart(revision.document)
    return chart, list_candidates(chart, read_choices(revision.choices), start, played=get_played(song, chart))


def teach_song(song: Song) -> Lesson:
    chart, arrangement = arrange_song(song)
    return build_lesson(chart, arrangement, order=find_order(song, chart))


def _musicxml(song: Song) -> bytes:
    return dump_musicxml(*arrange_song(song))


def _midi(song: Song) -> bytes:
    return dump_midi(*arrange_song(song))


def _text(song: Song) -> bytes:
    return dump_lesson_text(teach_song(song)).encode()


def _json(data: object) -> bytes:
    return (json.dumps(data, ensure_ascii=False, indent=1) + "\n").encode()


def _chart_json(song: Song) -> bytes:
    return _json(dump_chart(get_chart(song)))


def _arrangement_json(song: Song) -> bytes:
    return _json(dump_arrangement(arrange_song(song)[1]))


def _hearing_json(song: Song) -> bytes:
    hearing = get_hearing(song)
    if hearing is None:
        raise ProblemError(404, "This song has not been listened to yet.", "Start listening first.")
    return _json(dump_hearing(hearing))


HANDOUTS = (
    Handout(
        "score.musicxml", "Sheet music", "MusicXML: both staves with chord symbols, for any notation program.",
        "application/vnd.recordare.musicxml+xml", _musicxml,
    ),
    Handout("hands.mid", "MIDI file", "A track for each hand, in the recording's own tempo.", "audio/midi", _midi),
    Handout("lesson.txt", "The lesson in words", "Step by step, to read aloud or print.", "text/plain; charset=utf-8", _text),
    Handout("chart.json", "The chart", "Bars, keys, chords, melody and parts as Valley keeps them.", "application/json", _chart_json),
    Handout("arrangement.json", "Both hands as data", "Every grip with its notes, reach and reason.", "application/json", _arrangement_json),
    Handout("hearing.json", "What was heard", "The listening before any correction.", "application/json", _hearing_json),
)


def handout_named(name: str) -> Handout:
    for handout in HANDOUTS:
        if handout.name == name:
            return handout
    raise ProblemError(404, f"There is no hand-out called {name!r}.", f"Choose one of {', '.join(h.name for h in HANDOUTS)}.")
