"""What hands play: geometry, every style on every chord, and properties over random charts."""

from dataclasses import replace
from typing import Any

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.charts import C_MAJOR, chart_of, random_charts, random_chords
from valley.arranging.arrange import _arrange_part, arrange, list_candidates
from valley.arranging.reach import HANDS, KEYBOARDS, Hand, hand_named, hand_travel, key_place_mm, keyboard_range, span_mm, widest_interval
from valley.arranging.styles import EASIER, FULLER, LEVELS, STANDARD, STYLES, Limits, Moment, Shape, style_named
from valley.arranging.voicing import Weights, choose_shapes, pool_shapes, rate_shape, weigh
from valley.errors import ParameterError
from valley.fraction import Fraction as F
from valley.model.arrangement import LEFT, RIGHT, Grip, HandNote, PartArrangement
from valley.model.chart import Chart, KeyArea, MelodyNote
from valley.model.choices import Choices, ChosenNote, GripChoice, PartChoice
from valley.phrases import Words
from valley.theory.chord import Chord, parse_harte, parse_symbol
from valley.theory.key import Key
from valley.theory.pitch import PitchName, parse_pitch

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
@pytest.mark.parametrize("level", LEVELS)
@given(chord=random_chords(), melody=st.none() | st.integers(57, 88), hand=st.sampled_from(sorted(HANDS)))
@settings(max_examples=25)
def test_every_style_has_a_shape_for_every_chord(style: str, level: str, chord: Chord, melody: int | None, hand: str) -> None:
    limits = Limits(HANDS[hand], *keyboard_range(61))
    shapes = pool_shapes(Moment(chord, melody, melody), STYLES[style], limits, weigh(STYLES[style], level), level)
    for shape in shapes:
        assert limits.fits(shape.left)
        assert limits.fits(shape.right)
        assert list(shape.left) == sorted(set(shape.left))
        assert list(shape.right) == sorted(set(shape.right))
        assert not shape.left or not shape.right or shape.left[-1] < shape.right[0]
        allowed = chord.pitch_classes() | ({melody % 12} if melody is not None else set())
        assert {n % 12 for n in (*shape.left, *shape.right)} <= allowed
        assert set(shape.optional) <= {*shape.left, *shape.right}


@pytest.mark.parametrize("style", STYLES)
@given(chart=random_charts(), hand=st.sampled_from(sorted(HANDS)), keyboard=st.sampled_from(["61", "76", "88"]), level=st.sampled_from(LEVELS))
@settings(max_examples=60)
def test_arrangements_keep_their_promises(style: str, chart: Chart, hand: str, keyboard: str, level: str) -> None:
    arrangement = arrange(chart, Choices(style=style, level=level, hand=hand, keyboard=keyboard))
    low, high = keyboard_range(keyboard)
    for part in arrangement.parts:
        for grip in part.grips:
            chord = grip.chord
            assert chord is not None
            assert all(low <= n.midi <= high for n in grip.notes)
            assert max(grip.reach_left_mm, grip.reach_right_mm) <= HANDS[hand].most_mm
            assert all(parse_pitch(n.pitch)[1] == n.midi for n in grip.notes)
            assert not grip.left or not grip.right or grip.left[-1].midi < grip.right[0].midi
            during = [n for n in part.notes if n.start < grip.end and (n.end > grip.start or n.start == grip.start) and not n.link and not n.grace]
            sounding = {n.midi % 12 for n in (*grip.notes, *during)}  # a member that the tune plays is not left out
            missing = {n.pitch_class for n in (*chord.members(), chord.bass)} - sounding
            assert len(grip.omits) == len(missing) and "" not in grip.omits
            assert grip.why.endswith(".")
            assert all(n.finger in (1, 2, 3, 4, 5) for n in grip.notes)
            assert bool(grip.caution) == (max(grip.reach_left_mm, grip.reach_right_mm) > HANDS[hand].comfort_mm)
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
@given(chart=random_charts(), level=st.sampled_from(LEVELS))
@settings(max_examples=30)
def test_each_voice_of_a_hand_is_one_line(style: str, chart: Chart, level: str) -> None:
    """Notes of a voice that overlap begin and end together, so that they can be written on a staff."""
    for part in arrange(chart, Choices(style=style, level=level)).parts:
        for hand, voice in ((LEFT, 1), (RIGHT, 1), (RIGHT, 2)):
            spans = sorted({(n.start, n.end) for n in part.notes if n.hand == hand and n.voice == voice})
            assert all(a[1] <= b[0] for a, b in zip(spans, spans[1:], strict=False))


