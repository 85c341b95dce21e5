"""What a machine that writes down speech leaves out: whether a sentence begins at a word, and whether an "a" is the note.

Each is a logistic regression over the words beside it (D. Cox, "The regression analysis of binary sequences", 1958), taught on spoken lessons whose
sentences are known (``training/train_captions.py``); the sentences of a talk are found from its beginning to its end.
"""

from __future__ import annotations

import json
import re
from collections.abc import Iterator, Sequence
from functools import cache
from importlib.resources import files

_NUMBER = re.compile(
    r"\d+|one|two|three|four|five|six|seven|eight|nine|ten|eleven|twelve|thirteen|fourteen|fifteen|sixteen|twenty|thirty|forty|fifty|sixty|seventy|eighty|ninety"
)
_ORDINAL = re.compile(r"\d+(?:st|nd|rd|th)|first|second|third|fourth|fifth|sixth|seventh|eighth|last|next")
_SIGNS = ("flat", "sharp", "natural")
_LETTER = re.compile(r"[b-g](?:\d|m7?)?")
_CLAUSE = re.compile(
    r"(?:(?:and|but|so|then|while) )*(?:(?:the |your )?(?:left|right) hand(?:['’]s| is| has| goes| does| just| stays?| keeps?| holds?| plays?| walks?)"
    r"|in (?:bar \w+|the \w+ bar) (?:we|you|it|i|there|(?:the |your )?(?:left|right) hand))\b"
)
_PLACED = re.compile(r"\bin (?:bar \w+|the \w+ bar)$")
_LEADS_ON = re.compile(r"and|but|so|then|while|the|your|in|of|to|from|on|with|for|over|under|if|when|what|does|as|once")  # before what belongs to it
_LONG = (1, 2, 3, 4, 6, 8, 12, 16, 20)  # words since the last sentence began, at most
_MANY = 3  # names in a row that need not be counted on
_BEGINS = -1.0  # of a sentence more than is likely: what is read in two halves says less, what runs on into the next says what is wrong


def find_beginnings(words: Sequence[str]) -> list[int]:
    """Those of the words, in lower case and without stops, with which a sentence begins but the first."""
    kinds = [kind_of(words, i) for i in range(len(words))]
    out, last = list[int](), 0
    for i in range(1, len(words)):
        if begins_clause(words, i) or _rate("sentence", signs_of_beginning(kinds, i, i - last)) > _BEGINS:
            out.append(i)
            last = i
    return out


def begins_clause(words: Sequence[str], i: int) -> bool:
    """Whether something else is told from here on: of a hand ("and then the left hand plays") or of a bar ("in bar two we have")."""
    if i == 0 or _LEADS_ON.fullmatch(words[i - 1]) or _PLACED.search(" ".join(words[max(0, i - 4) : i])):
        return False
    return _CLAUSE.match(" ".join(words[i : i + 8])) is not None


def is_note_a(words: Sequence[str], stops: Sequence[str], i: int) -> bool:
    """Whether the word at ``i``, an "a", is the note and not the article; ``stops`` are the commas and stops behind each word."""
    return i + 1 == len(words) or _rate("note a", signs_of_note(words, stops, i)) > 0  # no article ends a text


def kind_of(words: Sequence[str], i: int) -> str:
    """A word, or what it is where any other of its kind would do: N a note, ~ its sign, # a number, #th an ordinal; "" beyond the ends."""
    if not 0 <= i < len(words):
        return ""
    word = words[i]
    if _LETTER.fullmatch(word) or (word == "a" and i + 1 < len(words) and words[i + 1] in _SIGNS[:2]):
        return "N"
    if word in _SIGNS:
        return "~"
    if _NUMBER.fullmatch(word):
        return "#"
    return "#th" if _ORDINAL.fullmatch(word) else word


def signs_of_beginning(kinds: Sequence[str], i: int, since: int) -> Iterator[str]:
    """What speaks for and against a sentence that begins with the word at ``i``, ``since`` words after the last."""
    a, b, c, d, e = (kinds[k] if 0 <= k < len(kinds) else "" for k in range(i - 2, i + 3))
    yield from (f"-2 {a}", f"-1 {b}", f"0 {c}", f"1 {d}", f"2 {e}")
    yield from (f"-2 {a} {b}", f"-1 {b} {c}", f"0 {c} {d}", f"-1 {b} {c} {d}", f"0 {c} {d} {e}")
    yield from (f"within {n}" for n in _LONG if since <= n)


def signs_of_note(words: Sequence[str], stops: Sequence[str], i: int) -> Iterator[str]:
    """What speaks for and against an "a" that is a note."""
    a, b, d, e = (kind_of(words, k) for k in (i - 2, i - 1, i + 1, i + 2))
    on, behind = _run(words, range(i + 1, len(words)))
    back, _ = _run(words, range(i - 1, -1, -1))
    yield from (f"-2 {a}", f"-1 {b}", f"1 {d}", f"2 {e}", f"-2 {a} {b}", f"-1 {b} . {d}", f"1 {d} {e}")
    yield from (f"on {on}", f"back {back}", f"on {on} back {back}", f"on {on} after {b}", f"on {on} then {behind}", f"back {back} then {d}")
    yield from (f"stop {stops[i][:1]}", f"stop before {stops[i - 1][:1] if i else '.'}")


def _run(words: Sequence[str], places: range) -> tuple[int, str]:
    """How many names follow one another, and the word after them."""
    count = 0
    for k in places:
        if _LETTER.fullmatch(words[k]) or words[k] == "a":
            count += 1
        elif words[k] not in _SIGNS:
            return min(count, _MANY), kind_of(words, k)
    return min(count, _MANY), ""


def _rate(question: str, signs: Iterator[str]) -> float:
    weights = _weights()[question]
    return weights[""] + sum(weights.get(sign, 0.0) for sign in signs)


@cache
def _weights() -> dict[str, dict[str, float]]:
    """The weight of each sign in either question, "" that of none."""
    found: dict[str, dict[str, float]] = json.loads(files("valley.lesson.proof").joinpath("captions.json").read_text("utf-8"))
    return found
