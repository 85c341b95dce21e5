"""Chord qualities as data: one row each, everything else is computed from it.

Columns: Harte shorthand (C. Harte, "Towards Automatic Extraction of Harmony Information", 2010);
printed suffix; what a teacher calls it; members as places on the line of fifths from the root.
"""

import re
from typing import Final, NamedTuple


class Quality(NamedTuple):
    harte: str
    suffix: str
    words: str
    members: tuple[int, ...]

    def word(self, interval: int) -> str:
        """What a member is called in this chord: the same step is a second in place of the third, a ninth above it.

        Parameters
        ----------
        interval : steps on the line of fifths above the root
        """
        has_third, has_seventh = bool({4, -3} & set(self.members)), bool({-2, 5} & set(self.members))
        if interval == 2 and not has_third and not has_seventh:
            return "second"
        if interval == -1 and has_third and re.search(r"\b4\)", self.harte):
            return "fourth"
        if interval == -4 and has_seventh:
            return "flat thirteenth"
        if has_third and interval in (-1, 6):
            return "eleventh" if interval == -1 else "raised eleventh"
        if interval == 3 and has_seventh:
            return "thirteenth"
        return MEMBER_WORDS[interval]


# A member's usual name and place follow from its interval on the line of fifths; ``Quality.word`` says it in its chord.
MEMBER_WORDS: Final = {
    0: "root",
    -5: "flat ninth",
    2: "ninth",
    -3: "minor third",
    4: "third",
    -1: "fourth",
    6: "raised fourth",
    -6: "flat fifth",
    1: "fifth",
    8: "raised fifth",
    -4: "flat sixth",
    3: "sixth",
    -9: "diminished seventh",
    -2: "seventh",
    5: "major seventh",
    9: "raised ninth",
}
HARTE_DEGREES: Final = {
    0: "1",
    -5: "b2",
    2: "2",
    -3: "b3",
    4: "3",
    -1: "4",
    6: "#4",
    -6: "b5",
    1: "5",
    8: "#5",
    -4: "b6",
    3: "6",
    -9: "bb7",
    -2: "b7",
    5: "7",
    9: "#2",
}

QUALITIES: Final[tuple[Quality, ...]] = (
    Quality("maj", "", "major", (0, 4, 1)),
    Quality("min", "m", "minor", (0, -3, 1)),
    Quality("7", "7", "seventh", (0, 4, 1, -2)),
    Quality("maj7", "maj7", "major seventh", (0, 4, 1, 5)),
    Quality("min7", "m7", "minor seventh", (0, -3, 1, -2)),
    Quality("sus4", "sus4", "suspended fourth", (0, -1, 1)),
    Quality("sus2", "sus2", "suspended second", (0, 2, 1)),
    Quality("dim", "dim", "diminished", (0, -3, -6)),
    Quality("aug", "aug", "augmented", (0, 4, 8)),
    Quality("hdim7", "m7b5", "half-diminished", (0, -3, -6, -2)),
    Quality("dim7", "dim7", "diminished seventh", (0, -3, -6, -9)),
    Quality("minmaj7", "m(maj7)", "minor with major seventh", (0, -3, 1, 5)),
    Quality("maj6", "6", "sixth", (0, 4, 1, 3)),
    Quality("min6", "m6", "minor sixth", (0, -3, 1, 3)),
    Quality("9", "9", "ninth", (0, 4, 1, -2, 2)),
    Quality("maj9", "maj9", "major ninth", (0, 4, 1, 5, 2)),
    Quality("min9", "m9", "minor ninth", (0, -3, 1, -2, 2)),
    Quality("maj(9)", "add9", "added ninth", (0, 4, 1, 2)),
    Quality("min(9)", "m(add9)", "minor with added ninth", (0, -3, 1, 2)),
    Quality("sus4(b7)", "7sus4", "seventh with suspended fourth", (0, -1, 1, -2)),
    Quality("5", "5", "root and fifth only", (0, 1)),
    Quality("7(b9)", "7b9", "seventh with flat ninth", (0, 4, 1, -2, -5)),
    Quality("7(#9)", "7#9", "seventh with raised ninth", (0, 4, 1, -2, 9)),
    Quality("(1,3,b5,b7)", "7b5", "seventh with flat fifth", (0, 4, -6, -2)),
    Quality("aug(b7)", "7#5", "augmented seventh", (0, 4, 8, -2)),
    Quality("maj6(9)", "69", "sixth with ninth", (0, 4, 1, 3, 2)),
    Quality("maj7(#4)", "maj7#11", "major seventh with raised eleventh", (0, 4, 1, 5, 6)),
    Quality("11", "11", "eleventh", (0, 4, 1, -2, 2, -1)),
    Quality("min11", "m11", "minor eleventh", (0, -3, 1, -2, 2, -1)),
    Quality("13", "13", "thirteenth", (0, 4, 1, -2, 2, 3)),
    Quality("maj(4)", "add4", "added fourth", (0, 4, 1, -1)),
    Quality("min(4)", "m(add4)", "minor with added fourth", (0, -3, 1, -1)),
    Quality("7(#11)", "7#11", "seventh with raised eleventh", (0, 4, 1, -2, 6)),
    Quality("7(b13)", "7b13", "seventh with flat thirteenth", (0, 4, 1, -2, -4)),
    Quality("aug(7)", "maj7#5", "augmented major seventh", (0, 4, 8, 5)),
    Quality("sus4(b7,9)", "9sus4", "ninth with suspended fourth", (0, -1, 1, -2, 2)),
    Quality("sus4(b7,9,13)", "13sus4", "thirteenth with suspended fourth", (0, -1, 1, -2, 2, 3)),
    Quality("minmaj7(9)", "m(maj9)", "minor with major ninth", (0, -3, 1, 5, 2)),
    Quality("maj9(11)", "maj11", "major eleventh", (0, 4, 1, 5, 2, -1)),
    Quality("sus4(2)", "sus2sus4", "suspended second and fourth", (0, 2, -1, 1)),
    Quality("sus4(7)", "maj7sus4", "major seventh with suspended fourth", (0, -1, 1, 5)),
    Quality("min6(9)", "m69", "minor sixth with ninth", (0, -3, 1, 3, 2)),
    Quality("maj9(13)", "maj13", "major thirteenth", (0, 4, 1, 5, 2, 3)),
    Quality("min9(13)", "m13", "minor thirteenth", (0, -3, 1, -2, 2, 3)),
    Quality("(1,3,b7,b9,#9,#11,b13)", "7alt", "altered seventh", (0, 4, -2, -5, 9, 6, -4)),
)
BY_HARTE: Final = {q.harte: q for q in QUALITIES}

