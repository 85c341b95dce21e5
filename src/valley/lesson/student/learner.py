"""The learner: reads the words of a lesson line by line, keeps what each hand plays in each bar, and carries out "like bar 3", "as in part 1", "each chord"."""

from __future__ import annotations

import re
from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, field

from valley.fraction import Fraction
from valley.lesson.student.english import ENGLISH
from valley.lesson.student.french import FRENCH
from valley.lesson.student.german import GERMAN
from valley.lesson.student.keys import KeyNames
from valley.lesson.student.language import Language
from valley.lesson.student.spanish import SPANISH
from valley.lesson.student.timing import read_amount, read_count, read_distance, read_progression, read_times, split_names
from valley.model.chart import Grid
from valley.model.schools import Schools

HANDS = ("right", "left")
LANGUAGES = {"en": ENGLISH, "fr": FRENCH, "de": GERMAN, "es": SPANISH}
Hit = tuple[Fraction | None, int, bool]  # beats into its bar, None where the count was not said; key; whether it is a grace
Bar = tuple[Hit, ...]


@dataclass(frozen=True)
class Heard:
    """What a learner plays. ``played``: by hand and bar; ``doubts``: sentences that asked for something impossible, such as "like bar 3" before bar 3."""

    played: dict[str, dict[int, Bar]]
    doubts: tuple[str, ...] = ()


@dataclass
class _Rule:
    names: tuple[str, ...] | None  # None: each chord
    rows: tuple[tuple[Fraction, str], ...]  # when, which keys in words; empty for blocks
    cycle: Fraction | None = None


