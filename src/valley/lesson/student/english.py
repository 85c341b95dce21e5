"""English, as a learner understands it."""

from __future__ import annotations

from typing import Final

from valley.lesson.student.language import Language

_BARS: Final = r"(?:Bar (?P<bar>\d+)|Bars (?P<first>\d+) to (?P<last>\d+)|(?P<pickup>Before bar 1))"
_MODEL: Final = r"(?:bar (?P<model>\d+)|bars (?P<from>\d+) to (?P<to>\d+))"
_MOVED: Final = r"(?:, every key (?P<way>up|down) (?P<size>[a-z -]+))?"

ENGLISH: Final = Language(
    title=r"Part (?P<part>\d+)(?:, .*?)?(?:: (?:(?P<hand>right|left) hand|both hands|the pattern|fuller|what joins the chords)|, a repeat)?",
    patterns={
        "span": r"Part (?P<part>\d+)(?:, .*)?: (?:bars (?P<first>\d+) to (?P<last>\d+)|bar (?P<bar>\d+))\.",
        "again": rf"Part (?P<part>\d+)(?:, .*)?, bars (?P<first>\d+) to (?P<last>\d+): part (?P<model>\d+) again(?:, note for note)?{_MOVED}\.",
        "progression": r"The chords: (?P<chords>.+?)(?:; all that (?P<times>twice|\d+ times))?\.",
        "heading": r"(?P<hand>Left|Right) hand:",
        "rests": r"The (?P<hand>left|right) hand rests\.",
        "blocks": r"(?:First as blocks: press|Hold|Press) each chord as it comes\.",
        "figure_blocks": r"On (?P<which>.+?): all keys at once\.",
        "figure": r"On (?P<which>.+?)(?:, in (?P<value>[a-z]+)|, counting from 1)(?P<over>, over and over)?(?:, again after (?P<cycle>.+?))?: (?P<order>.+)\.",
        "grip": r"(?P<chord>.+?) is (?P<keys>{keys})(?:, fingers [\d, ]+)?(?: \(.+\))?\.(?: .*)?",
        "same_on": rf"{_BARS}: the same on (?P<keys>{{keys}})\.",
        "like": rf"{_BARS}: (?:each )?like {_MODEL}{_MOVED}(?:, but (?:nothing on (?P<without>.+)|(?P<strokes>.+)))?\.",
        "rest": rf"{_BARS}: rest\.",
        "adds": rf"{_BARS}, the (?P<hand>left|right) hand adds (?P<strokes>{{strokes}})\.(?: .*)?",
        "as_in": rf"(?P<hand>Left|Right) hand: as in part (?P<model>\d+){_MOVED}(?:, but for bars? (?P<but>[\d, and]+))?\.",
        "even": rf"{_BARS}, in (?P<value>[a-z]+)(?: from (?P<from>[^,:]+))?(?:, (?P<times>twice|\d+ times))?: (?P<strokes>{{strokes}})\.(?: .*)?",
        "same_counts": rf"{_BARS}, same counts: (?P<strokes>{{strokes}})\.(?: .*)?",
        "bar": rf"{_BARS}: (?P<strokes>{{strokes}})\.(?: .*)?",
    },
    stroke=r"(?:grace (?P<grace>{row})|(?:(?P<into>{row}) into )?(?P<keys>{row}))(?: on (?P<count>.+))?",
    right=("right",),
    left=("left",),
    if_you_like=" if you like",
    also=" and ",
    up="up",
    values={"halves": (2, 1), "quarters": (1, 1), "eighths": (1, 2), "triplets": (1, 3), "sixteenths": (1, 4)},  # quarter notes
    intervals={
        "a half step": 1,
        "a whole step": 2,
        "a minor third": 3,
        "a major third": 4,
        "a fourth": 5,
        "a tritone": 6,
        "a fifth": 7,
        "a minor sixth": 8,
        "a major sixth": 9,
        "a minor seventh": 10,
        "a major seventh": 11,
        "an octave": 12,
        "two octaves": 24,
        "3 octaves": 36,
    },
    places={1: ("the key",), 2: ("bottom", "top"), 3: ("bottom", "middle", "top")},
    numbered=("first", "second", "third", "fourth", "fifth", "sixth", "seventh", "eighth", "ninth", "tenth"),
    all_keys="all keys",
    each_chord="each chord",
    between={"and": (1, 2), "e": (1, 4), "a": (3, 4), "trip": (1, 3), "let": (2, 3)},
    share_after=r"(?P<share>\d+/\d+) of a count after (?P<beat>\d+)",
    shares={"a half": (1, 2), "a quarter": (1, 4), "three quarters": (3, 4), "a third": (1, 3), "two thirds": (2, 3)},
    halves={"beat": "half a beat", "bar": "half a bar"},
    share_of=r"(?P<share>.+) of a (?P<unit>beat|bar)",
    with_share=r"(?P<whole>\d+) {unit}(?: and (?P<share>.+))?",
    units={"beat": "beats?", "bar": "bars?"},
    one_bar="a bar",
    run_each=r"(?P<chords>.+), (?P<length>[^,]+) each",
    run_one=r"(?P<chord>.+?) for (?P<length>.+)",
    then="; then ",
    octaves={"ground {}": 0, "lowest {}": 1, "deep {}": 2, "low {}": 3, "middle {}": 4, "high {}": 5, "higher {}": 6, "highest {}": 7, "last {}": 8},
    signs={},
)
