"""Captions and transcripts as they come from films: words once, each with its time; slips found at their second."""

import pytest

from tests.charts import chart_of, make_work
from valley.errors import FormatError
from valley.formats.captions import dump_srt, dump_vtt
from valley.formats.captions_in import read_transcript
from valley.lesson.proof import read_proof
from valley.model.choices import Choices

SRT = "1\n00:00:01,000 --> 00:00:03,000\nIn bar 1 the chord\nis C major.\n\n2\n00:01:04,500 --> 00:01:06,500\nIn bar 2 it is <i>F minor</i>.\n"


def test_subrip_is_read_with_its_times() -> None:
    said = read_transcript(SRT)
    assert said.text == "In bar 1 the chord is C major. In bar 2 it is F minor."
    assert said.seconds(0) == 1.0
    assert said.seconds(said.text.index("In bar 2")) == 64.5
    assert 65 < (said.seconds(said.text.index("minor")) or 0) < 66.5


def test_webvtt_with_notes_settings_and_hours() -> None:
    text = "WEBVTT - mine\n\nNOTE not said\n\nintro\n01:00:05.000 --> 01:00:07.000 align:start\nNow G.\n"
    said = read_transcript(text)
    assert (said.text, said.seconds(0)) == ("Now G.", 3605.0)


def test_rolling_captions_are_said_once() -> None:
    rows = [("the left hand plays", "C and G"), ("C and G", "then F"), ("then F", "and A")]
    text = "".join(f"{i}\n00:00:0{i},000 --> 00:00:0{i + 1},000\n{a}\n{b}\n\n" for i, (a, b) in enumerate(rows, 1))
    assert read_transcript(text).text == "the left hand plays C and G then F and A"


def test_a_pause_without_a_stop_ends_a_sentence() -> None:
    """Who teaches at the piano plays between two sentences; a machine that writes captions sets no stops."""
    rows = [(0.0, 2.0, "the left hand plays c"), (2.1, 4.0, "and g"), (7.5, 9.0, "then a."), (12.0, 13.0, "bar two")]
    text = "WEBVTT\n\n" + "".join(f"00:{a:06.3f} --> 00:{b:06.3f}\n{said}\n\n" for a, b, said in rows)
    said = read_transcript(text)
    assert said.text == "the left hand plays c and g\nthen a. bar two"
    assert said.seconds(said.text.index("then")) == 7.5


@pytest.mark.parametrize("form", ["{m}:{s:02d} {said}", "[{m:02d}:{s:02d}] {said}", "({m}:{s:02d}) – {said}"])
def test_a_plain_transcript_with_times(form: str) -> None:
    lines = [form.format(m=0, s=7, said="First the chords."), "still the chords", form.format(m=2, s=30, said="Bar 4 is G.")]
    said = read_transcript("\n".join(lines))
    assert said.text == "First the chords. still the chords Bar 4 is G."
    assert (said.seconds(0), said.seconds(said.text.index("Bar"))) == (7.0, 150.0)


def test_words_without_times_stay_as_they_are() -> None:
    text = "In bar 3 we play at 1:2 the speed.\nThen 4:4 again."
    assert (read_transcript(text).text, read_transcript(text).seconds(3)) == (text, None)
    with pytest.raises(FormatError, match="line 2: the caption ends at 1 s, before it begins at 3 s"):
        read_transcript("1\n00:00:03,000 --> 00:00:01,000\nx\n")


def test_valleys_own_captions_come_back_and_a_slip_has_its_second() -> None:
    work = make_work(chart_of(["C", "F", "G", "Am"], parts=[(1, 4, None)]), Choices(style="root-blocks"))
    for dump in (dump_vtt, dump_srt):
        said = read_transcript(dump(work.lesson))
        assert "C is C3, E3 and G3." in said.text
        assert not [c for c in read_proof(said.text, work.chart, work.arrangement) if c.verdict == "contradicts" and c.kind == "chord"]
    said = read_transcript(SRT)
    [slip] = [c for c in read_proof(said.text, work.chart, work.arrangement) if c.verdict == "contradicts"]
    assert slip.text == "F minor" and 64.5 <= (said.seconds(slip.start) or 0) <= 66.5
