"""Facts of the whole song that are said in passing: signature, metre, tempo, parts and their lengths, how many chords, what returns unchanged."""

from __future__ import annotations

import re
from collections.abc import Callable, Sequence
from itertools import groupby
from statistics import median

from valley.lesson.proof._desk import Desk
from valley.lesson.proof._scope import Found
from valley.lesson.proof._words import BAR_NUMBER, ORDINALS, WHOLE, goes_on, read_number, read_whole, say_length, say_whole
from valley.model.arrangement import HANDS
from valley.theory.feel import STRAIGHT
from valley.theory.key import Key
from valley.theory.naming import AGREES, CONTRADICTS
from valley.theory.pitch import parse_name, parse_pitch

Fact = tuple[re.Pattern[str], Callable[[Desk, re.Match[str]], None]]
_NEAR_TEMPO = 0.06  # "about a hundred" is said of 96


def fact(words: str) -> re.Pattern[str]:
    """How a fact is said."""
    return re.compile(words, re.IGNORECASE)


def settle(desk: Desk, match: re.Match[str], group: int | str, right: bool, expected: str, message: str, kind: str = "count") -> None:
    """Claim the words of a group: right, or wrong with the right words."""
    start, end = match.span(group)
    if right:
        desk.claim(start, end, kind, AGREES)
    else:
        desk.claim(start, end, kind, CONTRADICTS, expected, message)


def judge_signature(desk: Desk, match: re.Match[str]) -> None:
    """ "Two sharps": of the key that the sentence names, else of the song's where the words are."""
    key = _key_of_signs(desk, match.start())
    said = 0 if match[1].lower() == "no" else read_whole(match[1])
    sharps = match[2].lower().startswith("sharp")
    right = said == max(0, key.signature if sharps else -key.signature)
    count = abs(key.signature)
    sign = "sharp" if key.signature > 0 else "flat"
    words = f"{say_whole(count)} {sign}{'' if count == 1 else 's'}" if count else "no sharp or flat"
    settle(desk, match, 0, right, words, f"{desk.say_key(key)} has {words}", "key")


def _key_of_signs(desk: Desk, at: int) -> Key:
    """The key that "has" the signs before which a sentence names it, else the song's where the words are."""
    named = re.search(r"\b([A-G])(?:[ -]?(flat|sharp)| ?([b#♭♯]))? (major|minor)\b", desk.sentence[:at])
    if named is None or not re.search(r"\b(?:only |just )?has\b", desk.sentence[named.end() : at]):
        return _key_here(desk)
    sign = {"flat": "b", "sharp": "#", "b": "b", "#": "#", "♭": "b", "♯": "#"}.get(named[2] or named[3] or "", "")
    return Key(parse_name(named[1] + sign), named[4])


_SIGNS_BEFORE = fact(rf"\b(?:(?:{WHOLE}|only)\s+(?:sharp|flat)s?|(?:the|your|those)\s+(?:sharps|flats))\b[^.;]{{0,24}}?$")
# "Mind your F sharps and your C sharps": the signs are told as many.
_MIND = fact(r"\b(?:mind|watch|remember|careful with|look out for|don't forget)\s+(?:out for\s+)?(?:the|your|those|all the)\s+$")
_MANY = re.compile(r"[a-z♯♭#]s\b")


def _first_of_key(sentence: str, found: Sequence[Found]) -> int | None:
    """Where a list of nothing but sharps or flats begins behind a key: "it's A major, so you've got F sharp, C sharp and G sharp"."""
    for i, row in enumerate(found[1:], 1):
        behind_key = re.search(r"\b(?:major|minor)\b[^.;]{0,30}?\b(?:got|have|need|get|play|with|has)\s+$", sentence[: row.start]) is not None
        rest = [r for r in found[i:] if not r.is_chord]
        if behind_key and len(rest) > 1 and all(r.name.alter == rest[0].name.alter != 0 for r in rest):
            return i
    return None


