"""German, as a learner understands it."""

from __future__ import annotations

from typing import Final

from valley.lesson.student.language import Language

_BARS: Final = r"(?:Takt (?P<bar>\d+)|Takte (?P<first>\d+) bis (?P<last>\d+)|(?P<pickup>Vor Takt 1))"
_MODEL: Final = r"(?:Takt (?P<model>\d+)|Takte (?P<from>\d+) bis (?P<to>\d+))"
_MOVED: Final = r"(?:, jede Taste (?P<way>hinauf|hinunter) um (?P<size>[^,.]+))?"

GERMAN: Final = Language(
    title=r"Teil (?P<part>\d+)(?:, .*?)?(?:: (?:(?P<hand>rechte|linke) Hand|beide Hände|das Muster|voller|was die Akkorde verbindet)|, eine Wiederholung)?",
    patterns={
        "span": r"Teil (?P<part>\d+)(?:, .*)?: (?:Takte (?P<first>\d+) bis (?P<last>\d+)|Takt (?P<bar>\d+))\.",
        "again": rf"Teil (?P<part>\d+)(?:, .*)?, Takte (?P<first>\d+) bis (?P<last>\d+): noch einmal Teil (?P<model>\d+)(?:, Ton für Ton)?{_MOVED}\.",
        "progression": r"Die Akkorde: (?P<chords>.+?)(?:; das Ganze (?P<times>zweimal|dreimal|viermal|\d+-mal))?\.",
        "heading": r"(?P<hand>Linke|Rechte) Hand:",
        "rests": r"Die (?P<hand>linke|rechte) Hand pausiert\.",
        "blocks": r"(?:Zuerst als Griffe: Drück|Halt|Drück) jeden Akkord, wenn er kommt\.",
        "figure_blocks": r"Auf (?P<which>.+?): alle Tasten zugleich\.",
        "figure": r"Auf (?P<which>.+?)(?:, in (?P<value>\w+)|, ab 1 gezählt)(?P<over>, immer wieder)?(?:, alle (?P<cycle>.+?) von neuem)?: (?P<order>.+)\.",
        "grip": r"(?P<chord>.+?) ist (?P<keys>{keys})(?:, Finger [\d, ]+)?(?: \(.+\))?\.(?: .*)?",
        "same_on": rf"{_BARS}: dasselbe auf (?P<keys>{{keys}})\.",
        "like": rf"{_BARS}: (?:jeder )?wie {_MODEL}{_MOVED}(?:, aber (?:nichts auf (?P<without>.+)|(?P<strokes>.+)))?\.",
        "rest": rf"{_BARS}: Pause\.",
        "adds": rf"{_BARS}, die (?P<hand>linke|rechte) Hand dazu: (?P<strokes>{{strokes}})\.(?: .*)?",
        "as_in": rf"(?P<hand>Linke|Rechte) Hand: wie in Teil (?P<model>\d+){_MOVED}(?:, nur Takte? (?P<but>[\d, und]+) nicht)?\.",
        "even": rf"{_BARS}, in (?P<value>\w+)(?: ab (?P<from>[^,:]+))?(?:, (?P<times>\w+mal|\d+-mal))?: (?P<strokes>{{strokes}})\.(?: .*)?",
        "same_counts": rf"{_BARS}, gleich gezählt: (?P<strokes>{{strokes}})\.(?: .*)?",
        "bar": rf"{_BARS}: (?P<strokes>{{strokes}})\.(?: .*)?",
    },
    stroke=r"(?:Vorschlag (?P<grace>{row})|(?:(?P<into>{row}) als Vorschlag zu )?(?P<keys>{row}))(?: auf (?P<count>.+))?",
    right=("rechte",),
    left=("linke",),
    if_you_like=" wenn du magst",
    also=" und ",
    up="hinauf",
    values={"Halben": (2, 1), "Vierteln": (1, 1), "Achteln": (1, 2), "Triolen": (1, 3), "Sechzehnteln": (1, 4)},
    intervals={
        "einen Halbton": 1,
        "einen Ganzton": 2,
        "eine kleine Terz": 3,
        "eine große Terz": 4,
        "eine Quarte": 5,
        "einen Tritonus": 6,
        "eine Quinte": 7,
        "eine kleine Sexte": 8,
        "eine große Sexte": 9,
        "eine kleine Septime": 10,
        "eine große Septime": 11,
        "eine Oktave": 12,
        "zwei Oktaven": 24,
        "3 Oktaven": 36,
    },
    places={1: ("die Taste",), 2: ("unten", "oben"), 3: ("unten", "Mitte", "oben")},
    numbered=("erste", "zweite", "dritte", "vierte", "fünfte", "sechste", "siebte", "achte", "neunte", "zehnte"),
    all_keys="alle Tasten",
    each_chord="jedem Akkord",
    between={"und": (1, 2), "e": (1, 4), "a": (3, 4), "trip": (1, 3), "let": (2, 3)},
    share_after=r"(?P<share>\d+/\d+) Zählzeit nach der (?P<beat>\d+)",
    shares={"ein halber": (1, 2), "ein Viertel": (1, 4), "drei Viertel": (3, 4), "ein Drittel": (1, 3), "zwei Drittel": (2, 3)},
    halves={"beat": "ein halber Schlag", "bar": "ein halber Takt"},
    share_of=r"(?P<share>.+) vom (?P<unit>Schlag|Takt)",
    with_share=r"(?P<whole>\d+) {unit}(?: und (?P<share>.+))?",
    units={"beat": "Schl[aä]ge?", "bar": "Takte?"},
    one_bar="ein Takt",
    run_each=r"(?P<chords>.+), je (?P<length>[^,]+)",
    run_one=r"(?P<chord>.+?): (?P<length>.+)",
    then="; dann ",
    octaves={
        "unterstes {}": 0,
        "sehr tiefes {}": 1,
        "tiefes {}": 2,
        "kleines {}": 3,
        "mittleres {}": 4,
        "hohes {}": 5,
        "höheres {}": 6,
        "sehr hohes {}": 7,
        "letztes {}": 8,
    },
    signs={" Doppelkreuz": " double sharp", " Doppel-B": " double flat", " Kreuz": " sharp", " B": " flat"},
)
