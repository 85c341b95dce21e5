"""Notes in a bar, how often something comes, and the steps of the chord that a hand goes through."""

from __future__ import annotations

import re
from collections import Counter
from collections.abc import Iterable, Sequence
from itertools import groupby, pairwise

from valley.fraction import Fraction
from valley.lesson.proof._desk import Desk
from valley.lesson.proof._facts import Fact, fact, settle
from valley.lesson.proof._playing import bars_here, bars_now, hands_said, strokes_of
from valley.lesson.proof._words import WHOLE, read_whole, say_whole
from valley.model.arrangement import HANDS
from valley.theory.naming import AGREES, CONTRADICTS
from valley.theory.pitch import parse_name

_TIMES = rf"(?:{WHOLE}\s+times|once|twice|thrice)"


def judge_notes_of_a_bar(desk: Desk, match: re.Match[str]) -> None:
    """ "Eight notes per bar": strokes or keys of a hand in a bar."""
    said = read_whole(match["n"])
    counts: Counter[int] = Counter()
    fits: set[int] = set()
    for bar in bars_here(desk):
        for hand in hands_said(desk):
            strokes = strokes_of(desk, bar, hand)
            counts[len(strokes)] += 1
            fits |= {len(strokes), len({k for _, keys in strokes for k in keys}), sum(len(keys) for _, keys in strokes)}
    if counts:
        right = counts.most_common(1)[0][0]
        settle(desk, match, "said", said in fits, f"{say_whole(right)} notes", f"{right} are struck there")


# Lengths of notes in quarters, as they are called on either side of the ocean.
_VALUES = ({"minim": 2, "crotchet": 1, "quaver": 0.5, "semiquaver": 0.25}, {"half note": 2, "quarter note": 1, "eighth note": 0.5, "sixteenth note": 0.25})
_VALUE = r"(?:semiquaver|quaver|crotchet|minim|(?:half|quarter|eighth|sixteenth)(?: note)?)s"


def judge_values(desk: Desk, match: re.Match[str]) -> None:
    """ "The left hand plays quavers": how far apart a hand strikes, mostly."""
    word = match["said"].lower().removesuffix("s")
    values = next((row for row in _VALUES if word in row), _VALUES[1])
    apart: Counter[float] = Counter()
    for bar in bars_here(desk):
        end = desk.scope.chart.grid.bar_start(bar + 1)
        for hand in hands_said(desk):
            starts = [start for start, _ in strokes_of(desk, bar, hand)]
            apart.update(float(b - a) for a, b in pairwise([*starts, end]))
    usual = [gap for gap, n in apart.items() if 2 * n >= apart.total()]
    right = next((name for name, value in values.items() if value in usual), None)
    if right:
        said = values.get(word, values.get(f"{word} note"))
        settle(desk, match, "said", said in usual, f"{right}s", f"most of them are {right}s")


def judge_alternate(desk: Desk, match: re.Match[str]) -> None:
    """ "Every second note is the D": a key between all others of the list that was told before, else of a hand in the bar where the talk is or the next."""
    said = parse_name(match["said"].replace(" flat", "b").replace(" sharp", "#"))
    rows = [[r.name.pitch_class for r in desk.context.last_told]]  # of the list that was told before it
    rows += [[min(keys) % 12 for _, keys in strokes_of(desk, bar, hand)] for bar in bars_now(desk) for hand in hands_said(desk)]
    halves = [[half for half in (row[::2], row[1::2]) if len(half) > 2 and len(set(half)) == 1] for row in rows]
    between = [half[0] for half in next((found for found in halves if found), [])]
    if between:
        right = desk.say(desk.scope.chart.key_at(desk.context.now or Fraction(0)).spell(between[0]))
        settle(desk, match, "said", said.pitch_class in between, right, f"it is {right}", "note")


