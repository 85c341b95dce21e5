"""What the listening heard in a recording. Never edited: corrections are made in the Chart.

Times are seconds from the start of the recording; ``midi`` is nominal (A4 = 69 whatever the tuning).
"""

from __future__ import annotations

from dataclasses import dataclass

from valley.errors import ParameterError
from valley.model._rules import require, require_ascending, require_finite, require_key, require_share
from valley.theory.chord import Chord, parse_harte
from valley.theory.key import Key
from valley.theory.meter import SUPPORTED


def _require_times(start: float, end: float, confidence: float) -> None:
    require_finite("start", start)
    require_finite("end", end)
    require(start <= end, "end", end, f"not come before the start, {start}")
    require_share("confidence", confidence)


@dataclass(frozen=True)
class KeyRegion:
    start: float
    end: float
    tonic: str
    mode: str
    confidence: float

    def __post_init__(self) -> None:
        _require_times(self.start, self.end, self.confidence)
        Key.of(self.tonic, self.mode)


@dataclass(frozen=True)
class Reading:
    """One way to hear a chord, with its probability."""

    label: str
    probability: float

    def __post_init__(self) -> None:
        parse_harte(self.label)
        require_share("probability", self.probability)

    @property
    def chord(self) -> Chord | None:
        return parse_harte(self.label)


@dataclass(frozen=True)
class HeardChord:
    """A chord in Harte syntax; ``alternatives`` are its best readings, the chosen one first."""

    start: float
    end: float
    label: str
    confidence: float
    alternatives: tuple[Reading, ...] = ()

    def __post_init__(self) -> None:
        _require_times(self.start, self.end, self.confidence)
        parse_harte(self.label)

    @property
    def chord(self) -> Chord | None:
        return parse_harte(self.label)


@dataclass(frozen=True)
class HeardNote:
    start: float
    end: float
    midi: int
    confidence: float

    def __post_init__(self) -> None:
        _require_times(self.start, self.end, self.confidence)
        require_key(self.midi)


@dataclass(frozen=True)
class BassNote:
    start: float
    end: float
    midi: int
    confidence: float = 1.0

    def __post_init__(self) -> None:
        _require_times(self.start, self.end, self.confidence)
        require_key(self.midi)


@dataclass(frozen=True)
class Section:
    """A stretch of the song; ``same_as`` is the index of the first section that it repeats."""

    start: float
    end: float
    label: str
    same_as: int | None
    confidence: float


@dataclass(frozen=True)
class Tempo:
    """A tempo at which the song could be counted: the chosen one, half and double."""

    bpm: float
    probability: float


@dataclass(frozen=True)
class Hearing:
    """Everything heard in one recording. In 6/8 the beat is the dotted quarter.

    ``notes`` are all notes that were struck, the tune and the bass among them; most exact for piano alone.
    """

    duration: float
    tuning_cents: float
    bpm: float
    meter: str
    beats: tuple[float, ...]
    downbeats: tuple[float, ...]
    keys: tuple[KeyRegion, ...]
    chords: tuple[HeardChord, ...]
    melody: tuple[HeardNote, ...]
    bass: tuple[BassNote, ...]
    sections: tuple[Section, ...]
    notes: tuple[HeardNote, ...] = ()
    tempi: tuple[Tempo, ...] = ()
    beat_confidence: float = 1.0
    meter_confidence: float = 1.0

    def __post_init__(self) -> None:
        if self.meter not in SUPPORTED:
            raise ParameterError(f"meter={self.meter!r} must be one of {', '.join(SUPPORTED)}")
        require_ascending("beats", self.beats)
        require_ascending("downbeats", self.downbeats)
        for i, section in enumerate(self.sections):
            if section.same_as is not None and not 0 <= section.same_as < i:
                raise ParameterError(f"section {i} has same_as={section.same_as}; it must be the index of an earlier one")
