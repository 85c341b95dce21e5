"""From a song's current chart to what its hands play, its lesson and its files. Pure, so nothing is stored."""

import json
from collections.abc import Callable
from dataclasses import dataclass

from valley.arranging.arrange import arrange
from valley.arranging.reach import hand_named
from valley.errors import ValleyError
from valley.formats.chart_json import dump_arrangement, dump_chart
from valley.formats.hearing_json import dump_hearing, read_hearing
from valley.formats.lesson_text import dump_lesson_text
from valley.formats.midi import dump_midi
from valley.formats.musicxml import dump_musicxml
from valley.lesson.script import build_lesson
from valley.model.arrangement import Arrangement
from valley.model.chart import Chart
from valley.model.lesson import Lesson
from valley_web.common.problems import ProblemError
from valley_web.songs.models import HearingRecord, Song
from valley_web.songs.selectors import find_order, get_chart


@dataclass(frozen=True)
class Handout:
    """A file that can be made of a song."""

    name: str
    title: str
    summary: str
    content_type: str
    make: Callable[[Song], bytes]


def arrange_song(song: Song) -> tuple[Chart, Arrangement]:
    """The current chart, voiced as the song's settings say."""
    chart = get_chart(song)
    try:
        return chart, arrange(chart, style=song.style, hand=hand_named(song.hand), keyboard=song.keyboard)
    except ValleyError as error:
        raise ProblemError(422, str(error), kind="voicing") from error


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
    record = HearingRecord.objects.filter(recording=song.recording).first()
    if record is None:
        raise ProblemError(404, "This song has not been listened to yet.", "Start listening first.")
    return _json(dump_hearing(read_hearing(record.document)))


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
