"""Scores in: MusicXML, read by music21."""

from __future__ import annotations

import io
import re
import zipfile
import zlib
from collections.abc import Sequence
from dataclasses import replace
from typing import Any

from valley.errors import FormatError
from valley.formats.score_xml import CHORD_MARK, Presses, drop_unread, name_chords, parse_score, read_feel, require_partwise, split_staves, take_presses
from valley.fraction import Fraction
from valley.model.arrangement import LEFT, RIGHT
from valley.model.score import Score, ScoreNote
from valley.theory.meter import SUPPORTED


def read_musicxml(data: bytes, *, title: str = "Untitled") -> Score:
    """A score from MusicXML, compressed or not. The upper staff, or the first part, is the right hand.

    Raises
    ------
    FormatError
        what is wrong, with the place where the file breaks off or stops making sense
    """
    from music21 import key, meter, tempo

    text = _unpack(data)
    try:
        parsed, presses, feel = _parse(text)
        if "<repeat " in text or "<segno" in text or "<coda" in text:
            parsed = parsed.expandRepeats()
    except Exception as error:  # music21 raises whatever its parser meets
        raise FormatError(f"the MusicXML cannot be read: {one_line(error)}") from error
    staves = list(parsed.parts) if hasattr(parsed, "parts") else []
    if not staves:
        raise FormatError("the MusicXML holds no part with notes")
    notes, harmonies = _read_staves(staves)
    flat = staves[0].flatten()
    meters = [(_fraction(m.offset), m.ratioString) for m in flat.getElementsByClass(meter.TimeSignature)]
    keys = [(_fraction(k.offset), int(k.sharps), _MODES.get(m := getattr(k, "mode", "") or "", m)) for k in flat.getElementsByClass(key.KeySignature)]
    tempi = [(_fraction(t.offset), float(t.getQuarterBPM() or 100.0)) for t in flat.getElementsByClass(tempo.MetronomeMark)]
    marks = _share_marks([(_fraction(r.offset), str(r.content)) for r in flat.getElementsByClass("RehearsalMark")])
    measures = list(staves[0].getElementsByClass("Measure"))
    pickup = _fraction(measures[0].duration.quarterLength) if measures and (measures[0].number == 0 or measures[0].paddingLeft) else Fraction(0)
    given = parsed.metadata.title if parsed.metadata is not None and parsed.metadata.title else title
    return Score(
        str(given),
        _join_ties(notes),
        known_meters(meters),
        tuple(keys),
        tuple(tempi),
        tuple(sorted(harmonies)),
        tuple(marks),
        pickup,
        _pair_presses(presses, measures),
        feel,
    )


_Presses = dict[int, Presses]


def _parse(text: str) -> tuple[Any, _Presses, str]:
    """The library's score, the pedal by the bar's number, before repeats are played out, and whether it swings."""
    from music21.musicxml.xmlToM21 import MusicXMLImporter

    root = parse_score(text)
    require_partwise(root)
    drop_unread(root)
    feel = read_feel(root)
    name_chords(root)
    bars = take_presses(root)
    split_staves(root)
    importer = MusicXMLImporter()
    parsed: Any = importer.stream
    importer.xmlRootToScore(root, parsed)
    staves = list(parsed.parts) if any(bars) else []
    measures = staves[0].getElementsByClass("Measure") if staves else ()
    presses: _Presses = {}
    for measure, bar in zip(measures, bars, strict=False):
        presses.setdefault(measure.number, []).extend(bar)
    return parsed, presses, feel


def _pair_presses(presses: _Presses, measures: Sequence[Any]) -> tuple[tuple[Fraction, Fraction], ...]:
    """Where the pedal goes down and comes up, in the order in which the bars are played."""
    spans: set[tuple[Fraction, Fraction]] = set()
    pressed: Fraction | None = None
    for measure in measures:
        for offset, down in sorted(presses.get(measure.number, [])):  # of one place the coming up comes first
            place = _fraction(measure.offset) + offset
            if pressed is not None and place > pressed:
                spans.add((pressed, place))
            pressed = place if down else None
    return tuple(sorted(spans))


