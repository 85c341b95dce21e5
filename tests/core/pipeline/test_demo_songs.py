"""Listening on rendered songs with drums and a lead, whose truth is the data they were composed from.

The bounds are levels already reached, less a little: a change of the listening that loses one is a regression.
"""

from pathlib import Path

import pytest
from bench.scoring import score
from demo.render import FORMATS, truth_of

from valley.charting.from_hearing import make_chart
from valley.formats.hearing_json import dump_hearing
from valley.model.hearing import Hearing
from valley.pipeline.listen import listen

AUDIO = Path(__file__).parents[3] / "demo" / "audio"
AT_LEAST = {
    "beat F": 0.97,
    "downbeat F": 0.95,
    "tempo": 1.0,
    "key mirex": 0.95,
    "chord root": 0.92,
    "chord majmin": 0.90,
    "chord majmin inv": 0.90,
    "chord sevenths": 0.70,
    "melody accuracy": 0.70,
    "melody onset F1": 0.60,
    "bass onset F1": 0.60,
}


@pytest.fixture(scope="module", params=FORMATS)
def heard(request: pytest.FixtureRequest) -> tuple[str, Hearing]:
    stem: str = request.param
    return stem, listen(AUDIO / f"{stem}.{FORMATS[stem]}")


def test_what_was_composed_is_heard(heard: tuple[str, Hearing]) -> None:
    stem, hearing = heard
    result = score(truth_of(stem), dump_hearing(hearing))
    assert {k: round(result[k], 3) for k, bound in AT_LEAST.items() if result[k] < bound} == {}
    assert result["tuning cents off"] < 4


def test_metre_and_bar_one_are_right(heard: tuple[str, Hearing]) -> None:
    stem, hearing = heard
    truth = truth_of(stem)
    assert hearing.meter == truth["meter"]
    chart = make_chart(hearing, truth["title"])
    assert chart.grid.pickup == 0
    assert abs(chart.grid.bars - len(truth["downbeats"])) <= 1
    assert chart.grid.beats[0] == pytest.approx(truth["beats"][0], abs=0.07)


def test_most_doubts_are_where_the_chord_is_wrong(heard: tuple[str, Hearing]) -> None:
    """A doubtful chord is wrong more often than a sure one: what is asked first is worth asking."""
    from bench.reliability import pair_items

    stem, hearing = heard
    pairs = pair_items(truth_of(stem), dump_hearing(hearing))["chords"]
    sure = [right for confidence, right in pairs if confidence >= 0.75]
    doubtful = [right for confidence, right in pairs if confidence < 0.5]
    assert sum(sure) / len(sure) > 0.65
    if len(doubtful) >= 5:
        assert sum(doubtful) / len(doubtful) < sum(sure) / len(sure) - 0.2
