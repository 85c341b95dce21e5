"""Fingers that are named, each with the note it takes."""

from __future__ import annotations

import re
from collections.abc import Sequence

from valley.lesson.proof._desk import Desk
from valley.lesson.proof._lines import row_midi
from valley.lesson.proof._playing import bars_here, hands_said
from valley.lesson.proof._scope import Found
from valley.model.arrangement import HANDS
from valley.theory.naming import AGREES, PARTLY

_FINGERS = {
    **dict.fromkeys(("thumb", "first finger", "finger 1", "finger one"), 1),
    **dict.fromkeys(("index finger", "index", "pointer", "second finger", "finger 2", "finger two"), 2),
    **dict.fromkeys(("middle finger", "third finger", "finger 3", "finger three"), 3),
    **dict.fromkeys(("ring finger", "fourth finger", "finger 4", "finger four"), 4),
    **dict.fromkeys(("pinky", "pinkie", "little finger", "fifth finger", "finger 5", "finger five"), 5),
}
FINGER = re.compile(r"\b(" + "|".join(sorted(_FINGERS, key=len, reverse=True)) + r")\b", re.IGNORECASE)
_FINGER_TO_NOTE = re.compile(
    r"\s*(?:of (?:your|the) (?:left|right)(?: hand)?\s*)?(?:takes?|on|plays?|goes (?:on|to)|is on|presses|for|an octave lower on"
    r"|hits?)\s+(?:the\s+|an?\s+|low\s+|high\s+)*$",
    re.IGNORECASE,
)
_NOTE_TO_FINGER = re.compile(r"\s*(?:with|by)\s+(?:the|your|my)\s+$", re.IGNORECASE)


def judge_fingers(desk: Desk, found: Sequence[Found]) -> None:
    """A finger and the note it takes, where fingers are written there."""
    for m in FINGER.finditer(desk.sentence):
        after = next((r for r in found if r.start >= m.end()), None)
        before = next((r for r in reversed(found) if r.end <= m.start()), None)
        row = None
        if FINGER.search(desk.sentence[max(0, m.start() - 24) : m.start()]) and re.match(r"\s+for\b", desk.sentence[m.end() :]):
            continue  # "thumb, second finger and pinky for E flat, G and C": several for several
        if after and not after.is_chord and _FINGER_TO_NOTE.fullmatch(desk.sentence[m.end() : after.start]):
            row = after
        elif before and not before.is_chord and _NOTE_TO_FINGER.fullmatch(desk.sentence[before.end : m.start()]):
            row = before
        if row:
            _judge_finger(desk, m, row)


def _judge_finger(desk: Desk, match: re.Match[str], row: Found) -> None:
    said = _FINGERS[match[1].lower()]
    hands = [h for h in HANDS if re.search(rf"\b{h}\b", desk.sentence, re.IGNORECASE)] or list(hands_said(desk))
    bars = set(bars_here(desk))
    place = desk.scope.chart.grid.place
    notes = [
        n
        for n in desk.scope.notes
        if n.hand in hands
        and n.finger
        and place(n.start)[0] in bars
        and n.midi % 12 == row.name.pitch_class
        and (row.octave is None or n.midi == row_midi(row))
    ]
    if not notes or (not desk.context.bars and len({n.finger for n in notes}) > 1):
        return
    if any(n.finger == said for n in notes):
        desk.claim(match.start(), match.end(), "finger", AGREES)
    else:
        right = notes[0].finger or 0
        desk.claim(match.start(), match.end(), "finger", PARTLY, f"{right}", f"finger {right} is written there")
