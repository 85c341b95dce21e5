"""Keys by the names that a lesson gives them, in every school of naming."""

from __future__ import annotations

import re
from dataclasses import dataclass

_LETTERS = {"C": 0, "D": 2, "E": 4, "F": 5, "G": 7, "A": 9, "B": 11}
_SYLLABLES = {"do": 0, "re": 2, "mi": 4, "fa": 5, "sol": 7, "la": 9, "si": 11}
_GERMAN = {"C": 0, "D": 2, "E": 4, "F": 5, "G": 7, "A": 9, "H": 11, "B": 10}
_OCTAVES = {"ground": 0, "lowest": 1, "deep": 2, "low": 3, "middle": 4, "high": 5, "higher": 6, "highest": 7, "last": 8}

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
    """How keys are called: ``naming`` and ``octaves`` as in the schools."""

    naming: str = "letters"
    octaves: str = "c4"

    @property
    def pattern(self) -> str:
        """A regular expression for one key, without groups."""
        base = _BASES[self.naming]
        return rf"(?:{'|'.join(_OCTAVES)}) {base}" if self.octaves == "words" else rf"{base} ?-?\d"

    def read(self, text: str) -> int:
        """The MIDI number of a key."""
        if self.octaves == "words":
            register, _, name = text.partition(" ")
            octave = _OCTAVES[register]
        else:
            found = re.fullmatch(r"(.*?) ?(-?\d)", text)
            assert found, text
            name, octave = found[1], int(found[2]) + (self.octaves == "c3")
        return 12 * (octave + 1) + self._half_steps(name)

    def _half_steps(self, name: str) -> int:
        if self.naming == "german":
            if name.startswith(("As", "Es")):
                return _GERMAN[name[0]] - 1 - (len(name) - 2) // 2
            up, down = name.count("is"), name.count("es")
            return _GERMAN[name[0]] + up - down
        table = _SYLLABLES if self.naming == "syllables" else _LETTERS
        base = next(b for b in sorted(table, key=len, reverse=True) if name.startswith(b))
        return table[base] + _alter(name[len(base) :])
