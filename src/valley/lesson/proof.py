"""The proof-reader: what a creator's words claim, held against what the hands play.

The text is read sentence by sentence. Bars, parts and hands that are named hold until others are; chords, notes with or without octave, counts and hands are
claims. Each is held against the grips it can mean – those of the bar that is named, else those of the chord that is named – and gets a verdict, with the right
words where it is wrong.
"""

from __future__ import annotations

import re
from collections.abc import Callable, Sequence
from dataclasses import dataclass, field, replace
from fractions import Fraction

from valley.errors import FormatError, ParameterError
from valley.model.arrangement import LEFT, RIGHT, Arrangement, Grip, HandNote
from valley.model.chart import Chart
from valley.theory._chord_table import QUALITIES, Quality
from valley.theory.chord import Chord, parse_harte, parse_symbol
from valley.theory.names import name_chord, name_note, name_pitch
from valley.theory.pitch import PitchName, parse_name, parse_pitch

AGREES, PARTLY, CONTRADICTS, UNKNOWN = "agrees", "partly", "contradicts", "unknown"


@dataclass(frozen=True)
class Claim:
    """One thing that the words say.

    ``start`` and ``end`` are characters of the text; ``kind`` is note, chord, hand, count or octave; ``expected`` are the right words, empty where nothing is
    wrong or nothing sure.
    """

    text: str
    start: int
    end: int
    kind: str
    verdict: str
    expected: str = ""
    message: str = ""


_SIGN = r"(?:\s?(?:##|#|♯♯|♯|bb(?![a-z])|b(?![a-z])|♭♭|♭)|[\s-]double[\s-]sharp|[\s-]double[\s-]flat|[\s-]sharp|[\s-]flat)?"
_ROOTS = {
    "letters": rf"(?:[A-G]{_SIGN})",
    "syllables": rf"(?:(?:do|ré|re|mi|fa|sol|la|si){_SIGN})",
    "german": r"(?:[CDFG](?:isis|is|eses|es)?|E(?:isis|is|ses|s)?|A(?:isis|is|ses|s)?|H(?:isis|is|eses)?|B)",
}
_SYLLABLE_LETTERS = {"do": "C", "re": "D", "ré": "D", "mi": "E", "fa": "F", "sol": "G", "la": "A", "si": "B"}
# Words that are names of notes in a school and everyday words as well: they count only beside other notes.
_WEAK = {"letters": {"A"}, "syllables": {"do", "la", "si", "mi", "re", "fa", "sol"}, "german": {"As", "Es", "A"}}
_SPOKEN = {
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
    "sus four": "sus4",
    "sus two": "sus2",
    "added ninth": "maj(9)",
    "add nine": "maj(9)",
    "major ninth": "maj9",
    "minor ninth": "min9",
    "ninth": "9",
    "minor sixth": "min6",
    "sixth": "maj6",
    "major": "maj",
    "minor": "min",
}
_MORE_TYPED = {"M7", "Δ7", "ø7", "ø", "add2", "sus", "min7", "min", "-7", "°7", "°", "m7♭5"}
_TYPED = sorted({q.suffix for q in QUALITIES if q.suffix} | _MORE_TYPED, key=len, reverse=True)
_QUALITY = "|".join(rf"\s{re.escape(w)}\b" for w in sorted(_SPOKEN, key=len, reverse=True)) + "|" + "|".join(rf"{re.escape(s)}(?![A-Za-z\d])" for s in _TYPED)
_COUNTED = ("zero", "one", "two", "three", "four", "five", "six", "seven", "eight", "nine", "ten", "eleven", "twelve")
_NUMBERS = {w: float(i) for i, w in enumerate(_COUNTED)} | {"a": 1.0, "half a": 0.5, "a half": 0.5}
_NUMBER = r"(\d+(?:\s\d/\d|\.\d+|/\d+)?|" + "|".join(sorted((re.escape(w) for w in _NUMBERS if len(w) > 1), key=len, reverse=True)) + ")"
_SUM = re.compile(
    rf"\b{_NUMBER}\s+(eighths?|quarters?|halves|half notes?|sixteenths?)(\s+twice)?\s+(?:fill|make|are|is|=|equals?|give)\s+{_NUMBER}\s+beats?", re.IGNORECASE
)
_CHORD_WORD = re.compile(r"\s?(chord|triad|harmony)\b")
_INVERSION = re.compile(r"(root position|(?:first|second|third) inversion)", re.IGNORECASE)
_ANNOUNCES = re.compile(r"\b(?:plays?|notes?|press|holds?|hand:|with)\s+$")
_ENDS = re.compile(r"\s*(?:$|[.,;:!?)]|and\b|with\b|in\b|on\b)")
_BETWEEN = re.compile(r"[\s,;&–+-]*(?:(?:and|then|up to|down to|to|plus|with)\s+)?(?:the\s+)?(?:note\s+)?")


