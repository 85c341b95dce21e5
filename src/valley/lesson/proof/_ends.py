"""The first, last, highest or lowest note of the tune, of a hand, or of all."""

from __future__ import annotations

import re
from collections.abc import Sequence

from valley.lesson.proof._desk import Desk
from valley.lesson.proof._facts import fact
from valley.lesson.proof._lines import row_midi
from valley.lesson.proof._playing import bars_here
from valley.lesson.proof._scope import Found
from valley.lesson.proof._words import BARS, goes_on
from valley.model.arrangement import HANDS, RIGHT, Grip, PlayedNote
from valley.theory.naming import AGREES, CONTRADICTS
from valley.theory.pitch import parse_pitch


def _tune_of(desk: Desk, notes: Sequence[PlayedNote], bars: set[int]) -> list[tuple[str, int]]:
    chart = desk.scope.chart
    tune = [(chart.keys[0].key.spell(n.midi % 12).at(n.midi), n.midi) for n in chart.melody if chart.grid.place(n.start)[0] in bars]
    return tune or [(n.pitch, n.midi) for n in notes if n.hand == RIGHT]


def _grip_of_end(desk: Desk, bars: set[int], end: str) -> Grip | None:
    """The grip over which the tune of these bars begins or ends."""
    tune = [n.start for n in desk.scope.chart.melody if desk.scope.chart.grid.place(n.start)[0] in bars]
    at = tune[0 if end == "first" else -1] if tune else None
    return next((g for _, g in desk.scope.grips if at is not None and g.start <= at < g.end), None)


def _stretch_of_end(desk: Desk, row: Found, line: str, end: str) -> tuple[set[int], str]:
    """The bars whose first, last, highest or lowest note is told, and of which line; the talk is there then."""
    if end in ("highest", "lowest") and BARS.search(desk.sentence, row.end):  # "the highest note is the G in bar eleven"
        desk.context.bars = ()
    if line == "tune" and not BARS.search(desk.sentence) and desk.context.bars and end in ("first", "last"):
        desk.context.bars = ()  # "and the last note is B": of the tune that is told, not of the bar that was named last
    if end in ("highest", "lowest") and line == "" and re.search(r"\bof (?:the|this) song\b", desk.sentence, re.IGNORECASE):
        desk.context.bars, desk.context.part = (), None
        line = "right" if end == "highest" else ""
    bars = set(bars_here(desk))
    if _WHOLE.search(desk.sentence):  # "the highest note of the whole song is the F in bar 17": the bar says where, not of what
        bars = set(range(desk.scope.chart.grid.place(desk.scope.grips[0][1].start)[0] if desk.scope.grips else 1, desk.scope.chart.grid.bars + 1))
    return bars, line


def judge_end_note(desk: Desk, row: Found, line: str, end: str) -> None:
    """The first, last, highest or lowest note of the tune, of a hand or of everything, in the bars or part that the words are about."""
    bars, line = _stretch_of_end(desk, row, line, end)
    place = desk.scope.chart.grid.place
    here = [n for n in desk.scope.notes if place(n.start)[0] in bars and not n.grace]
    if line == "tune":
        pool = _tune_of(desk, here, bars)
    else:
        hand = line if line in HANDS else None
        pool = [(n.pitch, n.midi) for n in here if hand in (None, n.hand)]
    if not pool:
        return
    if end in ("first", "last"):
        notes = [pool[0 if end == "first" else -1]]
        if line != "tune":  # a stroke of several keys begins or ends with any of them
            start = here[0 if end == "first" else -1].start
            notes = [(n.pitch, n.midi) for n in here if n.start == start and (line not in HANDS or n.hand == line)] or notes
    else:
        notes = [max(pool, key=lambda p: p[1]) if end == "highest" else min(pool, key=lambda p: p[1])]
    if line == "tune" and end in ("first", "last") and (at := _grip_of_end(desk, bars, end)):
        desk.context.grips = (at,)  # the talk stands there
    kind = "octave" if row.octave is not None else "note"
    if any(midi % 12 == row.name.pitch_class and (row.octave is None or midi == row_midi(row)) for _, midi in notes):
        desk.claim(row.start, row.end, kind, AGREES)
        return
    pitch = notes[0][0]
    right = desk.say_pitch(pitch) if row.octave is not None else desk.say(parse_pitch(pitch)[0])
    desk.claim(row.start, row.end, kind, CONTRADICTS, right, f"the {end} note there is {desk.say_pitch(pitch)}")