@pytest.mark.parametrize("style", STYLES)
@given(chart=random_charts(), hand=st.sampled_from(sorted(HANDS)))
@settings(max_examples=40)
def test_easier_is_never_harder_than_standard(style: str, chart: Chart, hand: str) -> None:
    """No wider reach of either hand at any chord, no more movement of fingers in all, and no further way for either hand."""
    easier, standard = (arrange(chart, Choices(style=style, level=level, hand=hand)).parts[0].grips for level in (EASIER, STANDARD))
    for easy, usual in zip(easier, standard, strict=True):
        for hand_of in ("left", "right"):
            a, b = ([n.midi for n in getattr(g, hand_of)] for g in (easy, usual))
            assert not a or a[-1] - a[0] <= b[-1] - b[0]
    span = widest_interval(HANDS[hand])
    for hand_of in ("left", "right"):  # every key that is played, in the styles too where more keys go along with the tune
        assert shortest_way(easier, hand_of, span) <= shortest_way(standard, hand_of, span)
    if STYLES[style].companion:  # what goes along with the tune lies nearer to the next grip than the tune by itself
        easier, standard = (tuple(replace(g, right=g.right[-1:]) for g in grips) for grips in (easier, standard))
    assert travel(easier) <= travel(standard)


def shortest_way(grips: tuple[Grip, ...], hand: str, span: int) -> float:
    """Semitones that a hand of this span must shift at least, by trying every place for every grip."""
    places = np.arange(-40, 168)
    way = np.zeros(len(places))
    step = np.abs(places[:, None] - places[None, :])
    for grip in grips:
        keys = [n.midi for n in getattr(grip, hand)]
        if keys:
            low, high = sorted((keys[-1] - span, keys[0]))
            way = np.where((places >= low) & (places <= high), (way[:, None] + step).min(axis=0), np.inf)
    return float(way.min())


@given(rows=st.lists(st.lists(st.integers(30, 90), max_size=4, unique=True).map(sorted), min_size=1, max_size=8), span=st.integers(5, 16))
def test_a_hand_goes_no_further_than_it_must(rows: list[list[int]], span: int) -> None:
    grips = tuple(Grip(F(i), F(1), C_MAJOR, tuple(HandNote(Key.of("C", "major").spell(k % 12).at(k), k, "") for k in r), ()) for i, r in enumerate(rows))
    assert hand_travel(rows, span) == shortest_way(grips, "left", span)


def travel(grips: tuple[Grip, ...]) -> int:
    total = 0
    for before, after in zip(grips, grips[1:], strict=False):
        for one, other in ((before.left, after.left), (before.right, after.right)):
            total += sum(min((abs(n.midi - m.midi) for m in one), default=0) for n in other)
    return total


@pytest.mark.parametrize("style", STYLES)
@given(chart=random_charts(), up=st.integers(1, 11), level=st.sampled_from(LEVELS))
@settings(max_examples=30)
def test_the_register_is_the_songs_whatever_its_key(style: str, chart: Chart, up: int, level: str) -> None:
    """The tune moves as the chart does, to the key; what accompanies stays in its band of the keyboard."""
    fixed = Choices(style=style, level=level, keyboard="C0-C9", tune="0")
    here, there = (arrange(c, fixed).parts[0] for c in (chart, transpose(chart, up)))
    tune, moved = (sounding_tune(part) for part in (here, there))
    assert moved == [(start, end, midi + up) for start, end, midi in tune]
    for part in (here, there):
        for grip in part.grips:
            assert all(28 <= n.midi <= 69 for n in grip.left)


def sounding_tune(part: PartArrangement) -> list[tuple[F, F, int]]:
    """The tune as it sounds; a held note that a chord strikes again is one note."""
    out: list[tuple[F, F, int]] = []
    for n in part.notes:
        if n.melody and out and out[-1][1:] == (n.start, n.midi):
            out[-1] = (out[-1][0], n.end, n.midi)
        elif n.melody:
            out.append((n.start, n.end, n.midi))
    return out


def test_neighbouring_keys_lie_beside_each_other() -> None:
    """Up a half step is up a half step, in every key and style: nowhere does the whole song jump by an octave."""
    bars = ["C", "F", "G", "C"]
    for style in STYLES:
        middles = []
        for up in range(13):
            part = arrange(transpose(chart_of(bars), up), Choices(style=style)).parts[0]
            middles.append(sum(n.midi for g in part.grips for n in g.notes) / sum(len(g.notes) for g in part.grips))
        steps = [b - a for a, b in zip(middles, middles[1:], strict=False)]
        assert max(map(abs, steps)) <= (9 if STYLES[style].turns else 7), (style, [round(s, 1) for s in steps])


