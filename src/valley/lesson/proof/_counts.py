"""Counts that are named: how long a chord lasts, where it falls, sums, how a bar is counted."""

from __future__ import annotations

import re
from collections.abc import Callable, Sequence

from valley.fraction import Fraction
from valley.lesson.proof._desk import Desk, hand_notes
from valley.lesson.proof._playing import bars_here, bars_now, hand_meant, hands_said, strokes_of
from valley.lesson.proof._scope import Found
from valley.lesson.proof._words import VALUES, read_count, read_number, say_length, say_number, say_value
from valley.model.arrangement import Grip
from valley.theory.naming import AGREES, CONTRADICTS
from valley.theory.pitch import parse_pitch


def judge_length(desk: Desk, match: re.Match[str]) -> None:
    """ "Hold it for four beats", "the C lasts three beats": of the chord in hand, or of the note that is named before it."""
    group = next(g for g in ("n", "whole", "half", "n2", "n3", "n4", "value") if match[g])
    of_beat = desk.scope.chart.grid.main_meter.quarters_per_beat
    said = Fraction(VALUES[match["value"].lower()]) / of_beat if group == "value" else read_number("one" if group in ("whole", "half") else match[group])
    if group == "half":
        said /= 2
    before = desk.text[max(0, desk.offset + match.start() - 24) : desk.offset + match.start(group)]
    if re.search(r"\b(?:every|each|all|most)\b|\b(?:first|last|next)\s+$", before, re.IGNORECASE):
        return
    grips = desk.meant()
    of_note = _lengths_of_note(desk, match.start(group))
    if not grips or not (desk.context.grips or desk.context.bars or of_note):
        return
    row = next((r for r in reversed(desk.named) if r.end <= match.start(group)), None)
    of_root = row and any(g.chord.root.pitch_class == row.name.pitch_class for g in desk.context.grips)  # "the final G"
    if row and not row.is_chord and not of_note and not of_root and not desk.context.bars and _same_clause(desk.sentence[row.end : match.start(group)]):
        return  # a note that nothing ties to a place
    word = (match["unit"] or ("bar" if group in ("whole", "half") else "beats")).lower()
    unit = desk.scope.chart.grid.meter_at(grips[0].start).beats if word.startswith(("bar", "measure")) else 1
    lengths = {g.duration for g in grips} | _runs_of(desk, grips) | _held_within(desk, grips)
    if of_note and row and not row.is_chord and not of_root:
        lengths = of_note  # a note that is named lasts as long as it is played, however long its chord
    if re.search(r"\b(?:it|that|this)\s+(?:for\s+)?$", desk.sentence[: match.start(group)], re.IGNORECASE):  # "hold that for three": what was struck there
        starts = {g.start for g in grips}
        lengths |= {n.duration for n in desk.scope.notes if n.start in starts and hand_meant(desk) in (None, n.hand)}
    if said * unit in lengths | of_note:
        desk.claim(match.start(group), match.end(), "count", AGREES)
        return
    likely = of_note or lengths
    own = grips[0].duration
    right = min(likely, key=lambda n: (abs(n - said * unit), n != own, -n))
    words = say_value(right * of_beat) if group == "value" else say_length(right, Fraction(unit), word)
    what = "the note" if of_note else grips[0].symbol
    desk.claim(match.start(group), match.end(), "count", CONTRADICTS, words, f"{what} lasts {words} there")


def _held_within(desk: Desk, grips: Sequence[Grip]) -> set[Fraction]:
    """How long handfuls last that are struck again while the chord lasts."""
    played = [n for n in desk.scope.notes if hand_meant(desk) in (None, n.hand) and any(g.start < n.start < g.end for g in grips)]
    starts = [(n.start, n.hand) for n in played]
    return {n.duration for n in played if starts.count((n.start, n.hand)) > 1}


