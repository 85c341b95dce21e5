"""English. Plain and short; several ways where a sentence comes often."""

from __future__ import annotations

from collections.abc import Sequence
from fractions import Fraction

NO_CHORD, NOTHING = "no chord", "nothing"
MODES = {"major": "major", "minor": "minor"}
_STEPS = {1: "a semitone", 2: "a tone", 3: "a minor third", 4: "a major third", 5: "a fourth", 6: "a tritone", 7: "a fifth", 12: "an octave"}
_LETTERS = {3: 2, 4: 2, 5: 3, 7: 4, 12: 7}  # by how many letters the named intervals go


def join_names(names: Sequence[str]) -> str:
    """ "A, C and E"."""
    return "" if not names else names[0] if len(names) == 1 else f"{', '.join(names[:-1])} and {names[-1]}"


def say_amount(amount: Fraction, unit: str) -> str:
    """So many of a unit.

    >>> say_amount(Fraction(1), "beat"), say_amount(Fraction(3, 2), "beat"), say_amount(Fraction(2), "bar")
    ('1 beat', '1 1/2 beats', '2 bars')
    """
    whole, rest = divmod(amount, 1)
    number = f"{whole} {rest}" if whole and rest else str(rest or whole)
    return f"{number} {unit}{'' if 0 < amount <= 1 else 's'}"


def say_distance(half_steps: int, letters: int | None = None) -> str:
    """A distance as a player says it: "up a fourth". Where the spelling makes another interval of it, the keys are counted: Ab to B is no third.

    ``letters`` is how many letters the spelled notes lie apart; None where they are not spelled.

    >>> say_distance(-5), say_distance(3, letters=2), say_distance(3, letters=1)
    ('down a fourth', 'up a minor third', 'up 3 semitones')
    """
    size = abs(half_steps)
    fits = letters is None or _LETTERS.get(size, letters) == letters
    return f"{'up' if half_steps > 0 else 'down'} {_STEPS[size] if fits and size in _STEPS else f'{size} semitones'}"