# "B flat and E flat as your black keys": the signs stand before.
_SIGNS_AFTER = fact(
    r",?\s+(?:throughout|all the way through|the whole (?:time|way))\b"
    r"|,?\s+(?:as|are|for)\s+(?:your|the|our|all)\s+(?:only\s+|the\s+)?(?:black (?:keys?|notes?)|flats?|sharps?)\b"
)


def find_signs(sentence: str, found: Sequence[Found]) -> Sequence[Found]:
    """The names that follow "two sharps, …": signs of a key, all of them, as far as the list goes."""
    first = next((i for i, r in enumerate(found) if not r.is_chord and r.octave is None and _tells_signs(sentence, r)), None)
    if first is None:
        first = _first_of_key(sentence, found)
    if first is None:
        last = next((i for i, r in enumerate(found) if not r.is_chord and _SIGNS_AFTER.match(sentence, r.end)), None)
        first = last
        while first and not found[first - 1].is_chord and goes_on(sentence[found[first - 1].end : found[first].start]):
            first -= 1
        return found[first : last + 1] if first is not None and last is not None else []
    signs = [found[first]]
    for row in found[first + 1 :]:
        if row.is_chord or not goes_on(sentence[signs[-1].end : row.start]):
            break
        signs.append(row)
    return signs


def _tells_signs(sentence: str, row: Found) -> bool:
    before = sentence[: row.start]
    return _SIGNS_BEFORE.search(before) is not None or (_MIND.search(before) is not None and _MANY.search(sentence[row.start : row.end + 1]) is not None)


def judge_every_sign(desk: Desk, match: re.Match[str]) -> None:
    """ "Every F and every C is a sharp": each letter against the signs of the key; of one bar or chord it says nothing."""
    if re.search(r"\b(?:bars?|here|there|chord)\b", desk.sentence, re.IGNORECASE):
        return
    key = _key_here(desk)
    signs = {n.letter: n for n in key.scale() if n.alter}
    said = list(re.finditer(r"\b(?-i:[A-G])(?=s?\b)", match[0]))
    sharp = match["sign"].lower().startswith("sharp")
    played = {(name.letter, name.alter > 0) for n in desk.scope.notes if (name := parse_pitch(n.pitch)[0]).alter}
    for letter in said:
        at = match.start() + letter.start()
        sign = signs.get(letter[0])
        if sign is not None and (sign.alter > 0) == sharp:
            desk.claim(at, at + 1, "key", AGREES)
        elif (letter[0], sharp) not in played:  # a raised step of a minor key is told so, too
            others = [n for n in signs.values() if n.letter not in {m[0] for m in said}]
            right = desk.say(others[0]) if others else ""
            desk.claim(at, at + 1, "key", CONTRADICTS, right, f"{desk.say_key(key)} has {', '.join(desk.say(n) for n in signs.values()) or 'no sharp or flat'}")


def judge_signs(desk: Desk, rows: Sequence[Found]) -> None:
    """ "Three flats, B, E and A", "one flat, that's B flat": each against the signs of the key; a bare letter is said with the sign before."""
    key = _key_of_signs(desk, rows[0].start)
    signs = [n for n in key.scale() if n.alter]
    said = {r.name.letter for r in rows}
    played = {parse_pitch(n.pitch)[0] for n in desk.scope.notes}
    for row in rows:
        if row.name.alter and row.name in played and row.name not in signs and "black" in desk.sentence:
            continue  # a black key that is no sign of the key
        sign = next((n for n in signs if n == row.name or (n.letter == row.name.letter and not row.name.alter)), None)
        left = next((n for n in signs if n.letter not in said), signs[0] if signs else None)
        right = "" if sign or left is None else desk.say(left)
        what = f"{desk.say_key(key)} has {', '.join(desk.say(n) for n in signs) or 'no sign'}"
        desk.claim(row.start, row.end, "note", AGREES if sign else CONTRADICTS, right, "" if sign else what)


def _key_here(desk: Desk) -> Key:
    chart, bars = desk.scope.chart, desk.context.bars
    return chart.key_at(chart.grid.bar_start(bars[0])) if bars else chart.keys[0].key


