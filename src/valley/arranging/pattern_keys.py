"""What the names in a pattern mean on a grip: its own keys, chord notes above its bass, steps of the scale, a walk to the next bass."""

from __future__ import annotations

import re
from collections.abc import Sequence
from dataclasses import dataclass

from valley.arranging.walking import walk_line
from valley.model.arrangement import LEFT, Grip, HandNote
from valley.model.pattern import Slot
from valley.theory.key import Key

# Where a note is looked for, in semitones above the bass: the first that is a chord note.
ABOVE = {
    "-8": (-12,),
    "+3": (4, 3, 5, 2),
    "+5": (7, 6, 8, 5, 9, 4, 3),
    "+6": (9, 8, 10, 7),
    "+8": (12,),
    "+10": (16, 15, 17, 14, 18),
    "+12": (19, 18, 20, 17, 21),
    "+15": (24,),
}
PLACES = {"1": 0, "low": 0, "2": 1, "3": 2, "4": 3, "5": 4}
_MOVING = ("bass", "walk", "step", "near", "over")
WORDS = frozenset({*PLACES, *ABOVE, *_MOVING, "top", "upper", "mid", "all", "up", "down", "roll"})
_STEP = r"s[2-9]|s1[0-5]"
_NAME = re.compile(rf"({_STEP}|[^\^_]+?)([\^_]*)$")
# What a name means on a grip that the creator set: its first, second, third key, and so on.
_OWN = {"bass": 0, "-8": 0, "walk": 0, "step": 0, "near": 0, "+3": 1, "+5": 1, "+6": 2, "+8": 2, "+10": 3, "+12": 4, "+15": 4, "over": 4}


def _own_place(name: str) -> int | None:
    """Which key of a set grip a name built on the bass means, from 0; None for a name that is a key of the grip anyway."""
    return int(name[1:]) // 3 if re.fullmatch(_STEP, name) else _OWN.get(name)


def is_key(name: str) -> bool:
    """Whether a pattern may use a name."""
    match = _NAME.match(name)
    return match is not None and (match[1] in WORDS or re.fullmatch(_STEP, match[1]) is not None)


