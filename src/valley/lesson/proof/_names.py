"""Names of notes and chords in a sentence, in a school of naming; weak ones ("a", "so") only where others stand beside them."""

from __future__ import annotations

import re
from collections.abc import Sequence
from itertools import pairwise

from valley.errors import FormatError
from valley.lesson.proof._scope import Found, Scope
from valley.lesson.proof._words import (
    ANNOUNCES,
    CHORD_WORD,
    EDGE,
    END_CHORD,
    ENDS,
    HAND_AFTER,
    IN_THE_BASS,
    QUALITY,
    ROOTS,
    SYLLABLE_LETTERS,
    WEAK,
    goes_on,
    is_joined,
    parse_german,
    quality_named,
    read_count,
    read_quality,
)
from valley.theory.pitch import PitchName, parse_name

_SIGNS = (("double sharp", "##"), ("double flat", "bb"), ("natural", ""), ("sharp", "#"), ("flat", "b"), (" ", ""))


class NameFinder:
    """Finds the names of a school; ``octaves`` is how middle C is called ("c4" or "c3")."""

    def __init__(self, scope: Scope, naming: str, octaves: str) -> None:
        self._scope, self._naming, self._octaves = scope, naming, octaves
        self._last: tuple[str, tuple[Found, ...]] | None = None
        flags = re.IGNORECASE if naming == "syllables" else 0
        root = ROOTS[naming]
        octave = r"(?:(?<=sharp)\s|(?<=flat)\s)?(?P<octave>\d)(?![\d/#♯]|\((?:[#b♯♭]|add|no|maj)|\s?beats?)"  # the 7 of D7#5 is no octave
        below = rf"\s(?:chord\s)?with\s(?:an?\s|the\s)?(?P<below>{root})\s(?:in|as)\sthe\sbass"
        bass = rf"(?:(?:/|\sover\s)(?P<bass>{root})(?![A-Za-z])|{below})?"
        plural = r"(?:['’]?s(?=[,.;]| (?:and|in|on|with)\b)(?<!A[sS]))?" if naming == "letters" else ""
        self._name = re.compile(rf"(?<![A-Za-z#♯♭])({root}){plural}(?:{octave}|(?P<quality>{QUALITY}))?{bass}(?![A-Za-z♯♭])", flags)
        few = "two|three|four|five|six|2|3|4|5|6"
        self._octaves_of = re.compile(rf"\boctave (?P<name>{root})(?:['’]?s)(?![A-Za-z])", flags)
        self._several = re.compile(rf"(?<!\bbar )(?<!\bbars )\b(?P<n>{few})\s+(?P<name>{root})(?:['’]?s)(?![A-Za-z])", flags)

    def find(self, sentence: str) -> tuple[Found, ...]:
        """All names of a sentence, in order; "two As" is the note twice."""
        if self._last is None or self._last[0] != sentence:  # a sentence is read in several places
            self._last = sentence, tuple(self._find(sentence))
        return self._last[1]

    def find_anew(self, sentence: str) -> tuple[Found, ...]:
        """The names as they are written: reading a sentence says of some of those that ``find`` gives that they are chords."""
        return tuple(self._find(sentence))

    def _find(self, sentence: str) -> list[Found]:
        rows = [row for m in self._name.finditer(sentence) if (row := self._read(m, sentence))]
        if not any(r.quality for r in rows):
            pairs = any(self._is_pair(row) for row in rows if _is_over(row, sentence))  # told of one, told of all
            apart = [_ends_list(sentence, rows, i) or (pairs and _is_over(row, sentence)) for i, row in enumerate(rows)]
            rows = [one for row, two in zip(rows, apart, strict=True) for one in (_unstacked(row) if two else (row,))]
        for m in self._several.finditer(sentence):
            name = self._parse(m["name"])
            if name is not None:
                rows += [Found(m.start(), m.end(), name, root_end=m.end("name")) for _ in range(read_count(m["n"]))]
        for m in self._octaves_of.finditer(sentence):
            name = self._parse(m["name"])
            if name is not None:
                rows.append(Found(m.start("name"), m.end("name"), name, root_end=m.end("name")))
        rows.sort(key=lambda r: r.start)
        counted = [(r.start, r.end) for r in rows if any(o is not r and o.start == r.start for o in rows)]  # "two As"
        rows = [r for r in rows if not any(a < r.start < b for a, b in counted)]
        return [r for i, r in enumerate(rows) if not r.weak or _has_neighbour(sentence, rows, i)]

    def _read(self, m: re.Match[str], sentence: str) -> Found | None:
        name = self._parse(m[1])
        if name is None:
            return None
        quality = read_quality(m["quality"]) if m["quality"] else None
        low = m["bass"] or m["below"]
        if any(p.name == m[0] for p in self._scope.chart.parts) and _LETTER_OF_PART.match(sentence, m.end()):
            return None  # "the B section"
        bass = self._parse(low) if low else None
        octave = int(m["octave"]) + (self._octaves == "c3") if m["octave"] else None
        end = m.end()
        if octave is not None and bass is None and (typed := self._scope.read_as_chord(name, m["octave"], octave)):
            quality, octave = typed, None
        word = CHORD_WORD.match(sentence, end)
        if word and quality is None and octave is None:
            quality, end = quality_named("maj"), word.end()
        bare = quality is None and octave is None and bass is None
        weak = bare and (m[1] in WEAK[self._naming] or m[1].lower() in WEAK[self._naming])
        if weak and self._naming == "letters":  # a capital A within a sentence is the note; where one begins it may be the article
            weak = not sentence[: m.start()].strip(" \"'(–-\n") or _SECTION.search(sentence[: m.start()]) is not None
        at = m.span("bass") if m["bass"] else m.span("below") if m["below"] else None
        return Found(m.start(), end, name, octave, quality, bass, weak, m.end(1), at)

    def _is_pair(self, row: Found) -> bool:
        """Whether "F over A flat" are two keys, one above the other: the song has no chord over a foreign bass that either of them could be said of."""
        slashed = [g.chord for _, g in self._scope.grips if g.chord.bass_interval]
        return row.bass is not None and not any(c.root.pitch_class == row.name.pitch_class or c.bass.pitch_class == row.bass.pitch_class for c in slashed)

    def _parse(self, text: str) -> PitchName | None:
        """The name of a note in the chosen school."""
        clean = re.sub(r"[\s-]+", " ", text.strip())
        if self._naming == "german":
            return parse_german(clean)
        syllables = self._naming == "syllables"
        head = re.match(r"[A-Ga-zé]+?(?=\s|#|♯|♭|b\b|b$|bb|$)", clean) if syllables else re.match(r"[A-G]", clean)
        if head is None:
            return None
        letter = SYLLABLE_LETTERS.get(head[0].lower(), "") if syllables else head[0]
        rest = clean[head.end() :]
        for words, sign in _SIGNS:
            rest = rest.replace(words, sign)
        try:
            return parse_name(letter + rest.replace("♯♯", "##").replace("♭♭", "bb"))
        except FormatError:
            return None


