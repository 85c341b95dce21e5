"""Chords: read and print symbols, and say which notes they hold.

The canonical text is Harte's ("F:maj/3", "G:min7", "N"); people type and read "F/A", "Gm7".
"""

from __future__ import annotations

import re
from dataclasses import dataclass
from functools import lru_cache

from valley.errors import FormatError
from valley.theory._chord_table import HARTE_DEGREES, QUALITIES, Quality
from valley.theory.key import Key
from valley.theory.pitch import PitchName, parse_name
from valley.theory.quality import quality_of_harte, read_suffix
from valley.values import derived

NO_CHORD = "N"
_DEGREE_FIFTHS = {v: k for k, v in HARTE_DEGREES.items()} | {"9": 2, "b9": -5, "11": -1, "#11": 6, "13": 3}
_SYMBOL = re.compile(r"([A-Ga-g](?:#{1,3}|b{1,3}|♯|♭)?)\s*([^/]*?)\s*(?:/\s*([A-Ga-g](?:#{1,3}|b{1,3}|♯|♭)?))?$")


@dataclass(frozen=True)
class Chord:
    """A root, a quality and the interval of the bass above the root (0 = root position), both on the line of fifths."""

    root: PitchName
    quality: Quality
    bass_interval: int = 0

    @derived
    def bass(self) -> PitchName:
        return self.root.up(self.bass_interval)

    def members(self) -> tuple[PitchName, ...]:
        """The notes of the chord from the root up, spelled from the root; a foreign bass is not among them."""
        return self._members

    @derived
    def _members(self) -> tuple[PitchName, ...]:
        return tuple(self.root.up(i) for i in self.quality.members)

    def wanted(self) -> tuple[int, ...]:
        """Pitch classes of its members from the root up, then of a bass that is none of them."""
        return self._wanted

    @derived
    def _wanted(self) -> tuple[int, ...]:
        return tuple(dict.fromkeys(n.pitch_class for n in (*self._members, self.bass)))

    @derived
    def third(self) -> int | None:
        """Pitch class of its third; none where it is suspended or open."""
        return next((self.root.up(i).pitch_class for i in self.quality.members if i in (4, -3)), None)

    @derived
    def _names(self) -> dict[int, PitchName]:
        return {name.pitch_class: name for name in (self.bass, *reversed(self._members))}

    @derived
    def _pitch_classes(self) -> frozenset[int]:
        return frozenset(n.pitch_class for n in self.members()) | {self.bass.pitch_class}

    def pitch_classes(self) -> frozenset[int]:
        """Sounding pitch classes, the bass included."""
        return self._pitch_classes

    def name_of(self, pitch_class: int, key: Key) -> PitchName:
        """Spelling of a note under this chord: as a member where it is one, else as the key has it.

        Parameters
        ----------
        pitch_class : 0 to 11, C is 0
        key : the key that holds there
        """
        return self._names.get(pitch_class % 12) or key.spell(pitch_class)

    def member_word(self, pitch_class: int) -> str:
        """What a note is in this chord ("third"), or an empty text where it is no member.

        Parameters
        ----------
        pitch_class : 0 to 11, C is 0
        """
        return self._words.get(pitch_class % 12, "")

    @derived
    def _words(self) -> dict[int, str]:
        bass = {self.bass.pitch_class: "bass"}
        return bass | {self.root.up(i).pitch_class: self.quality.word(i) for i in reversed(self.quality.members)}

    def __hash__(self) -> int:
        return self._hash

    @derived
    def _hash(self) -> int:
        return hash((self.root, self.quality, self.bass_interval))

    def to_harte(self) -> str:
        """Harte's text, e.g. ``F:maj/3``."""
        return self._harte

    @derived
    def _harte(self) -> str:
        degree = HARTE_DEGREES.get(self.bass_interval)
        if degree is None:  # a bass further off than the table: the same sound by its nearer name
            near = next(i for i in HARTE_DEGREES if (i - self.bass_interval) % 12 == 0)
            degree = HARTE_DEGREES[near]
        return f"{self.root}:{self.quality.harte}" + (f"/{degree}" if self.bass_interval else "")

    def to_symbol(self) -> str:
        """The usual symbol, e.g. ``F/A`` or ``Gm7``."""
        return f"{self.root}{self.quality.suffix}" + (f"/{self.bass}" if self.bass_interval else "")

    def respelled(self, key: Key) -> Chord:
        """The same sound with its root as the key spells it, but never a root with two signs.

        Parameters
        ----------
        key : the key that holds there

        >>> parse_symbol("D#m/F#").respelled(Key.of("Bb", "minor")).to_symbol()
        'Ebm/Gb'
        """
        return Chord(root_in(key, self.root.pitch_class, self.quality), self.quality, self.bass_interval)


def root_in(key: Key, pitch_class: int, quality: Quality) -> PitchName:
    """How a key spells the root of a chord, never with two signs. A diminished chord off the scale leads up, so its root is the raised step.

    Parameters
    ----------
    key : the key that holds there
    pitch_class : of the root, 0 to 11
    quality : of the chord

    >>> str(root_in(Key.of("C", "major"), 1, parse_symbol("Cdim7").quality))
    'C#'
    """
    root = key.spell(pitch_class)
    raised = PitchName(root.fifths + 12)
    if (
        quality.harte in ("dim", "dim7")
        and root not in key.scale()
        and root.fifths < key.tonic.fifths
        and raised.alter <= 1
        and str(raised) not in ("E#", "B#")
    ):
        return raised
    return root.simple() if abs(root.alter) > 1 else root