@dataclass
class _Learner:
    grid: Grid
    keys: KeyNames
    lang: Language
    played: dict[str, dict[int, Bar]] = field(default_factory=lambda: {h: {} for h in HANDS})
    grips: dict[str, dict[str, tuple[int, ...]]] = field(default_factory=lambda: {h: {} for h in HANDS})
    spans: dict[int, range] = field(default_factory=dict)
    part: int = 0
    hand: str = "right"
    chords: list[tuple[str, Fraction, Fraction]] = field(default_factory=list)
    rules: list[_Rule] = field(default_factory=list)
    figures: list[_Rule] = field(default_factory=list)  # those under which the chords stand that were played last
    counts: list[Fraction | None] = field(default_factory=list)
    doubts: list[str] = field(default_factory=list)

    # ---- words to music

    def strokes(self, text: str, bar: int) -> list[tuple[Fraction | None, tuple[int, ...], tuple[int, ...]]]:
        """(when, keys, graces) of "E4 on 1, F4 A4 on 2"."""
        found = []
        for word in text.split(", "):
            match = re.fullmatch(self.lang.stroke.format(row=_row(self.keys)), word)
            if not match:
                raise ValueError(f"a learner does not understand {word!r}")
            count = match["count"]
            when = read_count(count, self.grid.meter_of(bar), self.lang) if count else None
            found.append((when, self._keys(match["keys"]), self._keys(match["grace"] or match["into"])))
        return found

    def _keys(self, text: str | None) -> tuple[int, ...]:
        return tuple(self.keys.read(k) for k in re.findall(self.keys.pattern, text or ""))

    def bars(self, match: re.Match[str]) -> list[int]:
        if match["pickup"]:
            return [0]
        return [int(match["bar"])] if match["bar"] else list(range(int(match["first"]), int(match["last"]) + 1))

    # ---- lines

    def title(self, text: str) -> None:
        match = re.fullmatch(self.lang.title, text)
        self.end_rules()
        if match:
            if int(match["part"]) != self.part:
                self.chords = []
            self.part = int(match["part"])
            if match["hand"]:
                self.hand = self._hand(match["hand"])

    def _hand(self, word: str) -> str:
        return "left" if word.lower() in self.lang.left else "right"

    def line(self, text: str) -> bool:
        """Whether it was understood as something to play."""
        for name, pattern in self.lang.patterns.items():
            filled = pattern.replace("{keys}", _list(self.keys)).replace("{strokes}", r"[^.]+") if "{" in pattern else pattern
            match = re.fullmatch(filled, text)
            if match and self._does(name, match, text):
                return True
        return False

    def _does(self, name: str, match: re.Match[str], text: str) -> bool:
        deed: Callable[[re.Match[str]], None] = getattr(self, f"on_{name}")
        try:
            deed(match)
        except (ValueError, KeyError, IndexError):
            if name in ("grip", "bar", "even", "same_counts", "figure"):
                return False  # a sentence that only looks like one of these
            self.doubts.append(text)
        return True

    def on_span(self, m: re.Match[str]) -> None:
        self.part = int(m["part"])
        first = int(m["first"] or m["bar"])
        self.spans[self.part] = range(first, int(m["last"] or first) + 1)

    def on_again(self, m: re.Match[str]) -> None:
        self.part = int(m["part"])
        self.spans[self.part] = range(int(m["first"]), int(m["last"]) + 1)
        for hand in HANDS:
            self._copy(hand, int(m["model"]), read_distance(m["way"], m["size"], self.lang), set())

    def _copy(self, hand: str, model: int, by: int, but: set[int]) -> None:
        span, there = self.spans[self.part], self.spans[model]
        for i, bar in enumerate(span):
            if bar not in but and i < len(there):
                self.played[hand][bar] = _moved(self.played[hand].get(there[i], ()), by)

    def on_progression(self, m: re.Match[str]) -> None:
        span = self.spans[self.part]
        meters = {self.grid.meter_of(b).beats for b in span}
        bar = Fraction(meters.pop()) if len(meters) == 1 else Fraction(0)
        now = self.grid.bar_start(span[0] if span[0] > 1 else 0)
        self.chords = []
        for name, length in read_progression(m["chords"], read_times(m["times"]), bar, self.lang):
            self.chords.append((name, now, length))
            now += length

    def on_heading(self, m: re.Match[str]) -> None:
        self.end_rules()
        self.hand = self._hand(m["hand"])

    def on_rests(self, m: re.Match[str]) -> None:
        for bar in self.spans[self.part]:
            self.played[self._hand(m["hand"])][bar] = ()

    def on_blocks(self, m: re.Match[str]) -> None:
        self.rules = [_Rule(None, ())]

    def on_figure_blocks(self, m: re.Match[str]) -> None:
        self._rule(_Rule(_names(m["which"], self.lang), ()))

    def on_figure(self, m: re.Match[str]) -> None:
        names = _names(m["which"], self.lang)
        meter = self.grid.meter_of(self.spans[self.part][-1])
        words = m["order"].split(", ")
        if m["value"]:
            step = Fraction(*self.lang.values[m["value"]]) / meter.quarters_per_beat
            rule = _Rule(names, tuple((i * step, w) for i, w in enumerate(words)), step * len(words) if m["over"] else None)
        else:
            pairs = [_at(w, self.lang) for w in words]
            rule = _Rule(
                names, tuple((read_count(c, meter, self.lang), w) for w, c in pairs), read_amount(m["cycle"], "beat", self.lang) if m["cycle"] else None
            )
        self._rule(rule)

    def _rule(self, rule: _Rule) -> None:
        if rule.names is None or any(r.names is None for r in self.rules):
            self.end_rules()
        self.rules.append(rule)

    def on_grip(self, m: re.Match[str]) -> None:
        self.grips[self.hand][m["chord"]] = self._keys(m["keys"].replace(self.lang.if_you_like, ""))

    def on_like(self, m: re.Match[str]) -> None:
        self.end_rules()
        by = read_distance(m["way"], m["size"], self.lang)
        for i, bar in enumerate(self.bars(m)):
            model = int(m["model"]) if m["model"] else int(m["from"]) + i
            row = _moved(self.played[self.hand][model], by)
            if m["without"]:
                gone = read_count(m["without"], self.grid.meter_of(bar), self.lang)
                row = tuple(hit for hit in row if hit[0] != gone)
            elif m["strokes"]:
                new = self.strokes(m["strokes"].replace(self.lang.if_you_like, ""), bar)
                row = tuple(hit for hit in row if hit[0] not in {when for when, *_ in new}) + _hits(new)
            self.played[self.hand][bar] = row

    def on_same_on(self, m: re.Match[str]) -> None:
        """The figure that a chord stands under, on other keys."""
        self.end_rules()
        bars, grip = self.bars(m), self._keys(m["keys"].replace(self.lang.if_you_like, ""))
        first, after = self.grid.bar_start(bars[0]), self.grid.bar_start(bars[-1] + 1)
        hits: dict[int, list[Hit]] = {bar: [] for bar in bars}
        for name, start, length in self.chords:
            if first <= start < after:
                rule = next(r for r in self.figures if r.names is None or name in r.names)
                for at, keys in _carry_out(rule, grip, length, self.lang):
                    bar, into = self.grid.place(start + at)
                    hits[bar] += [(into, k, False) for k in keys]
        self.played[self.hand] |= {bar: tuple(row) for bar, row in hits.items()}

    def on_rest(self, m: re.Match[str]) -> None:
        self.end_rules()
        for bar in self.bars(m):
            self.played[self.hand][bar] = ()

    def on_adds(self, m: re.Match[str]) -> None:
        self.end_rules()
        [bar] = self.bars(m)
        row = self.played[self._hand(m["hand"])]
        row[bar] = (*row.get(bar, ()), *_hits(self.strokes(m["strokes"], bar)))

    def on_as_in(self, m: re.Match[str]) -> None:
        self.end_rules()
        self.hand = self._hand(m["hand"])
        but = {int(n) for n in re.findall(r"\d+", m["but"] or "")}
        self._copy(self.hand, int(m["model"]), read_distance(m["way"], m["size"], self.lang), but)

    def on_even(self, m: re.Match[str]) -> None:
        [bar] = self.bars(m)
        meter = self.grid.meter_of(bar)
        step = Fraction(*self.lang.values[m["value"]]) / meter.quarters_per_beat
        first = read_count(m["from"], meter, self.lang) if m["from"] else Fraction(0)
        row = self.strokes(m["strokes"].replace(self.lang.if_you_like, ""), bar) * read_times(m["times"])
        self.end_rules()
        self.counts = [first + i * step for i in range(len(row))]
        self.played[self.hand][bar] = _hits([(at, keys, graces) for at, (_, keys, graces) in zip(self.counts, row, strict=True)])

    def on_same_counts(self, m: re.Match[str]) -> None:
        [bar] = self.bars(m)
        row = self.strokes(m["strokes"].replace(self.lang.if_you_like, ""), bar)
        self.played[self.hand][bar] = _hits([(at, keys, graces) for at, (_, keys, graces) in zip(self.counts, row, strict=True)])

    def on_bar(self, m: re.Match[str]) -> None:
        [bar] = self.bars(m)
        row = self.strokes(m["strokes"].replace(self.lang.if_you_like, ""), bar)
        self.end_rules()
        self.counts = [when for when, *_ in row]
        self.played[self.hand][bar] = _hits(row)

    # ---- chords under a figure

    def end_rules(self) -> None:
        """What "each chord" asked for is played, with the grips that were spelled since."""
        rules, self.rules = self.rules, []
        if not rules or not self.chords:
            return
        self.figures = rules
        bars: dict[int, list[Hit]] = {bar: [] for bar in self._bars()}
        for name, start, length in self.chords:
            grip = self.grips[self.hand].get(name)
            rule = next((r for r in rules if r.names is None or name in r.names), None)
            if grip and rule and _fits(rule, grip, self.lang):
                for at, keys in _carry_out(rule, grip, length, self.lang):
                    bar, into = self.grid.place(start + at)
                    bars.setdefault(bar, []).extend((into, k, False) for k in keys)
        for bar, hits in bars.items():
            self.played[self.hand][bar] = tuple(hits)

    def _bars(self) -> list[int]:
        span = self.spans[self.part]
        return [*([0] if span[0] == 1 and self.grid.pickup else []), *span]


