"""Where names stand by all that was told before them: lines told in order are right, what leaves them is doubtful, what is told later changes nothing."""

from itertools import groupby
from pathlib import Path
from random import Random

import pytest
from bench.free_speech import judge_talk, load, song_of, summarise

from valley.lesson.proof import UNKNOWN, read_proof
from valley.lesson.proof._aligned import NOWHERE, Mention, align
from valley.lesson.proof._desk import Desk
from valley.lesson.proof._scope import Found, Scope
from valley.lesson.proof._second_look import Spoken, Trail, is_marked, look_again
from valley.lesson.proof._tracks import Tracks
from valley.theory.naming import AGREES, CONTRADICTS, PARTLY
from valley.theory.pitch import PitchName, parse_name

TALK = Path(__file__).parent / "talk"
# Without "burn", whose pairs of keys are much alike: of twelve lines drawn from its middle and told with no place one has a right name in doubt (.08).
SONGS = [p for p in sorted(TALK.glob("*.chart")) if p.stem not in ("slate", "larch", "burn")]


def tracks_of(stem: str) -> Tracks:
    return Tracks(Scope(*song_of(TALK / f"{stem}.flow.txt")))


def told(names: list[PitchName], *, bars: tuple[int, ...] = (), hand: str | None = None) -> list[Mention]:
    """A list of bare names, one after the other."""
    return [Mention(Found(3 * i, 3 * i + 1, name), 3 * i, 3 * i + 1, bars, hand=hand, joined=i > 0) for i, name in enumerate(names)]


def stands(tracks: Tracks, names: list[PitchName]) -> bool:
    """Whether some line of the song has these names one after the other, a key that is told twice taken once."""
    classes = [kind for kind, _ in groupby(n.pitch_class for n in names)]
    lines = [[tracks.items[i].name.pitch_class for i in row] for _, row in groupby(range(len(tracks.items)), key=lambda i: int(tracks.line[i]))]
    once = [[kind for kind, _ in groupby(line)] for line in lines]
    return any(line[k : k + len(classes)] == classes for line in once for k in range(len(line)))


@pytest.mark.parametrize("path", SONGS, ids=lambda p: p.stem)
def test_a_line_told_in_order_is_right_and_a_wrong_note_in_it_is_more_doubtful_than_the_right_one(path: Path) -> None:
    tracks = tracks_of(path.stem)
    dice = Random(path.stem)
    line = [i for i, item in enumerate(tracks.items) if item.chord is None]
    for _ in range(12):
        at = dice.choice([i for i in line if all(tracks.same[1][i + k] for k in range(1, 6) if i + 5 < len(tracks.items)) and i + 5 < len(tracks.items)])
        names = [tracks.items[at + k].name for k in range(6)]
        right, _ = align(tracks, told(names), None)
        assert all(s.doubt < 0 for s in right)
        slip = dice.randrange(1, 5)
        wrong = PitchName(names[slip].fifths + 7)  # a half step too high
        changed = [*names[:slip], wrong, *names[slip + 1 :]]
        if stands(tracks, changed):
            continue
        standings, _ = align(tracks, told(changed), None)
        assert standings[slip].doubt > right[slip].doubt


def test_what_is_at_no_place_of_the_song_is_said_to_be_nowhere() -> None:
    standings, _ = align(tracks_of("holm"), told([parse_name(n) for n in ("F", "C", "F#", "C")]), None)
    assert [s.doubt == NOWHERE for s in standings] == [False, False, True, False]


def test_a_sentence_without_names_leaves_the_talk_where_it_was() -> None:
    tracks = tracks_of("holm")
    standings, costs = align(tracks, [], None)
    assert standings == [] and costs is None
    _, costs = align(tracks, told([parse_name("F")]), None)
    assert costs is not None and costs.min() == 0 and len(costs) == len(tracks.items)
    assert align(tracks, [], costs)[1] is costs


def test_the_place_that_is_named_and_the_hand_draw_a_name_there() -> None:
    tracks = tracks_of("holm")
    d = told([parse_name("D")])
    free, _ = align(tracks, d, None)
    there, _ = align(tracks, told([parse_name("D")], bars=(1,)), None)
    assert free[0].doubt < there[0].doubt  # bar 1 has no D
    right, _ = align(tracks, told([parse_name("E"), parse_name("C"), parse_name("E")], hand="left"), None)
    other, _ = align(tracks, told([parse_name("E"), parse_name("C"), parse_name("E")], hand="right"), None)
    assert all(a.doubt < b.doubt for a, b in zip(right, other, strict=True))


