"""Notes that are told with the beat they are struck on: "low B flat on one, then D and F together on two and three"."""

from __future__ import annotations

import re
from collections.abc import Sequence
from dataclasses import dataclass

from valley.lesson.proof._desk import Desk, midi_of
from valley.lesson.proof._playing import bars_here, bars_now, hand_meant, hands_said, strokes_of
from valley.lesson.proof._scope import Found
from valley.lesson.proof._words import ORDINALS, is_joined, read_count
from valley.model.arrangement import RIGHT, PlayedNote
from valley.theory.naming import AGREES, CONTRADICTS
from valley.theory.pitch import parse_pitch

_COUNT = r"(?:one|two|three|four|five|six|[1-6])(?![\w/])"
_NTH_BEAT = r"(?:first|second|third|fourth|fifth|sixth)(?= beats?\b)"
_AFTER = re.compile(
    rf"\s*(?:,\s*)?(?:(?:both|together|again|each|played)\s+)*on\s+(?:beats?\s+|counts?\s+|the\s+)?(?P<counts>{_NTH_BEAT}|{_COUNT}(?:(?:\s*,\s*|\s+and\s+|\s*&\s*){_COUNT})*)"
    rf"(?!\s*(?:bars?|(?<!t)(?<!d)(?<!h)beats?|chords?|notes?|&)\b)",
    re.IGNORECASE,
)
_BEFORE = re.compile(
    rf"\bon\s+(?:beats?\s+|counts?\s+|the\s+)?(?:(?P<nth>{_NTH_BEAT}) beats?|(?P<counts>{_COUNT}))\s*,?\s*(?:you\s+|it's\s+|comes?\s+|we\s+|there's\s+"
    r"|(?:the|your)\s+(?:left|right)\s+hand\s+)?"
    r"(?:just\s+|only\s+|then\s+)*(?:plays?\s+|hits?\s+|strikes?\s+|adds?\s+|has\s+|they\s+become\s+|(?:it|that|they)\s+(?:becomes?|changes?\s+to|goes?\s+to|moves?\s+to)\s+)?(?:an?\s+|the\s+|low\s+|high\s+)*$",
    re.IGNORECASE,
)


_FEW = 2  # names with their beats that may fit somewhere by chance


@dataclass(frozen=True)
class Struck:
    """Names that are said to be struck together on these counts; ``start`` and ``end`` are where the words of it are."""

    start: int
    rows: tuple[Found, ...]
    counts: tuple[str, ...]
    end: int
    said: tuple[int, int]  # where the counts are


def find_struck(sentence: str, found: Sequence[Found]) -> list[Struck]:
    """Every group of bare notes with a count behind or before it."""
    notes = [r for r in found if not r.is_chord]
    groups: list[list[Found]] = []
    for row in notes:
        between = sentence[groups[-1][-1].end : row.start] if groups else ""
        if groups and is_joined(between) and not re.search(r"\bthen\b", between, re.IGNORECASE):
            groups[-1].append(row)
        else:
            groups.append([row])
    told = []
    for group in groups:
        if m := _AFTER.match(sentence, group[-1].end):
            told.append(Struck(group[0].start, tuple(group), _counts(m["counts"]), m.end(), m.span("counts")))
        elif m := _BEFORE.search(sentence[: group[0].start]):
            said = "nth" if m["nth"] else "counts"
            told.append(Struck(m.start(), tuple(group), _counts(m[said]), group[-1].end, m.span(said)))
    return told


def _counts(text: str) -> tuple[str, ...]:
    if text.lower() in ORDINALS:
        return (str(ORDINALS.index(text.lower()) + 1),)
    return tuple(str(read_count(word)) for word in re.findall(r"[a-z]+|\d", text.lower()) if word != "and")