def _names(which: str, lang: Language) -> tuple[str, ...] | None:
    """The chords that a figure is for; None for each."""
    return None if which == lang.each_chord else tuple(split_names(which, lang))


def _at(words: str, lang: Language) -> tuple[str, str]:
    """Which keys of a grip, and the count on which they are struck."""
    found = re.fullmatch(lang.stroke.format(row=r"[^,]+?"), words)
    if not found or not found["count"]:
        raise ValueError(f"a learner does not understand {words!r}")
    return found["keys"], found["count"]


def _row(keys: KeyNames) -> str:
    one = rf"{keys.pattern}(?:{keys.language.if_you_like})?"
    return rf"{one}(?: {one})*"


def _list(keys: KeyNames) -> str:
    one = rf"{keys.pattern}(?:{keys.language.if_you_like})?"
    return rf"{one}(?:(?:, |{keys.language.also}){one})*"


def _hits(rows: Sequence[tuple[Fraction | None, tuple[int, ...], tuple[int, ...]]]) -> Bar:
    return tuple(hit for when, keys, graces in rows for hit in (*[(when, g, True) for g in graces], *[(when, k, False) for k in keys]))


def _moved(bar: Bar, by: int) -> Bar:
    return tuple((when, key + by, grace) for when, key, grace in bar)


