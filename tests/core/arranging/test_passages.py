"""What the creator writes or sets is law: it sounds as it was written, where it holds and nowhere else; the rest goes round it."""

import pytest
from hypothesis import HealthCheck, assume, given, settings

from tests.charts import C_MAJOR, chart_of
from tests.songs import random_songs
from valley.arranging.arrange import arrange
from valley.arranging.passages import place_passages
from valley.arranging.pattern_library import PATTERNS
from valley.arranging.reach import hand_named
from valley.arranging.styles import STYLES
from valley.arranging.views import view_grips
from valley.edits import WritePassage, apply_edit
from valley.errors import ParameterError, ValleyError
from valley.fraction import Fraction as F
from valley.model.arrangement import Arrangement, PlayedNote
from valley.model.choices import Choices, ChosenNote, GripChoice, PartChoice
from valley.model.passage import Passage, WrittenNote
from valley.song import SongState, Work

OSTINATO = tuple(WrittenNote(F(k, 2), F(1, 2), midi) for k, midi in enumerate((41, 50, 57, 50, 41, 50, 57, 50)))


def notes_of(arrangement: Arrangement, hand: str, first: int = 0, last: int = 9999) -> list[PlayedNote]:
    return [n for p in arrangement.parts for n in p.notes if n.hand == hand and first <= n.start < last]


def struck(notes: list[PlayedNote]) -> list[tuple[F, int]]:
    return sorted((n.start, n.midi) for n in notes)


@given(random_songs())
@settings(max_examples=80, suppress_health_check=list(HealthCheck))
def test_passages_sound_as_they_are_written_and_grips_are_views(song: SongState) -> None:
    chart = song.chart
    try:
        arrangement = Work(song).arrangement
    except ValleyError:
        assume(False)
    for part, arranged in zip(chart.parts, arrangement.parts, strict=True):
        start, end = chart.span(part)
        placed = place_passages(chart, song.choices.passages, part, arranged.level)
        for hand in ("left", "right"):
            wanted: dict[F, list[tuple[F, int, F]]] = {}
            for there in (p for p in placed if p.hand == hand):
                wanted = {at: row for at, row in wanted.items() if not there.start <= at < there.end}
                for n in there.notes:
                    if there.start <= (at := there.begin + n.start) < there.end:
                        wanted.setdefault(at, []).append((at, n.midi + there.up, n.duration))
            written = [n for n in arranged.notes if n.hand == hand and n.source != "proposed"]
            assert sorted((n.start, n.midi) for n in written) == sorted((at, midi) for row in wanted.values() for at, midi, _ in row)
            inside = [n for n in arranged.notes if n.hand == hand and any(p.start <= n.start < p.end for p in placed if p.hand == hand)]
            assert all(n.source != "proposed" for n in inside if start <= n.start < end)
        assert arranged.grips == view_grips(arranged.grips, arranged.notes, hand_named(song.choices.hand))
        for grip in arranged.grips:
            sounding = {(n.hand, n.midi) for n in arranged.notes if n.start < grip.end and (n.end > grip.start or n.start == grip.start)}
            assert {("left", n.midi) for n in grip.left} | {("right", n.midi) for n in grip.right} <= sounding


@pytest.mark.parametrize("style", sorted(STYLES))
@pytest.mark.parametrize("pattern", sorted(PATTERNS))
def test_every_key_of_a_set_grip_is_struck(style: str, pattern: str) -> None:
    """In every style, under every pattern, with a tune above, within or below it."""
    right = tuple(ChosenNote(m) for m in (67, 72, 76))
    left = tuple(ChosenNote(m, finger=f) for m, f in ((36, 5), (43, 4), (48, 3), (50, 2), (52, 1)))
    chart = chart_of(["C", "F"], tune=((0, 2, 72), (2, 2, 79)))
    grip = GripChoice(F(0), C_MAJOR, left, right)
    part = arrange(chart, Choices(style=style, pattern=pattern, grips=(grip,))).parts[0]
    played = {(n.hand, n.midi) for n in part.notes if n.start < 4}
    assert {("left", n.midi) for n in left} | {("right", n.midi) for n in right} <= played
    assert [(n.midi, n.finger) for n in part.grips[0].left] == [(n.midi, n.finger) for n in left]
    assert {n.midi for n in right} <= {n.midi for n in part.grips[0].right}
    fingers = {n.finger for n in part.notes if n.hand == "left" and n.midi == 43 and n.start < 4}
    assert fingers == {4}  # a finger that was set holds in the notes as well


