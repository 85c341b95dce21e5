"""What words say of notes that they tell themselves: how many there are, which way they go, what one of them becomes."""

from __future__ import annotations

import re
from collections.abc import Callable, Sequence
from itertools import pairwise

from valley.lesson.proof._desk import Desk, hand_notes
from valley.lesson.proof._facts import Fact, fact, settle
from valley.lesson.proof._playing import bars_now, hands_said, strokes_of
from valley.lesson.proof._scope import Found
from valley.lesson.proof._words import MOVED_FROM, TO, WHOLE, is_joined, read_whole, say_whole
from valley.model.arrangement import Grip, HandNote
from valley.theory.naming import AGREES, CONTRADICTS
from valley.theory.pitch import parse_pitch


def judge_listed(desk: Desk, match: re.Match[str]) -> None:
    """ "Just two notes, G and B flat": as many as are named then."""
    rows = [r for r in desk.named if r.start >= match.end("said")]
    if not rows or rows[0].start - match.end() > 1 or any(r.is_chord for r in rows):
        return
    size = 1
    while size < len(rows) and is_joined(between := desk.sentence[rows[size - 1].end : rows[size].start]) and "then" not in between:
        size += 1
    if size > 1 and not (size == 2 and desk.sentence[rows[0].end : rows[1].start].strip() in ("to", "up to", "down to")):  # "four notes, A to A"
        settle(desk, match, "said", read_whole(match["n"]) == size, f"{say_whole(size)} notes", f"{size} are named then")


def judge_total(desk: Desk, match: re.Match[str]) -> None:
    """ "Eight notes in total": those that the sentence names, else what is struck in the bar or held in the grip that the talk has come to."""
    said = read_whole(match["n"])
    named = sum(not r.is_chord for r in desk.named if r.end <= match.start())
    struck = {len(strokes_of(desk, bar, hand)) for bar in bars_now(desk) for hand in hands_said(desk)}
    held = [len(g.notes) for g in desk.context.grips]
    right = named if named > 2 else held[0] if held else 0
    if right:
        settle(desk, match, "said", said in {named, *struck, *held}, f"{say_whole(right)} notes", f"there are {right}")


def judge_way(desk: Desk, match: re.Match[str]) -> None:
    """ "It goes down step by step", "walks up the scale, G, A, B": the way of the notes that are told then, else of those told last."""
    after = [r.name.pitch_class for r in desk.named if r.start >= match.end() and not r.is_chord]
    way = _way(after) if len(after) > 2 else _way([r.name.pitch_class for r in desk.context.last_told])
    if way:
        said = "up" if match["said"].lower().startswith(("up", "ris", "climb", "asc")) else "down"
        settle(
            desk,
            match,
            "said",
            said == way,
            way if match["said"].lower() in ("up", "down") else "rises" if way == "up" else "falls",
            f"these notes go {way}",
            "note",
        )


def _way(classes: Sequence[int]) -> str:
    """Up or down, where every step of at least two goes the same short way; nothing where they do not."""
    steps = [(b - a) % 12 for a, b in pairwise(classes)]
    if len(steps) < 2 or not all(steps):
        return ""
    return "up" if all(s < 6 for s in steps) else "down" if all(s > 6 for s in steps) else ""


# "The B gives way and becomes C", "the F sharp that moves up to become G".
_ON_ITS_WAY = (
    r"(?:that\s+)?(?:(?:gives? way|changes?|moves?|shifts?|lifts?|drops?|rises?|slides?|steps?|falls?|goes)"
    r"(?:\s+(?:up|down|over|a (?:half )?step))*,?\s+(?:and|to)\s+)?"
)
_BECOMES = re.compile(
    r"\s+(?:(?:at the (?:very )?(?:top|bottom)|on (?:the )?top|in the middle)\s+)?(?:now\s+|then\s+|just\s+)*(?:"
    + _ON_ITS_WAY
    + r"(?:becomes?|turns? into|changes? (?:in)?to)"
    r"|is (?:swapped|replaced|changed|exchanged) (?:for|with|by)"
    r"|(?:has |have |had )?(?:gone|moved|dropped|slid|risen|fallen|stepped|went)\s+(?:up\s+|down\s+)?to"
    r"|(?:(?:that|which)\s+)?(?:goes|moves|comes|drops|steps|slides|falls|rises|climbs)\s+(?:(?:up|down),?\s+)?to)\s+(?:an?\s+|the\s+)?",
    re.IGNORECASE,
)
_THE = re.compile(r"\b(?:the|that|your|only)\s+$|(?:^|[,;:]|\b(?:and|then|so))\s+$", re.IGNORECASE)


