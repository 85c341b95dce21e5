"""Sorting viewers' comments: on sets written before the rules, after them, and after they were mended; and on the edges."""

from pathlib import Path

import pytest

from valley.records.comments import Comment, CommentReading, group_requests, read_comments
from valley.records.titles import TitleIndex, best_spelling, find_mentions, is_like, likeness, make_plain

KNOWN = ["Paper Harbour", "The Millwheel", "Copper Weather", "Last Tram Waltz", "Lantern Street", "Snow on the Ferry"]
# Share of comments read right. The first set was there before the rules, the second showed what they lacked, the third came after all mending.
SETS = {"comments": 1.0, "comments_unseen": 0.95, "comments_third": 0.78}


def load(name: str) -> list[list[str]]:
    lines = Path(__file__).with_name(f"{name}.txt").read_text("utf-8").splitlines()
    return [[cell.strip() for cell in line.split("|")] for line in lines if line and not line.startswith("#")]


def is_right(row: list[str], reading: CommentReading) -> bool:
    kind, _, _, truth = row
    if reading.kind != kind:
        return False
    if kind == "request":
        wanted = sorted(make_plain(t) for t in truth.split("; "))
        got = sorted(make_plain(t) for t in reading.titles)
        return len(wanted) == len(got) and all(is_like(a, b) for a, b in zip(wanted, got, strict=True))
    if kind == "correction":
        what, number = truth.split()
        place = reading.place
        return {"bar": place.bar, "step": place.step, "part": place.part, "time": place.seconds}[what] == int(number)
    return True


@pytest.mark.parametrize("name", SETS)
def test_comments_are_read_right(name: str) -> None:
    rows = load(name)
    assert len(rows) > 40, "the set was not found whole"
    comments = [Comment(i, f"@v{i}", row[2], row[1]) for i, row in enumerate(rows, 1)]
    readings = read_comments(comments, KNOWN)
    right = sum(map(is_right, rows, readings))
    assert right / len(rows) >= SETS[name]


def test_what_asks_for_nothing_is_hardly_ever_taken_for_a_wish() -> None:
    """A wish that is missed lies with the rest, where it is seen; a wrong one would make a request."""
    rows = [row for name in SETS for row in load(name) if row[0] != "request"]
    readings = read_comments([Comment(i, "@v", row[2], row[1]) for i, row in enumerate(rows, 1)], KNOWN)
    assert sum(r.kind == "request" for r in readings) <= 0.02 * len(rows)


def test_same_under_a_request_counts_for_its_song() -> None:
    comments = [
        Comment(1, "@a", "could you do Lantern Street please"),
        Comment(2, "@b", "same!!", reply_to=1),
        Comment(3, "@c", "same!!"),
        Comment(4, "@a", "lantern street pls", likes=6),
    ]
    readings = read_comments(comments, KNOWN)
    assert [r.kind for r in readings] == ["request", "request", "other", "request"]
    (group,) = group_requests(comments, readings, KNOWN)
    assert (group.known, group.comments, group.handles, group.votes) == ("Lantern Street", (1, 2, 4), ("@a", "@b"), 8)


def test_misspelled_new_songs_come_together_under_their_best_spelling() -> None:
    texts = ["please do Tin Roof Lullaby", "tin roof lullabye please!!", "TIN ROOF LULLABY PLEASE", "Tin Roof Lullaby next?"]
    comments = [Comment(i, f"@{i}", t) for i, t in enumerate(texts, 1)]
    (group,) = group_requests(comments, read_comments(comments, []), [])
    assert (group.title, group.known, group.votes) == ("Tin Roof Lullaby", "", 4)


def test_two_songs_in_one_comment_count_for_both() -> None:
    comments = [Comment(1, "@a", "pls do lantern street and copper weather")]
    groups = group_requests(comments, read_comments(comments, KNOWN), KNOWN)
    assert {g.title for g in groups} == {"Lantern Street", "Copper Weather"}


@pytest.mark.parametrize("text", ["", "   ", "!!!", "😂", "a" * 2000, "please " * 200, '"', "1:99 bar", "\x00\x01"])
def test_odd_comments_do_no_harm(text: str) -> None:
    (reading,) = read_comments([Comment(1, "@a", text)], KNOWN)
    assert reading.kind == "other"


def test_no_comments_give_no_groups() -> None:
    assert read_comments([], KNOWN) == ()
    assert group_requests([], [], KNOWN) == ()


def test_a_number_makes_another_song() -> None:
    assert not is_like("copper weather 2", "copper weather")
    assert is_like("seven wooden horses", "7 wooden horses")


def test_titles_are_found_only_where_they_are() -> None:
    assert find_mentions("the weather was copper", KNOWN) == []
    assert [m.title for m in find_mentions("last tram walz and snow on the fery", KNOWN)] == ["Last Tram Waltz", "Snow on the Ferry"]


def test_titles_in_small_letters_are_shown_with_capitals() -> None:
    assert best_spelling(["gravel and honey"]) == "Gravel and Honey"
    assert best_spelling(["GRAVEL AND HONEY"]) == "Gravel and Honey"


def test_an_index_of_thousands_finds_what_a_plain_search_finds() -> None:
    """The index only leaves out titles none of whose words begin as one of the comment's does."""
    import random

    rng = random.Random(3)
    words = ("lantern", "harbour", "copper", "mill", "tram", "snow", "ferry", "gravel", "honey", "kettle", "umbrella", "staircase", "orchard", "fennel")
    titles = list(dict.fromkeys(f"{rng.choice(words)} {rng.choice(['of', 'and', 'in'])} {rng.choice(words)}".title() for _ in range(400)))
    index = TitleIndex(titles)
    for _ in range(60):
        wanted = rng.choice(titles)
        letters = list(make_plain(wanted))
        at = rng.randrange(4, len(letters))
        letters[at : at + 1] = rng.choice([[], [letters[at], letters[at]], ["x"]])
        misspelled = "".join(letters)
        slow = max(titles, key=lambda t: likeness(misspelled, make_plain(t)))
        if likeness(misspelled, make_plain(slow)):
            found = index.find_like(misspelled)
            assert found is not None
            assert likeness(misspelled, make_plain(found)) == likeness(misspelled, make_plain(slow))
            assert find_mentions(f"could you do {misspelled} please", index), misspelled
    assert index.find_like("something else altogether") is None
    assert TitleIndex([]).find_like("anything") is None
    assert TitleIndex([]).find_in(["anything"]) == []