@dataclass
class _Found:
    """A name in the text: a note, with a quality or bass a chord, with a number a pitch."""

    start: int
    end: int
    name: PitchName
    octave: int | None = None
    quality: Quality | None = None
    bass: PitchName | None = None
    weak: bool = False

    @property
    def is_chord(self) -> bool:
        return self.quality is not None or self.bass is not None


@dataclass
class _Context:
    """What the words are about, as far as they have gone."""

    bars: tuple[int, ...] = ()
    part: int | None = None
    hand: str | None = None
    grips: tuple[Grip, ...] = ()  # of the chord that was named last
    chord: Chord | None = None
    claims: list[Claim] = field(default_factory=list)


def read_proof(text: str, chart: Chart, arrangement: Arrangement, *, naming: str = "letters", octaves: str = "c4") -> tuple[Claim, ...]:
    """Every claim in a text with its verdict, in the order of the text.

    Parameters
    ----------
    naming : letters, syllables or german
    octaves : "c4" or "c3", the number of middle C's octave
    """
    if naming not in _ROOTS:
        raise ParameterError(f"naming={naming!r} must be one of {', '.join(_ROOTS)}")
    reader = _Reader(text, chart, arrangement, naming, octaves)
    return tuple(sorted(reader.read(), key=lambda c: (c.start, c.end)))