PHRASES: dict[str, tuple[str, ...]] = {
    "own": ("{text}",),
    # titles
    "title opening": ("What you will learn",),
    "title chords": ("The chords",),
    "title part": ("Part {number}",),
    "title named part": ("Part {number}, {name}",),
    "title right": ("{part}: right hand",),
    "title left": ("{part}: left hand",),
    "title both": ("{part}: both hands",),
    "title pattern": ("{part}: the pattern",),
    "title links": ("{part}: what joins the chords",),
    "title pedal": ("The pedal",),
    "title repeat": ("{part}, a repeat",),
    "title join": ("Join the parts",),
    "title variations": ("Smaller and bigger",),
    "title closing": ("All of it",),
    "title added": ("Another step",),
    # the opening
    "opening": ("We learn {title}: {bars}, {learn} of them to learn, in {parts}.",),
    "sounds": ("First listen: this is how it sounds at full speed.",),
    "key": ("The key is {key}. Its notes: {scale}.",),
    "key change": ("From bar {bar} the key is {key}. Its notes: {scale}.",),
    "meter": ("The metre is {meter}, about {bpm} beats to the minute.",),
    "meter first": ("{meter}",),
    "meter from": ("{meter} from bar {bar}",),
    "count": ("In each bar we count {count}.",),
    "middle": ("Middle C is {middle}, the C nearest the middle of the keyboard. The left hand begins on {left}, the right hand on {right}.",),
    "middle alone": ("Middle C is {middle}, the C nearest the middle of the keyboard.",),
    "middle words": (
        "Middle C is the one with the name, the C nearest the middle of the keyboard. The left hand begins on {left}, the right hand on {right}.",
    ),
    "middle words alone": ("Middle C is the one with the name, the C nearest the middle of the keyboard.",),
    "tuned above": ("The recording stands {cents} cents above a tuned piano, so playing along will sound a little off.",),
    "tuned below": ("The recording stands {cents} cents below a tuned piano, so playing along will sound a little off.",),
    "caution": ("Stop and rest if a hand tires or hurts, and take the smaller grip; for pain ask a teacher or a clinician.",),
    # chords and hands
    "no chords": ("There are no chords in this chart yet.",),
    "grip": ("{chord}: {hands}.",),
    "grip without": ("{chord}, without its {omits}: {hands}.",),
    "grip placed": ("{chord} ({inversion}): {hands}.",),
    "grip placed without": ("{chord} ({inversion}), without its {omits}: {hands}.",),
    "left holds": ("left {notes}",),
    "right holds": ("right {notes}",),
    "seen as": ("Think of {triad} over {bass}: together they are {chord}.",),
    "part bars": ("{part}: bars {first} to {last}.",),
    "part bar": ("{part}: bar {first}.",),
    "part rests": ("No chord sounds in this part; rest, and count it through.",),
    "part sings": ("No chord sounds in this part; the tune is alone.",),
    "pattern now": ("From the start we play it in its pattern, {pattern}: {summary}",),
    "right tune": ("Right hand alone, the tune (counts in brackets):",),
    "right chords": ("Right hand alone, the chords as blocks, one after the other:",),
    "tune bar": ("Bar {bar}: {notes}.",),
    "tune pickup": ("Before bar 1: {notes}.",),
    "first": ("{note}",),
    "again": ("again {note}",),
    "up to": ("up to {note}",),
    "down to": ("down to {note}",),
    "note": ("{pitch}",),
    "note counted": ("{pitch} ({count})",),
    "note fingered": ("{pitch} ({count}, finger {finger})",),
    "left": ("Left hand alone:",),
    "place": ("Bar {bar} on {count}: {notes}.",),
    "place pickup": ("Before bar 1, on {count}: {notes}.",),
    "fingers": ("Fingers {fingers}.",),
    "meets": (
        "{chord} falls together with the tune's {note}, on {count}.",
        "On {count} the tune's {note} and {chord} sound together.",
        "The tune's {note} meets {chord} on {count}.",
    ),
    "alone": ("{chord} on {count} stands alone; the tune rests.", "On {count} {chord} comes by itself."),
    "together": ("Both hands, slowly, counting aloud:",),
    "both": ("Both hands, chord by chord, from the lowest note up:",),
    "at": ("Bar {bar}, on {count}: {said}",),
    "at pickup": ("Before bar 1, on {count}: {said}",),
    "hold": ("Hold {beats}.", "Keep it {beats}."),
    "changed": ("{count} keys change.",),
    "one changed": ("One key changes.",),
    "none changed": ("No key changes.",),
    # moves
    "right stays": ("Right hand: stay.",),
    "left stays": ("Left hand: stay.",),
    "right moves": ("Right hand: {clauses}.",),
    "left moves": ("Left hand: {clauses}.",),
    "keep": ("keep {notes}",),
    "goes": ("{old} goes {way} to {new}",),
    "let go": ("let go of {notes}",),
    "add": ("add {notes}",),
    "play": ("play {notes}",),
    # repeats
    "same": ("Part {number} is part {model} again, note for note. Nothing new to learn.", "Part {number}: the same as part {model}, note for note."),
    "moved": ("Part {number} is part {model} again at another pitch: {how}. The shapes stay, every key moves.",),
    "one difference": ("Part {number} goes like part {model}, with this difference:",),
    "differences": ("Part {number} goes like part {model}, with these differences:",),
    "difference": ("{difference}.",),
    "differs pitch": ("{distance}",),
    "differs chords": ("bar {bar}: {now} instead of {then}",),
    "differs chords moved": ("bar {bar}: {now} instead of {then} moved along",),
    "differs ending": ("another ending, bar {bar}: {now} instead of {then}",),
    "differs ending moved": ("another ending, bar {bar}: {now} instead of {then} moved along",),
    "differs shorter": ("stops {bars} early",),
    "differs longer": ("goes on for {bars} more",),
    "differs tune": ("another tune over the same chords",),
    "differs rests": ("the tune rests",),
    "differs added": ("a tune is added",),
    "differs note": ("tune: one note differs, {bars}",),
    "differs notes": ("tune: {count} notes differ, {bars}",),
    "in bar": ("bar {bars}",),
    "in bars": ("bars {bars}",),
    "in bars and more": ("bars {bars} …",),
    "more differences": ("and {count} more differences",),
    "half step higher": ("a half step higher",),
    "half step lower": ("a half step lower",),
    "whole step higher": ("a whole step higher",),
    "whole step lower": ("a whole step lower",),
    "fourth higher": ("a fourth higher",),
    "fourth lower": ("a fourth lower",),
    "half steps higher": ("{count} half steps higher",),
    "half steps lower": ("{count} half steps lower",),
    # pattern, links, pedal
    "pattern": ("Now the pattern, {pattern}: {summary}", "The same chords in the pattern, {pattern}: {summary}"),
    "pattern count": ("Learn it on {chord} first, counting {count}. Then carry it over to the next chord unchanged.",),
    "pattern half": ("A chord of {beats} gets half of it.",),
    "pattern quarter": ("A chord of {beats} gets a quarter of it.",),
    "pattern three quarters": ("A chord of {beats} gets three quarters of it.",),
    "pattern third": ("A chord of {beats} gets a third of it.",),
    "pattern two thirds": ("A chord of {beats} gets two thirds of it.",),
    "pattern share": ("A chord of {beats} gets {share} of it.",),
    "easier": ("Easier: {words}",),
    "walk up": ("The left hand walks up {notes} to {goal}.",),
    "walk down": ("The left hand walks down {notes} to {goal}.",),
    "walk easier": ("Play only {note} before {goal}, or leave the walk out.",),
    "approach": ("{note} leads the left hand into {goal}.",),
    "approach easier": ("Leave it out and hold the bass.",),
    "fill": ("While the tune rests, the right hand falls through the chord: {notes}.",),
    "fill easier": ("Play only {notes}, or rest.",),
    "grace": ("Slide from {note} into {goal} with the same finger.",),
    "grace easier": ("Play the plain note.",),
    "run": ("A run up in octaves, both hands, from {note} to the next chord.",),
    "run easier": ("Play it with the right hand alone, or only its last notes.",),
    "pedal": ("Pedal: down just after each chord, up and down again at the next. Without a pedal hold the lowest note a little longer.",),
    # joining and closing
    "join": ("Play parts {parts} one after the other without stopping.", "Now parts {parts} in a row, without a stop."),
    "small hands": ("For small hands: {words}.",),
    "big finish": ("For a bigger finish: {words}.",),
    "small hands and so on": ("For small hands: {words}, and so on.",),
    "big finish and so on": ("For a bigger finish: {words}, and so on.",),
    "chord as": ("{chord} as left {left}, right {right}",),
    "chord as left": ("{chord} as left {left}, right the tune",),
    "chord as right": ("{chord} as left nothing, right {right}",),
    "stars": ("Notes with a star may be left out.",),
    "whole": ("The whole song: parts {route}.",),
    "ladder": ("Practise at {ladder} beats to the minute; go on when a speed is easy three times running.",),
    "next": ("When that is easy: parts {parts} are still to learn.",),
    "full speed": ("And now at the song's own tempo, with the recording.",),
}
