"""Checks of what the hands play: names and octaves, reach, collisions, keyboard and frame, holds, repeats."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import dataclass
from fractions import Fraction

from valley.arranging.tune import share_out
from valley.checking.finding import ERROR, NOTE, WARNING, Finding, Mend, Severity, bar_at
from valley.edits import ChangeGrip
from valley.model.arrangement import LEFT, RIGHT, Arrangement, Grip, PartArrangement, PlayedNote
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


def _written(part: PartArrangement, grip: Grip) -> list[PlayedNote]:
    """What the creator wrote, imported or played while a chord lasts."""
    return [n for n in part.notes if n.source != "proposed" and n.start < grip.end and n.end > grip.start]


def _release(part: PartArrangement, grip: Grip, words: str = "take Valley's grip") -> Mend | None:
    """Valley's own grip again, where the creator set one and wrote nothing over it."""
    return Mend(ChangeGrip(grip.start, "release"), words) if grip.locked and not _written(part, grip) else None


def check_names(chart: Chart, arrangement: Arrangement, room: Room) -> Iterator[Finding]:
    """What a grip is called fits the notes it holds."""
    for part, grip in _grips(arrangement):
        chord = grip.chord
        melody, written = _tune_at(part, grip), _written(part, grip)
        passing = {n.midi for n in written} - {n.midi for n in written if n.start == grip.start}
        passing |= {n.midi for n in grip.notes if n.midi % 12 in melody}
        keys = [n.midi for n in grip.notes if n.midi % 12 in chord.pitch_classes() or n.midi not in passing]
        verdict, words = judge_claim(chord, keys, chart.key_at(grip.start))
        if {k % 12 for k in keys} - chord.pitch_classes():
            yield _find(chart, "name", WARNING if written else ERROR, part, grip, words, _release(part, grip))
        elif verdict == CONTRADICTS and _third_is_lost(grip, keys) and grip.right:
            covered = {n.midi % 12 for n in part.notes if grip.start <= n.start < grip.end}
            if {n.pitch_class for n in chord.members()} - covered:
                yield _find(chart, "name", WARNING if grip.locked else NOTE, part, grip, words)


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
    for part, grip in _grips(arrangement):
        key = chart.key_at(grip.start)
        for note in grip.notes:
            right = grip.chord.name_of(note.midi % 12, key)
            name, sounds = parse_pitch(note.pitch)
            if sounds != note.midi:
                words = f"{note.pitch} is the wrong name for key {note.midi}, which is {right.at(note.midi)}"
                yield _find(chart, "pitch", ERROR, part, grip, words, _release(part, grip, f"write {right.at(note.midi)}"))
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
                yield _find(chart, "reach", ERROR, part, grip, words, _release(part, grip))
            elif reach > room.comfort_mm:
                words = f"the {hand} hand spans {reach:.0f} mm, more than the comfortable {room.comfort_mm:.0f}"
                yield _find(chart, "stretch", WARNING, part, grip, words, alike=f"{grip.label} {hand} {reach:.0f}")


def check_collision(chart: Chart, arrangement: Arrangement, room: Room) -> Iterator[Finding]:
    """The hands do not strike one key, nor cross where nobody asked for it. Once a chord."""
    for part in arrangement.parts:
        rows = sorted((n for n in part.notes if not n.grace), key=lambda n: n.start)
        left = [n for n in rows if n.hand == LEFT and not n.crosses]
        right = share_out([n for n in rows if n.hand == RIGHT], [(n.start, n.end) for n in left])
        told: set[int] = set()
        for low, over in zip(left, right, strict=True):
            high = min(over, key=lambda n: n.midi, default=None)
            at = next((i for i, g in enumerate(part.grips) if g.start <= low.start < g.end), -1)
            if high is None or low.midi < high.midi or at in told:
                continue
            told.add(at)
            both = next((n for n in over if n.midi == low.midi), None)
            words = f"both hands play {both.pitch}" if both else f"the left hand's {low.pitch} stands above the right hand's {high.pitch}"
            severity: Severity = WARNING if not both and {low.source, high.source} != {"proposed"} else ERROR
            if at >= 0:
                yield _find(chart, "collision", severity, part, part.grips[at], words, _release(part, part.grips[at]))
            else:
                bar = bar_at(chart, low.start)
                yield Finding("collision", "hands", severity, f"Bar {bar}: {words}.", part.part, bar, low.start)


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