@pytest.mark.parametrize("style", [s for s in STYLES if not STYLES[s].turns])
@given(chart=random_charts(), level=st.sampled_from(LEVELS), hand=st.sampled_from(sorted(HANDS)))
@settings(max_examples=30)
def test_every_chord_stands_on_its_bass(style: str, chart: Chart, level: str, hand: str) -> None:
    for grip in arrange(chart, Choices(style=style, level=level, hand=hand)).parts[0].grips:
        assert min(n.midi for n in grip.notes) % 12 == grip.chord.bass.pitch_class, grip.symbol


@given(chart=random_charts(), level=st.sampled_from(LEVELS))
def test_styles_that_turn_chords_over_say_so_and_begin_on_the_bass(chart: Chart, level: str) -> None:
    for style in ("turned-blocks", "held-right"):
        grips = arrange(chart, Choices(style=style, level=level)).parts[0].grips
        for grip in (grips[0], grips[-1]):
            assert min(n.midi for n in grip.notes) % 12 == grip.chord.bass.pitch_class, (style, grip.symbol)


def test_the_tune_sounds_where_the_chart_has_it() -> None:
    """In the chart's octave, unless it lies where no right hand plays; one decision for the song, which the creator may change."""
    high = chart_of(["G", "C", "D", "G"], tune=[(4 * i, 4, m) for i, m in enumerate((79, 76, 78, 74))], parts=[(1, 2, None), (3, 2, None)])
    sung = chart_of(["C", "F"], tune=[(0, 4, 48), (4, 4, 53)])

    def keys(chart: Chart, **chosen: Any) -> list[int]:
        return [n.midi for p in arrange(chart, Choices(**chosen)).parts for n in p.notes if n.melody]

    assert keys(high) == [79, 76, 78, 74]
    assert keys(high, tune="-1") == [67, 64, 66, 62]
    assert keys(high, parts=(PartChoice(2, tune="-1"),)) == [79, 76, 66, 62]
    assert keys(sung) == [60, 65] and keys(sung, tune="0") == [48, 53]


def transpose(chart: Chart, up: int) -> Chart:
    key = chart.keys[0].key
    target = Key.from_pitch_class((key.tonic.pitch_class + up) % 12, key.mode)
    fifths = target.tonic.fifths - key.tonic.fifths
    chords = []
    for c in chart.chords:
        chord = c.chord
        assert chord is not None
        chords.append(replace(c, chord=Chord(chord.root.up(fifths), chord.quality, chord.bass_interval).respelled(target)))
    melody = tuple(replace(n, midi=n.midi + up) for n in chart.melody)
    return replace(chart, keys=(KeyArea(F(0), str(target.tonic), target.mode),), chords=tuple(chords), melody=melody)


def test_levels_differ_as_they_say() -> None:
    chart = chart_of(["Cmaj7", "Am7", "Dm9", "G7"], tune=[(4 * i, 4, 72 + i) for i in range(4)])
    for style in STYLES:
        count = {lv: sum(len(g.notes) for g in arrange(chart, Choices(style=style, level=lv, hand="large")).parts[0].grips) for lv in LEVELS}
        assert count[EASIER] <= count[STANDARD] <= count[FULLER], (style, count)
        assert count[EASIER] < count[FULLER], (style, count)


def test_a_seventh_chord_is_shared_out_and_said_so() -> None:
    grip = arrange(chart_of(["Cmaj7"]), Choices(style="shared-chord")).parts[0].grips[0]
    assert sorted({n.pitch[:-1] for n in grip.right}) == ["B", "E", "G"] and grip.left[0].pitch.startswith("C")
    assert Words().say(grip.hint) == "Think of Em over C: together they are Cmaj7."


def test_a_walking_bass_goes_by_step_under_a_still_hand() -> None:
    grips = arrange(chart_of(["C", "G/B", "Am", "C/G", "F", "C/E", "Dm", "G"]), Choices(style="held-right")).parts[0].grips
    bass = [g.left[0].midi for g in grips]
    assert all(abs(b - a) <= 2 for a, b in zip(bass, bass[1:-1], strict=False)), bass


def test_low_safe_grips_keep_clear_of_mud() -> None:
    for grip in arrange(chart_of(["C", "F", "Bb", "Eb", "Ab", "Db"]), Choices(style="low-safe")).parts[0].grips:
        keys = [n.midi for n in grip.notes]
        assert all(b - a > 3 for a, b in zip(keys, keys[1:], strict=False) if a < 48)


