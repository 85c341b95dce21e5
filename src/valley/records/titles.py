"""Titles as viewers type them: the same song under misspellings, capitals, "&" for "and", with or without its article.

Likeness is the normalised indel distance of rapidfuzz (after J. W. Hunt & T. G. Szymanski's longest common subsequence), on titles
made plain. Short titles must be nearly equal: in them one letter makes another word.
"""

from __future__ import annotations

import re
import unicodedata
from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from functools import lru_cache
from typing import Final

from rapidfuzz import fuzz, process

_LONG: Final = 8  # letters from which a title may be misspelled freely
_LIKE_LONG: Final = 84.0
_LIKE_SHORT: Final = 93.0
_LEAST: Final = 60.0  # below this not even numbers in words or lost spaces make two titles alike
_NUMBERS: Final = {w: str(i) for i, w in enumerate(["one", "two", "three", "four", "five", "six", "seven", "eight", "nine", "ten", "eleven", "twelve"], 1)}


@lru_cache(maxsize=20_000)  # a shelf of thousands of titles is read anew for every post
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


class TitleIndex:
    """Thousands of titles, made plain once, to be looked for in many comments.

    A title is compared with words only where one of them begins with the same three letters as one of its own: viewers misspell the rest
    of a word far more often than its beginning, and hardly ever every beginning. The comparing itself is rapidfuzz's, all at once.
    """

    def __init__(self, titles: Iterable[str]) -> None:
        self.titles = list(dict.fromkeys(titles))
        self.plain = [strip_article(make_plain(t)) for t in self.titles]
        self._exact = {p: i for i, p in reversed(list(enumerate(self.plain)))}
        self._by_beginning: dict[str, set[int]] = {}
        for i, plain in enumerate(self.plain):
            for word in plain.split():
                self._by_beginning.setdefault(_beginning(word), set()).add(i)

    def find_like(self, plain: str) -> str | None:
        """The title that a plain one means: itself, else the one most alike."""
        plain = strip_article(plain)
        if plain in self._exact:
            return self.titles[self._exact[plain]]
        near = self._near(plain.split())
        best = max(((likeness(plain, self.plain[i]), -i) for i in near), default=(0.0, 0))
        return self.titles[-best[1]] if best[0] else None

    def find_in(self, words: Sequence[str]) -> list[Mention]:
        """Every stretch of plain words that is like a title."""
        near = sorted(self._near(words))
        if not near:
            return []
        sizes = {size for i in near for n in (len(self.plain[i].split()),) for size in (n - 1, n, n + 1) if 0 < size <= len(words)}
        pieces = [(start, size) for size in sorted(sizes) for start in range(len(words) - size + 1)]
        if not pieces:
            return []
        texts = [" ".join(words[start : start + size]) for start, size in pieces]
        scores = process.cdist(texts, [self.plain[i] for i in near], scorer=fuzz.ratio, score_cutoff=_LEAST)
        found = []
        for row, column in zip(*scores.nonzero(), strict=True):
            (start, size), i = pieces[row], near[column]
            if abs(size - len(self.plain[i].split())) <= 1 and (score := likeness(texts[row], self.plain[i])):
                found.append(Mention(self.titles[i], start, start + size, score))
        return found

    def _near(self, words: Sequence[str]) -> set[int]:
        # Words of one or two letters are in half of all titles and tell nothing, unless there are no others.
        telling = [w for w in words if len(w) > 2] or list(words)
        return set().union(*(self._by_beginning.get(_beginning(_NUMBERS.get(w, w)), set()) | self._by_beginning.get(_beginning(w), set()) for w in telling))


def _beginning(word: str) -> str:
    return word[:3]


def find_mentions(plain: str, titles: TitleIndex | Iterable[str]) -> list[Mention]:
    """Known titles in plain words, the best reading of each stretch; no two overlap.

    >>> [m.title for m in find_mentions("papr harbor and copper weather pls", ["Paper Harbour", "Copper Weather"])]
    ['Paper Harbour', 'Copper Weather']
    """
    index = titles if isinstance(titles, TitleIndex) else TitleIndex(titles)
    kept: list[Mention] = []
    for mention in sorted(index.find_in(plain.split()), key=lambda m: (-m.score, -(m.end - m.start), m.start)):
        if all(mention.end <= k.start or mention.start >= k.end for k in kept):
            kept.append(mention)
    return sorted(kept, key=lambda m: m.start)


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
