"""The bench's own arithmetic: a perfect answer scores 1, an empty one 0, and the demo songs' truth holds together."""

from typing import Any

import pytest
from bench.reliability import calibration_error, pair_items, tabulate
from bench.scoring import cover, onset_f1, score
from demo.render import FORMATS, read_chords, read_melody, truth_of

from valley.theory.chord import parse_harte
from valley.theory.meter import Meter

EMPTY: dict[str, Any] = {
    "bpm": 10.0,
    "tuning_cents": 40.0,
    "beats": [],
    "downbeats": [],
    "keys": [],
    "chords": [],
    "melody": [],
    "bass": [],
    "sections": [],
}


@pytest.mark.parametrize("stem", FORMATS)
def test_truth_against_itself_is_perfect(stem: str) -> None:
    truth = truth_of(stem)
    result = score(truth, truth)
    off = result.pop("tuning cents off")
    assert off == 0
    assert result.pop("melody false alarms", 0.0) == 0
    assert {k: v for k, v in result.items() if v < 0.97} == {}


def test_nothing_heard_scores_nothing() -> None:
    result = score(truth_of("the_millwheel"), EMPTY)
    assert result.pop("tuning cents off") == 40
    structure = {k: result.pop(k) for k in list(result) if k.startswith(("section", "chord"))}
    result.pop("melody accuracy")  # silence is right wherever the tune rests
    assert set(result.values()) == {0.0}
    assert max(structure.values()) <= 1.0
    assert structure["chord root"] < 0.05


@pytest.mark.parametrize("stem", FORMATS)
def test_the_demo_songs_truth_holds_together(stem: str) -> None:
    truth = truth_of(stem)
    assert all(a["end"] == pytest.approx(b["start"]) for a, b in zip(truth["chords"], truth["chords"][1:], strict=False))
    assert truth["chords"][-1]["end"] == pytest.approx(truth["end"])
    assert len(truth["beats"]) == len(truth["downbeats"]) * Meter(truth["meter"]).beats
    assert all(parse_harte(c["label"]) for c in truth["chords"] if c["label"] != "N")
    assert all(40 < n["midi"] < 96 for n in truth["melody"])
    assert truth["keys"][-1]["end"] == pytest.approx(truth["end"])


def test_bars_of_chords_and_tunes_are_read_as_written() -> None:
    bars = read_chords("C . G/B . | Am7 . . .")
    assert [[c.to_symbol() if c else "-" for c in bar] for bar in bars] == [["C", "C", "G/B", "G/B"], ["Am7"] * 4]
    tune = read_melody("C4 1 r .5 Eb4 3/2 | D4 1")
    assert [(float(a), float(b), m) for a, b, m in tune] == [(0, 1, 60), (1.5, 1.5, 63), (3, 1, 62)]


def test_intervals_are_filled_and_cut() -> None:
    intervals, labels = cover([{"start": 1, "end": 2, "label": "A"}, {"start": 3, "end": 9, "label": "B"}], 0, 5, "-")
    assert intervals.tolist() == [[0, 1], [1, 2], [2, 3], [3, 5]]
    assert labels == ["-", "A", "-", "B"]


def test_notes_match_within_fifty_milliseconds() -> None:
    truth = [{"start": 1.0, "end": 1.5, "midi": 60}, {"start": 2.0, "end": 2.5, "midi": 62}]
    near = [{"start": 1.04, "end": 1.4, "midi": 60}, {"start": 2.06, "end": 2.5, "midi": 62}]
    assert onset_f1(truth, truth) == 1
    assert onset_f1(truth, near) == 0.5
    assert onset_f1(truth, []) == 0


def test_confidence_is_held_against_truth() -> None:
    truth = {"chords": [{"start": 0, "end": 2, "label": "C:maj"}, {"start": 2, "end": 4, "label": "A:min7"}]}
    found = {
        "chords": [
            {"start": 0, "end": 2, "label": "C:maj", "confidence": 0.95},
            {"start": 2, "end": 3, "label": "C:maj6/6", "confidence": 0.55},
            {"start": 3, "end": 4, "label": "N", "confidence": 0.31},
        ]
    }
    nothing = {"keys": [], "sections": [], "beats": [], "downbeats": []}
    pairs = pair_items({**truth, **nothing, "melody": [], "bass": []}, {**found, **nothing, "melody": [], "bass": []})["chords"]
    assert pairs == [(0.95, True), (0.55, True), (0.31, False)]
    assert [(r["said"], r["right"]) for r in tabulate(pairs)] == [("30–40 %", 0.0), ("50–60 %", 1.0), ("90–100 %", 1.0)]
    assert calibration_error(pairs) == pytest.approx((0.05 + 0.45 + 0.31) / 3)


def test_each_true_note_confirms_one_heard_note() -> None:
    truth = {"keys": [], "sections": [], "beats": [], "downbeats": [], "chords": [], "bass": [], "melody": [{"start": 1.0, "end": 2.0, "midi": 60}]}
    heard = [
        {"start": 1.01, "end": 2, "midi": 60, "confidence": 0.9},
        {"start": 1.02, "end": 2, "midi": 60, "confidence": 0.6},
        {"start": 1.0, "end": 2, "midi": 61, "confidence": 0.2},
    ]
    found = {"keys": [], "sections": [], "beats": [], "downbeats": [], "chords": [], "bass": [], "melody": heard}
    assert pair_items(truth, found)["melody notes"] == [(0.9, True), (0.6, False), (0.2, False)]
