"""The words of lessons, one module a language: a dictionary from a key to ways of saying it. Another language is another module with the same keys."""

from __future__ import annotations

from typing import Any

from valley.errors import ParameterError
from valley.lesson.phrases import en

LANGUAGES = {"en": en.PHRASES}


class Speaker:
    """Says things in one language, in turn in each of its ways, so that a lesson read aloud does not repeat itself.

    >>> speaker = Speaker("en")
    >>> speaker.say("hold", beats="4 beats")
    'Hold 4 beats.'
    """

    def __init__(self, language: str = "en") -> None:
        if language not in LANGUAGES:
            raise ParameterError(f"language={language!r} must be one of {', '.join(LANGUAGES)}")
        self._phrases = LANGUAGES[language]
        self._turn: dict[str, int] = {}

    def say(self, phrase: str, /, **values: Any) -> str:
        ways = self._phrases[phrase]
        turn = self._turn.get(phrase, 0)
        self._turn[phrase] = turn + 1
        return ways[turn % len(ways)].format(**values)
