"""What chord is it? Names for a set of played notes, ranked, with the reason for each.

Every root and quality is held against the notes: members that sound, members that are missing (a fifth may be, a third may
not), notes that do not belong. The lowest note is the bass; chords of the key and plain chords come first where the notes
fit several equally, which is said.
"""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from functools import lru_cache

from valley.theory._chord_table import QUALITIES
from valley.theory.chord import Chord, root_in
from valley.theory.key import Key
from valley.theory.pitch import PitchName

AGREES, PARTLY, CONTRADICTS = "agrees", "partly", "contradicts"

# Cost of leaving out a member, by its interval on the line of fifths; what makes the quality must sound.
_MISSING = {-4: 1.9, -5: 1.9, 9: 1.9, 6: 1.9, 0: 2.2, 1: 0.55, -3: 1.6, 4: 1.6, -2: 1.7, 5: 1.7, 2: 1.9, 3: 1.9, -1: 1.9, -6: 1.4, 8: 1.5, -9: 1.7}
_EXTRA = 2.4  # a note that does not belong, unless it is only the bass
_FOREIGN_BASS, _INVERSION, _OUT_OF_KEY = 1.3, 0.45, 0.4
# How far down the list a quality comes when others fit as well.
_RARE = {
    "maj": 0.0,
    "min": 0.0,
    "7": 0.1,
    "min7": 0.1,
    "maj7": 0.12,
    "sus4": 0.35,
    "sus2": 0.5,
    "dim": 0.3,
    "aug": 0.4,
    "hdim7": 0.25,
    "dim7": 0.25,
    "minmaj7": 0.5,
    "maj6": 0.45,
    "min6": 0.5,
    "9": 0.3,
    "maj9": 0.3,
    "min9": 0.3,
    "maj(9)": 0.3,
    "min(9)": 0.4,
    "sus4(b7)": 0.4,
    "5": 0.2,
    "7(b9)": 0.5,
    "7(#9)": 0.6,
    "(1,3,b5,b7)": 0.7,
    "aug(b7)": 0.6,
    "maj6(9)": 0.6,
    "maj7(#4)": 0.7,
    "11": 0.9,
    "min11": 0.8,
    "13": 0.9,
    "maj(4)": 0.5,
    "min(4)": 0.5,
    "sus4(b7,9)": 0.6,
}
_SELDOM = 0.9
_WORST = 3.2
_FURTHEST = 1.4  # behind the best name; what lies beyond is no answer


@dataclass(frozen=True)
class NamedChord:
    """One name for the notes. ``cost`` is 0 for a plain chord of the key with nothing missing; ``why`` is a sentence."""

    chord: Chord
    cost: float
    why: str


def reads_as(said: PitchName, written: PitchName) -> bool:
    """Whether a note may be said so: as it is written, or by the plain key's name where it is written with a double sign.

    >>> from valley.theory.pitch import parse_name
    >>> reads_as(parse_name("A"), parse_name("Bbb")), reads_as(parse_name("D#"), parse_name("Eb"))
    (True, False)
    """
    return said == written or (abs(written.alter) > 1 and said.pitch_class == written.pitch_class)


def name_notes(midi: Iterable[int], key: Key, *, at_most: int = 5) -> tuple[NamedChord, ...]:
    """The likeliest chord names for sounding keys, the best first; empty for fewer than two different notes.

    Parameters
    ----------
    midi : sounding keys, MIDI numbers in any order; the lowest is the bass
    key : decides between names that fit equally
    at_most : how many names are given

    >>> [n.chord.to_symbol() for n in name_notes([52, 60, 67], Key.of("C", "major"))][:1]
    ['C/E']
    """
    keys = sorted(set(midi))
    sounding = frozenset(k % 12 for k in keys)
    return _name(sounding, keys[0] % 12, key, at_most) if len(sounding) > 1 else ()