def test_what_was_played_is_shared_between_the_hands() -> None:
    chart = chart_of(["C", "F"])
    played = [MelodyNote(F(0), F(1), m) for m in (36, 43, 64, 67, 72)] + [MelodyNote(F(4), F(1), m) for m in (41, 60, 65, 69)]
    grips = arrange(chart, Choices(style="as-recorded", level=FULLER), played=played).parts[0].grips
    assert [[n.midi for n in g.left] for g in grips] == [[36, 43], [41]]
    assert [[n.midi for n in g.right] for g in grips] == [[64, 67, 72], [60, 65, 69]]


def test_the_camera_frame_is_kept_or_the_bar_is_named() -> None:
    chart = chart_of(["C", "F", "G7", "C"])
    inside = arrange(chart, Choices(style="root-and-chord", frame="C3-C6"))
    assert all(48 <= n.midi <= 84 for g in inside.parts[0].grips for n in g.notes)
    with pytest.raises(ParameterError, match="two octaves"):
        arrange(chart, Choices(frame="C3-C4"))


def test_the_bass_school() -> None:
    chart = chart_of(["C/E", "F/A"])
    follows, keeps = (arrange(chart, Choices(style="root-and-chord", bass=b)).parts[0].grips for b in ("slash", "root"))
    assert [g.left[0].pitch[0] for g in follows] == ["E", "A"]
    assert [g.left[0].pitch[0] for g in keeps] == ["C", "F"]


def test_grips_set_by_the_creator_are_kept_while_the_chord_is() -> None:
    chart = chart_of(["C", "F", "G", "C"])
    own = GripChoice(F(4), parse_harte("F:maj"), (ChosenNote(41), ChosenNote(48, True)), (ChosenNote(65, finger=2), ChosenNote(72)), "a wider sound")
    part = arrange(chart, Choices(style="root-and-chord", grips=(own,))).parts[0]
    grip = part.grips[1]
    assert grip.locked and [n.midi for n in grip.notes] == [41, 48, 65, 72]
    assert grip.left[1].optional and grip.right[0].finger == 2 and grip.why == "Set by you: a wider sound."
    assert grip.omits == ("third",)
    other = arrange(chart_of(["C", "Dm", "G", "C"]), Choices(grips=(own,))).parts[0]
    assert not other.grips[1].locked and "was for another chord" in other.notices[0]


def test_a_repeat_goes_like_its_model_unless_told_otherwise() -> None:
    chart = chart_of(["C", "F", "C", "F"], parts=[(1, 2, None), (3, 2, 1)])
    own = Choices(parts=(PartChoice(1, style="big-finish", level="fuller"),))
    assert [(p.style, p.level) for p in arrange(chart, own).parts] == [("big-finish", "fuller")] * 2
    own = Choices(parts=(PartChoice(1, style="big-finish"), PartChoice(2, style="shell", drop_last=True)))
    parts = arrange(chart, own).parts
    assert [p.style for p in parts] == ["big-finish", "shell"] and [len(p.grips) for p in parts] == [2, 1]


def test_other_grips_are_listed_with_the_movement_they_ask() -> None:
    chart = chart_of(["C", "F", "G", "C"])
    choices = Choices(style="root-and-chord")
    now = arrange(chart, choices).parts[0].grips[1]
    rows = list_candidates(chart, choices, F(4))
    assert len(rows) == 6 and len({tuple(n.midi for n in g.notes) for g, _ in rows}) == 6
    assert tuple(n.midi for n in now.notes) in {tuple(n.midi for n in g.notes) for g, _ in rows}
    assert all(moved >= 0 for _, moved in rows)
    assert list_candidates(chart, choices, F(99)) == ()


def test_a_cadence_moves_as_every_teacher_shows_it() -> None:
    """C F G C: the right hand keeps what is common and never leaves its place."""
    chart = chart_of(["C", "F", "G", "C"])
    grips = arrange(chart, Choices(style="root-and-chord")).parts[0].grips
    assert [g.left[0].pitch[:-1] for g in grips] == ["C", "F", "G", "C"]
    tops = [g.right[-1].midi for g in grips]
    assert max(tops) - min(tops) <= 4
    assert {n.midi for n in grips[0].right} & {n.midi for n in grips[1].right}
    assert "stay" in grips[1].why or "further than" in grips[1].why


def test_a_slash_bass_is_the_left_hands_lowest_note() -> None:
    for style in STYLES:
        grip = arrange(chart_of(["C/E", "G/B"]), Choices(style=style)).parts[0].grips[0]
        assert grip.left[0].pitch.startswith("E"), style