def find_becoming(sentence: str, found: Sequence[Found]) -> list[tuple[Found, Found]]:
    """Pairs of notes of which one is said to become the other: "the C becomes C flat"."""
    return [(a, b) for a, b in pairwise(found) if not a.is_chord and not b.is_chord and _is_becoming(sentence[: a.start], sentence[a.end : b.start])]


def _is_becoming(before: str, between: str) -> bool:
    return bool((_BECOMES.fullmatch(between) and _THE.search(before)) or (TO.fullmatch(between) and MOVED_FROM.search(before)))


_SWAPPED = re.compile(r"\bis (?:swapped|replaced|changed|exchanged) ", re.IGNORECASE)


def judge_becoming(desk: Desk, pair: tuple[Found, Found], otherwise: Callable[[], None], second: Callable[[], None]) -> None:
    """Where the finger on a key goes as one grip becomes the next, near where the talk is; of a note that is swapped for another only the ``second`` is
    there."""
    one, two = pair
    between = desk.sentence[one.end : two.start]
    if _SWAPS.search(desk.sentence[: one.start]) and _judge_swap(desk, pair):
        return
    if _SWAPPED.search(between):
        second()
        return
    grips = [g for _, g in desk.scope.grips]
    now = desk.context.now
    standing = [g for g in grips if now is not None and g.start <= now < g.end]
    starts = {g.start for g in desk.context.grips or (desk.grips_here() if desk.context.bars else standing)}
    near = [(a, b) for a, b in pairwise(grips) if a.start in starts or b.start in starts]
    hands = hands_said(desk)
    ways = [(n, b) for a, b in near for hand in hands for n in _goes_to(a, b, hand, one.name.pitch_class)]
    if not ways:
        meant = [(n, b) for a, b in near for hand in hands for n in _comes_from(a, b, hand, one.name.pitch_class, two.name.pitch_class)]
        if meant and (BECOMING.search(between) or (len(meant) == 1 and _MOVES.search(between))):
            right = desk.say(parse_pitch(meant[0][0].pitch)[0])
            desk.claim(one.start, one.end, "note", CONTRADICTS, right, f"it is the {right} that goes there")
            desk.claim(two.start, two.end, "note", AGREES)
            desk.context.grips = (meant[0][1],)
            return
        otherwise()
        return
    desk.claim(one.start, one.end, "note", AGREES)
    there = next((b for n, b in ways if n.midi % 12 == two.name.pitch_class), None)
    if there:
        desk.claim(two.start, two.end, "note", AGREES)
        desk.context.grips = (there,)  # the talk has gone on with the finger
        if desk.context.bars:
            desk.context.bars = (desk.scope.chart.grid.place(there.start)[0],)
    elif _is_next_of_tune(desk, one, two):
        desk.claim(two.start, two.end, "note", AGREES)
    else:
        right = desk.say(parse_pitch(ways[-1][0].pitch)[0])
        desk.claim(two.start, two.end, "note", CONTRADICTS, right, f"it goes to {right} there")


def _is_next_of_tune(desk: Desk, one: Found, two: Found) -> bool:
    """Whether the tune goes from the one note to the other where the talk is, or in the bar after."""
    chart, context = desk.scope.chart, desk.context
    bars = context.bars or ((chart.grid.place(context.now)[0],) if context.now is not None else ())
    if not bars or any(r.is_chord for r in desk.named):
        return False  # "D minor, so the F sharp comes down": of the chord's keys
    start, end = chart.grid.bar_start(min(bars)), chart.grid.bar_start(min(max(bars) + 2, chart.grid.bars + 1))
    return any((a.midi % 12, b.midi % 12) == (one.name.pitch_class, two.name.pitch_class) for a, b in pairwise(chart.notes_between(start, end)))


_SWAPS = re.compile(r"\b(?:swap|exchange|trade|replace)s? (?:out )?(?:an? |the |that )?$", re.IGNORECASE)


