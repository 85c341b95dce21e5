"""What changes from one grip to the next: keys that move or stay, the bass alone, a hand that does not move."""

from __future__ import annotations

import re

from valley.lesson.proof._desk import Desk, hand_notes
from valley.lesson.proof._facts import Fact, fact, settle
from valley.lesson.proof._playing import bars_here, hand_said, strokes_of
from valley.lesson.proof._scope import Found
from valley.lesson.proof._words import BAR_NUMBER, ORDINALS, WHOLE, read_whole, say_whole
from valley.model.arrangement import HANDS, LEFT, RIGHT, Grip
from valley.theory.pitch import parse_name, parse_pitch


def _pair(desk: Desk, match: re.Match[str]) -> tuple[Grip, Grip] | None:
    """The two grips that a change is said of: "from bar 5 to bar 6", "from the first to the second chord", else the one in hand and the next."""
    grips = [g for _, g in desk.scope.grips]
    sentence = desk.sentence
    bars = re.search(rf"\bfrom bar ({BAR_NUMBER}) (?:in)?to (?:bar )?({BAR_NUMBER})\b", sentence, re.IGNORECASE)
    if bars:
        ends = [[g for g in grips if desk.scope.chart.grid.place(g.start)[0] == read_whole(b)] for b in bars.groups()]
        return (ends[0][-1], ends[1][0]) if all(ends) else None
    span = desk.context.bars
    if len(span) == 2 and span[1] == span[0] + 1 and not re.search(r"\bfrom\b", sentence, re.IGNORECASE):  # "in bars thirteen and fourteen"
        ends = [[g for g in grips if desk.scope.chart.grid.place(g.start)[0] == bar] for bar in span]
        return (ends[0][-1], ends[1][0]) if all(ends) else None
    nth = re.search(rf"\bfrom the ({'|'.join(ORDINALS)})\b.*?\bto the ({'|'.join(ORDINALS)}|next|last)\b", sentence, re.IGNORECASE)
    if nth:
        here = [g for number, g in desk.scope.grips if desk.context.part in (None, number)]
        at = ORDINALS.index(nth[1].lower())
        return (here[at], here[at + 1]) if at + 1 < len(here) else None
    named = [r for r in desk.named if r.start < match.start() and r.octave is None]
    before = sentence[: match.start()]
    if len(named) >= 2 and re.search(r"\bfrom\b", before, re.IGNORECASE):
        one, two = named[-2:]
        for a, b in zip(grips, grips[1:], strict=False):
            if (
                a.chord.root.pitch_class == one.name.pitch_class
                and b.chord.root.pitch_class == two.name.pitch_class
                and _bass_fits(one, a)
                and _bass_fits(two, b)
            ):
                return a, b
        return None
    return None


def _bass_fits(row: Found, grip: Grip) -> bool:
    return (row.bass is None and not grip.chord.bass_interval) or (row.bass is not None and row.bass.pitch_class == grip.chord.bass.pitch_class)


def judge_changes(desk: Desk, match: re.Match[str]) -> None:
    """ "Only one key changes", "two notes stay": counted between two grips, in the hand that is named, else in the right one or both."""
    pair = _pair(desk, match)
    if pair is None:
        return
    said = read_whole(match["n"])
    stays = match["verb"].lower().startswith(("stay", "remain"))
    counts = []
    for hand in (hand_said(desk),) if hand_said(desk) else (RIGHT, LEFT, None):
        one, two = ({n.midi for n in hand_notes(g, hand)} for g in pair)
        counts.append(len(one & two) if stays else max(len(one - two), len(two - one)))
    right = counts[0]
    what = "stay" if stays else "change"
    settle(desk, match, "said", said in counts, f"{say_whole(right)} {match['noun'].lower().rstrip('s')}{'' if right == 1 else 's'}", f"{right} {what} there")


_SIZES = {
    "half step": (1,), "semitone": (1,), "whole step": (2,), "whole tone": (2,), "minor third": (3,), "major third": (4,), "third": (3, 4),
    "fourth": (5,), "fifth": (7,), "minor sixth": (8,), "major sixth": (9,), "sixth": (8, 9), "octave": (12,),
}  # fmt: skip