def _read_staves(staves: Sequence[Any]) -> tuple[list[ScoreNote], list[tuple[Fraction, str]]]:
    """Notes and chord symbols of all staves; ties are not joined yet."""
    from music21 import chord, note

    notes: list[ScoreNote] = []
    harmonies: list[tuple[Fraction, str]] = []
    for index, staff in enumerate(staves):
        hand = RIGHT if index == 0 else LEFT
        for words in staff.flatten().getElementsByClass("TextExpression"):
            if (text := str(words.content)).startswith(CHORD_MARK) and (place := (_fraction(words.offset), text.removeprefix(CHORD_MARK))) not in harmonies:
                harmonies.append(place)
        for measure in staff.getElementsByClass("Measure"):
            for voice, line in enumerate(measure.voices or [measure], 1):
                for element in line.getElementsByClass([note.Note, chord.Chord]):
                    start = _fraction(measure.offset + element.getOffsetInHierarchy(measure))
                    notes += _read_element(element, start, hand, min(voice + max(0, index - 1), 2))
    return notes, harmonies


def _read_element(element: Any, start: Fraction, hand: str, voice: int) -> list[ScoreNote]:
    """The notes of a note or a chord; a note that continues a tie carries a mark behind its hand."""
    grace = bool(element.duration.isGrace)
    members = sorted(getattr(element, "notes", (element,)), key=lambda n: n.pitch.midi)
    marks = [a for e in dict.fromkeys((element, *members)) for a in e.articulations]
    fingers = [int(f.fingerNumber) for f in marks if type(f).__name__ == "Fingering" and str(f.fingerNumber) in "12345"]
    accent = any(type(a).__name__ in ("Accent", "StrongAccent") for a in marks)
    out = []
    for i, member in enumerate(members):
        tie = member.tie or element.tie
        goes_on = tie is not None and tie.type in ("stop", "continue")
        length = Fraction(0) if grace else _fraction(element.quarterLength)
        pitch = str(member.pitch.nameWithOctave).replace("-", "b") if member.pitch.octave is not None and abs(member.pitch.alter) in (0, 1, 2) else ""
        finger = fingers[i] if len(fingers) == len(members) else None
        out.append(ScoreNote(start, length, int(member.pitch.midi), hand + ("~" if goes_on else ""), grace, pitch, finger, voice, accent))
    return out


def _share_marks(marks: list[tuple[Fraction, str]]) -> list[tuple[Fraction, str]]:
    """A repeat carries the names of both its times, "1 Verse, 2 Verse again": each time gets its own.

    >>> _share_marks([(Fraction(0), "1 A, 2 B"), (Fraction(8), "1 A, 2 B"), (Fraction(16), "3")])
    [(Fraction(0, 1), '1 A'), (Fraction(8, 1), '2 B'), (Fraction(16, 1), '3')]
    """
    seen: dict[str, int] = {}
    out = []
    for start, text in marks:
        turn = seen[text] = seen.get(text, -1) + 1
        names = text.split(", ")
        doubled = sum(1 for _, other in marks if other == text) == len(names) > 1
        out.append((start, names[turn] if doubled else text))
    return out


_LONG = re.compile(r"<(?:divisions|beats|beat-type)>\s*-?\d{6,}|<octave>\s*-?\d{2,}|<duration>\s*-?\d{9,}")
_DURATION, _DIVISIONS = re.compile(r"<duration>\s*(\d{6,})"), re.compile(r"<divisions>\s*(\d{1,5})")
_MODES = {"ionian": "major", "aeolian": "minor"}
_LONGEST = 64  # quarters that a note or rest may last
_TIMES = re.compile(r"""times=["']\d{2,}["']""")  # nobody plays a passage ten times as written; unfolded it would fill the memory