def _judge_swap(desk: Desk, pair: tuple[Found, Found]) -> bool:
    """ "You swap the D for an F": both come while the chord lasts; whether the first does, so that something can be said."""
    one, two = pair
    starts = [(g.start, g.end) for g in desk.meant()] if desk.context.grips or desk.context.bars else []
    played = [n for n in desk.scope.notes if n.hand in hands_said(desk) and any(a <= n.start < b for a, b in starts)]
    left = [n.start for n in played if n.midi % 12 == one.name.pitch_class]
    if not left:
        return False
    before = {n.midi % 12 for n in played if n.start <= left[0]}
    new = [n for n in played if n.start > left[0] and n.midi % 12 not in before]
    if not new:
        return False
    desk.claim(one.start, one.end, "note", AGREES)
    if any(n.midi % 12 == two.name.pitch_class for n in new):
        desk.claim(two.start, two.end, "note", AGREES)
    else:
        right = desk.say(parse_pitch(new[0].pitch)[0])
        desk.claim(two.start, two.end, "note", CONTRADICTS, right, f"{right} comes there")
    return True


_MOVES = re.compile(r"\b(?:goes|moves|steps|slides|rises|falls|climbs|drops)\s+(?:up|down)\b", re.IGNORECASE)
BECOMING = re.compile(r"\b(?:becomes?|turns? into|changes? (?:in)?to)\b", re.IGNORECASE)


def _comes_from(a: Grip, b: Grip, hand: str, stays: int, comes: int) -> list[HandNote]:
    """The key that is left for a new one of a pitch class, where the key that is said to be left stays."""
    before, after = hand_notes(a, hand), hand_notes(b, hand)
    kept = {n.midi for n in before} & {n.midi for n in after}
    new = [n for n in after if n.midi not in kept and n.midi % 12 == comes]
    left = [n for n in before if n.midi not in kept]
    return [min(left, key=lambda n: abs(n.midi - new[0].midi))] if new and left and any(k % 12 == stays for k in kept) else []


def _goes_to(a: Grip, b: Grip, hand: str, pitch_class: int) -> list[HandNote]:
    """The new keys of a grip that lie nearest to keys of one pitch class that the grip before leaves."""
    before, after = hand_notes(a, hand), hand_notes(b, hand)
    kept = {n.midi for n in before} & {n.midi for n in after}
    new = [n for n in after if n.midi not in kept]
    left = [n.midi for n in before if n.midi % 12 == pitch_class and n.midi not in kept]
    return [min(new, key=lambda n: abs(n.midi - key)) for key in left if new]


def judge_staying(desk: Desk, row: Found) -> None:
    """ "The E stays put": a key that a hand keeps from the chord before, or into the next."""
    grips, now = [g for _, g in desk.scope.grips], desk.context.now
    here = {g.start for g in desk.context.grips} or {g.start for g in grips if now is not None and g.start <= now < g.end}
    near = [(a, b) for a, b in pairwise(grips) if a.start in here or b.start in here]
    kept = [[n for n in hand_notes(a, hand) if n.midi in {m.midi for m in hand_notes(b, hand)}] for a, b in near for hand in hands_said(desk)]
    found = [n for notes in kept for n in notes]
    if not found or any(len(notes) > 1 for notes in kept) or re.search(r"\b(?:whole|entire|all|bars?|beats?)\b", desk.sentence, re.IGNORECASE):
        return
    fits = any(n.midi % 12 == row.name.pitch_class for n in found)
    right = desk.say(parse_pitch(found[0].pitch)[0])
    desk.claim(row.start, row.end, "note", AGREES if fits else CONTRADICTS, "" if fits else right, "" if fits else f"it is the {right} that stays")


_GOES = r"(?:goes|walks|comes|moves|steps|climbs|runs|descends|ascends)"
TOLD: tuple[Fact, ...] = (
    (fact(rf"\b(?P<said>(?P<n>{WHOLE})\s+notes)\s*[,:]\s*(?:that's\s+|it's\s+|namely\s+)?(?=(?-i:[A-G])\b)"), judge_listed),
    (fact(rf"\b(?P<said>(?P<n>{WHOLE})\s+notes)\s+(?:in total|altogether|all together|in all)\b"), judge_total),
    (
        fact(
            rf"\b(?:it|bass|line|melody|tune|hand)\s+(?:all\s+|just\s+|always\s+)?{_GOES}\s+(?P<said>up|down)\s+"
            r"(?:step by step|stepwise|by steps?|in steps|the scale|one step at a time)\b"
        ),
        judge_way,
    ),
    (fact(r"\b(?:it|bass|line|melody|tune|hand)\s+(?P<said>rises|falls|climbs|descends|ascends)\s+(?:step by step|stepwise|by steps?|in steps)\b"), judge_way),
)
