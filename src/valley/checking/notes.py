"""Checks of the notes as they sound: hands in each other's way, keys struck while they are down, the bass, members that are never heard, fingers."""

from __future__ import annotations

from collections.abc import Iterator
from itertools import pairwise

from valley.arranging.styles import style_named
from valley.arranging.tune import share_out
from valley.checking._grips import Room, each_grip, find_at, release
from valley.checking.finding import ERROR, NOTE, WARNING, Finding, Severity, bar_at
from valley.fraction import Fraction
from valley.model.arrangement import LEFT, RIGHT, Arrangement, PlayedNote
from valley.model.chart import Chart


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
                yield find_at(chart, "collision", severity, part, part.grips[at], words, release(part, part.grips[at]))
            else:
                bar = bar_at(chart, low.start)
                yield Finding("collision", "hands", severity, f"Bar {bar}: {words}.", part.part, bar, low.start)


def check_bass(chart: Chart, arrangement: Arrangement, room: Room) -> Iterator[Finding]:
    """Where a chord begins its bass sounds lowest – its root, where the left hand keeps those –, unless the style turns chords over, as it says."""
    for part, grip in each_grip(arrangement):
        sounding = [n for n in part.notes if n.start <= grip.start < n.end and not n.grace]
        lowest = min(sounding, key=lambda n: n.midi, default=None)
        mine = lowest is not None and (lowest.source != "proposed" or grip.locked)
        bass = grip.chord.root if room.keeps_roots else grip.chord.bass
        if lowest is None or lowest.midi % 12 == bass.pitch_class or (style_named(part.style).turns and not mine):
            continue
        if any(n.hand == LEFT and n.start == grip.start for n in sounding) or not any(n.hand == LEFT for n in part.notes):
            whose = "the root, which the left hand keeps," if room.keeps_roots else "the chart's bass"
            words = f"{lowest.pitch} sounds lowest, and {whose} is {bass}"
            yield find_at(chart, "bass", WARNING, part, grip, words, release(part, grip), alike=f"{grip.label} {lowest.pitch}")


def check_members(chart: Chart, arrangement: Arrangement, room: Room) -> Iterator[Finding]:
    """What colours a chord sounds while it lasts, in whichever hand; a third that is lost is told by its name."""
    for part, grip in each_grip(arrangement):
        heard = {n.midi % 12 for n in part.notes if n.start < grip.end and n.end > grip.start}
        rows = zip(grip.chord.quality.members, grip.chord.members(), strict=True)
        silent = [name for interval, name in rows if interval not in (0, 1, 4, -3) and name.pitch_class not in heard]
        if silent and heard:
            words = f"{silent[0]}, its {grip.chord.member_word(silent[0].pitch_class)}, never sounds"
            yield find_at(chart, "member", NOTE, part, grip, words, alike=f"{grip.label} {silent[0]}")


def check_restrikes(chart: Chart, arrangement: Arrangement, room: Room) -> Iterator[Finding]:
    """No key is struck while it is still held down. Once a bar and hand."""
    for part in arrangement.parts:
        down: dict[int, PlayedNote] = {}
        told: set[tuple[int, str]] = set()
        for note in sorted((n for n in part.notes if not n.grace), key=lambda n: (n.start, n.end)):
            held = down.get(note.midi)
            bar = bar_at(chart, note.start)
            if held and held.start < note.start < held.end and not held.rings and (bar, note.hand) not in told:
                told.add((bar, note.hand))
                hands = f"the {note.hand} hand strikes" if held.hand == note.hand else f"the {note.hand} hand strikes, while the {held.hand} hand holds it,"
                words = f"Bar {bar}: {hands} {note.pitch} on {chart.grid.count(note.start)}, and it is still down from {chart.grid.count(held.start)}."
                yield Finding("restrike", "hands", WARNING, words, part.part, bar, note.start)
            down[note.midi] = note


def check_fingers(chart: Chart, arrangement: Arrangement, room: Room) -> Iterator[Finding]:
    """Fingers that were set lie on the keys as fingers do: none on two keys, and in the order of the hand."""
    for part in arrangement.parts:
        strokes: dict[tuple[str, Fraction], list[PlayedNote]] = {}
        for note in part.notes:
            if note.finger_set and not note.grace:
                strokes.setdefault((note.hand, note.start), []).append(note)
        for (hand, start), notes in strokes.items():
            row = sorted(notes, key=lambda n: n.midi if hand == RIGHT else -n.midi)
            wrong = next(((a, b) for a, b in pairwise(row) if a.finger is not None and b.finger is not None and a.finger >= b.finger), None)
            if wrong:
                a, b = wrong
                bar = bar_at(chart, start)
                how = (
                    f"finger {a.finger} is on both {a.pitch} and {b.pitch}"
                    if a.finger == b.finger
                    else f"finger {a.finger} on {a.pitch} and {b.finger} on {b.pitch} cross"
                )
                yield Finding("fingers", "hands", WARNING, f"Bar {bar}: in the {hand} hand {how}.", part.part, bar, start)


CHECKS = (check_collision, check_bass, check_members, check_restrikes, check_fingers)
