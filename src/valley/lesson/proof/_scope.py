"""Where words are in the song: the bar, part, chord and hand that they speak of, and the grips that can be meant."""

from __future__ import annotations

import re
from collections.abc import Sequence
from dataclasses import dataclass, field

from valley.fraction import Fraction
from valley.lesson.proof._words import (
    BAR_NUMBER,
    BARS,
    CHORD_AFTER,
    CHORD_BEFORE,
    CHORD_IS,
    CHORD_IS_AFTER,
    CHORD_TO_CHORD,
    CHORDS_NEXT,
    END_CHORD,
    FOR_CHORD,
    FOR_CHORD_AFTER,
    IN_KEY,
    KEY_BEFORE,
    LENGTH_ON,
    NOTE_BEFORE,
    ORDINALS,
    THATS,
    goes_on,
    quality_named,
    read_count,
)
from valley.model.arrangement import Arrangement, Grip
from valley.model.chart import Chart
from valley.theory._chord_table import QUALITIES, Quality
from valley.theory.chord import Chord
from valley.theory.pitch import PitchName

_CHORD_IS_SAID = re.compile(rf"\bthe (?:{'|'.join(ORDINALS)}|next|last) chord is (?:an? |the )?$", re.IGNORECASE)
_LASTS = re.compile(r"\s+for\s+\w+\s+(?:beats?|bars?|counts?)\b", re.IGNORECASE)
_A_CALL = 4  # words of a sentence that only calls a part by its name
_BACK = 2  # how much farther a place seems that lies behind
# "Okay, now the verse.": said by itself, the part that comes is meant.
_OPENER = r"(?:(?:okay|ok|alright|all right|right|cool|great|good|now|so|next|then|and|here comes|on to|the|our|a)\W+)*"
# "Verse chords are C and G": with what a sentence goes on that began with nothing but the part's name.
_SAYS = r"\b(?:so|now|and|chords?|melody|tune|bass|left|right|both|hands?|first|then|is|has|goes|starts|begins|we|you|it)\b"
# "There's a little intro", "we start with a short vamp".
_THERE_IS = r"(?:there(?:'s|’s| is)|(?:we|you|it)(?:'ve|’ve| have| has)|(?:starts?|begins?|opens?) (?:off |out )?with) (?:got )?an? (?:[\w-]+ ){0,2}"
_INTRO = ("intro", "opening")
_ALSO_CALLED = (("intro", "introduction", "opening"), ("outro", "ending", "coda", "tag"), ("chorus", "refrain", "hook"), ("bridge", "middle eight", "middle 8"))
_OPENING = re.compile(
    r"\b(?:the|this|our|that) (?:opening|intro|introduction)(?: (?:riff|bit|figure|part|section|bars|lick))?\b|\bopening riff\b", re.IGNORECASE
)
# "That's the loop done, so let's get to the melody": what has been told is no place to go to.
_DONE = re.compile(
    r"\bthat(?:['’]s| is| was) (?:it for |all for |all of )?(?:the|our) [\w -]{1,20}?(?:\s(?:done|finished|over|sorted)\b|(?=,|\.?\s*$))", re.IGNORECASE
)
_ALL_DONE = re.compile(
    r"\W*(?:(?:okay|ok|so|and|cool|right|well|now|great)\W+)*"
    r"that(?:['’]s| is| was) (?:it for |all for |all of )?(?:the|our|your) (?:whole |entire |full )?[\w-]+"
    r"(?: (?:done|finished|over|sorted|complete))?\W*$",
    re.IGNORECASE,
)
_OF_A_PART = re.compile(BARS.pattern + r"\s+(?:of|in)\s+(?:the|our|your|this)\b", re.IGNORECASE)
_PART_NUMBER = re.compile(rf"\bpart\s+({BAR_NUMBER})\b", re.IGNORECASE)
_NTH_PART = re.compile(rf"\b({'|'.join(ORDINALS)}) part\b", re.IGNORECASE)
_PAIRS = re.compile(r"\b(?:two[- ]note|pairs?|double notes)\b", re.IGNORECASE)
_COMPARED = re.compile(r"\b(?:as|like|than)\b")


