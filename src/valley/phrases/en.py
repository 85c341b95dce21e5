"""English. Plain and short; several ways where a sentence comes often."""

from __future__ import annotations

from collections.abc import Sequence
from fractions import Fraction

NO_CHORD, NOTHING, IF_YOU_LIKE = "no chord", "nothing", "if you like"
MODES = {"major": "major", "minor": "minor"}
TIMES = {2: "twice"}
_INTERVALS = {
    1: "a half step",
    2: "a whole step",
    3: "a minor third",
    4: "a major third",
    5: "a fourth",
    6: "a tritone",
    7: "a fifth",
    8: "a minor sixth",
    9: "a major sixth",
    10: "a minor seventh",
    11: "a major seventh",
}
_SHARES = {Fraction(1, 2): "a half", Fraction(1, 4): "a quarter", Fraction(3, 4): "three quarters", Fraction(1, 3): "a third", Fraction(2, 3): "two thirds"}
_SPOKEN_COUNTS = {"&": "and", "e": "e", "a": "a", "trip": "trip", "let": "let"}
_KEYS = {1: ("the key",), 2: ("bottom", "top"), 3: ("bottom", "middle", "top")}
_NUMBERED = ("first", "second", "third", "fourth", "fifth", "sixth", "seventh", "eighth", "ninth", "tenth")


def join_names(names: Sequence[str]) -> str:
    """ "A, C and E"."""
    return "" if not names else names[0] if len(names) == 1 else f"{', '.join(names[:-1])} and {names[-1]}"


def say_amount(amount: Fraction, unit: str) -> str:
    """So many of a unit.

    >>> say_amount(Fraction(1), "beat"), say_amount(Fraction(3, 2), "beat"), say_amount(Fraction(1, 2), "beat"), say_amount(Fraction(2), "bar")
    ('1 beat', '1 beat and a half', 'half a beat', '2 bars')
    """
    whole, rest = divmod(amount, 1)
    share = _SHARES.get(rest, str(rest)) if rest else ""
    if not whole:
        return f"half a {unit}" if rest == Fraction(1, 2) else f"{share} of a {unit}"
    return f"{whole} {unit}{'' if whole == 1 else 's'}{f' and {share}' if share else ''}"


def say_length(beats: Fraction, bar: Fraction) -> str:
    """How long something lasts, in bars where it fills them.

    >>> say_length(Fraction(4), Fraction(4)), say_length(Fraction(8), Fraction(4)), say_length(Fraction(2), Fraction(4))
    ('a bar', '2 bars', '2 beats')
    """
    if bar and beats == bar:
        return "a bar"
    return say_amount(beats / bar, "bar") if bar and beats % bar == 0 else say_amount(beats, "beat")


def say_times(number: int) -> str:
    """
    >>> say_times(2), say_times(3)
    ('twice', '3 times')
    """
    return TIMES.get(number, f"{number} times")


def say_count(count: str) -> str:
    """A place in a bar as it is counted aloud.

    >>> say_count("2"), say_count("2 &"), say_count("1 + 3/8")
    ('2', '2 and', '3/8 of a count after 1')
    """
    beat, _, rest = count.partition(" ")
    if rest.startswith("+"):
        return f"{rest[1:].strip()} of a count after {beat}"
    return f"{beat} {_SPOKEN_COUNTS.get(rest, rest)}" if rest else _SPOKEN_COUNTS.get(beat, beat)


def say_stroke(keys: str, graces: str, count: str) -> str:
    """Keys with their count and what slides into them."""
    said = f"{graces} into {keys}" if graces and keys else f"grace {graces}" if graces else keys
    return f"{said} on {count}" if count else said


def say_keys(row: Sequence[int], size: int) -> str:
    """Keys of a grip by where they lie in it, from the bottom.

    >>> say_keys((0,), 3), say_keys((1, 2), 3), say_keys((3,), 4), say_keys((0, 1, 2), 3)
    ('bottom', 'middle and top', 'fourth', 'all')
    """
    if len(row) == size > 1:
        return "all"
    names = _KEYS.get(size, _NUMBERED)
    return " and ".join(names[i] for i in row)


