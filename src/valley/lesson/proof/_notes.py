"""Notes that are named: which hand plays them, in which octave, in what order; the tune; the lowest and the highest."""

from __future__ import annotations

import re
from collections.abc import Sequence
from dataclasses import replace

from valley.lesson.proof._desk import UNKNOWN, Desk, hand_notes, midi_of
from valley.lesson.proof._playing import bars_now
from valley.lesson.proof._scope import Found
from valley.lesson.proof._words import BARS, GOING, HAND_AFTER, LEAVING, MOVED_FROM, MOVES_TO, TO, quality_named
from valley.model.arrangement import LEFT, RIGHT, Grip, HandNote
from valley.theory.chord import Chord
from valley.theory.naming import AGREES, CONTRADICTS, PARTLY, reads_as
from valley.theory.pitch import parse_pitch


def judge_notes(desk: Desk, run: list[Found]) -> None:
    """A list of notes: each against the grip that fits the list best, then what the list leaves out, then whether octaves ascend."""
    if len(run) == 2 and MOVED_FROM.search(desk.sentence[: run[0].start]) and TO.fullmatch(desk.sentence[run[0].end : run[1].start]):
        run = run[1:]  # "moves C to D": only where the finger arrives is held
    goes = GOING.match(desk.sentence, run[-1].end)
    leaves = goes and desk.scope.was_held(run, desk.context)
    if goes and not leaves and len(run) > 1 and desk.scope.was_held(run[-1:], desk.context):
        run = run[:-1]  # "C4 goes down to B3, G4 goes …": where one finger arrives and where the next one leaves are no list
    if leaves or LEAVING.search(desk.sentence[: run[0].start]):
        return
    if after := HAND_AFTER.match(desk.sentence, run[-1].end):
        desk.context.hand = RIGHT if after[1].lower() == "right" else LEFT
    if not desk.meant():
        _claim_unknown(desk, run, "nothing is played here to hold it against")
        return
    if _says_tune(desk.sentence, run, of_tune=desk.context.of_tune) and _judge_tune(desk, run):
        return
    settled = bool(desk.context.bars or desk.context.grips or desk.context.part)
    grip = _find_grip(desk, run)
    if grip is None:
        _claim_unknown(desk, run, "no bar or chord says what it is held against")
        return
    desk.context.grips = (grip,)
    pool = hand_notes(grip, desk.context.hand)
    other = hand_notes(grip, RIGHT if desk.context.hand == LEFT else LEFT) if desk.context.hand else ()
    before = len(desk.context.claims)
    desk.listed = {r.name.pitch_class for r in run}
    told = [_judge_note(desk, row, grip, pool, other) for row in run]
    _judge_order(desk, run, before)
    if all(told) and settled:
        _judge_missing(desk, run, grip, pool)


def _says_tune(sentence: str, run: Sequence[Found], *, of_tune: bool) -> bool:
    """Whether it is the tune whose notes are told: what is named last before them says so, else what is named after."""
    before = [m[0].lower() for m in _WHOSE.finditer(sentence[: run[0].start])]
    if of_tune and not before and _STAYS_ON.search(sentence[: run[0].start]):
        return True
    return (before or ["tune" if re.search(r"\b(?:tune|melody|sing)", sentence, re.IGNORECASE) else ""])[-1] not in ("", "hand", "hands")


_STAYS_ON = re.compile(r"\b(?:stays?|rests?|sits?|holds?|waits?|stops?|lands?|settles?) (?:on )?(?:an? |the |that )?$", re.IGNORECASE)
_WHOSE = re.compile(r"\b(?:hands?|tune|melody|sing)\b", re.IGNORECASE)


def _claim_unknown(desk: Desk, run: Sequence[Found], why: str) -> None:
    for row in run:
        desk.claim(row.start, row.end, "octave" if row.octave is not None and desk.meant() else "note", UNKNOWN, message=why)


_PLAYS = re.compile(r"\bhand (?:just |only |simply |always )*(?:plays?|has|holds?|gets)\b", re.IGNORECASE)