def test_small_hands_get_no_ninths() -> None:
    for style in STYLES:
        for grip in arrange(chart_of(["Cmaj9", "Fm9", "G9"]), Choices(style=style, hand="small")).parts[0].grips:
            assert max(grip.reach_left_mm, grip.reach_right_mm) <= 168


def test_the_tune_moves_by_octaves_into_reach() -> None:
    chart = chart_of(["C"], tune=[(0, 1, 40), (1, 1, 43)])
    tune = [n.midi for n in arrange(chart, Choices(style="block-and-melody")).parts[0].notes if n.melody]
    assert tune == [64, 67]


def test_no_chord_means_no_grip() -> None:
    arrangement = arrange(chart_of(["N", "C"]), Choices(style="root-and-chord"))
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
        Grip(F(0), F(1), C_MAJOR, (HandNote("E3", 52), HandNote("C3", 48)), ())


def test_mud_strain_and_crowding_cost() -> None:
    weights = Weights()
    clear = rate_shape(Shape((48,), (64, 67, 72)), LIMITS, weights)
    assert rate_shape(Shape((36, 40), (64, 67, 72)), LIMITS, weights) > clear
    assert rate_shape(Shape((48, 63), (64, 67, 72)), LIMITS, weights) > clear
    assert rate_shape(Shape((62,), (64, 67, 72)), LIMITS, weights) > clear


@pytest.mark.parametrize("style", STYLES)
@given(chart=random_charts(), hand=st.sampled_from(sorted(HANDS)))
@settings(max_examples=25)
def test_fuller_holds_no_fewer_keys(style: str, chart: Chart, hand: str) -> None:
    chart = replace(chart, melody=())  # what goes along with a tune is the style's matter
    standard, fuller = (arrange(chart, Choices(style=style, level=level, hand=hand)).parts[0].grips for level in (STANDARD, FULLER))
    for usual, full in zip(standard, fuller, strict=True):
        assert len(full.notes) >= len(usual.notes), usual.symbol


@pytest.mark.parametrize("style", STYLES)
@pytest.mark.parametrize("key", ["C", "Eb", "A", "F#"])
def test_the_leading_note_of_a_dominant_is_not_doubled(style: str, key: str) -> None:
    fifths = Key.of(key, "major").tonic.fifths
    chart = chart_of([f"{PitchName(0).up(i + fifths)}{kind}" for i, kind in ((0, ""), (1, "7"), (3, "m"), (-1, ""), (1, "7"), (0, ""))], key=(key, "major"))
    for level in LEVELS:
        for grip in arrange(chart, Choices(style=style, level=level)).parts[0].grips:
            if grip.symbol.endswith("7"):
                assert [n.midi % 12 for n in grip.notes].count(grip.chord.third) <= 1, (grip.symbol, [n.pitch for n in grip.notes])


@pytest.mark.parametrize("symbol", ["G7b9", "E7b9", "A7(b9,#11)", "C7alt", "G13b9"])
def test_a_flat_ninth_does_not_lie_a_half_step_above_the_bass(symbol: str) -> None:
    for style in STYLES:
        for level in LEVELS:
            low, above, *_ = (*(n.midi for n in arrange(chart_of([symbol]), Choices(style=style, level=level)).parts[0].grips[0].notes), 0)
            assert above - low != 1, (style, level)


@settings(max_examples=15)
@given(random_charts(), st.sampled_from(sorted(STYLES)), st.data())
def test_what_was_arranged_before_is_what_would_be_arranged_anew(chart: Chart, style: str, data: st.DataObject) -> None:
    choices = Choices(style=style, links="all")
    arrange(chart, choices)
    at = data.draw(st.integers(0, len(chart.chords) - 1))
    changed = replace(chart, title="Other", chords=(*chart.chords[:at], replace(chart.chords[at], chord=parse_symbol("F7")), *chart.chords[at + 1 :]))
    kept = arrange(changed, choices)
    _arrange_part.cache_clear()
    assert arrange(changed, choices) == kept


def test_a_correction_arranges_one_part_anew() -> None:
    chart = chart_of(["C", "Am", "F", "G"] * 6, parts=[(4 * i + 1, 4, None) for i in range(6)])
    arrange(chart)
    before = _arrange_part.cache_info().misses
    arrange(replace(chart, chords=(*chart.chords[:5], replace(chart.chords[5], chord=parse_symbol("Em")), *chart.chords[6:])))
    assert _arrange_part.cache_info().misses == before + 1
