"""Score or performance → Chart: bars and beats, keys, chords named from what sounds, the tune on top."""

from __future__ import annotations

from bisect import bisect_left
from collections.abc import Sequence
from dataclasses import replace

from valley.charting.parts import relate_parts
from valley.errors import FormatError
from valley.fraction import Fraction
from valley.model.arrangement import LEFT, RIGHT
from valley.model.chart import Chart, ChartChord, Grid, KeyArea, MelodyNote, MeterChange, Part
from valley.model.choices import PedalMark
from valley.model.passage import Passage, WrittenNote
from valley.model.score import Score, ScoreNote
from valley.theory.chord import Chord, parse_harte
from valley.theory.key import MODES, Key
from valley.theory.meter import Meter
from valley.theory.naming import name_notes
from valley.theory.pitch import PitchName, parse_pitch

_GRACE = Fraction(1, 4)  # of a beat: how long a grace is written
_MAJOR_THIRD, _MINOR_THIRD = 4, -3  # in fifths, as the members of a quality are


def chart_score(score: Score) -> Chart:
    """The chart of a score.

    Chord symbols are taken as they stand; without any, each half bar (a bar in three) is named from its notes.

    Raises
    ------
    FormatError
        nothing in it can be charted
    """
    if not score.notes and not score.harmonies:
        raise FormatError("the score holds neither notes nor chord symbols")
    grid, tempo = _make_grid(score)
    to_beats = _Beats(score)
    keys = _keys(score, to_beats)
    chart = Chart(score.title, grid, keys, (ChartChord(Fraction(0), Fraction(len(grid.beats)), None),), (), (), 0.0, tempo)
    chords = _written_chords(score, to_beats, grid) if score.harmonies else _named_chords(score, to_beats, chart)
    melody = _melody(score, to_beats, len(grid.beats))
    chart = Chart(score.title, grid, keys, chords, melody, (), 0.0, tempo)
    return relate_parts(chart, _parts(score, to_beats, grid))


def write_hands(score: Score, chart: Chart) -> tuple[Passage, ...]:
    """Both hands of a score, note for note, as passages over the whole song; none where only one hand is written, which is a tune.

    A key that one voice strikes twice at a time is written once, as long as the longer. A pitch is spelled as the score has it.
    """
    if {n.hand for n in score.notes} != {LEFT, RIGHT}:
        return ()
    to_beats, end = _Beats(score), Fraction(len(chart.grid.beats))
    hands: dict[str, dict[tuple[Fraction, int, int, bool], WrittenNote]] = {LEFT: {}, RIGHT: {}}
    for n in score.notes:
        start = to_beats(n.start)
        lasting = _GRACE if n.grace else min(to_beats(n.start + n.duration), end) - start
        if not 0 <= start < end or lasting <= 0:
            continue
        pitch = n.pitch if n.pitch and parse_pitch(n.pitch)[1] == n.midi else ""
        written = WrittenNote(start, lasting, n.midi, pitch, n.finger, accent=n.accent, grace=n.grace, voice=n.voice)
        place = (start, n.voice, n.midi, n.grace)
        if place not in hands[n.hand] or hands[n.hand][place].duration < lasting:
            hands[n.hand][place] = written
    return tuple(Passage(hand, Fraction(0), end, tuple(hands[hand][k] for k in sorted(hands[hand])), source="imported") for hand in (LEFT, RIGHT))


def write_pedals(score: Score, chart: Chart) -> tuple[PedalMark, ...]:
    """The score's pedal in beats, every mark after the one before."""
    to_beats, end = _Beats(score), Fraction(len(chart.grid.beats))
    out: list[PedalMark] = []
    for down, up in sorted(score.pedals):
        start, stop = max(to_beats(down), out[-1].end if out else Fraction(0)), min(to_beats(up), end)
        if start < stop:
            out.append(PedalMark(start, stop))
    return tuple(out)


class _Beats:
    """Quarter notes to beats: they differ in compound time. A pickup that fills no whole beats begins in the middle of one."""

    def __init__(self, score: Score) -> None:
        self.changes = [(start, Meter(name)) for start, name in score.meters]
        self._shift = Fraction(0)
        self._shift = -self(score.pickup) % 1

    def __call__(self, quarters: Fraction) -> Fraction:
        total = self._shift
        for i, (start, meter) in enumerate(self.changes):
            end = self.changes[i + 1][0] if i + 1 < len(self.changes) else quarters
            first = Fraction(0) if i == 0 else start
            if quarters > first or i == 0:
                total += (min(quarters, end) - first) / meter.quarters_per_beat
        return total