def judge_length_of_each(desk: Desk, match: re.Match[str]) -> None:
    """ "E and D, two beats each": every note that is named just before it."""
    rows = [r for r in desk.named if r.end <= match.start() and not r.is_chord and not re.search(r"[.;:]", desk.sentence[r.end : match.start()])]
    said = read_number(match["n"])
    bars = set(bars_now(desk)) if desk.context.bars or desk.context.grips else set()
    if not rows or not bars:
        return
    place = desk.scope.chart.grid.place
    notes = [n for n in desk.scope.notes if place(n.start)[0] in bars and desk.context.hand in (None, n.hand)]
    in_a_row = _lengths_in_a_row(desk, rows, bars | {max(bars) + 1}, said)
    if in_a_row:
        right = next((n for n in in_a_row if n != said), said)
        words = f"{say_number(right)} beat{'' if right <= 1 else 's'} each"
        verdict = AGREES if right == said else CONTRADICTS
        desk.claim(match.start(), match.end(), "count", verdict, "" if right == said else words, "" if right == said else f"they last {words} there")
        return
    fits = [row for row in rows if any(n.midi % 12 == row.name.pitch_class and n.duration == said for n in notes)]
    others = [n for n in notes if n.duration == said and all(n.midi % 12 != r.name.pitch_class for r in rows)]
    for row in rows:
        lengths = [n.duration for n in notes if n.midi % 12 == row.name.pitch_class]
        if row not in fits and fits and others:  # the others last so long: it is the note that is another
            right_note = desk.say(parse_pitch(others[0].pitch)[0])
            desk.claim(row.start, row.end, "note", CONTRADICTS, right_note, f"{right_note} lasts so long there")
            return
        if lengths and said not in lengths:
            right = min(lengths, key=lambda n: abs(n - said))
            words = f"{say_number(right)} beat{'' if right <= 1 else 's'}"
            desk.claim(match.start(), match.end(), "count", CONTRADICTS, words, f"{desk.say(row.name)} lasts {words} there")
            return
    desk.claim(match.start(), match.end(), "count", AGREES)


def _lengths_in_a_row(desk: Desk, rows: Sequence[Found], bars: set[int], said: Fraction) -> list[Fraction]:
    """How long notes last that one hand strikes singly, one after the other, as they are told: where all last as long as is said, else where they come
    first; nothing where they do not come so."""
    place = desk.scope.chart.grid.place
    found: list[list[Fraction]] = []
    for hand in hands_said(desk):
        mine = [n for n in desk.scope.notes if n.hand == hand and not n.grace and place(n.start)[0] in bars]
        starts = [n.start for n in mine]
        for at in range(len(mine) - len(rows) + 1):
            window = mine[at : at + len(rows)]
            if all(starts.count(n.start) == 1 and n.midi % 12 == r.name.pitch_class for n, r in zip(window, rows, strict=True)):
                found.append([n.duration for n in window])
    return next((lengths for lengths in found if set(lengths) == {said}), found[0] if found else [])


def _runs_of(desk: Desk, grips: Sequence[Grip]) -> set[Fraction]:
    """How long a chord, or the keys of the hand that is named, stay through the grips after it."""
    runs: set[Fraction] = set()
    every = [g for _, g in desk.scope.grips]
    for i, grip in enumerate(every):
        if not any(g.start == grip.start for g in grips):
            continue
        for same in (_same_chord_as(grip), _same_root_as(grip), _same_keys_as(grip, desk.context.hand)):
            end = grip.end
            for later in every[i + 1 :]:
                if not same(later):
                    break
                end = later.end
            runs.add(end - grip.start)
    return runs


def _same_chord_as(grip: Grip) -> Callable[[Grip], bool]:
    return lambda other: other.chord == grip.chord


def _same_root_as(grip: Grip) -> Callable[[Grip], bool]:
    return lambda other: other.chord.root == grip.chord.root  # "two bars of E": E and E seven


def _same_keys_as(grip: Grip, hand: str | None) -> Callable[[Grip], bool]:
    keys = [n.midi for n in hand_notes(grip, hand)]
    return lambda other: [n.midi for n in hand_notes(other, hand)] == keys


def _lengths_of_note(desk: Desk, at: int) -> set[Fraction]:
    """Lengths of the note that is named before a length, or "the last note", in the bars that the words are about."""
    row = next((r for r in reversed(desk.named) if r.end <= at and not r.is_chord), None)
    if row and (end := re.search(r"\b(?:that|the) (first|last) $", desk.sentence[: row.start], re.IGNORECASE)):  # "that first D"
        every = [n.duration for n in desk.scope.chart.melody if n.midi % 12 == row.name.pitch_class]
        return {every[0 if end[1].lower() == "first" else -1]} if every else set()
    if not desk.context.bars and desk.context.part is None:
        return set()
    place = desk.scope.chart.grid.place
    part = next((p for p in desk.scope.chart.parts if p.number == desk.context.part), None)
    bars = set(desk.context.bars or (range(part.start_bar, part.end_bar + 1) if part else ()))
    now = set(bars_now(desk))
    if not desk.context.grips and desk.context.now is not None:
        now = {place(desk.context.now)[0]}
    now |= {max(now) + 1} & bars if now else set()  # it may have gone on to the next
    if row and now < bars and any(n.midi % 12 == row.name.pitch_class and place(n.start)[0] in now for n in desk.scope.notes):
        bars = now  # the talk has come to one of them
    tune = [(n.start, n.midi, n.duration) for n in desk.scope.chart.melody if place(n.start)[0] in bars]
    played = [(n.start, n.midi, n.duration) for n in desk.scope.notes if place(n.start)[0] in bars and hand_meant(desk) in (None, n.hand)]
    if re.search(r"\b(?:tune|melody)\b", desk.sentence, re.IGNORECASE):
        played = []
    nth = re.search(r"\b(first|last) note\b", desk.sentence[:at], re.IGNORECASE)
    if nth:
        pool = tune or played
        return {pool[0 if nth[1].lower() == "first" else -1][2]} if pool else set()
    if row is None or not _same_clause(desk.sentence[row.end : at]):
        return set()
    return {d for _, midi, d in (*tune, *played) if midi % 12 == row.name.pitch_class}


