"""How well the proof-reader reads free speech: sentences labelled by hand, right ones and ones with an error.

    python bench/free_speech.py [FILE …]

Sets that end in .flow.txt are one talk and read as a whole, every slip in the place of the right line before it; of the others every sentence stands alone.

Precision: of the sentences in which something is marked, the share where the wrong words are (among) what is marked. Recall: of the sentences with an error,
the share in which it is marked. Mended: of those found, the share where the right words are proposed.
"""

from __future__ import annotations

import argparse
import re
import sys
from dataclasses import dataclass
from pathlib import Path

ROOT = Path(__file__).parent.parent
sys.path[:0] = [str(ROOT / "src"), str(ROOT)]

from valley.arranging.arrange import arrange
from valley.formats.chord_chart import parse_chord_chart
from valley.fraction import Fraction
from valley.lesson.proof import UNKNOWN, Claim, ProofReader
from valley.model.arrangement import Arrangement
from valley.model.chart import Chart
from valley.model.choices import Choices, ChosenNote, GripChoice
from valley.pipeline.readers import mark_repeats, read_any_song
from valley.song.work import Work
from valley.theory.naming import AGREES
from valley.theory.pitch import parse_pitch

SONG = "key: F major\n[Verse]\n| F | C/E | Dm | Bb |\n| F | C | Bb Gm7 | C7 |\n[Refrain]\n| Bb | F/A | Gm | Am |\n| Bb | C7 | F | F |\n"
# The hands that the sentences speak of, as they were when these were written down.
HANDS = (
    "0 F2 F3 | F4 A4 C5",
    "4 E2 E3 | E4 G4 C5",
    "8 D2 D3 | F4 A4 D5",
    "12 Bb1 Bb2 | F4 Bb4 D5",
    "16 F2 F3 | F4 A4 C5",
    "20 C3 C4 | E4 G4 C5",
    "24 Bb2 Bb3 | D4 F4 Bb4",
    "26 G2 G3 | D4 F4 G4 Bb4",
    "28 C3 C4 | E4 G4 Bb4 C5",
    "32 Bb2 Bb3 | F4 Bb4 D5",
    "36 A2 A3 | F4 A4 C5",
    "40 G2 G3 | G4 Bb4 D5",
    "44 A2 A3 | A4 C5 E5",
    "48 Bb2 Bb3 | Bb4 D5 F5",
    "52 C3 C4 | Bb4 C5 E5 G5",
    "56 F2 F3 | A4 C5 F5",
    "60 F2 F3 | A4 C5 F5",
)
SPEECH = ROOT / "tests/core/lesson"
SETS = (
    "free_speech.txt",
    "free_speech_unseen.txt",
    "talk/fields.open.txt",
    "talk/larch.open.txt",
    "talk/slate.open.txt",
    "talk/brook.open.txt",
    "talk/moor.open.txt",
    "talk/cairn.open.txt",
    "talk/pike.shut.txt",
    "talk/fen.flow.txt",
    "talk/gorse.flow.txt",
    "talk/loch.flow.txt",
    "talk/beck.flow.txt",
    "talk/rill.flow.txt",
    "talk/wold.flow.txt",
    "talk/mere.flow.txt",
    "talk/glen.flow.txt",
    "talk/dune.shut.flow.txt",
    "talk/ford.flow.txt",
    "talk/haze.shut.flow.txt",
    "talk/quay.flow.txt",
    "talk/weir.flow.txt",
    "talk/shaw.shut.flow.txt",
    "talk/lea.shut.flow.txt",
    "talk/tor.shut.flow.txt",
    "talk/nab.shut.flow.txt",
    "talk/sike.shut.flow.txt",
    "talk/holm.flow.txt",
    "talk/carr.flow.txt",
    "talk/fell.flow.txt",
    "talk/garth.shut.flow.txt",
    "talk/ness.shut.flow.txt",
    "talk/brae.shut.flow.txt",
    "talk/cleugh.shut.flow.txt",
    "talk/dell.shut.flow.txt",
    "talk/strath.shut.flow.txt",
    "talk/ghyll.shut.flow.txt",
    "talk/linn.shut.flow.txt",
    "talk/firth.shut.flow.txt",
    "talk/clough.shut.flow.txt",
    "talk/skerry.shut.flow.txt",
    "talk/burn.shut.flow.txt",
)


@dataclass(frozen=True)
class Line:
    text: str
    wrong: str
    right: str


@dataclass(frozen=True)
class Result:
    line: Line
    marked: tuple[Claim, ...]
    found: bool
    mended: bool

    @property
    def as_it_should_be(self) -> bool:
        return self.found if self.line.wrong else not self.marked


