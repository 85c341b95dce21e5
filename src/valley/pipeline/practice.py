"""Practice tracks: what the hands play, as sound, in time with the chart: both hands, one alone, one in each ear, the tune softer to play along."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Final

from valley.arranging.sounding import sounding_end
from valley.audio.loudness import bring_to
from valley.audio.packing import KINDS, pack_sound
from valley.audio.piano import RATE, Floats, Stroke, click, play
from valley.errors import ParameterError
from valley.fraction import Fraction
from valley.model._rules import require, require_one_of
from valley.model.arrangement import LEFT, RIGHT, Arrangement, PlayedNote
from valley.model.chart import Chart

MIXES: Final = {
    "both": "both hands",
    "left": "left hand alone",
    "right": "right hand alone",
    "ears": "left hand in the left ear, right hand in the right",
    "along": "the tune softer, to play along",
}
_LONGEST: Final = 600  # seconds
_RING = 2.5  # seconds after the last note
_GRACE = 0.07  # seconds that a grace takes before its note
_ACCOMPANIES, _TUNE, _ACCENT = 0.5, 0.72, 0.08


@dataclass(frozen=True)
class Track:
    """What is to be heard. ``part`` 0 is the whole song; ``speed`` a share of the song's own."""

    mix: str = "both"
    part: int = 0
    speed: float = 1.0
    count_in: bool = True
    metronome: bool = False
    kind: str = "mp3"

    def __post_init__(self) -> None:
        require_one_of("mix", self.mix, tuple(MIXES))
        require_one_of("kind", self.kind, tuple(KINDS))
        require(0.25 <= self.speed <= 1.5, "speed", self.speed, "be 0.25 to 1.5 times the song's own")

    @property
    def title(self) -> str:
        """Such as "part 2, left hand alone, 70 %"."""
        where = f"part {self.part}" if self.part else "whole song"
        return f"{where}, {MIXES[self.mix]}, {round(100 * self.speed)} %"


def render_track(chart: Chart, arrangement: Arrangement, track: Track) -> Floats:
    """The sound of a track: shape (2, samples) at ``RATE``, -16 LUFS, no sample above full scale.

    Raises
    ------
    ParameterError
        there is no such part, or nothing is played in it
    """
    parts = [p for p in arrangement.parts if track.part in (0, p.part)]
    if not parts:
        raise ParameterError(f"part={track.part} is not one of the song's parts {[p.part for p in arrangement.parts]}")
    spans = [chart.span(p) for p in chart.parts if track.part in (0, p.number)]
    start, end = spans[0][0], spans[-1][1]
    lead = lead_of(chart, start) if track.count_in else 0.0

    def at(beat: Fraction) -> float:
        return (lead + chart.grid.seconds(beat) - chart.grid.seconds(start)) / track.speed

    strokes = [_stroke(chart, track.mix, n, at(n.start), at(sounding_end(p, n))) for p in parts for n in p.notes if _is_heard(track.mix, n)]
    if not strokes:
        raise ParameterError(f"{track.title}: nothing is played there; choose another part or hand")
    if at(end) > _LONGEST:
        raise ParameterError(f"{track.title} would last {at(end) / 60:.0f} minutes; {_LONGEST // 60} is the most: choose one part, or a higher speed")
    sound = play(strokes, at(end) + _RING)
    for beat, strong in _beats(chart, start, end, track):
        _lay(sound, click(0.06, strong=strong), at(beat))
    return bring_to(sound, RATE)


def _is_heard(mix: str, note: PlayedNote) -> bool:
    return mix not in (LEFT, RIGHT) or note.hand == mix


def _stroke(chart: Chart, mix: str, note: PlayedNote, start: float, end: float) -> Stroke:
    """The tune above what goes with it, the first beat of a bar a little above the others."""
    force = _TUNE if note.melody and mix != "along" else _ACCOMPANIES * (0.45 if note.melody else 1.0)
    into = chart.grid.place(note.start)[1]
    force += _ACCENT * (into == 0) + _ACCENT * note.accent - 0.06 * (into.denominator > 1)
    pan = {"ears": 1.0}.get(mix, 0.18) * (-1 if note.hand == LEFT else 1)
    shift = _GRACE if note.grace else 0.0
    return Stroke(max(0.0, start - shift), max(end - shift, start - shift + 0.06), note.midi, min(1.0, max(0.1, force)), pan)


def lead_of(chart: Chart, start: Fraction) -> float:
    """Seconds of the bar that is counted before a place, at the tempo that is taken up there."""
    beat = chart.grid.seconds(start + 1) - chart.grid.seconds(start)
    return chart.grid.meter_at(start).beats * beat


def _beats(chart: Chart, start: Fraction, end: Fraction, track: Track) -> list[tuple[Fraction, bool]]:
    """Where the clicks fall: the bar that is counted in, and every beat with the metronome."""
    size = chart.grid.meter_at(start).beats
    counted = [(start - size + i, i == 0) for i in range(size)] if track.count_in else []
    if not track.metronome:
        return counted
    first = -(-start // 1)
    return counted + [(Fraction(b), chart.grid.place(Fraction(b))[1] == 0) for b in range(int(first), int(end))]


def _lay(sound: Floats, tone: Floats, seconds: float) -> None:
    at = max(0, round(seconds * RATE))
    tone = tone[: max(0, sound.shape[1] - at)]
    sound[:, at : at + len(tone)] += tone


def dump_track(chart: Chart, arrangement: Arrangement, track: Track, *, bit_rate: int = 160_000) -> bytes:
    """A track as a file with its title, part and speed in its tags.

    Parameters
    ----------
    bit_rate : of MP3, bits a second
    """
    tags = {"title": f"{chart.title} – {track.title}", "album": chart.title, "genre": "practice track", "comment": "made with Valley"}
    return pack_sound(render_track(chart, arrangement, track), RATE, track.kind, tags, bit_rate=bit_rate)
