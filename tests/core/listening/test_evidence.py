"""Charts held against what was heard: right ones agree, wrong ones stand out."""

import random

import numpy as np
import pytest

from tests.charts import chart_of, correct
from tests.dice import Dice
from tests.songs import throw_song
from valley.edits import SetBass, SetChord, TransposeNotes
from valley.errors import FormatError, ParameterError
from valley.fraction import Fraction as F
from valley.listening.ear import LOW_MIDI, PITCHES, Heard
from valley.listening.evidence import Evidence, Rated, dump_evidence, keep_evidence, rate_agreement, read_evidence
from valley.model.chart import Chart
from valley.theory.chord import close_pitches

FPS = 50.0


def hear_exactly(chart: Chart) -> Heard:
    """What a perfect ear would give for a chart played as close chords with its tune."""
    frames = int((chart.grid.beats[-1] + 2) * FPS)
    layers = {name: np.zeros((frames, PITCHES), np.float32) for name in ("sounds", "tune", "bass")}

    def put(name: str, midi: int, start: F, end: F) -> None:
        a, b = (int(chart.grid.seconds(x) * FPS) for x in (start, end))
        layers[name][a:b, midi - LOW_MIDI] = 0.95

    for c in chart.chords:
        chord = c.chord
        for i, midi in enumerate(close_pitches(chord) if chord else ()):
            put("sounds", midi, c.start, c.end)
            if i == 0:
                put("bass", midi, c.start, c.end)
    for n in chart.melody:
        put("tune", n.midi, n.start, n.end)
        put("sounds", n.midi, n.start, n.end)
    nothing = np.zeros((frames, PITCHES), np.float32)
    return Heard(layers["sounds"], nothing, layers["tune"], nothing, layers["bass"], nothing)


CHART = chart_of(["C", "Am7/G", "F", "N"], tune=[(0, 2, 72), (4, 4, 69), (8, 2, 77)])
EVIDENCE = keep_evidence(hear_exactly(CHART), FPS)


def test_the_true_chart_agrees_in_every_bar() -> None:
    found = rate_agreement(CHART, EVIDENCE)
    assert [a.bar for a in found] == [1, 2, 3, 4]
    assert all(a.whole > 0.85 for a in found)
    assert found[3].bass is None
    assert found[3].tune is None


@pytest.mark.parametrize(
    ("edit", "bar", "what"), [(SetChord(F(0), "F#"), 1, "chords"), (SetBass(F(8), "A"), 3, "bass"), (TransposeNotes(F(4), F(8), 1), 2, "tune")]
)
def test_what_is_wrong_stands_out_in_its_bar_and_in_nothing_else(edit: object, bar: int, what: str) -> None:
    wrong = rate_agreement(correct(CHART, edit)[0], EVIDENCE)  # type: ignore[arg-type]  # any edit of a chart
    right = rate_agreement(CHART, EVIDENCE)
    assert getattr(wrong[bar - 1], what) < 0.5 < getattr(right[bar - 1], what)
    assert [a for a in wrong if a.bar != bar] == [a for a in right if a.bar != bar]


def test_a_missing_seventh_costs_less_than_a_wrong_chord() -> None:
    plain = rate_agreement(correct(CHART, SetChord(F(4), "Am/G"))[0], EVIDENCE)[1].chords
    wrong = rate_agreement(correct(CHART, SetChord(F(4), "Bb"))[0], EVIDENCE)[1].chords
    whole = rate_agreement(CHART, EVIDENCE)[1].chords
    assert plain is not None
    assert wrong is not None
    assert whole is not None
    assert wrong < plain <= whole


def test_after_a_correction_the_rest_is_as_it_was_rated() -> None:
    for seed in range(20):
        song, rows = throw_song(Dice(random.Random(seed))), np.random.default_rng(seed).integers(0, 256, (600, 3, 12)).astype(np.uint8)
        evidence = Evidence(rows)
        known = Rated(song.chart, rate_agreement(song.chart, evidence))
        note = song.chart.melody[0].start if song.chart.melody else None
        edits = (SetChord(song.chart.chords[-1].start, "Bbm7"), *([TransposeNotes(note, note + 1, 1)] if note is not None else []))
        for edit in edits:
            chart = correct(song.chart, edit)[0]
            assert rate_agreement(chart, evidence, known) == rate_agreement(chart, evidence)


def test_evidence_is_kept_small_and_read_again() -> None:
    data = dump_evidence(EVIDENCE)
    assert len(data) < 4000
    assert np.array_equal(read_evidence(data).rows, EVIDENCE.rows)
    with pytest.raises(FormatError, match="no evidence"):
        read_evidence(b"nonsense")
    with pytest.raises(ParameterError, match="no rows"):
        rate_agreement(CHART, Evidence(np.zeros((0, 3, 12), np.uint8)))
