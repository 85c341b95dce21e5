"""MusicXML: two staves, chord symbols, part names as rehearsal marks, key changes. Written by music21."""

from __future__ import annotations

import copy
import re
from collections.abc import Sequence
from dataclasses import dataclass
from functools import lru_cache
from pathlib import Path
from typing import Any

from valley.formats._codec import save_bytes
from valley.formats.harmony import write_kind
from valley.formats.printed_fingers import thin_fingers
from valley.formats.repeats import Fold, find_folds
from valley.fraction import Fraction
from valley.model.arrangement import LEFT, RIGHT, Arrangement, Pedal, PlayedNote
from valley.model.chart import Chart, ChartChord, Grid, Part
from valley.theory.chord import Chord
from valley.theory.feel import FEELS, STRAIGHT
from valley.theory.key import Key
from valley.theory.pitch import parse_pitch


@dataclass(frozen=True)
class _Slice:
    """Notes of one hand that sound together within one bar; ties lead in and out."""

    start: Fraction  # beats into the bar
    duration: Fraction
    notes: tuple[PlayedNote, ...]
    tied_in: bool
    tied_out: bool


def dump_musicxml(chart: Chart, arrangement: Arrangement, *, fold: bool = True, to_print: bool = False, bars: tuple[int, int] | None = None) -> bytes:
    """The arrangement as an uncompressed MusicXML score for piano.

    With ``fold`` what is played twice in a row is written once, with repeat signs and endings. Bars keep the numbers under which they are
    played first, so that "bar 12" is the same bar in the lesson and on paper. ``to_print`` leaves out fingers that follow from those before.
    ``bars`` are the first and last to write, as they are counted in playing, and nothing is folded then; all without it.
    """
    from music21 import layout, metadata, musicxml, stream  # slow to import, so only where it is needed

    folds = find_folds(chart, arrangement) if fold and not bars else ()
    first, last = bars or (0 if chart.grid.pickup else 1, chart.grid.bars)
    written = [bar for bar in range(first, last + 1) if not any(bar in f.skipped for f in folds)]
    shown = thin_fingers(arrangement) if to_print else arrangement
    notes = [n for part in shown.parts for n in part.notes]
    staves = [_build_staff(chart, [n for n in notes if n.hand == hand], hand, written, folds) for hand in (RIGHT, LEFT)]
    _mark_pedal(staves[1], chart, [p for part in arrangement.parts for p in part.pedals])
    score = stream.Score(id="song")
    score.metadata = metadata.Metadata(title=chart.title, composer="")
    for staff in staves:
        score.insert(0, staff)
    score.insert(0, layout.StaffGroup(staves, name="Piano", abbreviation="Pno.", symbol="brace", barTogether=True))
    # The exporter would do all this on copies of copies, which takes half as long again.
    score.makeRests(refStreamOrTimeRange=[0.0, score.highestTime], fillGaps=True, inPlace=True, hideRests=True, timeRangeFromBarDuration=True)
    score.makeNotation(inPlace=True)
    exporter: Any = musicxml.m21ToXml.GeneralObjectExporter(score)
    exporter.makeNotation = False
    data: bytes = exporter.parse()
    return _tell_swing(data, chart.grid.feel)


def _tell_swing(data: bytes, feel: str) -> bytes:
    """Before the tempo in words, and for programs that play the score: how long the first of two is beside the second, and which notes that holds for."""
    if feel == STRAIGHT:
        return data
    long, short = FEELS[feel].long.as_integer_ratio()
    value = "eighth" if FEELS[feel].pair == 1 else "16th"
    told = f"<swing><first>{long}</first><second>{short - long}</second><swing-type>{value}</swing-type></swing>"
    words = f'<direction-type><words font-weight="bold">{feel.capitalize()}&#160;&#160;</words></direction-type>'
    data = re.sub(rb"<direction-type>\s*<metronome", lambda found: words.encode() + found[0], data, count=1)
    return re.sub(rb"<sound( [^>]*?)\s*/>", lambda found: b"<sound" + found[1] + f">{told}</sound>".encode(), data, count=1)


def bars_of(chart: Chart, part: Part) -> tuple[int, int]:
    """First and last bar of a part on paper: the first part has the bar before the first one, if there is one."""
    return (part.start_bar if part.start_bar > 1 or not chart.grid.pickup else 0, part.end_bar)


