"""Checks of what the hands play: names and octaves, reach, collisions, keyboard and frame, holds, repeats."""

from __future__ import annotations

from collections.abc import Callable, Iterator

from valley.checking._grips import Room, each_grip, find_at, release, written_over
from valley.checking.finding import ERROR, NOTE, WARNING, Finding, Mend, bar_at
from valley.edits import ChangeGrip
from valley.fraction import Fraction
from valley.model.arrangement import Arrangement, Grip, PartArrangement
from valley.model.chart import Chart, Part
from valley.theory.naming import CONTRADICTS, judge_claim
from valley.theory.pitch import parse_pitch


def check_names(chart: Chart, arrangement: Arrangement, room: Room) -> Iterator[Finding]:
    """What a grip is called fits the notes it holds; one that may be left out may be any: "Em, A if you like"."""
    for part, grip in each_grip(arrangement):
        chord = grip.chord
        melody, written = _tune_at(part, grip), written_over(part, grip)
        passing = {n.midi for n in written} - {n.midi for n in written if n.start == grip.start}
        passing |= {n.midi for n in grip.notes if n.midi % 12 in melody}
        keys = [n.midi for n in grip.notes if n.midi % 12 in chord.pitch_classes() or not (n.optional or n.midi in passing)]
        verdict, words = judge_claim(chord, keys, chart.key_at(grip.start))
        if {k % 12 for k in keys} - chord.pitch_classes():
            yield find_at(chart, "name", WARNING if written else ERROR, part, grip, words, release(part, grip))
        elif verdict == CONTRADICTS and _third_is_lost(grip, keys) and grip.right:
            covered = {n.midi % 12 for n in part.notes if grip.start <= n.start < grip.end}
            if {n.pitch_class for n in chord.members()} - covered:
                yield find_at(chart, "name", WARNING if grip.locked else NOTE, part, grip, words)


def _tune_at(part: PartArrangement, grip: Grip) -> set[int]:
    """Pitch classes of the tune where a chord begins, and of what goes along with it."""
    sounding = [n for n in part.notes if n.start <= grip.start < n.end]
    tune = {(n.hand, n.start, n.duration) for n in sounding if n.melody}
    return {n.midi % 12 for n in sounding if (n.hand, n.start, n.duration) in tune}


def _third_is_lost(grip: Grip, keys: list[int]) -> bool:
    """The chord has a third and no key sounds it."""
    rows = zip(grip.chord.quality.members, grip.chord.members(), strict=True)
    thirds = {name.pitch_class for interval, name in rows if interval in (4, -3)}
    return bool(thirds) and not thirds & {k % 12 for k in keys}


def check_pitches(chart: Chart, arrangement: Arrangement, room: Room) -> Iterator[Finding]:
    """Names stand for the keys they are written on, and are spelled as key and chord have them."""
    for part, grip in each_grip(arrangement):
        key = chart.key_at(grip.start)
        for note in grip.notes:
            right = grip.chord.name_of(note.midi % 12, key)
            name, sounds = parse_pitch(note.pitch)
            if sounds != note.midi:
                words = f"{note.pitch} is the wrong name for key {note.midi}, which is {right.at(note.midi)}"
                yield find_at(chart, "pitch", ERROR, part, grip, words, release(part, grip, f"write {right.at(note.midi)}"))
            elif name != right:
                yield find_at(chart, "spelling", WARNING, part, grip, f"{note.pitch} is written {right.at(note.midi)} here")


def check_order(chart: Chart, arrangement: Arrangement, room: Room) -> Iterator[Finding]:
    """Octave numbers ascend as the hand does."""
    for part, grip in each_grip(arrangement):
        for hand in (grip.left, grip.right):
            for a, b in zip(hand, hand[1:], strict=False):
                if parse_pitch(b.pitch)[1] <= parse_pitch(a.pitch)[1]:
                    yield find_at(chart, "order", ERROR, part, grip, f"{b.pitch} stands above {a.pitch} in the hand but does not lie above it")


def check_reach(chart: Chart, arrangement: Arrangement, room: Room) -> Iterator[Finding]:
    """No hand is asked for more than it spans."""
    for part, grip in each_grip(arrangement):
        for hand, reach in (("left", grip.reach_left_mm), ("right", grip.reach_right_mm)):
            if reach > room.most_mm + 0.05:
                words = f"the {hand} hand would span {reach:.0f} mm, and this hand spans {room.most_mm:.0f}"
                yield find_at(chart, "reach", ERROR, part, grip, words, release(part, grip))
            elif reach > room.comfort_mm:
                words = f"the {hand} hand spans {reach:.0f} mm, more than the comfortable {room.comfort_mm:.0f}"
                yield find_at(chart, "stretch", WARNING, part, grip, words, alike=f"{grip.label} {hand} {reach:.0f}")


