"""How many notes of a score come out again: MusicXML → hands → MusicXML and MIDI → back, on pieces of a general corpus.

python bench/note_for_note.py [--pieces 120]

The corpus is the one that music21 ships; pieces kept for examination are left out. What a piece holds is counted by music21 alone, without Valley's
reader. Half of the chorales are set on two staves of two voices, as at the piano; quartets and the other chorales keep a staff a part.
"""

from __future__ import annotations

import argparse
import random
import sys
import time
from collections import Counter
from collections.abc import Iterator
from pathlib import Path
from typing import Any

ROOT = Path(__file__).parent.parent
sys.path[:0] = [str(ROOT / "src"), str(ROOT)]

from training.read_scores import RESERVED

FAMILIES = {"bach/": 66, "beethoven/": 16, "mozart/": 14, "haydn/": 8, "handel/": 2, "palestrina/": 10, "trecento/": 6, "josquin/": 4}
_BARS = 24
_GRAIN = 64  # of a quarter: how exactly an onset is held against the score
Notes = Counter[tuple[int, int]]


def choose_pieces(count: int) -> list[str]:
    from music21 import corpus

    rng = random.Random(5)
    root = Path(corpus.__file__).parent
    found: list[str] = []
    for family, most in FAMILIES.items():
        files = [f for f in sorted((root / family).rglob("*")) if f.suffix in (".mxl", ".xml", ".musicxml", ".krn", ".abc")]
        names = [str(f.relative_to(root)) for f in files]
        names = [n for n in names if not n.startswith(tuple(RESERVED))]
        found += rng.sample(names, min(most, len(names)))
    return found[:count] if count < len(found) else found


def write_piece(name: str, index: int) -> tuple[bytes, Notes] | None:
    """A piece's first bars as MusicXML and what they hold; none where music21 cannot write it."""
    from music21 import corpus, musicxml, stream

    try:
        score: Any = corpus.parse(name)
        if isinstance(score, stream.Opus):
            score = score.scores[0]
        score = score.measures(0, _BARS)
        if index % 2 and len(score.parts) == 4:
            score = two_staves(score)
        data: bytes = musicxml.m21ToXml.GeneralObjectExporter(score).parse()
        again: Any = __import__("music21").converter.parseData(data.decode(), format="musicxml")
        if not is_even(again):
            print(f"  left out, its staves' bars are not equally long: {name}")
            return None
        if "<repeat " in data.decode():
            again = again.expandRepeats()
    except Exception as error:  # whatever music21 meets in its own corpus is no matter of Valley's
        print(f"  left out, music21 cannot write it: {name} ({type(error).__name__})")
        return None
    return data, count_notes(again)


def is_even(score: Any) -> bool:
    """Whether every bar is as long on each staff: one that is written longer on one of them has no beginning of the next bar that could be counted."""
    lengths = [[m.duration.quarterLength for m in part.getElementsByClass("Measure")] for part in score.parts]
    return all(row == lengths[0] for row in lengths)


def two_staves(score: Any) -> Any:
    """Four voices as they are played at the piano: two on each staff."""
    from music21 import layout, stream

    staves = []
    for upper, lower in ((0, 1), (2, 3)):
        staff = stream.PartStaff()
        pair = [list(score.parts[i].getElementsByClass("Measure")) for i in (upper, lower)]
        for one, other in zip(*pair, strict=True):
            measure = stream.Measure(number=one.number)
            for mark in one.getElementsByClass(["TimeSignature", "KeySignature", "Clef"]):
                measure.insert(mark.offset, mark)
            measure.paddingLeft, measure.leftBarline, measure.rightBarline = one.paddingLeft, one.leftBarline, one.rightBarline
            for number, bar in enumerate((one, other), 1):
                voice = stream.Voice(id=str(number))
                for element in bar.notesAndRests:
                    voice.insert(element.offset, element)
                measure.insert(0, voice)
            staff.append(measure)
        staves.append(staff)
    new = stream.Score(staves)
    new.insert(0, layout.StaffGroup(staves, symbol="brace"))
    return new


