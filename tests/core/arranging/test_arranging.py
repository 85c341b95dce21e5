"""What hands play: geometry, every style on every chord, and properties over random charts."""

from fractions import Fraction as F

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.charts import chart_of, random_charts, random_chords
from valley.arranging.arrange import arrange
from valley.arranging.reach import HANDS, KEYBOARDS, Hand, hand_named, key_place_mm, keyboard_range, span_mm
from valley.arranging.styles import STYLES, Limits, Moment, style_named
from valley.arranging.voicing import Weights, choose_shapes, rate_shape
from valley.errors import ParameterError
from valley.model.arrangement import LEFT, RIGHT, Grip, HandNote
from valley.model.chart import Chart
from valley.theory.chord import Chord, parse_harte
from valley.theory.pitch import parse_pitch

LIMITS = Limits(HANDS["medium"], *keyboard_range(88))


def test_distances_between_keys() -> None:
    assert span_mm([60, 72]) == 164.0
    assert span_mm([60, 76]) == pytest.approx(164 + 2 * 164 / 7, abs=0.1)
    assert span_mm([]) == span_mm([60]) == 0.0
    places = [key_place_mm(m) for m in range(21, 109)]
    assert places == sorted(places)


def test_hands_and_keyboards_by_name_or_measure() -> None:
    assert hand_named("small").most_mm < hand_named("medium").most_mm < hand_named("large").most_mm
    assert hand_named("200").comfort_mm == 180
    for bad in ("huge", "-3", "4000", "nan"):
        with pytest.raises(ParameterError, match="hand"):
            hand_named(bad)
    with pytest.raises(ParameterError, match="keyboard=50"):
        keyboard_range(50)
    with pytest.raises(ParameterError, match="style='grand'"):
        style_named("grand")
    for keys, (low, high) in KEYBOARDS.items():
        assert high - low + 1 == keys


@pytest.mark.parametrize("style", STYLES)
@pytest.mark.parametrize("hand", HANDS)
@given(chord=random_chords(), melody=st.none() | st.integers(57, 88))
@settings(max_examples=40)
def test_every_style_has_a_shape_for_every_chord(style: str, hand: str, chord: Chord, melody: int | None) -> None:
    limits = Limits(HANDS[hand], *keyboard_range(61))
    shapes = list(STYLES[style].propose(Moment(chord, melody, melody), limits))
    assert shapes
    for shape in shapes:
        assert limits.fits(shape.left)
        assert limits.fits(shape.right)
        assert list(shape.left) == sorted(set(shape.left))
        assert not shape.left or not shape.right or shape.left[-1] < shape.right[0]
        allowed = chord.pitch_classes() | ({melody % 12} if melody is not None else set())
        assert {n % 12 for n in (*shape.left, *shape.right)} <= allowed


@pytest.mark.parametrize("style", STYLES)
@given(chart=random_charts(), hand=st.sampled_from(sorted(HANDS)), keyboard=st.sampled_from([61, 76, 88]))
@settings(max_examples=60, deadline=None)
def test_arrangements_keep_their_promises(style: str, chart: Chart, hand: str, keyboard: int) -> None:
    arrangement = arrange(chart, style=style, hand=HANDS[hand], keyboard=keyboard)
    low, high = keyboard_range(keyboard)
    for part in arrangement.parts:
        for grip in part.grips:
            chord = parse_harte(grip.label)
            assert chord is not None
            held = (*grip.left, *grip.right)
            assert all(low <= n.midi <= high for n in held)
            assert max(grip.reach_left_mm, grip.reach_right_mm) <= HANDS[hand].most_mm
            assert all(parse_pitch(n.pitch)[1] == n.midi for n in held)
            assert not grip.left or not grip.right or grip.left[-1].midi < grip.right[0].midi
            sounding = {n.midi % 12 for n in held}
            missing = {n.pitch_class for n in chord.members()} - sounding
            assert len(grip.omits) == len(missing)
            assert grip.why.endswith(".")
            if style == "root-and-chord":
                assert grip.left[0].midi % 12 == chord.bass.pitch_class
        for note in part.notes:
            assert note.duration > 0
            assert low <= note.midi <= high
            assert parse_pitch(note.pitch)[1] == note.midi
        if STYLES[style].melody == "none":
            continue
        tune = [n for n in part.notes if n.melody]
        assert sum((n.duration for n in tune), F(0)) == sum((n.duration for n in chart.melody), F(0))
        for note in tune:
            together = [n.midi for n in part.notes if n.hand == RIGHT and n.start == note.start]
            assert note.midi == max(together)