def _make_grid(score: Score) -> tuple[Grid, float]:
    to_beats = _Beats(score)
    first = to_beats.changes[0][1]
    end = max([*(n.start + n.duration for n in score.notes), *(h + _GRACE for h, _ in score.harmonies)])  # a bar of rests under a symbol is a bar
    pickup = int(to_beats(score.pickup)) % first.beats if score.pickup else 0
    changes = tuple(MeterChange(int(to_beats(start)), meter.name) for start, meter in to_beats.changes[1:] if to_beats(start) > pickup)
    last = to_beats.changes[-1][1].beats
    base = changes[-1].beat if changes else pickup
    count = max(2, base + -(-int(-(-(to_beats(end) - base) // 1)) // last) * last)
    tempi = list(score.tempi) or [(Fraction(0), 100.0)]
    times, now = [], 0.0
    for i in range(count):
        times.append(round(now, 6))
        meter = next(m for start, m in reversed(to_beats.changes) if to_beats(start) <= i or start == to_beats.changes[0][0])
        bpm = next((b for start, b in reversed(tempi) if to_beats(start) <= i), tempi[0][1])
        now += 60 / bpm * float(meter.quarters_per_beat)
    return Grid(tuple(times), first.name, pickup, changes, score.feel), round(tempi[0][1] / float(first.quarters_per_beat), 2)


def _keys(score: Score, to_beats: _Beats) -> tuple[KeyArea, ...]:
    """Signatures with their mode where it is said; else the relative on whose chord it ends or begins, or whose tonic ends lowest."""
    areas: list[KeyArea] = []
    for start, fifths, mode in score.keys:
        key = Key.of_signature(fifths, mode if mode in MODES else _guess_mode(score, fifths))
        area = KeyArea(to_beats(start) if areas else Fraction(0), str(key.tonic), key.mode)
        if not areas or (areas[-1].tonic, areas[-1].mode) != (area.tonic, area.mode):
            areas.append(area)
    return tuple(areas) or (_guess_key(score.notes),)


def _guess_mode(score: Score, fifths: int) -> str:
    major, minor = PitchName(fifths).pitch_class, PitchName(fifths + 3).pitch_class
    chords = [chord for _, label in sorted(score.harmonies) if (chord := parse_harte(label))]
    for chord in (chords[-1], chords[0]) if chords else ():
        if chord.root.pitch_class == major and _MAJOR_THIRD in chord.quality.members:
            return "major"
        if chord.root.pitch_class == minor and _MINOR_THIRD in chord.quality.members:
            return "minor"
    notes = score.notes
    if not notes:
        return "major"
    last = max(n.start for n in notes)
    bass = min(n.midi for n in notes if n.start == last) % 12
    return "minor" if bass == minor and bass != major else "major"


def _guess_key(notes: Sequence[ScoreNote]) -> KeyArea:
    weight = [0.0] * 12
    for n in notes:
        weight[n.midi % 12] += float(n.duration)

    def fit(key: Key) -> float:
        return sum(weight[n.pitch_class] for n in key.scale()) + 0.3 * weight[key.tonic.pitch_class]

    best = max((Key.from_pitch_class(pc, mode) for mode in ("major", "minor") for pc in range(12)), key=fit)
    return KeyArea(Fraction(0), str(best.tonic), best.mode, 0.5)


def _written_chords(score: Score, to_beats: _Beats, grid: Grid) -> tuple[ChartChord, ...]:
    end = Fraction(len(grid.beats))
    rows = [(to_beats(at), label) for at, label in score.harmonies if to_beats(at) < end]
    chords: list[ChartChord] = []
    if rows and rows[0][0] > 0:
        chords.append(ChartChord(Fraction(0), rows[0][0], None))
    for (at, label), after in zip(rows, [*[a for a, _ in rows[1:]], end], strict=False):
        if after > at:
            chords.append(ChartChord(at, after - at, parse_harte(label)))
    return tuple(chords)


def _named_chords(score: Score, to_beats: _Beats, chart: Chart) -> tuple[ChartChord, ...]:
    """Half bars (whole bars in three) named by what sounds in them; neighbours of one name are joined."""
    grid = chart.grid
    spans = sorted(((to_beats(n.start), to_beats(n.start + n.duration), n) for n in score.notes if not n.grace), key=lambda row: row[0])
    starts = [a for a, _, _ in spans]
    longest = max((b - a for a, b, _ in spans), default=Fraction(0))

    def sounding(a: Fraction, b: Fraction) -> list[tuple[Fraction, Fraction, ScoreNote]]:
        """The notes that can sound in a stretch: those that begin in it, or no longer before it than the longest lasts."""
        return spans[bisect_left(starts, a - longest) : bisect_left(starts, b)]

    found: list[ChartChord] = []
    for bar in range(0 if grid.pickup else 1, grid.bars + 1):
        start, end = grid.bar_start(bar), min(grid.bar_start(bar + 1), Fraction(len(grid.beats)))
        half = (end - start) / 2 if grid.meter_of(bar).beats == 4 or grid.meter_of(bar).name == "2/2" else end - start
        at = start
        while at < end:
            chord = _name_span(sounding(at, at + half), at, at + half, chart.key_at(at))
            if found and (chord is None or found[-1].chord == chord):
                found[-1] = replace(found[-1], duration=found[-1].duration + half)
            else:
                found.append(ChartChord(at, half, chord))
            at += half
    return tuple(found)


def _name_span(spans: Sequence[tuple[Fraction, Fraction, ScoreNote]], start: Fraction, end: Fraction, key: Key) -> Chord | None:
    """The likeliest name of what sounds: long notes, the left hand and the beginning weigh more. None where too little sounds to tell."""
    weight: dict[int, float] = {}
    for a, b, n in spans:
        length = min(b, end) - max(a, start)
        if length > 0:
            weight[n.midi] = weight.get(n.midi, 0.0) + float(length) * (1.5 if n.hand == LEFT else 1.0) + 0.5 * (a <= start)
    if not weight:
        return None
    strong = max(weight.values())
    keys = sorted(k for k, w in weight.items() if w >= 0.3 * strong)
    names = name_notes(keys, key, at_most=1)
    return names[0].chord if names else None


def _melody(score: Score, to_beats: _Beats, beats: int) -> tuple[MelodyNote, ...]:
    """The highest note at every beginning of the right hand, until the next begins."""
    tops: dict[Fraction, ScoreNote] = {}
    for n in score.notes:
        if n.hand != LEFT and not n.grace and (n.start not in tops or tops[n.start].midi < n.midi):
            tops[n.start] = n
    ordered = [tops[t] for t in sorted(tops)]
    notes: list[MelodyNote] = []
    sounding_until, sounding = Fraction(-1), 0
    for n, after in zip(ordered, [*ordered[1:], None], strict=False):
        start = to_beats(n.start)
        if n.start < sounding_until and n.midi < sounding:
            continue  # an inner note under one that still sounds
        end = to_beats(min(n.start + n.duration, after.start) if after and after.midi >= n.midi else n.start + n.duration)
        sounding_until, sounding = n.start + n.duration, n.midi
        if notes and notes[-1].end > start:
            last = notes.pop()
            if start > last.start:
                notes.append(MelodyNote(last.start, start - last.start, last.midi))
        if end > start and start < beats:
            notes.append(MelodyNote(start, min(end, Fraction(beats)) - start, n.midi))
    return tuple(notes)


def _parts(score: Score, to_beats: _Beats, grid: Grid) -> list[Part]:
    heads: list[tuple[int, str]] = []
    for at, name in score.marks:
        bar = max(1, grid.place(to_beats(at))[0])
        words = name.removeprefix("Part ").lstrip("0123456789 ").strip()
        if not heads or heads[-1][0] < bar:
            heads.append((bar, words))
    if not heads or heads[0][0] > 1:
        heads.insert(0, (1, ""))
    edges = [bar for bar, _ in heads[1:]] + [grid.bars + 1]
    return [Part(n, bar, end - bar, name) for n, ((bar, name), end) in enumerate(zip(heads, edges, strict=True), 1) if end > bar]