def _carry_out(rule: _Rule, grip: tuple[int, ...], length: Fraction, lang: Language) -> list[tuple[Fraction, tuple[int, ...]]]:
    if not rule.rows:
        return [(Fraction(0), grip)]
    found, base = [], Fraction(0)
    while base < length:
        found += [(base + at, _named(words, grip, lang)) for at, words in rule.rows if base + at < length]
        if not rule.cycle:
            break
        base += rule.cycle
    return found


def _named(words: str, grip: tuple[int, ...], lang: Language) -> tuple[int, ...]:
    if words == lang.all_keys:
        return grip
    names = lang.places.get(len(grip), lang.numbered)
    return tuple(grip[names.index(word)] for word in words.split(lang.also))


def _fits(rule: _Rule, grip: tuple[int, ...], lang: Language) -> bool:
    """Whether a figure speaks of keys that a grip has: "bottom, middle, top" says nothing of two keys."""
    names = (*lang.places.get(len(grip), lang.numbered[: len(grip)]), lang.all_keys)
    return all(word in names for _, words in rule.rows for word in words.split(lang.also))


def read_lesson(steps: Sequence[tuple[str, Sequence[str]]], grid: Grid, schools: Schools, spans: Mapping[int, range] | None = None) -> Heard:
    """What a learner plays after all steps.

    Parameters
    ----------
    steps : title and lines of each, in words
    grid : bars and metres of the song, which a learner counts
    schools : how keys are named
    spans : the bars of each part, where a learner sees them; else they are known once they are said
    """
    lang = LANGUAGES[schools.language]
    learner = _Learner(grid, KeyNames(schools.naming, schools.octaves, lang), lang, spans=dict(spans or {}))
    for title, lines in steps:
        learner.title(title)
        for text in lines:
            learner.line(text)
        learner.end_rules()
    return Heard(learner.played, tuple(learner.doubts))


def understands(text: str, grid: Grid, schools: Schools) -> bool:
    """Whether a learner takes a sentence at its word, as one that says exactly what to play.

    Parameters
    ----------
    text : one line of a step
    grid, schools : as for ``read_lesson``
    """
    lang = LANGUAGES[schools.language]
    whole = {0: range(1, grid.bars + 1)}
    return _Learner(grid, KeyNames(schools.naming, schools.octaves, lang), lang, spans=whole).line(text)
