"""Chords, keys and inversions that are named, held against those that are played."""

from __future__ import annotations

import re
from collections.abc import Sequence
from itertools import takewhile

from valley.lesson.proof._desk import UNKNOWN, Desk
from valley.lesson.proof._scope import Found
from valley.lesson.proof._words import IN_ONE_HAND, OVER_CHORD, quality_named, read_count
from valley.theory.chord import Chord, name_inversion
from valley.theory.key import Key
from valley.theory.naming import AGREES, CONTRADICTS, PARTLY


def judge_chord(desk: Desk, row: Found) -> None:
    quality = row.quality or quality_named("maj")
    interval = row.bass.fifths - row.name.fifths if row.bass else 0
    claimed = Chord(row.name, quality, interval)
    here = desk.meant() if desk.pinned else desk.grips_here()
    desk.pinned = desk.pinned and IN_ONE_HAND.match(desk.sentence, row.end) is not None  # "on a D octave in the left and a D chord in the right"
    chords = [(g, c) for g in here if (c := g.chord)]
    exact = [g for g, c in chords if _same_chord(c, claimed) and (not row.bass or c.bass.pitch_class == claimed.bass.pitch_class)]
    if exact:
        spelled = any((c := g.chord) and c.root == claimed.root for g in exact)
        desk.context.grips, desk.context.chord = desk.scope.nearest(exact, desk.context), claimed
        desk.context.alike = tuple(exact)
        right = exact[0].chord
        assert right is not None
        if spelled:
            desk.claim(row.start, row.end, "chord", AGREES)
        else:
            desk.claim(row.start, row.end, "chord", PARTLY, desk.say_chord(right), f"it is written {desk.say_chord(right)} in this key")
        return
    # A chord over a foreign bass is the easy way to see a bigger one: "E diminished over C" is C9.
    bigger = [
        (g, c)
        for g, c in chords
        if row.bass
        and c.bass.pitch_class == claimed.bass.pitch_class
        and c.root.pitch_class != claimed.root.pitch_class
        and claimed.pitch_classes() <= c.pitch_classes()
    ]
    if bigger:
        desk.context.grips, desk.context.chord = tuple(g for g, _ in bigger), bigger[0][1]
        desk.claim(row.start, row.end, "chord", AGREES, message=f"together they are {desk.say_chord(bigger[0][1])}")
        return
    others = [r for r in desk.named if r.is_chord and r is not row]
    untold = [(g, c) for g, c in chords if not any(r.name.pitch_class == c.root.pitch_class and (not r.quality or r.quality == c.quality) for r in others)]
    near = min(untold or chords, key=lambda gc: _distance(gc[1], claimed), default=None)
    if near is None:
        desk.claim(row.start, row.end, "chord", UNKNOWN, message="there are no chords here to hold it against")
        return
    grip, right = near
    desk.context.grips, desk.context.chord = (grip,), right
    where = f"bar {max(1, desk.scope.chart.grid.place(grip.start)[0])} has" if desk.context.bars or len(here) == 1 else "the song has"
    if _same_chord(right, claimed):
        verdict, why = CONTRADICTS if row.bass else PARTLY, "the bass is another"
    elif right.root.pitch_class == claimed.root.pitch_class and claimed.pitch_classes() < right.pitch_classes():
        notes = [r.name.pitch_class for r in takewhile(lambda r: not r.is_chord, (r for r in desk.named if r.start >= row.end))]
        size = len(claimed.pitch_classes())
        spelled = set(notes[:size]) == claimed.pitch_classes() or (len(notes) >= size and set(notes) <= right.pitch_classes())
        verdict, why = AGREES if spelled else PARTLY, "a note of the chord is not named"  # the hands play no more of it than is told
    elif right.pitch_classes() == claimed.pitch_classes():
        verdict, why = PARTLY, "the same notes under another name"
    elif right.root.pitch_class == claimed.root.pitch_class:
        pointed = _POINTED.search(desk.sentence[: row.start]) and claimed.quality.harte == "maj" and "major" not in desk.sentence[row.start : row.end].lower()
        verdict, why = (AGREES, "it is named by its root") if pointed else (CONTRADICTS, "the quality is another")
    else:
        verdict, why = CONTRADICTS, "the root is another"
    agrees = verdict == AGREES
    desk.claim(row.start, row.end, "chord", verdict, "" if agrees else desk.say_chord(right), "" if agrees else f"{why}: {where} {desk.say_chord(right)}")