@dataclass
class Keys:
    """One hand's keys while a grip lasts; ``struck`` is the key it struck last."""

    grip: Grip
    after: Grip | None
    hand: str
    key: Key
    lowest: int
    highest: int
    struck: int | None = None

    @property
    def held(self) -> Sequence[HandNote]:
        return self.grip.left if self.hand == LEFT else self.grip.right

    def of(self, names: Sequence[str]) -> list[HandNote]:
        """The notes that names stand for, each key once, from the bottom up."""
        found: dict[int, HandNote] = {}
        for name in names:
            match = _NAME.match(name)
            base, marks = (match[1], match[2]) if match else (name, "")
            move = 12 * (marks.count("^") - marks.count("_"))
            for note in self._find(base):
                moved = self._named(note.midi + move) if move and self.lowest <= note.midi + move <= self.highest else note
                found[moved.midi] = moved
        notes = [found[m] for m in sorted(found)]
        if notes:
            self.struck = notes[-1].midi
        return notes

    def _find(self, name: str) -> list[HandNote]:
        held = self.held
        if self.grip.locked and (own := _own_place(name)) is not None:
            return [held[min(own, len(held) - 1)]] if held else []
        if name in ABOVE or name in _MOVING or name[0] == "s" and name[1:].isdigit():
            return self._from_bass(name)
        if not held:
            return []
        if name in ("up", "down"):
            return self._neighbour(1 if name == "up" else -1)
        if name == "mid":
            return self._middle()
        many: dict[str, Sequence[HandNote]] = {"all": held, "upper": held[1:] or held, "top": held[-1:], "roll": ()}
        return list(many[name]) if name in many else [self._place(PLACES[name])]

    def _from_bass(self, name: str) -> list[HandNote]:
        if name == "over":
            return self._over()
        if not self.grip.left:
            return []
        bass = self.grip.left[0]
        if name == "bass":
            return [bass]
        if name in ("walk", "step", "near"):
            return self._lead(name)
        if name in ABOVE:
            options = [bass.midi + step for step in ABOVE[name]]
            midi = next((m for m in options if m % 12 in self._members() and self.lowest <= m <= self.highest), bass.midi)
        else:
            midi = self._step(bass.midi, int(name[1:]) - 1)
        return [self._named(midi)]

    def _members(self) -> frozenset[int]:
        return self.grip.chord.pitch_classes()

    def _step(self, midi: int, steps: int) -> int:
        """So many steps of the scale from a key."""
        scale = {n.pitch_class for n in self.key.scale()}
        side = 1 if steps > 0 else -1
        for _ in range(abs(steps)):
            midi += side
            while midi % 12 not in scale:
                midi += side
        return midi if self.lowest <= midi <= self.highest else midi - 12 * side

    def _neighbour(self, side: int) -> list[HandNote]:
        """A step of the scale beside the key that was struck last; on a set grip the next of its keys."""
        if self.grip.locked:
            beside = [n for n in self.held[::side] if self.struck is None or (n.midi - self.struck) * side > 0]
            return [*beside[:1]] or [self.held[-1 if side > 0 else 0]]
        return [self._named(self._step(self.struck if self.struck is not None else self.held[-1].midi, side))]

    def _middle(self) -> list[HandNote]:
        """A key between the lowest and the highest: of the grip, else a chord note there, else the lowest."""
        held = self.held
        if len(held) > 2 or self.grip.locked:
            return [held[min(1, len(held) - 1)]]
        between = [m for m in range(held[0].midi + 2, held[-1].midi - 1) if m % 12 in self._members()]
        return [self._named(between[len(between) // 2])] if between else [held[0]]

    def _place(self, place: int) -> HandNote:
        """A key of the grip by its number; beyond its last key the grip goes on upwards, an octave begins again: no key comes twice."""
        held = self.held
        if place < len(held) or self.grip.locked:
            return held[min(place, len(held) - 1)]
        if len(held) > 1 and held[-1].midi - held[0].midi >= 12:
            return held[place % len(held)]
        if len(held) > 1:
            midi = held[place % len(held)].midi + 12 * (place // len(held))
        else:  # a single key: its fifth where the chord has one, its octave
            fifth = next((s for s in (7, 6, 8) if (held[0].midi + s) % 12 in self._members()), 12)
            steps = (0, *sorted({fifth, 12, 24}))
            midi = held[0].midi + steps[min(place, len(steps) - 1)]
        return self._named(midi) if midi <= self.highest else held[-1]

    def _over(self) -> list[HandNote]:
        top = max((n.midi for n in self.grip.notes), default=0)
        for midi in range(top + 1, min(top + 13, self.highest + 1)):
            if midi % 12 == self.grip.chord.bass.pitch_class:
                return [self._named(midi)]
        return list(self.grip.left[:1])

    def _goal(self) -> int | None:
        return self.after.left[0].midi if self.after and self.after.left else None

    def _lead(self, name: str) -> list[HandNote]:
        """One key into the next bass: by a step of the scale, or by a half step; the bass where none comes or the same."""
        bass, goal = self.grip.left[0], self._goal()
        if goal is None or goal == bass.midi:
            return [bass]
        side = -1 if goal > bass.midi else 1
        scale = {n.pitch_class for n in self.key.scale()}
        step = 1 if name == "near" else next((s for s in (1, 2) if (goal + side * s) % 12 in scale), 1)
        return [self._named(goal + side * step)]

    def walk(self, slots: Sequence[Slot]) -> list[list[HandNote]]:
        """The keys of slots that begin with a bass and walk on to the next, slot by slot."""
        walking = [i for i, slot in enumerate(slots) if "walk" in slot.keys]
        if not self.grip.left or not walking or self.grip.locked:
            return [self.of(slot.keys) for slot in slots]
        start = self.grip.left[0].midi
        out: list[list[HandNote]] = [[] if i in walking else self.of(slot.keys) for i, slot in enumerate(slots)]
        roof = min(self.highest, min((n.midi for n in self.grip.right), default=self.highest + 1) - 1)
        for run in _runs(walking):
            follows = out[run[-1] + 1] if run[-1] + 1 < len(out) else []
            goal = follows[0].midi if follows else self._goal()
            line = walk_line(start, goal, len(run), self.grip.chord, self.key, self.lowest, max(roof, start))
            for i, midi in zip(run, line, strict=True):
                out[i] = [self._named(midi)]
        return out

    def _named(self, midi: int) -> HandNote:
        chord = self.grip.chord
        return HandNote(chord.name_of(midi % 12, self.key).at(midi), midi, chord.member_word(midi % 12))


def _runs(places: Sequence[int]) -> list[list[int]]:
    """Places that follow one another, together.

    >>> _runs([1, 2, 4])
    [[1, 2], [4]]
    """
    runs: list[list[int]] = []
    for place in places:
        if runs and runs[-1][-1] == place - 1:
            runs[-1].append(place)
        else:
            runs.append([place])
    return runs
