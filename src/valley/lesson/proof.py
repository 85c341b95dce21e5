"""The proof-reader: what a creator's words claim, held against what the hands play.

The text is read sentence by sentence. Bars, parts and hands that are named hold until others are; chords, notes with or without octave, counts and hands are
claims. Each is held against the grips it can mean – those of the bar that is named, else those of the chord that is named – and gets a verdict, with the right
words where it is wrong.
"""

from __future__ import annotations

import re
from collections.abc import Callable, Sequence
from dataclasses import replace
from fractions import Fraction

from valley.errors import FormatError, ParameterError
from valley.lesson._proof_scope import Claim as Claim
from valley.lesson._proof_scope import Context, Found, Scope
from valley.lesson._proof_words import (
    ANNOUNCES,
    BARS,
    BEGINNING,
    CHORD_WORD,
    EDGE,
    ENDS,
    EVERY,
    GOING,
    HAND_AFTER,
    IN_THE_BASS,
    INVERSION,
    LEAVING,
    LENGTH,
    MOVES_TO,
    NEGATED,
    NTH,
    QUALITY,
    ROOTS,
    RUN_OF_BARS,
    SUM,
    SYLLABLE_LETTERS,
    WEAK,
    is_joined,
    parse_german,
    quality_named,
    read_count,
    read_number,
    read_quality,
    say_number,
)
from valley.model.arrangement import LEFT, RIGHT, Arrangement, Grip, HandNote
from valley.model.chart import Chart
from valley.theory.chord import Chord
from valley.theory.key import Key
from valley.theory.names import name_chord, name_note, name_pitch
from valley.theory.naming import AGREES, CONTRADICTS, PARTLY
from valley.theory.pitch import PitchName, parse_name, parse_pitch

UNKNOWN = "unknown"


def read_proof(text: str, chart: Chart, arrangement: Arrangement, *, naming: str = "letters", octaves: str = "c4") -> tuple[Claim, ...]:
    """Every claim in a text with its verdict, in the order of the text.

    Parameters
    ----------
    naming : letters, syllables or german
    octaves : "c4" or "c3", the number of middle C's octave
    """
    if naming not in ROOTS:
        raise ParameterError(f"naming={naming!r} must be one of {', '.join(ROOTS)}")
    reader = _Reader(text, chart, arrangement, naming, octaves)
    return tuple(sorted(reader.read(), key=lambda c: (c.start, c.end)))