def judge_in_bars(desk: Desk, row: Found, bars: re.Match[str]) -> None:
    """ "E over G comes in bars two and six": in each of them."""
    claimed = Chord(row.name, row.quality or quality_named("maj"), row.bass.fifths - row.name.fifths if row.bass else 0)
    for group in (1, 2):
        there = [c.chord for c in desk.scope.chart.sounding_in(read_count(bars[group])) if c.chord]
        fits = any(_same_chord(c, claimed) and (not row.bass or c.bass.pitch_class == claimed.bass.pitch_class) for c in there)
        if there and not fits:
            desk.claim(bars.start(group), bars.end(group), "count", CONTRADICTS, "", f"bar {read_count(bars[group])} has {desk.say_chord(there[0])}")


def go_to_end(desk: Desk, match: re.Match[str]) -> None:
    """ "The song ends on", "the second part starts with": the chord that is named next is the last or first of it."""
    here = desk.grips_here()
    if here:
        last = match["end"].lower().startswith(("end", "finish"))
        desk.context.grips, desk.pinned = (here[-1 if last else 0],), True


def go_to_chord(desk: Desk, row: Found) -> None:
    """ "Over the A seven": the grips of a chord that the sentence names in passing, if the song has it here."""
    claimed = Chord(row.name, row.quality or quality_named("maj"), row.bass.fifths - row.name.fifths if row.bass else 0)
    here = [g for g in desk.grips_here() if _same_chord(g.chord, claimed) and (not row.bass or g.chord.bass.pitch_class == claimed.bass.pitch_class)]
    if here:
        desk.context.grips, desk.context.alike = desk.scope.nearest(here, desk.context), tuple(here)


def find_bass(desk: Desk, found: Sequence[Found]) -> Found | None:
    """ "Over the D we have F, B flat and D": a note that is the bass of a chord here, and no chord's root, with others above it."""
    row = next((r for r in found if not r.is_chord and r.octave is None and OVER_CHORD.search(desk.sentence[: r.start])), None)
    if row is None or len(found) < 2 or any(r.is_chord for r in found):
        return None
    chords = [g.chord for g in desk.grips_here()]
    stands = any(c.bass.pitch_class == row.name.pitch_class for c in chords)
    return row if stands and all(c.root.pitch_class != row.name.pitch_class for c in chords) else None


def go_to_bass(desk: Desk, row: Found) -> None:
    """The chord over that bass which the talk comes to next."""
    here = [g for g in desk.grips_here() if g.chord.bass.pitch_class == row.name.pitch_class]
    desk.context.grips = desk.scope.nearest(here, desk.context)
    desk.claim(row.start, row.end, "note", AGREES)


def go_to_final(desk: Desk) -> None:
    """ "The final G": the last chord of the bars or part that the words are about."""
    here = desk.grips_here()
    if here:
        desk.context.grips, desk.pinned = (here[-1],), True


def judge_run_of_chords(desk: Desk, rows: Sequence[Found], end: str) -> None:
    """ "The last three chords are …": each against its own place; a bare letter is the chord on that root."""
    grips = [g for number, g in desk.scope.grips if desk.context.part in (None, number)]
    for row, grip in zip(rows, grips[: len(rows)] if end == "first" else grips[-len(rows) :], strict=False):
        root = grip.chord.root.pitch_class == row.name.pitch_class
        fits = root if not row.is_chord else _same_chord(grip.chord, Chord(row.name, row.quality or quality_named("maj"), 0))
        right = "" if fits else desk.say_chord(grip.chord)
        desk.claim(row.start, row.end, "chord", AGREES if fits else CONTRADICTS, right, "" if fits else f"{right} comes there")