def judge_struck(desk: Desk, told: Sequence[Struck]) -> None:
    """All groups of a sentence against one bar: the one where most of it fits. Nothing is said against it where no place is named and little fits."""
    named = bool(desk.context.grips) and not desk.context.bars
    bars = bars_now(desk)
    if named and not any(r.is_chord for r in desk.named):  # the talk may have gone on to the next bar without saying so
        bars += [bar for bar in range(bars[-1] + 1, bars[-1] + 2) if bar in bars_here(desk)]
    rows = [row for group in told for row in group.rows]
    best = _fewest_slips(desk, told, bars)
    if best != [] and len(rows) > _FEW and _fewest_slips(desk, told, bars_here(desk)) == []:
        best = []  # so many fit by chance nowhere: the talk is there
    if best or best is None:
        late = next(((group, right) for group in told if len(group.counts) == 1 and (right := _struck_on(desk, group, bars))), None)
        if late:
            desk.claim(*late[0].said, "count", CONTRADICTS, late[1], f"it is struck on {late[1]} there")
            return
    if best is not None and (not best or desk.context.bars or named or len(best) * 2 <= len(rows)):
        _claim_struck(desk, rows, best)


def _fewest_slips(desk: Desk, told: Sequence[Struck], bars: Sequence[int]) -> list[tuple[Found, PlayedNote | None]] | None:
    fits = [slips for bar in bars for hand in _hands(desk) if (slips := _slips(desk, told, bar, hand)) is not None]
    return min(fits, key=len, default=None)


def _claim_struck(desk: Desk, rows: Sequence[Found], slips: Sequence[tuple[Found, PlayedNote | None]]) -> None:
    wrong = {id(row): note for row, note in slips}
    for row in rows:
        kind = "octave" if row.octave is not None else "note"
        if id(row) not in wrong:
            desk.claim(row.start, row.end, kind, AGREES)
            continue
        note = wrong[id(row)]
        right = "" if note is None else desk.say_pitch(note.pitch) if row.octave is not None else desk.say(parse_pitch(note.pitch)[0])
        desk.claim(row.start, row.end, kind, CONTRADICTS, right, f"{right} is struck there" if right else "nothing else is struck there")


def _hands(desk: Desk) -> tuple[str, ...]:
    """The hands that can strike what is told."""
    return (RIGHT,) if hand_meant(desk) == RIGHT else hands_said(desk)


def _struck_on(desk: Desk, group: Struck, bars: Sequence[int]) -> str:
    """On which other count a hand strikes just these notes in the bars at hand; nothing where it does not, or also on the one that is said."""
    grid, said = desk.scope.chart.grid, {r.name.pitch_class for r in group.rows}
    counts: list[str] = []
    for bar in bars:
        for hand in _hands(desk):
            for beat, keys in strokes_of(desk, bar, hand):
                if {k % 12 for k in keys} == said and all(r.octave is None or midi_of(r) in keys for r in group.rows):
                    counts.append(grid.count(beat))
    return counts[0] if counts and group.counts[0] not in counts else ""


def _slips(desk: Desk, told: Sequence[Struck], bar: int, hand: str) -> list[tuple[Found, PlayedNote | None]] | None:
    """The names that are not struck on their counts in a bar, each with what is; None where the hand strikes nothing on one of them."""
    grid = desk.scope.chart.grid
    notes = [n for n in desk.scope.notes if n.hand == hand and not n.grace and grid.place(n.start)[0] == bar]
    slips: list[tuple[Found, PlayedNote | None]] = []
    for group in told:
        for count in group.counts:
            here = [n for n in notes if grid.count(n.start) == count]
            if not here:
                return None
            said = {r.name.pitch_class for r in group.rows}
            left = [n for n in here if n.midi % 12 not in said]
            for row in group.rows:
                fits = any(n.midi % 12 == row.name.pitch_class and (row.octave is None or n.midi == midi_of(row)) for n in here)
                if not fits and all(row is not other for other, _ in slips):
                    slips.append((row, left[0] if left else here[0] if row.octave is not None else None))
    return slips