class _Reader:
    def __init__(self, text: str, chart: Chart, arrangement: Arrangement, naming: str, octaves: str) -> None:
        self.text, self.chart, self.naming, self.octaves = text, chart, naming, octaves
        self.grips = [(p.part, g) for p in arrangement.parts for g in p.grips]
        flags = re.IGNORECASE if naming == "syllables" else 0
        root = _ROOTS[naming]
        octave = r"(?:(?<=sharp)\s|(?<=flat)\s)?(?P<octave>\d)(?![\d/]|\s?beats?)"
        below = rf"\s(?:chord\s)?with\s(?:an?\s|the\s)?(?P<below>{root})\s(?:in|as)\sthe\sbass"
        bass = rf"(?:(?:/|\sover\s)(?P<bass>{root})(?![A-Za-z])|{below})?"
        self.name = re.compile(rf"(?<![A-Za-z#♯♭])({root})(?:{octave}|(?P<quality>{_QUALITY}))?{bass}(?![A-Za-z♯♭])", flags)

    def read(self) -> list[Claim]:
        context = _Context()
        for match in re.finditer(r"[^.!?;\n]+(?:[.!?;\n]|$)|\n", self.text):
            self._sentence(match[0], match.start(), context)
        return context.claims

    # --- what a sentence is about -------------------------------------------------------------------------------

    def _sentence(self, sentence: str, offset: int, context: _Context) -> None:
        if not sentence.strip():
            context.hand, context.grips, context.chord = None, (), None
            return
        part = re.search(r"\b[Pp]art\s+(\d+)", sentence)
        bars = [int(n) for m in re.finditer(r"\b[Bb]ars?\s+(\d+)(?:\s?(?:-|–|to|and)\s?(\d+))?", sentence) for n in m.groups() if n]
        if part:
            context.part, context.bars, context.grips, context.chord = int(part[1]), (), (), None
        if bars:
            context.bars, context.grips, context.chord = tuple(range(bars[0], bars[-1] + 1)) if len(bars) == 2 else tuple(bars), (), None
        marks: list[tuple[int, Callable[[], None]]] = []
        for m in re.finditer(r"\b(left|right)(?:\s+hand)?\b|\b(LH|RH)\b|\bboth hands\b|\btogether\b", sentence, re.IGNORECASE):
            hand = {"left": LEFT, "lh": LEFT, "right": RIGHT, "rh": RIGHT}.get((m[1] or m[2] or "").lower())
            marks.append((m.start(), lambda h=hand: setattr(context, "hand", h)))  # type: ignore[misc]
        found = self._names(sentence)
        for run in self._runs(sentence, found):
            marks.append((run[0].start, lambda r=run: self._judge_run(r, sentence, offset, context)))  # type: ignore[misc]
        for m in re.finditer(
            rf"\b(?:hold|held|holds|keep|keeps|lasts?|for|rings?)\b[^.;]{{0,20}}?\b{_NUMBER}\s+(beats?|counts?|bars?)\b", sentence, re.IGNORECASE
        ):
            marks.append((m.start(1), lambda m=m: self._judge_length(m, offset, context)))  # type: ignore[misc]
        for m in re.finditer(r"\bon\s+(?:beat\s+|count\s+)?(\d)(\s?&|\s?and\b)?(?!\d)", sentence):
            marks.append((m.start(1), lambda m=m: self._judge_place(m, offset, context)))  # type: ignore[misc]
        for m in _SUM.finditer(sentence):
            marks.append((m.start(), lambda m=m: self._judge_sum(m, offset, context)))  # type: ignore[misc]
        for m in re.finditer(r"\b[Cc]ount(?:ing)?\s+((?:\d\s?(?:&|and|e|a)?[\s,]*)+)", sentence):
            marks.append((m.start(1), lambda m=m: self._judge_counting(m, offset, context)))  # type: ignore[misc]
        for m in _INVERSION.finditer(sentence):
            marks.append((m.start(), lambda m=m: self._judge_inversion(m, offset, context)))  # type: ignore[misc]
        for _, act in sorted(marks, key=lambda row: row[0]):
            act()

    def _names(self, sentence: str) -> list[_Found]:
        """Names of notes and chords, weak ones only beside others."""
        rows: list[_Found] = []
        for m in self.name.finditer(sentence):
            name = self._parse(m[1])
            if name is None:
                continue
            quality = _read_quality(m["quality"]) if m["quality"] else None
            low = m["bass"] or m["below"]
            bass = self._parse(low) if low else None
            octave = int(m["octave"]) + (self.octaves == "c3") if m["octave"] else None
            end = m.end()
            word = _CHORD_WORD.match(sentence, end)
            if word and quality is None and octave is None:
                quality, end = _quality("maj"), word.end()
            weak = (m[1] in _WEAK[self.naming] or m[1].lower() in _WEAK[self.naming]) and quality is None and octave is None and bass is None
            rows.append(_Found(m.start(), end, name, octave, quality, bass, weak))
        return [r for i, r in enumerate(rows) if not r.weak or self._has_neighbour(sentence, rows, i)]

    def _has_neighbour(self, sentence: str, rows: Sequence[_Found], index: int) -> bool:
        here = rows[index]
        if _ANNOUNCES.search(sentence[: here.start]) and _ENDS.match(sentence[here.end :]):
            return True
        for other in (index - 1, index + 1):
            if 0 <= other < len(rows):
                a, b = sorted((here, rows[other]), key=lambda r: r.start)
                if a.name != b.name and _joined(sentence[a.end : b.start]):
                    return True
        return False

    def _parse(self, text: str) -> PitchName | None:
        """The name of a note in the chosen school."""
        clean = re.sub(r"[\s-]+", " ", text.strip())
        if self.naming == "german":
            return _parse_german(clean)
        head = re.match(r"[A-Ga-zé]+?(?=\s|#|♯|♭|b\b|b$|bb|$)", clean) if self.naming == "syllables" else re.match(r"[A-G]", clean)
        if head is None:
            return None
        letter = _SYLLABLE_LETTERS.get(head[0].lower(), "") if self.naming == "syllables" else head[0]
        rest = clean[head.end() :].replace("double sharp", "##").replace("double flat", "bb").replace("sharp", "#").replace("flat", "b").replace(" ", "")
        try:
            return parse_name(letter + rest.replace("♯♯", "##").replace("♭♭", "bb"))
        except FormatError:
            return None

    def _runs(self, sentence: str, found: Sequence[_Found]) -> list[list[_Found]]:
        """Chords one by one; notes that are told together as one list."""
        runs: list[list[_Found]] = []
        for row in found:
            last = runs[-1][-1] if runs else None
            if last and not row.is_chord and not last.is_chord and _joined(sentence[last.end : row.start]):
                runs[-1].append(row)
            else:
                runs.append([row])
        return runs

    # --- what it is held against --------------------------------------------------------------------------------

    def _grips_here(self, context: _Context) -> list[Grip]:
        """The grips of the bar or part that is named; all where neither is."""
        if context.bars:
            here = [g for _, g in self.grips if self._sounds_in(g, context.bars)]
        elif context.part is not None:
            here = [g for number, g in self.grips if number == context.part]
        else:
            here = [g for _, g in self.grips]
        return here

    def _sounds_in(self, grip: Grip, bars: Sequence[int]) -> bool:
        grid = self.chart.grid
        return any(grip.start < grid.bar_start(b + 1) and grip.end > grid.bar_start(b if b > 1 else 0) for b in bars)

    def _meant(self, context: _Context) -> list[Grip]:
        return list(context.grips) or self._grips_here(context)

    def _claim(self, context: _Context, offset: int, start: int, end: int, kind: str, verdict: str, expected: str = "", message: str = "") -> None:
        context.claims.append(Claim(self.text[offset + start : offset + end], offset + start, offset + end, kind, verdict, expected, message))

    def _say(self, name: PitchName) -> str:
        return name_note(name, naming=self.naming)

    def _say_pitch(self, pitch: str) -> str:
        return name_pitch(pitch, naming=self.naming, octaves=self.octaves)

    def _say_chord(self, chord: Chord) -> str:
        return name_chord(chord, naming=self.naming)

    # --- chords -------------------------------------------------------------------------------------------------

    def _judge_run(self, run: list[_Found], sentence: str, offset: int, context: _Context) -> None:
        if run[0].is_chord:
            self._judge_chord(run[0], offset, context)
        else:
            self._judge_notes(run, sentence, offset, context)

    def _judge_chord(self, row: _Found, offset: int, context: _Context) -> None:
        quality = row.quality or _quality("maj")
        interval = row.bass.fifths - row.name.fifths if row.bass else 0
        claimed = Chord(row.name, quality, interval)
        here = self._grips_here(context)
        chords = [(g, c) for g in here if (c := parse_harte(g.label))]
        exact = [g for g, c in chords if _same_chord(c, claimed) and (not row.bass or c.bass.pitch_class == claimed.bass.pitch_class)]
        if exact:
            spelled = any((c := parse_harte(g.label)) and c.root == claimed.root for g in exact)
            context.grips, context.chord = tuple(exact), claimed
            right = parse_harte(exact[0].label)
            assert right is not None
            if spelled:
                self._claim(context, offset, row.start, row.end, "chord", AGREES)
            else:
                self._claim(context, offset, row.start, row.end, "chord", PARTLY, self._say_chord(right), f"it is written {self._say_chord(right)} in this key")
            return
        near = min(chords, key=lambda gc: _distance(gc[1], claimed), default=None)
        if near is None:
            self._claim(context, offset, row.start, row.end, "chord", UNKNOWN, message="there are no chords here to hold it against")
            return
        grip, right = near
        context.grips, context.chord = (grip,), right
        where = f"bar {max(1, self.chart.grid.place(grip.start)[0])} has" if context.bars else "the song has"
        if _same_chord(right, claimed):
            verdict, why = CONTRADICTS if row.bass else PARTLY, "the bass is another"
        elif right.root.pitch_class == claimed.root.pitch_class and claimed.pitch_classes() < right.pitch_classes():
            verdict, why = PARTLY, "a note of the chord is not named"
        elif right.pitch_classes() == claimed.pitch_classes():
            verdict, why = PARTLY, "the same notes under another name"
        elif right.root.pitch_class == claimed.root.pitch_class:
            verdict, why = CONTRADICTS, "the quality is another"
        else:
            verdict, why = CONTRADICTS, "the root is another"
        self._claim(context, offset, row.start, row.end, "chord", verdict, self._say_chord(right), f"{why}: {where} {self._say_chord(right)}")

    def _judge_inversion(self, match: re.Match[str], offset: int, context: _Context) -> None:
        grips = context.grips
        if not grips:
            return
        words = match[1].lower()
        right = {g.inversion for g in grips} | {i for g in grips if (c := parse_harte(g.label)) and (i := _named_inversion(c))}
        if words in right:
            self._claim(context, offset, match.start(), match.end(), "chord", AGREES)
        else:
            played = " or ".join(dict.fromkeys(g.inversion for g in grips))  # the chord may be held in several ways
            self._claim(context, offset, match.start(), match.end(), "chord", CONTRADICTS, played, f"the lowest note makes it {played}")

    # --- notes, octaves, hands ----------------------------------------------------------------------------------

    def _judge_notes(self, run: list[_Found], sentence: str, offset: int, context: _Context) -> None:
        """A list of notes: each against the grip that fits the list best, then what the list leaves out, then whether octaves ascend."""
        grips = self._meant(context)
        if not grips:
            for row in run:
                self._claim(context, offset, row.start, row.end, "note", UNKNOWN, message="nothing is played here to hold it against")
            return
        tune = re.search(r"\b(tune|melody|sing)", sentence, re.IGNORECASE) is not None
        if tune and self._judge_tune(run, offset, context):
            return
        settled = bool(context.bars or context.grips)
        grip = max(grips, key=lambda g: self._fit(run, g, context.hand))
        if not settled and self._fit(run, grip, context.hand) < max(2.0, 0.55 * len(run) * 2):
            for row in run:
                self._claim(
                    context,
                    offset,
                    row.start,
                    row.end,
                    "octave" if row.octave is not None else "note",
                    UNKNOWN,
                    message="no bar or chord says what it is held against",
                )
            return
        context.grips = (grip,)
        pool = _hand_notes(grip, context.hand)
        other = _hand_notes(grip, RIGHT if context.hand == LEFT else LEFT) if context.hand else ()
        before = len(context.claims)
        told = [self._judge_note(row, offset, context, grip, pool, other) for row in run]
        self._judge_order(run, offset, context, before)
        missing = [n for n in pool if n.midi % 12 not in {r.name.pitch_class for r in run} and not n.optional]
        if len(run) >= 2 and missing and all(told) and _is_listing(sentence, run):
            names = " and ".join(self._say_pitch(n.pitch) for n in missing)
            self._claim(
                context,
                offset,
                run[0].start,
                run[-1].end,
                "note",
                PARTLY,
                ", ".join(self._say_pitch(n.pitch) for n in pool),
                f"{names} {'is' if len(missing) == 1 else 'are'} missing from the {context.hand + ' hand' if context.hand else 'grip'}",
            )

    def _fit(self, run: Sequence[_Found], grip: Grip, hand: str | None) -> float:
        pool = _hand_notes(grip, hand)
        classes = {n.midi % 12 for n in pool}
        keys = {n.midi for n in pool}
        score = sum(2.0 * (r.name.pitch_class in classes) + (r.octave is not None and _midi(r) in keys) for r in run)
        return score - 0.5 * abs(len(pool) - len(run))

    def _judge_note(self, row: _Found, offset: int, context: _Context, grip: Grip, pool: Sequence[HandNote], other: Sequence[HandNote]) -> bool:
        """One note of a list; gives whether it belongs."""
        exact = [n for n in other if row.octave is not None and n.midi == _midi(row)]
        if exact and context.hand and _midi(row) not in {n.midi for n in pool}:
            self._claim_hand(row, offset, context, exact[0])
            return False
        same = [n for n in pool if n.midi % 12 == row.name.pitch_class]
        kind = "octave" if row.octave is not None else "note"
        if not same:
            across = [n for n in other if n.midi % 12 == row.name.pitch_class and (row.octave is None or n.midi == _midi(row))]
            if across and context.hand:
                self._claim_hand(row, offset, context, across[0])
                return False
            chord = parse_harte(grip.label)
            near = min(pool or grip.notes, key=lambda n: (_gap(n.midi % 12, row.name.pitch_class), n.midi), default=None)
            expected = (self._say_pitch(near.pitch) if row.octave is not None else self._say(parse_pitch(near.pitch)[0])) if near else ""
            belongs = chord is not None and row.name.pitch_class in chord.pitch_classes()
            why = "it is in the chord, but not in this grip" if belongs else f"it is not in {self._say_chord(chord)}" if chord else "it is not played here"
            self._claim(context, offset, row.start, row.end, "note", CONTRADICTS, expected, why)
            return False
        names = [parse_pitch(n.pitch)[0] for n in same]
        if row.octave is not None and not any(n.midi == _midi(row) for n in same):
            pitch = min(same, key=lambda n: abs(n.midi - _midi(row))).pitch
            self._claim(context, offset, row.start, row.end, "octave", CONTRADICTS, self._say_pitch(pitch), f"it is played as {self._say_pitch(pitch)}")
            return True
        if row.name not in names:
            right = self._say_pitch(same[0].pitch) if row.octave is not None else self._say(names[0])
            self._claim(context, offset, row.start, row.end, "note", PARTLY, right, f"the same key, but in this key it is written {right}")
            return True
        self._claim(context, offset, row.start, row.end, kind, AGREES)
        return True

    def _claim_hand(self, row: _Found, offset: int, context: _Context, note: HandNote) -> None:
        to = RIGHT if context.hand == LEFT else LEFT
        self._claim(context, offset, row.start, row.end, "hand", CONTRADICTS, f"the {to} hand", f"{self._say_pitch(note.pitch)} is played by the {to} hand")

    def _judge_order(self, run: Sequence[_Found], offset: int, context: _Context, before: int) -> None:
        """Octave numbers of a list from the bottom up must ascend."""
        numbered = [r for r in run if r.octave is not None]
        for a, b in zip(numbered, numbered[1:], strict=False):
            wrong = {c.start for c in context.claims[before:] if c.verdict == CONTRADICTS}
            if (_midi(b) == _midi(a) or (len(numbered) >= 3 and _midi(b) < _midi(a))) and not {offset + a.start, offset + b.start} & wrong:
                at = next((i for i, c in enumerate(context.claims) if i >= before and c.start == offset + b.start), None)
                if at is not None:
                    context.claims[at] = replace(context.claims[at], kind="octave", verdict=PARTLY, message="the octaves of the list do not ascend here")

    def _judge_tune(self, run: Sequence[_Found], offset: int, context: _Context) -> bool:
        """Notes of the tune, where a bar is named: in order, by their pitch class."""
        if not context.bars:
            return False
        grid = self.chart.grid
        start, end = grid.bar_start(context.bars[0] if context.bars[0] > 1 else 0), grid.bar_start(context.bars[-1] + 1)
        tune = [n.midi % 12 for n in self.chart.notes_between(start, end)]
        if not tune:
            return False
        key = self.chart.key_at(start)
        place = 0
        for row in run:
            if row.name.pitch_class in tune[place:]:
                place += tune[place:].index(row.name.pitch_class) + 1
                self._claim(context, offset, row.start, row.end, "note", AGREES)
            else:
                right = self._say(key.spell(tune[min(place, len(tune) - 1)]))
                self._claim(context, offset, row.start, row.end, "note", CONTRADICTS, right, f"the tune goes on with {right}")
        return True

    # --- counts -------------------------------------------------------------------------------------------------

    def _judge_length(self, match: re.Match[str], offset: int, context: _Context) -> None:
        said = _number(match[1])
        grips = self._meant(context)
        if not grips or not (context.grips or context.bars):
            return
        unit = self.chart.grid.metre_at(grips[0].start).beats if match[2].startswith("bar") else 1
        lengths = {g.duration for g in grips}
        if said * unit in lengths:
            self._claim(context, offset, match.start(1), match.end(2), "count", AGREES)
            return
        right = min(lengths, key=lambda n: abs(n - said * unit))
        words = f"{_say_number(right)} beat{'' if right <= 1 else 's'}"
        self._claim(context, offset, match.start(1), match.end(2), "count", CONTRADICTS, words, f"{grips[0].symbol} lasts {words} there")

    def _judge_place(self, match: re.Match[str], offset: int, context: _Context) -> None:
        grips = [g for g in self._meant(context) if context.bars or context.grips]
        if not grips:
            return
        grid = self.chart.grid
        inside = [g for g in grips if not context.bars or grid.place(g.start)[0] in context.bars] or grips
        said = match[1] + (" &" if match[2] else "")
        counts = [grid.count(g.start) for g in inside]
        tune = [grid.count(n.start) for n in self.chart.melody if context.bars and grid.place(n.start)[0] in context.bars]
        if said in counts or (not context.grips and said in tune):
            self._claim(context, offset, match.start(1), match.end(), "count", AGREES)
        else:
            self._claim(context, offset, match.start(1), match.end(), "count", CONTRADICTS, counts[0], f"{inside[0].symbol} comes on {counts[0]}")

    def _judge_sum(self, match: re.Match[str], offset: int, context: _Context) -> None:
        unit = {"e": Fraction(1, 2), "q": Fraction(1), "h": Fraction(2), "s": Fraction(1, 4)}[match[2][0]]
        total = _number(match[1]) * unit * (2 if match[3] else 1)
        said = _number(match[4])
        expected = "" if total == said else f"{_say_number(total)} beats"
        self._claim(
            context, offset, match.start(), match.end(), "count", AGREES if not expected else CONTRADICTS, expected, f"they are {expected}" if expected else ""
        )

    def _judge_counting(self, match: re.Match[str], offset: int, context: _Context) -> None:
        numbers = [int(n) for n in re.findall(r"\d", match[1])]
        metre = self.chart.grid.metre_of(context.bars[0] if context.bars else 1)
        most = metre.beats * (3 if metre.division == 3 else 1)
        end = match.start(1) + len(match[1].rstrip(" ,"))
        last = max(numbers)
        if last in (most, 2 * most) or (metre.division == 3 and last in (metre.beats, 2 * metre.beats)):
            self._claim(context, offset, match.start(1), end, "count", AGREES)
        elif len(numbers) > 1:
            self._claim(context, offset, match.start(1), end, "count", CONTRADICTS, f"to {most}", f"a bar of {metre.name} is counted to {most}")