def test_a_rolled_grip_plays_all_its_keys_from_the_bottom_up() -> None:
    grip = GripChoice(F(0), C_MAJOR, (ChosenNote(48),), tuple(ChosenNote(m) for m in (55, 60, 64, 65, 67)))
    part = arrange(chart_of(["C", "F"]), Choices(style="root-and-chord", pattern="rolled", grips=(grip,))).parts[0]
    first = [n for n in part.notes if n.start < 4]
    assert [n.midi for n in sorted(first, key=lambda n: n.start)] == [48, 55, 60, 64, 65, 67]
    assert all(n.end == 4 for n in first)


def test_the_first_time_only_every_time_and_named_times() -> None:
    chart = chart_of(["Dm", "Am"] * 3, parts=[(1, 2, None), (3, 2, 1), (5, 2, 1)])
    for times, holds in (((), [True, False, False]), (None, [True, True, True]), ((3,), [True, False, True])):
        passage = Passage("left", F(0), F(4), OSTINATO, times)
        arrangement = arrange(chart, Choices(style="root-and-chord", passages=(passage,)))
        for i, held in enumerate(holds):
            row = struck(notes_of(arrangement, "left", 8 * i, 8 * i + 4))
            assert (row == [(8 * i + n.start, n.midi) for n in OSTINATO]) == held
        assert notes_of(arrangement, "left", 4, 8) and all(n.source == "proposed" for n in notes_of(arrangement, "left", 4, 8))
    here = Passage("left", F(8), F(4), (WrittenNote(F(0), F(4), 38),))
    both = arrange(chart, Choices(style="root-and-chord", passages=(Passage("left", F(0), F(4), OSTINATO, None), here)))
    assert struck(notes_of(both, "left", 8, 12)) == [(F(8), 38)]  # what was written here stands over what is carried here
    assert struck(notes_of(both, "left", 16, 20))[0] == (F(16), 41)


def test_a_repeat_at_another_pitch_carries_the_passage_along() -> None:
    chart = chart_of(["C", "F", "D", "G"], parts=[(1, 2, None), (3, 2, 1)])
    assert chart.parts[1].moved == 2
    passage = Passage("left", F(0), F(4), (WrittenNote(F(0), F(4), 48, "C3"),), None)
    arrangement = arrange(chart, Choices(passages=(passage,)))
    assert [(n.midi, n.pitch) for n in notes_of(arrangement, "left", 8, 12)] == [(50, "D3")]


def test_what_sounds_into_a_passage_ends_there_and_links_give_way() -> None:
    passage = Passage("left", F(2), F(2), ())
    part = arrange(chart_of(["C", "F"]), Choices(style="root-and-chord", links="all", passages=(passage,))).parts[0]
    assert all(n.end <= 2 for n in part.notes if n.hand == "left" and n.start < 2)
    assert not [n for n in part.notes if n.hand == "left" and 2 <= n.start < 4]
    assert not [k for k in part.links if k.hand in ("left", "both") and k.start < 4 and k.start + k.duration > 2]


def test_a_passage_needs_no_chord_and_no_proposal() -> None:
    chart = chart_of(["N", "N"])
    passage = Passage("right", F(1), F(2), (WrittenNote(F(0), F(2), 60),))
    assert struck(notes_of(arrange(chart, Choices(passages=(passage,))), "right")) == [(F(1), 60)]