@lru_cache(maxsize=8192)
def _name(sounding: frozenset[int], bass: int, key: Key, at_most: int) -> tuple[NamedChord, ...]:
    """Names for pitch classes over a bass; a song asks for the same grips again and again."""
    found: list[tuple[float, Chord, frozenset[int], tuple[int, ...]]] = []
    scale = {n.pitch_class for n in key.scale()}
    for root_pc in range(12):
        for quality in QUALITIES:
            members = {(root_pc + i * 7) % 12: i for i in quality.members}
            if len(members.keys() & sounding) < 2:
                continue
            extra = sounding - members.keys()
            only_bass = len(extra) == 1 and bass in extra and len(sounding) > 3
            missing = tuple(i for pc, i in members.items() if pc not in sounding)
            cost = _RARE.get(quality.harte, _SELDOM) + sum(_MISSING[i] for i in missing)
            cost += _FOREIGN_BASS if only_bass else _EXTRA * len(extra)
            if bass != root_pc and bass in members:
                cost += _FOREIGN_BASS if members[bass] == 2 else _INVERSION  # nobody hears a ninth as a bass of its chord
            cost += _OUT_OF_KEY * sum(pc not in scale for pc in members) / len(members)
            if cost > _WORST:
                continue
            root = root_in(key, root_pc, quality)
            interval = next((i for pc, i in members.items() if pc == bass), None)
            if interval is None:
                interval = key.spell(bass).fifths - root.fifths
            found.append((cost, Chord(root, quality, interval), extra, missing))
    found.sort(key=lambda f: (f[0], f[1].to_harte()))
    best = [f for f in found[:at_most] if f[0] <= found[0][0] + _FURTHEST]
    return tuple(
        NamedChord(chord, round(cost, 3), _explain(chord, extra, missing, bass, key, twin=_twin(i, best)))
        for i, (cost, chord, extra, missing) in enumerate(best)
    )


def _twin(index: int, rows: list[tuple[float, Chord, frozenset[int], tuple[int, ...]]]) -> Chord | None:
    """Another name for exactly the same notes."""
    here = rows[index][1]
    return next((c for i, (_, c, _, _) in enumerate(rows) if i != index and c.pitch_classes() == here.pitch_classes()), None)


def _explain(chord: Chord, extra: frozenset[int], missing: tuple[int, ...], bass: int, key: Key, *, twin: Chord | None) -> str:
    said = [f"{chord.root.up(i)} is the {chord.quality.word(i)}" for i in chord.quality.members if i not in missing]
    words = ", ".join(said)
    if missing:
        names = " and ".join(chord.quality.word(i) for i in missing)
        words += f"; the {names} {'is' if len(missing) == 1 else 'are'} left out"
    foreign = sorted(str(key.spell(pc)) for pc in extra if pc != bass)
    if bass in extra:
        words += f"; {key.spell(bass)} is a bass that does not belong to it"
    if foreign:
        words += f"; {' and '.join(foreign)} {'does' if len(foreign) == 1 else 'do'} not belong to it"
    if twin is not None:
        words += f"; the same notes are {twin.to_symbol()}"
    return words


def judge_claim(claimed: Chord, midi: Iterable[int], key: Key) -> tuple[str, str]:
    """Does a claimed name fit the played notes?

    Parameters
    ----------
    claimed : the chord that is named
    midi : sounding keys, MIDI numbers; the lowest is the bass
    key : decides between names that fit equally

    Returns
    -------
    verdict : "agrees", "partly" or "contradicts"
    sentence : what is missing or added, and the right name where there is one
    """
    sounding = {k % 12 for k in midi}
    members = {claimed.root.up(i).pitch_class: i for i in claimed.quality.members}
    missing = [i for pc, i in members.items() if pc not in sounding]
    extra = sorted(sounding - set(members) - {claimed.bass.pitch_class})
    names = name_notes(midi, key, at_most=1)
    right = f"; the notes make {names[0].chord.to_symbol()}" if names and names[0].chord.to_harte() != claimed.to_harte() else ""
    if not missing and not extra:
        return AGREES, f"every note of {claimed.to_symbol()} is there"
    parts = [f"{claimed.root.up(i)} ({claimed.quality.word(i)}) is missing" for i in missing] + [f"{key.spell(pc)} is added" for pc in extra]
    only_fifth = missing == [1] and not extra
    core = {0, 4, -3, -1, 2} & set(claimed.quality.members)
    broken = any(i in core and i != 2 for i in missing) or len(extra) > 1 or (missing and extra)
    verdict = CONTRADICTS if broken and not only_fifth else PARTLY
    return verdict, f"{', '.join(parts)}{right}"