class _Reader(Scope):
    def __init__(self, text: str, chart: Chart, arrangement: Arrangement, naming: str, octaves: str) -> None:
        super().__init__(chart, arrangement)
        self.text, self.naming, self.octaves = text, naming, octaves
        self.told: set[int] = set()  # pitch classes of the notes that the sentence names
        self.listed: set[int] = set()  # those of the list in hand
        self.named: list[Found] = []  # all that it names
        flags = re.IGNORECASE if naming == "syllables" else 0
        root = ROOTS[naming]
        octave = r"(?:(?<=sharp)\s|(?<=flat)\s)?(?P<octave>\d)(?![\d/]|\s?beats?)"
        below = rf"\s(?:chord\s)?with\s(?:an?\s|the\s)?(?P<below>{root})\s(?:in|as)\sthe\sbass"
        bass = rf"(?:(?:/|\sover\s)(?P<bass>{root})(?![A-Za-z])|{below})?"
        self.name = re.compile(rf"(?<![A-Za-z#♯♭])({root})(?:{octave}|(?P<quality>{QUALITY}))?{bass}(?![A-Za-z♯♭])", flags)

    def read(self) -> list[Claim]:
        context = Context()
        for match in re.finditer(r"[^.!?;\n]+(?:[.!?;\n]|$)|\n", self.text):
            self._sentence(match[0], match.start(), context)
        return context.claims

    # --- what a sentence is about -------------------------------------------------------------------------------

    def _sentence(self, sentence: str, offset: int, context: Context) -> None:
        if not sentence.strip():
            context.hand, context.grips, context.chord = None, (), None
            return
        plain = re.split(r"\bexcept\b", sentence, maxsplit=1)[0]
        part = self.find_part(plain)
        bars = [read_count(n) for m in BARS.finditer(plain) for n in m.groups() if n]
        if part is not None and part != context.part:
            context.part, context.bars, context.grips, context.chord = part, (), (), None
        if bars:
            context.bars, context.grips, context.chord = tuple(range(bars[0], bars[-1] + 1)) if len(bars) == 2 else tuple(bars), (), None
        elif several := RUN_OF_BARS.search(plain):
            self.go_to_run(several, context)
        elif counted := NTH.search(plain):
            self.go_to_nth(counted, context)
        elif BEGINNING.search(plain) and not context.bars:
            context.grips = tuple(self.grips_here(context)[:1])
        marks: list[tuple[int, Callable[[], None]]] = []
        for m in re.finditer(r"\b(left|right)(?:\s+hand)?\b|\b(LH|RH)\b|\bboth hands\b|\btogether\b", sentence, re.IGNORECASE):
            hand = {"left": LEFT, "lh": LEFT, "right": RIGHT, "rh": RIGHT}.get((m[1] or m[2] or "").lower())
            marks.append((m.start(), lambda h=hand: setattr(context, "hand", h)))  # type: ignore[misc]
        found = [r for r in self._names(sentence) if not NEGATED.search(sentence[: r.start]) and not EVERY.search(sentence[: r.start])]
        keys = [r for r in found if self.is_key(r, sentence)]
        for row in keys:
            marks.append((row.start, lambda r=row: self._judge_key(r, offset, context)))  # type: ignore[misc]
        found = [r for r in found if all(r is not key for key in keys)]
        self.name_roots(sentence, found, context)
        edges = [(r, said[1]) for r in found if not r.is_chord and (said := EDGE.search(sentence[: r.start]))]
        edges += [(r, "bass") for r in found if not r.is_chord and IN_THE_BASS.match(sentence, r.end)]
        for row, edge in edges:
            marks.append((row.start, lambda r=row, s=edge: self._judge_edge(r, s, offset, context)))  # type: ignore[misc]
        found = [r for r in found if all(r is not marked for marked, _ in edges)]
        self.told = {r.name.pitch_class for r in found if not r.is_chord}
        self.named = found
        for run in self._runs(sentence, found):
            marks.append((run[0].start, lambda r=run: self._judge_run(r, sentence, offset, context)))  # type: ignore[misc]
        for m in LENGTH.finditer(sentence):
            marks.append((m.start(1), lambda m=m: self._judge_length(m, offset, context)))  # type: ignore[misc]
        for m in re.finditer(r"\bon\s+(?:(?:beat|count)\s+(?=one|two|three|four|five|six|\d)|(?=\d))(\d|[a-z]+)(\s?&|\s?and\b)?(?!\d)", sentence):
            marks.append((m.start(1), lambda m=m: self._judge_place(m, offset, context)))  # type: ignore[misc]
        for m in SUM.finditer(sentence):
            marks.append((m.start(), lambda m=m: self._judge_sum(m, offset, context)))  # type: ignore[misc]
        for m in re.finditer(r"\b[Cc]ount(?:ing)?\s+((?:\d\s?(?:&|and|e|a)?[\s,]*)+)", sentence):
            marks.append((m.start(1), lambda m=m: self._judge_counting(m, offset, context)))  # type: ignore[misc]
        for m in INVERSION.finditer(sentence):
            marks.append((m.start(), lambda m=m: self._judge_inversion(m, offset, context)))  # type: ignore[misc]
        for _, act in sorted(marks, key=lambda row: row[0]):
            act()

    def _names(self, sentence: str) -> list[Found]:
        """Names of notes and chords, weak ones only beside others."""
        rows: list[Found] = []
        for m in self.name.finditer(sentence):
            name = self._parse(m[1])
            if name is None:
                continue
            quality = read_quality(m["quality"]) if m["quality"] else None
            low = m["bass"] or m["below"]
            bass = self._parse(low) if low else None
            octave = int(m["octave"]) + (self.octaves == "c3") if m["octave"] else None
            end = m.end()
            if octave is not None and bass is None and (typed := self.read_as_chord(name, m["octave"], octave)):
                quality, octave = typed, None
            word = CHORD_WORD.match(sentence, end)
            if word and quality is None and octave is None:
                quality, end = quality_named("maj"), word.end()
            weak = (m[1] in WEAK[self.naming] or m[1].lower() in WEAK[self.naming]) and quality is None and octave is None and bass is None
            rows.append(Found(m.start(), end, name, octave, quality, bass, weak))
        return [r for i, r in enumerate(rows) if not r.weak or self._has_neighbour(sentence, rows, i)]

    def _has_neighbour(self, sentence: str, rows: Sequence[Found], index: int) -> bool:
        here = rows[index]
        if IN_THE_BASS.match(sentence, here.end):
            return True
        if ANNOUNCES.search(sentence[: here.start]) and ENDS.match(sentence[here.end :]):
            return True
        for other in (index - 1, index + 1):
            if 0 <= other < len(rows):
                a, b = sorted((here, rows[other]), key=lambda r: r.start)
                if a.name != b.name and is_joined(sentence[a.end : b.start]):
                    return True
        return False

    def _parse(self, text: str) -> PitchName | None:
        """The name of a note in the chosen school."""
        clean = re.sub(r"[\s-]+", " ", text.strip())
        if self.naming == "german":
            return parse_german(clean)
        head = re.match(r"[A-Ga-zé]+?(?=\s|#|♯|♭|b\b|b$|bb|$)", clean) if self.naming == "syllables" else re.match(r"[A-G]", clean)
        if head is None:
            return None
        letter = SYLLABLE_LETTERS.get(head[0].lower(), "") if self.naming == "syllables" else head[0]
        rest = clean[head.end() :]
        for words, sign in (("double sharp", "##"), ("double flat", "bb"), ("natural", ""), ("sharp", "#"), ("flat", "b"), (" ", "")):
            rest = rest.replace(words, sign)
        try:
            return parse_name(letter + rest.replace("♯♯", "##").replace("♭♭", "bb"))
        except FormatError:
            return None

    def _runs(self, sentence: str, found: Sequence[Found]) -> list[list[Found]]:
        """Chords one by one; notes that are told together as one list."""
        runs: list[list[Found]] = []
        for row in found:
            last = runs[-1][-1] if runs else None
            if last and not row.is_chord and not last.is_chord and is_joined(sentence[last.end : row.start]):
                runs[-1].append(row)
            else:
                runs.append([row])
        return runs

    # --- places in words ----------------------------------------------------------------------------------------

    def _is_reached(self, row: Found, grip: Grip, offset: int) -> bool:
        """Whether a note is where a finger goes to, in the grip that comes next: "the C moves up to D"."""
        if not MOVES_TO.search(self.text[max(0, offset + row.start - 40) : offset + row.start]):
            return False
        if any(r.is_chord and row.name.pitch_class in Chord(r.name, r.quality or quality_named("maj")).pitch_classes() for r in self.named):
            return True
        after = [b for (_, a), (_, b) in zip(self.grips, self.grips[1:], strict=False) if a.label == grip.label]
        return any(n.midi % 12 == row.name.pitch_class for g in after for n in g.notes)

    def _judge_edge(self, row: Found, said: str, offset: int, context: Context) -> None:
        """ "The bass is C", "the top note is C5": the outermost key of the grips that are meant."""
        grips = [g for g in self.meant(context) if (context.grips or context.bars) and _hand_notes(g, context.hand)]
        if not grips:
            return
        top = said.lower().startswith(("top", "highest"))
        ends = [_hand_notes(g, context.hand)[-1 if top else 0] for g in grips]
        kind = "octave" if row.octave is not None else "note"
        for note in ends:
            if note.midi % 12 == row.name.pitch_class and (row.octave is None or note.midi == _midi(row) or (not top and (note.midi - _midi(row)) % 12 == 0)):
                self._claim(context, offset, row.start, row.end, kind, AGREES)
                return
        right = self._say_pitch(ends[0].pitch) if row.octave is not None else self._say(parse_pitch(ends[0].pitch)[0])
        where = "highest" if top else "lowest"
        self._claim(context, offset, row.start, row.end, kind, CONTRADICTS, right, f"the {where} note there is {self._say_pitch(ends[0].pitch)}")

    def _claim(self, context: Context, offset: int, start: int, end: int, kind: str, verdict: str, expected: str = "", message: str = "") -> None:
        context.claims.append(Claim(self.text[offset + start : offset + end], offset + start, offset + end, kind, verdict, expected, message))

    def _say(self, name: PitchName) -> str:
        return name_note(name, naming=self.naming)

    def _say_pitch(self, pitch: str) -> str:
        return name_pitch(pitch, naming=self.naming, octaves=self.octaves)

    def _say_chord(self, chord: Chord) -> str:
        return name_chord(chord, naming=self.naming)

    # --- chords -------------------------------------------------------------------------------------------------

    def _judge_run(self, run: list[Found], sentence: str, offset: int, context: Context) -> None:
        if run[0].is_chord:
            self._judge_chord(run[0], offset, context)
        else:
            self._judge_notes(run, sentence, offset, context)

    def _judge_chord(self, row: Found, offset: int, context: Context) -> None:
        quality = row.quality or quality_named("maj")
        interval = row.bass.fifths - row.name.fifths if row.bass else 0
        claimed = Chord(row.name, quality, interval)
        here = self.grips_here(context)
        chords = [(g, c) for g in here if (c := g.chord)]
        exact = [g for g, c in chords if _same_chord(c, claimed) and (not row.bass or c.bass.pitch_class == claimed.bass.pitch_class)]
        if exact:
            spelled = any((c := g.chord) and c.root == claimed.root for g in exact)
            context.grips, context.chord = tuple(exact), claimed
            right = exact[0].chord
            assert right is not None
            if spelled:
                self._claim(context, offset, row.start, row.end, "chord", AGREES)
            else:
                self._claim(context, offset, row.start, row.end, "chord", PARTLY, self._say_chord(right), f"it is written {self._say_chord(right)} in this key")
            return
        # A chord over a foreign bass is the easy way to see a bigger one: "E diminished over C" is C9.
        bigger = [
            (g, c)
            for g, c in chords
            if row.bass
            and c.bass.pitch_class == claimed.bass.pitch_class
            and c.root.pitch_class != claimed.root.pitch_class
            and claimed.pitch_classes() <= c.pitch_classes()
        ]
        if bigger:
            context.grips, context.chord = tuple(g for g, _ in bigger), bigger[0][1]
            self._claim(context, offset, row.start, row.end, "chord", AGREES, message=f"together they are {self._say_chord(bigger[0][1])}")
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

    def _say_key(self, key: Key) -> str:
        return f"{self._say(key.tonic)} {key.mode}"

    def _judge_key(self, row: Found, offset: int, context: Context) -> None:
        """A key that is named, against those of the song, or of the part that is named."""
        spans = [self.chart.span(p) for p in self.chart.parts if context.part in (None, p.number)]
        keys = [a.key for a in self.chart.keys] if context.part is None else [self.chart.key_at(start) for start, _ in spans]
        mode = "minor" if row.quality and row.quality.harte == "min" else "major"
        same = [k for k in keys if k.tonic.pitch_class == row.name.pitch_class and k.mode == mode]
        right = self._say_key(keys[0])
        if any(k.tonic == row.name for k in same):
            self._claim(context, offset, row.start, row.end, "chord", AGREES)
        elif same:
            self._claim(context, offset, row.start, row.end, "chord", PARTLY, self._say_key(same[0]), "the key is written otherwise here")
        else:
            self._claim(context, offset, row.start, row.end, "chord", CONTRADICTS, right, f"the key is {right}")

    def _judge_inversion(self, match: re.Match[str], offset: int, context: Context) -> None:
        grips = context.grips
        if not grips:
            return
        words = match[1].lower()
        right = {g.inversion for g in grips} | {i for g in grips if (c := g.chord) and (i := _named_inversion(c))}
        if words in right:
            self._claim(context, offset, match.start(), match.end(), "chord", AGREES)
        else:
            played = " or ".join(dict.fromkeys(g.inversion for g in grips))  # the chord may be held in several ways
            self._claim(context, offset, match.start(), match.end(), "chord", CONTRADICTS, played, f"the lowest note makes it {played}")

    # --- notes, octaves, hands ----------------------------------------------------------------------------------

    def _judge_notes(self, run: list[Found], sentence: str, offset: int, context: Context) -> None:
        """A list of notes: each against the grip that fits the list best, then what the list leaves out, then whether octaves ascend."""
        grips = self.meant(context)
        if LEAVING.search(sentence[: run[0].start]) or (GOING.match(sentence, run[-1].end) and self.was_held(run, context)):
            return
        after = HAND_AFTER.match(sentence, run[-1].end)
        if after:
            context.hand = LEFT if after[1].lower() == "left" else RIGHT
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
        self.listed = {r.name.pitch_class for r in run}
        told = [self._judge_note(row, offset, context, grip, pool, other) for row in run]
        self._judge_order(run, offset, context, before)
        missing = [n for n in pool if n.midi % 12 not in self.told and not n.optional]
        # One hand told in full is a whole list, though nobody says which hand it is.
        one_hand = not context.hand and any({n.midi % 12 for n in hand} == self.listed for hand in (grip.left, grip.right))
        if len(run) >= 2 and missing and not one_hand and all(told) and _is_listing(sentence, run):
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

    def _fit(self, run: Sequence[Found], grip: Grip, hand: str | None) -> float:
        pool = _hand_notes(grip, hand)
        classes = {n.midi % 12 for n in pool}
        keys = {n.midi for n in pool}
        score = sum(2.0 * (r.name.pitch_class in classes) + (r.octave is not None and _midi(r) in keys) for r in run)
        return score - 0.5 * abs(len(pool) - len(run))

    def _judge_note(self, row: Found, offset: int, context: Context, grip: Grip, pool: Sequence[HandNote], other: Sequence[HandNote]) -> bool:
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
            chord = grip.chord
            # The note that was meant is rather one that the list does not name already.
            left = [n for n in pool or grip.notes if n.midi % 12 not in self.listed] or pool or grip.notes

            def away(note: HandNote) -> tuple[bool, int, int]:
                """Another sign on the same letter is the likeliest slip, then the nearest key."""
                far = abs(note.midi - _midi(row)) if row.octave is not None else _gap(note.midi % 12, row.name.pitch_class)
                return note.pitch[0] != str(row.name)[0], far, note.midi

            near = min(left, key=away, default=None)
            expected = (self._say_pitch(near.pitch) if row.octave is not None else self._say(parse_pitch(near.pitch)[0])) if near else ""
            if self._is_reached(row, grip, offset):
                self._claim(context, offset, row.start, row.end, kind, AGREES)
                return True
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

    def _claim_hand(self, row: Found, offset: int, context: Context, note: HandNote) -> None:
        to = RIGHT if context.hand == LEFT else LEFT
        self._claim(context, offset, row.start, row.end, "hand", CONTRADICTS, f"the {to} hand", f"{self._say_pitch(note.pitch)} is played by the {to} hand")

    def _judge_order(self, run: Sequence[Found], offset: int, context: Context, before: int) -> None:
        """Octave numbers of a list from the bottom up must ascend."""
        numbered = [r for r in run if r.octave is not None]
        for a, b in zip(numbered, numbered[1:], strict=False):
            wrong = {c.start for c in context.claims[before:] if c.verdict == CONTRADICTS}
            if (_midi(b) == _midi(a) or (len(numbered) >= 3 and _midi(b) < _midi(a))) and not {offset + a.start, offset + b.start} & wrong:
                at = next((i for i, c in enumerate(context.claims) if i >= before and c.start == offset + b.start), None)
                if at is not None:
                    context.claims[at] = replace(context.claims[at], kind="octave", verdict=PARTLY, message="the octaves of the list do not ascend here")

    def _judge_tune(self, run: Sequence[Found], offset: int, context: Context) -> bool:
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

    def _judge_length(self, match: re.Match[str], offset: int, context: Context) -> None:
        said = read_number(match[1])
        every = re.search(r"\b(?:each|every|all|most)\b", self.text[max(0, offset + match.start() - 24) : offset + match.start(1)], re.IGNORECASE)
        grips = self.meant(context)
        if not grips or every or not (context.grips or context.bars):
            return
        unit = self.chart.grid.metre_at(grips[0].start).beats if match[2].startswith("bar") else 1
        lengths = {g.duration for g in grips}
        if said * unit in lengths:
            self._claim(context, offset, match.start(1), match.end(2), "count", AGREES)
            return
        right = min(lengths, key=lambda n: abs(n - said * unit))
        words = f"{say_number(right)} beat{'' if right <= 1 else 's'}"
        self._claim(context, offset, match.start(1), match.end(2), "count", CONTRADICTS, words, f"{grips[0].symbol} lasts {words} there")

    def _judge_place(self, match: re.Match[str], offset: int, context: Context) -> None:
        grips = [g for g in self.meant(context) if context.bars or context.grips]
        if not grips:
            return
        grid = self.chart.grid
        inside = [g for g in grips if not context.bars or grid.place(g.start)[0] in context.bars] or grips
        said = str(read_count(match[1])) + (" &" if match[2] else "")
        counts = [grid.count(g.start) for g in inside]
        tune = [grid.count(n.start) for n in self.chart.melody if context.bars and grid.place(n.start)[0] in context.bars]
        if said in counts or (not context.grips and said in tune):
            self._claim(context, offset, match.start(1), match.end(), "count", AGREES)
        else:
            self._claim(context, offset, match.start(1), match.end(), "count", CONTRADICTS, counts[0], f"{inside[0].symbol} comes on {counts[0]}")

    def _judge_sum(self, match: re.Match[str], offset: int, context: Context) -> None:
        unit = {"e": Fraction(1, 2), "q": Fraction(1), "h": Fraction(2), "s": Fraction(1, 4)}[match[2][0]]
        total = read_number(match[1]) * unit * (2 if match[3] else 1)
        said = read_number(match[4])
        expected = "" if total == said else f"{say_number(total)} beats"
        self._claim(
            context, offset, match.start(), match.end(), "count", AGREES if not expected else CONTRADICTS, expected, f"they are {expected}" if expected else ""
        )

    def _judge_counting(self, match: re.Match[str], offset: int, context: Context) -> None:
        numbers = [int(n) for n in re.findall(r"\d", match[1])]
        metre = self.chart.grid.metre_of(context.bars[0] if context.bars else 1)
        most = metre.beats * (3 if metre.division == 3 else 1)
        end = match.start(1) + len(match[1].rstrip(" ,"))
        last = max(numbers)
        if last in (most, 2 * most) or (metre.division == 3 and last in (metre.beats, 2 * metre.beats)):
            self._claim(context, offset, match.start(1), end, "count", AGREES)
        elif len(numbers) > 1:
            self._claim(context, offset, match.start(1), end, "count", CONTRADICTS, f"to {most}", f"a bar of {metre.name} is counted to {most}")


def _is_listing(sentence: str, run: Sequence[Found]) -> bool:
    """Whether a list says everything that a hand holds, rather than some of it."""
    around = sentence[max(0, run[0].start - 40) : run[0].start].lower()
    return not re.search(r"\b(keep|kept|only|share|shares|common|stays?|moves?|from|leave|drop|goes|skip|add)\b", around)


def _hand_notes(grip: Grip, hand: str | None) -> tuple[HandNote, ...]:
    return grip.left if hand == LEFT else grip.right if hand == RIGHT else grip.notes


def _midi(row: Found) -> int:
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
