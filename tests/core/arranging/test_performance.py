"""Performances held against the arrangement: at any tempo, with wrong, missing and added notes, of one part, of another song."""

import random
from dataclasses import replace

import pytest

from tests.charts import choose
from tests.core.charting.test_from_hearing import HEARING
from valley.arranging.arrange import arrange
from valley.arranging.performance import grips_played, hold_against
from valley.charting.from_hearing import make_chart
from valley.edits import ChangeGrip, PlayedGrip, TakePlayed
from valley.errors import FormatError, ParameterError
from valley.formats.chord_chart import parse_chord_chart
from valley.formats.midi import dump_midi
from valley.formats.midi_in import read_midi
from valley.fraction import Fraction as F
from valley.model.choices import Choices
from valley.model.score import ScoreNote

CHART = make_chart(HEARING, "Test")
CHOICES = Choices(style="root-and-chord", pattern="broken")
ARRANGED = arrange(CHART, CHOICES)
NOTES = [n for part in ARRANGED.parts for n in part.notes if not n.grace]


ONE, NONE = F(1), F(0)


def play(speed: F = ONE, shift: F = NONE, jitter: int = 0, seed: int = 1) -> list[ScoreNote]:
    rng = random.Random(seed)
    return [ScoreNote(n.start * speed + shift + F(rng.randint(0, jitter), 48), n.duration * speed, n.midi, n.hand) for n in NOTES]


@pytest.mark.parametrize("speed", [F(1, 2), F(1), F(13, 10), F(3)])
@pytest.mark.parametrize("shift", [F(0), F(9)])
def test_a_faithful_performance_has_no_faults_at_any_tempo(speed: F, shift: F) -> None:
    held = hold_against(CHART, ARRANGED, play(speed, shift, jitter=3))
    assert held.found == 1.0
    assert held.faults == ()
    assert {(s.start, s.midi, s.hand) for s in held.struck} == {(n.start, n.midi, n.hand) for n in NOTES}


def test_a_performance_that_slows_down_is_still_followed() -> None:
    slowing = [replace(n, start=n.start + n.start * n.start / 60) for n in play()]
    assert hold_against(CHART, ARRANGED, slowing).found == 1.0


def test_every_missing_and_wrong_note_is_told_with_its_bar_and_hand() -> None:
    played = play()
    gone, wrong = played[5], played[20]
    rest = [n for n in played if n is not gone and n is not wrong] + [replace(wrong, midi=wrong.midi + 1)]
    held = hold_against(CHART, ARRANGED, sorted(rest, key=lambda n: n.start))
    bars = {f.bar: f for f in held.faults}
    at = [CHART.grid.place(NOTES[i].start)[0] for i in (5, 20)]
    assert set(bars) == set(at)
    assert any(f"{NOTES[5].hand} {NOTES[5].pitch}" == m for m in bars[at[0]].missing)
    assert any(f"{NOTES[20].hand} {NOTES[20].pitch}" == m for m in bars[at[1]].missing)
    assert len(bars[at[1]].extra) == 1
    assert held.found == pytest.approx(1 - 2 / len(NOTES))


def test_one_part_alone_is_compared_with_that_part_only() -> None:
    part = ARRANGED.parts[-1]
    alone = [ScoreNote(n.start - part.notes[0].start, n.duration, n.midi, n.hand) for n in part.notes if not n.grace]
    held = hold_against(CHART, ARRANGED, alone)
    assert held.faults == ()
    assert held.found < 1


def test_a_chord_struck_late_is_told() -> None:
    chart = parse_chord_chart("| C | F | G | Am | Dm | F | G | C |")
    block = arrange(chart, replace(CHOICES, pattern="held"))
    notes = [n for p in block.parts for n in p.notes]
    start = sorted({n.start for n in notes})[4]
    late = [ScoreNote(n.start + (F(2, 5) if n.start == start else 0), n.duration, n.midi, n.hand) for n in notes]
    held = hold_against(chart, block, late)
    assert held.found == 1.0
    assert [(f.bar, f.words) for f in held.faults] == [(chart.grid.place(start)[0], "late")]


@pytest.mark.parametrize("notes", [[], [ScoreNote(F(i), F(1), 61 + (i % 3) * 6, "right") for i in range(40)]])
def test_another_song_is_refused(notes: list[ScoreNote]) -> None:
    with pytest.raises(FormatError, match="nothing to compare|another song"):
        hold_against(CHART, ARRANGED, notes)


def test_the_exported_midi_file_is_its_own_faithful_performance() -> None:
    score = read_midi(dump_midi(CHART, ARRANGED))
    held = hold_against(CHART, ARRANGED, score.notes)
    assert held.found > 0.98
    assert all(not f.extra for f in held.faults)


def test_grips_are_taken_as_played_and_undone_one_by_one() -> None:
    block = arrange(CHART, replace(CHOICES, pattern="held"))
    notes = [ScoreNote(n.start, n.duration, n.midi - 12 if n.hand == "left" else n.midi, n.hand) for p in block.parts for n in p.notes if not n.grace]
    held = hold_against(CHART, block, notes)
    edit = TakePlayed(tuple(PlayedGrip(*row) for row in grips_played(CHART, held.struck)))
    choices, said = choose(CHART, replace(CHOICES, pattern="held"), edit)
    assert said == f"{len(edit.grips)} grips as they were played"
    made = {g.start: g for p in arrange(CHART, choices).parts for g in p.grips}
    for grip in edit.grips:
        assert tuple(n.midi for n in made[grip.start].left) == grip.left
        assert made[grip.start].locked
    back, _ = choose(CHART, choices, ChangeGrip(edit.grips[0].start, "release"))
    assert len(back.grips) == len(choices.grips) - 1


@pytest.mark.parametrize(
    ("grip", "words"),
    [
        (PlayedGrip(F(1, 3), "C:maj", (48,), ()), "none of the chart's chords"),
        (PlayedGrip(CHART.chords[0].start, CHART.chords[0].label, (5,), ()), "outside the keyboard"),
        (PlayedGrip(CHART.chords[0].start, CHART.chords[0].label, (40, 41, 42, 43, 44, 45), ()), "one to five keys"),
        (PlayedGrip(CHART.chords[0].start, CHART.chords[0].label, (45, 40), ()), "from the bottom up"),
    ],
)
def test_grips_that_no_hand_holds_are_refused(grip: PlayedGrip, words: str) -> None:
    with pytest.raises(ParameterError, match=words):
        choose(CHART, CHOICES, TakePlayed((grip,)))