def say_distance(half_steps: int, letters: int | None = None) -> str:
    """A distance as a player says it: "up a fourth".

    >>> say_distance(-5), say_distance(12), say_distance(16)
    ('down a fourth', 'up an octave', 'up an octave and a major third')
    """
    octaves, size = divmod(abs(half_steps), 12)
    said = [["", "an octave", "two octaves", "three octaves"][octaves] if octaves < 4 else f"{octaves} octaves", _INTERVALS.get(size, "")]
    return f"{'up' if half_steps > 0 else 'down'} {' and '.join(x for x in said if x)}"


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
    "opening all new": ("We learn {title}: {bars} in {parts}.",),
    "sounds": ("First listen: this is how it sounds at full speed.",),
    "key": ("The key is {key}. Its notes: {scale}.",),
    "key change": ("From bar {bar} the key is {key}. Its notes: {scale}.",),
    "meter": ("The metre is {meter}, about {bpm} beats to the minute.",),
    "meter first": ("{meter}",),
    "meter from": ("{meter} from bar {bar}",),
    "count": ("In each bar we count {count}.",),
    "middle": ("Middle C is {middle}, the C nearest the middle of the keyboard. The left hand begins on {left}, the right hand on {right}.",),
    "middle alone": ("Middle C is {middle}, the C nearest the middle of the keyboard.",),
    "middle words": ("Middle {middle} is the {middle} nearest the middle of the keyboard. The left hand begins on {left}, the right hand on {right}.",),
    "middle words alone": ("Middle {middle} is the {middle} nearest the middle of the keyboard.",),
    "registers": ("Low and deep are the octaves below the middle one, high and higher those above; each begins on its {middle}.",),
    "tuned above": ("The recording stands {cents} cents above a tuned piano, so playing along will sound a little off.",),
    "tuned below": ("The recording stands {cents} cents below a tuned piano, so playing along will sound a little off.",),
    "caution": ("Stop and rest if a hand tires or hurts, and take the smaller grip; for pain ask a teacher or a clinician.",),
    # chords and hands
    "no chords": ("There are no chords in this chart yet.",),
    "chords": ("{count} chords: {chords}.",),
    "one chord": ("One chord: {chords}.",),
    "goes without": ("{chord} is played without its {omits}.",),
    "named": ("{chord}",),
    "seen as": ("Think of {triad} over {bass}: together they are {chord}.",),
    "part bars": ("{part}: bars {first} to {last}.",),
    "part bar": ("{part}: bar {first}.",),
    "part rests": ("No chord sounds in this part; rest, and count it through.",),
    "part sings": ("No chord sounds in this part; the tune is alone.",),
    "progression": ("The chords: {chords}.",),
    "progression times": ("The chords: {chords}; all that {times}.",),
    "chords each": ("{chords}, {length} each",),
    "one chord for": ("{chord} for {length}",),
    # hands
    "left heading": ("Left hand:",),
    "right heading": ("Right hand:",),
    "left rests": ("The left hand rests.",),
    "right rests": ("The right hand rests.",),
    "blocks first": ("First as blocks: press each chord as it comes.",),
    "blocks held": ("Hold each chord as it comes.",),
    "blocks": ("Press each chord as it comes.",),
    "each chord": ("each chord",),
    "on chords": ("{chords}",),
    "figure blocks": ("On {which}: all keys at once.",),
    "figure even": ("On {which}, in {value}: {order}.",),
    "figure even over": ("On {which}, in {value}, over and over: {order}.",),
    "figure counted": ("On {which}, counting from 1: {order}.",),
    "figure counted over": ("On {which}, counting from 1, again after {length}: {order}.",),
    "quarters": ("quarters",),
    "eighths": ("eighths",),
    "sixteenths": ("sixteenths",),
    "triplets": ("triplets",),
    "halves": ("halves",),
    "chord is": ("{chord} is {notes}.",),
    "chord is so": ("{chord} is {notes} ({way}).",),
    "chord is fingered": ("{chord} is {notes}, fingers {fingers}.",),
    "chord is fingered so": ("{chord} is {notes}, fingers {fingers} ({way}).",),
    "bar n": ("Bar {bar}",),
    "bars n to m": ("Bars {first} to {last}",),
    "before bar 1": ("Before bar 1",),
    "bar": ("{where}: {strokes}.",),
    "bar same counts": ("{where}, same counts: {strokes}.",),
    "bar even": ("{where}, in {value}: {strokes}.",),
    "bar even from": ("{where}, in {value} from {count}: {strokes}.",),
    "bar even times": ("{where}, in {value}, {times}: {strokes}.",),
    "bar even from times": ("{where}, in {value} from {count}, {times}: {strokes}.",),
    "rest": ("{where}: rest.",),
    "like bar": ("{where}: like bar {model}.",),
    "like bar moved": ("{where}: like bar {model}, every key {distance}.",),
    "each like bar": ("{where}: each like bar {model}.",),
    "like bars": ("{where}: like bars {from_bar} to {to_bar}.",),
    "like bars moved": ("{where}: like bars {from_bar} to {to_bar}, every key {distance}.",),
    "like bar but": ("{where}: like bar {model}, but {strokes}.",),
    "like bar without": ("{where}: like bar {model}, but nothing on {count}.",),
    "left adds": ("{where}, the left hand adds {strokes}.",),
    "right adds": ("{where}, the right hand adds {strokes}.",),
    "cues": ("Words to find your place by: {cues}.",),
    "cue": ("“{text}” in bar {bar} on {count}",),
    "cue pickup": ("“{text}” before bar 1 on {count}",),
    "all meet": ("Each chord falls together with a note of the tune.",),
    "none meet": ("The chords and the tune take turns: each chord comes by itself.",),
    "some meet": ("Where the tune rests as the chord changes, the chord comes by itself.",),
    "meet but in bar": ("Each chord falls together with a note of the tune, but in bar {bars}: there it comes by itself.",),
    "meet but in bars": ("Each chord falls together with a note of the tune, but in bars {bars}: there it comes by itself.",),
    "together": ("Both hands, slowly, counting aloud:",),
    # moves
    "right does": ("Right hand: {way}.",),
    "left does": ("Left hand: {way}.",),
    "way stays": ("stay",),
    "way one key": ("only {old} moves, {way} to {new}",),
    "way one key on": ("only {old} moves, to {new}",),
    "way alone on": ("to {note}",),
    "way keeps": ("keep {notes}",),
    "way thumb stays": ("the thumb stays on {note}",),
    "way adds": ("add {notes}",),
    "way leaves": ("keep only {notes}",),
    "way same shape": ("the same shape, {way}",),
    "way same shape on": ("the same shape on {note}",),
    "way steps up": ("each finger a step up",),
    "way steps down": ("each finger a step down",),
    "way alone": ("{way} to {note}",),
    "way lands": ("a new place, {notes}",),
    "passed": ("{hand} takes over {notes}.",),
    "to the left": ("The left hand",),
    "to the right": ("The right hand",),
    # repeats
    "part again": ("{part}, bars {first} to {last}: part {model} again, note for note.",),
    "part again moved": ("{part}, bars {first} to {last}: part {model} again, every key {distance}.",),
    "left as in": ("Left hand: as in part {model}.",),
    "right as in": ("Right hand: as in part {model}.",),
    "left as in moved": ("Left hand: as in part {model}, every key {distance}.",),
    "right as in moved": ("Right hand: as in part {model}, every key {distance}.",),
    "left as in but": ("Left hand: as in part {model}, but for {bars}.",),
    "right as in but": ("Right hand: as in part {model}, but for {bars}.",),
    "left as in moved but": ("Left hand: as in part {model}, every key {distance}, but for {bars}.",),
    "right as in moved but": ("Right hand: as in part {model}, every key {distance}, but for {bars}.",),
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
    "pedal": ("Pedal: down just after each chord, up and down again at the next.",),
    "without pedal": ("Without a pedal hold the lowest note a little longer.",),
    # joining and closing
    "join": ("Play parts {first} to {last} in a row, without a stop.",),
    "join two": ("Play parts {first} and {last} in a row, without a stop.",),
    "small hands": ("For small hands: {words}.",),
    "big finish": ("For a bigger finish: {words}.",),
    "small hands and so on": ("For small hands: {words}, and so on.",),
    "big finish and so on": ("For a bigger finish: {words}, and so on.",),
    "chord as": ("{chord} as left {left}, right {right}",),
    "chord as left": ("{chord} as left {left}",),
    "chord as right": ("{chord} as right {right}",),
    "stars": ("What is told with “if you like” may be left out.",),
    "whole part": ("Now all of it without a stop.",),
    "whole": ("The whole song: parts {route}.",),
    "ladder": ("Practise at {ladder} beats to the minute; go on when a speed is easy three times running.",),
    "next": ("When that is easy: parts {parts} are still to learn.",),
    "full speed": ("And now at the song's own tempo.",),
    "full speed recorded": ("And now at the song's own tempo, with the recording.",),
}