def test_a_slip_in_what_goes_on_is_told_with_what_comes_there() -> None:
    text = (
        "Let's learn the verse first, the left hand. It goes F, C, F, C. Then E, C, E, C. Next one's D minor so that's D, A, D, A. "
        "Those four bars, we start them over, F and then the C over {}."
    )
    chart, arrangement = song_of(TALK / "holm.flow.txt")
    assert all(c.verdict in (AGREES, UNKNOWN) for c in read_proof(text.format("E"), chart, arrangement))
    assert [c.text for c in read_proof(text.format("G"), chart, arrangement) if c.verdict not in (AGREES, UNKNOWN)] == ["C over G"]


def test_what_is_surely_wrong_is_told_apart_from_what_is_to_be_listened_to_again() -> None:
    chart, arrangement = song_of(None)
    told = read_proof("In bar 2 the left hand goes to F sharp, for nine beats. The key is G minor. The tempo is fine.", chart, arrangement)
    assert {(c.text, c.sure) for c in told if c.verdict == CONTRADICTS} == {("F sharp", True), ("nine beats", False), ("G minor", True)}
    assert not any(c.sure for c in told if c.verdict != CONTRADICTS)
    spoken = "in bar 2 the left hand goes to F sharp and then the right hand goes to C sharp and we go on like that for a long time until the end of it " * 3
    assert {c.text for c in read_proof(spoken, chart, arrangement) if c.sure} == {"F sharp", "C sharp"}  # told of a bar by its number without any stops


def test_claims_that_are_no_names_are_left_as_they_are() -> None:
    chart, arrangement = song_of(TALK / "holm.flow.txt")
    scope = Scope(chart, arrangement)
    claims = [*read_proof("I'd set the metronome to 80 and count four beats.", chart, arrangement)]
    seen, trail = look_again(claims, Spoken("I'd set the metronome to 80 and count four beats.", 0), Trail(), Tracks(scope), Desk("", scope, "letters", "c4"))
    assert seen == claims and trail.costs is None


def test_a_length_is_that_of_the_note_that_was_told_where_its_chord_lasts_longer() -> None:
    path = TALK / "holm.flow.txt"
    told = [line.text for line in load(path) if not line.wrong]
    last = next(i for i, text in enumerate(told) if "you play C for two beats" in text)
    chart, arrangement = song_of(path)
    claims = read_proof(" ".join(told[: last + 1]), chart, arrangement)
    assert [c.verdict for c in claims if c.text == "two beats"][-1] == UNKNOWN


# Talks whose sentences nothing was mended on: right lines that may be marked, slips that are caught.
STRANGERS = {
    "holm": (4, 35),
    "carr": (2, 39),
    "fell": (1, 41),
    "garth": (3, 42),
    "ness": (3, 39),
    "brae": (1, 26),
    "cleugh": (0, 38),
    "dell": (0, 34),
    "strath": (0, 36),
    "ghyll": (0, 34),
    "linn": (0, 41),
    "firth": (1, 31),
    "clough": (1, 46),
    "skerry": (0, 45),
    "burn": (1, 36),
}


@pytest.mark.parametrize("name", STRANGERS)
def test_a_talk_that_nothing_was_mended_on_is_read_no_worse(name: str) -> None:
    path = next(TALK.glob(f"{name}.*flow.txt"))
    results = judge_talk(load(path), path)
    marked, caught = STRANGERS[name]
    right, slips = [r for r in results if not r.line.wrong], [r for r in results if r.line.wrong]
    assert sum(bool(r.marked) for r in right) <= marked
    assert sum(any(c.sure for c in r.marked) for r in right) <= 2
    assert sum(r.found and any(c.sure for c in r.marked) for r in slips) >= 0.3 * len(slips)
    assert sum(r.found for r in results if r.line.wrong) >= caught
    assert summarise(results)[0] >= 0.8


@pytest.mark.parametrize(
    ("said", "wrong"),
    [
        ("Second line, B, E, E, back to B.", "E"),
        ("Second line, B, D, D, back to B.", ""),
        ("Which means every F and every G is a sharp.", "G"),
        ("Which means every F and every C is a sharp.", ""),
        ("Every G is a sharp in that bar.", ""),
        ("All your Cs are sharp.", ""),
    ],
)
def test_of_names_told_together_the_one_that_is_wrong_is_marked(said: str, wrong: str) -> None:
    """It was passed over where the first reader marked them as one, and the others of them are right."""
    path = TALK / "dell.shut.flow.txt"
    lines = [line for line in load(path) if not line.wrong]
    at = next((i for i, line in enumerate(lines) if line.text.split(",")[0] == said.split(",")[0]), 0)
    before = " ".join(line.text for line in lines[:at])
    claims = [c for c in read_proof(f"{before} {said}", *song_of(path)) if c.start > len(before) and is_marked(c)]
    assert {c.text for c in claims} == ({wrong} if wrong else set())


def test_what_is_right_in_part_is_never_surely_wrong() -> None:
    chart, arrangement = song_of(None)
    partly = [c for c in read_proof("In bar 7 we play G minor.", chart, arrangement) if c.verdict == PARTLY]
    assert partly and not any(c.sure for c in partly)
