"""Keys: tonic and mode, signature, scale, spelling, functions of chords."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property

from valley.errors import ParameterError
from valley.theory.pitch import PitchName, parse_name, spell_pitch_class

MODES = ("major", "minor")
_SCALE = {"major": (0, 2, 4, -1, 1, 3, 5), "minor": (0, 2, -3, -1, 1, -4, -2)}


@dataclass(frozen=True)
class Key:
    """A major or minor key.

    >>> str(Key.of("Eb", "major")), Key.of("Eb", "major").signature
    ('Eb major', -3)
    """

    tonic: PitchName
    mode: str

    def __post_init__(self) -> None:
        if self.mode not in MODES:
            raise ParameterError(f"mode={self.mode!r} must be major or minor; other modes are charted as the nearer one")

    @classmethod
    def of(cls, tonic: str, mode: str) -> Key:
        """A key by its tonic's name.

        Parameters
        ----------
        tonic : such as "Bb"
        mode : "major" or "minor"
        """
        return cls(parse_name(tonic), mode)

    @classmethod
    def from_pitch_class(cls, pitch_class: int, mode: str) -> Key:
        """The usual key of a sounding tonic: the spelling with the fewest accidentals.

        Ties (six sharps or six flats) go to Gb major and Eb minor, which pianists read more often.

        Parameters
        ----------
        pitch_class : of the tonic, 0 to 11
        mode : "major" or "minor"
        """
        shift = 0 if mode == "major" else 3
        fifths = (pitch_class * 7 - shift) % 12
        return cls(PitchName((fifths - 12 if fifths > 5 else fifths) + shift), mode)

    @property
    def signature(self) -> int:
        """Sharps (positive) or flats (negative) of the key signature."""
        return self.tonic.fifths - (0 if self.mode == "major" else 3)

    def scale(self) -> tuple[PitchName, ...]:
        """The seven notes from the tonic up (natural minor), strictly spelled."""
        return self._scale

    @cached_property
    def _scale(self) -> tuple[PitchName, ...]:
        return tuple(self.tonic.up(i) for i in _SCALE[self.mode])

    def spell(self, pitch_class: int) -> PitchName:
        """The name this key gives to a pitch class.

        Parameters
        ----------
        pitch_class : 0 to 11, C is 0
        """
        return spell_pitch_class(pitch_class % 12, self.tonic)

    def degree(self, pitch_class: int) -> int:
        """Semitones above the tonic, 0 to 11.

        Parameters
        ----------
        pitch_class : 0 to 11, C is 0
        """
        return (pitch_class - self.tonic.pitch_class) % 12

    def __str__(self) -> str:
        return f"{self.tonic} {self.mode}"