def judge_bass_goes(desk: Desk, match: re.Match[str]) -> None:
    """ "From the first to the second chord your left hand moves down a half step": by how far, and which way, the lowest key goes."""
    pair = _pair(desk, match)
    basses = [min((n.midi for n in hand_notes(g, LEFT)), default=None) for g in pair or ()]
    if len(basses) != 2 or basses[0] is None or basses[1] is None:
        return
    way = basses[1] - basses[0]
    said = match["size"].lower()
    fits = abs(way) in _SIZES[said] and (way > 0) == (match["way"].lower() == "up")
    name = next((n for n, sizes in _SIZES.items() if abs(way) in sizes), f"{abs(way)} half steps")
    settle(
        desk, match, "said", fits, f"{'up' if way > 0 else 'down'} a {name}" if way else "it stays", f"the bass goes from {basses[0]} to {basses[1]}", "note"
    )


def judge_only_bass(desk: Desk, match: re.Match[str]) -> None:
    pair = _pair(desk, match)
    if pair is None:
        return
    moved = [h for h in HANDS if {n.midi for n in hand_notes(pair[0], h)} != {n.midi for n in hand_notes(pair[1], h)}]
    settle(desk, match, 0, moved == [LEFT], "the right hand changes too" if RIGHT in moved else "nothing changes", "the right hand does not stay", "note")


def judge_which_changes(desk: Desk, match: re.Match[str]) -> None:
    """ "It's only the middle note that changes": of a hand's keys as the chord at hand becomes, from the one before."""
    grips = [g for _, g in desk.scope.grips]
    at = next((i for i, g in enumerate(grips) if desk.context.grips and g.start == desk.context.grips[0].start), 0)
    if not at:
        return
    for hand in (hand_said(desk),) if hand_said(desk) else (RIGHT, LEFT):
        one, two = ([n.midi for n in hand_notes(g, hand)] for g in (grips[at - 1], grips[at]))
        moved = [i for i, (a, b) in enumerate(zip(one, two, strict=False)) if a != b]
        if len(one) == len(two) > 1 and len(moved) == 1:
            right = "bottom" if moved[0] == 0 else "top" if moved[0] == len(one) - 1 else "middle"
            said = {"lowest": "bottom", "highest": "top"}.get(match["said"].lower(), match["said"].lower())
            settle(desk, match, "said", said == right, right, f"it is the {right} key of the {hand} hand that changes", "note")
            return


def judge_block(desk: Desk, match: re.Match[str]) -> None:
    """ "Everything in the right hand moves up a step": every key of the hand goes so many letters, from one grip to the next."""
    pair = _pair(desk, match)
    if pair is None:
        return
    hand = hand_said(desk) or RIGHT
    one, two = (hand_notes(g, hand) for g in pair)
    steps = {_letters(b.pitch) - _letters(a.pitch) for a, b in zip(one, two, strict=False)}
    if len(one) != len(two) or len(steps) != 1 or not one:
        return
    (way,) = steps
    said = _LETTERS[match["said"].lower()] * (1 if match["way"].lower() == "up" else -1)
    right = next((name for name, size in _LETTERS.items() if size == abs(way)), "step")
    settle(desk, match, "said", said == way, right, f"it goes {'up' if way > 0 else 'down'} a {right}", "note")


_LETTERS = {"step": 1, "second": 1, "third": 2, "fourth": 3, "fifth": 4, "sixth": 5, "octave": 7}