@dataclass(frozen=True)
class Claim:
    """One thing that the words say.

    ``start`` and ``end`` are characters of the text; ``kind`` is note, octave, chord, hand, finger, count, key, metre or tempo;
    ``expected`` are the right words, empty where nothing is wrong or nothing sure. Of what contradicts, ``sure`` tells what can be taken for a slip
    unheard from what is to be listened to again (see ``_second_look``).
    """

    text: str
    start: int
    end: int
    kind: str
    verdict: str
    expected: str = ""
    message: str = ""
    sure: bool = False


def _calls_of(name: str) -> tuple[re.Pattern[str], re.Pattern[str]]:
    """How a part is called by its name (a pattern) in passing, and by that alone."""
    introduced = rf"\b(?:the (?:\w+ )?|{_THERE_IS}){name}\b|^\W*{_OPENER}{name}\s*(?:[,;:.!]|$|{_SAYS})|\b(?:(?:on|over) to|time for) {name}\b|\b{name} time\b"
    return re.compile(introduced, re.IGNORECASE), re.compile(rf"\b{name}\b", re.IGNORECASE)


@dataclass
class Found:
    """A name in the text: a note, with a quality or bass a chord, with a number a pitch. ``root_end`` and ``bass_at`` are letters of the text."""

    start: int
    end: int
    name: PitchName
    octave: int | None = None
    quality: Quality | None = None
    bass: PitchName | None = None
    weak: bool = False
    root_end: int = 0
    bass_at: tuple[int, int] | None = None

    @property
    def is_chord(self) -> bool:
        return self.quality is not None or self.bass is not None


@dataclass
class Context:
    """What the words are about, as far as they have gone."""

    bars: tuple[int, ...] = ()
    part: int | None = None
    hand: str | None = None
    grips: tuple[Grip, ...] = ()  # of the chord that was named last, where the talk comes to it
    alike: tuple[Grip, ...] = ()  # the same chord wherever it comes
    chord: Chord | None = None
    of_tune: bool = False  # the melody is being told
    now: Fraction | None = None  # the beat that the talk has come to
    spelled: tuple[int, ...] = ()  # pitch classes of the notes that were listed last, from the bottom up as they were told
    last_told: tuple[Found, ...] = ()  # the list itself; with places before the sentence where it was told in the one before
    ahead: int = 0  # bars before the part, where its bars are counted from its own beginning
    opening: bool = False  # the talk has turned to another voice: what is told next stands at the beginning
    claims: list[Claim] = field(default_factory=list)