def load(path: Path) -> list[Line]:
    rows = [r.split("|") for r in path.read_text("utf-8").splitlines() if r and not r.startswith("#")]
    return [Line(*(cell.strip() for cell in row)) for row in rows]


def _read_grip(chart: Chart, row: str) -> GripChoice:
    start, _, keys = row.partition(" ")
    left, right = (tuple(ChosenNote(parse_pitch(name)[1]) for name in hand.split()) for hand in keys.split("|"))
    chord = next(c.chord for c in chart.chords if c.chord and c.start == Fraction(start))
    return GripChoice(Fraction(start), chord, left, right)


def song_of(path: Path | None) -> tuple[Chart, Arrangement]:
    """The song that a file of sentences speaks of: the chart beside it that has its first name, else the one above."""
    beside = path.with_name(f"{path.name.partition('.')[0]}.chart") if path else None
    if beside and beside.exists():
        work = Work(read_any_song(beside.read_bytes(), f"{beside.stem}.txt"))
        return work.chart, work.arrangement
    chart = mark_repeats(parse_chord_chart(SONG))
    return chart, arrange(chart, Choices(style="root-and-chord", grips=tuple(_read_grip(chart, row) for row in HANDS)))


def judge(lines: list[Line], path: Path | None = None) -> list[Result]:
    reader = ProofReader(*song_of(path))
    results = []
    for line in lines:
        marked = tuple(c for c in reader.read(line.text) if c.verdict not in (AGREES, UNKNOWN))
        places = [m.span() for m in re.finditer(rf"(?<!\w){re.escape(line.wrong)}(?!\w)", line.text)] if line.wrong else []
        hits = [c for c in marked if any(c.start < end and c.end > start for start, end in places)]
        results.append(Result(line, marked, bool(hits), any(line.right in c.expected for c in hits)))
    return results


def judge_talk(lines: list[Line], path: Path) -> list[Result]:
    """One talk read from beginning to end: the right lines as a whole, then the whole again with each slip in the place of the right line before it."""
    reader = ProofReader(*song_of(path))
    right = [line for line in lines if not line.wrong]
    return [*_read_whole(right, right, reader), *(r for i, line in enumerate(lines) if line.wrong for r in _with_slip(lines, i, reader))]


def _with_slip(lines: list[Line], index: int, reader: ProofReader) -> list[Result]:
    right = [line for line in lines if not line.wrong]
    place = sum(not line.wrong for line in lines[:index]) - 1
    return _read_whole([*right[:place], lines[index]], [lines[index]], reader)  # what is said later changes nothing


def _read_whole(told: list[Line], wanted: list[Line], reader: ProofReader) -> list[Result]:
    """The results of those lines that are wanted, when all that is told is read as one text."""
    text = " ".join(line.text for line in told)
    claims = [c for c in reader.read(text) if c.verdict not in (AGREES, UNKNOWN)]
    results, at = [], 0
    for line in told:
        end = at + len(line.text)
        marked = tuple(c for c in claims if at <= c.start < end)
        places = [(at + m.start(), at + m.end()) for m in re.finditer(rf"(?<!\w){re.escape(line.wrong)}(?!\w)", line.text)] if line.wrong else []
        hits = [c for c in marked if any(c.start < b and c.end > a for a, b in places)]
        if any(line is w for w in wanted):
            results.append(Result(line, marked, bool(hits), any(line.right in c.expected for c in hits)))
        at = end + 1
    return results


def summarise(results: list[Result]) -> tuple[float, float, float]:
    """Precision, recall, mended."""
    found, wrong = sum(r.found for r in results), sum(bool(r.line.wrong) for r in results)
    marked = sum(bool(r.marked) for r in results)
    return found / max(1, marked), found / max(1, wrong), sum(r.mended for r in results) / max(1, found)


def main() -> None:
    parser = argparse.ArgumentParser(description=__doc__, formatter_class=argparse.RawDescriptionHelpFormatter)
    parser.add_argument("files", nargs="*", type=Path)
    args = parser.parse_args()
    for path in args.files or [SPEECH / name for name in SETS]:
        results = judge_talk(load(path), path) if path.name.endswith(".flow.txt") else judge(load(path), path)
        precision, recall, mended = summarise(results)
        print(f"{path.name}: {len(results)} sentences; precision {precision:.3f}, recall {recall:.3f}, mended {mended:.3f}")
        for r in results:
            if not r.as_it_should_be or (r.found and not r.mended):
                print(f"  {'missed' if r.line.wrong and not r.found else 'wrongly marked' if not r.line.wrong else 'not mended'}: {r.line.text}")
                for c in r.marked:
                    print(f"      {c.text!r} {c.kind} {c.verdict} → {c.expected!r}: {c.message}")


if __name__ == "__main__":
    main()