def judge_times(desk: Desk, match: re.Match[str]) -> None:
    """ "Four times": how often a hand strikes the same keys in a row, or how often a figure comes in a bar."""
    word = match["times"].lower()
    said = {"once": 1, "twice": 2, "thrice": 3}.get(word) or read_whole(word.removesuffix(" times"))
    fits: Counter[int] = Counter()
    bars = bars_here(desk)
    if desk.context.grips and not desk.context.bars:  # "First chord is D. You play that four times."
        bars = sorted({desk.scope.chart.grid.place(g.start)[0] for g in desk.context.grips})
    of_chords = re.search(r"\bchords?\b", desk.sentence, re.IGNORECASE) is not None
    rows = [[keys for _, keys in strokes_of(desk, bar, hand)] for bar in bars for hand in hands_said(desk)]
    full = _with_handfuls(rows) if of_chords else []  # "each of these chords four times"
    if of_chords and not full and not re.search(r"\b(?:left|right)\b", desk.sentence, re.IGNORECASE):  # the hand that was told before has none
        full = _with_handfuls([keys for _, keys in strokes_of(desk, bar, hand)] for bar in bars for hand in HANDS)
    for strokes in full or rows:
        if strokes:
            counts = _repeats(strokes)
            row = next((r for r in reversed(desk.named) if r.end <= match.start("times") and not r.is_chord), None)
            if row is not None:  # "the D is struck four times"
                counts |= {sum(any(k % 12 == row.name.pitch_class for k in keys) for keys in strokes)}
            fits.update(counts)
    several = {n: c for n, c in fits.items() if n > 1}
    if not several:
        return
    right = max(several, key=lambda n: (several[n], n))
    settle(desk, match, "times", said in fits and (said > 1 or not several), f"{say_whole(right)} times", f"it comes {say_whole(right)} times there")


def _with_handfuls(rows: Iterable[list[frozenset[int]]]) -> list[list[frozenset[int]]]:
    return [strokes for strokes in rows if any(len(keys) > 1 for keys in strokes)]


