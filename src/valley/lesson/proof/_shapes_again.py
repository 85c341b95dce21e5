"""Which way a list goes, how far apart two keys of a hand lie, how often a handful is struck and what chord it is, held against the places where the talk so
far puts the names."""

from __future__ import annotations

import re
from collections.abc import Sequence
from dataclasses import replace
from itertools import pairwise, takewhile

from valley.fraction import Fraction
from valley.lesson.proof._aligned import Mention, Standing
from valley.lesson.proof._desk import Desk, overlaps
from valley.lesson.proof._scope import Claim, Scope
from valley.lesson.proof._tracks import Tracks
from valley.lesson.proof._words import read_count, say_whole
from valley.model.arrangement import HANDS
from valley.theory.naming import AGREES, CONTRADICTS

_UP, _DOWN = ("up", "rising", "climb", "climbs", "climbing", "ascending"), ("down", "falling", "descending")
_WAY = rf"(?P<way>{'|'.join((*_UP, *_DOWN))})"
_BEFORE_LIST = re.compile(rf"\b{_WAY}(?: the scale| in steps| step by step| stepwise| through)?[\s,:–-]*$", re.IGNORECASE)
_AFTER_LIST = re.compile(rf"^[\s,]*(?:all |just |always |going |coming |walking |so |that's )*{_WAY}\s*(?=[,.;!]|$)", re.IGNORECASE)
_LEAST_IN_LIST, _LEAST_TOGETHER = 3, 2
_GAPS = {"octaves": (0,), "thirds": (3, 4), "fourths": (5,), "fifths": (6, 7), "sixths": (8, 9)}
_HANDFULS = re.compile(
    rf"(?<!two )(?<!few )(?<!three )(?<!circle of )(?<!\bof )(?<!\bno )(?<!\bnot )\b"
    rf"(?P<said>{'|'.join(_GAPS)})\b(?! (?:apart|higher|lower|up|down|with|of|instead|rather|than|or))",
    re.IGNORECASE,
)
_IS = re.compile(
    r"\s*(?:chord\s*)?(?:is|has|:|,? ?(?:that's|that’s|that is|so it's|so that's|you play|you've got))\s*(?:just |only |simply )?(?:an? |the )?", re.IGNORECASE
)
_TIMES = re.compile(r"\b(?P<said>twice|(?P<n>two|three|four|five|six|eight|[2-8]) times)\b(?! (?:over|as|through|faster|slower|in a row))", re.IGNORECASE)


def look_at_shapes(
    claims: Sequence[Claim], text: str, start: int, mentions: Sequence[Mention], standings: Sequence[Standing], tracks: Tracks, desk: Desk
) -> list[Claim]:
    """The claims of a sentence, and slips in which way a list goes ("three steps down, G, A, B"), how far two keys are apart ("octaves: G, F sharp, E"), how
    often a handful is struck and what chord notes make that are spelled under its name.

    Parameters
    ----------
    claims : as they were read
    text, start : the sentence and where it begins
    mentions, standings : its names and how they stand
    tracks, desk : the song, and in what words it is told
    """
    sure = [(m, s.meant) for m, s in zip(mentions, standings, strict=True) if s.meant is not None and s.doubt < 0]
    claims = _spelled(claims, text, mentions, standings, tracks, desk)
    settled = [(c.start, c.end) for c in claims if c.kind not in ("key", "metre")]
    found = [("note", row) for row in (*_ways(text, sure, tracks), *_handfuls(text, sure, tracks, desk.scope))]
    found += [("count", row) for row in _times(text, sure, tracks, desk.scope)]
    new = [Claim(text[a:b], start + a, start + b, kind, CONTRADICTS, right, message) for kind, (a, b, right, message) in found]
    return [*claims, *(c for c in new if not overlaps((c.start, c.end), settled))]


def _ways(text: str, sure: Sequence[tuple[Mention, int]], tracks: Tracks) -> list[tuple[int, int, str, str]]:
    out = []
    for row in _lists(sure):
        if len(row) < _LEAST_IN_LIST:
            continue
        keys = [tracks.items[at].midi for _, at in row]
        steps = [b - a for a, b in pairwise(keys) if a is not None and b is not None]
        if len(steps) + 1 < len(row) or not (all(s > 0 for s in steps) or all(s < 0 for s in steps)) or len({tracks.line[at] for _, at in row}) > 1:
            continue
        first, last = row[0][0].row.start, row[-1][0].row.end
        before, after = _BEFORE_LIST.search(text[:first]), _AFTER_LIST.search(text[last:])
        match, offset = (before, 0) if before else (after, last)
        if match and (match["way"].lower() in _UP) != (steps[0] > 0):
            right = "up" if steps[0] > 0 else "down"
            out.append((offset + match.start("way"), offset + match.end("way"), right, f"it goes {right}"))
    return out


