"""Notes that go on from those told before them: "…, B flat, A flat, G, F. And at the end it goes back up to B flat", "D and A together, then F".

Few notes fit somewhere in any song; together with the list before them they have one place, and what comes there next is what they are held against.
"""

from __future__ import annotations

import re
from collections.abc import Sequence

from valley.lesson.proof import _lines
from valley.lesson.proof._desk import Desk
from valley.lesson.proof._lines import Line, lines_here
from valley.lesson.proof._lists import Reading, tell
from valley.lesson.proof._scope import Found
from valley.theory.naming import AGREES, CONTRADICTS

_KINDS = (_lines.STROKES, _lines.TUNE, _lines.BASS, _lines.TOP)
_THEN = re.compile(r"\b(?:then|finally|lastly|after that|afterwards|next|ending (?:up )?(?:with|on)|finishing (?:with|on))\b", re.IGNORECASE)
_WHO = r"(?:it|that|which|melody|tune|bass|hand|line|you|we)\s+(?:\w+\s+){0,2}?"
_GOES = (
    r"(?:(?:leads?|takes?|brings?) (?:you|us|it|right)|"
    r"goes?|comes?|jumps?|leaps?|drops?|falls?|climbs?|rises?|moves?|steps?|walks?|returns?|lands?|rests?|settles?|finish(?:es)?|ends?(?: up)?)\s+"
    r"(?:back\s+|right\s+|all the way\s+)*(?:(?:up|down|over|back|home)\s+)*(?:(?:by\s+)?an?\s+(?:\w+\s+){1,2}?)?(?:to|on|onto)\s+"
)
_HOME = r"(?:^\W*(?:and |then |so |finally )*(?:back )?home to\s+)"
_GOES_TO = re.compile(rf"(?:{_HOME}|\b{_WHO}{_GOES})(?:an?\s+|the\s+|low\s+|high\s+|middle\s+)*$", re.IGNORECASE)
_AGAIN = re.compile(r"\b(?:second|third|last|next|other) time\b", re.IGNORECASE)
_REMEMBERED = 4  # names of the list before that are enough to tell where it was


_AND_SITS = re.compile(
    r"\b(?:and|then)\s+(?:then |just |only |simply )*(?:sits?|stays?|lands?|holds?|rests?|stops?|ends?|finish(?:es)?)\s+(?:on|with)\s+"
    r"(?:the\s+|an?\s+|that\s+)?$"
    r"|,?\s+(?:going|moving|stepping|rising|falling|climbing|dropping|leading|jumping|leaping)\s+(?:back |right )*(?:up |down |over )?(?:to|into|onto)\s+"
    r"(?:the\s+|an?\s+)?$"
    r"|\b(?:and|then|with)\s+an?\s+(?:\w+\s+)?(?:dip|step|jump|leap|hop|drop|walk|slide|climb)\s+(?:back |up |down |over )*(?:to|into|onto)\s+"
    r"(?:the\s+|an?\s+)?$"
    r"|\band\s+(?:goes|comes|moves|steps|jumps|climbs|drops|falls|rises)\s+(?:back |up |down |over )*(?:to|into|onto)\s+(?:the\s+|an?\s+)?$",
    re.IGNORECASE,
)
# "… to get you back to the G": where the next part, or this one again, begins.
_BACK_TO = re.compile(
    r"\bto (?:get|bring|take|lead) (?:you|us|it|back) (?:right )?(?:(?:back|up|down|over|home) )*(?:to|into|onto)\s+(?:the\s+|an?\s+)?$", re.IGNORECASE
)


def judge_way_back(desk: Desk, row: Found) -> bool:
    """A note or root that the end of a part leads to; whether the words say so."""
    grips, now = desk.scope.grips, desk.context.now
    if not _BACK_TO.search(desk.sentence[: row.start]) or now is None or not grips:
        return False
    part = next((number for number, g in grips if g.start <= now < g.end), grips[-1][0])
    after = next((g for number, g in grips if number > part), None)
    again = next((g for number, g in grips if number == part), None)
    ends = [g for g in (next((g for _, g in grips if g.start > now), None), after, again) if g is not None]
    there = {n.midi % 12 for g in ends for n in (*g.left[:1], *g.right[-1:])} | {g.chord.root.pitch_class for g in ends}
    right = desk.say((after or ends[-1]).chord.root)
    fits = row.name.pitch_class in there
    desk.claim(row.start, row.end, "note", AGREES if fits else CONTRADICTS, "" if fits else right, "" if fits else f"{right} comes then")
    return True


