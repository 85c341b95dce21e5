"""A list of names told in order, read by the line of the music that it follows best.

A teacher who says "C, B, B flat, A" can mean four notes of a hand, four basses, a scale or four chords. Words around the list say which ("the tune", "the
bass walks", "the chords are"); where they leave it open the reading with the fewest slips is taken, and the grip at hand is one of the readings.
"""

from __future__ import annotations

import re
from collections.abc import Callable, Sequence
from dataclasses import dataclass
from itertools import pairwise

from valley.lesson.proof import _lines
from valley.lesson.proof._desk import UNKNOWN, Desk, hand_notes
from valley.lesson.proof._lines import Item, Line, lines_here, lines_of
from valley.lesson.proof._scope import Found
from valley.lesson.proof._words import BEGINNING, GOING, HAND_AFTER, goes_on, quality_named
from valley.model.arrangement import LEFT, RIGHT
from valley.theory.chord import Chord
from valley.theory.naming import AGREES, CONTRADICTS, PARTLY, reads_as

_CUES = (
    (_lines.SCALE, re.compile(r"\bscales?\b", re.IGNORECASE)),
    (_lines.SIGNATURE, re.compile(r"\b(?:sharps|flats|signature|one (?:sharp|flat))\b", re.IGNORECASE)),
    (_lines.CHORDS, re.compile(r"\b(?:chords (?:of|in|are|go|for|here)|chords?:|first \w+ chords|progression|harmony)", re.IGNORECASE)),
    (_lines.TUNE, re.compile(r"\b(?:tune|melody|sing(?:er|s)?)\b", re.IGNORECASE)),
    (_lines.BASS, re.compile(r"(?<!\bin the )\bbass\b(?! clef)", re.IGNORECASE)),
)
_FROM = re.compile(r"\bfrom\s+(?:the\s+|an?\s+)*$", re.IGNORECASE)
_ORDER = re.compile(
    r"\b(?:walks?|steps?|stepping|climbs?|rolls?|alternat\w+|repeats?|figure|pattern|comes? (?:back )?down|goes? (?:up|down|back)|rises?|falls?"
    r"|one on each|one after|in that order|in this order|descends?|ascends?|runs?|moves? (?:up|down))\b",
    re.IGNORECASE,
)


_SHORT = 3  # so few notes come somewhere in any song: they are looked for where the talk is


_ONE_BAR = 6  # notes of a line so short that two of them are placed in it
_TOGETHER = re.compile(r"\b(?:at the same time|at once|(?:keep|hold)(?:s|ing)? (?:them|both|those)|both held)\b", re.IGNORECASE)


@dataclass(frozen=True)
class Reading:
    """A line with the place at which the list fits it best, and where it does not."""

    line: Line
    at: int
    wrong: tuple[int, ...]


def find_lists(sentence: str, found: Sequence[Found]) -> list[list[Found]]:
    """Names that are told one after the other, with nothing but small words between them."""
    lists: list[list[Found]] = []
    for row in found:
        last = lists[-1][-1] if lists else None
        if last and goes_on(sentence[last.end : row.start]) and not (_LEAVES.search(sentence[: row.start]) and GOING.match(sentence, row.end)):
            lists[-1].append(row)
        else:
            lists.append([row])
    return [part for row in lists for half in _stacked(sentence, row) for part in _apart(sentence, half)]


def _stacked(sentence: str, rows: list[Found]) -> list[list[Found]]:
    """Notes of the right hand over those of the left: two lists; "F over A flat, then A flat over C": a list a pair."""
    over = [sentence[a.end : b.start].strip() in ("over", "above") for a, b in pairwise(rows)]
    if len(rows) > 2 and len(rows) % 2 == 0 and all(over[::2]) and not any(over[1::2]):
        return [rows[i : i + 2] for i in range(0, len(rows), 2)]
    at = next((i for i in range(2, len(rows)) if sentence[rows[i - 1].end : rows[i].start].strip() == "over"), None)
    return [rows] if at is None or any(r.is_chord for r in rows) else [rows[:at], rows[at:]]