def judge_key(desk: Desk, row: Found) -> None:
    """A key that is named, against those of the song, or of the part that is named."""
    spans = [desk.scope.chart.span(p) for p in desk.scope.chart.parts if desk.context.part in (None, p.number)]
    keys = [a.key for a in desk.scope.chart.keys] if desk.context.part is None else [desk.scope.chart.key_at(start) for start, _ in spans]
    mode = "minor" if row.quality and row.quality.harte == "min" else "major"
    same = [k for k in keys if k.tonic.pitch_class == row.name.pitch_class and (k.mode == mode or row.quality is None)]
    right = desk.say_key(keys[0])
    if _LIFTS.search(desk.sentence[: row.start]):  # "the chorus lifts into E flat major": into the key beside it, where the chart has one for both
        beside = [Key(k.tonic.up(-3), "major") if k.mode == "minor" else Key(k.tonic.up(3), "minor") for k in keys]
        same += [k for k in beside if k.tonic.pitch_class == row.name.pitch_class and k.mode == mode]
    if any(k.tonic == row.name for k in same):
        desk.claim(row.start, row.end, "key", AGREES)
    elif same:
        desk.claim(row.start, row.end, "key", PARTLY, desk.say_key(same[0]), "the key is written otherwise here")
    else:
        desk.claim(row.start, row.end, "key", CONTRADICTS, right, f"the key is {right}")


_LIFTS = re.compile(
    r"\b(?:(?:lifts?|moves?|shifts?|goes|changes?|turns?|opens?) (?:up |down |out )?(?:in)?to|(?:ends? up|lands?|settles?) in|feels? (?:more )?like)"
    r" (?:an? |the )?$",
    re.IGNORECASE,
)
_POINTED = re.compile(r"\b(?:that|this)\s+(?:(?!is\b)\w+\s+)?$", re.IGNORECASE)  # "that weird F sharp chord": half diminished though it is


def judge_inversion(desk: Desk, match: re.Match[str]) -> None:
    grips = desk.context.grips
    if not grips:
        return
    words = match[1].lower()
    right = {g.inversion for g in grips} | {i for g in grips if (c := g.chord) and (i := name_inversion(c))}
    spelled = {i for g in desk.meant() for i in _inversions_spelled(desk.context.spelled, g.chord)}
    right = spelled if spelled and _RIGHT_HAS.search(desk.sentence[: match.start()]) and len(desk.told) > 2 else right | spelled
    if words in right:
        desk.claim(match.start(), match.end(), "chord", AGREES)
    else:
        played = " or ".join(dict.fromkeys(g.inversion for g in grips))  # the chord may be held in several ways
        desk.claim(match.start(), match.end(), "chord", CONTRADICTS, played, f"the lowest note makes it {played}")


_RIGHT_HAS = re.compile(r"\bright(?: hand)?(?:'s|’s| has| plays| gets| holds| takes)\b", re.IGNORECASE)


def judge_member_in_bass(desk: Desk, match: re.Match[str]) -> None:
    """ "B seven with the fifth in the bass": which of its notes the chord stands on."""
    grip = next(iter(desk.context.grips), None)
    if grip is None:
        return
    steps = {"third": (4, -3), "fifth": (1, -6, 8), "seventh": (-2, 5), "root": (0,)}
    right = next((word for word, intervals in steps.items() if grip.chord.bass_interval in intervals), "")
    if right:
        said = match[1].lower()
        desk.claim(match.start(1), match.end(1), "chord", AGREES if said == right else CONTRADICTS, "" if said == right else right, f"the bass is the {right}")


def _inversions_spelled(told: Sequence[int], chord: Chord) -> set[str]:
    """As what the notes that were just listed hold a chord: "A, C, F, that's F in first inversion", whatever the other hand adds below."""
    members = {m.pitch_class for m in chord.members()}
    size = len(members)
    return {name_inversion(chord, told[i]) for i in range(len(told) - size + 1) if set(told[i : i + size]) == members}


def _same_chord(one: Chord, other: Chord) -> bool:
    return one.root.pitch_class == other.root.pitch_class and one.quality == other.quality


def _distance(right: Chord, claimed: Chord) -> float:
    """How far a claimed chord is from one that is there: same root first, then notes in common."""
    common = len(right.pitch_classes() & claimed.pitch_classes())
    return 10.0 * (right.root.pitch_class != claimed.root.pitch_class) + len(right.pitch_classes() ^ claimed.pitch_classes()) - 0.1 * common