def judge_metre(desk: Desk, match: re.Match[str]) -> None:
    meters = {desk.scope.chart.grid.meter_of(b).name for b in range(1, desk.scope.chart.grid.bars + 1)}
    main = desk.scope.chart.grid.main_meter.name
    said = match["word"].lower() if "word" in match.re.groupindex and match["word"] else ""
    if said == "waltz":
        settle(desk, match, "word", any(m in ("3/4", "6/8") for m in meters), main, f"the song is in {main}", "metre")
        return
    top, bottom = read_whole(match["top"]), {"quarter": 4, "eighth": 8, "half": 2}.get(match["bottom"].lower().removesuffix("s"), 0)
    bottom = bottom or read_whole(match["bottom"])
    if top > _MOST_BEATS:
        return  # "a hundred and thirty-two": a tempo
    settle(desk, match, "both", f"{top}/{bottom}" in meters, main, f"the song is in {main}", "metre")


def judge_beats_of_a_bar(desk: Desk, match: re.Match[str]) -> None:
    grid = desk.scope.chart.grid
    meter = grid.meter_of(desk.context.bars[0] if desk.context.bars else 1)
    said = read_whole(match["n"])
    eighths = meter.beats * (3 if meter.division == 3 else 2)
    fits = {meter.beats, *([eighths] if meter.division == 3 else [])}
    if "eighth" in match["unit"].lower():
        fits, right = {eighths}, eighths
    else:
        right = meter.beats
    settle(desk, match, "said", said in fits, f"{right} {match['unit'].lower().removesuffix('s') or 'beat'}s", f"a bar of {meter.name} has {right}", "metre")


_SLOWEST = 30.0
_MOST_BEATS = 16  # of a bar
_AT_TEMPO = fact(r"full speed|up to speed|original|real tempo|final|tempo (?:is|of)|recording|up to tempo")
_PRACTICE = fact(r"practi[sc]e|slow|start|first|before|easy|begin|half|try")


def judge_tempo(desk: Desk, match: re.Match[str]) -> None:
    beats = desk.scope.chart.grid.beats
    tempo = 60 / median(b - a for a, b in zip(beats, beats[1:], strict=False))
    said = float(read_whole(match["n"]))
    if said < _SLOWEST:
        return  # "count it one, two, three"
    factors = (1.0, 1.5, 3.0) if desk.scope.chart.grid.main_meter.division == 3 else (1.0,)
    right = any(abs(said - tempo * f) <= _NEAR_TEMPO * tempo * f for f in factors)
    if not right and said < tempo and _PRACTICE.search(desk.sentence) and not _AT_TEMPO.search(desk.sentence):
        return  # a pace to practise at
    settle(desk, match, "n", right, f"{round(tempo)}", f"the song goes at about {round(tempo)} beats a minute", "tempo")


def judge_feel(desk: Desk, match: re.Match[str]) -> None:
    """ "Swing the eighths", "straight eighths": of the whole song; nothing is said against "not too straight" and the like."""
    if re.search(r"\b(?:not|n't|never|don't|no|without|rather than|instead of|too)\s+(?:\w+\s+)?$", desk.sentence[: match.start()], re.IGNORECASE):
        return
    feel, said = desk.scope.chart.grid.feel, match["straight"] is None
    swings = feel not in (STRAIGHT, "swung sixteenths")
    told = f"the song has {feel} eighths" if feel == STRAIGHT else f"the song is played with {feel}"
    settle(desk, match, 0, said == swings, "swung eighths" if swings else "straight eighths", told, "feel")


def judge_part_count(desk: Desk, match: re.Match[str]) -> None:
    parts = desk.scope.chart.parts
    taught = [p for p in parts if p.same_as is None]
    said = read_whole(match["n"])
    settle(desk, match, "said", said in (len(parts), len(taught)), f"{say_whole(len(parts))} parts", f"the song has {len(parts)} parts")


