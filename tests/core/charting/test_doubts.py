"""Which chords are looked at first: counted here by going round the repeats of every place, one after the other."""

from dataclasses import replace

from hypothesis import given
from hypothesis import strategies as st

from tests.charts import random_charts
from valley.charting.doubts import find_doubts, is_doubtful
from valley.charting.twins import find_twins
from valley.model.chart import Chart


@given(random_charts(), st.data())
def test_doubt_counts_every_repeat_that_one_answer_settles(chart: Chart, data: st.DataObject) -> None:
    sure = data.draw(st.lists(st.sampled_from([0.2, 0.5, 0.69, 0.7, 0.9]), min_size=len(chart.chords), max_size=len(chart.chords)))
    chart = replace(chart, chords=tuple(replace(c, confidence=p, locked=i % 5 == 4) for i, (c, p) in enumerate(zip(chart.chords, sure, strict=True))))
    slowly = []
    for i, chord in enumerate(chart.chords):
        if not chord.locked and chord.confidence < 0.7:
            slowly.append((-(1 - chord.confidence) * (1 + sum(t.same for t in find_twins(chart, chord.start))), i))
    found = find_doubts(chart)
    assert found == tuple(i for _, i in sorted(slowly))
    assert len(found) == sum(map(is_doubtful, chart.chords))
