"""Where "right" is no hand: "right after that", "all right", "right, so".

Teachers say it that way more often than of a hand, and what is taken for the hand moves all that follows.
"""

from __future__ import annotations

import re

# "Your right in bar two", "left and right at once", "from left to right" are hands.
_ITS_HAND = "".join(rf"(?<!\b{word} )" for word in ("the", "your", "my", "our", "and", "or", "to", "with", "both"))
_TIME = r"(?:after|before|here|there|away|now|next|then|where|when|as|at|from|back)\b"
_PLACE = (
    r"(?:on|in|up|down|above|below|under|underneath|beneath|through|to(?! (?:the |your )?left\b)|into|onto|beside|between|along|across|behind|off|around)\b"
)
_JUST = re.compile(
    rf"(?<=\w ){_ITS_HAND}right(?= (?:{_TIME}|{_PLACE}))"
    rf"|(?:^|(?<=[.!?;:,]\s)|(?<=\band )(?<!\bleft and )|(?<=\bthen )|(?<=\bso ))right(?= {_TIME}(?! left))"
    r"|\bright(?=\?)",
    re.IGNORECASE | re.MULTILINE,
)
# "Right, bridge." is none; "Right, C and E", "Right, beat two" are the hand.
_WELL = re.compile(
    r"\ball right\b(?![ -]hand)|\bthat(?:'s|’s| is) right(?= *(?:[,.!?;]|$))"
    r"|(?:^|(?<=[.!?]\s))right(?=, (?!(?-i:[A-G])\b|(?:beat|bar|on|in|from|play|hold|just|two|three|four|finger|thumb|hand)\b))"
    r"|(?:^|(?<=[.!?]\s)|(?<=\bokay )|(?<=\bokay, )|(?<=\bso )|(?<=\bso, ))right(?=,? (?:so|now|let's|let’s|let us|okay|ok|on to|moving|that|this|we|you"
    r"|for|what|who|everyone|everybody|folks|then)\b)",
    re.IGNORECASE | re.MULTILINE,
)


def without_other_rights(text: str) -> str:
    """The text with other words, as long, for every "right" that is no hand.

    >>> without_other_rights("Right after that the right hand plays C, right?")
    'quite after that the right hand plays C, quite?'
    >>> without_other_rights("All right, with your right in bar two.")
    'okay     , with your right in bar two.'
    """
    return _JUST.sub("quite", _WELL.sub(lambda m: "okay".ljust(len(m[0])), text))
