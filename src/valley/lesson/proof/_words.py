"""How words name notes, chords, bars and counts: the proof-reader's tables and small readers, without any music to hold them against."""

from __future__ import annotations

import re

from valley.fraction import Fraction
from valley.theory._chord_table import QUALITIES, Quality
from valley.theory.chord import parse_symbol
from valley.theory.pitch import PitchName, parse_name

# A flat sign is a "b" that is not the beginning of a word: "Bbm" and "Ab" have one, "About" has none.
SIGN = (
    r"(?:\s?(?:##|#|♯♯|♯|b{1,2}(?=m(?![a-hj-z])|min|maj|dim|sus|aug|add|[^a-z]|$)|♭♭|♭)"
    r"|[\s-]double[\s-]sharp|[\s-]double[\s-]flat|[\s-]sharp|[\s-]flat|[\s-]natural)?"
)
ROOTS = {
    "letters": rf"(?:[A-G]{SIGN})",
    "syllables": rf"(?:(?:do|ré|re|mi|fa|sol|la|si){SIGN})",
    "german": r"(?:[CDFG](?:isis|is|eses|es)?|E(?:isis|is|ses|s)?|A(?:isis|is|ses|s)?|H(?:isis|is|eses)?|B)",
}
SYLLABLE_LETTERS = {"do": "C", "re": "D", "ré": "D", "mi": "E", "fa": "F", "sol": "G", "la": "A", "si": "B"}
# Words that are names of notes in a school and everyday words as well: they count only beside other notes.
WEAK = {"letters": {"A"}, "syllables": {"do", "la", "si", "mi", "re", "fa", "sol"}, "german": {"As", "Es", "A"}}
SPOKEN = {
    "major seventh": "maj7",
    "major seven": "maj7",
    "major 7th": "maj7",
    "major 7": "maj7",
    "minor major seventh": "minmaj7",
    "minor seventh": "min7",
    "minor seven": "min7",
    "minor 7th": "min7",
    "minor 7": "min7",
    "dominant seventh": "7",
    "dominant seven": "7",
    "seventh": "7",
    "seven": "7",
    "half-diminished": "hdim7",
    "half diminished": "hdim7",
    "diminished seventh": "dim7",
    "diminished": "dim",
    "augmented": "aug",
    "suspended fourth": "sus4",
    "suspended second": "sus2",
    "suspended": "sus4",
    "seven sus four": "sus4(b7)",
    "seventh sus four": "sus4(b7)",
    "seven sus": "sus4(b7)",
    "seventh sus": "sus4(b7)",
    "nine sus": "sus4(b7,9)",
    "sus four": "sus4",
    "sus": "sus4",
    "sus two": "sus2",
    "added ninth": "maj(9)",
    "add nine": "maj(9)",
    "major ninth": "maj9",
    "minor ninth": "min9",
    "ninth": "9",
    "major nine": "maj9",
    "minor nine": "min9",
    "nine": "9",
    "minor eleven": "min11",
    "thirteen": "13",
    "minor six": "min6",
    "minor sixth": "min6",
    "sixth": "maj6",
    "major": "maj",
    "minor": "min",
}
MORE_TYPED = {"M7", "Δ7", "ø7", "ø", "add2", "sus", "min7", "min", "-7", "°7", "°", "m7♭5"}
_SUFFIXES = {q.suffix for q in QUALITIES if q.suffix}
_SIGNED = {s.replace("#", "♯").replace("b", "♭") for s in _SUFFIXES}
TYPED = sorted(_SUFFIXES | _SIGNED | MORE_TYPED, key=len, reverse=True)
_NO_COUNT = r"(?!\s(?:times|beats|bars|notes|chords|keys|of)\b)"  # "C nine times"
QUALITY = (
    "|".join(rf"\s{re.escape(w)}\b{_NO_COUNT}" for w in sorted(SPOKEN, key=len, reverse=True)) + "|" + "|".join(rf"{re.escape(s)}(?![A-Za-z\d])" for s in TYPED)
)
COUNTED = ("zero", "one", "two", "three", "four", "five", "six", "seven", "eight", "nine", "ten", "eleven", "twelve")
NUMBERS = {w: float(i) for i, w in enumerate(COUNTED)} | {"a": 1.0, "half a": 0.5, "a half": 0.5}
NUMBER = r"(\d+(?:\s\d/\d|\.\d+|/\d+)?|" + "|".join(sorted((re.escape(w) for w in NUMBERS if len(w) > 1), key=len, reverse=True)) + ")"
SUM = re.compile(
    rf"\b{NUMBER}\s+(eighths?|quarters?|halves|half notes?|sixteenths?)(\s+twice)?\s+(?:fill|make|are|is|=|equals?|give)\s+{NUMBER}\s+beats?", re.IGNORECASE
)
# Values of notes as they are called on either side of the sea, in quarters.
VALUES: dict[str, Fraction | int] = {
    "semibreve": 4, "whole note": 4, "dotted minim": 3, "dotted half note": 3, "dotted half": 3, "minim": 2, "half note": 2, "dotted crotchet": Fraction(3, 2),
    "dotted quarter note": Fraction(3, 2), "dotted quarter": Fraction(3, 2), "crotchet": 1, "quarter note": 1, "quaver": Fraction(1, 2),
    "eighth note": Fraction(1, 2), "semiquaver": Fraction(1, 4), "sixteenth note": Fraction(1, 4),
}  # fmt: skip
VALUE = "|".join(sorted(VALUES, key=len, reverse=True))
LENGTH = re.compile(
    rf"\b(?:hold|held|holds|keep|keeps|(?<!the )lasts?|for|rings?|gets?|takes?)\b(?!\s+the\s+first\b)[^.;]{{0,20}}?\b"
    rf"(?P<n>{NUMBER[1:-1]})\s+(?P<unit>beats?|counts?|bars?)\b"
    rf"|\b(?:hold|held|holds|rings?|lasts?|stays?|sounds?)\b[^.;,]{{0,24}}?\bfor\s+(?P<whole>(?:the|that|a|one) (?:whole|entire|full) bar)\b"
    rf"|\b(?:hold|held|holds)\s+(?:it|that|this|them|(?:that |the )?(?-i:[A-G])(?: flat| sharp)?)\s+for\s+(?P<n2>{NUMBER[1:-1]})(?=\s*(?:[.,;!]|$))"
    rf"|\b(?:hold|held|holds|rings?|lasts?)\b[^.;,]{{0,24}}?\bfor\s+(?P<half>half (?:of )?(?:the|that|a) bar)\b"
    rf"|\b(?P<n3>{NUMBER[1:-1]})\s+(?:beats?|counts?)\s+(?:long\s+|for\s+)?held\b"
    rf"|\b(?-i:[A-G])(?:[ -](?:flat|sharp))?\s+of\s+(?P<n4>{NUMBER[1:-1]})\s+(?:beats?|counts?)\b"
    rf"|\b(?:for|lasts|gets|takes|is|as)\s+an?\s+(?P<value>{VALUE})\b(?!\s+(?:rest|triplet|late|early|before|after|higher|lower|pattern|feel|pulse))",
    re.IGNORECASE,
)
LENGTH_EACH = re.compile(rf"\b(?P<n>{NUMBER[1:-1]})\s+(?:beats?|counts?)\s+(?:each|apiece)\b", re.IGNORECASE)
LENGTH_ON = re.compile(rf"\b(?P<n>{NUMBER[1:-1]})\s+(?P<unit>beats?|counts?|bars?)\s+(?:on|of|for)\s+(?:the\s+|an?\s+)?$", re.IGNORECASE)
# Whole numbers as they are said: "96", "ninety-six", "a hundred and twenty".
_UNITS = {w: i for i, w in enumerate((*COUNTED, "thirteen", "fourteen", "fifteen", "sixteen", "seventeen", "eighteen", "nineteen"))}
_TENS = {w: 10 * i for i, w in enumerate(("twenty", "thirty", "forty", "fifty", "sixty", "seventy", "eighty", "ninety"), 2)}
_ONE = "|".join(sorted(_UNITS, key=len, reverse=True))
_TO_99 = rf"(?:(?:{'|'.join(_TENS)})(?:[ -](?:{_ONE}))?|{_ONE})"
WHOLE = rf"(?:\d+|(?:a |one )?hundred(?: and {_TO_99}| {_TO_99})?|{_TO_99})(?![A-Za-z])"
BAR_NUMBER = WHOLE
BARS = re.compile(rf"\b(?:bars?|measures?)\s+({BAR_NUMBER})(?:\s?(?:-|–|to|and|through)\s?({BAR_NUMBER}))?\b", re.IGNORECASE)
ORDINALS = ("first", "second", "third", "fourth", "fifth", "sixth", "seventh", "eighth", "ninth", "tenth", "eleventh", "twelfth")
LAST_BUT_ONE = r"(?:second|next)[ -]to[ -]last|second[ -]last|last but one|penultimate"
NTH = re.compile(
    rf"(?<!(?-i:[A-G]) )(?<!flat )(?<!sharp )(?<!minor )(?<!major )(?<!diminished )"
    rf"\b({LAST_BUT_ONE}|{'|'.join(ORDINALS)}|\d+(?:st|nd|rd|th)|last)\s+(bar|measure|chord|grip)\b",
    re.IGNORECASE,
)
# "Chord number two"; "for the third one", said of a chord.
CHORD_NUMBER = re.compile(rf"\b(?:chord|grip)\s+(?:number|no\.?)\s+({BAR_NUMBER})\b", re.IGNORECASE)
NTH_ONE = re.compile(rf"\W*(?:(?:and|so|then|now|okay|but)\W+)*(?:for|on|over)\s+the\s+({'|'.join(ORDINALS)}|last)\s+one\b", re.IGNORECASE)
# "The last of the four is".
NTH_OF = re.compile(rf"\bthe\s+({'|'.join(ORDINALS)}|last)\s+of\s+(?:the|these|those)\s+(two|three|four|five|six|seven|eight)\b", re.IGNORECASE)
# Words around a bare letter that make it the name of a chord: "B flat is next", "we open on F", "you've got an F with its octave".
CHORD_AFTER = re.compile(
    r"\s*:\s*(?=[A-G])|\s+(?:is|comes|follows)\s+(?:next|now|after|up|again)\b|\s+(?:chord|major|minor)\b|\s+with\s+(?:its|an?|the)\s+(?:octave|fifth|third)\b"
    r"|(?:['’]s|\s+is)\s+the\s+same\s+(?:thing|shape|idea|pattern)\b"
    r"|\s+(?:thing|part|bar)\b(?! \d)|\s+is\s+(?:almost|nearly|exactly|again|also|the same|just like|the easy|next)\b"
    r"|\s+in\s+(?:root position|(?:first|second) inversion)\b|\s+for\s+\w+\s+(?:beats?|bars?|counts?)\b",
    re.IGNORECASE,
)
CHORD_BEFORE = re.compile(
    r"\b(?:next (?:is|comes|up is)|then comes|comes|start(?:s|ing)? (?:with|on)|begin(?:s|ning)? (?:with|on)|opens? (?:on|with)|resolves? to|back to"
    r"|ends? on|land(?:s|ing)? on|change(?:s)? to|chord(?: here)? is|for the|on the)\s+(?:an?\s+|the\s+)?$",
    re.IGNORECASE,
)
# "The last three chords are": what is named then are those, one after the other.
RUN_OF_CHORDS = re.compile(rf"\b(first|last)\s+({BAR_NUMBER})\s+chords?\b[^.;,]{{0,24}}?\b(?:are|is|go|goes)\b", re.IGNORECASE)
# "The right hand holds that first D for two beats": a note, though it has a length.
NOTE_BEFORE = re.compile(
    r"\bhand (?:just |only )?(?:holds?|keeps?|plays?|stays on|has)\b[^.;,]{0,16}$|\bhold(?:s|ing)? (?:that|the) (?:first|last) $"
    r"|\b(?:it|melody|tune|hand)\s+(?:starts|begins)\s+(?:off\s+)?on\s+the\s+(?:low\s+|high\s+)?$"
    r"|\b(?:it|melody|tune)\s+(?:just\s+|only\s+|then\s+)?(?:stays?|sits?|remains?)\s+on\s+(?:that\s+|the\s+)?$"
    r"|\b(?:it|melody|tune)\b[^.;]*\b(?:comes|goes|jumps|drops|steps|falls)\s+(?:back\s+|up\s+|down\s+)*to\s+$",
    re.IGNORECASE,
)
# "Next one, B flat", "two chords, B flat and C": what is named then are chords, though nobody says of which kind.
CHORDS_NEXT = re.compile(
    rf"\b(?:(?:next (?:one|up)|(?P<n>{NUMBER[1:-1]}) chords(?: here| there| now)?)\s*[,:–-]|bars are (?:both|all)(?: just)?\b)\s*"
    r"(?:it's\s+|there's\s+)?(?:an?\s+|the\s+)?$",
    re.IGNORECASE,
)
# "For E it's E, G sharp, B", "to get to D you …": a chord at the beginning of what is told of it.
FOR_CHORD = re.compile(
    r"(?:^|[,;])\W*(?:and |then |so |but |now )*(?:for|on|over|to get to|to reach|to make) (?:the )?$|\bto (?:get|reach|make)(?: to)? (?:the )?$", re.IGNORECASE
)
FOR_CHORD_AFTER = re.compile(
    r",? (?:is (?:just )?(?:to )?(?:lift|move|push|drop|slide|raise|lower)|it's|it’s|that's|that’s|that would be|it would be|you|we|i"
    r"|the (?:left|right)|your)\b",
    re.IGNORECASE,
)
# "C is C, and then C and E above it": the same without a word before.
CHORD_IS = re.compile(r"^\W*(?:and |then |so |but |now )*$", re.IGNORECASE)
CHORD_IS_AFTER = re.compile(r" (?:is|are) (?:just |an? |the |low |first )*[A-G](?:[ -](?:sharp|flat|natural))?(?:,| and\b)")
THATS = re.compile(r",?\s+(?:that's|that’s|that is|which is|meaning)\s+(?=[A-G]\b)")
# What is said of the song or the tune as a whole, or counted from its beginning, though a bar was named before.
ROAMS = re.compile(
    r"\b(?:song|piece|tune|melody|highest|lowest|very (?:first|last)|whole thing|(?:you|we|it) (?:start|begin|end|finish)(?:s|es)?"
    rf"|(?:{'|'.join(ORDINALS)}|last) (?:chord|bar|grip)|{LAST_BUT_ONE})\b",
    re.IGNORECASE,
)
OF_SONG = re.compile(r"\b(?:song|piece|whole thing|very (?:first|last)|highest|lowest|(?:you|we) (?:start|begin)|from the first to the)\b", re.IGNORECASE)
TUNE = re.compile(r"\b(?:tune|melody|top line|singer|vocals?|voice)\b", re.IGNORECASE)
NOT_TUNE = re.compile(r"\b(?:left hand|bass|chords?|harmony|both hands)\b", re.IGNORECASE)
# "Then it jumps up to D, and the chord is G minor": it is the tune still.
IT_GOES = re.compile(r"\W*(?:and |then |so |but |now )*it (?:goes|comes|jumps|leaps|drops|falls|climbs|rises|moves|steps|walks|returns|lands)\b", re.IGNORECASE)
LINE_ENDS = re.compile(
    r"\b(?:song|piece|tune|melody)\b(?: of the \w+| here| there| now)?\s+(?:then |finally )?(?:starts?|begins?|ends?|finish(?:es)?)\b", re.IGNORECASE
)
QUESTION = re.compile(r"\b(?:what|which|why|how|where|who|can you|do you)\b[^?]*\?\s*$", re.IGNORECASE)
# "An octave above middle C": a landmark, not a note that is played.
LANDMARK = re.compile(r"\b(?:above|below|under|over|from|near|around|left of|right of|than) middle $", re.IGNORECASE)
NAMES_MIDDLE = re.compile(r"\W*(?:the )?middle C is (?:called )?(?:the )?C\d?\b", re.IGNORECASE)
# "The sus chord": the chord of that kind, where it is told without its name.
KIND_OF_CHORD = re.compile(r"\b(?:the|this|that) (sus|suspended|diminished|half-diminished|augmented) (?:chord|one)\b", re.IGNORECASE)
# "Over the A seven", "on the D minor": the chord that the sentence is about, wherever in it that is said.
OCTAVE_ON = re.compile(r"\b(?:(?:an octave|octaves) (?:on|of) (?:an?\s+|the\s+)?|octave )$", re.IGNORECASE)
OVER_CHORD = re.compile(
    r"\b(?:over|under|above|below|during|against|on|in) (?:the|that|this|your) $|\b(?:for|through|throughout|during) (?:the|that) (?:whole |entire |full )$",
    re.IGNORECASE,
)
# "It jumps up to D, and the chord is G minor": the chord that stands under what is told before.
CHORD_THERE = re.compile(r"\b(?:the chord (?:there |here |under it |below )?is|there's|there is|over|under) (?:an?\s+)?$", re.IGNORECASE)
THE_ENDING = re.compile(r"\bthe (?:very )?ending(?:'s|’s| is| goes| has)\b|\bat the very end\b(?! of)", re.IGNORECASE)
THAT_BAR = re.compile(r"\bin (?:that|this|the same) (?:bar|measure)\b", re.IGNORECASE)
NTH_LINE = re.compile(r"\bthe (first|second|third|fourth) line\b(?!\s+of\b)", re.IGNORECASE)
HALF_OF = re.compile(r"\b(first|second|last) half of (?:the|this|that|our)\b", re.IGNORECASE)
LIKE_BAR = re.compile(
    rf"\b(?:same as|as in|like(?: in)?|copy of|repeat of|identical to)\s+(?:in\s+)?bars?\s+{BAR_NUMBER}(?:\s?(?:-|–|to|and|through)\s?{BAR_NUMBER})?",
    re.IGNORECASE,
)
RUN_OF_BARS = re.compile(rf"(?<!\bat )\b(first|last)\s+({BAR_NUMBER})\s+(?:bars|measures)\b", re.IGNORECASE)
# "F, A, D in the right": the hand stands after its notes.
HAND_AFTER = re.compile(r"\s*,?\s*(?:in|with|on|for)\s+(?:the|your)\s+(left|right|bass)\b", re.IGNORECASE)
IN_ONE_HAND = re.compile(r"(?: octave)?\s*,?\s*(?:in|with|for)\s+(?:the|your)\s+(?:left|right)\b", re.IGNORECASE)
IN_THE_BASS = re.compile(r"\s+(?:in|as)\s+the\s+bass\b", re.IGNORECASE)
# "E in octaves": the same, told behind the note.
OCTAVE_AFTER = re.compile(r"\s+(?:in octaves|octave(?=\s*(?:[.,;!]|$)))\b", re.IGNORECASE)
EVERY = re.compile(r"\b(?:every|each|all)\s+(?:the\s+)?$", re.IGNORECASE)
# "The key is C major", "the scale of E minor": a key, not a chord; after "in" it is one where the song has that key.
KEY_BEFORE = re.compile(
    r"\b(?:key (?:is|of|here is|changes to|moves to)|in the key of|key:|scale (?:is|of)|modulates? to"
    r"|\b(?:lifts?|moves?|shifts?|modulat(?:es?|ing)|goes|changes?) (?:up |down )?into|\b(?:number|song|piece|riff|tune|groove|ballad|waltz|lesson|one)"
    r"(?: for (?:you|us|everyone))?(?: today| tonight| this week| now)? in"
    r"|(?:it's|it’s|we're|we’re|we are|it is|this is|today's|today’s) (?:all |still )?in(?: good old)?"
    r"|(?:song|piece|verse|refrain|chorus|tune|thing) (?:is|sits|stays|lives|was written|is written|goes) in)\s+(?:an?\s+)?$",
    re.IGNORECASE,
)
IN_KEY = re.compile(r"\bin\s+$", re.IGNORECASE)
# Notes that are left belong to the grip before.
LEAVING = re.compile(r"\b(?:let go of|let|release|lift|leave|take away)\s+(?:the\s+)?$", re.IGNORECASE)
MOVED_FROM = re.compile(
    r"\b(?:moves?|moving|takes?|slides?|shifts?|chang(?:es?|ing)|lift|turn|nudge|push|bump|raise|lower|drop|bring|swap|exchange|replace|trade),?\s+(?:out\s+)?"
    r"(?:the\s+|that\s+|your \w+\s+|from\s+)*$",
    re.IGNORECASE,
)
TO = re.compile(r"\s+(?:(?:up\s+|down\s+|on\s+)?(?:in)?to|for|with)\s+(?:the\s+|an?\s+)?")
# "The song ends on", "the second part starts with": what is named next is the last or first chord of it.
END_CHORD = re.compile(
    r"\b(?:song|piece|we|it|verse|chorus|refrain|bridge|opening|theme|part(?: \w+)?)(?:,? which)?\s+(?:then |all |finally )?(?P<end>starts?|kicks?"
    r"|begins?|opens?|ends?|finish(?:es)?)\s+"
    r"(?:off\s+)?(?:on|with)\s+(?:(?P<n>" + NUMBER[1:-1] + r")\s+(?P<unit>bars?|beats?)\s+of\s+)?(?:an?\s+|the\s+)?$",
    re.IGNORECASE,
)
GOING = re.compile(
    r"\s+(?:becomes?|turns? into|goes?|moves?|steps?|slides?|walks?|falls?|rises?|drops?|jumps?|climbs?|resolves?|comes? (?:up|down))\b", re.IGNORECASE
)
BEGINNING = re.compile(r"\b(?:hand (?:begins|starts)|(?:we|you|it) (?:begin|start)s?(?= (?:with|on|off)\b))", re.IGNORECASE)
CHORD_TO_CHORD = re.compile(r"\s+(?:to|then|and then|and back to)\s+(?:an?\s+|the\s+)?")
NEGATED = re.compile(
    r"\b(?:not|no|without|isn't|isn’t|never|no longer|(?:doesn't|doesn’t|don't|don’t|does not|do not) (?:\w+ )?(?:on|to|in|with|play|use)"
    r"|(?:don't|don’t|doesn't|doesn’t|do not|does not|needn't) (?:have|need) to (?:play|hold|press|take|reach)(?: (?:low|high))?"
    r"|rather than|instead of|in place of|skip(?:s|ping)?|omit(?:s|ting)?|leav(?:e|es|ing) out|miss(?:es|ing) out)\s+(?:an?\s+|the\s+|on\s+|low\s+|high\s+)*$",
    re.IGNORECASE,
)
MOVES_TO = re.compile(
    r"\b(?:becomes? |turns? into )$|\b(?:up|down|over|across|back|moves?|goes|slides?|steps?|walks?|shifts?)\s+(?:\w+\s+){0,2}?to\s+(?:an?\s+|the\s+)?$",
    re.IGNORECASE,
)
# "Has the A on top", "with a D at the bottom": the outermost key of a hand.
EDGE_AFTER = re.compile(r"\s+(?:(?:on|at the very|at the) (top|bottom))\b", re.IGNORECASE)
EDGE_HAS = re.compile(r"\b(?:(?:has|have|puts?|keeps?)\s+(?:the\s+|an?\s+)?|(?:with|gets?|is)\s+(?:the\s+|an?\s+))$", re.IGNORECASE)
_EDGE_HAD = re.compile(r"\b(?:has|have|with|it's|that's)\b[^.;]*\b(?:at the bottom|in the middle|on top)\b", re.IGNORECASE)
# "The top D stays where it is".
EDGE_STAYS = re.compile(r"\b(?:the|your|that) (top|bottom|highest|lowest) $", re.IGNORECASE)
STAYS_PUT = re.compile(
    r"\s+(?:just |still |simply |always )?(?:stays (?:put|where it is|the same|still|down)|doesn't move|doesn’t move|does not move|never moves)\b",
    re.IGNORECASE,
)
STAYS_THERE = re.compile(r"\s+(?:just |still |simply )?(?:stays|remains|is held|keeps|doesn't move|doesn’t move|does not move|is the same)\b", re.IGNORECASE)
FINAL = re.compile(r"\bthe (?:very )?(?:final|last)\s+$", re.IGNORECASE)
HAS_SIGNS = re.compile(rf"\s+has\s+(?:got\s+|only\s+|just\s+)*(?:{WHOLE}|no)\s+(?:sharps?|flats?)\b", re.IGNORECASE)
# What others play, or could be played, claims nothing of this song.
HEDGED = re.compile(
    r"\b(?:looks|sounds|feels) (?:just |exactly |a (?:bit|lot) )?like (?:an? |the )?$"
    r"|\b(?:most|many|some|other) (?:people|players|versions|recordings)\b(?:(?!\bbut\b)[^.;])*$|\byou (?:could|might|may)\b(?:(?!\bbut\b)[^.;])*$",
    re.IGNORECASE,
)
EDGE = re.compile(
    r"\b(bass(?: note)?|lowest (?:note|key)|bottom (?:note|key)|top (?:note|key)|highest (?:note|key))\b"
    r"(?:[^.;,]{0,28}?\b(?:is|takes|plays|stays on|remains on"
    r"|(?:goes|moves|drops|steps|comes|walks|falls|jumps|climbs)(?: back| up| down)* to)|[^.;]{0,32},? it (?:just |still )?(?:stays|remains|sits) on)\s+"
    r"(?:an?\s+|the\s+|on\s+)?$",
    re.IGNORECASE,
)
CHORD_WORD = re.compile(r"\s?(chord|triad|harmony)\b")
INVERSION = re.compile(r"(root position|(?:first|second|third) inversion)", re.IGNORECASE)
MEMBER_IN_BASS = re.compile(r"\b(?:(?:with|has) )?(?:its|the) (root|third|fifth|seventh) (?:is )?in the bass\b", re.IGNORECASE)
ANNOUNCES = re.compile(r"\b(?:plays?|notes?|press|holds?|hand:|with)\s+$")
ENDS = re.compile(r"\s*(?:$|[.,;:!?)]|and\b|with\b|in\b|on\b)")
BETWEEN = re.compile(r"[\s,;&–+-]*(?:(?:and|then|up to|down to|to|plus|with)\s+)?(?:(?:the|an?)\s+)?(?:note\s+)?")


