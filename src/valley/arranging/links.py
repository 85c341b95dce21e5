"""What joins two chords: walks, approach notes, fills, grace notes, lead-ins, runs. Proposed where there is room; the creator takes
them in full or the easier way.

A new kind is one function here that takes a ``Joint`` and gives links, and its name in ``KINDS``.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass, replace

from valley.arranging.fingering import finger_line
from valley.arranging.reach import Hand
from valley.fraction import Fraction
from valley.model.arrangement import LEFT, RIGHT, Grip, HandNote, Link, PlayedNote
from valley.model.saying import Pitches, say
from valley.theory.key import Key
from valley.theory.pitch import BLACK_KEYS, parse_pitch

_HALF = Fraction(1, 2)


@dataclass(frozen=True)
class Joint:
    """Two neighbouring grips with all that a link needs to know. ``tune``: the part's melody notes as played; ``beat``: an even division."""

    before: Grip
    after: Grip | None
    key: Key
    tune: Sequence[PlayedNote]
    hand: Hand
    lowest: int
    highest: int
    third_beats: bool = False  # compound time: steps are thirds of the beat


def propose_links(joints: Sequence[Joint]) -> tuple[Link, ...]:
    """Everything that could join the grips of a part, in order of time."""
    found = [link for joint in joints for kind in KINDS.values() for link in kind(joint)]
    return tuple(sorted(found, key=lambda k: (k.start, k.kind)))


def _notes(hand: str, keys: Sequence[int], start: Fraction, step: Fraction, joint: Joint, *, grace: bool = False) -> tuple[PlayedNote, ...]:
    fingers = finger_line(keys, hand, joint.hand)
    return tuple(
        PlayedNote(hand, start + i * step, step, k, _spell(joint, k), finger=f, link=True, grace=grace)
        for i, (k, f) in enumerate(zip(keys, fingers, strict=True))
    )


def _spell(joint: Joint, midi: int) -> str:
    chord = joint.before.chord
    return chord.name_of(midi % 12, joint.key).at(midi)


def _scale_between(joint: Joint, low: int, high: int) -> list[int]:
    """Scale notes strictly between two keys, rising."""
    scale = {n.pitch_class for n in joint.key.scale()} | {n % 12 for n in (low, high)}
    return [k for k in range(low + 1, high) if k % 12 in scale]


def _step(joint: Joint) -> Fraction:
    return Fraction(1, 3) if joint.third_beats else _HALF


def _pitches(notes: Sequence[PlayedNote | HandNote]) -> Pitches:
    return Pitches(tuple(n.pitch for n in notes), in_order=True)


def walk(joint: Joint) -> Iterator[Link]:
    """The bass goes to the next root by step, in the last beats of the chord."""
    if joint.after is None or not joint.before.left or not joint.after.left:
        return
    here, goal = joint.before.left[0].midi, joint.after.left[0].midi
    if not 3 <= abs(goal - here) <= 7:
        return
    between = _scale_between(joint, min(here, goal), max(here, goal))
    keys = (between if goal > here else between[::-1])[-3:]
    step = _step(joint)
    length = step * len(keys)
    if not keys or length > joint.before.duration - step:
        return
    start = joint.before.end - length
    notes = _notes(LEFT, keys, start, step, joint)
    easy = _notes(LEFT, keys[-1:], joint.before.end - step, step, joint)
    way = "up" if goal > here else "down"
    yield Link(
        "walk",
        start,
        length,
        LEFT,
        notes,
        say(f"walk {way}", notes=_pitches(notes), goal=_pitches(joint.after.left[:1])),
        easy,
        say("walk easier", note=_pitches(easy), goal=_pitches(joint.after.left[:1])),
    )


def approach(joint: Joint) -> Iterator[Link]:
    """One note a semitone below or above the next bass, on the last half beat."""
    if joint.after is None or not joint.before.left or not joint.after.left:
        return
    here, goal = joint.before.left[0].midi, joint.after.left[0].midi
    step = _step(joint)
    if here == goal or abs(goal - here) < 3 or joint.before.duration < 2 * step:
        return
    side = -1 if goal > here else 1
    key = goal + side if joint.lowest <= goal + side <= joint.highest else goal - side
    name = joint.key.spell(key % 12)
    if key == goal - 1:  # the leading note of the coming bass
        leading = parse_pitch(joint.after.left[0].pitch)[0].up(5)
        name = leading if abs(leading.alter) < 2 else name
    fingers = finger_line([key, goal], LEFT, joint.hand)
    note = PlayedNote(LEFT, joint.before.end - step, step, key, name.at(key), finger=fingers[0], link=True)
    words = say("approach", note=_pitches([note]), goal=_pitches(joint.after.left[:1]))
    yield Link("approach", note.start, step, LEFT, (note,), words, (), say("approach easier"))


