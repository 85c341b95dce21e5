"""The proof-reader: what a creator's words claim, held against what the hands play.

The text is read sentence by sentence. Bars, parts and hands that are named hold until others are; chords, notes with or without octave, counts and hands are
claims. Each is held against the grips it can mean – those of the bar that is named, else those of the chord that is named – and gets a verdict, with the right
words where it is wrong.
"""

from __future__ import annotations

import re
from dataclasses import replace

from valley.errors import ParameterError
from valley.lesson.proof._desk import UNKNOWN, Desk
from valley.lesson.proof._flow import read_on
from valley.lesson.proof._heard import as_written
from valley.lesson.proof._names import NameFinder
from valley.lesson.proof._rename import rename_notes
from valley.lesson.proof._scope import Claim, Scope
from valley.lesson.proof._words import ORDINALS, ROOTS
from valley.lesson.proof.gloss import TABLES, gloss
from valley.model.arrangement import Arrangement
from valley.model.chart import Chart

LANGUAGES = ("en", *TABLES)
# "The left hand plays G again, but in the second bar it goes to B": what comes before is not said of that bar.
_TURN = rf",(?=\s+but\s+(?:then\s+)?in\s+(?:the\s+)?(?:bar|measure|last|next|{'|'.join(ORDINALS)})\b)"
_SENTENCE = re.compile(rf"(?:(?!{_TURN})[^.!?;\n])+(?:[.!?;\n]|{_TURN}|$)|\n", re.IGNORECASE)


def read_proof(text: str, chart: Chart, arrangement: Arrangement, *, naming: str = "letters", octaves: str = "c4", language: str = "en") -> tuple[Claim, ...]:
    """Every claim in a text with its verdict, in the order of the text.

    Parameters
    ----------
    naming : letters, syllables or german
    octaves : "c4" or "c3", the number of middle C's octave
    language : en, or another that has a table in ``gloss``
    """
    if naming not in ROOTS:
        raise ParameterError(f"naming={naming!r} must be one of {', '.join(ROOTS)}")
    if language not in LANGUAGES:
        raise ParameterError(f"language={language!r} must be one of {', '.join(LANGUAGES)}")
    scope = Scope(chart, arrangement)
    glossed = gloss(text, language, naming) if language != "en" else None
    said = glossed.text if glossed else as_written(text) if naming == "letters" else text
    desk, names = Desk(said, scope, naming, octaves), NameFinder(scope, "letters" if glossed else naming, octaves)
    age = 0
    for match in _SENTENCE.finditer(said):
        desk.sentence, desk.offset = match[0], match.start()
        age = read_on(desk, names, age)
    claims = desk.context.claims
    if glossed:
        claims = [replace(c, start=a, end=b) for c in claims for a, b in (glossed.source(c.start, c.end),)]
    if said != text:
        claims = [replace(c, text=text[c.start : c.end]) for c in claims]
    return tuple(sorted(claims, key=lambda c: (c.start, c.end)))


__all__ = ["LANGUAGES", "UNKNOWN", "Claim", "read_proof", "rename_notes"]