# "…, and then the E goes down to D sharp": a key of those that were named sets out.
_LEAVES = re.compile(r"\b(?:then|and|but) (?:only )?the $", re.IGNORECASE)


def _apart(sentence: str, rows: list[Found]) -> list[list[Found]]:
    """A list where two things are told in one breath: a chord and then its notes, notes and then "with F and C in the left"."""
    for i in range(1, len(rows)):
        before, after = rows[i - 1], rows[i:]
        bare = next((k for k, r in enumerate(after) if r.is_chord), len(after))
        if i > 1 and after[0].is_chord and bare == 0 and not any(r.is_chord for r in rows[:i]) and _OVER.fullmatch(sentence[before.end : after[0].start]):
            return [rows[:i], after]
        if before.is_chord and bare >= 3 and _of_chord(before, after[:bare]):
            return [rows[:i], after[:bare], *(_apart(sentence, after[bare:]) if after[bare:] else [])]
        if not before.is_chord and bare == len(after) and _WITH.fullmatch(sentence[before.end : after[0].start]) and HAND_AFTER.match(sentence, after[-1].end):
            return [rows[:i], after]
    return [rows]


_OVER = re.compile(r",?\s*over\s+(?:an?\s+|the\s+)?", re.IGNORECASE)
_WITH = re.compile(r",?\s*(?:with|over|and then|above)\s+(?:an?\s+|the\s+)?", re.IGNORECASE)


def _of_chord(chord: Found, rows: Sequence[Found]) -> bool:
    """Whether notes are those of a chord, but for one at most, so that they spell it rather than go on with bare chords."""
    members = Chord(chord.name, chord.quality or quality_named("maj")).pitch_classes()
    return sum(r.name.pitch_class not in members for r in rows) <= len(rows) // 3


def judge_list(desk: Desk, rows: list[Found], otherwise: Callable[[], None]) -> None:
    """Take the reading of a list with the fewest slips; ``otherwise`` reads it as grips and chords, name by name."""
    if GOING.match(desk.sentence, rows[-1].end):
        otherwise()  # "the E and the C move down": keys that are left
        return
    if len(rows) == 2 and _FROM.search(desk.sentence[: rows[0].start]):
        _judge_way(desk, rows, otherwise)
        return
    if after := HAND_AFTER.match(desk.sentence, rows[-1].end):
        desk.context.hand = RIGHT if after[1].lower() == "right" else LEFT
    if len(rows) <= _SHORT and len(desk.context.grips) == 1 and desk.context.hand and _TOGETHER.search(desk.sentence):
        otherwise()
        return
    cue = _cue_of(desk, rows)
    if cue == _lines.BASS and not re.search(r"\bbass\b.*\bhand\b", desk.sentence[: rows[0].start], re.IGNORECASE):
        desk.context.hand = LEFT
    if not (cue is None and _take_tune(desk, rows)) and not _take_tied(desk, rows, otherwise):
        _take_best(desk, rows, cue, otherwise)


def _take_tune(desk: Desk, rows: list[Found]) -> bool:
    """Read a list as notes of the tune, where the tune is being told and they follow it, but for one at most."""
    if not desk.context.of_tune or any(r.is_chord for r in rows):
        return False
    told = [r for r in _readings(desk, rows, _lines.TUNE) if not r.wrong or (len(r.wrong) == 1 and len(rows) >= 3)]
    if told:
        tell(desk, rows, min(told, key=lambda r: (len(r.wrong), r.at)))
    return bool(told)


def _take_tied(desk: Desk, rows: list[Found], otherwise: Callable[[], None]) -> bool:
    """Read a list as what is played of the chord just before it, where it is said to be that."""
    own = _own_line(desk, rows)
    if own is None or not _is_tied(desk, rows):
        return False
    slips = _try(desk, otherwise)
    in_order = _repeats(rows) or (slips and len(own.wrong) <= slips)
    if not own.wrong or (in_order and _near(own, rows, sure=True)):
        tell(desk, rows, own)
    else:
        otherwise()
    return True


