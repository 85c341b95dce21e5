"""Titles as viewers type them: the same song under misspellings, capitals, "&" for "and", with or without its article.

Likeness is the normalised indel distance of rapidfuzz (after J. W. Hunt & T. G. Szymanski's longest common subsequence), on titles
made plain. Short titles must be nearly equal: in them one letter makes another word.
"""

from __future__ import annotations

import re
import unicodedata
from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from typing import Final

from rapidfuzz import fuzz

_LONG: Final = 8  # letters from which a title may be misspelled freely
_LIKE_LONG: Final = 84.0
_LIKE_SHORT: Final = 93.0
_NUMBERS: Final = {w: str(i) for i, w in enumerate(["one", "two", "three", "four", "five", "six", "seven", "eight", "nine", "ten", "eleven", "twelve"], 1)}


def make_plain(text: str) -> str:
    """Small letters without accents, signs and stretched letters; "&" and "n" are "and".

    >>> make_plain("Gravel & Honey!!"), make_plain("The Clockmaker\u2019s Daughter"), make_plain("pleaseeee")
    ('gravel and honey', 'the clockmakers daughter', 'please')
    """
    text = unicodedata.normalize("NFKD", text.casefold())
    text = "".join(c for c in text if not unicodedata.combining(c))
    text = re.sub(r"['\u2019\u2018`]", "", text).replace("&", " and ")
    text = re.sub(r"[^\w]+|_+", " ", text)
    text = re.sub(r"([a-z])\1{2,}", r"\1", text)
    return re.sub(r"(?<= )n(?= )", "and", " ".join(text.split()))


def strip_article(plain: str) -> str:
    """Without a leading "the" or "a", where something is left."""
    head, _, rest = plain.partition(" ")
    return rest if head in ("the", "a", "an") and rest else plain


def is_like(one: str, other: str) -> bool:
    """Whether two plain titles mean one song.

    >>> is_like("lantern stret", "lantern street"), is_like("paper harvest", "paper harbour")
    (True, False)
    """
    return likeness(one, other) > 0


def likeness(one: str, other: str) -> float:
    """0 where they are different songs, else how alike, up to 100."""
    one, other = (" ".join(_NUMBERS.get(w, w) for w in strip_article(t).split()) for t in (one, other))
    # A number in one of them makes another song or another part of it.
    if re.findall(r"\d+", one) != re.findall(r"\d+", other):
        return 0.0
    score = max(fuzz.ratio(one, other), fuzz.ratio(one.replace(" ", ""), other.replace(" ", "")))
    return score if score >= (_LIKE_LONG if min(len(one), len(other)) >= _LONG else _LIKE_SHORT) else 0.0


@dataclass(frozen=True)
class Mention:
    """A known title found in words: which, the words from ``start`` to ``end``, and how alike."""

    title: str
    start: int
    end: int
    score: float


def find_mentions(plain: str, titles: Iterable[str]) -> list[Mention]:
    """Known titles in plain words, the best reading of each stretch; later ones do not overlap earlier ones.

    >>> [m.title for m in find_mentions("papr harbor and copper weather pls", ["Paper Harbour", "Copper Weather"])]
    ['Paper Harbour', 'Copper Weather']
    """
    words = plain.split()
    found = [m for title in titles for m in _in_words(words, title)]
    kept: list[Mention] = []
    for mention in sorted(found, key=lambda m: (-m.score, -(m.end - m.start), m.start)):
        if all(mention.end <= k.start or mention.start >= k.end for k in kept):
            kept.append(mention)
    return sorted(kept, key=lambda m: m.start)


def _in_words(words: Sequence[str], title: str) -> list[Mention]:
    wanted = strip_article(make_plain(title))
    if not wanted:
        return []
    size = len(wanted.split())
    out = []
    for length in {max(1, size - 1), size, size + 1}:
        for start in range(len(words) - length + 1):
            piece = " ".join(words[start : start + length])
            # A quick bound first: a title of other length cannot be alike.
            if abs(len(piece) - len(wanted)) * 6 <= len(wanted) + 6 and (score := likeness(piece, wanted)):
                out.append(Mention(title, start, start + length, score))
    return out


def best_spelling(titles: Sequence[str]) -> str:
    """The spelling to show: the most frequent, then one with capitals like a title, then the longest.

    >>> best_spelling(["lantern street", "Lantern Street", "lantern street"])
    'Lantern Street'
    """
    plain = [make_plain(t) for t in titles]
    most = max(sorted(set(plain)), key=lambda p: (plain.count(p), len(p)))
    written = [t.strip() for t, p in zip(titles, plain, strict=True) if p == most]
    careful = [t for t in written if not t.isupper() and not t.islower()]
    if careful:
        return max(careful, key=lambda t: (careful.count(t), len(t)))
    small = ("of", "on", "and", "the", "in", "a", "to", "for")
    text = written[0].lower()
    return " ".join(w if i and w in small else w[:1].upper() + w[1:] for i, w in enumerate(text.split()))
