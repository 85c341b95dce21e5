"""Words with chords in brackets among them, "[C]Evening comes [G]slow", as chords in a row over their words."""

from __future__ import annotations

import re
from collections.abc import Iterator

from valley.formats.loose_bars import Tongue, is_chord_line, symbol_of

_CHORD = re.compile(r"\[([^\[\]\s]{1,16})\]")
_LABEL = re.compile(r"\s*[^\[\]:|]{1,24}:\s*(?=\[)")
_TIMES = re.compile(r"\b(?:x\d{1,2}|\d{1,2}x)\b", re.IGNORECASE)
_TIMES_BEHIND = re.compile(r"\s*[\[(]?\b(x\d{1,2}|\d{1,2}x)\b[\])]?\s*$", re.IGNORECASE)
_TONGUES = tuple(Tongue(naming) for naming in ("letters", "german", "syllables"))


def over_words(text: str) -> Iterator[tuple[int, str]]:
    """The lines of a text with their numbers; one with chords among its words becomes two.

    >>> list(over_words("[C]Evening comes [G]slow"))
    [(1, 'C             G'), (1, 'Evening comes slow')]
    >>> list(over_words("Verse: [C]Evening"))
    [(1, 'Verse:'), (1, 'C'), (1, 'Evening')]
    >>> list(over_words("[A] C G Am F"))
    [(1, '[A] C G Am F')]
    """
    for number, line in enumerate(text.splitlines(), 1):
        for row in _split(line):
            yield number, row


def _split(line: str) -> tuple[str, ...]:
    """A line as it is, or its chords and its words; the name of a part before them is a line of its own."""
    label = _LABEL.match(line)
    rows = _part(line[label.end() :] if label else line)
    if len(rows) == 1:
        return (line,)
    return (label[0].rstrip(), *rows) if label else rows


def _part(line: str) -> tuple[str, ...]:
    pieces = _CHORD.split(line)
    names, words = pieces[1::2], "".join(pieces[::2])
    said = re.search(r"[^\W\d_]", _TIMES.sub("", words)) is not None
    if not names or not said or not any(all(symbol_of(n, t) for n in names) for t in _TONGUES):
        return (line,)
    if len(names) == 1 and not pieces[2][:1].isalpha():  # "[A] softly": a part's letter
        return (line,)
    if any(is_chord_line(words, t) for t in _TONGUES):
        return (line,)
    chords, at = "", 0
    for before, name in zip(pieces[::2], names, strict=False):
        at += len(before)
        chords = f"{chords.ljust(at)}{' ' if chords and len(chords) >= at else ''}{name}"
    if (times := _TIMES_BEHIND.search(words)) is not None:  # what is sung twice is played twice
        return f"{chords}  {times[1]}", words[: times.start()]
    return chords, words
