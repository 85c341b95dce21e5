"""Patterns: exact arithmetic in every metre. Links: they fit the room they are given."""

from typing import Any

import pytest
from hypothesis import given, settings

from tests.charts import chart_of, random_charts
from valley.arranging.arrange import arrange
from valley.arranging.links import KINDS
from valley.arranging.pattern_library import PATTERNS, pattern_named
from valley.arranging.patterns import PatternError, all_forms, check_form, check_pattern, count_form, fit_form, form_for, make_form, read_slots, write_slots
from valley.errors import FormatError
from valley.fraction import Fraction as F
from valley.model.arrangement import LEFT, RIGHT
from valley.model.chart import Chart
from valley.model.choices import Choices, ChordPattern, LinkChoice, PartChoice
from valley.model.pattern import Pattern
from valley.phrases import Words
from valley.theory.chord import parse_symbol
from valley.theory.meter import SUPPORTED, Meter


def test_there_are_patterns_enough_for_every_metre() -> None:
    assert len(PATTERNS) >= 16
    for pattern in PATTERNS.values():
        assert check_pattern(pattern) == (), pattern.name
        assert {f.meter for f in all_forms(pattern)} == set(SUPPORTED)
        assert {f.meter for f in pattern.forms} == {"2/4", "3/4", "4/4", "6/8"}, "all others are put together from these"


@pytest.mark.parametrize("name", PATTERNS)
@pytest.mark.parametrize("meter", SUPPORTED)
def test_forms_fill_whole_bars_and_are_written_as_they_are_read(name: str, meter: str) -> None:
    form = form_for(PATTERNS[name], meter)
    for slots in (form.left, form.right):
        assert read_slots(write_slots(slots)) == slots
        assert not slots or sum(s.duration for s in slots) == Meter(meter).beats


@pytest.mark.parametrize("name", sorted(set(PATTERNS) - {"held"}))
@given(chart=random_charts())
@settings(max_examples=15)
def test_patterned_notes_last_exactly_as_long_as_their_chord(name: str, chart: Chart) -> None:
    part = arrange(chart, Choices(style="root-and-chord", pattern=name)).parts[0]
    assert part.notices == ()
    for grip in part.grips:
        chord = grip.chord
        assert chord is not None
        mine = [n for n in part.notes if grip.start <= n.start < grip.end]
        assert mine and all(n.end <= grip.end for n in mine)
        for hand in (LEFT, RIGHT):
            spans = sorted({(n.start, n.end) for n in mine if n.hand == hand})
            if name == "rolled":  # each key is held on from where it is struck
                assert all(b == grip.end for _, b in spans)
                continue
            assert all(a[1] <= b[0] for a, b in zip(spans, spans[1:], strict=False))
            if name not in ("crossing-arpeggio", "together-right-left", "off-beats"):
                assert sum((b - a for a, b in spans), F(0)) == grip.duration
        strangers = {n.midi % 12 for n in mine} - chord.pitch_classes()
        assert not strangers or name in ("walking", "syncopated-bass", "sixths-in-turn", "ninth-arpeggio")


def test_short_chords_get_the_short_form_or_the_arithmetic() -> None:
    form = form_for(PATTERNS["low-then-upper"], "4/4")
    assert write_slots(fit_form(form, F(2), "low-then-upper").left) == "low@1 upper@1"
    assert fit_form(form, F(6), "x").beats == 6
    with pytest.raises(PatternError, match=r"lasts 4 beats and can be cut every 2 beats; the chord lasts 3 beats: 0 × 4 = 0, and 3 beats would be left over"):
        fit_form(form, F(3), "low-then-upper")
    part = arrange(chart_of(["C F G"], meter="3/4"), Choices(style="root-and-chord", pattern="wide-arpeggio")).parts[0]
    assert len(part.notes) > 6
    part = arrange(chart_of(["C G"], meter="3/4"), Choices(style="root-and-chord", pattern="wide-arpeggio")).parts[0]
    assert "is held, because" in part.notices[0]


@pytest.mark.parametrize(
    ("left", "words"),
    [
        ("low@1/2 low@1/2 low@1/2", "counts 1/2 + 1/2 + 1/2 = 1 1/2 beats; a bar of 4/4 has 4. 2 1/2 beats are missing"),
        ("", "The pattern is empty"),
        ("low@5", "3 beats are missing, or 1 beat too many"),
    ],
)
def test_an_own_pattern_says_at_once_whether_it_fills_the_bar(left: str, words: str) -> None:
    assert words in check_form(make_form("4/4", left))