def check_room(chart: Chart, arrangement: Arrangement, room: Room) -> Iterator[Finding]:
    """Every note is on the keyboard and in the picture."""
    (lowest, highest), (low, high) = room.keyboard, room.frame
    for part in arrangement.parts:
        told: set[int] = set()
        for note in part.notes:
            bar = bar_at(chart, note.start)
            if bar in told or max(lowest, low) <= note.midi <= min(highest, high):
                continue
            told.add(bar)
            if not lowest <= note.midi <= highest:
                words = f"Bar {bar}: {note.pitch} is not on a keyboard of {arrangement.keyboard} keys."
                yield Finding("keyboard", "hands", ERROR, words, part.part, bar, note.start)
            else:
                words = f"Bar {bar}: {note.pitch} lies outside what the camera shows, {arrangement.frame}."
                yield Finding("frame", "hands", WARNING, words, part.part, bar, note.start)


def check_notices(chart: Chart, arrangement: Arrangement, room: Room) -> Iterator[Finding]:
    """What could not be done as it was asked for, such as a pattern that does not fit."""
    for part in arrangement.parts:
        start = chart.span(chart.parts[part.part - 1])[0]
        for notice in part.notices:
            sentence = notice if notice.endswith(".") else f"{notice}."
            yield Finding("pattern", "hands", WARNING, sentence, part.part, bar_at(chart, start), start)


def check_holds(chart: Chart, arrangement: Arrangement, room: Room) -> Iterator[Finding]:
    """What is struck for a chord does not last beyond it."""
    for part in arrangement.parts:
        tune = {(n.hand, n.start, n.duration) for n in part.notes if n.melody}  # what goes along with a held note of the tune
        for grip in part.grips:
            struck = [n for n in part.notes if not n.melody and not n.link and n.source == "proposed" and grip.start <= n.start < grip.end]
            late = next((n for n in struck if n.end > grip.end and (n.hand, n.start, n.duration) not in tune), None)
            if late is not None:
                yield find_at(chart, "hold", ERROR, part, grip, f"{late.pitch} is held to beat {late.end}, the chord ends at {grip.end}")


def check_twins(chart: Chart, arrangement: Arrangement, room: Room) -> Iterator[Finding]:
    """A repeat that is taught as the same is played the same, place by place."""
    arranged = {p.part: p for p in arrangement.parts}
    for part in chart.parts:
        if part.same_as is None or part.kinship != "same" or not {part.number, part.same_as} <= set(arranged):
            continue
        ours, theirs = arranged[part.number], arranged[part.same_as]
        shift = chart.span(part)[0] - chart.span(chart.parts[part.same_as - 1])[0]
        yield from _differing_notes(chart, part, ours, theirs, shift)
        models = {g.start + shift: g for g in theirs.grips}
        for grip in ours.grips:
            model = models.get(grip.start)
            if model and _keys(grip) != _keys(model) and (grip.locked or model.locked):
                bar = bar_at(chart, model.start)
                words = f"part {part.number} is taught as part {part.same_as} again, but the grip differs from bar {bar}"
                yield find_at(chart, "twin", ERROR, ours, grip, words, Mend(_spread(model.start, model), f"play it as in bar {bar}"))


def _differing_notes(chart: Chart, part: Part, ours: PartArrangement, theirs: PartArrangement, shift: Fraction) -> Iterator[Finding]:
    """Beat by beat: what the creator wrote for one time and not for the other."""
    model = chart.parts[theirs.part - 1]
    up = part.moved - model.moved
    here = {(n.start - shift, n.hand, n.midi - up) for n in ours.notes if n.source != "proposed"}
    there = {(n.start, n.hand, n.midi) for n in theirs.notes if n.source != "proposed"}
    sounding = ({(n.start - shift, n.hand, n.midi - up) for n in ours.notes}, {(n.start, n.hand, n.midi) for n in theirs.notes})
    odd = sorted({n for n in here if n not in sounding[1]} | {n for n in there if n not in sounding[0]})
    if odd:
        start, hand, _ = odd[0]
        bar, count = bar_at(chart, start + shift), chart.grid.count(start)
        words = f"Bar {bar}: part {part.number} is taught as part {theirs.part} again, but what is written for the {hand} hand differs on {count}"
        more = f" and in {len(odd) - 1} more note{'s' if len(odd) > 2 else ''}" if len(odd) > 1 else ""
        yield Finding("twin notes", "hands", WARNING, f"{words}{more}.", part.number, bar, start + shift)


def _keys(grip: Grip) -> tuple[list[int], list[int]]:
    return [n.midi for n in grip.left], [n.midi for n in grip.right]


def _spread(start: Fraction, grip: Grip) -> ChangeGrip:
    left, right = _keys(grip)
    return ChangeGrip(start, "take", left=tuple(left), right=tuple(right), everywhere="repeats")


HandsCheck = Callable[[Chart, Arrangement, Room], Iterator[Finding]]
CHECKS: tuple[HandsCheck, ...] = (check_names, check_pitches, check_order, check_reach, check_room, check_holds)
CHECKS_OF_ALL: tuple[HandsCheck, ...] = (check_notices, check_twins)
"""Those that look beyond one part."""