def _find_grip(desk: Desk, run: Sequence[Found]) -> Grip | None:
    """The grip that fits a list best; none where nobody says which is meant and none fits well."""
    grip = max(desk.meant(), key=lambda g: _fit(run, g, desk.context.hand))
    settled = bool(desk.context.bars or desk.context.grips)
    hand = desk.context.hand
    if not settled and desk.context.part is not None and hand and len(run) >= 2 and _PLAYS.search(desk.sentence[: run[0].start]):
        # "In the intro the left hand plays D and G": the grip that stands on the first of them
        on_it = [g for g in desk.meant() if (held := hand_notes(g, hand)) and held[0].midi % 12 == run[0].name.pitch_class]
        if on_it:
            return max(on_it, key=lambda g: _fit(run, g, hand))
    strangers = sum(r.name.pitch_class not in {n.midi % 12 for n in grip.notes} for r in run)
    return (
        grip
        if settled
        or (
            _fit(run, grip, desk.context.hand) >= max(2.0, 1.1 * len(run))
            and strangers <= max(int(desk.context.part is not None and len(run) >= 3), len(run) // 4)
        )
        else None
    )


def _judge_missing(desk: Desk, run: Sequence[Found], grip: Grip, pool: Sequence[HandNote]) -> None:
    """What a list that says everything leaves out."""
    missing = [n for n in pool if n.midi % 12 not in desk.told and not n.optional]
    # One hand told in full is a whole list, though nobody says which hand it is.
    one_hand = not desk.context.hand and any({n.midi % 12 for n in hand} == desk.listed for hand in (grip.left, grip.right))
    between = re.search(r"\bbetween (?:the )?$", desk.sentence[: run[0].start]) is not None
    if len(run) < 2 or not missing or one_hand or between or not _is_listing(desk.sentence, run):
        return
    names = " and ".join(desk.say_pitch(n.pitch) for n in missing)
    whole = ", ".join(desk.say_pitch(n.pitch) for n in pool)
    where = f"{desk.context.hand} hand" if desk.context.hand else "grip"
    desk.claim(run[0].start, run[-1].end, "note", PARTLY, whole, f"{names} {'is' if len(missing) == 1 else 'are'} missing from the {where}")


def _fit(run: Sequence[Found], grip: Grip, hand: str | None) -> float:
    pool = hand_notes(grip, hand)
    classes = {n.midi % 12 for n in pool}
    keys = {n.midi for n in pool}
    score = sum(2.0 * (r.name.pitch_class in classes) + (r.octave is not None and midi_of(r) in keys) for r in run)
    return score - 0.5 * abs(len(pool) - len(run))


def _judge_note(desk: Desk, row: Found, grip: Grip, pool: Sequence[HandNote], other: Sequence[HandNote]) -> bool:
    """One note of a list; gives whether it belongs."""
    across = [n for n in other if n.midi % 12 == row.name.pitch_class and (row.octave is None or n.midi == midi_of(row))]
    same = [n for n in pool if n.midi % 12 == row.name.pitch_class]
    elsewhere = row.octave is not None and midi_of(row) not in {n.midi for n in pool}
    if across and desk.context.hand and (elsewhere or not same) and not _sounds_with(desk, row, grip):
        _claim_hand(desk, row, across[0])
        return False
    if not same:
        return _judge_stranger(desk, row, grip, pool)
    names = [parse_pitch(n.pitch)[0] for n in same]
    if elsewhere:
        pitch = min(same, key=lambda n: abs(n.midi - midi_of(row))).pitch
        desk.claim(row.start, row.end, "octave", CONTRADICTS, desk.say_pitch(pitch), f"it is played as {desk.say_pitch(pitch)}")
    elif not any(reads_as(row.name, name) for name in names):
        right = desk.say_pitch(same[0].pitch) if row.octave is not None else desk.say(names[0])
        desk.claim(row.start, row.end, "note", PARTLY, right, f"the same key, but in this key it is written {right}")
    else:
        desk.claim(row.start, row.end, _kind(row), AGREES)
    return True


def _kind(row: Found) -> str:
    return "octave" if row.octave is not None else "note"


_LEFT_OUT = re.compile(r"\b(?:leave|leaves|leaving|left|drop|drops|dropped|skip|skips)\b[^.;,]{0,16}\bout\b|\b(?:skip|drop)s? (?:it|that)\b", re.IGNORECASE)


def _judge_stranger(desk: Desk, row: Found, grip: Grip, pool: Sequence[HandNote]) -> bool:
    """A note that the grip does not hold: one that a finger goes to next belongs, any other is wrong, and the likeliest that was meant is said."""
    left_out = row.name.pitch_class in grip.chord.pitch_classes() and _LEFT_OUT.search(desk.sentence)
    if left_out or _is_reached(desk, row, grip) or _sounds_with(desk, row, grip):
        desk.claim(row.start, row.end, _kind(row), AGREES)
        return True
    # The note that was meant is rather one that the list does not name already.
    left = [n for n in pool or grip.notes if n.midi % 12 not in desk.listed] or pool or grip.notes

    def away(note: HandNote) -> tuple[bool, int, int]:
        """Another sign on the same letter is the likeliest slip, then the nearest key."""
        far = abs(note.midi - midi_of(row)) if row.octave is not None else _gap(note.midi % 12, row.name.pitch_class)
        return note.pitch[0] != str(row.name)[0], far, note.midi

    near = min(left, key=away, default=None)
    expected = (desk.say_pitch(near.pitch) if row.octave is not None else desk.say(parse_pitch(near.pitch)[0])) if near else ""
    belongs = row.name.pitch_class in grip.chord.pitch_classes()
    why = "it is in the chord, but not in this grip" if belongs else f"it is not in {desk.say_chord(grip.chord)}"
    desk.claim(row.start, row.end, "note", CONTRADICTS, expected, why)
    return False


def _claim_hand(desk: Desk, row: Found, note: HandNote) -> None:
    to = RIGHT if desk.context.hand == LEFT else LEFT
    desk.claim(row.start, row.end, "hand", CONTRADICTS, f"the {to} hand", f"{desk.say_pitch(note.pitch)} is played by the {to} hand")


def _judge_order(desk: Desk, run: Sequence[Found], before: int) -> None:
    """Octave numbers of a list from the bottom up must ascend."""
    numbered = [r for r in run if r.octave is not None]
    for a, b in zip(numbered, numbered[1:], strict=False):
        wrong = {c.start for c in desk.context.claims[before:] if c.verdict == CONTRADICTS}
        if (midi_of(b) == midi_of(a) or (len(numbered) >= 3 and midi_of(b) < midi_of(a))) and not {desk.offset + a.start, desk.offset + b.start} & wrong:
            at = next((i for i, c in enumerate(desk.context.claims) if i >= before and c.start == desk.offset + b.start), None)
            if at is not None:
                desk.context.claims[at] = replace(desk.context.claims[at], kind="octave", verdict=PARTLY, message="the octaves of the list do not ascend here")


def _judge_tune(desk: Desk, run: Sequence[Found]) -> bool:
    """Notes of the tune, where a bar is named: in order, by their pitch class."""
    if not (desk.context.bars or desk.context.grips):
        return False
    grid = desk.scope.chart.grid
    bars = bars_now(desk)
    start, end = grid.bar_start(bars[0] if bars[0] > 1 else 0), grid.bar_start(bars[-1] + 1)
    tune = [n.midi % 12 for n in desk.scope.chart.notes_between(start, end)]
    if not tune:
        return False
    key = desk.scope.chart.key_at(start)
    place = 0
    for row in run:
        if row.name.pitch_class in tune[place:]:
            place += tune[place:].index(row.name.pitch_class) + 1
            desk.claim(row.start, row.end, "note", AGREES)
        else:
            right = desk.say(key.spell(tune[min(place, len(tune) - 1)]))
            desk.claim(row.start, row.end, "note", CONTRADICTS, right, f"the tune goes on with {right}")
    return True


def _sounds_with(desk: Desk, row: Found, grip: Grip) -> bool:
    """Whether the hand strikes it while the chord lasts, though it is no key of its grip: a note of the tune, a step on the way."""
    during = [n for n in desk.scope.notes if grip.start <= n.start < grip.end and desk.context.hand in (None, n.hand)]
    meant = [n for n in during if n.midi % 12 == row.name.pitch_class and (row.octave is None or n.midi == midi_of(row))]
    others = desk.listed - {row.name.pitch_class}
    if len(others) != 1:
        return bool(meant)
    # Two notes that are named as one handful sound at one time, or one right after the other.
    other = [n for n in during if n.midi % 12 in others]
    return any(n.start <= o.start <= n.start + n.duration or o.start <= n.start < o.start + o.duration for n in meant for o in other)


def _is_reached(desk: Desk, row: Found, grip: Grip) -> bool:
    """Whether a note is where a finger goes to, in the grip that comes next: "the C moves up to D"."""
    if not MOVES_TO.search(desk.text[max(0, desk.offset + row.start - 40) : desk.offset + row.start]):
        return False
    if any(r.is_chord and row.name.pitch_class in Chord(r.name, r.quality or quality_named("maj")).pitch_classes() for r in desk.named):
        return True
    if BARS.search(desk.sentence) and desk.context.bars:  # "by bar six we've climbed up to a B"
        return any(n.midi % 12 == row.name.pitch_class and desk.scope.chart.grid.place(n.start)[0] in desk.context.bars for n in desk.scope.notes)
    after = [b for (_, a), (_, b) in zip(desk.scope.grips, desk.scope.grips[1:], strict=False) if a.label == grip.label]
    return any(n.midi % 12 == row.name.pitch_class for g in after for n in g.notes)


def judge_edge(desk: Desk, row: Found, said: str) -> None:
    """ "The bass is C", "the top note is C5": the outermost key of the grips that are meant."""
    hand = desk.context.hand if re.search(r"\b(?:left|right|lh|rh)\b", desk.sentence, re.IGNORECASE) else None
    grips = [g for g in desk.meant() if (desk.context.grips or desk.context.bars) and hand_notes(g, hand)]
    if not grips:
        return
    top = said.lower().startswith(("top", "highest"))
    ends = [hand_notes(g, hand)[-1 if top else 0] for g in grips]
    if said.lower() == "bottom" and hand is None:  # "at the bottom" is said of either hand's chord
        ends += [g.right[0] for g in grips if g.right]
    if hand is None and desk.context.hand:  # or of the hand that the talk is of
        ends += [held[-1 if top else 0] for g in grips if (held := hand_notes(g, desk.context.hand))]
    kind = "octave" if row.octave is not None else "note"
    for note in ends:
        if note.midi % 12 == row.name.pitch_class and (row.octave is None or note.midi == midi_of(row) or (not top and (note.midi - midi_of(row)) % 12 == 0)):
            desk.claim(row.start, row.end, kind, AGREES)
            return
    right = desk.say_pitch(ends[0].pitch) if row.octave is not None else desk.say(parse_pitch(ends[0].pitch)[0])
    where = "highest" if top else "lowest"
    desk.claim(row.start, row.end, kind, CONTRADICTS, right, f"the {where} note there is {desk.say_pitch(ends[0].pitch)}")


def judge_octave_on(desk: Desk, row: Found) -> None:
    """ "An octave on D": one key and the same an octave away, together or one after the other; the last of them where the words end with it."""
    if not (desk.context.bars or desk.context.grips):
        return
    listed = re.search(r"\boctaves (?:on|of) [A-G](?: flat| sharp|[b#♭♯])?(?:,| and)", desk.sentence) is not None
    several = (listed or len(re.findall(r"\boctaves? (?:on|of)\b", desk.sentence, re.IGNORECASE)) > 1) and not BARS.search(desk.sentence)
    everywhere = replace(desk.context, bars=(), grips=())  # "an octave on E for one bar and an octave on C for the next"
    meant = {g.start: g.end for g in (desk.scope.grips_here(everywhere) if several else desk.meant())}
    hand = desk.context.hand if re.search(r"\b(?:left|right|lh|rh)\b", desk.sentence, re.IGNORECASE) else None
    notes = [n for n in desk.scope.notes if hand in (None, n.hand) and any(a <= n.start < b for a, b in meant.items())]
    held = [{n.midi for n in notes if a <= n.start < b} for a, b in sorted(meant.items())]
    there = [keys for keys in ({k for k in h if k + 12 in h} for h in held) if keys]
    if re.search(r"\b(?:ends?|finish(?:es)?|lastly)\b", desk.sentence[: row.start], re.IGNORECASE):
        there = there[-1:]
    if not there:
        return
    if any(k % 12 == row.name.pitch_class for keys in there for k in keys):
        desk.claim(row.start, row.end, _kind(row), AGREES)
        return
    right = desk.say(parse_pitch(next(n.pitch for n in notes if n.midi == min(there[-1])))[0])
    desk.claim(row.start, row.end, "note", CONTRADICTS, right, f"the octave there is on {right}")


def _is_listing(sentence: str, run: Sequence[Found]) -> bool:
    """Whether a list says everything that a hand holds, rather than some of it."""
    around = sentence[max(0, run[0].start - 40) : run[0].start].lower()
    after = sentence[run[-1].end :]
    if re.match(r"\s+(?:over|under|above|against|on) the\b", after, re.IGNORECASE):
        return False  # "A flat and F over the B flat seven": of the tune
    if re.match(r",?\s+(?:which|that's|that’s|that is|so that's|it's)\b[^.;]{0,16}\b(?:second|third|fourth|fifth|sixth|seventh|octave|tritone)\b", after):
        return False  # "A and E, which is a fifth": two of them
    return not re.search(r"\b(keep|kept|only|share|shares|common|stays?|moves?|from|leave|drop|goes|skip|add|outer|inner)\b", around)


def _gap(a: int, b: int) -> int:
    return min((a - b) % 12, (b - a) % 12)
