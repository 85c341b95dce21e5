"""Schools of teaching and naming, edits of steps, the length of lessons."""

import re
from dataclasses import replace

import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.charts import all_words, chart_of, make_work, spoken
from valley.errors import ParameterError
from valley.fraction import Fraction as F
from valley.lesson.overlay import change_step, forget_edit, lay_over, split_steps
from valley.lesson.script import count_bar
from valley.model.choices import Choices
from valley.model.lesson import StepEdit
from valley.model.saying import own_words, say
from valley.model.schools import Schools, read_schools, school_options
from valley.phrases import Words
from valley.song import Work
from valley.theory.chord import parse_symbol
from valley.theory.names import name_chord, name_note, name_pitch
from valley.theory.pitch import PitchName

CHART = chart_of(["Bb", "F/A", "Gm", "Eb"] * 2, key=("Bb", "major"), tune=[(i, 1, 70 + i % 5) for i in range(16)], parts=[(1, 4, None), (5, 4, None)])


def text(work: Work) -> str:
    return all_words(work.lesson)


def test_every_matter_has_its_schools() -> None:
    assert set(school_options()) >= {"order", "hands", "joining", "bass", "naming", "flats", "spelling", "inversions", "octaves", "fingering", "alignment"}
    assert read_schools("german octaves=c3, pattern-first") == Schools(naming="german", octaves="c3", order="pattern-first")
    with pytest.raises(ParameterError, match="'upside-down' is not known"):
        read_schools("upside-down")
    with pytest.raises(ParameterError, match="naming='tonic' must be one of letters"):
        read_schools("naming=tonic")


def test_order_hands_and_joining() -> None:
    usual = make_work(CHART, Choices(pattern="broken"))
    kinds = [s.kind for s in usual.lesson.steps if s.part == 1]
    assert kinds == ["right", "left", "both", "pattern", "pedal"]
    early = make_work(CHART, Choices(pattern="broken"), schools=Schools(order="pattern-first", hands="chord-by-chord", joining="at-the-end"))
    assert [s.kind for s in early.lesson.steps if s.part == 1] == ["both", "pedal"]
    assert "On each chord, in eighths, over and over: bottom, middle, top, middle." in text(early)
    assert not [s for s in early.lesson.steps if s.kind == "join"] and [s for s in usual.lesson.steps if s.kind == "join"]


def test_patterns_come_last_and_a_plain_version_first() -> None:
    late = make_work(CHART, Choices(style="root-and-chord", pattern="broken"), schools=Schools(order="pattern-last"))
    steps = [(s.kind, s.part) for s in late.lesson.steps if s.part]
    assert steps.index(("fuller", 1)) > max(i for i, (_, part) in enumerate(steps) if part == 2 and i < steps.index(("fuller", 1)))
    assert "pattern" not in {kind for kind, _ in steps}
    fuller = next(spoken(s) for s in late.lesson.steps if s.kind == "fuller")
    assert fuller[0] == "You know the whole song. Now fuller, as it is played."
    assert "The right hand stays as it is." in fuller and any(row.startswith("On each chord, in eighths, over and over") for row in fuller)

    plain = make_work(CHART, Choices(style="root-and-chord", level="fuller"), schools=Schools(order="plain-first"))
    easier = make_work(CHART, Choices(style="root-and-chord", level="easier"))
    first = [row for s in plain.lesson.steps if s.kind in ("right", "left") for row in spoken(s) if " is " in row]
    assert first and set(first) <= set(all_words(easier.lesson).split("\n"))
    assert [s.part for s in plain.lesson.steps if s.kind == "fuller"] == [1, 2]
    # Where nothing is fuller than the plain version, nothing is said of it.
    assert not [s for s in make_work(CHART, schools=Schools(order="pattern-last")).lesson.steps if s.kind == "fuller"]


def test_naming_octaves_inversions_and_fingers() -> None:
    choices = Choices(style="root-and-chord")
    german = text(make_work(CHART, choices, schools=Schools(naming="german", octaves="c3", inversions="words")))
    assert "B is B" in german and "F in first inversion" in german and "Middle C is C3" in german and "Es" in german
    syllables = text(make_work(CHART, choices, schools=Schools(naming="syllables", flats="spoken", octaves="words")))
    assert re.search("begins on (lowest|low|deep) (do|re|mi|fa|sol|la|si)( flat)?,", syllables) and "Middle do is the do nearest" in syllables
    thorough = Schools(length="thorough")
    assert "fingers 5, 1" in text(make_work(CHART, choices, schools=thorough))
    assert "fingers" not in text(make_work(CHART, choices, schools=replace(thorough, fingering="hidden")))
    assert all(n.finger is None for g in make_work(CHART, choices, schools=Schools(fingering="hidden")).arrangement.parts[0].grips for n in g.notes)


def test_the_bass_school_reaches_the_hands() -> None:
    roots = make_work(CHART, Choices(style="root-and-chord"), schools=Schools(bass="root")).arrangement.parts[0].grips
    assert roots[1].left[0].pitch.startswith("F")


