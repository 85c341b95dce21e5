"""Repeats and endings in MusicXML: found where they are, unfolded by independent readers into the very notes that were written."""

import warnings
from pathlib import Path

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from valley.arranging.arrange import arrange
from valley.formats.chord_chart import parse_chord_chart
from valley.formats.musicxml import dump_musicxml
from valley.formats.repeats import Fold, find_folds
from valley.formats.score_in import read_musicxml
from valley.fraction import Fraction as F
from valley.model.arrangement import Arrangement
from valley.model.chart import Chart
from valley.model.choices import Choices
from valley.pipeline.readers import mark_repeats

ENDINGS = "[A]\n| C | F | G | Am |\n[A2]\n| C | F | G | C |\n[B]\n| Dm | G |\n[B2]\n| Dm | G |\n[C]\n| Em | Am | Dm G | C |\n"


def make(text: str, **choices: str) -> tuple[Chart, Arrangement]:
    chart = mark_repeats(parse_chord_chart(text))
    return chart, arrange(chart, Choices(**{"style": "root-and-chord", "pattern": "held", **choices}))


def written(chart: Chart, arrangement: Arrangement) -> list[tuple[F, int, str]]:
    quarter = chart.grid.main_meter.quarters_per_beat
    return sorted((n.start * quarter, n.midi, n.hand) for p in arrangement.parts for n in p.notes if not n.grace)


def test_an_exact_repeat_and_one_with_another_end_are_found() -> None:
    assert find_folds(*make(ENDINGS)) == (Fold(1, 4, 3), Fold(9, 2, 2))


@pytest.mark.parametrize(
    "text",
    [
        "[A]\n| C | F |\n[B]\n| G | C |\n[A]\n| C | F |\n",  # not side by side
        "[A]\n| C | F | G | C |\n[A2]\n| Dm | F | G | C |\n",  # another beginning
        "[A]\n| C |\n[A2]\n| C |\n",  # one bar is not worth a sign
        "[A]\n| C | F | G | C |\n[A2]\n| C | F |\n",  # another length
        "| C | F | G | C |",
    ],
)
def test_what_only_looks_like_a_repeat_is_written_out(text: str) -> None:
    assert find_folds(*make(text)) == ()


def test_two_parts_that_come_again_together_make_one_repeat() -> None:
    assert find_folds(*make("[A]\n| C | F |\n[B]\n| G | Am |\n[A]\n| C | F |\n[B]\n| G | Am |\n")) == (Fold(1, 4, 4),)


def test_a_change_of_key_or_of_hands_is_never_folded_over() -> None:
    chart, arrangement = make(ENDINGS)
    other = arrange(chart, Choices(style="root-and-chord", pattern="held", parts=()))
    assert find_folds(chart, other)
    from valley.model.choices import PartChoice

    louder = arrange(chart, Choices(style="root-and-chord", pattern="held", parts=(PartChoice(2, style="shell"),)))
    assert Fold(1, 4, 3) not in find_folds(chart, louder)
    assert arrangement.parts


def test_signs_brackets_and_names_stand_where_they_belong() -> None:
    text = dump_musicxml(*make(ENDINGS)).decode()
    assert text.count('<repeat direction="forward"') == 2
    assert text.count('<repeat direction="backward"') == 2
    assert text.count('<ending number="1" type="start"') == 1
    assert text.count('<ending number="2" type="start"') == 1
    assert "1 A, 2 A2" in text
    numbers = [int(line.split('number="')[1].split('"')[0]) for line in text.splitlines() if "<measure " in line]
    assert numbers == [1, 2, 3, 4, 8, 9, 10, 13, 14, 15, 16]
    plain = dump_musicxml(*make(ENDINGS), fold=False).decode()
    assert "<repeat" not in plain


def test_cue_words_of_both_times_are_kept() -> None:
    from dataclasses import replace

    from valley.model.chart import Cue

    chart, arrangement = make(ENDINGS)
    chart = replace(chart, cues=(Cue(F(0), "sails"), Cue(F(16), "harbour")))
    text = dump_musicxml(chart, arrangement).decode()
    assert "sails" in text
    assert "harbour" in text
    assert '<lyric name="2" number="2"' in text


bars = st.sampled_from(["C", "F", "G7", "Am", "Dm G", "Em", "C/E"])
blocks = st.lists(bars, min_size=2, max_size=4)


@st.composite
def songs(draw: st.DrawFn) -> str:
    """Parts of which many come again at once, some with another end."""
    lines = []
    for name in "ABC"[: draw(st.integers(1, 3))]:
        block = draw(blocks)
        lines.append(f"[{name}]\n| {' | '.join(block)} |")
        again = draw(st.sampled_from(["", "same", "end"]))
        if again:
            second = block if again == "same" else [*block[:-1], draw(bars)]
            lines.append(f"[{name} again]\n| {' | '.join(second)} |")
    return "\n".join(lines)


@settings(max_examples=14)
@given(songs(), st.sampled_from(["held", "broken", "bass-and-beats"]))
def test_what_is_folded_unfolds_to_the_same_notes(text: str, pattern: str) -> None:
    chart, arrangement = make(text, pattern=pattern)
    score = read_musicxml(dump_musicxml(chart, arrangement))
    assert sorted((n.start, n.midi, n.hand) for n in score.notes if not n.grace) == written(chart, arrangement)
    assert len(score.marks) == len(chart.parts)


@pytest.mark.parametrize("pattern", ["held", "broken"])
def test_another_library_unfolds_it_to_the_same_notes(pattern: str, tmp_path: Path) -> None:
    import partitura
    from partitura.score import unfold_part_maximal

    chart, arrangement = make(ENDINGS, pattern=pattern)
    path = tmp_path / "score.musicxml"
    path.write_bytes(dump_musicxml(chart, arrangement))
    with warnings.catch_warnings():
        warnings.simplefilter("ignore")
        part = unfold_part_maximal(partitura.load_score(str(path)).parts[0])
    rows = part.note_array()
    got = sorted((round(float(r["onset_quarter"]), 3), int(r["pitch"])) for r in rows)
    assert got == sorted((round(float(start), 3), midi) for start, midi, _ in written(chart, arrangement))


def test_a_foreign_score_with_repeats_is_charted_as_it_is_played() -> None:
    measure = '<measure number="{n}">{left}{attributes}<note><pitch><step>{step}</step><octave>4</octave></pitch><duration>4</duration></note>{right}</measure>'
    attributes = "<attributes><divisions>1</divisions><time><beats>4</beats><beat-type>4</beat-type></time></attributes>"
    end = '<barline location="right"><repeat direction="backward"/></barline>'
    text = (
        '<?xml version="1.0"?><score-partwise version="4.0"><part-list><score-part id="P1"><part-name>x</part-name></score-part></part-list><part id="P1">'
        + measure.format(n=1, left="", attributes=attributes, step="C", right="")
        + measure.format(n=2, left="", attributes="", step="D", right=end)
        + measure.format(n=3, left="", attributes="", step="E", right="")
        + "</part></score-partwise>"
    )
    notes = read_musicxml(text.encode()).notes
    assert [(n.start, n.midi) for n in notes] == [(0, 60), (4, 62), (8, 60), (12, 62), (16, 64)]
