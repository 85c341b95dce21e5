"""French, as a learner understands it."""

from __future__ import annotations

from typing import Final

from valley.lesson.student.language import Language

_BARS: Final = r"(?:Mesure (?P<bar>\d+)|Mesures (?P<first>\d+) à (?P<last>\d+)|(?P<pickup>Avant la mesure 1))"
_MODEL: Final = r"(?:la mesure (?P<model>\d+)|les mesures (?P<from>\d+) à (?P<to>\d+))"
_MOVED: Final = r"(?:, chaque touche plus (?P<way>haut|bas) (?P<size>[^,.]+?))?"

FRENCH: Final = Language(
    title=r"Partie (?P<part>\d+)(?:, .*?)?(?: : (?:main (?P<hand>droite|gauche)|les deux mains|la formule|plus riche|ce qui relie les accords)|, une reprise)?",
    patterns={
        "span": r"Partie (?P<part>\d+)(?:, .*)? : (?:mesures (?P<first>\d+) à (?P<last>\d+)|mesure (?P<bar>\d+))\.",
        "again": rf"Partie (?P<part>\d+)(?:, .*)?, mesures (?P<first>\d+) à (?P<last>\d+) : la partie (?P<model>\d+) encore(?:, note pour note)?{_MOVED}\.",
        "progression": r"Les accords : (?P<chords>.+?)(?: ; le tout (?P<times>\d+ fois))?\.",
        "heading": r"Main (?P<hand>gauche|droite) :",
        "rests": r"La main (?P<hand>gauche|droite) se tait\.",
        "blocks": r"(?:D'abord plaqués : joue|Tiens|Joue) chaque accord quand il vient\.",
        "figure_blocks": r"Sur (?P<which>.+?) : toutes les touches à la fois\.",
        "figure": r"Sur (?P<which>.+?)(?:, en (?P<value>(?!comptant)[a-z ]+?)|, en comptant à partir de 1)(?P<over>, encore et encore)?"
        r"(?:, de nouveau après (?P<cycle>.+?))? : (?P<order>.+)\.",
        "grip": r"(?P<chord>.+?), c'est (?P<keys>{keys})(?:, doigts [\d, ]+)?(?: \(.+\))?\.(?: .*)?",
        "same_on": rf"{_BARS} : de même sur (?P<keys>{{keys}})\.",
        "like": rf"{_BARS} : (?:chacune )?comme {_MODEL}{_MOVED}(?:, mais (?:rien sur (?P<without>.+)|(?P<strokes>.+)))?\.",
        "rest": rf"{_BARS} : silence\.",
        "adds": rf"{_BARS}, la main (?P<hand>gauche|droite) ajoute (?P<strokes>{{strokes}})\.(?: .*)?",
        "as_in": rf"Main (?P<hand>gauche|droite) : comme dans la partie (?P<model>\d+){_MOVED}(?:, sauf mesures? (?P<but>[\d, et]+))?\.",
        "even": rf"{_BARS}, en (?P<value>[a-z ]+?)(?: à partir de (?P<from>[^,:]+?))?(?:, (?P<times>\d+ fois))? : (?P<strokes>{{strokes}})\.(?: .*)?",
        "same_counts": rf"{_BARS}, même rythme : (?P<strokes>{{strokes}})\.(?: .*)?",
        "bar": rf"{_BARS} : (?P<strokes>{{strokes}})\.(?: .*)?",
    },
    stroke=r"(?:appoggiature (?P<grace>{row})|(?:(?P<into>{row}) glissé vers )?(?P<keys>{row}))(?: sur (?P<count>.+))?",
    right=("droite",),
    left=("gauche",),
    if_you_like=" si tu veux",
    also=" et ",
    up="haut",
    values={"blanches": (2, 1), "noires": (1, 1), "croches": (1, 2), "triolets": (1, 3), "doubles croches": (1, 4)},
    intervals={
        "d'un demi-ton": 1,
        "d'un ton": 2,
        "d'une tierce mineure": 3,
        "d'une tierce majeure": 4,
        "d'une quarte": 5,
        "d'un triton": 6,
        "d'une quinte": 7,
        "d'une sixte mineure": 8,
        "d'une sixte majeure": 9,
        "d'une septième mineure": 10,
        "d'une septième majeure": 11,
        "d'une octave": 12,
        "de deux octaves": 24,
        "de 3 octaves": 36,
    },
    places={1: ("la touche",), 2: ("bas", "haut"), 3: ("bas", "milieu", "haut")},
    numbered=("première", "deuxième", "troisième", "quatrième", "cinquième", "sixième", "septième", "huitième", "neuvième", "dixième"),
    all_keys="toutes les touches",
    each_chord="chaque accord",
    between={"et": (1, 2), "e": (1, 4), "a": (3, 4), "trip": (1, 3), "let": (2, 3)},
    share_after=r"(?P<share>\d+/\d+) de temps compté après (?P<beat>\d+)",
    shares={"demi": (1, 2), "un quart": (1, 4), "trois quarts": (3, 4), "un tiers": (1, 3), "deux tiers": (2, 3)},
    halves={"beat": "un demi-temps", "bar": "une demi-mesure"},
    share_of=r"(?P<share>.+) de (?P<unit>temps|mesure)",
    with_share=r"(?P<whole>\d+) {unit}(?: et (?P<share>.+))?",
    units={"beat": "temps", "bar": "mesures?"},
    one_bar="une mesure",
    run_each=r"(?P<chords>.+), (?P<length>[^,]+) chacun",
    run_one=r"(?P<chord>.+?) pendant (?P<length>.+)",
    then=" ; puis ",
    octaves={
        "{} tout en bas": 0,
        "{} très grave": 1,
        "{} profond": 2,
        "{} grave": 3,
        "{} du milieu": 4,
        "{} aigu": 5,
        "{} plus aigu": 6,
        "{} très aigu": 7,
        "{} tout en haut": 8,
    },
    signs={"ré": "re", " double dièse": " double sharp", " double bémol": " double flat", " dièse": " sharp", " bémol": " flat"},
)