def test_strokes_that_cannot_be_read_are_named() -> None:
    for text, words in (("low", "'low' is no stroke"), ("pinky@1", "'pinky' in 'pinky@1' is no key"), ("low@0", "lasts 0 beats")):
        with pytest.raises(FormatError, match=words):
            read_slots(text)
    with pytest.raises(PatternError, match="must be one of"):
        pattern_named("polka")


def test_counting_a_pattern() -> None:
    form = form_for(PATTERNS["broken"], "4/4")
    assert [c for c, _, _ in count_form(form)] == ["1", "1 &", "2", "2 &", "3", "3 &", "4", "4 &"]
    assert [c for c, _, _ in count_form(form_for(PATTERNS["broken"], "6/8"))] == ["1", "2", "3", "4", "5", "6"]


def test_an_own_pattern_and_a_pattern_for_one_chord() -> None:
    own = Pattern("mine", "Mine", "", (make_form("4/4", "low@3 top@1"),))
    choices = Choices(style="root-and-chord", level="fuller", pattern="mine", patterns=(own,), chord_patterns=(ChordPattern(F(4), "every-beat"),))
    part = arrange(chart_of(["C", "F"]), choices).parts[0]
    left = [(n.start, n.duration) for n in part.notes if n.hand == LEFT]
    assert left[:2] == [(0, 3), (3, 1)] and {n.start for n in part.notes if n.hand == LEFT and n.start >= 4} == {4, 5, 6, 7}
    with pytest.raises(PatternError, match="is written for 4/4, and the bar is in 3/4"):
        form_for(own, "3/4")


@given(chart=random_charts())
@settings(max_examples=60)
def test_links_fit_their_room_and_leave_one_line_a_hand(chart: Chart) -> None:
    plain = arrange(chart, Choices(style="block-and-melody"), with_links=True).parts[0]
    for link in plain.links:
        assert link.kind in KINDS and Words().say(link.words).endswith(".") and Words().say(link.easy_words).endswith(".")
        for note in (*link.notes, *link.easier):
            assert note.grace or link.start <= note.start < note.end <= link.start + link.duration
    linked = arrange(chart, Choices(style="block-and-melody", links="all")).parts[0]
    for hand in (LEFT, RIGHT):
        spans = sorted({(n.start, n.end) for n in linked.notes if n.hand == hand and not n.grace})
        assert all(a[1] <= b[0] for a, b in zip(spans, spans[1:], strict=False))
    for note in linked.notes:
        assert 21 <= note.midi <= 108


def test_a_walk_fills_the_way_between_two_roots() -> None:
    chart = chart_of(["C", "F"])
    choices = Choices(style="root-and-chord", level="easier")
    links = {k.kind: k for k in arrange(chart, choices, with_links=True).parts[0].links}
    walk = links["walk"]
    bass = [g.left[0].midi for g in arrange(chart, choices).parts[0].grips]
    way = [n.midi for n in walk.notes]
    assert all(min(bass) < m < max(bass) for m in way) and way == sorted(way, reverse=bass[0] > bass[1])
    taken = Choices(style="root-and-chord", level="easier", taken_links=(LinkChoice(walk.start, "walk"),))
    notes = arrange(chart, taken).parts[0].notes
    assert [n.midi for n in notes if n.link] == way
    held = next(n for n in notes if n.hand == LEFT and n.start == 0)
    assert held.end == walk.start
    easy = Choices(style="root-and-chord", level="easier", taken_links=(LinkChoice(walk.start, "walk", "easier"),))
    assert [n.midi for n in arrange(chart, easy).parts[0].notes if n.link] == way[-1:]


def test_variations_of_one_occurrence() -> None:
    chart = chart_of(["C", "G", "F", "C"], tune=[(i, 1, 72) for i in range(16)])
    dropped = arrange(chart, Choices(parts=(PartChoice(1, drop_last=True),))).parts[0]
    assert len(dropped.grips) == 3 and max(n.end for n in dropped.notes) <= 12
    rolled = arrange(chart, Choices(style="root-and-chord", parts=(PartChoice(1, ending="rolled"),))).parts[0]
    assert len({n.start for n in rolled.notes if n.start >= 12}) > 3
    big = arrange(chart, Choices(style="root-and-chord", level="easier", parts=(PartChoice(1, ending="octaves"),))).parts[0]
    assert big.grips[-1].left[-1].midi - big.grips[-1].left[0].midi >= 12
    pickup = chart_of(["C", "G"], pickup=2, tune=[(F(2), 1, 72)])
    led = arrange(pickup, Choices(parts=(PartChoice(1, lead_in=True),))).parts[0]
    assert [n.pitch for n in led.notes if n.link] == ["G4", "A4", "B4"]