def has_edge(before: str) -> bool:
    """Whether words before a note that is "on top" or "at the bottom" say that something has it there."""
    return EDGE_HAS.search(before) is not None or (re.search(r"(?:,|\band)\s+(?:an?\s+|the\s+)?$", before) is not None and _EDGE_HAD.search(before) is not None)


def read_whole(text: str) -> int:
    """A whole number up to 199, in figures or words.

    >>> read_whole("a hundred and twenty"), read_whole("ninety-six"), read_whole("4")
    (120, 96, 4)
    """
    if text.isdigit():
        return int(text)
    total = 0
    for word in re.split(r"[ -]", text.lower()):
        total += 100 if word == "hundred" else _TENS.get(word, 0) or (_UNITS.get(word, 0))
    return total - ("one hundred" in text.lower())


def say_whole(number: int) -> str:
    """In words up to twelve, in figures above."""
    return COUNTED[number] if 0 <= number < len(COUNTED) else str(number)


# What may stand between two names that are told one after the other.
_FILLER = (
    r"and|but|then|next|after that|after|again|back|up|down|to|the|that|with|plus|notes?|in|one|bar|on|above|below|by|an?"
    r"|it goes|goes|comes|climbs|falls|drops|rises"
    r"|moves|steps|walks|two of them|three of them"
    r"|low|high|lastly|last"
    r"|finally|another|over|also|same|it's|is|by the|followed|your|little|long|short|twice|once more|once|chord|first|another time|later|all|way"
)
_FILLER += rf"|for (?:{NUMBER[1:-1]})(?: beats?| counts?)?"
_BETWEEN = re.compile(rf"[\s,;&–+-]*(?:(?:{_FILLER})\b[\s,;&–+-]*)*", re.IGNORECASE)
_LINKS = re.compile(r"[,;&–-]|\b(?:and|then|to|next|after|plus|with|again|over|followed)\b", re.IGNORECASE)
_LONGEST_GAP = 40


