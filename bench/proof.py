"""How well the proof-reader reads: made-up sentences about made-up songs, half of them with a planted error.

    python bench/proof.py [--songs 12]

Precision: of the sentences in which something is said to be wrong, the share with a planted error. Recall: of the planted errors, the share that is found.
"""

from __future__ import annotations

import argparse
import sys
from collections.abc import Callable, Iterator
from dataclasses import dataclass
from pathlib import Path
from random import Random

ROOT = Path(__file__).parent.parent
sys.path[:0] = [str(ROOT / "src"), str(ROOT)]

from valley.arranging.arrange import arrange
from valley.formats.chord_chart import parse_chord_chart
from valley.lesson.proof import read_proof
from valley.model.arrangement import Arrangement, Grip, HandNote
from valley.model.chart import Chart
from valley.model.choices import Choices
from valley.theory._chord_table import BY_HARTE
from valley.theory.chord import Chord
from valley.theory.names import name_note, name_pitch
from valley.theory.pitch import PitchName, parse_pitch

KEYS = ("F major", "Bb major", "D major", "A minor", "E minor", "Eb major", "C major", "G minor")
STYLES = ("root-and-chord", "shared-chord", "open-tenths", "full-melody", "shell")


@dataclass(frozen=True)
class Case:
    """A sentence with what was planted in it ("" where it is right)."""

    text: str
    planted: str
    chart: Chart
    arrangement: Arrangement
    naming: str


def make_song(rng: Random) -> tuple[Chart, Arrangement]:
    """Eight bars of chords of a key, with inversions and sevenths, in a voicing."""
    from valley.theory.key import Key

    key = Key.of(*rng.choice(KEYS).split())
    scale = key.scale()
    shapes = {"major": ("", "m", "m", "", "", "m", "dim"), "minor": ("m", "dim", "", "m", "m", "", "")}[key.mode]
    bars, before = [], -1
    for _ in range(8):
        degree = rng.choice([d for d in range(6) if d != before])
        before = degree
        symbol = f"{scale[degree]}{shapes[degree]}"
        if rng.random() < 0.3 and shapes[degree] in ("", "m"):
            symbol += "7" if shapes[degree] == "m" or degree == 4 else "maj7"
        elif rng.random() < 0.2 and shapes[degree] == "":
            symbol += f"/{Chord(scale[degree], BY_HARTE['maj'], 4).bass}"
        bars.append(symbol)
    chart = parse_chord_chart(f"key: {key}\n| " + " | ".join(bars) + " |")
    return chart, arrange(chart, Choices(style=rng.choice(STYLES), level="standard"))


def speak(chord: Chord, naming: str) -> str:
    """A chord as a teacher says it."""
    words = {"maj": "major", "min": "minor", "7": "seventh", "maj7": "major seventh", "min7": "minor seventh", "dim": "diminished"}[chord.quality.harte]
    over = f" over {name_note(chord.bass, naming=naming, flats='written' if naming == 'german' else 'spoken')}" if chord.bass_interval else ""
    return f"{name_note(chord.root, naming=naming, flats='written' if naming == 'german' else 'spoken')} {words}{over}"


def other_quality(rng: Random, chord: Chord) -> Chord:
    swap = {"maj": "min", "min": "maj", "7": "maj7", "maj7": "7", "min7": "7", "dim": "min"}
    return Chord(chord.root, BY_HARTE[swap[chord.quality.harte]], chord.bass_interval if rng.random() < 0.5 else 0)


def other_root(rng: Random, chord: Chord) -> Chord:
    return Chord(chord.root.up(rng.choice((2, -2, 1, -1))), chord.quality, 0)


def listing(notes: tuple[HandNote, ...], naming: str, octaves: bool) -> str:
    names = [name_pitch(n.pitch, naming=naming) if octaves else name_note(parse_pitch(n.pitch)[0], naming=naming) for n in notes]
    return names[0] if len(names) == 1 else f"{', '.join(names[:-1])} and {names[-1]}"


def swap_spelling(pitch: str) -> str | None:
    """Another spelling of a black key."""
    name, midi = parse_pitch(pitch)
    other = PitchName(name.fifths + (12 if name.alter < 0 else -12))
    return other.at(midi) if name.alter and abs(other.alter) < 2 else None


def respelled(note: HandNote, pitch: str) -> HandNote:
    return HandNote(pitch, parse_pitch(pitch)[1], note.member)