def _joined(between: str) -> bool:
    """Whether what stands between two names only joins them."""
    match = _BETWEEN.fullmatch(between)
    return match is not None and len(between) < 18


def _is_listing(sentence: str, run: Sequence[_Found]) -> bool:
    """Whether a list says everything that a hand holds, rather than some of it."""
    around = sentence[max(0, run[0].start - 40) : run[0].start].lower()
    return not re.search(r"\b(keep|kept|only|stays?|moves?|from|leave|drop|goes|skip|add)\b", around)


def _hand_notes(grip: Grip, hand: str | None) -> tuple[HandNote, ...]:
    return grip.left if hand == LEFT else grip.right if hand == RIGHT else grip.notes


def _midi(row: _Found) -> int:
    natural = PitchName(row.name.fifths - 7 * row.name.alter).pitch_class
    return 12 * ((row.octave or 0) + 1) + natural + row.name.alter


def _gap(a: int, b: int) -> int:
    return min((a - b) % 12, (b - a) % 12)


def _same_chord(one: Chord, other: Chord) -> bool:
    return one.root.pitch_class == other.root.pitch_class and one.quality == other.quality


def _distance(right: Chord, claimed: Chord) -> float:
    """How far a claimed chord is from one that is there: same root first, then notes in common."""
    common = len(right.pitch_classes() & claimed.pitch_classes())
    return 10.0 * (right.root.pitch_class != claimed.root.pitch_class) + len(right.pitch_classes() ^ claimed.pitch_classes()) - 0.1 * common


