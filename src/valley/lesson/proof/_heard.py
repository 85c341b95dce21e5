"""Words as a machine wrote them down: without capitals, without full stops, names of notes half heard ("be flat", "see sharp").

Such a text is made readable letter for letter, so that every place in it stays where it was: names of notes get their capitals, and where nothing tells
one sentence from the next, a break stands before the words with which a teacher goes on ("and then", "okay", "in bar", "the left hand").
"""

from __future__ import annotations

import re

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
_A = re.compile(r"(?<![\w'’])a(?![\w'’])")
_A_NUMBERED = re.compile(r"(?<![\w'’])a(?=\d(?!\w))")
_LISTED = re.compile(
    r"(?:(?<![\w'’])[A-G](?: flat| sharp| natural)?,?(?: and| then)?"
    r"|\b(?:plays?|holds?|is|are|has|have|with|goes|to|up to|it's|it’s|that's|that’s|by half steps:?|notes:?)) $"
)
# What stands behind a name but not behind the article, and another name, before which it may be either.
_NO_NOUN = re.compile(
    r"\s*(?:$|[,.;:!?])|\s+(?:and|then|with|in|on|for|both|over|which|so|to|but|is|are|again|because|at|that's|it's|you|we|twice|up|down|goes|comes|stays|moves|together|okay|now|next|\d)\b"
)
_NAME_NEXT = re.compile(r"\s+[A-G](?![\w'’])(?! (?:major|minor|chord|diminished|augmented|sus|seven|over)\b)")
_ARTICLE_KIND = re.compile(
    r"a (?:major|minor|diminished|augmented|sus|seven|six|flat|sharp) ?(?:chord|third|sixth|scale|key|step|one|interval|sound|feel|thing|change|triad)\b"
)
_STOPS = re.compile(r"[.!?;\n]")
_NAME = r"[A-Ga-g](?: flat| sharp)?(?: major seven| minor seven| half[ -]diminished| major| minor| seven| diminished| sus(?: four)?)?"
_BARS = r"(?:\d+|one|two|three|four|five|six|seven|eight|nine|ten|eleven|twelve|thirteen|fourteen|fifteen|sixteen|twenty)"
_NTH = r"(?:very )?(?:first|second|third|fourth|fifth|sixth|seventh|eighth|last|next|2nd|3rd|\d+th)"
_HAND = r"(?:the |your )?(?:left|right) hand"
_WHO = rf"(?: (?:you|we|it|i|there|{_HAND})\b)?"
# With what a new thing begins: small words that lead to it, then what is spoken of; what is said of a place goes on with who plays there.
_GOES_ON = re.compile(
    r"(?<! in)(?<! of)(?<! to)(?<! from)(?<! on)(?<! with)(?<! for)(?<! over)(?<! play)(?<! finish)(?<! end)(?<! start)(?<! is) "
    r"(?P<go>(?:(?:and|so|but|then|now|okay|or) )*(?:"
    rf"(?:in |for |with )?{_HAND}|[lr]h\b"
    rf"|(?:in bars? {_BARS}|in the (?:{_NTH} (?:bar|half|chord|one|line)|verse|chorus|refrain|bridge|intro|theme|same)|the {_NTH} time){_WHO}"
    rf"|(?:over|on|for) (?:the )?{_NAME}(?: chord)? (?:you|it|we|i|{_HAND})\b|on (?:beat )?{_BARS} (?:you|we|it|there)\b"
    rf"|bars? {_BARS} (?:is|has|goes|runs|and|to)|the {_NTH} (?:bar|chord|line|note|part|two bars|bars)"
    rf"|the (?:melody|tune|bass|chords|song|key|tempo|verse|chorus|refrain|bridge|intro|theme|scale|highest|lowest)\b"
    rf"|{_NAME} is\b|after that|finally|lastly|next\b|each of|each chord|it (?:starts|ends|goes|stays|begins|stay)|you (?:play|hold|have|keep|only|just|finish)"
    rf"|we (?:have|end|start|play)|let's|that's|first chord)"
    rf"|(?:and )?then (?:{_NAME}\b(?! and)|only|it's|it|we|you|the|comes|there)|okay|alright|all right|now\b)"
)
_WORDS_A_SENTENCE = 40


def as_written(text: str) -> str:
    """The text with the capitals and breaks that it lacks, as long as it was; a text that has them is left alone.

    >>> as_written("so we start on be flat and the right hand plays d f a f")
    'so we start on  B flat and the right hand plays D F A F'
    >>> as_written("So we start on B flat. The right hand plays D, F, A, F.")
    'So we start on B flat. The right hand plays D, F, A, F.'
    """
    lacking = _lacks_capitals(text)
    if lacking:
        text = _with_capitals(text)
    if not lacks_stops(text):
        return text
    broken = _with_breaks(text)
    return _with_capitals(broken) if lacking else broken  # an "a" before a break is a name, too


def _lacks_capitals(text: str) -> bool:
    return not re.search(r"(?<![\w'’])[A-G](?![a-z'’])", text) and bool(
        _LETTER.search(text) or _NAMED.search(text) or _HALF.search(text) or any(_NO_NOUN.match(text, m.end()) for m in _A.finditer(text))
    )


def lacks_stops(text: str) -> bool:
    """Whether a text is what a machine wrote down: where its sentences end is guessed."""
    words = len(text.split())
    return words >= _WORDS_A_SENTENCE // 2 and words > _WORDS_A_SENTENCE * len(_STOPS.findall(text))


def _with_capitals(text: str) -> str:
    text = _HALF.sub(lambda m: _ALIKE[m[1]].rjust(len(m[1])), text)
    text = _NAMED.sub(lambda m: m[0] if m[0] == "a" and _ARTICLE_KIND.match(text, m.start()) else m[0].upper(), text)
    text = _LETTER.sub(lambda m: m[0].upper(), text)
    text = _A_NUMBERED.sub("A", text)
    out = list(text)
    for m in _A.finditer(text):
        if _NO_NOUN.match(text, m.end()) or (_NAME_NEXT.match(text, m.end()) and _LISTED.search("".join(out[: m.start()]))):
            out[m.start()] = "A"
    return "".join(out)


def _with_breaks(text: str) -> str:
    return _GOES_ON.sub(r";\g<go>", text)