def is_onward(desk: Desk, rows: Sequence[Found]) -> bool:
    """Whether notes are said to follow those that were told last, in this sentence or the one before."""
    told = desk.context.last_told
    if not told or any(r.is_chord for r in rows) or len(rows) > len(told):
        return False
    if len(told) == 1:  # "a long A of three beats and a quick dip to F sharp"
        return told[0].start >= 0 and bool(desk.context.bars or desk.context.grips) and _AND_SITS.search(desk.sentence[told[0].end : rows[0].start]) is not None
    if told[-1].start < 0:  # of the sentence before
        return _GOES_TO.search(desk.sentence[: rows[0].start]) is not None and not any(r.is_chord for r in desk.named)
    between = desk.sentence[told[-1].end : rows[0].start]
    leads = _THEN.search(between) or _AND_SITS.search(between) or (re.search(r"\b(?:you|it|we)\b", between) and _GOES_TO.search(desk.sentence[: rows[0].start]))
    return bool(leads) and not re.search(r"[.;:]", between) and not any(told[-1].end <= r.start < rows[0].start for r in desk.named)


def judge_move_of_tune(desk: Desk, row: Found) -> bool:
    """ "Then it jumps up to D": a note of the tune over the chord at hand, or over the next; whether there is a tune to hold it against."""
    chart, now = desk.scope.chart, desk.context.now
    first = next(iter(desk.context.grips), None) or next((g for _, g in desk.scope.grips if now is not None and g.start <= now < g.end), None)
    if not desk.context.of_tune or first is None or not _GOES_TO.search(desk.sentence[: row.start]):
        return False
    end = next((g.end for _, g in desk.scope.grips if g.start >= first.end), first.end)
    tune = [n for n in chart.notes_between(first.start, end) if n.start >= first.start]
    if not tune:
        return False
    if any(n.midi % 12 == row.name.pitch_class and row.octave in (None, n.midi // 12 - 1) for n in tune):
        desk.claim(row.start, row.end, "note", AGREES)
        return True
    if _AGAIN.search(desk.sentence):
        return False  # of the next time that these bars come, wherever that is
    told = {r.name.pitch_class for r in desk.context.last_told}
    meant = next((n for n in tune if n.start >= first.end), None) or next((n for n in tune if n.midi % 12 not in told), tune[0])
    right = desk.say(chart.key_at(meant.start).spell(meant.midi % 12))
    desk.claim(row.start, row.end, "note", CONTRADICTS, right, f"the tune goes to {right} there")
    return True


def judge_onward(desk: Desk, rows: Sequence[Found]) -> bool:
    """Hold notes against what comes next on the line that the list before them followed; whether there is one."""
    told = desk.context.last_told[-_REMEMBERED:]
    readings = [r for line in lines_here(desk) if line.kind in _KINDS and not line.unordered for r in _after(line, told, rows)]
    best = min(readings, key=lambda r: (len(r.wrong), (r.line.kind == _lines.TUNE) != desk.context.of_tune, _KINDS.index(r.line.kind)), default=None)
    if best is None or len(best.wrong) > max(1, len(rows) // 3):
        return False
    tell(desk, rows, best)
    return True


def _after(line: Line, told: Sequence[Found], rows: Sequence[Found]) -> list[Reading]:
    """Every place of a line at which the notes told before fit whole, and how those that follow fit behind them."""
    size = len(told)
    readings = []
    for at in range(len(line.items) - size - len(rows) + 1):
        if all(item.fits(r, strict=False) for item, r in zip(line.items[at:], told, strict=False)):
            wrong = tuple(i for i, r in enumerate(rows) if not line.items[at + size + i].fits(r, strict=False))
            readings.append(Reading(line, at + size, wrong))
    return readings