def _same_clause(between: str) -> bool:
    return not re.search(r"[.;:]|\bthen\b", between) and len(between) < 40


def judge_length_of(desk: Desk, row: Found, match: re.Match[str]) -> None:
    """ "Two beats on B flat": the length stands before the chord."""
    here = [g for g in desk.grips_here() if g.chord.root.pitch_class == row.name.pitch_class]
    if not here:
        return
    said = read_number(match["n"])
    unit = desk.scope.chart.grid.meter_at(here[0].start).beats if match["unit"].lower().startswith(("bar", "measure")) else 1
    lengths = {g.duration for g in here} | _runs_of(desk, here)
    right = min(lengths, key=lambda n: abs(n - said * unit))
    words = say_length(right, Fraction(unit), match["unit"])
    if right == said * unit:
        desk.claim(match.start("n"), match.end("unit"), "count", AGREES)
    else:
        desk.claim(match.start("n"), match.end("unit"), "count", CONTRADICTS, words, f"{here[0].symbol} lasts {words} there")


def judge_place(desk: Desk, match: re.Match[str]) -> None:
    grips = [g for g in desk.meant() if desk.context.bars or desk.context.grips]
    if not grips or not (desk.named or re.search(r"\b(?:chord|it|that|this|one)\b", desk.sentence, re.IGNORECASE)):
        return
    grid = desk.scope.chart.grid
    inside = [g for g in grips if not desk.context.bars or grid.place(g.start)[0] in desk.context.bars] or grips
    said = str(read_count(match[1])) + (" &" if match[2] else "")
    counts = [grid.count(g.start) for g in inside]
    tune = [grid.count(n.start) for n in desk.scope.chart.melody if desk.context.bars and grid.place(n.start)[0] in desk.context.bars]
    every = re.search(r"\b(?:each|every|all)\b", desk.sentence, re.IGNORECASE) is not None  # "each with a little hop on beat four"
    struck = {
        grid.count(start) for bar in (bars_here(desk) if every else bars_now(desk)) for hand in hands_said(desk) for start, _ in strokes_of(desk, bar, hand)
    }
    if said in counts or said in struck or (not desk.context.grips and said in tune):
        desk.claim(match.start(1), match.end(), "count", AGREES)
    else:
        desk.claim(match.start(1), match.end(), "count", CONTRADICTS, counts[0], f"{inside[0].symbol} comes on {counts[0]}")


def judge_sum(desk: Desk, match: re.Match[str]) -> None:
    unit = {"e": Fraction(1, 2), "q": Fraction(1), "h": Fraction(2), "s": Fraction(1, 4)}[match[2][0]]
    total = read_number(match[1]) * unit * (2 if match[3] else 1)
    said = read_number(match[4])
    expected = "" if total == said else f"{say_number(total)} beats"
    desk.claim(match.start(), match.end(), "count", AGREES if not expected else CONTRADICTS, expected, f"they are {expected}" if expected else "")


def judge_counting(desk: Desk, match: re.Match[str]) -> None:
    numbers = [int(n) for n in re.findall(r"\d", match[1])]
    meter = desk.scope.chart.grid.meter_of(desk.context.bars[0] if desk.context.bars else 1)
    most = meter.beats * (3 if meter.division == 3 else 1)
    end = match.start(1) + len(match[1].rstrip(" ,"))
    last = max(numbers)
    if last in (most, 2 * most) or (meter.division == 3 and last in (meter.beats, 2 * meter.beats)):
        desk.claim(match.start(1), end, "count", AGREES)
    elif len(numbers) > 1:
        desk.claim(match.start(1), end, "count", CONTRADICTS, f"to {most}", f"a bar of {meter.name} is counted to {most}")