_WHOLE = fact(r"\b(?:of|in) the (?:whole|entire) (?:song|piece|tune|melody|thing)\b")
# "Ends with a C sharp going up to D": a way, whose last note is the end.
_GOES_ON = fact(r"\s+(?:going|moving|stepping|rising|falling|resolving|that goes|which goes)\s+(?:back\s+)?(?:up |down |over )?(?:in)?to\s+(?:an?\s+|the\s+)?$")
_LINE = r"(?P<line>tune|melody|theme|singing|vocals?|voice|top line|song|piece|left hand|right hand|left|right|verse|chorus|refrain|bridge|part)"
END_NOTE = (
    fact(
        rf"\b{_LINE}\b[^.;,]{{0,30}}?\b(?P<end>starts|begins|opens|sets(?= off| out)|kicks(?= off)|takes(?= off)|ends|finishes|closes)"
        r"\s+(?:up\s+|off\s+|out\s+)?(?:on|with|from)\s+(?:an?\s+|the\s+|that\s+|same\s+|note\s+)*$"
    ),
    fact(rf"\b(?P<end>first|last|highest|lowest)\s+(?:note|key)\s+(?:of|in)\s+(?:the\s+)?(?:whole\s+)?{_LINE}\b[^.;,]{{0,30}}?\bis\s+(?:an?\s+|the\s+)*$"),
    fact(
        r"\b(?:you|we|it|tune|melody)\s+(?P<end>finish|end|start|begin)(?:es|s)? the (?P<line>\w+) (?:with|on) (?:an? |the )?"
        r"(?:long |high |low |quick |last |(?:whole|half|quarter)[- ]note )*$"
    ),
    fact(
        r"\b(?:it|we|you)\s+(?P<end>starts?|begins?|ends?|finish(?:es)?)\s+(?:up\s+|off\s+)?(?:on|with)\s+(?:an?\s+|the\s+|that\s+|low\s+|high\s+|long\s+)*(?P<line>)$"
    ),
    fact(r"\b(?P<end>highest|lowest) note\b[^.;,]{0,30}?,? but (?:it's|it’s|it is) (?:an?\s+|the\s+)*(?P<line>)$"),
    fact(rf"\b(?P<end>high|low)(?:est)? point (?:of|in) (?:the )?(?:whole )?{_LINE}\b[^.;,]{{0,30}}?\bis\s+(?:an?\s+|the\s+|that\s+)*$"),
    fact(rf"\b{_LINE}(?:'s|’s) (?P<end>first|last|highest|lowest) (?:note|key)\b[^.;,]{{0,20}}?\bis (?:an?\s+|the\s+)*$"),
    fact(r"\bthe (?P<end>first|last|highest|lowest) note (?:of all |here )?is (?:an?\s+|the\s+)*(?P<line>)$"),
)
# "That C is as high as you'll ever go", of all that is played.
_AS_FAR = fact(r"\s+is (?:about |just |really )?as (?P<end>high|low) as (?:you|we|it|the \w+)\b[^.;,]{0,12}?\b(?:go|goes|get|gets|climb|climbs)\b")
# "Up to a D, that's the highest note of the song".
_IS_END = fact(rf",?\s*(?:and )?(?:that's|that’s|which is) (?:also )?the (?P<end>first|last|highest|lowest) note (?:of|in) (?:the )?(?:whole )?{_LINE}\b")
_ENDS = {
    "opens": "first",
    "closes": "last",
    "starts": "first",
    "begins": "first",
    "sets": "first",
    "kicks": "first",
    "takes": "first",
    "start": "first",
    "begin": "first",
} | dict.fromkeys(("ends", "finishes", "end", "finish"), "last")
_POINTS = {"high": "highest", "low": "lowest"}
_TUNE_WORDS = ("tune", "melody", "theme", "singing", "vocal", "vocals", "voice", "top line")
_AT_THE_END = 2  # bars of a part of which "it ends" is said without saying what


def _may_end(desk: Desk, end: str) -> bool:
    """Whether "it" that begins or ends is the tune of the part: while it is told, from where it has been turned to, or near the part's end."""
    context, chart = desk.context, desk.scope.chart
    part = next((p for p in chart.parts if p.number == context.part), None)
    if not context.of_tune or part is None:
        return False
    return context.opening if end == "first" else context.now is not None and chart.grid.place(context.now)[0] > part.end_bar - _AT_THE_END


def _end_said_after(sentence: str, row: Found) -> tuple[str, str] | None:
    """Of which line a note is which end, where that stands behind its name."""
    if m := _IS_END.match(sentence, row.end):
        word = m["line"].lower()
        return "tune" if word in _TUNE_WORDS else word.split()[0] if word.startswith(("left", "right")) else "", m["end"].lower()
    if m := _AS_FAR.match(sentence, row.end):
        return "tune" if m["end"].lower() == "high" else "", f"{m['end'].lower()}est"
    return None


def find_end_notes(desk: Desk, found: Sequence[Found]) -> list[tuple[Found, str, str]]:
    """Names that are said to be the first, last, highest or lowest note of something."""
    rows = []
    for i, row in enumerate(found):
        if row.is_chord or any(other is not row and other.start == row.start for other in found):
            continue  # "starts with two As": the beginning of a list
        if told := _end_said_after(desk.sentence, row):
            rows.append((row, *told))
            continue
        onward = _GOES_ON.match(desk.sentence[row.end : found[i + 1].start]) if i + 1 < len(found) else None
        listed = i + 1 < len(found) and found[i + 1].name != row.name and goes_on(desk.sentence[row.end : found[i + 1].start])
        for pattern in END_NOTE:
            if m := pattern.search(desk.sentence[: row.start]):
                row = found[i + 1] if onward and _ENDS.get(m["end"].lower()) == "last" else row
                word = m["line"].lower()
                if desk.context.of_tune and not word.startswith(("left", "right")):
                    word = "tune"
                if word in ("song", "piece", "verse", "chorus", "refrain", "bridge", "part") and m["end"].lower() in _ENDS:
                    continue  # a song begins and ends on chords
                if not m["line"] and m["end"].lower() in _ENDS and not _may_end(desk, _ENDS[m["end"].lower()]):
                    continue
                if listed and not onward and m["end"].lower() in _ENDS:
                    break  # "starts on G and goes B flat, E flat": a list, and where it begins
                line = "tune" if word in _TUNE_WORDS else word.split()[0] if word.startswith(("left", "right")) else ""
                end = m["end"].lower()
                rows.append((row, line, _ENDS.get(end) or _POINTS.get(end, end)))
                break
    return rows