def goes_on(between: str) -> bool:
    """Whether a list of names goes on over what stands between two of them: small words, and one that joins."""
    return len(between) <= _LONGEST_GAP and _BETWEEN.fullmatch(between) is not None and (not between.strip() or _LINKS.search(between) is not None)


def is_joined(between: str) -> bool:
    """Whether what stands between two names only joins them."""
    match = BETWEEN.fullmatch(between)
    return match is not None and len(between) < 18


def say_length(beats: Fraction, unit: Fraction | int, said: str) -> str:
    """A length in the words that it was said in: bars where it was bars and they come out whole, else beats."""
    if said.lower().startswith(("bar", "measure")) and unit and not beats % unit:
        return f"{say_number(beats / unit)} bar{'' if beats == unit else 's'}"
    return f"{say_number(beats)} beat{'' if beats <= 1 else 's'}"


def say_value(quarters: Fraction) -> str:
    """A length by the name of its note, where it has one."""
    name = next((name for name, value in VALUES.items() if value == quarters and "note" in name), None)
    return f"a{'n' if name[0] in 'aeiou' else ''} {name}" if name else f"{say_number(quarters)} quarters"


def quality_named(harte: str) -> Quality:
    return next(q for q in QUALITIES if q.harte == harte)


def read_quality(text: str) -> Quality:
    clean = text.strip().lower()
    if clean in SPOKEN:
        return quality_named(SPOKEN[clean])
    chord = parse_symbol(f"C{text.strip()}")
    return chord.quality if chord else quality_named("maj")


def parse_german(text: str) -> PitchName | None:
    if text == "B":
        return parse_name("Bb")
    if text == "H":
        return parse_name("B")
    base, rest = text[0], text[1:]
    letter = "B" if base == "H" else base
    alter = {"": 0, "is": 1, "isis": 2, "es": -1, "s": -1, "eses": -2, "ses": -2}.get(rest)
    return None if alter is None else parse_name(letter + ("#" * alter if alter > 0 else "b" * -alter))


def read_count(text: str) -> int:
    """A whole number in figures or words."""
    return read_whole(text)


def read_number(text: str) -> Fraction:
    clean = text.strip().lower()
    if clean in NUMBERS:
        return Fraction(NUMBERS[clean]).limit_denominator(8)
    if " " in clean:
        whole, rest = clean.split(" ", 1)
        return Fraction(whole) + Fraction(rest)
    return Fraction(clean)


def say_number(beats: Fraction) -> str:
    whole, rest = divmod(beats, 1)
    return f"{whole} {rest}" if whole and rest else str(rest or whole)
