"""The patterns that come with Valley. A new one is one row; ``arranging.patterns`` says how it is written.

In 6/8 the beat is the dotted quarter: an eighth is a third of a beat.
"""

from __future__ import annotations

from valley.arranging.patterns import PatternError, make_form
from valley.fraction import Fraction
from valley.model.pattern import Pattern

HELD = "held"


def _row(name: str, title: str, summary: str, *forms: tuple[str, str, str] | tuple[str, str, str, Fraction | int]) -> Pattern:
    return Pattern(name, title, summary, tuple(make_form(*form) for form in forms))


_ROWS = (
    _row(
        "held",
        "Held",
        "Both hands hold the grip as long as the chord lasts.",
        ("4/4", "all@4", "all@4"),
        ("3/4", "all@3", "all@3"),
        ("6/8", "all@2", "all@2"),
        ("2/4", "all@2", "all@2"),
    ),
    _row(
        "every-beat",
        "On every beat",
        "Both hands strike the grip on every beat.",
        ("4/4", "all@1 all@1 all@1 all@1", "all@1 all@1 all@1 all@1", 1),
        ("3/4", "all@1 all@1 all@1", "all@1 all@1 all@1", 1),
        ("6/8", "all@1 all@1", "all@1 all@1", 1),
        ("2/4", "all@1 all@1", "all@1 all@1", 1),
    ),
    _row(
        "bass-and-beats",
        "Long bass, chord on the beats",
        "The left hand holds, the right hand strikes the chord on every beat.",
        ("4/4", "all@4", "all@1> all@1 all@1 all@1", 1),
        ("3/4", "all@3", "all@1> all@1 all@1", 1),
        ("6/8", "all@2", "all@1> all@1", 1),
        ("2/4", "all@2", "all@1> all@1", 1),
    ),
    _row(
        "pulse",
        "Pulse",
        "The right hand strikes the chord in even eighths over a held bass.",
        ("4/4", "all@4", "all@1/2> all@1/2 all@1/2 all@1/2 all@1/2> all@1/2 all@1/2 all@1/2", 1),
        ("3/4", "all@3", "all@1/2> all@1/2 all@1/2 all@1/2 all@1/2 all@1/2", 1),
        ("6/8", "all@2", "all@1/3> all@1/3 all@1/3 all@1/3> all@1/3 all@1/3", 1),
        ("2/4", "all@2", "all@1/2> all@1/2 all@1/2 all@1/2", 1),
    ),
    _row(
        "low-then-upper",
        "Low, then the upper notes",
        "The lowest note on the strong beats, the others after it.",
        ("4/4", "low@1 upper@1 low@1 upper@1", "", 2),
        ("3/4", "low@1 upper@1 upper@1", "", 1),
        ("6/8", "low@1/3 upper@1/3 upper@1/3 low@1/3 upper@1/3 upper@1/3", "", 1),
        ("2/4", "low@1/2 upper@1/2 low@1/2 upper@1/2", "", 1),
    ),
    _row(
        "broken",
        "Broken chord",
        "The left hand's notes one by one: up and back.",
        ("4/4", "1@1/2~ 2@1/2 3@1/2 2@1/2 1@1/2~ 2@1/2 3@1/2 2@1/2", "", 1),
        ("3/4", "1@1/2~ 2@1/2 3@1/2 2@1/2 3@1/2 2@1/2", "", 1),
        ("6/8", "1@1/3~ 2@1/3 3@1/3 1@1/3~ 2@1/3 3@1/3", "", 1),
        ("2/4", "1@1/2~ 2@1/2 3@1/2 2@1/2", "", 1),
    ),
    _row(
        "rocking",
        "Low, high, middle, high",
        "The lowest note, the highest, the middle one, the highest: an even rocking under a tune.",
        ("4/4", "low@1/2~ top@1/2 mid@1/2 top@1/2 low@1/2~ top@1/2 mid@1/2 top@1/2", "", 1),
        ("3/4", "low@1/2~ top@1/2 mid@1/2 top@1/2 mid@1/2 top@1/2", "", 1),
        ("6/8", "low@1/3~ top@1/3 mid@1/3 low@1/3~ top@1/3 mid@1/3", "", 1),
        ("2/4", "low@1/4~ top@1/4 mid@1/4 top@1/4 low@1/4~ top@1/4 mid@1/4 top@1/4", "", 1),
    ),
    _row(
        "root-fifth-octave",
        "Root, fifth, octave",
        "Root, fifth, octave and back to the fifth, in eighths.",
        ("4/4", "bass@1/2~ +5@1/2 +8@1/2 +5@1/2 bass@1/2~ +5@1/2 +8@1/2 +5@1/2", "", 1),
        ("3/4", "bass@1/2~ +5@1/2 +8@1/2 +5@1/2 +8@1/2 +5@1/2", "", 1),
        ("6/8", "bass@1/3~ +5@1/3 +8@1/3 bass@1/3~ +5@1/3 +8@1/3", "", 1),
        ("2/4", "bass@1/2~ +5@1/2 +8@1/2 +5@1/2", "", 1),
    ),
    _row(
        "wide-arpeggio",
        "Wide arpeggio",
        "Root, fifth, octave, tenth and back, the hand opening and closing; the pedal holds it.",
        ("4/4", "bass@1/2~ +5@1/2~ +8@1/2~ +10@1/2~ +12@1/2 +10@1/2 +8@1/2 +5@1/2", "", 2),
        ("3/4", "bass@1/2~ +5@1/2~ +8@1/2~ +10@1/2 +8@1/2 +5@1/2", "", 1),
        ("6/8", "bass@1/3~ +5@1/3~ +8@1/3~ +10@1/3 +8@1/3 +5@1/3", "", 1),
        ("2/4", "bass@1/2~ +5@1/2~ +8@1/2 +10@1/2", "", 1),
    ),
    _row(
        "crossing-arpeggio",
        "Crossing arpeggio",
        "Left, then right, then the left hand crosses over to the top.",
        ("4/4", "bass@1/2~ +5@1/2~ -@3/2 over@1/2~ -@1", "-@1 1@1/2~ 2@1/2~ 3@1/2~ -@1/2 3@1/2 2@1/2", 2),
        ("3/4", "bass@1/2~ -@3/2 over@1/2~ -@1/2", "-@1/2 1@1/2~ 2@1/2~ 3@1/2~ -@1/2 2@1/2", 1),
        ("6/8", "bass@1/3~ -@1 over@1/3 -@1/3", "-@1/3 1@1/3~ 2@1/3~ 3@1/3~ -@1/3 2@1/3", 1),
        ("2/4", "bass@1/4~ +5@1/4~ -@3/4 over@1/4~ -@1/2", "-@1/2 1@1/4~ 2@1/4~ 3@1/4~ -@1/4 3@1/4 2@1/4", 1),
    ),
    _row(
        "together-right-left",
        "Together, right, left",
        "Both hands together, then the right alone, then the left alone, which holds on in four.",
        ("4/4", "all@1 -@1 all@2", "all@1 all@1 -@2", 1),
        ("3/4", "all@1 -@1 all@1", "all@1 all@1 -@1", 1),
        ("6/8", "all@1/3 -@1/3 all@1/3 all@1/3 -@1/3 all@1/3", "all@1/3 all@1/3 -@1/3 all@1/3 all@1/3 -@1/3", 1),
        ("2/4", "all@1/2 -@1/2 all@1", "all@1/2 all@1/2 -@1", 1),
    ),
    _row(
        "octave-thumb",
        "Octave, then the thumb again",
        "The fifth finger holds the low note while the thumb repeats its octave.",
        ("4/4", "bass&+8@1/2~ +8@1/2 +8@1/2 +8@1/2 bass&+8@1/2~ +8@1/2 +8@1/2 +8@1/2", "", 1),
        ("3/4", "bass&+8@1/2~ +8@1/2 +8@1/2 +8@1/2 +8@1/2 +8@1/2", "", 1),
        ("6/8", "bass&+8@1/3~ +8@1/3 +8@1/3 bass&+8@1/3~ +8@1/3 +8@1/3", "", 1),
        ("2/4", "bass&+8@1/2~ +8@1/2 +8@1/2 +8@1/2", "", 1),
    ),
    _row(
        "fifth-finger-and-thumb",
        "Fifth finger and thumb",
        "The two ends of the octave in turn: fifth finger, thumb, fifth finger, thumb.",
        ("4/4", "bass@1/2 +8@1/2 bass@1/2 +8@1/2 bass@1/2 +8@1/2 bass@1/2 +8@1/2", "", 1),
        ("3/4", "bass@1/2 +8@1/2 bass@1/2 +8@1/2 bass@1/2 +8@1/2", "", 1),
        ("6/8", "bass@2/3 +8@1/3 bass@2/3 +8@1/3", "", 1),
        ("2/4", "bass@1/2 +8@1/2 bass@1/2 +8@1/2", "", 1),
    ),
    _row(
        "rolled",
        "Rolled",
        "The grip from the bottom up, one note after the other, then held.",
        ("4/4", "roll@4", "roll@4"),
        ("3/4", "roll@3", "roll@3"),
        ("6/8", "roll@2", "roll@2"),
        ("2/4", "roll@2", "roll@2"),
    ),
    _row(
        "walking",
        "Walking bass",
        "The bass on every beat: it walks by steps and chord notes to the next root.",
        ("4/4", "bass@1 walk@1 walk@1 walk@1", "", 1),
        ("3/4", "bass@1 walk@1 walk@1", "", 1),
        ("6/8", "bass@2/3 walk@1/3 walk@2/3 walk@1/3", "", 1),
        ("2/4", "bass@1 walk@1", "", 1),
    ),
    _row(
        "syncopated-bass",
        "Syncopated bass",
        "Root, fifth before the third beat, octave, and a step into the next root.",
        ("4/4", "bass@3/2 +5@1/2 +8@1 step@1", "", 2),
        ("3/4", "bass@3/2 +5@1/2 step@1", "", 1),
        ("6/8", "bass@2/3 +5@1/3 +8@2/3 step@1/3", "", 1),
        ("2/4", "bass@3/4 +5@1/4 +8@1/2 step@1/2", "", 1),
    ),
    _row(
        "sixths-in-turn",
        "Root and sixth in turn",
        "Root with fifth, root with sixth, again and again: a shuffle under any tune.",
        ("4/4", "bass&+5@1/2 bass&+5@1/2 bass&s6@1/2 bass&s6@1/2 bass&+5@1/2 bass&+5@1/2 bass&s6@1/2 bass&s6@1/2", "", 1),
        ("3/4", "bass&+5@1/2 bass&+5@1/2 bass&s6@1/2 bass&s6@1/2 bass&+5@1/2 bass&+5@1/2", "", 1),
        ("6/8", "bass&+5@2/3 bass&+5@1/3 bass&s6@2/3 bass&s6@1/3", "", 1),
        ("2/4", "bass&+5@1/2 bass&+5@1/2 bass&s6@1/2 bass&s6@1/2", "", 1),
    ),
    _row(
        "ninth-arpeggio",
        "Root, fifth, ninth, tenth",
        "Root, fifth, the ninth passing on to the tenth, and back: open and modern.",
        ("4/4", "bass@1/2~ +5@1/2~ s9@1/2 +10@1/2 +8@1/2 +5@1/2 s9@1/2 +5@1/2", "", 1),
        ("3/4", "bass@1/2~ +5@1/2~ s9@1/2 +10@1/2 +8@1/2 +5@1/2", "", 1),
        ("6/8", "bass@1/3~ +5@1/3~ s9@1/3 +10@1/3 +8@1/3 +5@1/3", "", 1),
        ("2/4", "bass@1/2~ +5@1/2~ s9@1/2 +10@1/2", "", 1),
    ),
    _row(
        "top-octave-in-turn",
        "Octave on top, in turn",
        "The right hand's lowest key an octave higher on top, in turn with the chord under it.",
        ("4/4", "all@4", "all@1/2 low^@1/2 all@1/2 low^@1/2 all@1/2 low^@1/2 all@1/2 low^@1/2", 1),
        ("3/4", "all@3", "all@1/2 low^@1/2 all@1/2 low^@1/2 all@1/2 low^@1/2", 1),
        ("6/8", "all@2", "all@1/3 low^@1/3 all@1/3 all@1/3 low^@1/3 all@1/3", 1),
        ("2/4", "all@2", "all@1/2 low^@1/2 all@1/2 low^@1/2", 1),
    ),
    _row(
        "long-short",
        "Long, short",
        "Root long, fifth short, octave, fifth: a slow dance.",
        ("4/4", "bass@3/2 +5@1/2 +8@1 +5@1", "", 2),
        ("3/4", "bass@3/2 +5@1/2 +8@1", "", 1),
        ("6/8", "bass@2/3 +5@1/3 +8@2/3 +5@1/3", "", 1),
        ("2/4", "bass@3/4 +5@1/4 +8@1/2 +5@1/2", "", 1),
    ),
    _row(
        "off-beats",
        "Off the beat",
        "Bass on the beat, the chord after it.",
        ("4/4", "low@1 low@1 low@1 low@1", "-@1/2 all@1/2 -@1/2 all@1/2 -@1/2 all@1/2 -@1/2 all@1/2", 1),
        ("3/4", "low@1 low@1 low@1", "-@1/2 all@1/2 -@1/2 all@1/2 -@1/2 all@1/2", 1),
        ("6/8", "low@1 low@1", "-@1/3 all@1/3 all@1/3 -@1/3 all@1/3 all@1/3", 1),
        ("2/4", "low@1 low@1", "-@1/2 all@1/2 -@1/2 all@1/2", 1),
    ),
    _row(
        "push",
        "Pushed chords",
        "The right hand's chords come early, against the beat: on 1, after 2 and on 4 in four; on 1 and after 2 in three.",
        ("4/4", "low@5/2 low@3/2", "all@3/2 all@3/2 all@1", 1),
        ("3/4", "low@3", "all@3/2 all@3/2"),
        ("6/8", "low@2", "all@2/3 all@2/3 all@2/3"),
        ("2/4", "low@5/4 low@3/4", "all@3/4 all@3/4 all@1/2"),
    ),
)

PATTERNS: dict[str, Pattern] = {p.name: p for p in _ROWS}


def pattern_named(name: str, own: tuple[Pattern, ...] = ()) -> Pattern:
    """A pattern by name; the creator's own come first."""
    found = next((p for p in own if p.name == name), None) or PATTERNS.get(name)
    if found is None:
        raise PatternError(f"pattern={name!r} must be one of {', '.join([*(p.name for p in own), *PATTERNS])}")
    return found