def _unpack(data: bytes) -> str:
    if data[:2] == b"PK":
        try:
            with zipfile.ZipFile(io.BytesIO(data)) as archive:
                names = [n for n in archive.namelist() if n.endswith((".xml", ".musicxml")) and not n.startswith("META-INF")]
                if not names or archive.getinfo(names[0]).file_size > 50_000_000:
                    raise FormatError("the compressed MusicXML holds no score, or one of more than 50 MB")
                data = archive.read(names[0])
        except (zipfile.BadZipFile, RuntimeError, NotImplementedError, zlib.error, EOFError) as error:  # damaged, locked with a password, packed otherwise
            raise FormatError(f"the compressed MusicXML is damaged: {error}") from error
    try:
        text = data.decode("utf-8-sig")
    except UnicodeDecodeError as error:
        raise FormatError(f"the MusicXML is not text in UTF-8 (byte {error.start})") from error
    finest = max((int(d) for d in _DIVISIONS.findall(text)), default=1)
    if long := _LONG.search(text) or next((d for d in _DURATION.finditer(text) if int(d[1]) > _LONGEST * finest), None):
        raise FormatError(f"{long[0]} is more than any note has; the MusicXML is damaged")
    text = _TIMES.sub('times="8"', text)
    if "<!ENTITY" in text:
        raise FormatError("the MusicXML defines entities of its own, which is not read; save it again without them")
    if "<score-partwise" not in text and "<score-timewise" not in text:
        raise FormatError("the file is no MusicXML: it holds neither score-partwise nor score-timewise")
    return text


def one_line(error: Exception) -> str:
    return " ".join(str(error).split())[:200] or type(error).__name__


def _fraction(value: Any) -> Fraction:
    return Fraction(value).limit_denominator(48)


def _join_ties(notes: Sequence[ScoreNote]) -> tuple[ScoreNote, ...]:
    """Tied notes as one; a note that continues carries a mark behind its hand until here."""
    out: list[ScoreNote] = []
    open_notes: dict[tuple[str, int, int], int] = {}

    def before(note: ScoreNote, hand: str) -> tuple[str, int, int] | None:
        """The note that one continues: in its own line, else in another of the hand, as where a line is joined again in the next bar."""
        lines = (note.voice, *(v for v in (1, 2) if v != note.voice))
        places = [(hand, v, note.midi) for v in lines]
        return next((p for p in places if p in open_notes and out[open_notes[p]].start + out[open_notes[p]].duration == note.start), None)

    for n in sorted(notes, key=lambda n: (n.start, n.hand.endswith("~"), n.midi)):
        hand = n.hand.rstrip("~")
        place = before(n, hand) if n.hand.endswith("~") else None
        if place:
            at = open_notes[place]
            out[at] = replace(out[at], duration=out[at].duration + n.duration)
            continue
        open_notes[hand, n.voice, n.midi] = len(out)
        out.append(replace(n, hand=hand))
    return tuple(sorted(out, key=lambda n: (n.start, n.midi)))


# Rare signatures whose bars are as long, and can be counted alike.
_SAME_AS = {"4/8": "2/4", "8/8": "4/4", "18/16": "9/8", "12/16": "6/8"}


def known_meters(meters: Sequence[tuple[Fraction, str]]) -> tuple[tuple[Fraction, str], ...]:
    """Metres where they change: one that is written again, as at a repeat, is no change."""
    meters = [(start, _SAME_AS.get(name, name)) for start, name in meters]
    unknown = [m for _, m in meters if m not in SUPPORTED]
    if unknown:
        raise FormatError(f"the metre {unknown[0]} is not one of {', '.join(SUPPORTED)}, which is all that can be charted")
    changes: list[tuple[Fraction, str]] = []
    for start, name in sorted(meters):
        if not changes or changes[-1][1] != name:
            changes.append((start, name))
    return tuple(changes) or ((Fraction(0), "4/4"),)
