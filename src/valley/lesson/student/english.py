"""The sentences of a lesson in English, as a learner understands them. ``{keys}`` and ``{key}`` stand for the names of keys."""

from __future__ import annotations

from typing import Final

RIGHT_WORDS: Final = {"right": r"[Rr]ight hand", "left": r"[Ll]eft hand"}
TITLE_PART: Final = r"Part (?P<part>\d+)(?:, .*?)?(?:: (?P<what>right hand|left hand|both hands|the pattern|what joins the chords)|, a repeat)?"
BARS: Final = r"(?:Bar (?P<bar>\d+)|Bars (?P<first>\d+) to (?P<last>\d+)|(?P<pickup>Before bar 1))"
MODEL: Final = r"(?:bar (?P<model>\d+)|bars (?P<from>\d+) to (?P<to>\d+))"
MOVED: Final = r"(?:, every key (?P<way>up|down) (?P<size>[a-z -]+))?"

PATTERNS: Final = {
    "span": r"Part (?P<part>\d+)(?:, .*)?: (?:bars (?P<first>\d+) to (?P<last>\d+)|bar (?P<bar>\d+))\.",
    "again": rf"Part (?P<part>\d+)(?:, .*)?, bars (?P<first>\d+) to (?P<last>\d+): part (?P<model>\d+) again(?:, note for note)?{MOVED}\.",
    "progression": r"The chords: (?P<chords>.+?)(?:; all that (?P<times>twice|\d+ times))?\.",
    "heading": r"(?P<hand>Left|Right) hand:",
    "rests": r"The (?P<hand>left|right) hand rests\.",
    "blocks": r"(?:First as blocks: press|Hold|Press) each chord as it comes\.",
    "figure_blocks": r"On (?P<which>.+?): all keys at once\.",
    "figure": r"On (?P<which>.+?)(?:, in (?P<value>[a-z]+)|, counting from 1)(?P<over>, over and over)?(?:, again after (?P<cycle>.+?))?: (?P<order>.+)\.",
    "grip": r"(?P<chord>.+?) is (?P<keys>{keys})(?:, fingers [\d, ]+)?(?: \(.+\))?\.(?: .*)?",
    "like": rf"{BARS}: (?:each )?like {MODEL}{MOVED}(?:, but (?:nothing on (?P<without>.+)|(?P<strokes>.+)))?\.",
    "rest": rf"{BARS}: rest\.",
    "adds": rf"{BARS}, the (?P<hand>left|right) hand adds (?P<strokes>{{strokes}})\.(?: .*)?",
    "as_in": rf"(?P<hand>Left|Right) hand: as in part (?P<model>\d+){MOVED}(?:, but for bars? (?P<but>[\d, and]+))?\.",
    "even": rf"{BARS}, in (?P<value>[a-z]+)(?: from (?P<from>[^,:]+))?(?:, (?P<times>twice|\d+ times))?: (?P<strokes>{{strokes}})\.(?: .*)?",
    "same_counts": rf"{BARS}, same counts: (?P<strokes>{{strokes}})\.(?: .*)?",
    "bar": rf"{BARS}: (?P<strokes>{{strokes}})\.(?: .*)?",
}
STROKE: Final = r"(?:grace (?P<grace>{row})|(?:(?P<into>{row}) into )?(?P<keys>{row}))(?: on (?P<count>.+))?"
IF_YOU_LIKE: Final = " if you like"
VALUES: Final = {"halves": (2, 1), "quarters": (1, 1), "eighths": (1, 2), "triplets": (1, 3), "sixteenths": (1, 4)}  # quarter notes
INTERVALS: Final = {
    "half step": 1,
    "whole step": 2,
    "minor third": 3,
    "major third": 4,
    "fourth": 5,
    "tritone": 6,
    "fifth": 7,
    "minor sixth": 8,
    "major sixth": 9,
    "minor seventh": 10,
    "major seventh": 11,
    "octave": 12,
    "two octaves": 24,
    "three octaves": 36,
}
PLACES: Final = {
    1: ("the key",),
    2: ("bottom", "top"),
    3: ("bottom", "middle", "top"),
}
NUMBERED: Final = ("first", "second", "third", "fourth", "fifth", "sixth", "seventh", "eighth", "ninth", "tenth")
ALL: Final = "all"
SHARES: Final = {"half": (1, 2), "a half": (1, 2), "a quarter": (1, 4), "three quarters": (3, 4), "a third": (1, 3), "two thirds": (2, 3)}
BETWEEN: Final = {"and": (1, 2), "e": (1, 4), "a": (3, 4), "trip": (1, 3), "let": (2, 3)}
NO_CHORD: Final = "no chord"
EACH_CHORD: Final = "each chord"