def judge_parts_of_a_kind(desk: Desk, match: re.Match[str]) -> None:
    """ "Two verses": parts that have the name, whatever number stands behind it; nothing is said where no part has it."""
    kind = match["kind"].lower()
    single = kind.removesuffix("es") if kind.endswith(("ruses", "shes")) else kind.removesuffix("s")
    there = sum(bool(re.match(rf"{re.escape(single)}\b", p.name, re.IGNORECASE)) for p in desk.scope.chart.parts)
    if there:
        words = f"{say_whole(there)} {single if there == 1 else kind}"
        settle(desk, match, "said", read_whole(match["n"]) == there, words, f"the song has {words}")


def judge_part_length(desk: Desk, match: re.Match[str]) -> None:
    """ "The verse is eight bars long": of the part that is named before it, of the whole song where that is."""
    chart, before = desk.scope.chart, desk.sentence[: match.start("n")]
    if re.search(r"\b(?:chords?|notes?|harmony|octaves?|grips?)\b", before, re.IGNORECASE):
        return  # "each chord lasts two bars"
    if match.groupdict().get("what") and _part_named(desk, match["what"]) is None:
        return
    said = read_whole(match["n"])
    each = match[0].lower().endswith(("each", "apiece"))
    if (
        not each
        and re.search(r"\b(?:song|piece|total|altogether|all together|overall|in all|all in all|that's all|that's it)\b", desk.sentence, re.IGNORECASE)
        and not re.search(r"\beach\b", before, re.IGNORECASE)
    ):
        lengths = {chart.grid.bars}
        if desk.context.part is not None and not re.search(r"\b(?:song|piece|overall|total)\b", desk.sentence, re.IGNORECASE):
            lengths |= {p.bars for p in chart.parts if p.number == desk.context.part}  # "so it's four bars in all": of the part, or of the song
    else:
        part = None if each else _part_named(desk, before) or (desk.context.part if not re.search(r"\beach\b", before, re.IGNORECASE) else None)
        lengths = {p.bars for p in chart.parts if part in (None, p.number)}
    right = min(lengths, key=lambda n: abs(n - said), default=said)
    settle(desk, match, "said", said in lengths, f"{say_whole(right)} bars", f"it has {right} bars")


def _part_named(desk: Desk, words: str) -> int | None:
    """The part that words name last, by its number or name."""
    found: list[tuple[int, int]] = [(m.start(), read_whole(m[1])) for m in re.finditer(rf"\bpart ({BAR_NUMBER})\b", words, re.IGNORECASE)]
    found += [(m.start(), ORDINALS.index(m[1].lower()) + 1) for m in re.finditer(rf"\b({'|'.join(ORDINALS)}) part\b", words, re.IGNORECASE)]
    for part in desk.scope.chart.parts:
        found += [(m.start(), part.number) for m in re.finditer(rf"\b{desk.scope.called(part.name)}\b", words, re.IGNORECASE) if len(part.name) > 3]
    return max(found, key=lambda row: (row[0], -row[1]))[1] if found else None


def judge_part_start(desk: Desk, match: re.Match[str]) -> None:
    """ "The verse starts in bar 5", "the refrain ends in bar 16": of parts that have the name."""
    name, said = match["part"].lower(), read_whole(match["n"])
    there = [p for p in desk.scope.chart.parts if re.match(rf"{re.escape(name)}\b", p.name, re.IGNORECASE)]
    ends = match["end"] is not None
    bars = {p.end_bar if ends else p.start_bar for p in there}
    if bars:
        right = min(bars, key=lambda bar: abs(bar - said))
        settle(desk, match, "said", said in bars, f"bar {right}", f"it {'ends' if ends else 'begins'} in bar {right}")