def count_notes(score: Any) -> Notes:
    """(Onset in grains of a quarter, key) of every note that is struck; a key that two voices of a hand strike at a time, once."""
    struck_by: dict[int, set[tuple[int, int, bool]]] = {0: set(), 1: set()}  # the first staff is the right hand, all others the left
    for index, part in enumerate(score.parts):
        struck = struck_by[min(index, 1)]
        for element in part.flatten().notes:
            if "Harmony" in element.classes:
                continue
            for note in getattr(element, "notes", (element,)):
                tie = note.tie or element.tie
                if tie is None or tie.type == "start":
                    struck.add((round(float(element.offset) * _GRAIN), note.pitch.midi, element.duration.isGrace))
    return Counter((at, midi) for struck in struck_by.values() for at, midi, _ in struck)


def from_first(notes: Notes) -> Notes:
    """Onsets from the first one: a pickup that fills no whole beat is written with the rest before it."""
    first = min((at for at, _ in notes), default=0)
    return Counter({(at - first, midi): count for (at, midi), count in notes.items()})


def share(wanted: Notes, found: Notes) -> float:
    total = sum(wanted.values())
    return sum((wanted & found).values()) / total if total else 1.0


def pieces(count: int) -> Iterator[tuple[str, bytes, Notes]]:
    for index, name in enumerate(choose_pieces(count)):
        written = write_piece(name, index)
        if written and written[1]:
            yield name, *written


def is_for_two_hands(work: Any) -> bool:
    """Whether more than a tune is written: a score of one hand is taken for a tune, and the hands are proposed under it."""
    return any(p.source == "imported" for p in work.choices.passages)


def main() -> None:
    from music21 import converter

    from valley.errors import ValleyError
    from valley.formats.midi import dump_midi
    from valley.formats.midi_in import read_midi
    from valley.formats.musicxml import dump_musicxml
    from valley.pipeline.readers import read_any_song
    from valley.song import Work

    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("--pieces", type=int, default=130)
    args = parser.parse_args()
    rows: list[tuple[float, float, float]] = []
    whole = refused = notes = 0
    began = time.perf_counter()
    for name, data, wanted in pieces(args.pieces):
        try:
            work = Work(read_any_song(data, "piece.musicxml"))
            if not is_for_two_hands(work):
                print(f"  left out, a tune alone: {name}")
                continue
            arrangement, chart = work.arrangement, work.chart
        except ValleyError as error:
            refused += 1
            print(f"  refused: {name}: {error}")
            continue
        score: Any = converter.parseData(dump_musicxml(chart, arrangement, fold=False).decode(), format="musicxml")
        midi = read_midi(dump_midi(chart, arrangement))
        wanted, out = from_first(wanted), from_first(count_notes(score))
        heard = from_first(Counter((round(float(n.start) * _GRAIN), n.midi) for n in midi.notes))
        near = sum(min(c, max(heard[at + d, key] for d in (-4, -3, -2, -1, 0, 1, 2, 3, 4))) for (at, key), c in wanted.items()) / sum(wanted.values())
        row = (share(wanted, out), share(out, wanted), near)
        rows.append(row)
        notes += sum(wanted.values())
        whole += row[0] == 1.0
        if min(row) < 1.0:
            print(f"  {name}: {row[0]:.4f} come out, {row[1]:.4f} of what comes out was there, MIDI {row[2]:.4f}")
    mean = [sum(r[i] for r in rows) / len(rows) for i in range(3)]
    print(f"{len(rows)} pieces, {notes} notes, {refused} refused: {mean[0]:.4f} of the notes come out of MusicXML again ({whole} pieces whole),")
    print(f"{mean[1]:.4f} of what comes out was written, {mean[2]:.4f} come out of MIDI within a sixty-fourth; {time.perf_counter() - began:.0f} s")


if __name__ == "__main__":
    main()
