"""What a chord does in its key, in plain words."""

from __future__ import annotations

from valley.theory.chord import Chord
from valley.theory.key import Key

_MAJOR = {
    (0, "M"): "home",
    (2, "m"): "on the second step, leads on",
    (4, "m"): "on the third step, soft",
    (5, "M"): "on the fourth step, opens out",
    (7, "M"): "on the fifth step, leads home",
    (9, "m"): "the minor of home",
    (11, "d"): "on the seventh step, leads home",
    (5, "m"): "the fourth step turned minor: borrowed from minor",
    (10, "M"): "on the lowered seventh: borrowed from minor",
    (8, "M"): "on the lowered sixth: borrowed from minor",
    (3, "M"): "on the lowered third: borrowed from minor",
    (0, "m"): "home turned minor: borrowed",
    (7, "m"): "the fifth step turned minor: borrowed",
    (1, "M"): "on the lowered second: dark, borrowed",
}
_MINOR = {
    (0, "m"): "home",
    (2, "d"): "on the second step, leads on",
    (3, "M"): "the major relative",
    (5, "m"): "on the fourth step",
    (7, "m"): "on the fifth step, without pull",
    (7, "M"): "on the fifth step, leads home",
    (8, "M"): "on the sixth step, broad",
    (10, "M"): "on the seventh step",
    (5, "M"): "the fourth step turned major: bright, borrowed",
    (0, "M"): "home turned major",
    (1, "M"): "on the lowered second: dark",
    (11, "d"): "on the raised seventh, leads home",
}
_DOMINANT_OF = {2: "second", 4: "third", 5: "fourth", 7: "fifth", 9: "sixth"}


def describe_function(chord: Chord | None, key: Key) -> str:
    """A short reason for a chord in its key, or an empty text for no chord.

    >>> from valley.theory.chord import parse_harte
    >>> describe_function(parse_harte("F:min"), Key.of("C", "major"))
    'the fourth step turned minor: borrowed from minor'
    >>> describe_function(parse_harte("D:7"), Key.of("C", "major"))
    'leads to the chord on the fifth step'
    """
    if chord is None:
        return ""
    degree = key.degree(chord.root.pitch_class)
    members = chord.quality.members
    third = "M" if 4 in members else "d" if -6 in members else "m" if -3 in members else "s"
    if third == "s":
        return "suspended: wants its third" if 1 in members else "open"
    known = (_MINOR if key.is_minor else _MAJOR).get((degree, third))
    target = (degree + 5) % 12
    scale = {n.pitch_class for n in key.scale()}
    dominant = third == "M" and 5 not in members
    if known and not (dominant and -2 in members and degree != 7):
        return known
    if dominant and target in _DOMINANT_OF and (key.tonic.pitch_class + target) % 12 in scale:
        return f"leads to the chord on the {_DOMINANT_OF[target]} step"
    return known or "a colour from outside the key"