@pytest.mark.parametrize("style", sorted(STYLES))
@pytest.mark.parametrize("pattern", sorted(PATTERNS))
def test_the_left_hand_goes_round_the_right(style: str, pattern: str) -> None:
    """No key under both hands, nothing crossed unasked, whatever pattern meets whatever style."""
    tune = [(k, 1, m) for k, m in enumerate((72, 67, 64, 62, 60, 64, 67, 65))]
    for level in ("easier", "standard", "fuller"):
        arrangement = arrange(chart_of(["C", "Am7"], tune=tune), Choices(style=style, pattern=pattern, level=level))
        for low in notes_of(arrangement, "left"):
            over = [n for n in notes_of(arrangement, "right") if n.start < low.end and n.end > low.start and not low.crosses]
            assert all(low.midi < n.midi for n in over), (style, pattern, low)


@pytest.mark.parametrize(
    ("make", "words"),
    [
        (lambda: WrittenNote(F(0), F(0), 60), "duration=0 must be longer than 0"),
        (lambda: WrittenNote(F(0), F(1), 60, "D4"), "pitch='D4' must sound as key 60"),
        (lambda: WrittenNote(F(0), F(1), 60, finger=6), "finger=6 must be 1"),
        (lambda: Passage("foot", F(0), F(1), ()), "hand='foot' must be one of left, right"),
        (lambda: Passage("left", F(0), F(1), (WrittenNote(F(0), F(2), 60),)), "lie with its length of 2 in the passage"),
        (lambda: Passage("left", F(0), F(1), (WrittenNote(F(0), F(1), 60),) * 2), "strike a key once at a time"),
        (lambda: Choices(passages=(Passage("left", F(0), F(4), ()), Passage("left", F(3), F(4), ()))), "where the left hand's passage before it ends"),
        (lambda: PartChoice(0), "part=0 must be 1"),
    ],
)
def test_impossible_passages_cannot_be_built(make: object, words: str) -> None:
    with pytest.raises(ParameterError, match=words):
        make()  # type: ignore[operator]


def test_the_easier_level_thins_what_was_written_and_never_its_bass_or_tune() -> None:
    chart = chart_of(["C", "F"])
    left = Passage("left", F(0), F(4), tuple(WrittenNote(F(0), F(4), m) for m in (36, 43, 48, 52)))
    right = Passage("right", F(0), F(4), tuple(WrittenNote(F(k), F(1), m) for k in range(4) for m in (60, 64, 67, 72)))

    def keys(level: str, hand: str, *passages: Passage) -> list[int]:
        part = arrange(chart, Choices(level=level, passages=passages)).parts[0]
        return [n.midi for n in part.notes if n.hand == hand and n.start == 0]

    assert keys("standard", "left", left, right) == [36, 43, 48, 52] and keys("standard", "right", left, right) == [60, 64, 67, 72]
    assert keys("easier", "left", left, right) == [36, 52] and keys("easier", "right", left, right) == [64, 72]
    mine = Passage("left", F(0), F(4), (WrittenNote(F(0), F(4), 48),), level="easier")
    assert keys("easier", "left", mine, left, right) == [48] and keys("standard", "left", mine, left, right) == [36, 43, 48, 52]
    single = Passage("left", F(0), F(4), (WrittenNote(F(0), F(4), 48),))
    assert keys("fuller", "left", single) == [36, 48]
    part = arrange(chart, Choices(level="fuller", passages=(single,))).parts[0]
    assert [n.optional for n in part.notes if n.hand == "left" and n.start == 0] == [True, False]


def test_what_is_written_at_a_level_belongs_to_it() -> None:
    song = SongState(chart_of(["C", "F"]), Choices(level="easier"))
    done, _ = apply_edit(song, WritePassage(F(0), "left", F(4), text="1 C3 E3 G3 C4"))
    assert done.choices.passages[0].level == "easier"
    assert [n.midi for n in Work(done).arrangement.parts[0].notes if n.hand == "left" and n.start < 4] == [48, 52, 55, 60]
