"""The proof-reader: what a creator's words claim, held against what the hands play.

The text is read sentence by sentence. Bars, parts and hands that are named hold until others are; chords, notes with or without octave, counts and hands are
claims. Each is held against the grips it can mean – those of the bar that is named, else those of the chord that is named – and gets a verdict, with the right
words where it is wrong.
"""

from __future__ import annotations

import os.path
import re
from collections.abc import Hashable
from copy import copy
from dataclasses import dataclass, replace
from typing import Any

from valley.errors import ParameterError
from valley.lesson.proof._desk import UNKNOWN, Desk
from valley.lesson.proof._flow import read_on
from valley.lesson.proof._heard import as_written
from valley.lesson.proof._names import NameFinder
from valley.lesson.proof._no_hand import without_other_rights
from valley.lesson.proof._rename import rename_notes
from valley.lesson.proof._scope import Claim, Context, Scope
from valley.lesson.proof._second_look import Spoken, Trail, look_again
from valley.lesson.proof._tracks import Tracks
from valley.lesson.proof._words import ORDINALS, ROOTS
from valley.lesson.proof.gloss import TABLES, gloss
from valley.model.arrangement import Arrangement
from valley.model.chart import Chart

LANGUAGES = ("en", *TABLES)
# "The left hand plays G again, but in the second bar it goes to B": what comes before is not said of that bar.
_TURN = rf",(?=\s+but\s+(?:then\s+)?in\s+(?:the\s+)?(?:bar|measure|last|next|{'|'.join(ORDINALS)})\b)"
_SENTENCE = re.compile(rf"(?:(?!{_TURN})[^.!?;\n])+(?:[.!?;\n]|{_TURN}|$)|\n", re.IGNORECASE)


def read_proof(text: str, chart: Chart, arrangement: Arrangement, *, naming: str = "letters", octaves: str = "c4", language: str = "en") -> tuple[Claim, ...]:
    """Every claim in a text with its verdict, in the order of the text. Parameters and errors are those of ``ProofReader``."""
    return ProofReader(chart, arrangement, naming=naming, octaves=octaves, language=language).read(text)


@dataclass(frozen=True)
class _Read:
    """How things stood when a sentence was read: where it ends in what was said, what the talk is about, sentences since a place was named."""

    end: int
    context: Context
    age: int
    trail: Trail = Trail()


class ProofReader:
    """Reads one text after another over the same song: as far as a text begins like the one before, it is not read again."""

    def __init__(self, chart: Chart, arrangement: Arrangement, *, naming: str = "letters", octaves: str = "c4", language: str = "en") -> None:
        """
        Parameters
        ----------
        naming : letters, syllables or german
        octaves : "c4" or "c3", the number of middle C's octave
        language : en, or another that has a table in ``gloss``

        Raises
        ------
        ParameterError
            a naming or a language that there is none of
        """
        if naming not in ROOTS:
            raise ParameterError(f"naming={naming!r} must be one of {', '.join(ROOTS)}")
        if language not in LANGUAGES:
            raise ParameterError(f"language={language!r} must be one of {', '.join(LANGUAGES)}")
        self._scope = Scope(chart, arrangement)
        self._naming, self._octaves, self._language = naming, octaves, language
        self._names = NameFinder(self._scope, naming if language == "en" else "letters", octaves)
        self._tracks = Tracks(self._scope)
        self._lines: dict[Hashable, tuple[Any, ...]] = {}
        self._said, self._sentences = "", [_Read(0, Context(), 0)]

    def read(self, text: str) -> tuple[Claim, ...]:
        """Every claim in a text with its verdict, in the order of the text."""
        glossed = gloss(text, self._language, self._naming) if self._language != "en" else None
        said = glossed.text if glossed else without_other_rights(as_written(text) if self._naming == "letters" else text)
        self._read_on(said)
        claims = self._sentences[-1].context.claims
        if glossed:
            claims = [replace(c, start=a, end=b) for c in claims for a, b in (glossed.source(c.start, c.end),)]
        if said != text:
            claims = [replace(c, text=text[c.start : c.end]) for c in claims]
        return tuple(sorted(claims, key=lambda c: (c.start, c.end)))

    def _read_on(self, said: str) -> None:
        shared = len(os.path.commonprefix([said, self._said]))
        # The last sentence that both share may go on in one of them; so may the words that end it.
        self._sentences = [row for row in self._sentences if row.end < shared][:-1] or self._sentences[:1]
        self._said = said
        desk = Desk(said, self._scope, self._naming, self._octaves, lines=self._lines)
        for match in _SENTENCE.finditer(said, self._sentences[-1].end):
            desk.sentence, desk.offset, desk.context = match[0], match.start(), copy(self._sentences[-1].context)
            desk.loose = []
            age = read_on(desk, self._names, self._sentences[-1].age)
            spoken = Spoken(match[0], match.start(), self._names.find_anew(match[0]), tuple(desk.loose))
            known = len(self._sentences[-1].context.claims)
            seen, trail = look_again(desk.context.claims[known:], spoken, self._sentences[-1].trail, self._tracks, desk)
            desk.context.claims[known:] = seen
            self._sentences.append(_Read(match.end(), desk.context, age, trail))


__all__ = ["LANGUAGES", "UNKNOWN", "Claim", "ProofReader", "read_proof", "rename_notes"]
