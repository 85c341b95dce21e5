"""Words of teaching in other languages, said in English word for word, for the proof-reader, which reads English.

What is left of a sentence so is no English that anybody would say; but bars, hands, chords, notes, counts and lengths stand in it as they do in an English
one, and every letter knows where it came from. Words that no table has stay closed, so that none is taken for an English one. A new language is one small
file: English words, a colon, and what says them.
"""

from __future__ import annotations

import re
from dataclasses import dataclass
from functools import cache
from typing import Final

from valley.lesson.proof._words import ROOTS, SYLLABLE_LETTERS, parse_german
from valley.lesson.proof.gloss.french import FRENCH
from valley.lesson.proof.gloss.german import GERMAN
from valley.lesson.proof.gloss.spanish import SPANISH

TABLES: Final = {"fr": FRENCH, "de": GERMAN, "es": SPANISH}
_CHORD_OF: Final = {"fr": r"accords?\s+(?:de\s+|d['’])", "de": r"akkorde?\s+", "es": r"acordes?\s+de\s+"}
_SIGNS: Final = {
    "fr": {"#": r"dièse|diese", "b": r"bémol|bemol"},
    "de": {"#": r"kreuz", "b": r"be(?=\W|$)"},
    "es": {"#": r"sostenido", "b": r"bemol"},
}
_WORD: Final = re.compile(r"[^\W\d_]+(?:['’]|[^\W_])*", re.UNICODE)
_NUMBERS_TO: Final = re.compile(r"(?<=\d)(\s+)(?:à|a|bis|-|–)(\s+)(?=\d)", re.IGNORECASE)
# Names of notes that are everyday words as well: they are notes only beside something that says so.
_EVERYDAY: Final = {"la", "si", "mi", "re", "do", "sol", "es", "as", "a"}


@dataclass(frozen=True)
class Glossed:
    """``text`` in English; ``places`` of it with those of the words they came from: (from, to, source from, source to)."""

    text: str
    places: tuple[tuple[int, int, int, int], ...]

    def source(self, start: int, end: int) -> tuple[int, int]:
        """Where a stretch of the English stands in the words."""
        first = next((a for e0, e1, a, _ in self.places if e1 > start), 0)
        last = next((b for e0, e1, _, b in reversed(self.places) if e0 < end), first)
        return first, last


@cache
def _phrases(language: str) -> tuple[re.Pattern[str], dict[str, str]]:
    """Everything that a table has, the longest first; and what it says."""
    says: dict[str, str] = {}
    for row in TABLES[language].strip().splitlines():
        english, _, words = row.partition(":")
        for word in words.split("|"):
            says[_plain(word)] = english if english.startswith(" ") else english.strip()
    longest = sorted(says, key=len, reverse=True)
    apart = [re.escape(w).replace(r"\ ", r"\s+") for w in longest]
    ends = [w if w.endswith("'") else rf"{w}(?![^\W_])" for w in apart]
    return re.compile("|".join(w.replace("'", "['’]") for w in ends), re.IGNORECASE), says


def _plain(words: str) -> str:
    return re.sub(r"\s+", " ", words.strip().lower().replace("’", "'"))


@cache
def _note(language: str, naming: str) -> re.Pattern[str]:
    sharp, flat = _SIGNS[language]["#"], _SIGNS[language]["b"]
    sign = rf"(?P<sign>\s?(?-i:##|♯♯|bb|♭♭|#|♯|♭|b(?![^\W\d_]))|\s(?:(?P<sharp>{sharp})|(?P<flat>{flat}))(?![^\W\d_]))?"
    if naming == "german":
        root = ROOTS["german"] + r"(?![a-zäöü])|[a-hA-H](?:is|es|s)?(?=-(?i:dur|moll|sept|akkord))"
        return re.compile(rf"(?P<root>{root})(?:\s?(?P<octave>\d(?!\d)))?")
    root = r"ut|do|ré|re|mi|fa|sol|la|si" if naming == "syllables" else r"(?-i:[A-G])"
    return re.compile(rf"(?P<root>{root}){sign}(?:\s?(?P<octave>\d(?![\d/])))?(?![^\W\d_])", re.IGNORECASE)


def _letter(match: re.Match[str], naming: str) -> str | None:
    """The note as English letters have it."""
    if naming == "german":
        root = match["root"]
        name = parse_german(root[0].upper() + root[1:])
        return str(name) if name else None
    root = match["root"].lower()
    letter = SYLLABLE_LETTERS.get("do" if root == "ut" else root) if naming == "syllables" else match["root"]
    if letter is None:
        return None
    if match["sharp"] or match["flat"]:
        return letter + ("#" if match["sharp"] else "b")
    return letter + (match["sign"] or "").strip().replace("♯", "#").replace("♭", "b")