def judge_every_length(desk: Desk, match: re.Match[str]) -> None:
    """ "Each chord lasts three beats": of the chords of the part that is meant, or of the song."""
    if not re.search(r"\bchords?\b|\b(?:on|for) (?:every|each)\b", desk.sentence, re.IGNORECASE):
        return  # "a verse and a chorus, and each of them has eight bars"
    grips = [g for number, g in desk.scope.grips if desk.context.part in (None, number)]
    here = [g.duration for g in grips]
    if here:
        usual = max(set(here), key=here.count)
        runs = [sum(g.duration for g in row) for _, row in ((k, list(v)) for k, v in groupby(grips, key=lambda g: g.chord))]
        word = match["unit"].lower()
        unit = desk.scope.chart.grid.main_meter.beats if word.startswith(("bar", "measure")) else 1
        said = read_number(re.sub(r"an?$", "a", match["n"].lower())) * unit
        words = say_length(usual, unit, word)
        held = {n.duration for n in desk.scope.notes if desk.context.bars and desk.scope.chart.grid.place(n.start)[0] in desk.context.bars}
        settle(desk, match, "said", said in {usual, max(set(runs), key=runs.count), *held}, words, f"most chords last {words}")


def judge_chord_count(desk: Desk, match: re.Match[str]) -> None:
    chart = desk.scope.chart
    named = _part_named(desk, desk.sentence)
    part, bars = named or desk.context.part, desk.context.bars
    if named is None and WHOLE_SONG.search(desk.sentence):  # whatever bar was spoken of before
        part, bars = None, ()
    chords = (
        [c.chord for b in bars for c in chart.sounding_in(b) if c.chord]
        if bars
        else [c.chord for p in chart.parts if part in (None, p.number) for c in chart.chords_of(p) if c.chord]
    )
    fits = {len(set(chords)), len({c.root.pitch_class for c in chords}), len({(c.root, c.quality) for c in chords})}
    if not re.search(r"different", match[0], re.IGNORECASE):
        fits |= {len(chords)}
    said, right = read_whole(match["n"]), len(set(chords))
    if said < right and re.search(r"\b(?:basically|mostly|mainly|pretty much|almost|more or less)\b", desk.sentence, re.IGNORECASE):
        return
    settle(desk, match, "said", said in fits, f"{say_whole(right)} chords", f"there are {right} different ones, {len(chords)} one after the other")


def judge_same_bars(desk: Desk, match: re.Match[str]) -> None:
    """ "Bars five to eight are the same as bars one to four": every note of the hand that is named, of both else."""
    grid = desk.scope.chart.grid
    if match["a"]:
        first, model = _range(match["a"], match["b"]), _range(match["c"], match["d"])
        span: int | str = "claim"
    else:
        first, model = _range(match["e"], None), _range(match["f"], None)
        span = "claim2"
    if len(first) == 1 and len(model) > 1:
        return
    hands = (desk.context.hand,) if desk.context.hand else HANDS
    for bar, other in zip(first, model, strict=False):
        for hand in hands:
            mine, theirs = (
                [(n.start - grid.bar_start(b), n.midi) for n in desk.scope.notes if n.hand == hand and grid.place(n.start)[0] == b] for b in (bar, other)
            )
            if mine != theirs:
                settle(desk, match, span, False, f"bar {bar} differs", f"the {hand} hand of bar {bar} is not that of bar {other}", "note")
                return
    settle(desk, match, span, True, "", "", "note")


def _range(first: str, last: str | None) -> range:
    a = read_whole(first)
    return range(a, (read_whole(last) if last else a) + 1)


def judge_relative(desk: Desk, match: re.Match[str]) -> None:
    """ "The relative minor of F is D minor" is theory, not this song: it is judged by the circle of fifths."""
    signs = {"flat": "b", "sharp": "#"}
    names = [parse_name(match[i].upper() + signs.get((match[i + 1] or "").lower(), "")) for i in (2, 4)]
    mode = match[1].lower()
    right = names[0].up(3 if mode == "minor" else -3)
    settle(desk, match, 4, names[1] == right, f"{desk.say(right)} {mode}", f"the relative {mode} of {desk.say(names[0])} is {desk.say(right)}", "key")


