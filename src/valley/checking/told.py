"""Whether the creator's own words tell every note that the words under them told: read by the learner who plays just what is said.

Free words count as telling a bar where they name its notes or its chord; a sentence in Valley's own form is taken at its word.
"""

from __future__ import annotations

import re
from collections.abc import Iterator, Sequence
from itertools import groupby

from valley.checking.finding import ERROR, WARNING, Finding
from valley.lesson.student import Untold, compare_hands, read_lesson
from valley.model.arrangement import Arrangement
from valley.model.chart import Chart
from valley.model.lesson import OWN, Lesson, LineNote, Step
from valley.model.saying import Sound, say
from valley.phrases import Words, say_lesson
from valley.theory.names import name_note, name_pitch
from valley.theory.pitch import parse_name, parse_pitch

Row = tuple[Untold, Step]


def check_told(chart: Chart, arrangement: Arrangement, lesson: Lesson) -> Iterator[Finding]:
    """In steps that the creator wrote over no note is left untold, and none is told that is not played."""
    edited = [s for s in lesson.steps if s.edited and s.notes]
    if not edited:
        return
    taught = [p.number for p in chart.parts if any(s.part == p.number for s in lesson.steps)]
    spans = {p.number: range(p.start_bar, min(p.end_bar, chart.grid.bars) + 1) for p in chart.parts}
    heard = read_lesson(say_lesson(lesson), chart.grid, lesson.schools, spans)
    rows: list[Row] = []
    for row in compare_hands(heard, arrangement, chart.grid, taught):
        step = next((s for s in edited if any(n.hand == row.hand and chart.grid.place(n.start)[0] == row.bar for n in s.notes)), None)
        if step and not _names_them(chart, lesson, step, row):
            rows.append((row, step))
    for (key, hand, wrong), group in groupby(rows, key=lambda r: (r[1].key, r[0].hand, bool(r[0].wrong))):
        yield _finding(chart, lesson, [r for r, s in group], next(s for s in edited if s.key == key), hand, wrong=wrong)


def _finding(chart: Chart, lesson: Lesson, rows: Sequence[Untold], step: Step, hand: str, *, wrong: bool) -> Finding:
    first, last = rows[0].bar, rows[-1].bar
    bars = f"bar {first}" if first == last else f"bars {first} to {last}"
    keys = tuple(dict.fromkeys(k for r in rows for k in (r.wrong if wrong else r.missing)))
    names = _spelled(chart, lesson, step, keys)
    title = Words(lesson.schools).title(step)
    what = f"are told, but not played there: {names}" if wrong else f"are told by nobody: {names}"
    sentence = f"“{title}”: in {bars}, {hand} hand, these notes {what}."
    return Finding("told", "lesson", ERROR if wrong else WARNING, sentence, step.part, first, chart.grid.bar_start(first), step.key)


def _spelled(chart: Chart, lesson: Lesson, step: Step, keys: Sequence[int], most: int = 6) -> str:
    s = lesson.schools
    spelled = {parse_pitch(n.pitch)[1]: n.pitch for n in step.notes}
    key = chart.key_at(step.start or chart.keys[0].start)
    pitches = [spelled.get(k) or key.spell(k % 12).at(k) for k in keys]
    said = [name_pitch(p, naming=s.naming, flats=s.flats, spelling=s.spelling, octaves=s.octaves) for p in pitches[:most]]
    return ", ".join(said) + (" …" if len(keys) > most else "")


def _names_them(chart: Chart, lesson: Lesson, step: Step, row: Untold) -> bool:
    """Whether free words name every note of the bar, or the chords that sound in it."""
    if row.wrong:
        return False
    words, s = Words(lesson.schools), lesson.schools
    text = " ".join(words.line(row) for row in step.lines if row.kind == OWN)  # the chords of a part in Valley's words tell no keys
    here: list[LineNote] = [n for n in step.notes if n.hand == row.hand and chart.grid.place(n.start)[0] == row.bar]
    notes = {name_note(parse_name(re.sub(r"-?\d+$", "", n.pitch)), naming=s.naming, flats=s.flats, spelling=s.spelling) for n in here}
    if all(_stands_in(name, text) for name in notes):
        return True
    chords = [c.chord for c in chart.sounding_in(row.bar) if c.chord]
    return bool(chords) and all(_chord_stands_in(words.say(say("named", chord=Sound(c))), text) for c in chords)


def _chord_stands_in(name: str, text: str) -> bool:
    """Whether a chord is named: its bare letter in a row of letters, "E, G and B", is a note."""
    bare, gap = r"(?:[A-H]|do|re|mi|fa|sol|la|si)[#b]?", r"(?:, | and | )"
    alone = re.sub(rf"(?<![\w#]){bare}(?:{gap}{bare})+(?![\w#])", " ", text)
    return _stands_in(name, alone)


def _stands_in(name: str, text: str) -> bool:
    return re.search(rf"(?<![\w#]){re.escape(name)}(?![a-z#])", text) is not None