def save_musicxml(chart: Chart, arrangement: Arrangement, path: str | Path) -> None:
    save_bytes(dump_musicxml(chart, arrangement), path)


def _build_staff(chart: Chart, notes: Sequence[PlayedNote], hand: str, bars: Sequence[int], folds: Sequence[Fold]) -> Any:
    """One hand's bars, those that are written."""
    from music21 import stream

    staff = stream.PartStaff(id=hand)
    at: Key | None = None
    for bar in bars:
        measure = stream.Measure(number=bar)
        at = _open_bar(measure, chart, bar, hand, at)
        times = [bar, *(bar + f.length for f in folds if f.first <= bar < f.first + f.same)]
        if hand == RIGHT:
            _write_above(measure, chart, times)
        _fill_bar(measure, chart, bar, notes)
        if hand == RIGHT:
            _write_cues(measure, chart, times)  # under the notes that are there now
        staff.append(measure)
    _mark_folds(staff, folds)
    staff.makeAccidentals(inPlace=True, cautionaryPitchClass=False, cautionaryNotImmediateRepeat=False, overrideStatus=True)
    return staff.splitAtDurations(recurse=True)[0]


def _mark_pedal(staff: Any, chart: Chart, pedals: Sequence[Pedal]) -> None:
    """Where the pedal goes down and comes up, under the left hand's notes; what a repeat sign plays again is not marked again."""
    from music21 import expressions, harmony

    grid = chart.grid
    places = []
    for measure in staff.getElementsByClass("Measure"):
        start, quarter = grid.bar_start(measure.number), grid.meter_of(measure.number).quarters_per_beat
        for element in measure.recurse().notesAndRests:
            if not isinstance(element, harmony.Harmony) and not element.duration.isGrace:
                places.append((start + Fraction(element.getOffsetInHierarchy(measure)).limit_denominator(48) / quarter, element))
    places.sort(key=lambda row: row[0])
    for pedal in pedals:
        inside = [element for beat, element in places if pedal.start <= beat < pedal.end]
        if inside:
            mark = expressions.PedalMark(*dict.fromkeys((inside[0], inside[-1])))
            mark.pedalForm, mark.pedalType = expressions.PedalForm.Line, expressions.PedalType.Sustain
            staff.insert(0, mark)


def _open_bar(measure: Any, chart: Chart, bar: int, hand: str, before: Key | None) -> Key:
    """Clef, metre, tempo and key where they begin or change; gives the key that holds."""
    from music21 import clef, key, tempo
    from music21.meter import TimeSignature

    grid, first = chart.grid, 0 if chart.grid.pickup else 1
    meter = grid.meter_of(bar)
    if before is None or meter != grid.meter_of(bar - 1):
        measure.timeSignature = TimeSignature(meter.name)
    if before is None:
        measure.clef = clef.TrebleClef() if hand == RIGHT else clef.BassClef()
    if bar == first:
        if bar == 0:
            measure.paddingLeft = _offset((meter.beats - grid.pickup) * meter.quarters_per_beat)
        if hand == RIGHT and chart.bpm:
            mark = tempo.MetronomeMark(number=round(chart.bpm), referent=float(meter.quarters_per_beat))
            mark.placement = "above"
            measure.insert(0, mark)
    if bar and (missing := meter.beats - _bar_length(grid, bar)) > 0:
        measure.paddingRight = _offset(missing * meter.quarters_per_beat)  # a change of metre cuts the bar short
    at = chart.key_at(grid.bar_start(bar))
    if at != before:
        measure.keySignature = key.Key(str(at.tonic).replace("b", "-"), at.mode)
    return at


def _write_above(measure: Any, chart: Chart, times: Sequence[int]) -> None:
    """The part's mark and the chord symbols of a bar; ``times`` are the numbers under which it is played."""
    from music21 import expressions

    grid, bar = chart.grid, times[0]
    start, quarter, length = grid.bar_start(bar), grid.meter_of(bar).quarters_per_beat, _bar_length(grid, bar)
    marks = {p.start_bar: p for p in chart.parts}
    if bar in marks:
        measure.insert(0, expressions.RehearsalMark(", ".join(f"{p.number} {p.name}".strip() for p in (marks[b] for b in times if b in marks))))
    for chord in chart.chords:
        if start <= chord.start < start + length:
            _insert_symbol(measure, chord, _offset((chord.start - start) * quarter))