def judge_member(desk: Desk, match: re.Match[str]) -> None:
    """ "The third of D is F sharp": theory again, of the chord that the song has on that root where it has one, else of either third."""
    signs = {"flat": "b", "sharp": "#"}
    root, said = (parse_name(match[i].upper() + signs.get((match[i + 1] or "").lower(), "")) for i in (2, 4))
    steps = {"third": (4, -3), "fifth": (1, -6), "seventh": (-2, 5), "root": (0,)}[match[1].lower()]
    chords = [g.chord for _, g in desk.scope.grips if g.chord.root == root]
    known = [i for c in chords for i in c.quality.members if i in steps] or list(steps)
    right = root.up(known[0])
    settle(desk, match, 4, said in [root.up(i) for i in known], desk.say(right), f"the {match[1].lower()} of {desk.say(root)} is {desk.say(right)}", "note")


def judge_only_sign(desk: Desk, match: re.Match[str]) -> None:
    """ "The only black key is F sharp": of a key that has one."""
    key = desk.scope.chart.keys[0].key
    if abs(key.signature) != 1 or len(desk.scope.chart.keys) > 1:
        return
    right = parse_name("F#" if key.signature > 0 else "Bb")
    said = parse_name(match[1].upper() + {"flat": "b", "sharp": "#"}.get((match[2] or "").lower(), ""))
    settle(desk, match, 1, said == right, desk.say(right), f"{key} has one {'sharp' if key.signature > 0 else 'flat'}, {desk.say(right)}", "key")