def _take_best(desk: Desk, rows: list[Found], cue: str | None, otherwise: Callable[[], None]) -> None:
    best = _best_line(desk, rows, cue)
    if (own := _own_line(desk, rows)) and (best is None or best.wrong):
        best = own
    if best and cue in (_lines.SCALE, _lines.SIGNATURE, _lines.TUNE):
        if _near(best, rows, sure=True):
            tell(desk, rows, best)
        else:
            otherwise()
        return
    slips = _try(desk, otherwise)
    placed = bool(desk.context.bars and desk.context.hand) and (bool(_ORDER.search(desk.sentence)) or _one_by_one(desk))
    if best is None or (best.wrong and not placed and not _near(best, rows, sure=cue is not None or _in_order(desk, rows))):
        otherwise()
    elif len(best.wrong) < slips or placed or _in_order(desk, rows) or cue:
        tell(desk, rows, best)
    else:
        otherwise()


def _own_line(desk: Desk, rows: Sequence[Found]) -> Reading | None:
    """How a list fits the chord that is named before it in the sentence, where no bar is: "G minor is G, D, G, D"."""
    named = next((r for r in reversed(desk.named) if r.is_chord and r.end <= rows[0].start), None)
    if named is None or desk.context.bars or any(r.is_chord for r in rows) or len(rows) < 2:
        return None
    if re.search(r"\bwhile\b", desk.sentence[named.end : rows[0].start], re.IGNORECASE):
        return None  # "stays on C minor while the left steps down C, B": the other hand goes on its own way
    quality = named.quality or quality_named("maj")
    grips = [g for g in desk.grips_here() if g.chord.root.pitch_class == named.name.pitch_class and g.chord.quality == quality]
    readings = [r for line in lines_of(desk, grips) if line.kind in (_lines.STROKES, _lines.BASS, _lines.TOP) for r in _read(line, rows)]
    own = min(readings, key=lambda r: (len(r.wrong), r.at > 0, r.line.kind != _lines.STROKES, r.at), default=None)
    return None if own is None or _overrun(own, rows) else own  # more than the hand plays there is no order of it


def _held(desk: Desk, row: Found) -> bool:
    return any(n.midi % 12 == row.name.pitch_class for g in desk.context.grips for n in hand_notes(g, desk.context.hand))


_TIED_WITHIN = 60  # letters between a chord and the notes that are said to be its
_TIED = re.compile(
    r"^[\s,:]*$"
    r"|(?:\bthat's|\bthat’s|\bit's|\bit’s|\bthat is|\bwould be|\bwhich is|\bis|\bare|\bplays?|\bha(?:ve|s)|\bdo|\bholds?|:)\s*(?:the notes |an? |the |low )*$",
    re.IGNORECASE,
)


def _is_tied(desk: Desk, rows: Sequence[Found]) -> bool:
    """Whether a list is said to be the notes of the chord before it: "D, so that's D and A"."""
    named = next(r for r in reversed(desk.named) if r.is_chord and r.end <= rows[0].start)
    between = desk.sentence[named.end : rows[0].start]
    return len(between) < _TIED_WITHIN and _TIED.search(between) is not None


def _judge_way(desk: Desk, rows: list[Found], otherwise: Callable[[], None]) -> None:
    """ "From C down to G": the first may still lie in the bar before."""
    bars = desk.context.bars
    if bars:
        desk.context.bars = (max(1, bars[0] - 1), *bars)
    lines = [line for line in lines_here(desk) if line.kind in (_lines.STROKES, _lines.TOP, _lines.BASS, _lines.TUNE)]
    readings = [r for line in lines for r in _read(line, rows) if not r.wrong]
    desk.context.bars = bars
    after = {str(b.name): b for line in lines for a, b in pairwise(line.items) if a.fits(rows[0], strict=False) and a.name != b.name}
    if readings:
        tell(desk, rows, readings[0])
    elif any(r.is_chord and r.end <= rows[0].start for r in desk.named) and desk.context.grips and not _held(desk, rows[1]):
        otherwise()  # "to get to D … from C sharp up to E": where it goes to is no key of that chord
        desk.context.claims[:] = [c for c in desk.context.claims if c.start != desk.offset + rows[0].start]
    elif len(after) == 1 and rows[1].octave is None and (desk.context.hand or desk.context.bars):  # there is one way on from the first
        right = desk.say(next(iter(after.values())).name)
        desk.claim(rows[0].start, rows[0].end, "note", AGREES)
        desk.claim(rows[1].start, rows[1].end, "note", CONTRADICTS, right, f"it goes on to {right} there")
    else:
        otherwise()