def _write_cues(measure: Any, chart: Chart, times: Sequence[int]) -> None:
    """Cue words: a verse for each time the bar is played."""
    grid, bar = chart.grid, times[0]
    quarter, length = grid.meter_of(bar).quarters_per_beat, _bar_length(grid, bar)
    for verse, begin in enumerate((grid.bar_start(b) for b in times), 1):
        for cue in chart.cues:
            if begin <= cue.start < begin + length:
                _insert_cue(measure, cue.text, _offset((cue.start - begin) * quarter), verse)


def _fill_bar(measure: Any, chart: Chart, bar: int, notes: Sequence[PlayedNote]) -> None:
    """The notes of a bar in one voice or two."""
    from music21 import stream

    grid = chart.grid
    start, quarter, length = grid.bar_start(bar), grid.meter_of(bar).quarters_per_beat, _bar_length(grid, bar)
    voices = _share_voices(notes, start, length)
    graces = _share_graces([n for n in notes if n.grace and start <= n.start < start + length], voices, start)
    if len(voices) == 1:
        _fill_voice(measure, voices[0], length, quarter, graces[0], start)
        return
    for number, (pieces, mine) in enumerate(zip(voices, graces, strict=True), 1):
        into = stream.Voice(id=str(number))
        _fill_voice(into, pieces, length, quarter, mine, start)
        measure.insert(0, into)


def _share_graces(graces: Sequence[PlayedNote], voices: list[list[_Slice]], start: Fraction) -> list[list[PlayedNote]]:
    """The graces of each voice: of their own where they come before a note or a rest of it, else of one that holds no key just then; a new one if need be."""
    shared: list[list[PlayedNote]] = [[] for _ in voices]
    for grace in graces:
        own = min(grace.voice, len(voices)) - 1
        at = grace.start - start
        free = [i for i, pieces in enumerate(voices) if not any(p.start < at < p.start + p.duration for p in pieces)]
        place = own if own in free else next(iter(free), len(voices))
        if place == len(voices):
            voices.append([])
            shared.append([])
        shared[place].append(grace)
    return shared


def _share_voices(notes: Sequence[PlayedNote], start: Fraction, length: Fraction) -> list[list[_Slice]]:
    """What sounds in a bar as lines in each of which one stroke ends before the next begins: a note keeps its own line where it can."""
    voices: list[list[_Slice]] = [[]]
    for voice in (1, 2):
        for piece in _slice([n for n in notes if n.voice == voice and not n.grace], start, length):
            free = [i for i, line in enumerate(voices) if not line or line[-1].start + line[-1].duration <= piece.start]
            own = voice - 1
            at = min(own, len(voices)) if own in free or own >= len(voices) else next((i for i in free if i >= own), len(voices))
            if at == len(voices):
                voices.append([])
            voices[at].append(piece)
    return [line for line in voices if line] or [[]]


def _fill_voice(into: Any, pieces: Sequence[_Slice], length: Fraction, quarter: Fraction, graces: Sequence[PlayedNote], start: Fraction) -> None:
    """The notes of one voice in a bar with the rests between them, graces before their notes, or before the rest that follows them."""
    from music21 import note, pitch

    now = Fraction(0)
    small = {g.start - start for g in graces}
    for grace in graces:
        element = note.Note(pitch.Pitch(_m21_name(grace.pitch)), quarterLength=0.5).getGrace()
        element.priority = -1
        into.insert(_offset((grace.start - start) * quarter), element)
    for piece in (*pieces, None):
        begin = piece.start if piece else length
        edges = [now, *sorted(at for at in small if now < at < begin), begin]
        for a, b in zip(edges, edges[1:], strict=False):
            if b > a:
                into.insert(_offset(a * quarter), note.Rest(quarterLength=_offset((b - a) * quarter)))
        if piece:
            into.insert(_offset(begin * quarter), _element(piece, quarter))
            now = max(now, begin + piece.duration)