_PART = r"(?:intro|introduction|opening|theme|vamp|tag|coda|verse|chorus|refrain|bridge|interlude|outro|ending|riff|solo)"
_NO_LENGTH = r"(?! (?:of|in|into|later|before|after|earlier|from|on|each|apiece)\b)"  # "in the verse, four bars in": a place
WHOLE_SONG = fact(r"\b(?:altogether|all together|in total|overall|(?:whole|entire) (?:song|piece|thing))\b")
_KEY_NAME = r"([A-G])(?:[ -]?(flat|sharp))?(?: (?:major|minor))?"
_NOTE_NAME = r"(?:an? |the )?([A-G])(?:[ -]?(flat|sharp))?(?![a-z])"
_PER_BAR = r"(?:to|in|per|for)\s+(?:a|the|every|each|one)?\s*(?:bar|measure)s?"
_BEATS = rf"(?P<said>(?P<n>{WHOLE})\s+(?:big\s+|main\s+)?(?P<unit>beats?|counts?|eighth notes?|eighths))"
FACTS: tuple[Fact, ...] = (
    (
        fact(
            rf"\b(?P<part>{_PART})\s+(?:(?:starts?|begins?)|(?P<end>ends?|finish(?:es)?))\s+(?:in|at|on|with|to)\s+(?:the\s+)?(?P<said>bar\s+(?P<n>{WHOLE}))\b"
        ),
        judge_part_start,
    ),
    (
        fact(
            rf"\b(?:every|each)\s+(?:chord|of (?:them|these|those)|one)\b[^.;,]{{0,20}}?\s(?:lasts|gets|is|holds for|is held for|takes|has)\s+(?:for\s+)?"
            rf"(?P<said>(?P<n>{WHOLE}|an?|half an?)\s+(?:full\s+|whole\s+)?(?P<unit>beats?|counts?|bars?|measures?))\b"
        ),
        judge_every_length,
    ),
    (
        fact(
            rf"(?P<said>(?P<n>{WHOLE}|an?|half an?)\s+(?P<unit>beats?|counts?|bars?|measures?))\s+(?:on|for)\s+(?:every|each)(?:\s+single)?"
            r"\s+(?:chord|(?:one\s+)?of\s+(?:them|these|those)|one)\b"
        ),
        judge_every_length,
    ),
    (fact(rf"\b({WHOLE}|no)\s+(sharps?|flats?)\b(?!\s+(?:keys?|chords?|major|minor))"), judge_signature),
    (
        fact(
            r"\b(?:every|each|all)\s+(?:(?:the|your|those|of the|of your)\s+)?(?-i:[A-G])s?(?:,?\s+(?:and\s+)?(?:every\s+|each\s+|all\s+)?(?-i:[A-G])s?)*\s+"
            r"(?:is|are|becomes?|will be|(?:has|have) to be)\s+(?:an?\s+|played\s+|always\s+)*(?P<sign>sharp|flat)s?\b"
        ),
        judge_every_sign,
    ),
    (
        fact(
            rf"\b(?:in|a|metre is|meter is|time is|signature is|it's)\s+(?P<both>(?P<top>{WHOLE})(?:\s|-|/)(?P<bottom>four|eight|two|4|8|2"
            rf"|quarters|eighths|halves))\b(?!\s*(?:beats|bars|times|-bar|measures|chords|notes))"
        ),
        judge_metre,
    ),
    (fact(r"\b(?P<word>waltz)\b(?P<both>)(?P<top>)(?P<bottom>)"), judge_metre),
    (fact(rf"{_BEATS}\s+{_PER_BAR}"), judge_beats_of_a_bar),
    (fact(rf"\b(?:every|each|a) (?:bar|measure) has (?:got )?{_BEATS}"), judge_beats_of_a_bar),
    (fact(rf"\b(?:whole|full|entire) (?:bar|measure),?\s+(?:so |that's |which is |for |all )*{_BEATS}"), judge_beats_of_a_bar),
    (fact(rf"\bcount(?:ing|ed)? (?P<said>(?P<n>{WHOLE})(?P<unit>))\s+{_PER_BAR}"), judge_beats_of_a_bar),
    (fact(rf"\bwaltz time\b[^.]*?\b{_BEATS}"), judge_beats_of_a_bar),
    (fact(rf"\bat (?:about|around|roughly) (?P<n>{WHOLE})(?=\s*(?:[.,;!]|$))"), judge_tempo),
    (fact(rf"(?P<n>{WHOLE})\s+(?:bpm|beats (?:per|a|to the|in a) minute)\b"), judge_tempo),
    (fact(rf"\b(?:speed|tempo|pace)(?:'s|’s| is)\s+(?:about |around |roughly |only |set to |at )*(?P<n>{WHOLE})\b(?! ?(?:%|percent|per cent))"), judge_tempo),
    (fact(rf"\btempo\b(?:(?!\b(?:not|from)\b)[^.;,\d]){{0,24}}?\b(?:is|of|at)\s+(?:about |around |roughly |set to )*(?P<n>{WHOLE})\b"), judge_tempo),
    (
        fact(rf"\b(?:take|play|count|do) (?:it|this|that) (?:at |around |about |roughly )+(?P<n>{WHOLE})\b(?! ?(?:%|percent|per cent|beats|bars|times|notes))"),
        judge_tempo,
    ),
    (
        fact(
            r"\b(?:metronome|click|speed|tempo|pace|(?:moves?|goes|trots?|rolls?|ticks?|jogs?|cruises?) along|take (?:it|this)|count (?:it|this)|let's count)\b"
            rf"[^.;]{{0,44}}?\b(?:at|to|about|around|roughly|near)\s+(?:an? (?:gentle|steady|easy|brisk|slow|relaxed) )?(?P<n>{WHOLE})\b"
            r"(?! ?(?:%|percent|per cent|beats?\b(?! (?:per|a|to)\b)|bars?|times|notes?|counts?))"
        ),
        judge_tempo,
    ),
    (
        fact(
            r"\b(?:(?P<straight>(?:straight|even) (?:eighths?|eighth notes|quavers|feel)|eighths are (?:played )?(?:straight|even))"
            r"|swing (?:the|those|your|these) (?:eighths?|eighth notes|quavers)|swung eighths?|(?:it's|this is|that's|it is) a shuffle|shuffle feel)\b"
        ),
        judge_feel,
    ),
    (fact(rf"\b(?P<said>(?P<n>{WHOLE})\s+(?P<kind>verses|choruses|refrains|bridges|intros|interludes|pre-choruses))\b"), judge_parts_of_a_kind),
    (fact(rf"\b(?P<what>\w+) of (?P<said>(?P<n>{WHOLE})\s+(?:bars|measures))\b(?! each)"), judge_part_length),
    (fact(rf"\bthat's (?:all|it)[^.;]{{0,8}}?(?P<said>(?P<n>{WHOLE})\s+(?:bars|measures))\b"), judge_part_length),
    (fact(rf"\b(?P<said>(?P<n>{WHOLE})[ -](?:bars?|measures?)) long\b"), judge_part_length),
    (fact(rf"\b(?P<said>(?P<n>{WHOLE})\s+(?:bars|measures)) of (?:it|that|this)\b"), judge_part_length),
    (fact(rf"\b(?P<said>(?P<n>{WHOLE})[ -](?:bar|measure)) (?:loop|{_PART})\b"), judge_part_length),
    (
        fact(rf"\b{_PART}, (?:it's |that's |just |only |it has )*(?P<said>(?P<n>{WHOLE})\s+(?:bars|measures))\b{_NO_LENGTH}"),
        judge_part_length,
    ),
    (
        fact(rf"(?P<said>(?P<n>{WHOLE})\s+(?:bars|measures))\s+(?:altogether|in total|in all|all together|overall|from start to finish|each|apiece)\b"),
        judge_part_length,
    ),
    (
        fact(
            rf"\b(?:has|have|got|there are|into|consists of|made of|with)\s+(?:only |just |basically )?(?P<said>"
            rf"(?P<n>{WHOLE})\s+(?:numbered |different )?(?:parts|sections))\b"
        ),
        judge_part_count,
    ),
    (
        fact(
            rf"\b(?:is|are|takes?|has|have|lasts|runs? for|there are)\s+(?:only |just |about |exactly )?(?P<said>(?P<n>{WHOLE})\s+(?:bars"
            rf"|measures))\b(?:\s+(?:long|in total|altogether))?"
        ),
        judge_part_length,
    ),
    (
        fact(rf"\b(?:there are|has|have|got|only|just|uses|with|needs?|know|learn)\s+(?:only |just )?(?P<said>(?P<n>{WHOLE})\s+(?:different |new )?chords)\b"),
        judge_chord_count,
    ),
    (
        fact(
            rf"\bbars?\s+(?P<a>{BAR_NUMBER})(?:\s*(?:-|–|to|and|through)\s*(?P<b>{BAR_NUMBER}))?\s+(?:is|are)\s+"
            r"(?P<claim>(?:exactly\s+|just\s+)?(?:the same as|identical to|like|an? (?:carbon |exact |straight )?(?:copy|repeat) of)\s+bars?\s+"
            rf"(?P<c>{BAR_NUMBER})(?:\s*(?:-|–|to|and|through)\s*(?P<d>{BAR_NUMBER}))?)|\bbars?\s+(?P<e>{BAR_NUMBER})\s+and\s+"
            rf"(?P<f>{BAR_NUMBER})\s+are\s+(?P<claim2>(?:exactly\s+)?the same)\b"
        ),
        judge_same_bars,
    ),
    (
        re.compile(r"\bonly (?:black (?:key|note)|sharp|flat|accidental)\b[^.;,]{0,40}?\bis (?:the |an? )?([A-G])[ -]?(flat|sharp)?(?![a-z])"),
        judge_only_sign,
    ),
    (
        re.compile(
            r"\b(?:just|only) (?:the |an? |one black (?:key|note),? )?([A-G])[ -](flat|sharp) "
            r"(?:to (?:worry about|remember|watch(?: out)? for|think about|look out for)|in the key)"
        ),
        judge_only_sign,
    ),
    (re.compile(rf"\b(root|third|fifth|seventh) of {_NOTE_NAME} is {_NOTE_NAME}"), judge_member),
    (re.compile(rf"\brelative (major|minor) of {_KEY_NAME} is {_KEY_NAME}"), judge_relative),
)