def test_the_pedal_changes_with_the_chord() -> None:
    part = arrange(chart_of(["C", "F G"])).parts[0]
    assert [(p.start, p.end) for p in part.pedals] == [(0, 4), (4, 6), (6, 8)]
    assert arrange(chart_of(["C"]), Choices(pedal=False)).parts[0].pedals == ()


def played(pattern: str, bars: list[str], hand: str = LEFT, meter: str = "4/4", **choices: Any) -> list[tuple[F, int]]:
    chart = chart_of(bars, meter=meter)
    part = arrange(chart, Choices(pattern=pattern, **choices)).parts[0]
    return [(n.start, n.midi) for n in part.notes if n.hand == hand]


@pytest.mark.parametrize("meter", ["4/4", "3/4", "6/8", "2/4"])
def test_together_right_left_is_what_its_name_says(meter: str) -> None:
    left, right = ({at for at, _ in played("together-right-left", ["C"], hand, meter, style="root-and-chord")} for hand in (LEFT, RIGHT))
    row = ["T" if at in left & right else "R" if at in right else "L" for at in sorted(left | right)]
    assert row == ["T", "R", "L"] * (len(row) // 3)


def test_a_walking_bass_walks_into_the_next_root() -> None:
    for bars in (["Bb", "Eb", "F7", "Bb"], ["C", "Am", "Dm", "G7", "C"], ["F#m7", "B7", "E", "E"]):
        line = played("walking", bars, style="root-and-chord", level="easier")
        keys = [m for _, m in line]
        assert [at for at, _ in line] == [F(i) for i in range(4 * len(bars))]
        assert all(a != b for a, b in zip(keys, keys[1:], strict=False)), keys
        assert all(1 <= abs(keys[i + 1] - keys[i]) <= 2 for i in range(3, len(keys) - 1, 4) if keys[i + 1] % 12 != keys[i - 3] % 12), keys
        assert [keys[4 * i] % 12 for i in range(len(bars))] == [parse_symbol(b).bass.pitch_class for b in bars]  # type: ignore[union-attr]


def test_no_key_comes_twice_in_a_row_where_a_chord_is_broken() -> None:
    for pattern in ("broken", "rocking"):
        for style in ("fifth-and-melody", "root-and-chord", "block-and-melody"):
            keys = [m for _, m in played(pattern, ["C", "F", "G7"], style=style)]
            assert all(a != b for a, b in zip(keys, keys[1:], strict=False)), (pattern, style, keys)


def test_root_fifth_octave_stands_on_the_root() -> None:
    keys = [m % 12 for _, m in played("root-fifth-octave", ["F#m7"], style="block-and-melody")]
    assert keys[:4] == [6, 1, 6, 1]


def test_steps_of_the_scale_neighbours_and_octaves_may_be_named() -> None:
    def line(text: str) -> list[int]:
        form = make_form("4/4", text)
        own = Pattern("mine", "Mine", "", (form,))
        return [m for _, m in played("mine", ["C", "F"], style="root-and-chord", level="easier", patterns=(own,))][: len(form.left)]

    bass = line("bass@4")[0]
    assert line("bass@1 s2@1 s3@1 s9@1") == [bass, bass + 2, bass + 4, bass + 14]
    assert line("bass@1 up@1 down@1 down@1") == [bass, bass + 2, bass, bass - 1]
    assert line("bass@1 bass^@1 bass@1 near@1")[1] == bass + 12
    assert line("bass@1 bass@1 bass@1 near@1")[3] in (bass + 4, bass + 6)
    with pytest.raises(FormatError, match="s2 to s15"):
        make_form("4/4", "s99@4")


def test_a_pattern_begins_anew_with_each_chord_or_runs_on() -> None:
    form = make_form("4/4", "1@1 2@1 3@1 2@1")
    chart = chart_of(["C F"])
    grips = [[n.midi for n in g.left] for g in arrange(chart, Choices(style="block-and-melody")).parts[0].grips]
    for runs_on in (False, True):
        own = Pattern("mine", "Mine", "", (form,), runs_on)
        part = arrange(chart, Choices(style="block-and-melody", pattern="mine", patterns=(own,))).parts[0]
        keys = [n.midi for n in part.notes if n.hand == LEFT]
        assert keys[:2] == grips[0][:2]
        assert keys[2:] == (grips[1][2:0:-1] if runs_on else grips[1][:2]), (keys, grips)
