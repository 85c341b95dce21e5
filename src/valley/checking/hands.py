"""Checks of what the hands play: names and octaves, reach, collisions, keyboard and frame, holds, repeats."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import dataclass
from fractions import Fraction

from valley.checking.finding import ERROR, NOTE, WARNING, Finding, Mend, Severity, bar_at
from valley.edits import ChangeGrip
from valley.model.arrangement import Arrangement, Grip, PartArrangement
from valley.model.chart import Chart
from valley.theory.naming import CONTRADICTS, judge_claim
from valley.theory.pitch import parse_pitch


@dataclass(frozen=True)
class Room:
    """What hands, keyboard and camera allow, in millimetres and MIDI numbers."""

    comfort_mm: float
    most_mm: float
    keyboard: tuple[int, int]
    frame: tuple[int, int]


def _grips(arrangement: Arrangement) -> Iterator[tuple[PartArrangement, Grip]]:
    for part in arrangement.parts:
        for grip in part.grips:
            yield part, grip


def _find(chart: Chart, check: str, severity: Severity, part: PartArrangement, grip: Grip, words: str, mend: Mend | None = None, alike: str = "") -> Finding:
    bar = bar_at(chart, grip.start)
    return Finding(check, "hands", severity, f"Bar {bar}, {grip.symbol}: {words}.", part.part, bar, grip.start, mend=mend, alike=alike)


def _release(grip: Grip, words: str = "take Valley's grip") -> Mend:
    return Mend(ChangeGrip(grip.start, "release"), words)


def check_names(chart: Chart, arrangement: Arrangement, room: Room) -> Iterator[Finding]:
    """What a grip is called fits the notes it holds."""
    for part, grip in _grips(arrangement):
        chord = grip.chord
        melody = {n.midi % 12 for n in part.notes if n.melody and n.start <= grip.start < n.end}
        keys = [n.midi for n in grip.notes if n.midi % 12 in chord.pitch_classes() or n.midi % 12 not in melody]
        verdict, words = judge_claim(chord, keys, chart.key_at(grip.start))
        if {k % 12 for k in keys} - chord.pitch_classes():
            yield _find(chart, "name", ERROR, part, grip, words, _release(grip))
        elif verdict == CONTRADICTS and _third_is_lost(grip, keys) and grip.right:
            covered = {n.midi % 12 for n in part.notes if grip.start <= n.start < grip.end}
            if {n.pitch_class for n in chord.members()} - covered:
                yield _find(chart, "name", WARNING if grip.locked else NOTE, part, grip, words)


def _third_is_lost(grip: Grip, keys: list[int]) -> bool:
    """The chord has a third and no key sounds it."""
    rows = zip(grip.chord.quality.members, grip.chord.members(), strict=True)
    thirds = {name.pitch_class for interval, name in rows if interval in (4, -3)}
    return bool(thirds) and not thirds & {k % 12 for k in keys}


def check_pitches(chart: Chart, arrangement: Arrangement, room: Room) -> Iterator[Finding]:
    """Names stand for the keys they are written on, and are spelled as key and chord have them."""
    for part, grip in _grips(arrangement):
        key = chart.key_at(grip.start)
        for note in grip.notes:
            right = grip.chord.name_of(note.midi % 12, key)
            name, sounds = parse_pitch(note.pitch)
            if sounds != note.midi:
                words = f"{note.pitch} is the wrong name for key {note.midi}, which is {right.at(note.midi)}"
                yield _find(chart, "pitch", ERROR, part, grip, words, _release(grip, f"write {right.at(note.midi)}"))
            elif name != right:
                yield _find(chart, "spelling", WARNING, part, grip, f"{note.pitch} is written {right.at(note.midi)} here")


def check_order(chart: Chart, arrangement: Arrangement, room: Room) -> Iterator[Finding]:
    """Octave numbers ascend as the hand does."""
    for part, grip in _grips(arrangement):
        for hand in (grip.left, grip.right):
            for a, b in zip(hand, hand[1:], strict=False):
                if parse_pitch(b.pitch)[1] <= parse_pitch(a.pitch)[1]:
                    yield _find(chart, "order", ERROR, part, grip, f"{b.pitch} stands above {a.pitch} in the hand but does not lie above it")


def check_reach(chart: Chart, arrangement: Arrangement, room: Room) -> Iterator[Finding]:
    """No hand is asked for more than it spans."""
    for part, grip in _grips(arrangement):
        for hand, reach in (("left", grip.reach_left_mm), ("right", grip.reach_right_mm)):
            if reach > room.most_mm + 0.05:
                words = f"the {hand} hand would span {reach:.0f} mm, and this hand spans {room.most_mm:.0f}"
                yield _find(chart, "reach", ERROR, part, grip, words, _release(grip))
            elif reach > room.comfort_mm:
                words = f"the {hand} hand spans {reach:.0f} mm, more than the comfortable {room.comfort_mm:.0f}"
                yield _find(chart, "stretch", WARNING, part, grip, words, alike=f"{grip.label} {hand} {reach:.0f}")


def check_collision(chart: Chart, arrangement: Arrangement, room: Room) -> Iterator[Finding]:
    """The hands do not stand on each other."""
    for part, grip in _grips(arrangement):
        if grip.left and grip.right and grip.left[-1].midi >= grip.right[0].midi:
            words = f"the left hand's {grip.left[-1].pitch} stands on the right hand's {grip.right[0].pitch}"
            yield _find(chart, "collision", ERROR, part, grip, words, _release(grip))


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
            struck = [n for n in part.notes if not n.melody and not n.link and grip.start <= n.start < grip.end]
            late = next((n for n in struck if n.end > grip.end and (n.hand, n.start, n.duration) not in tune), None)
            if late is not None:
                yield _find(chart, "hold", ERROR, part, grip, f"{late.pitch} is held to beat {late.end}, the chord ends at {grip.end}")


def check_twins(chart: Chart, arrangement: Arrangement, room: Room) -> Iterator[Finding]:
    """A repeat that is taught as the same is played the same, place by place."""
    arranged = {p.part: p for p in arrangement.parts}
    for part in chart.parts:
        if part.same_as is None or part.kinship != "same" or not {part.number, part.same_as} <= set(arranged):
            continue
        ours, theirs = arranged[part.number], arranged[part.same_as]
        shift = chart.span(part)[0] - chart.span(chart.parts[part.same_as - 1])[0]
        models = {g.start + shift: g for g in theirs.grips}
        for grip in ours.grips:
            model = models.get(grip.start)
            if model and _keys(grip) != _keys(model) and (grip.locked or model.locked):
                bar = bar_at(chart, model.start)
                words = f"part {part.number} is taught as part {part.same_as} again, but the grip differs from bar {bar}"
                yield _find(chart, "twin", ERROR, ours, grip, words, Mend(_spread(model.start, model), f"play it as in bar {bar}"))


def _keys(grip: Grip) -> tuple[list[int], list[int]]:
    return [n.midi for n in grip.left], [n.midi for n in grip.right]


def _spread(start: Fraction, grip: Grip) -> ChangeGrip:
    left, right = _keys(grip)
    return ChangeGrip(start, "take", left=tuple(left), right=tuple(right), everywhere="repeats")


HandsCheck = Callable[[Chart, Arrangement, Room], Iterator[Finding]]
CHECKS: tuple[HandsCheck, ...] = (
    check_names,
    check_pitches,
    check_order,
    check_reach,
    check_collision,
    check_room,
    check_notices,
    check_holds,
    check_twins,
)