def _is_over(row: Found, sentence: str) -> bool:
    """Whether a bare name stands over another one in words: "F over A flat"."""
    return row.bass_at is not None and row.octave is None and row.quality is None and " over " in sentence[row.root_end : row.bass_at[0]]


def _ends_list(sentence: str, rows: Sequence[Found], index: int) -> bool:
    """Whether "E flat over E flat" is the end of one list and the beginning of the next: "G, B flat, E flat over E flat, B flat"."""
    row = rows[index]
    of_hand = HAND_AFTER.match(sentence, row.end) is not None
    if row.bass_at is None or " over " not in sentence[row.root_end : row.bass_at[0]] or index < 2 or (index == len(rows) - 1 and not of_hand):
        return False
    listed = all(goes_on(sentence[a.end : b.start]) and not a.bass for a, b in pairwise(rows[index - 2 : index + 1]))
    return (
        listed and (of_hand or goes_on(sentence[row.end : rows[index + 1].start])) and (row.bass == row.name or re.search(r"\bhands?\b", sentence) is not None)
    )


def _unstacked(row: Found) -> tuple[Found, Found]:
    """The two notes of what was taken for a chord over a bass."""
    assert row.bass is not None and row.bass_at is not None  # asked for before
    at, end = row.bass_at
    return Found(row.start, row.root_end, row.name, root_end=row.root_end), Found(at, end, row.bass, root_end=end)


_LETTER_OF_PART = re.compile(r"[ -](?:section|part)\b")
_SECTION = re.compile(r"(?:[:.!?]|\b(?:part|section|theme|letter|plan)) $", re.IGNORECASE)
_SURELY = re.compile(r"\b(?:[Aa]n|[Tt]he|[Ll]ow|[Hh]igh|[Tt]hat|[Tt]op|[Bb]ottom|[Hh]olds?|[Pp]lays?|[Pp]ress(?:es)?) $")


def _has_neighbour(sentence: str, rows: Sequence[Found], index: int) -> bool:
    """Whether something beside a weak name says that it is one."""
    here = rows[index]
    if here.weak and re.match(r" (?:section|part)\b", sentence[here.end :]):
        return False
    if _SURELY.search(sentence[: here.start]) or EDGE.search(sentence[: here.start]) or END_CHORD.search(sentence[: here.start]):
        return True
    after = rows[index + 1] if index + 1 < len(rows) else None
    before = rows[index - 1] if index else None
    if here.weak and after and sentence[here.end : after.start] == " " and not (before and is_joined(sentence[before.end : here.start])):
        return False  # "A C seventh": an article
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


def find_runs(sentence: str, found: Sequence[Found]) -> list[list[Found]]:
    """Chords one by one; notes that are told together as one list."""
    runs: list[list[Found]] = []
    for row in found:
        last = runs[-1][-1] if runs else None
        if last and not row.is_chord and not last.is_chord and is_joined(sentence[last.end : row.start]):
            runs[-1].append(row)
        else:
            runs.append([row])
    return runs