def test_anchors_count_only_what_is_on_the_beat() -> None:
    chart = chart_of(["C"], tune=[(0, 1, 72), (F(3, 2), F(1, 2), 74), (2, 1, 76)])
    anchored = text(make_work(chart, Choices(), schools=Schools(alignment="anchors")))
    assert "Bar 1: C5 on 1, D5, E5 on 3." in anchored


@pytest.mark.parametrize(
    ("symbol", "school", "said"),
    [
        ("Cadd9", {"added": "add2"}, "Cadd2"),
        ("Dsus2", {"suspended": "2"}, "D2"),
        ("Fmaj7", {"major_seventh": "Δ7"}, "FΔ7"),
        ("Bm7b5", {"half_diminished": "ø7", "naming": "german"}, "Hø7"),
        ("Cb", {"spelling": "simple"}, "B"),
        ("Eb/G", {"naming": "syllables"}, "mib/sol"),
        ("Bb7", {"flats": "spoken"}, "B flat 7"),
        ("C/E", {"inversions": "words"}, "C in first inversion"),
        ("C/D", {"inversions": "words"}, "C/D"),
    ],
)
def test_chord_names_in_each_school(symbol: str, school: dict[str, str], said: str) -> None:
    chord = parse_symbol(symbol)
    assert chord is not None and name_chord(chord, **school) == said


@given(st.integers(-14, 18))
def test_every_note_has_a_name_of_its_own_in_german(fifths: int) -> None:
    names = {name_note(PitchName(f), naming="german") for f in range(-14, 19)}
    assert len(names) == 33 and name_note(PitchName(fifths), naming="german") in names


def test_landmarks_say_where_a_note_lies() -> None:
    said = [name_pitch(p, octaves="words") for p in ("C4", "A3", "C5", "D5", "A2", "C6")]
    assert said == [
        "middle C",
        "low A",
        "high C",
        "high D",
        "deep A",
        "higher C",
    ]


def test_steps_are_written_over_left_out_moved_and_added() -> None:
    work = make_work(CHART)
    edits = change_step((), work.generated, StepEdit("chords", title="Our chords", lines=("Four chords.", " ")))
    edits = change_step(edits, work.generated, StepEdit("part-1/left", left_out=True))
    edits = change_step(edits, work.generated, StepEdit("closing", after="opening"))
    edits = change_step(edits, work.generated, StepEdit("own-1", title="A word before", lines=("Sit well.",), after="", added=True))
    lesson = lay_over(work.generated, edits)
    keys = [s.key for s in lesson.steps]
    assert keys[:3] == ["own-1", "opening", "closing"] and "part-1/left" not in keys
    chords = next(s for s in lesson.steps if s.key == "chords")
    assert (chords.title, spoken(chords), chords.edited, chords.stale) == (own_words("Our chords"), ("Four chords.",), True, False)
    moved_on = make_work(chart_of(["C", "F"] * 4, parts=[(1, 4, None), (5, 4, None)]), edits=edits).lesson
    assert next(s for s in moved_on.steps if s.key == "chords").stale
    assert next(s for s in lay_over(work.generated, forget_edit(edits, "chords")).steps if s.key == "chords").lines == work.generated.steps[1].lines
    with pytest.raises(ParameterError, match="is not in this lesson"):
        change_step(edits, work.generated, StepEdit("nowhere", lines=("x",)))
    with pytest.raises(ParameterError, match="would say nothing"):
        StepEdit("chords", lines=(" ",))


def test_lessons_of_a_wanted_length() -> None:
    lesson = make_work(CHART).lesson
    halves = split_steps(lesson, max(2, lesson.seconds / 60 / 2))
    assert len(halves) >= 2 and [s for group in halves for s in group] == list(lesson.steps)
    assert split_steps(lesson, 0) == (lesson.steps,)
    with pytest.raises(ParameterError, match="too short"):
        split_steps(lesson, 0.5)


def test_sentences_take_turns() -> None:
    words, pattern = Words(), say("pattern", pattern="broken chord", summary="Up and back.")
    assert words.say(pattern) != words.say(pattern)
    with pytest.raises(ParameterError, match="language='xx'"):
        Words(language="xx")
    assert count_bar("4/4") == ("1", "&", "2", "&", "3", "&", "4", "&")


def test_words_over_a_step_that_is_made_no_more_stay_and_say_so() -> None:
    work = make_work(CHART)
    edits = change_step((), work.generated, StepEdit("part-1/right", title="My right hand", lines=("Softly.",)))
    without_tune = make_work(chart_of(["Bb", "F"] * 2, parts=[(1, 2, None), (3, 2, None)]), edits=edits)
    assert "part-1/right" not in {s.key for s in without_tune.generated.steps}
    keys = [s.key for s in without_tune.lesson.steps]
    kept = without_tune.lesson.steps[keys.index("part-1/right")]
    assert (spoken(kept), kept.stale) == (("Softly.",), True)
    assert keys[keys.index("part-1/right") - 1].startswith("part-1/")