@pytest.mark.parametrize("style", STYLES)
@given(chart=random_charts())
@settings(max_examples=30, deadline=None)
def test_each_hand_is_one_voice(style: str, chart: Chart) -> None:
    """Notes of a hand that overlap begin and end together, so that a staff needs one voice."""
    for part in arrange(chart, style=style).parts:
        for hand in (LEFT, RIGHT):
            spans = sorted({(n.start, n.start + n.duration) for n in part.notes if n.hand == hand})
            assert all(a[1] <= b[0] for a, b in zip(spans, spans[1:], strict=False))


def test_a_cadence_moves_as_every_teacher_shows_it() -> None:
    """C F G C: the right hand keeps what is common and never leaves its place."""
    chart = chart_of(["C", "F", "G", "C"])
    grips = arrange(chart, style="root-and-chord").parts[0].grips
    assert [g.left[0].pitch[:-1] for g in grips] == ["C", "F", "G", "C"]
    tops = [g.right[-1].midi for g in grips]
    assert max(tops) - min(tops) <= 4
    assert {n.midi for n in grips[0].right} & {n.midi for n in grips[1].right}
    assert "stay" in grips[1].why or "further than" in grips[1].why


def test_a_slash_bass_is_the_left_hands_lowest_note() -> None:
    for style in STYLES:
        grip = arrange(chart_of(["C/E", "G/B"]), style=style).parts[0].grips[0]
        assert grip.left[0].pitch.startswith("E"), style


def test_small_hands_get_no_ninths() -> None:
    for style in STYLES:
        for grip in arrange(chart_of(["Cmaj9", "Fm9", "G9"]), style=style, hand=HANDS["small"]).parts[0].grips:
            assert max(grip.reach_left_mm, grip.reach_right_mm) <= 168


def test_the_tune_moves_by_octaves_into_reach() -> None:
    chart = chart_of(["C"], tune=[(0, 1, 40), (1, 1, 43)])
    tune = [n.midi for n in arrange(chart, style="block-and-melody").parts[0].notes if n.melody]
    assert tune == [64, 67]


def test_no_chord_means_no_grip() -> None:
    arrangement = arrange(chart_of(["N", "C"]), style="root-and-chord")
    assert [g.symbol for g in arrangement.parts[0].grips] == ["C"]
    with pytest.raises(ParameterError, match="part 9"):
        arrangement.of_part(9)


def test_impossible_demands_are_refused_with_a_way_out() -> None:
    chord = parse_harte("C:maj")
    assert chord is not None
    narrow = Limits(Hand("tiny", 60, 60), 36, 40)
    with pytest.raises(ParameterError, match="choose a wider hand"):
        choose_shapes([Moment(chord)], STYLES["root-and-chord"], narrow)
    assert choose_shapes([], STYLES["root-and-chord"], LIMITS) == []
    with pytest.raises(ParameterError, match="ascend"):
        Grip(F(0), F(1), "C:maj", "C", (HandNote("E3", 52), HandNote("C3", 48)), ())


def test_mud_strain_and_crowding_cost() -> None:
    weights = Weights()
    from valley.arranging.styles import Shape

    clear = rate_shape(Shape((48,), (64, 67, 72)), LIMITS, weights)
    assert rate_shape(Shape((36, 40), (64, 67, 72)), LIMITS, weights) > clear
    assert rate_shape(Shape((48, 63), (64, 67, 72)), LIMITS, weights) > clear
    assert rate_shape(Shape((62,), (64, 67, 72)), LIMITS, weights) > clear