def _lists(sure: Sequence[tuple[Mention, int]]) -> list[list[tuple[Mention, int]]]:
    """Names that follow each other in lists."""
    rows: list[list[tuple[Mention, int]]] = []
    for mention, at in sure:
        if rows and mention.joined:
            rows[-1].append((mention, at))
        else:
            rows.append([(mention, at)])
    return rows


def _handfuls(text: str, sure: Sequence[tuple[Mention, int]], tracks: Tracks, scope: Scope) -> list[tuple[int, int, str, str]]:
    match = _HANDFULS.search(text)
    hands = {next((h for h in HANDS if tracks.hands[h][at]), None) for _, at in sure}
    starts = {tracks.items[at].start for _, at in sure}
    if not match or len(hands) != 1 or len(starts) < (2 if sure[0][0].hand else _LEAST_IN_LIST):
        return []
    keys = [[n.midi for n in scope.notes if n.start == at and n.hand in hands] for at in starts]
    gaps = {(max(row) - min(row)) % 12 for row in keys if len(row) == 2}
    right = [name for name, sizes in _GAPS.items() if gaps and gaps <= set(sizes)]
    if any(len(row) != 2 for row in keys) or not right or right[0] == match["said"].lower():
        return []
    return [(*match.span("said"), right[0], f"they are {right[0]} there")]


def _times(text: str, sure: Sequence[tuple[Mention, int]], tracks: Tracks, scope: Scope) -> list[tuple[int, int, str, str]]:
    """ "F sharp, A and D, struck four times": as often as the handful comes in a row, or in a row within its bar."""
    match = _TIMES.search(text)
    row = [at for mention, at in sure if match and mention.row.end <= match.start()]
    starts = {tracks.items[at].start for at in row}
    hand = next((h for h in HANDS if row and tracks.hands[h][row[-1]]), None)
    if not match or hand is None or len(row) < _LEAST_TOGETHER or len(starts) != 1:
        return []
    strokes: dict[Fraction, set[int]] = {}
    for note in scope.notes:
        if note.hand == hand and not note.grace:
            strokes.setdefault(note.start, set()).add(note.midi)
    first = starts.pop() or Fraction(0)
    here = strokes.get(first, set())
    if {tracks.items[at].midi for at in row} != here:
        return []
    order, place = sorted(strokes), scope.chart.grid.place
    at = order.index(first)
    back = [*takewhile(lambda start: strokes[start] == here, order[at::-1])]  # any of them may be the one that was told
    run = [*back[::-1], *takewhile(lambda start: strokes[start] == here, order[at + 1 :])]
    counts = [sum(place(start)[0] == place(first)[0] for start in run), len(run)]
    said = 2 if match["n"] is None else read_count(match["n"])
    if said in counts or counts[1] < 2:
        return []
    right = next(n for n in counts if n > 1)
    return [(*match.span("said"), "twice" if right == 2 else f"{say_whole(right)} times", f"it comes {say_whole(right)} times there")]


def _spelled(claims: Sequence[Claim], text: str, mentions: Sequence[Mention], standings: Sequence[Standing], tracks: Tracks, desk: Desk) -> Sequence[Claim]:
    """ "E minor is F sharp, B and D": the notes are there, and another chord."""
    out = list(claims)
    for i, mention in enumerate(mentions[:-1]):
        about = [k for k, c in enumerate(out) if c.kind == "chord" and c.verdict == AGREES and overlaps((c.start, c.end), [(mention.start, mention.end)])]
        row = [i + 1, *takewhile(lambda k: mentions[k].joined, range(i + 2, len(mentions)))]
        if not about or len(row) < _LEAST_IN_LIST or not _IS.fullmatch(text[mention.row.end : mentions[i + 1].row.start]):
            continue
        places = [standings[k].meant for k in row if standings[k].doubt < 0]
        start = tracks.items[places[0]].start if places and places[0] is not None else None
        if len(places) < len(row) or start is None:
            continue
        told = {mentions[k].row.name.pitch_class for k in row}
        named = [g.chord for _, g in desk.scope.grips if g.chord.root.pitch_class == mention.row.name.pitch_class]
        here = next((g.chord for _, g in desk.scope.grips if g.start <= start < g.end), None)
        if here and told <= here.pitch_classes() and not any(told <= chord.pitch_classes() for chord in named):
            right = desk.say_chord(here)
            out = [replace(c, verdict=CONTRADICTS, expected=right, message=f"those are the notes of {right}") if k in about else c for k, c in enumerate(out)]
    return out