class Scope:
    """The song, and what in it can be meant."""

    def __init__(self, chart: Chart, arrangement: Arrangement) -> None:
        self.chart = chart
        self.grips = [(p.part, g) for p in arrangement.parts for g in p.grips]
        self.notes = sorted((n for p in arrangement.parts for n in p.notes), key=lambda n: (n.start, n.midi))
        self._calls = [(p, *_calls_of(self.called(p.name))) for p in chart.parts]
        self._found: dict[str, int | None] = {}

    def part_with_tune(self, now: int | None) -> int | None:
        """The part where the talk is, or the next that has a tune where it has none: after an intro "let's do the tune" is said of the verse."""
        spans = [(part.number, *self.chart.span(part)) for part in self.chart.parts if now is not None and part.number >= now]
        return next((number for number, start, end in spans if any(start <= n.start < end for n in self.chart.melody)), now)

    def find_part(self, sentence: str) -> int | None:
        """The part that is named, by its number or by its own name."""
        if sentence not in self._found:  # it is asked for each time that a sentence is read in another place
            self._found[sentence] = self._find_part(_DONE.sub("", sentence)) or self._after_done(sentence)
        return self._found[sentence]

    def _after_done(self, sentence: str) -> int | None:
        """The part after the one that a sentence does no more than end: "that's the whole introduction"."""
        ended = [part.number for part, _, called in self._calls if called.search(sentence)] if _ALL_DONE.match(sentence) else []
        after = {p.number for p in self.chart.parts} & {number + 1 for number in ended}
        return after.pop() if len(ended) == 1 and after else None  # of several verses none tells which it was

    def _find_part(self, sentence: str) -> int | None:
        numbers = {p.number for p in self.chart.parts}
        found = [(m.start(), read_count(m[1])) for m in _PART_NUMBER.finditer(sentence)]
        found += [(m.start(), ORDINALS.index(m[1].lower()) + 1) for m in _NTH_PART.finditer(sentence)]
        for part, introduced, called in self._calls:
            named = introduced.search(sentence)
            if not named and len(re.findall(r"\w\S*", sentence)) <= _A_CALL and not _COMPARED.search(sentence):  # "OK, verse time."
                named = called.search(sentence)
            if not named and part.name.lower().startswith(_INTRO):
                named = _OPENING.search(sentence)
            if len(part.name) == 1:  # "the B section"; a letter by itself is a note
                named = re.search(rf"\b{re.escape(part.name)}[ -](?:section|part)\b|\b(?:section|part) {re.escape(part.name)}\b", sentence)
            if len(part.name) != 2 and len(part.name) != 3 and named:
                found.append((named.start(), part.number))
        return min((row for row in found if row[1] in numbers), default=(0, None))[1]

    def ahead_of(self, sentence: str) -> int:
        """Bars before the part whose bars a sentence counts by: "bar four of the verse"; none where it counts those of the song."""
        named = self.find_part(sentence) if _OF_A_PART.search(sentence) else None
        part = next((p for p in self.chart.parts if p.number == named), None)
        if part is None or max(read_count(x) for m in BARS.finditer(sentence) for x in m.groups() if x) > part.end_bar - part.start_bar + 1:
            return 0
        return part.start_bar - 1

    def called(self, name: str) -> str:
        """The names that a part goes by, as a pattern: its own, and those of its kind that no part of the song has."""
        own = {p.name.lower() for p in self.chart.parts}
        kind = next((row for row in _ALSO_CALLED if name.lower() in row), ())
        return f"(?:{'|'.join(re.escape(n) for n in (name, *(n for n in kind if n not in own)))})"

    def go_to_nth(self, nth: str, thing: str, context: Context) -> None:
        """ "The fourth chord", "the last bar": counted within the part that is named, else from the song's beginning."""
        here = [g for number, g in self.grips if context.part in (None, number)]
        if not here:
            return
        word, grid = nth.lower(), self.chart.grid
        index = int(word.rstrip("stndrh")) - 1 if word[0].isdigit() else ORDINALS.index(word) if word in ORDINALS else -1 if word == "last" else -2
        if thing.lower() in ("chord", "grip"):
            if -len(here) <= index < len(here):
                context.bars, context.grips = (), (here[index],)
                context.chord = here[index].chord
            return
        first, last = grid.place(here[0].start)[0], grid.place(here[-1].start)[0]
        bar = last + 1 + index if index < 0 else first + index
        if first <= bar <= last:
            context.bars, context.grips, context.chord = (bar,), (), None

    def was_held(self, run: Sequence[Found], context: Context) -> bool:
        """Whether notes belong to a grip just before those that are meant."""
        meant = {g.start for g in self.meant(context)}
        before = [a for (_, a), (_, b) in zip(self.grips, self.grips[1:], strict=False) if b.start in meant]
        return any(all(any(n.midi % 12 == r.name.pitch_class for n in g.notes) for r in run) for g in before)

    def is_key(self, row: Found, sentence: str) -> bool:
        """Whether a name with "major" or "minor" is that of a key."""
        before = sentence[: row.start]
        if row.quality is None and row.bass is None and row.octave is None:  # "this song sits in E flat"
            alone = re.match(r"\s*(?:[.;!]|,(?! (?:and )?[A-G]\b)|and\b(?! [A-G]\b)|so\b|$)", sentence[row.end :]) is not None
            return alone and KEY_BEFORE.search(before) is not None and "scale" not in before
        if row.quality is None or row.bass is not None or row.quality.harte not in ("maj", "min") or row.octave is not None:
            return False
        mode = "minor" if row.quality.harte == "min" else "major"
        known = any((a.key.tonic, a.key.mode) == (row.name, mode) for a in self.chart.keys)
        spoken = re.search(r"\b(?:major|minor)\b", sentence[row.start : row.end]) and not re.search(r"\b(?:bars?|measures?)\b", before, re.IGNORECASE)
        return bool(KEY_BEFORE.search(before)) or bool((known or spoken) and IN_KEY.search(before))

    def go_to_run(self, match: re.Match[str], context: Context) -> None:
        """ "The last two bars", "the first four bars" of the part that is named, else of the song."""
        here = [g for number, g in self.grips if context.part in (None, number)]
        count = read_count(match[2])
        if not here or not count:
            return
        first, last = (self.chart.grid.place(g.start)[0] for g in (here[0], here[-1]))
        bars = range(first, min(last, first + count - 1) + 1) if match[1].lower() == "first" else range(max(first, last - count + 1), last + 1)
        context.bars, context.grips, context.chord = tuple(bars), (), None

    def go_to_kind(self, kind: str, context: Context) -> None:
        """ "The sus chord", where the bars or part have one kind of it."""
        starts = {"sus": ("sus",), "suspended": ("sus",), "diminished": ("dim",), "half-diminished": ("hdim",), "augmented": ("aug",)}[kind]
        here = [g for g in self.grips_here(context) if g.chord.quality.harte.startswith(starts)]
        if here and len({g.chord for g in here}) == 1:
            context.grips, context.chord = tuple(here), here[0].chord

    def go_to_half(self, which: str, context: Context) -> None:
        """ "The second half of the chorus": its bars, where a part is named whose bars can be halved."""
        part = next((p for p in self.chart.parts if p.number == context.part), None)
        if part is None or part.bars < 2:
            return
        middle = part.start_bar + part.bars // 2
        first = which.lower() == "first"
        context.bars = tuple(range(part.start_bar, middle) if first else range(middle, part.end_bar + 1))
        context.grips, context.chord = (), None

    def read_as_chord(self, name: PitchName, figure: str, octave: int) -> Quality | None:
        """ "C7" is the seventh chord where the song has one and no hand plays that key; its quality then."""
        played = any(n.midi // 12 - 1 == octave and n.midi % 12 == name.pitch_class for _, g in self.grips for n in g.notes)
        if figure not in ("5", "6", "7", "9") or played:
            return None
        chords = (g.chord for _, g in self.grips)
        known = next((c.quality for c in chords if c and c.root.pitch_class == name.pitch_class and c.quality.suffix == figure), None)
        # No song goes up to the seventh octave in passing: a chord is meant, though the song has another.
        return known or (next((q for q in QUALITIES if q.suffix == figure), None) if figure in ("7", "9") else None)

    def name_roots(self, sentence: str, found: Sequence[Found], context: Context) -> None:
        """Bare letters that their neighbours make the name of a chord: taken for the chord on that root, where there is one."""
        announced = _announced(sentence, found)
        for i, row in enumerate(found):
            if row.is_chord or row.octave is not None or any(o is not row and o.start == row.start for o in found):
                continue
            sure = i in announced and not context.of_tune
            if not sure and not (self._may_be_chord(sentence, row, context) and not _is_of_list(sentence, found, i) and _is_chordal(sentence, found, i)):
                continue
            here = [c for g in self.grips_here(context) if (c := g.chord) and c.root.pitch_class == row.name.pitch_class]
            sure = sure or _CHORD_IS_SAID.search(sentence[: row.start]) is not None
            if here or sure:
                row.quality = _plainest(here) if here else quality_named("maj")

    @staticmethod
    def _may_be_chord(sentence: str, row: Found, context: Context) -> bool:
        """Whether neither the tune nor a hand has the note; "that E flat thing" is a chord anyway."""
        return (
            not (NOTE_BEFORE.search(sentence[: row.start]) or context.of_tune)
            or re.match(r" (?:thing|bar|chord)\b|['’]s the same\b", sentence[row.end :]) is not None
        )

    def grips_here(self, context: Context) -> list[Grip]:
        """The grips of the bar or part that is named; all where neither is."""
        if context.bars:
            here = [g for _, g in self.grips if self.sounds_in(g, context.bars)]
        elif context.part is not None:
            here = [g for number, g in self.grips if number == context.part]
        else:
            here = [g for _, g in self.grips]
        return here

    def sounds_in(self, grip: Grip, bars: Sequence[int]) -> bool:
        grid = self.chart.grid
        return any(grip.start < grid.bar_start(b + 1) and grip.end > grid.bar_start(b if b > 1 else 0) for b in bars)

    def nearest(self, grips: Sequence[Grip], context: Context) -> tuple[Grip, ...]:
        """Of the same chord in several places the one that the talk comes to next; a talk goes on rather than back."""
        if context.now is None or len(grips) < 2:
            return tuple(grips)
        now = context.now
        return (min(grips, key=lambda g: g.start - now if g.start >= now else _BACK * (now - g.start)),)

    def meant(self, context: Context) -> list[Grip]:
        return list(context.grips) or self.grips_here(context)


def _is_of_list(sentence: str, found: Sequence[Found], i: int) -> bool:
    """Whether a bare letter is one of several notes that are told in a row."""
    row, before, after = found[i], found[i - 1] if i else None, found[i + 1] if i + 1 < len(found) else None
    if before is not None and not before.is_chord and before.octave is None and goes_on(sentence[before.end : row.start]):
        return True  # "holds E flat, G and C for four bars": the last of a list
    rest = found[i + 1 : i + 3]
    if len(rest) == 2 and _are_listed(sentence, [row, *rest]):
        return True  # "the chord is D, F sharp, A": its notes
    goes = after is not None and not after.is_chord and goes_on(sentence[row.end : after.start])
    if goes and _PAIRS.search(sentence[: row.start]):
        return True  # "the right hand has two-note shapes, starting with G and C"
    return goes and after is not None and bool(_LASTS.match(sentence, row.end)) and not _LASTS.match(sentence, after.end)  # "D for two beats, C sharp, B"


def _is_chordal(sentence: str, found: Sequence[Found], i: int) -> bool:
    """Whether words around a bare letter make it a chord."""
    row, before = found[i], found[i - 1] if i else None
    paired = before is not None and before.is_chord and CHORD_TO_CHORD.fullmatch(sentence[before.end : row.start])
    words = sentence[: row.start]
    told = i > 1 and not any(r.is_chord for r in found[:i])  # "G, F, E, and you land on C": the last of the notes
    before_it = not told and CHORD_BEFORE.search(words)
    return bool(paired or LENGTH_ON.search(words) or CHORD_AFTER.match(sentence, row.end) or before_it or END_CHORD.search(words))


def _plainest(chords: Sequence[Chord]) -> Quality:
    """What a bare letter means where a song has several chords on that root: the major one if there is one, else the first."""
    return next((c.quality for c in chords if c.quality.harte == "maj"), chords[0].quality)


def _announced(sentence: str, found: Sequence[Found]) -> set[int]:
    """Which bare letters stand where only a chord can: before "that's" and its notes, or in a list that "two chords" announces."""
    places = {i for i, row in enumerate(found) if THATS.match(sentence, row.end)}
    places |= {i for i, row in enumerate(found) if FOR_CHORD.search(sentence[: row.start]) and FOR_CHORD_AFTER.match(sentence, row.end)}
    places |= {i for i, row in enumerate(found) if CHORD_IS.match(sentence[: row.start]) and CHORD_IS_AFTER.match(sentence, row.end)}
    between = [sentence[a.end : b.start] for a, b in zip(found, found[1:], strict=False)]
    if len(found) == 3 and found[0].name == found[1].name and between[0] in (", ", " ") and between[1].strip() == "and":
        places.add(0)  # "and then G, G and D": a chord, and what is played of it
    for i, row in enumerate(found):
        if m := CHORDS_NEXT.search(sentence[: row.start]):
            last = i
            while last + 1 < len(found) and last - i + 1 < (read_count(m["n"]) if m["n"] else 1) and goes_on(sentence[found[last].end : found[last + 1].start]):
                last += 1
            places |= set(range(i, last + 1))
    return places


def _are_listed(sentence: str, rows: Sequence[Found]) -> bool:
    """Whether bare notes follow one another as in a list."""
    bare = all(not r.is_chord and r.octave is None for r in rows)
    return bare and all(re.fullmatch(r"(?:,|\s)\s*(?:and\s+)?", sentence[a.end : b.start]) for a, b in zip(rows, rows[1:], strict=False))
