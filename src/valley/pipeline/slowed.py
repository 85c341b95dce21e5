"""The recording itself, slower at its own pitch, for the creator's own rehearsal: never a hand-out, as its sound belongs to others."""

from __future__ import annotations

from dataclasses import dataclass
from pathlib import Path
from typing import Final

from valley.audio.decode import load_sound
from valley.audio.packing import KINDS, pack_sound
from valley.audio.stretch import FASTEST, SLOWEST, change_speed
from valley.errors import ParameterError
from valley.model._rules import require, require_one_of
from valley.model.chart import Chart

CAUTION: Final = "For your own rehearsal only: the recording's sound belongs to others. What you hand out is what Valley's piano plays."
_RATE: Final = 44_100
_LONGEST: Final = 1200  # seconds of slowed sound


@dataclass(frozen=True)
class Slowed:
    """What is to be heard. ``part`` 0 is the whole song; ``lead`` begins a bar before the part, to come in on time."""

    part: int = 0
    speed: float = 0.7
    lead: bool = True
    kind: str = "mp3"

    def __post_init__(self) -> None:
        require_one_of("kind", self.kind, tuple(KINDS))
        require(SLOWEST <= self.speed <= FASTEST, "speed", self.speed, f"be {SLOWEST} to {FASTEST} times the recording's own")

    @property
    def title(self) -> str:
        """Such as "part 2 of the recording, 70 %"."""
        return f"{f'part {self.part} of the recording' if self.part else 'the recording'}, {round(100 * self.speed)} %"


def span_of(chart: Chart, slowed: Slowed) -> tuple[float, float]:
    """Where a part lies in the recording, in seconds; the end of the whole song is that of the file.

    Raises
    ------
    ParameterError
        there is no such part
    """
    if not slowed.part:
        return 0.0, float("inf")
    part = next((p for p in chart.parts if p.number == slowed.part), None)
    if part is None:
        raise ParameterError(f"part={slowed.part} is not one of the song's parts {[p.number for p in chart.parts]}")
    start, end = chart.span(part)
    bar = chart.grid.meter_at(start).beats if slowed.lead else 0
    return max(0.0, chart.grid.seconds(start - bar)), chart.grid.seconds(end)


def dump_slowed(recording: Path, chart: Chart, slowed: Slowed, *, shown_name: str = "") -> bytes:
    """A part of the recording, or all of it, slower, as a file.

    Raises
    ------
    AudioDecodeError, ParameterError
        the recording cannot be read; there is no such part; it would last too long
    """
    begins, ends = span_of(chart, slowed)
    sound = load_sound(recording, sr=_RATE, shown_name=shown_name)
    piece = sound.y[round(begins * _RATE) : min(len(sound.y), round(min(ends, sound.duration) * _RATE))]
    if not len(piece):
        raise ParameterError(f"part {slowed.part} begins at {begins:.0f} s, and the recording ends at {sound.duration:.0f} s; set its bars anew")
    lasts = len(piece) / _RATE / slowed.speed
    if lasts > _LONGEST:
        raise ParameterError(f"{slowed.title} would last {lasts / 60:.0f} minutes; {_LONGEST // 60} is the most: choose one part, or a higher speed")
    tags = {"title": f"{chart.title} – {slowed.title}", "album": chart.title, "genre": "rehearsal", "comment": CAUTION}
    return pack_sound(change_speed(piece[None, :], _RATE, slowed.speed), _RATE, slowed.kind, tags)