def _cue_of(desk: Desk, rows: Sequence[Found]) -> str | None:
    before = desk.sentence[: rows[0].start]
    found = [(m.end(), kind) for kind, pattern in _CUES for m in pattern.finditer(before)]
    if found:
        return max(found)[1]
    after = desk.sentence[rows[-1].end :]
    if re.match(r"[\s,]*(?:that's|this is|is|are)\s+(?:the\s+)?(?:whole\s+)?(?:bass|scale|tune|melody)\b", after, re.IGNORECASE):
        return next((kind for kind, pattern in _CUES if pattern.search(after[:40])), None)
    return _lines.CHORDS if sum(r.is_chord for r in rows) >= 2 else None


def _one_by_one(desk: Desk) -> bool:
    """Whether the hand in question plays one key at a time in the bars that are named: what is listed of it is an order."""
    place = desk.scope.chart.grid.place
    starts = [n.start for n in desk.scope.notes if n.hand == desk.context.hand and not n.grace and place(n.start)[0] in desk.context.bars]
    return len(starts) >= 2 and len(set(starts)) == len(starts)


def _in_order(desk: Desk, rows: Sequence[Found]) -> bool:
    return bool(_ORDER.search(desk.sentence)) or _repeats(rows)


def _repeats(rows: Sequence[Found]) -> bool:
    """Whether a name comes again: a grip is told once."""
    return len(rows) >= 3 and len({(str(r.name), r.octave) for r in rows}) < len(rows)