def sentences(rng: Random, chart: Chart, arrangement: Arrangement, naming: str) -> Iterator[Case]:
    for grip in arrangement.parts[0].grips:
        chord = grip.chord
        bar = chart.grid.place(grip.start)[0]

        def case(text: str, planted: str = "") -> Case:
            return Case(text, planted, chart, arrangement, naming)

        yield case(rng.choice((f"In bar {bar} the chord is {speak(chord, naming)}.", f"Bar {bar} is {speak(chord, naming)}, hold it for 4 beats.")))
        yield case(f"In bar {bar} we play {speak(other_quality(rng, chord), naming)}.", "quality")
        yield case(f"Bar {bar}: {speak(other_root(rng, chord), naming)}.", "root")
        yield case(f"Bar {bar}: {speak(chord, naming)}. Hold it for {rng.choice((2, 3, 5))} beats.", "count")
        yield from _about_hands(rng, grip, bar, naming, case)


def _about_hands(rng: Random, grip: Grip, bar: int, naming: str, case: Callable[..., Case]) -> Iterator[Case]:
    hand, notes = rng.choice([(h, n) for h, n in (("left", grip.left), ("right", grip.right)) if n])
    with_octaves = rng.random() < 0.6
    yield case(f"In bar {bar} the {hand} hand plays {listing(notes, naming, with_octaves)}.")
    if len(notes) < 2:
        return
    place = rng.randrange(len(notes))
    wrong = list(notes)
    name, midi = parse_pitch(notes[place].pitch)
    moved = PitchName(name.fifths + rng.choice((7, -7)))
    if moved.pitch_class not in {n.midi % 12 for n in notes} and abs(moved.alter) < 2:
        up = midi + (1 if moved.fifths > name.fifths else -1)
        wrong[place] = respelled(notes[place], moved.at(up))
        yield case(f"In bar {bar} the {hand} hand plays {listing(tuple(wrong), naming, with_octaves)}.", "note")
    octave = list(notes)
    octave[place] = respelled(notes[place], name.at(midi + rng.choice((12, -12))))
    yield case(f"In bar {bar} the {hand} hand plays {listing(tuple(octave), naming, octaves=True)}.", "octave")
    other = "right" if hand == "left" else "left"
    theirs = {n.midi for n in (grip.left if other == "left" else grip.right)}
    if not theirs & {n.midi for n in notes}:
        yield case(f"In bar {bar} the {other} hand plays {listing(notes, naming, octaves=True)}.", "hand")
    swapped = [(i, s) for i, n in enumerate(notes) if (s := swap_spelling(n.pitch))]
    if swapped and naming == "letters":
        i, pitch = rng.choice(swapped)
        mixed = list(notes)
        mixed[i] = respelled(notes[i], pitch)
        yield case(f"In bar {bar} the {hand} hand plays {listing(tuple(mixed), naming, with_octaves)}.", "spelling")
    required = [n for n in notes if not n.optional]
    if len(notes) >= 3 and len(required) == len(notes):
        fewer = tuple(n for i, n in enumerate(notes) if i != 1)
        yield case(f"In bar {bar} the {hand} hand plays {listing(fewer, naming, with_octaves)}.", "missing")


def measure(songs: int, seed: int = 1) -> dict[str, dict[str, tuple[int, int]]]:
    """By naming school: planted kind → (found, planted); "right" → (sentences left alone, right sentences)."""
    rng = Random(seed)
    table: dict[str, dict[str, tuple[int, int]]] = {}
    for _ in range(songs):
        chart, arrangement = make_song(rng)
        for naming in ("letters", "syllables", "german"):
            rows = table.setdefault(naming, {})
            for case in sentences(rng, chart, arrangement, naming):
                claims = read_proof(case.text, chart, arrangement, naming=naming)
                wrong = any(c.verdict in ("contradicts", "partly") for c in claims)
                kind = case.planted or "right"
                good, count = rows.get(kind, (0, 0))
                rows[kind] = (good + (wrong if case.planted else (not wrong and bool(claims))), count + 1)
    return table


def main() -> None:
    parser = argparse.ArgumentParser(description=__doc__, formatter_class=argparse.RawDescriptionHelpFormatter)
    parser.add_argument("--songs", type=int, default=12)
    args = parser.parse_args()
    table = measure(args.songs)
    for naming, rows in table.items():
        found = sum(good for kind, (good, _) in rows.items() if kind != "right")
        planted = sum(count for kind, (_, count) in rows.items() if kind != "right")
        quiet, right = rows["right"]
        precision = found / max(1, found + right - quiet)
        print(f"\n{naming}: precision {precision:.3f}, recall {found / planted:.3f} ({planted} planted, {right} right sentences)")
        for kind, (good, count) in sorted(rows.items()):
            print(f"  {kind:10s} {good:4d} of {count}")


if __name__ == "__main__":
    main()