def fill(joint: Joint) -> Iterator[Link]:
    """Chord notes in the gap that the tune leaves, falling from where it ended."""
    gap_start = max((n.end for n in joint.tune if n.start < joint.before.end), default=None)
    if gap_start is None:
        return
    gap_start = max(gap_start, joint.before.start + 1)
    room = joint.before.end - gap_start
    sounding = [n for n in joint.tune if n.start <= gap_start < n.end]
    if room < 1 or sounding or any(gap_start < n.start < joint.before.end for n in joint.tune):
        return
    last = max((n for n in joint.tune if n.start < gap_start), key=lambda n: n.start)
    chord = joint.before.chord
    floor = max((n.midi for n in joint.before.left), default=joint.lowest - 1) + 1
    down = [k for k in range(last.midi - 1, max(floor, last.midi - 17), -1) if k % 12 in chord.pitch_classes()]
    step = _step(joint)
    count = min(len(down), int(min(room, Fraction(2)) / step))
    if count < 2:
        return
    start = joint.before.end - count * step
    notes = _notes(RIGHT, down[:count], start, step, joint)
    easy = _notes(RIGHT, [down[0], down[count - 1]], start, step * count / 2, joint) if count > 2 else notes[:1]
    yield Link(
        "fill",
        start,
        count * step,
        RIGHT,
        notes,
        say("fill", notes=_pitches(notes)),
        easy,
        say("fill easier", notes=_pitches(easy)),
    )


def grace(joint: Joint) -> Iterator[Link]:
    """A short note slid from the black key below into a white key with which the tune begins a chord."""
    at = next((n for n in joint.tune if n.melody and n.start == joint.before.start), None)
    if at is None or at.midi % 12 in BLACK_KEYS or (at.midi - 1) % 12 not in BLACK_KEYS or at.duration < 1:
        return
    note = PlayedNote(RIGHT, at.start, Fraction(0), at.midi - 1, _spell(joint, at.midi - 1), finger=at.finger, link=True, grace=True)
    words = say("grace", note=_pitches([note]), goal=_pitches([at]))
    yield Link("grace", at.start, Fraction(0), RIGHT, (note,), words, (), say("grace easier"))


def run(joint: Joint) -> Iterator[Link]:
    """A scale in octaves up to the next tune's note or bass, in both hands, where two beats are free before it."""
    if joint.after is None or joint.before.duration < 4:
        return
    start = joint.before.end - 2
    if any(n.start < joint.before.end and n.end > start for n in joint.tune):
        return
    goal = joint.after.right[-1].midi if joint.after.right else joint.after.left[-1].midi + 12
    step = _step(joint)
    scale = {n.pitch_class for n in joint.key.scale()}
    count = int(Fraction(2) / step)
    rising = [k for k in range(goal - 24, goal) if k % 12 in scale][-count:]
    lower = [k - 12 for k in rising]
    if lower[0] < joint.lowest or len(rising) < count:
        return
    notes = (*_notes(RIGHT, rising, start, step, joint), *_notes(LEFT, lower, start, step, joint))
    easy = _notes(RIGHT, rising, start, step, joint)
    yield Link(
        "run",
        start,
        Fraction(2),
        "both",
        notes,
        say("run", note=_pitches(notes[:1])),
        easy,
        say("run easier"),
    )


KINDS: dict[str, Callable[[Joint], Iterator[Link]]] = {"walk": walk, "approach": approach, "fill": fill, "grace": grace, "run": run}


def lead_in(joint: Joint, start: Fraction, room: Fraction) -> tuple[PlayedNote, ...]:
    """Three scale steps up into a part's first tune or top note, in the free beats before it."""
    first = joint.before
    goal = next((n.midi for n in joint.tune if n.start == first.start), first.right[-1].midi if first.right else first.left[-1].midi)
    step = _step(joint)
    scale = {n.pitch_class for n in joint.key.scale()}
    keys = [k for k in range(goal - 9, goal) if k % 12 in scale][-min(3, int(room / step)) :] if room >= step else []
    return _notes(RIGHT, keys, start - step * len(keys), step, joint)


def take(notes: Sequence[PlayedNote], link: Link) -> list[PlayedNote]:
    """The part's notes with a link played: what the same hand held there makes room for it."""
    played = link.notes if link.taken == "full" else link.easier
    if not played:
        return list(notes)
    return sorted([*make_room(notes, played), *played], key=lambda n: (n.start, n.hand, n.midi))


def make_room(notes: Sequence[PlayedNote], played: Sequence[PlayedNote]) -> list[PlayedNote]:
    """Notes without what the same hand would hold while others are played: cut short before them, left out among them."""
    out: list[PlayedNote] = []
    for hand in (LEFT, RIGHT):
        mine = [n for n in played if n.hand == hand and not n.grace]
        others = [n for n in notes if n.hand == hand]
        if not mine:
            out += others
            continue
        a, b = min(n.start for n in mine), max(n.end for n in mine)
        for note in others:
            if note.end <= a or note.start >= b:
                out.append(note)
            elif note.start < a:
                out.append(replace(note, duration=a - note.start))
    return out
