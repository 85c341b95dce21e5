"""From sayings to words: values by the schools of naming, phrases by the catalogue of a language.

Another language is another module beside ``en`` with the same names in it.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from functools import singledispatchmethod
from types import ModuleType

from valley.errors import ParameterError
from valley.model.lesson import Lesson, Line, Step
from valley.model.saying import (
    Amount,
    Chords,
    Counts,
    Distance,
    KeyName,
    Length,
    Member,
    Names,
    Numbers,
    Order,
    Pitches,
    Saying,
    Several,
    Sound,
    Stroke,
    Strokes,
    Times,
    Value,
)
from valley.model.schools import Schools
from valley.phrases import de, en, es, fr
from valley.phrases.grammar import Grammar
from valley.theory.chord import Chord
from valley.theory.names import name_chord, name_note, name_pitch
from valley.theory.pitch import parse_name

LANGUAGES: Mapping[str, ModuleType] = {"en": en, "fr": fr, "de": de, "es": es}
WORDS_A_SECOND = 2.3  # of someone who explains while playing


class Words:
    """Says things in one language and school; a sentence that comes often is said in turn in each of its ways.

    >>> from fractions import Fraction
    >>> from valley.model.saying import say
    >>> Words().say(say("differs shorter", bars=Amount(Fraction(3, 2), "bar")))
    'stops 1 bar and a half early'
    """

    def __init__(self, schools: Schools | None = None, language: str = "") -> None:
        self._schools = schools or Schools()
        language = language or self._schools.language
        if language not in LANGUAGES:
            raise ParameterError(f"language={language!r} must be one of {', '.join(LANGUAGES)}")
        self._phrases: Mapping[str, tuple[str, ...]] = LANGUAGES[language].PHRASES
        self._own: Grammar = LANGUAGES[language].GRAMMAR
        self._turn: dict[str, int] = {}
        self._chords: dict[Chord, str] = {}  # a song has few chords and says them often
        self._first = 0

    def say(self, saying: Saying) -> str:
        """One saying in words.

        Raises
        ------
        ParameterError
            the catalogue has no such phrase
        """
        ways = self._phrases.get(saying.phrase)
        if ways is None:
            raise ParameterError(f"phrase={saying.phrase!r} must be one of the catalogue; this lesson may come from a newer Valley")
        turn = self._turn.get(saying.phrase, self._first)
        self._turn[saying.phrase] = turn + 1
        return str(ways[turn % len(ways)].format(**{name: value if isinstance(value, str) else self._word(value) for name, value in saying.values}))

    def title(self, step: Step) -> str:
        return self.say(step.title)

    def lines(self, step: Step) -> tuple[str, ...]:
        """What is said in a step, a text a line: always in the same words, whatever else was said before."""
        self._turn, self._first = {}, max(0, step.key.count("-") - 1)  # joins of more and more parts take turns
        return tuple(self.line(line) for line in step.lines)

    def line(self, line: Line) -> str:
        return " ".join(self.say(s) for s in line.said)

    def count(self, step: Step) -> int:
        """Words that are spoken in a step, its title among them."""
        return sum(len(text.split()) for text in (self.title(step), *self.lines(step)))

    @singledispatchmethod
    def _word(self, value: Value) -> str:
        return str(value)

    @_word.register
    def _(self, value: Member) -> str:
        return self._own.translate(value.word, self._own.members)

    @_word.register
    def _(self, value: Amount) -> str:
        return self._own.amount(value.amount, value.unit)

    @_word.register
    def _(self, value: Names) -> str:
        return " ".join(self._note(n) for n in value.names)

    @_word.register
    def _(self, value: Pitches) -> str:
        said = [self._key(p, value.starred) for p in value.pitches]
        return ", ".join(said) if value.in_order else self._join(said)

    @_word.register
    def _(self, value: Sound) -> str:
        return self._chord(value.chord)

    @_word.register
    def _(self, value: Chords) -> str:
        return " ".join(self._chord(c) for c in value.chords) or self._own.nothing

    @_word.register
    def _(self, value: KeyName) -> str:
        return self._own.key(self._note(value.tonic), value.mode)

    @_word.register
    def _(self, value: Counts) -> str:
        return ", ".join(self._own.count(c) for c in value.counts)

    @_word.register
    def _(self, value: Strokes) -> str:
        return ", ".join(self._stroke(s) for s in value.strokes)

    @_word.register
    def _(self, value: Order) -> str:
        rows = [self._own.rows(row, value.size) for row in value.rows]
        if value.counts:
            rows = [self._own.stroke(keys, "", self._own.count(count)) for keys, count in zip(rows, value.counts, strict=True)]
        return ", ".join(rows)

    @_word.register
    def _(self, value: Times) -> str:
        return self._own.times(value.number)

    @_word.register
    def _(self, value: Length) -> str:
        return self._own.length(value.beats, value.bar)

    @_word.register
    def _(self, value: Numbers) -> str:
        said = [str(n) for n in value.numbers]
        return ", ".join(said) if value.in_order else self._join(said)

    @_word.register
    def _(self, value: Distance) -> str:
        return self._own.distance(value.half_steps)

    @_word.register
    def _(self, value: Several) -> str:
        said = [self.say(s) for s in value.sayings]
        return (
            self._join(said) if value.joined == "list" else {"clauses": ", ", "rows": "; ", "then": self._own.then, "sentences": " "}[value.joined].join(said)
        )

    def _stroke(self, stroke: Stroke) -> str:
        keys = " ".join(self._key(p, stroke.starred) for p in stroke.pitches)
        graces = " ".join(self._pitch(p) for p in stroke.graces)
        return self._own.stroke(keys, graces, self._own.count(stroke.count) if stroke.count else "")

    def _key(self, pitch: str, starred: Sequence[str]) -> str:
        said = self._pitch(pitch)
        return f"{said} {self._own.if_you_like}" if pitch in starred else said

    def _join(self, texts: list[str]) -> str:
        return self._own.join(texts)

    def _note(self, text: str) -> str:
        s = self._schools
        return self._own.translate(name_note(parse_name(text), naming=s.naming, flats=s.flats, spelling=s.spelling), self._signs)

    def _pitch(self, text: str) -> str:
        s = self._schools
        said = name_pitch(text, naming=s.naming, flats=s.flats, spelling=s.spelling, octaves=s.octaves, registers=self._own.registers)
        return self._own.translate(said, self._signs)

    @property
    def _signs(self) -> Mapping[str, str]:
        spoken = self._own.signs if self._schools.flats == "spoken" else {}
        return {**spoken, **self._own.syllables} if self._schools.naming == "syllables" else spoken

    def _chord(self, chord: Chord | None) -> str:
        if chord is None:
            return self._own.no_chord
        if chord not in self._chords:
            self._chords[chord] = self._name_chord(chord)
        return self._chords[chord]

    def _name_chord(self, chord: Chord) -> str:
        s = self._schools
        said = name_chord(
            chord,
            naming=s.naming,
            flats=s.flats,
            spelling=s.spelling,
            added=s.added,
            suspended=s.suspended,
            major_seventh=s.major_seventh,
            half_diminished=s.half_diminished,
            inversions=s.inversions,
        )
        return self._own.translate(self._own.translate(said, self._signs), self._own.inversions if s.inversions == "words" else {})


def say_lesson(lesson: Lesson, language: str = "") -> tuple[tuple[str, tuple[str, ...]], ...]:
    """Title and lines of every step in words."""
    words = Words(lesson.schools, language)
    return tuple((words.title(s), words.lines(s)) for s in lesson.steps)