def _mark_folds(staff: Any, folds: Sequence[Fold]) -> None:
    """Repeat signs, brackets over the two endings, and the double bar at the end."""
    from music21 import bar, spanner

    measures = {m.number: m for m in staff.getElementsByClass("Measure")}
    measures[max(measures)].rightBarline = bar.Barline("final")
    for fold in folds:
        measures[fold.first].leftBarline = bar.Repeat(direction="start")
        measures[fold.again - 1].rightBarline = bar.Repeat(direction="end")
        if fold.same < fold.length:
            for number, begin, end in ((1, fold.first + fold.same, fold.again - 1), (2, fold.again + fold.same, fold.last)):
                bracket = spanner.RepeatBracket([measures[n] for n in range(begin, end + 1)], number=number)
                staff.insert(0, bracket)


def _insert_cue(measure: Any, text: str, offset: float, verse: int = 1) -> None:
    """The creator's cue word: under the note that begins there, else as words above the staff; ``verse`` 2 is that of the second time."""
    from music21 import expressions, harmony

    sounding = [e for e in measure.recurse().notes if not isinstance(e, harmony.Harmony) and not e.duration.isGrace]
    at = next((e for e in sounding if e.getOffsetInHierarchy(measure) == offset), None)
    if at is not None:
        at.addLyric(text, verse)
    else:
        measure.insert(offset, expressions.TextExpression(text))


def _bar_length(grid: Grid, bar: int) -> Fraction:
    """Beats that a bar is written with: whole, but for a pickup and a bar that a change of metre cuts short."""
    return Fraction(grid.pickup) if bar == 0 else grid.bar_start(bar + 1) - grid.bar_start(bar)


def _slice(notes: Sequence[PlayedNote], start: Fraction, length: Fraction) -> list[_Slice]:
    """The hand's notes within a bar, notes of one start and length together."""
    end = start + length
    found: dict[tuple[Fraction, Fraction, bool, bool], list[PlayedNote]] = {}
    for n in notes:
        n_end = n.start + n.duration
        if n.start < end and n_end > start:
            a, b = max(n.start, start), min(n_end, end)
            found.setdefault((a - start, b - a, n.start < start, n_end > end), []).append(n)
    return [_Slice(k[0], k[1], tuple(sorted(v, key=lambda n: n.midi)), k[2], k[3]) for k, v in sorted(found.items())]


def _element(piece: _Slice, quarter: Fraction) -> Any:
    from music21 import articulations, chord, note, pitch, tie

    pitches = [pitch.Pitch(_m21_name(n.pitch)) for n in piece.notes]
    element: Any = note.Note(pitches[0]) if len(pitches) == 1 else chord.Chord(pitches)
    element.quarterLength = _offset(piece.duration * quarter)
    if not piece.tied_in:
        fingers = [n.finger for n in piece.notes if n.finger is not None]
        if len(fingers) == len(piece.notes):
            element.articulations = [articulations.Fingering(f) for f in fingers]
        if any(n.accent for n in piece.notes):
            element.articulations.append(articulations.Accent())
    if piece.tied_in or piece.tied_out:
        element.tie = tie.Tie("continue" if piece.tied_in and piece.tied_out else "stop" if piece.tied_in else "start")
    return element


def _offset(quarters: Fraction) -> float:
    """Quarters as music21 counts them: a float, or the standard library's fraction where no float is exact."""
    from music21.common import opFrac

    return opFrac(float(quarters))


def _m21_name(text: str) -> str:
    """music21 writes flats as "-", so that Bb2 is B-2."""
    name, midi = parse_pitch(text)
    return f"{str(name).replace('b', '-')}{name.octave_of(midi)}"


def _insert_symbol(measure: Any, place: ChartChord, offset: float) -> None:
    from music21 import harmony

    symbol = copy.deepcopy(_make_symbol(place.chord)) if place.chord else harmony.NoChord("N.C.")
    measure.insert(offset, symbol)


@lru_cache(maxsize=256)
def _make_symbol(chord: Chord) -> Any:
    """Made once: the library works out every symbol's scale, which takes ten times as long as to copy it."""
    from music21 import harmony

    kind, steps = write_kind(chord.quality)
    symbol = harmony.ChordSymbol(
        root=_m21_name(f"{chord.root}4")[:-1],
        bass=_m21_name(f"{chord.bass}4")[:-1] if chord.bass_interval else None,
        kind=kind,
        kindStr=chord.quality.suffix,
    )
    for step in steps:
        symbol.addChordStepModification(harmony.ChordStepModification(step.how, step.number, step.alter), updatePitches=False)
    symbol.writeAsChord = False
    return symbol
