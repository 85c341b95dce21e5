"""Words as a machine wrote them down: without capitals, without full stops, names of notes half heard ("be flat", "see sharp").

Such a text is made readable letter for letter, so that every place in it stays where it was: names of notes get their capitals, and where nothing tells
one sentence from the next, a break stands before the words with which one most likely begins.
"""

from __future__ import annotations

import re

from valley.lesson.proof._captions import find_beginnings, is_note_a

_KIND = r"(?:flat|sharp|natural|major|minor|seven(?:th)?|nine|six|diminished|augmented|sus(?:pended)?|dim|half[ -]diminished|chord|over [a-g]\b)"
# Words that sound like a letter, where what follows says that they are one.
_ALIKE = {"be": "B", "bee": "B", "see": "C", "sea": "C", "dee": "D", "eff": "F", "gee": "G", "ay": "A", "eh": "A"}
# "Your wrist should be flat" names no note.
_NO_VERB = "".join(
    rf"(?<!\b{word} )" for word in ("should", "must", "can", "could", "will", "would", "may", "might", "not", "has to", "have to", "needs to", "need to")
)
_HALF = re.compile(rf"\b{_NO_VERB}(be|bee|see|sea|dee|eff|gee|ay|eh)(?= {_KIND})")
_NAMED = re.compile(rf"\b(?<!['’])[a-g](?= {_KIND})")
_LETTER = re.compile(r"(?<![\w'’])[b-g](?=\d?(?![\w'’]))")
_A_NUMBERED = re.compile(r"(?<![\w'’])a(?=\d(?!\w))")
_ARTICLE_KIND = re.compile(
    r"a (?:major|minor|diminished|augmented|sus|seven|six|flat|sharp) ?(?:chord|third|sixth|scale|key|step|one|interval|sound|feel|thing|change|triad)\b"
)
_WORD = re.compile(r"([^\s.,;:!?]+)([.,;:!?]*)")
_STOPS = re.compile(r"[.!?;\n]")
_LEAST_WORDS, _WORDS_A_SENTENCE = 20, 25


def as_written(text: str) -> str:
    """The text with the capitals and breaks that it lacks, as long as it was; a text that has them is left alone.

    >>> as_written("so we start on be flat and the right hand plays d f a f")
    'so we start on  B flat and the right hand plays D F A F'
    >>> as_written("So we start on B flat. The right hand plays D, F, A, F.")
    'So we start on B flat. The right hand plays D, F, A, F.'
    """
    if not re.search(r"(?<![\w'’])[A-G](?![a-z'’])", text):
        text = _with_capitals(text)
    return _with_breaks(text) if _lacks_stops(text) else text


def _lacks_stops(text: str) -> bool:
    """Whether a text is what a machine wrote down: where its sentences end is guessed."""
    words = len(text.split())
    return words >= _LEAST_WORDS and words > _WORDS_A_SENTENCE * len(_STOPS.findall(text))


def _with_capitals(text: str) -> str:
    text = _HALF.sub(lambda m: _ALIKE[m[1]].rjust(len(m[1])), text)
    text = _NAMED.sub(lambda m: m[0] if m[0] == "a" and _ARTICLE_KIND.match(text, m.start()) else m[0].upper(), text)
    text = _LETTER.sub(lambda m: m[0].upper(), text)
    text = _A_NUMBERED.sub("A", text)
    found = [*_WORD.finditer(text)]
    words, stops, out = [m[1].lower() for m in found], [m[2] for m in found], list(text)
    for i, m in enumerate(found):
        if m[1] == "a" and not _ARTICLE_KIND.match(text, m.start()) and is_note_a(words, stops, i):
            out[m.start()] = "A"
    return "".join(out)


def _with_breaks(text: str) -> str:
    found = [*_WORD.finditer(text)]
    out = list(text)
    for i in find_beginnings([m[1].lower() for m in found]):
        if out[found[i].start() - 1] == " ":
            out[found[i].start() - 1] = ";"
    return "".join(out)