def _named_inversion(chord: Chord) -> str:
    from valley.theory.chord import name_inversion

    return name_inversion(chord)


def _quality(harte: str) -> Quality:
    return next(q for q in QUALITIES if q.harte == harte)


def _read_quality(text: str) -> Quality:
    clean = text.strip().lower()
    if clean in _SPOKEN:
        return _quality(_SPOKEN[clean])
    chord = parse_symbol(f"C{text.strip()}")
    return chord.quality if chord else _quality("maj")


def _parse_german(text: str) -> PitchName | None:
    if text == "B":
        return parse_name("Bb")
    if text == "H":
        return parse_name("B")
    base, rest = text[0], text[1:]
    letter = "B" if base == "H" else base
    alter = {"": 0, "is": 1, "isis": 2, "es": -1, "s": -1, "eses": -2, "ses": -2}.get(rest)
    return None if alter is None else parse_name(letter + ("#" * alter if alter > 0 else "b" * -alter))


def _number(text: str) -> Fraction:
    clean = text.strip().lower()
    if clean in _NUMBERS:
        return Fraction(_NUMBERS[clean]).limit_denominator(8)
    if " " in clean:
        whole, rest = clean.split(" ", 1)
        return Fraction(whole) + Fraction(rest)
    return Fraction(clean)


def _say_number(beats: Fraction) -> str:
    whole, rest = divmod(beats, 1)
    return f"{whole} {rest}" if whole and rest else str(rest or whole)
