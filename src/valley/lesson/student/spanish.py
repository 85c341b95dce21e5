"""Spanish, as a learner understands it."""

from __future__ import annotations

from typing import Final

from valley.lesson.student.language import Language

_BARS: Final = r"(?:Compás (?P<bar>\d+)|Compases (?P<first>\d+) a (?P<last>\d+)|(?P<pickup>Antes del compás 1))"
_MODEL: Final = r"(?:el compás (?P<model>\d+)|los compases (?P<from>\d+) a (?P<to>\d+))"
_MOVED: Final = r"(?:, cada tecla (?P<way>subiendo|bajando) (?P<size>[^,.]+))?"

SPANISH: Final = Language(
    title=r"Parte (?P<part>\d+)(?:, .*?)?(?:: (?:mano (?P<hand>derecha|izquierda)|las dos manos|la figura|más lleno|lo que une los acordes)|, una repetición)?",
    patterns={
        "span": r"Parte (?P<part>\d+)(?:, .*)?: (?:compases (?P<first>\d+) a (?P<last>\d+)|compás (?P<bar>\d+))\.",
        "again": rf"Parte (?P<part>\d+)(?:, .*)?, compases (?P<first>\d+) a (?P<last>\d+): otra vez la parte (?P<model>\d+)(?:, nota por nota)?{_MOVED}\.",
        "progression": r"Los acordes: (?P<chords>.+?)(?:; todo eso (?P<times>\d+ veces))?\.",
        "heading": r"Mano (?P<hand>izquierda|derecha):",
        "rests": r"La mano (?P<hand>izquierda|derecha) calla\.",
        "blocks": r"(?:Primero en bloque: toca|Mantén|Toca) cada acorde cuando llega\.",
        "figure_blocks": r"En (?P<which>.+?): todas las teclas a la vez\.",
        "figure": r"En (?P<which>.+?)(?:, en (?P<value>\w+)|, contando desde 1)(?P<over>, una y otra vez)?(?:, de nuevo tras (?P<cycle>.+?))?: (?P<order>.+)\.",
        "grip": r"(?P<chord>.+?) es (?P<keys>{keys})(?:, dedos [\d, ]+)?(?: \(.+\))?\.(?: .*)?",
        "same_on": rf"{_BARS}: lo mismo en (?P<keys>{{keys}})\.",
        "like": rf"{_BARS}: (?:cada uno )?como {_MODEL}{_MOVED}(?:, pero (?:nada en (?P<without>.+)|(?P<strokes>.+)))?\.",
        "rest": rf"{_BARS}: silencio\.",
        "adds": rf"{_BARS}, la mano (?P<hand>izquierda|derecha) añade (?P<strokes>{{strokes}})\.(?: .*)?",
        "as_in": rf"Mano (?P<hand>izquierda|derecha): como en la parte (?P<model>\d+){_MOVED}(?:, salvo (?:compás|compases) (?P<but>[\d, y]+))?\.",
        "even": rf"{_BARS}, en (?P<value>\w+)(?: desde (?P<from>[^,:]+))?(?:, (?P<times>\d+ veces))?: (?P<strokes>{{strokes}})\.(?: .*)?",
        "same_counts": rf"{_BARS}, mismo ritmo: (?P<strokes>{{strokes}})\.(?: .*)?",
        "bar": rf"{_BARS}: (?P<strokes>{{strokes}})\.(?: .*)?",
    },
    stroke=r"(?:apoyatura (?P<grace>{row})|(?:(?P<into>{row}) deslizado hacia )?(?P<keys>{row}))(?: en (?P<count>.+))?",
    right=("derecha",),
    left=("izquierda",),
    if_you_like=" si quieres",
    also=" y ",
    up="subiendo",
    values={"blancas": (2, 1), "negras": (1, 1), "corcheas": (1, 2), "tresillos": (1, 3), "semicorcheas": (1, 4)},
    intervals={
        "un semitono": 1,
        "un tono": 2,
        "una tercera menor": 3,
        "una tercera mayor": 4,
        "una cuarta": 5,
        "un tritono": 6,
        "una quinta": 7,
        "una sexta menor": 8,
        "una sexta mayor": 9,
        "una séptima menor": 10,
        "una séptima mayor": 11,
        "una octava": 12,
        "dos octavas": 24,
        "3 octavas": 36,
    },
    places={1: ("la tecla",), 2: ("abajo", "arriba"), 3: ("abajo", "medio", "arriba")},
    numbered=("primera", "segunda", "tercera", "cuarta", "quinta", "sexta", "séptima", "octava", "novena", "décima"),
    all_keys="todas las teclas",
    each_chord="cada acorde",
    between={"y": (1, 2), "e": (1, 4), "a": (3, 4), "trip": (1, 3), "let": (2, 3)},
    share_after=r"(?P<share>\d+/\d+) de la cuenta después de (?P<beat>\d+)",
    shares={"medio": (1, 2), "un cuarto": (1, 4), "tres cuartos": (3, 4), "un tercio": (1, 3), "dos tercios": (2, 3)},
    halves={"beat": "medio tiempo", "bar": "medio compás"},
    share_of=r"(?P<share>.+) de (?P<unit>tiempo|compás)",
    with_share=r"(?P<whole>\d+) {unit}(?: y (?P<share>.+))?",
    units={"beat": "tiempos?", "bar": "(?:compás|compases)"},
    one_bar="un compás",
    run_each=r"(?P<chords>.+), (?P<length>[^,]+) cada uno",
    run_one=r"(?P<chord>.+?) durante (?P<length>.+)",
    then="; luego ",
    octaves={
        "{} del fondo": 0,
        "{} muy grave": 1,
        "{} profundo": 2,
        "{} grave": 3,
        "{} central": 4,
        "{} agudo": 5,
        "{} más agudo": 6,
        "{} muy agudo": 7,
        "{} del final": 8,
    },
    signs={" doble sostenido": " double sharp", " doble bemol": " double flat", " sostenido": " sharp", " bemol": " flat"},
)