def _repeats(strokes: Sequence[frozenset[int]]) -> set[int]:
    """Counts that can be said of a bar: runs of the same stroke, and in how many equal pieces it falls."""
    runs = {len(list(group)) for _, group in groupby(strokes)}
    size = len(strokes)
    most = max((k for k in range(1, size + 1) if size % k == 0 and all(strokes[i] == strokes[i % (size // k)] for i in range(size))), default=1)
    pieces = {most} if most == size else {k for k in range(2, most + 1) if most % k == 0}
    return {n for n in runs if n > 1} | pieces | {most}


_DEGREES = {"root": 0, "octave": 0, "second": 2, "ninth": 2, "third": 4, "tenth": 4, "fourth": 5, "fifth": 7, "sixth": 9, "seventh": 11}
_DEGREE = r"(?:low |the |high |upper )*(?:" + "|".join(_DEGREES) + r")\b(?! (?:finger|chord|bar|part|note))"
_STEPS = {
    0: "root",
    1: "second",
    2: "second",
    3: "third",
    4: "third",
    5: "fourth",
    6: "fifth",
    7: "fifth",
    8: "sixth",
    9: "sixth",
    10: "seventh",
    11: "seventh",
}


def judge_degrees(desk: Desk, match: re.Match[str]) -> None:
    """ "Root, fifth, octave, fifth": the steps of the chord that a hand plays, one after the other."""
    words = [
        (m[0].lower(), match.start("list") + m.start(), match.start("list") + m.end()) for m in re.finditer("|".join(_DEGREES), match["list"], re.IGNORECASE)
    ]
    best: list[tuple[int, str]] | None = None
    for bar in bars_here(desk):
        for hand in hands_said(desk):
            wrong = _degree_slips(desk, bar, hand, [w for w, _, _ in words])
            if wrong is not None and (best is None or len(wrong) < len(best)):
                best = wrong
    if best is None:
        return
    slips = dict(best)
    for i, (_, start, end) in enumerate(words):
        if i in slips:
            desk.claim(start, end, "note", CONTRADICTS, slips[i], f"the {slips[i]} comes there")
        else:
            desk.claim(start, end, "note", AGREES)


def _degree_slips(desk: Desk, bar: int, hand: str, words: Sequence[str]) -> list[tuple[int, str]] | None:
    strokes = strokes_of(desk, bar, hand)
    chords = [c.chord for c in desk.scope.chart.sounding_in(bar) if c.chord]
    if not chords or len(strokes) < len(words):
        return None
    keys = [min(k) for _, k in strokes]
    root = chords[0].root.pitch_class
    low = next((k for k in keys if k % 12 == root), keys[0])
    wrong = []
    for i, word in enumerate(words):
        step = _STEPS[(keys[i] - root) % 12]
        named = "octave" if step == "root" and keys[i] > low else step
        plain = {"ninth": "second", "tenth": "third"}.get(word, word)
        if plain != named:
            wrong.append((i, named))
    return wrong


_ENTERS = r"(?:(?:come|comes|coming|kick|kicks) (?:back )?in|(?:enter|start|begin)s?) on"
_AT = r"(?:the )?(?:(?P<and>and of )|beat |count )?(?P<n>one|two|three|four|five|six|[1-6])(?P<plus> and)?\b"


def judge_entry(desk: Desk, match: re.Match[str]) -> None:
    """ "You come in on two with G, G": the count of the first stroke of the hand or tune in a bar, of those that begin with the note that is named then."""
    grid = desk.scope.chart.grid
    after = next((r for r in desk.named if r.start >= match.end() and not r.is_chord), None)
    firsts = [n for n in (_first(desk, bar) for bar in bars_here(desk)) if n is not None and after and n[1] % 12 == after.name.pitch_class]
    now = desk.context.now or 0
    counts = [grid.count(start) for start, _ in sorted(firsts, key=lambda n: (n[0] < now, n[0]))]
    said = str(read_whole(match["n"])) + (" &" if match["and"] or match["plus"] else "")
    if counts:
        right = counts[0]
        settle(desk, match, "said", said in counts, right.replace(" &", " and"), f"it begins on {right}")


def _first(desk: Desk, bar: int) -> tuple[Fraction, int] | None:
    """When the tune, or the hand that is meant, strikes first in a bar, and its key."""
    place = desk.scope.chart.grid.place
    if desk.context.of_tune and desk.context.hand is None:
        return min(((n.start, n.midi) for n in desk.scope.chart.melody if place(n.start)[0] == bar), default=None)
    strokes = [s for hand in hands_said(desk) for s in strokes_of(desk, bar, hand)]
    start, keys = min(strokes, default=(None, frozenset[int]()), key=lambda s: s[0])
    return None if start is None else (start, min(keys))


STROKES: tuple[Fact, ...] = (
    (fact(rf"\b{_ENTERS} (?P<said>{_AT})(?=,? (?:with|on) (?:an? |the )?(?-i:[A-G])\b)"), judge_entry),
    (
        fact(rf"(?P<said>(?P<n>{WHOLE})\s+(?:half |quarter |eighth |sixteenth )?notes)\s+(?:to|in|per|for)\s+(?:a|the|every|each)?\s*(?:bar|measure)\b"),
        judge_notes_of_a_bar,
    ),
    (
        fact(rf"\b(?:hand|left|right)(?: hand)?\s+(?:has|plays|gets)\s+(?P<said>(?P<n>{WHOLE})\s+notes)(?=\s+(?:in|every|each|per)\b|\s*[.!;,]?$)"),
        judge_notes_of_a_bar,
    ),
    (
        fact(rf"\b{_VALUE}, (?:so |that's |just |all )?(?P<said>(?P<n>{WHOLE}))\s+(?:to|in|of them in)\s+(?:the|a|each|every)\s+(?:bar|measure)\b"),
        judge_notes_of_a_bar,
    ),
    (
        fact(rf"\bhand (?:just |only |now |simply )?(?:plays|has|goes in|moves in|keeps|is in) (?:straight |steady |even |plain )?(?P<said>{_VALUE})\b"),
        judge_values,
    ),
    (
        fact(rf"\b(?P<said>(?P<n>{WHOLE})\s+of\s+(?:them|those|these))\s+(?:in|to|per)\s+(?:a|the|every|each)\s+(?:bar|measure)\b"),
        judge_notes_of_a_bar,
    ),
    (
        fact(
            rf"\b(?:chords?(?: is| are)?|figure|pattern|it|bar|every bar)\b[^.;]{{0,16}}?\b(?:(?:is |are )?(?:played|struck|repeated) )?"
            rf"(?P<times>{_TIMES})\b(?! (?:as|before|more|slower|faster))"
        ),
        judge_times,
    ),
    (fact(r"\b(?:every|each) (?:second|other) (?:note|one|key) is (?:an? |the |that )?(?P<said>(?-i:[A-G])(?: flat| sharp)?)(?!\w)"), judge_alternate),
    (fact(rf"\band that (?P<times>{_TIMES})\b"), judge_times),
    (
        fact(
            rf"\b(?:plays?|playing|hits?|strikes?|press(?:es)?) (?:just )?(?:each|every)(?: single)?(?: one| chord| of (?:them|those|these))? (?:just |only )?"
            rf"(?P<times>{_TIMES})\b"
        ),
        judge_times,
    ),
    (fact(rf"(?<=(?-i:[A-G]) )(?P<times>{_TIMES})(?=\s*[.;,!]|$)"), judge_times),
    (fact(rf"\b(?:play|do|repeat) (?:that|this|it) (?P<times>{_TIMES})\b(?! (?:as|before|more|slower|faster))"), judge_times),
    (fact(rf"(?P<times>{_TIMES})\s+(?:per|in every|in each|in an?|to an?|to the|a|each|every)\s+bar\b"), judge_times),
    (fact(rf"\b(?P<list>{_DEGREE}(?:[\s,–-]+(?:and |then |again |the )*{_DEGREE}){{2,}})"), judge_degrees),
)
