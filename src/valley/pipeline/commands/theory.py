"""``valley name``: what chord a set of notes is."""

from __future__ import annotations

import argparse
import re
from collections.abc import Sequence
from typing import Any

from valley.errors import FormatError
from valley.pipeline.commands._common import add_json, check_folder_of, put_json, say
from valley.theory.key import Key
from valley.theory.naming import NamedChord, name_notes
from valley.theory.pitch import parse_name, parse_pitch


def add_name(name: argparse.ArgumentParser) -> None:
    name.add_argument(
        "notes",
        nargs="+",
        metavar="NOTES",
        help='such as "G2 B2 D3 F3", from the bottom up; octaves may be left out; (A3) is a note that is played if you like',
    )
    name.add_argument("--key", default="C major", help='such as "E minor"; decides between names that fit equally')
    add_json(name)
    name.set_defaults(run=run_name)


def read_key(text: str) -> Key:
    """ "E minor", "Em", "Bb" or "B flat major".

    >>> str(read_key("Em")), str(read_key("b flat"))
    ('E minor', 'Bb major')
    """
    words = text.replace("-", " ").split()
    if not words:
        raise FormatError('the key is empty; write one such as "E minor"')
    tonic = words[0]
    rest = [w.lower() for w in words[1:]]
    if rest and rest[0] in ("flat", "sharp"):
        tonic += {"flat": "b", "sharp": "#"}[rest.pop(0)]
    if len(tonic) > 1 and tonic.endswith("m") and not rest:
        tonic, rest = tonic[:-1], ["minor"]
    return Key.of(tonic, rest[0] if rest else "major")


def split_notes(words: Sequence[str]) -> list[str]:
    """Names of notes, whatever stands between them.

    >>> split_notes(["C-E-G, Bb", "A-1"])
    ['C', 'E', 'G', 'Bb', 'A-1']
    """
    return [word for word in re.split(r"[\s,;+]+|[-–](?=[A-Ga-g])", " ".join(words)) if word]


def read_notes(words: list[str]) -> tuple[list[int], list[int]]:
    """MIDI numbers of notes from the bottom up, and those among them that stand in brackets; one without an octave lies just above the note before it.

    >>> read_notes(["E3 G B", "(A4)"])
    ([52, 55, 59, 69], [69])
    """
    keys: list[int] = []
    optional: list[int] = []
    for text in split_notes(words):
        word = text.removeprefix("(").removesuffix(")")
        if not word:
            raise FormatError(f"{text!r} names no note; write one such as (A3)")
        if word[-1].isdigit():
            keys.append(parse_pitch(word)[1])
        else:
            pitch_class = parse_name(word).pitch_class
            floor = keys[-1] + 1 if keys else 48
            keys.append(floor + (pitch_class - floor) % 12)
        if text.startswith("(") and text.endswith(")"):
            optional.append(keys[-1])
    return keys, optional


def run_name(args: argparse.Namespace) -> None:
    check_folder_of(args.json)
    key, (notes, optional) = read_key(args.key), read_notes(args.notes)
    firm = [m for m in notes if m not in optional]
    names = [show_name(n, firm, key, optional) for n in name_notes(firm, key)]
    if args.json:
        put_json({"key": str(key), "midi": sorted(set(notes)), "names": names}, args.json)
        return
    if not names:
        say("No chord: at least two different notes that belong together are needed.")
    for place, row in enumerate(names, 1):
        say(f"{place}. {row['symbol']}  ({row['harte']}): {row['reason']}.")


def show_name(named: NamedChord, midi: list[int], key: Key, optional: Sequence[int] = ()) -> dict[str, Any]:
    """A name with which note is what, what is missing, what is added, and what may be played besides: "Em, A if you like"."""
    chord, sounding = named.chord, {m % 12 for m in midi}
    members = {n.pitch_class for n in chord.members()}
    besides = list(dict.fromkeys(str(chord.name_of(m % 12, key)) for m in optional if m % 12 not in members))
    return {
        "harte": chord.to_harte(),
        "symbol": chord.to_symbol() + (f", {' and '.join(besides)} if you like" if besides else ""),
        "notes": [{"pitch": chord.name_of(m % 12, key).at(m), "midi": m, "member": chord.member_word(m % 12) or "added"} for m in sorted(set(midi))],
        "missing": [
            {"name": str(chord.root.up(i)), "member": chord.quality.word(i)} for i in chord.quality.members if chord.root.up(i).pitch_class not in sounding
        ],
        "added": sorted({str(chord.name_of(pc, key)) for pc in sounding - members}),
        "cost": named.cost,
        "reason": named.why,
    }
