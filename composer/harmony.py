"""Progressions: functional harmony with cadences, loops, borrowed chords, inversions and extensions."""

from __future__ import annotations

from dataclasses import dataclass
from random import Random

from valley.theory._chord_table import BY_HARTE
from valley.theory.chord import Chord
from valley.theory.key import Key

# A degree is its place on the line of fifths from the tonic and its triad.
Degree = tuple[int, str]
MAJOR: dict[str, Degree] = {
    "I": (0, "maj"),
    "ii": (2, "min"),
    "iii": (4, "min"),
    "IV": (-1, "maj"),
    "V": (1, "maj"),
    "vi": (3, "min"),
    "vii": (5, "dim"),
    "iv": (-1, "min"),
    "bVII": (-2, "maj"),
    "bVI": (-4, "maj"),
    "bIII": (-3, "maj"),
    "II": (2, "maj"),
    "III": (4, "maj"),
    "VI": (3, "maj"),
    "v": (1, "min"),
}
MINOR: dict[str, Degree] = {
    "i": (0, "min"),
    "iio": (2, "dim"),
    "III": (-3, "maj"),
    "iv": (-1, "min"),
    "V": (1, "maj"),
    "v": (1, "min"),
    "VI": (-4, "maj"),
    "VII": (-2, "maj"),
    "IV": (-1, "maj"),
    "bII": (-5, "maj"),
    "I": (0, "maj"),
    "vii": (5, "dim"),
}
_NEXT_MAJOR = {
    "I": "IV IV IV V V V vi vi ii ii iii bVII III iv II VI",
    "ii": "V V V V IV I vi iii",
    "iii": "vi vi vi IV IV ii",
    "IV": "I I V V V ii vi iv bVII",
    "V": "I I I I vi vi IV ii iii",
    "vi": "IV IV IV ii ii V iii I II",
    "vii": "I I vi iii",
    "iv": "I I V bVII",
    "bVII": "IV IV I I V",
    "bVI": "bVII bVII V I IV",
    "bIII": "IV bVII IV",
    "II": "V V V IV",
    "III": "vi vi vi IV",
    "VI": "ii ii ii",
    "v": "IV ii I",
}
_NEXT_MINOR = {
    "i": "VI VI VII VII iv iv V v III iio IV",
    "iio": "V V V i",
    "III": "VII VI iv VII bII",
    "iv": "i i V V VII VI bII",
    "V": "i i i VI",
    "v": "i VI iv VII",
    "VI": "VII VII III III iv V i",
    "VII": "i i III III VI v",
    "IV": "i VII VI",
    "bII": "V V i",
    "I": "iv iv",
    "vii": "i i",
}
_LOOPS_MAJOR = (
    "I V vi IV",
    "vi IV I V",
    "I vi IV V",
    "I IV V IV",
    "I iii IV V",
    "IV V iii vi",
    "ii V I I",
    "I bVII IV I",
    "I V ii IV",
    "IV I V vi",
    "I IV vi V",
    "I ii IV I",
    "I IV I V",
    "I III IV iv",
)
_LOOPS_MINOR = (
    "i VI III VII",
    "i VII VI VII",
    "i iv VII III",
    "i VI iv V",
    "i III VII IV",
    "VI VII i i",
    "i iv i V",
    "i v VI iv",
    "iv i V i",
    "i VII VI V",
)


@dataclass(frozen=True)
class Richness:
    """How often a chord is more than a triad, and how often its bass is not the root."""

    seventh: float
    ninth: float
    colour: float  # suspended, sixth, added ninth, augmented …
    inversion: float
    chromatic: float  # keep a borrowed or secondary chord that the walk offers


TABLE = {
    "plain": Richness(0.06, 0.0, 0.06, 0.1, 0.3),
    "pop": Richness(0.25, 0.04, 0.2, 0.18, 0.6),
    "rich": Richness(0.85, 0.35, 0.15, 0.12, 0.9),
    "hymn": Richness(0.15, 0.0, 0.06, 0.35, 0.5),
    "romantic": Richness(0.4, 0.05, 0.12, 0.3, 0.9),
}


def walk(rng: Random, length: int, mode: str, richness: Richness, *, end: str = "") -> list[str]:
    """Degrees of a passage: a loop, or a walk that closes on a cadence."""
    table, follow = (MAJOR, _NEXT_MAJOR) if mode == "major" else (MINOR, _NEXT_MINOR)
    if rng.random() < 0.45 and length % 4 == 0:
        loop = rng.choice(_LOOPS_MAJOR if mode == "major" else _LOOPS_MINOR).split()
        degrees = loop * (length // 4)
    else:
        degrees = [rng.choice(["I", "I", "I", "vi", "IV"] if mode == "major" else ["i", "i", "i", "VI", "iv"])]
        while len(degrees) < length:
            step = rng.choice(follow[degrees[-1]].split())
            plain = step in ("I", "ii", "iii", "IV", "V", "vi") if mode == "major" else step in ("i", "III", "iv", "V", "v", "VI", "VII")
            if plain or rng.random() < richness.chromatic:
                degrees.append(step)
    tonic = "I" if mode == "major" else "i"
    cadence = end or rng.choice(["close", "close", "half", "open", "plagal"])
    if cadence == "close" and length >= 2:
        degrees[-2:] = ["V", tonic]
    elif cadence == "half":
        degrees[-1] = "V"
    elif cadence == "plagal" and length >= 2:
        degrees[-2:] = ["IV" if mode == "major" else "iv", tonic]
    assert all(d in table for d in degrees)
    return degrees


def build(rng: Random, degree: str, key: Key, richness: Richness, *, next_degree: str = "") -> Chord:
    """A chord on a degree, dressed as the style likes."""
    fifths, triad = (MAJOR if key.mode == "major" else MINOR)[degree]
    root = key.tonic.up(fifths)
    quality = _dress(rng, degree, triad, key.mode, richness)
    chord = Chord(root, BY_HARTE[quality])
    bass = 0
    if rng.random() < richness.inversion and quality in ("maj", "min", "7", "maj7", "min7", "dim", "hdim7"):
        members = BY_HARTE[quality].members
        bass = rng.choice([members[1], members[1], members[1], members[2], members[-1]])
        if quality == "dim" and bass == members[2]:
            bass = members[1]
        if quality == "hdim7":
            bass = rng.choice([-3, -6])
        if quality == "maj7" and bass == 1:
            bass = 4
    return Chord(chord.root, chord.quality, bass).respelled(key)


def _dress(rng: Random, degree: str, triad: str, mode: str, r: Richness) -> str:
    dominant = (
        degree in ("V", "II", "III", "VI") and triad == "maj" and not (mode == "minor" and degree in ("III", "VI")) or degree == "bVII" and rng.random() < 0.3
    )
    roll = rng.random()
    if roll < r.colour:
        if triad == "maj":
            return rng.choice(
                ["sus4", "sus4", "sus2", "maj6", "maj(9)", "maj(9)", "aug", "5"] if not dominant else ["sus4", "sus4(b7)", "sus4(b7)", "aug", "9", "maj"]
            )
        if triad == "min":
            return rng.choice(["min(9)", "min6", "minmaj7", "sus2", "min7"])
        return rng.choice(["dim7", "hdim7"])
    if rng.random() < r.seventh:
        if triad == "dim":
            return "hdim7" if mode == "major" or degree == "iio" else "dim7"
        nine = rng.random() < r.ninth
        if dominant:
            return "9" if nine else "7"
        return ("maj9" if nine else "maj7") if triad == "maj" else ("min9" if nine else "min7")
    if dominant and rng.random() < 0.25:
        return "7"
    return triad