def _letters(pitch: str) -> int:
    """A pitch in letters of the scale from C."""
    name, midi = parse_pitch(pitch)
    return "CDEFGAB".index(name.letter) + 7 * ((midi - name.alter) // 12)


def judge_hand_changes(desk: Desk, match: re.Match[str]) -> None:
    pair = _pair(desk, match)
    if pair is None:
        return
    hand = match[1].lower()
    one, two = ({n.midi for n in hand_notes(g, hand)} for g in pair)
    settle(desk, match, 2, one != two, f"the {hand} hand stays", f"the {hand} hand keeps its keys there", "note")


def judge_stillness(desk: Desk, match: re.Match[str]) -> None:
    """ "The right hand doesn't move" in the bars that are named."""
    bars = desk.context.bars
    if len(bars) < 2:
        return
    first = None
    for bar in bars:
        keys = {k for _, struck in strokes_of(desk, bar, match["hand"].lower()) for k in struck}
        first = first or keys
        if keys and keys != first:
            settle(desk, match, "claim", False, f"it moves in bar {bar}", f"the {match['hand'].lower()} hand plays other keys in bar {bar}", "note")
            return
    settle(desk, match, "claim", True, "", "", "note")


def judge_throughout(desk: Desk, match: re.Match[str]) -> None:
    """ "The left hand sits on A the whole time": its lowest key in most strokes of the part."""
    said = parse_name(match["name"].upper() + {"flat": "b", "sharp": "#"}.get((match["sign"] or "").lower(), ""))
    hand = LEFT if match["who"].lower() == "bass" else match["who"].lower()
    lows = [min(keys) % 12 for bar in bars_here(desk) for _, keys in strokes_of(desk, bar, hand)]
    if not lows:
        return
    usual = max(set(lows), key=lows.count)
    right = said.pitch_class == usual and lows.count(usual) * 2 > len(lows)
    name = next(parse_pitch(n.pitch)[0] for n in desk.scope.notes if n.midi % 12 == usual)
    settle(desk, match, "at", right, desk.say(name), f"it is {desk.say(name)} most of the time", "note")


CHANGES: tuple[Fact, ...] = (
    (
        fact(
            rf"\b(?:only|just)?\s*(?P<said>(?P<n>{WHOLE})\s+(?P<noun>keys?|notes?|fingers?))\s+(?:(?:has|have) to )?(?P<verb>changes?"
            rf"|moves?|stays?|remains?|differs?)\b"
        ),
        judge_changes,
    ),
    (
        fact(
            r"\b(?:left(?: hand)?|bass(?: note)?)\b[^.;,]{0,20}?\b(?:moves|goes|steps|walks|drops|climbs|comes|slides)\s+"
            r"(?P<said>(?P<way>up|down)\s+(?:just\s+|only\s+|by\s+)?"
            rf"an?\s+(?P<size>{'|'.join(sorted(_SIZES, key=len, reverse=True))}))\b"
        ),
        judge_bass_goes,
    ),
    (fact(r"\bonly (?:the|your) (?P<said>top|middle|bottom|lowest|highest) (?:note|key|finger|one) (?:that )?(?:changes|moves|shifts)\b"), judge_which_changes),
    (
        fact(
            r"\b(?:everything|(?:the|your) whole (?:hand|shape|chord)|all (?:the |three |your )?(?:notes|keys|fingers))\b"
            r"[^.;,]{0,24}?\b(?:moves?|goes|shifts?|slides?)\s+"
            rf"(?P<way>up|down)\s+an?\s+(?P<said>{'|'.join(_LETTERS)})\b"
        ),
        judge_block,
    ),
    (fact(r"\bonly the bass (?:note )?(?:changes|moves)\b"), judge_only_bass),
    (
        fact(
            r"\b(?P<who>left|right|bass)(?: hand)?\s+(?:just |only |always )*(?:sits|stays|is|remains)\s+on\s+(?:an? |the )?"
            r"(?P<at>(?P<name>(?-i:[A-G]))(?:[ -](?P<sign>flat|sharp))?)"
            r"\s+(?:the (?:whole|entire) (?:time|way)|throughout|all the way|all along)\b"
        ),
        judge_throughout,
    ),
    (fact(r"\bthe (left|right) hand (changes|moves)\b(?! (?:to|up|down|from|back|on))"), judge_hand_changes),
    (
        fact(r"\b(?P<hand>left|right)(?: hand)?\s+(?P<claim>(?:doesn't|doesn’t|does not|never) (?:move|change)s?|stays (?:put|where it is|the same))\b"),
        judge_stillness,
    ),
)
