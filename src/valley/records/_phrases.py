"""How viewers ask, agree, decline and trail off: phrases as data, on text made plain. A new way of asking is one line here."""

from __future__ import annotations

import re
from typing import Final

PLEASE: Final = r"(?:pretty )?(?:pl(?:ea)?se*|plz+|pls+|plis)"
_PRAISE: Final = r"would be (?:so |really |very )?(?:amazing|great|nice|cool|lovely|awesome|wonderful|good|perfect)"
_YOU: Final = r"(?:can|could|would|will) (?:you|u|ya)"
_LEARN: Final = r"(?:want|need|love|like|hoping|dying) to (?:see|learn|hear|play)"
_VOTE: Final = r"(?:vote|votes) (?:for|goes to|go to|is for)"
_LESSON_ON: Final = r"(?:tutorial|lesson|cover|video) (?:for|on|of)"

ASK: Final = (
    rf"\b{PLEASE}\b",
    rf"\b{_YOU}\b",
    rf"\b{_LESSON_ON}\b",
    r"\b(?:tutorial|lesson) when\b",
    r"\bwhen (?:will|are|is|do)\b|\bwhen$",
    r"\bany chance\b",
    rf"\b{_LEARN}\b",
    r"\b(?:we|i) (?:want|need)\b",
    rf"\b{_PRAISE}\b",
    r"\b(?:how|what) about\b",
    r"\b(?:still )?waiting for\b",
    rf"\b(?:i |my )?{_VOTE}\b|^1 for\b|\bupvote\b",
    r"\brequest(?:ing)?\b",
    r"\bnext (?:one|song|lesson|video)\b|\bnext$",
    r"^(?:please )?(?:do|teach|cover|play)\b",
    r"\bteach (?:me|us)\b",
    r"\b(?:so nice|great|nice|happy|glad) if you\b",
)
# Too weak to ask for an unknown song in small letters, but enough beside a known title or one that is written like a title.
HINT: Final = re.compile(
    r"\b(?:do|need|get|wants?|asking|petition|possible|requests?|requesting|lessons?|tutorials?|suits?|hope|hoping|wish|wondering"
    r"|if (?:you|so)|would|id|consider|begging|suggest(?:ion)?s?|idea|due|next|make|cover(?:ed)?|teach|wants? to|anyone|missing"
    r"|someday|one day)\b"
)
SAME_SONG: Final = re.compile(
    r"\b(?:do|play|teach|show|make|cover) (?:us |me )?(?:this|it|this one|this song)(?: one| song)? "
    r"(?:in|but|with|again|slower|easier|as|for|without)\b"
)
# Written like a title: capitals, joined by small words.
CAPITALS: Final = re.compile(r"[A-Z0-9][\w'’]*(?:\s(?:(?:of|on|and|the|in|a|to|for|over|under|&|n)\s){0,2}[A-Z][\w'’]*)+")
REFUSE: Final = (
    r"\bthank(?:s| you)\b.*\bfor\b",
    r"\bthanks to you\b",
    r"\b(?:dont|do not|never|not) (?:do|make|teach|play|cover)\b",
    r"\bno more\b",
    r"\benough of\b",
    r"\b(?:anything|anyone) but\b",
    r"\bi (?:have )?(?:just )?(?:learned|learnt|played|finished|practi[cs]ed|know)\b",
    r"\balready (?:did|done|taught|made)\b",
    r"\b(?:loved|love|enjoyed) (?:your|the|this|that)\b",
)
AGREE: Final = (
    r"^(?:same|same here|me too|yes|yes (?:this|please)|this|this one|1|up|second this|so do i|and me|oh yes|ye+s|i second this|count me in)"
    r"(?: (?:please|pls|this|one))*$"
)
# After these stands what is asked for.
BEFORE_TITLE: Final = re.compile(
    rf"\b(?:song (?:called|named)|{_LESSON_ON}|{_VOTE}|waiting for|consider doing|how about|what about|request(?:ing)?(?: is)?"
    rf"|next (?:one|song)(?: is)?|{_LEARN}|any chance of|{_YOU} (?:please |pls |maybe |also )*(?:do|teach|cover|play)(?: me| us)?"
    r"|if you (?:did|do|could do|would do|taught)|^1 for|(?:please |pls )*(?:do|teach|cover)(?: me| us)?|^(?:please |pls |plz )+"
    r"|(?:we|i) (?:want|need)(?: to (?:see|learn|hear|play))?)\s+(.+)$"
)
AFTER_TITLE: Final = re.compile(rf"^(.+?)\s+(?:{PLEASE}|(?:tutorial|lesson|cover)\b.*|{_PRAISE}\b.*|next|when)$")
# What follows a title and is not of it.
TAIL: Final = re.compile(
    rf"\s+(?:{PLEASE}|next|too|also|again|soon|one day|some day|here|on (?:the )?piano|by .+|but .+|for (?:a|my|the) .+|with .+"
    r"|in (?:may|june|july|c|d|e|f|g|a|b)\b.*|only .+|part (?:one|two|three|\d)|from .+|as well|today|tomorrow|tutorial|lesson"
    r"|because .+|so .+|when.*|and i .+|it .+|the (?:slow|fast|live|easy|short|long) (?:version|take|one)|is .+|instead|first"
    r"|would .+|asap|man|bro|if .+)$"
)
# Words of which no title is made, so that "a tutorial with your left hand" is not taken for one.
_EMPTY_WORDS: Final = (
    "a an the this that it one ones more another song songs video videos tutorial tutorials lesson lessons something anything your you "
    "my me us our his her hands hand left right part parts chord chords notes note sheet music volume louder slower faster speed slow "
    "online mail answer email explain help everything all of these those such for to and or please so very much with in on at is be do "
    "make show teach play learn see hear know someone piano version easier easy harder beginner beginners thing things again i we "
    "fingering pedal scale scales how what where when why camera above too really longer shorter first time times stretch some tell "
    "speak talk"
)
EMPTY: Final = frozenset(_EMPTY_WORDS.split())
_NO_BEGINNINGS: Final = (
    "your my you it this that me us more how what where why online someone something can could would will do does did i we is are take "
    "speak make show anyone anybody"
)
NO_BEGINNING: Final = frozenset(_NO_BEGINNINGS.split())
