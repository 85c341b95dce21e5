"""Keys by the names that a lesson gives them, in every school of naming."""

from __future__ import annotations

import re
from dataclasses import dataclass

from valley.lesson.student.english import ENGLISH
from valley.lesson.student.language import Language

_LETTERS = {"C": 0, "D": 2, "E": 4, "F": 5, "G": 7, "A": 9, "B": 11}
_SYLLABLES = {"do": 0, "re": 2, "mi": 4, "fa": 5, "sol": 7, "la": 9, "si": 11}
_GERMAN = {"C": 0, "D": 2, "E": 4, "F": 5, "G": 7, "A": 9, "H": 11, "B": 10}

_SIGNS = r"(?:#{1,3}|b{1,3}| (?:double |triple )?(?:sharp|flat))?"
_BASES = {
    "letters": rf"[A-G]{_SIGNS}",
    "syllables": rf"(?:do|re|mi|fa|sol|la|si){_SIGNS}",
    "german": r"(?:[AE]s(?:es)*|[CDFGH](?:es)+|[CDEFGAH](?:is)+|[A-H])",
}


def _alter(text: str) -> int:
    sign = 1 if "#" in text or "sharp" in text else -1
    words = {"double": 2, "triple": 3}
    return sign * next((n for word, n in words.items() if word in text), text.count("#") or text.count("b") or 1) if text else 0


@dataclass(frozen=True)
class KeyNames:
    """How keys are called: ``naming`` and ``octaves`` as in the schools, octaves and signs in words of a language."""

    naming: str = "letters"
    octaves: str = "c4"
    language: Language = ENGLISH

    @property
    def pattern(self) -> str:
        """A regular expression for one key, without groups."""
        signs = "".join(f"|{re.escape(own)}" for own in self.language.signs if own.startswith(" "))
        names = "".join(f"|{own}" for own in self.language.signs if not own.startswith(" "))
        base = _BASES[self.naming].replace("(?:sharp|flat)", f"(?:sharp|flat){signs}").replace("|si)", f"|si{names})")
        if self.octaves != "words":
            return rf"{base} ?-?\d"
        return "(?:" + "|".join(re.escape(way).replace(r"\{\}", base) for way in sorted(self.language.octaves, key=len, reverse=True)) + ")"

    def read(self, text: str) -> int:
        """The MIDI number of a key."""
        if self.octaves == "words":
            way, name = self._in_words(text)
            octave = self.language.octaves[way]
        else:
            found = re.fullmatch(r"(.*?) ?(-?\d)", text)
            if not found:
                raise ValueError(f"a learner does not know the key {text!r}")
            name, octave = found[1], int(found[2]) + (self.octaves == "c3")
        return 12 * (octave + 1) + self._half_steps(name)

    def _in_words(self, text: str) -> tuple[str, str]:
        for way in sorted(self.language.octaves, key=len, reverse=True):
            before, _, after = way.partition("{}")
            if text.startswith(before) and text.endswith(after):
                return way, text[len(before) : len(text) - len(after)]
        raise ValueError(f"a learner does not know the key {text!r}")

    def _half_steps(self, name: str) -> int:
        for own, english in self.language.signs.items():
            name = name.replace(own, english)
        if self.naming == "german":
            if name.startswith(("As", "Es")):
                return _GERMAN[name[0]] - 1 - (len(name) - 2) // 2
            return _GERMAN[name[0]] + name.count("is") - name.count("es")
        table = _SYLLABLES if self.naming == "syllables" else _LETTERS
        base = next(b for b in sorted(table, key=len, reverse=True) if name.startswith(b))
        return table[base] + _alter(name[len(base) :])