# What people type, beside the printed suffix. Case matters only for M and m.
ALIASES: Final = {
    "M": "maj",
    "maj": "maj",
    "major": "maj",
    "min": "min",
    "-": "min",
    "minor": "min",
    "mi": "min",
    "dom7": "7",
    "M7": "maj7",
    "ma7": "maj7",
    "major7": "maj7",
    "Δ": "maj7",
    "Δ7": "maj7",
    "j7": "maj7",
    "min7": "min7",
    "-7": "min7",
    "mi7": "min7",
    "minor7": "min7",
    "sus": "sus4",
    "4": "sus4",
    "2": "sus2",
    "°": "dim",
    "o": "dim",
    "diminished": "dim",
    "+": "aug",
    "augmented": "aug",
    "#5": "aug",
    "ø": "hdim7",
    "ø7": "hdim7",
    "-7b5": "hdim7",
    "min7b5": "hdim7",
    "half-diminished": "hdim7",
    "halfdim": "hdim7",
    "hdim": "hdim7",
    "hdim7": "hdim7",
    "°7": "dim7",
    "o7": "dim7",
    "mMaj7": "minmaj7",
    "mmaj7": "minmaj7",
    "mM7": "minmaj7",
    "minmaj7": "minmaj7",
    "m(M7)": "minmaj7",
    "maj6": "maj6",
    "M6": "maj6",
    "min6": "min6",
    "-6": "min6",
    "M9": "maj9",
    "ma9": "maj9",
    "min9": "min9",
    "-9": "min9",
    "add2": "maj(9)",
    "(add9)": "maj(9)",
    "add9": "maj(9)",
    "madd9": "min(9)",
    "madd2": "min(9)",
    "m(add9)": "min(9)",
    "7+": "aug(b7)",
    "+7": "aug(b7)",
    "aug7": "aug(b7)",
    "7aug": "aug(b7)",
    "7-9": "7(b9)",
    "7(b9)": "7(b9)",
    "7+9": "7(#9)",
    "7(#9)": "7(#9)",
    "7-5": "(1,3,b5,b7)",
    "7(b5)": "(1,3,b5,b7)",
    "6/9": "maj6(9)",
    "6add9": "maj6(9)",
    "min11": "min11",
    "-11": "min11",
    "maj7(#11)": "maj7(#4)",
    "maj7(#4)": "maj7(#4)",
    "M7#11": "maj7(#4)",
    "sus7": "sus4(b7)",
    "7sus": "sus4(b7)",
    "power": "5",
    "no3": "5",
}