def _near(reading: Reading, rows: Sequence[Found], *, sure: bool) -> bool:
    return len(reading.wrong) <= (max(1, len(rows) // 2) if sure and len(rows) >= 2 else len(rows) // 4)


def _best_line(desk: Desk, rows: Sequence[Found], cue: str | None) -> Reading | None:
    readings = _readings(desk, rows, cue)
    # A short list that nothing ties to a place may agree with the song, but cannot be against it.
    if not desk.context.bars and desk.context.part is None and cue is None and len(rows) < 4 and not any(r.is_chord for r in rows):
        readings = [r for r in readings if not r.wrong and len(rows) == 3 and not desk.context.grips]
    return min(readings, key=lambda r: (len(r.wrong), _overrun(r, rows), r.at > 0, r.line.kind != _lines.STROKES, r.at), default=None)


def _overrun(reading: Reading, rows: Sequence[Found]) -> int:
    """How many names come after the end of the line."""
    return 0 if reading.line.unordered else max(0, reading.at + len(rows) - len(reading.line.items))


def _readings(desk: Desk, rows: Sequence[Found], cue: str | None) -> list[Reading]:
    near = cue is None and len(rows) <= _SHORT and not any(r.is_chord for r in rows)
    said = BEGINNING.search(desk.sentence[: rows[0].start])
    begins = near and (desk.context.opening or (said is not None and not re.search(r"\b[A-G]\b", desk.sentence[said.end() : rows[0].start])))
    return [r for line in lines_here(desk, near=near) if _may(line, rows, cue, desk) for r in _read(line, rows) if not (begins and r.at)]


def _may(line: Line, rows: Sequence[Found], cue: str | None, desk: Desk) -> bool:
    if line.kind == _lines.TOP and cue is None and len(rows) == 2 and desk.sentence[rows[0].end : rows[1].start].strip(" ,") == "and":
        return False  # two keys of one grip
    chordal = any(r.is_chord for r in rows)
    if chordal != (line.kind == _lines.CHORDS) and (chordal or cue == _lines.CHORDS or not _spans_bars(desk)):
        return False
    if line.kind == _lines.SIGNATURE and cue != _lines.SIGNATURE:
        return False
    if line.kind == _lines.TUNE and desk.context.hand and cue != _lines.TUNE:
        return False
    if line.kind == _lines.SCALE and cue != _lines.SCALE:
        return len(rows) >= 7
    return cue is None or line.kind == cue or (cue == _lines.TUNE and line.kind == _lines.TOP and not desk.scope.chart.melody)


def _spans_bars(desk: Desk) -> bool:
    return len(desk.context.bars) != 1


def _read(line: Line, rows: Sequence[Found]) -> list[Reading]:
    strict = any(r.quality for r in rows)
    if line.unordered:
        wrong = tuple(i for i, r in enumerate(rows) if not any(item.fits(r, strict=strict) for item in line.items))
        return [Reading(line, 0, wrong)]
    readings, first, classes = [], rows[0].name.pitch_class, line.classes
    for at in line.places:
        if at and (classes[at] != first or not line.items[at].fits(rows[0], strict=strict)):
            continue  # nothing that is kept below begins there
        window = line.items[at : at + len(rows)]
        wrong = tuple(i for i, r in enumerate(rows) if i >= len(window) or not window[i].fits(r, strict=strict))
        # Only a list that fits whole may begin in the middle of a line; one with a slip where a bar begins.
        pair = len(rows) == 2 and wrong == (1,) and at + 1 < len(line.items) <= _ONE_BAR and line.kind == _lines.STROKES
        if not wrong or at == 0 or pair or (len(rows) >= 3 and len(wrong) == 1 and 0 not in wrong and at in line.heads):
            readings.append(Reading(line, at, wrong))
    return readings


def _try(desk: Desk, judge: Callable[[], None]) -> float:
    """How many slips a reading would find, without taking it."""
    context = desk.context
    before = (context.bars, context.part, context.hand, context.grips, context.chord, list(context.claims))
    listed, told = set(desk.listed), set(desk.told)
    judge()
    new = context.claims[len(before[5]) :]
    context.bars, context.part, context.hand, context.grips, context.chord = before[:5]
    context.claims[:] = before[5]
    desk.listed, desk.told = listed, told
    return sum(0.5 if c.verdict == UNKNOWN else float(c.verdict != AGREES) for c in new)


def tell(desk: Desk, rows: Sequence[Found], reading: Reading) -> None:
    """Claim every name of a list as the line has it there."""
    if not reading.line.unordered and (starts := [i.start for i in reading.line.items[reading.at : reading.at + len(rows)] if i.start is not None]):
        desk.context.now = starts[-1]
    for i, row in enumerate(rows):
        kind = "chord" if reading.line.kind == _lines.CHORDS else "octave" if row.octave is not None else "note"
        item = _meant(reading, rows, i)
        if i not in reading.wrong:
            if item and not reads_as(row.name, item.name):
                desk.claim(row.start, row.end, kind, PARTLY, _say(desk, item, row), f"it is written {_say(desk, item, row)} here")
            else:
                desk.claim(row.start, row.end, kind, AGREES)
        elif item is None:
            desk.claim(row.start, row.end, kind, UNKNOWN, message="the list goes on longer than the music there")
        else:
            right = _say(desk, item, row)
            desk.claim(row.start, row.end, kind, CONTRADICTS, right, f"{_NAMES[reading.line.kind]} {right} there")


_NAMES = {
    _lines.TUNE: "the tune goes on with",
    _lines.SCALE: "the scale has",
    _lines.BASS: "the bass is",
    _lines.CHORDS: "the chord is",
    _lines.STROKES: "the hand plays",
    _lines.TOP: "the hand plays",
    _lines.SIGNATURE: "the key has",
}


def _meant(reading: Reading, rows: Sequence[Found], index: int) -> Item | None:
    if not reading.line.unordered:
        at = reading.at + index
        return reading.line.items[at] if at < len(reading.line.items) else None
    row = rows[index]
    same = next((item for item in reading.line.items if item.fits(row, strict=False)), None)
    left = [item for item in reading.line.items if not any(item.fits(r, strict=False) for r in rows)]
    return same or (left[0] if left else None)


def _say(desk: Desk, item: Item, row: Found) -> str:
    if item.chord is not None:
        return desk.say_chord(item.chord)
    return desk.say_pitch(item.name.at(item.midi)) if row.octave is not None and item.midi is not None else desk.say(item.name)