def gloss(text: str, language: str, naming: str) -> Glossed:
    """A text said in English, word for word.

    Parameters
    ----------
    language : fr, de or es
    naming : letters, syllables or german: how the text names notes

    >>> gloss("Mesure 3 : la main droite joue la, do dièse et mi.", "fr", "syllables").text
    'bar 3 : the right hand plays A, C# and E.'
    >>> gloss("In Takt 5 halten wir Fis-Dur zwei Schläge.", "de", "german").text
    'in bar 5 hold we F# major two beats.'
    """
    note, (phrases, says) = _note(language, naming), _phrases(language)
    chord_of = re.compile(_CHORD_OF[language], re.IGNORECASE)
    out, places, at, size = [], [], 0, 0

    def put(english: str, to: int) -> None:
        nonlocal at, size
        out.append(english)
        places.append((size, size + len(english), at, to))
        size += len(english)
        at = to

    while at < len(text):
        bounded = at == 0 or not (text[at - 1].isalnum() and text[at].isalnum())
        if bounded and (m := _NUMBERS_TO.match(text, at)):
            put(" to ", m.end())
        elif (
            bounded
            and (m := chord_of.match(text, at))
            and (n := note.match(text, m.end()))
            and (name := _letter(n, naming))
            and _is_note(text, n, note, phrases, says)
        ):
            at = m.end()
            put(name + ("" if phrases.match(text, n.end() + 1) and _says_kind(phrases, says, text, n.end()) else " chord"), n.end())
        elif bounded and (n := note.match(text, at)) and (name := _letter(n, naming)) and _is_note(text, n, note, phrases, says):
            put(name + (n["octave"] or ""), n.end())
        elif (bounded or text[at] == "-") and (m := phrases.match(text, at)):
            said = says[_plain(m[0])]
            over = said == "on" and _KIND_BEFORE.search("".join(out)) and note.match(text, m.end() + 1)  # "ré mineur sur do": a chord over its bass
            put("over" if over else said + (" " if m[0][-1] in "'’" else ""), m.end())
        elif bounded and (m := _WORD.match(text, at)):
            put(m[0] if re.fullmatch(r"[A-G](?:m|maj|min|dim|sus|add|aug)?\d*", m[0]) else f"_{m[0]}", m.end())
        else:
            put(text[at], at + 1)
    return Glossed("".join(out), tuple(places))


_KIND_BEFORE: Final = re.compile(r"\b(?:major|minor|chord|seventh|diminished) $")
_KINDS: Final = ("major", "minor", "seventh", "diminished", "augmented", "half-diminished", "ninth", "chord")


def _says_kind(phrases: re.Pattern[str], says: dict[str, str], text: str, at: int) -> bool:
    """Whether what stands behind a note makes it a chord or key: "majeur", "-Moll"."""
    rest = text[at : at + 1]
    m = phrases.match(text, at + (1 if rest == " " else 0))
    return m is not None and says[_plain(m[0])].strip().startswith(_KINDS)


def _is_note(text: str, match: re.Match[str], note: re.Pattern[str], phrases: re.Pattern[str], says: dict[str, str]) -> bool:
    """Whether a name that may be an everyday word is a note here: with a sign, an octave or a kind, or beside another note, or where a sentence ends."""
    word = match["root"].lower()
    if word not in _EVERYDAY or match["octave"] or match.end() - match.start() > len(match["root"]) or _says_kind(phrases, says, text, match.end()):
        return True
    if re.match(r"\s*(?:[,.;:!?)]|$)", text[match.end() :]) or re.search(r"\b(?:une?|eine?n?|el|le)\s+$", text[: match.start()], re.IGNORECASE):
        return True
    joined = re.match(r"\s*(?:et|und|y|puis|dann|luego|/)\s+", text[match.end() :])
    if joined and note.match(text, match.end() + joined.end()):
        return True
    row = re.search(r"(\S+)\s$", text[: match.start()])  # "G A B C": a row of them
    if row and note.fullmatch(row[1]) and note.match(text, match.end() + 1):
        return True
    before = re.search(r"(\S+?)(,?\s+(?:et|und|y|puis|dann|luego)\s+|,\s+)$", text[: match.start()])
    return before is not None and note.fullmatch(before[1].rstrip(",")) is not None