def label_of(chord: Chord | None) -> str:
    """Harte's label of a chord, ``N`` for none.

    Parameters
    ----------
    chord : None where none sounds
    """
    return chord.to_harte() if chord else NO_CHORD


def symbol_of(chord: Chord | None) -> str:
    """What a player reads: "Gm7", or "no chord".

    Parameters
    ----------
    chord : None where none sounds
    """
    return chord.to_symbol() if chord else "no chord"


@lru_cache(maxsize=4096)
def parse_harte(label: str) -> Chord | None:
    """Read a Harte label; ``N`` and ``X`` give None.

    Parameters
    ----------
    label : root, colon and shorthand or degrees, a slash and the bass's degree: "F#:min7/b3"

    >>> parse_harte("F:maj/3").to_symbol()
    'F/A'
    """
    if label in (NO_CHORD, "X"):
        return None
    head, _, degree = label.partition("/")
    root, _, shorthand = head.partition(":")
    quality = quality_of_harte(shorthand or "maj")
    if quality is None or (degree and degree not in _DEGREE_FIFTHS):
        raise FormatError(f"{label!r} is no chord label known here; Harte's form is wanted, such as F:maj/3 or G:min7")
    return Chord(parse_name(root), quality, _DEGREE_FIFTHS[degree] if degree else 0)


def parse_symbol(text: str) -> Chord | None:
    """Read a chord as people type it: ``F#m7b5/C``, ``Bbadd2``, ``c half-diminished``, ``N`` for none.

    Parameters
    ----------
    text : as typed on a chart

    >>> parse_symbol("Bbadd2").to_harte(), parse_symbol("Ab/C").to_harte()
    ('Bb:maj(9)', 'Ab:maj/3')
    """
    clean = text.strip().replace("6/9", "69")
    if clean.lower() in ("n", "n.c.", "nc", "no chord", "none"):
        return None
    if ":" in clean:
        return parse_harte(clean)
    match = _SYMBOL.match(clean)
    quality = read_suffix(match[2]) if match else None
    if match is None or quality is None:
        raise FormatError(f"{text!r} is no chord that Valley can read; try a form such as Cm7, F#m7b5/C, Bbadd9 or N")
    root = parse_name(match[1])
    bass = parse_name(match[3]) if match[3] else root
    return Chord(root, quality, bass_interval(root, bass, quality))


def complete_symbol(text: str, *, at_most: int = 8) -> tuple[str, ...]:
    """Chord symbols that begin as typed, plain ones first.

    Parameters
    ----------
    text : what has been typed
    at_most : how many are given

    >>> complete_symbol("Bbm")[:3]
    ('Bbm', 'Bbm7', 'Bbm6')
    """
    match = re.match(r"([A-Ga-g](?:#{1,2}|b{1,2}|♯|♭)?)(.*)$", text.strip())
    if match is None:
        return ()
    root, rest = str(parse_name(match[1])), match[2].replace("♯", "#").replace("♭", "b")
    found = [q.suffix for q in QUALITIES if q.suffix.startswith(rest)]
    return tuple(root + suffix for suffix in sorted(found, key=lambda s: (len(s), [q.suffix for q in QUALITIES].index(s)))[:at_most])


def bass_interval(root: PitchName, bass: PitchName, quality: Quality) -> int:
    """The interval of a bass above a root, as it was written; spelled as the chord's own member where nobody would call it so (Ab/B# is Ab/C).

    Parameters
    ----------
    root, bass : as written
    quality : of the chord
    """
    interval = bass.fifths - root.fifths
    if interval in HARTE_DEGREES:
        return interval
    for known in (*quality.members, *HARTE_DEGREES):
        if (known - interval) % 12 == 0:
            return known
    return interval


def close_pitches(chord: Chord, *, bass_from: int = 40, upper_from: int = 55) -> tuple[int, ...]:
    """A plain grip to hear a chord by: its bass, then all its notes within an octave above ``upper_from`` (MIDI).

    Parameters
    ----------
    chord : the chord to hear
    bass_from : lowest MIDI number of the bass
    upper_from : lowest MIDI number of the rest

    >>> close_pitches(parse_harte("C:maj/3"))
    (40, 55, 60, 64)
    """
    bass = bass_from + (chord.bass.pitch_class - bass_from) % 12
    return (bass, *sorted(upper_from + (n.pitch_class - upper_from) % 12 for n in chord.members()))


_SEVENTHS = (-2, 5, -9, 3)
_POSITIONS = ("root position", "first inversion", "second inversion", "third inversion")


def name_inversion(chord: Chord, lowest: int | None = None) -> str:
    """Position in words: "root position", "first inversion", or which note stands in the bass.

    ``lowest`` is the pitch class that sounds lowest, where that is not the chord's own bass.

    Parameters
    ----------
    chord : what is played
    lowest : pitch class of the lowest key, 0 to 11; the bass of the chord without it

    >>> name_inversion(parse_harte("C:maj/3")), name_inversion(parse_harte("C:maj"), 7)
    ('first inversion', 'second inversion')
    """
    below = chord.bass.pitch_class if lowest is None else lowest % 12
    for place, member in enumerate(chord.members()[: len(_POSITIONS)]):
        if member.pitch_class == below and (place < 3 or chord.quality.members[place] in _SEVENTHS):
            return _POSITIONS[place]
    name = next((n for n in (*chord.members(), chord.bass) if n.pitch_class == below), None)
    return f"{name} in the bass" if name else "another note in the bass"
