"""How long keys are held, and keys that go in pairs: what the strokes alone do not say."""

from __future__ import annotations

import re
from dataclasses import replace

import pytest
from hypothesis import HealthCheck, assume, given, settings

from tests.songs import random_songs
from valley.errors import ValleyError
from valley.model.arrangement import HANDS
from valley.phrases import say_lesson
from valley.pipeline.readers import read_any_song
from valley.song import SongState, Work

HEAD = "key: C major\nmeter: 4/4\ntempo: 80\n[Verse]\n"
WALKS_OVER_BASS = "L: | 1 C3=4 2 G3=1 3 E3=1 4 G3=1 | 1 B2=4 2 G3=1 3 D3=1 4 G3=1 | 1 C3=4 2 G3=1 3 E3=1 4 G3=1 | 1 B2=4 2 G3=1 3 D3=1 4 G3=1 |\n"
ONE_HELD = "L: | 1 C3=4 2 G3=1 3 E3=1 4 G3=1 | 1 B2=4 | 1 C3=1 2 E3=1 3 G3=1 4 E3=1 | 1 B2=4 |\n"
SHORT = "L: | 1 C3=1/4 2 G3=1/4 3 E3=1/4 4 G3=1/4 | 1 B2=4 | 1 C3=1/4 2 G3=1/4 3 E3=1/4 4 G3=1/4 | 1 B2=4 |\n"
TENOR = "R: | 1 C5=4 2 A4=1 3 F4=1 4 A4=1 | 1 B4=4 D4=2 3 F4=2 | 1 C5=4 2 A4=1 3 F4=1 4 A4=1 | 1 B4=4 |\n"


def song_of(hands: str, chords: str = "| C | G/B | C | G/B |") -> Work:
    return Work(read_any_song(f"{HEAD}{chords}\n{hands}".encode(), "held.txt"))


def words_of(work: Work, language: str = "en") -> list[str]:
    song = work.song
    state = replace(song, teaching=replace(song.teaching, schools=replace(song.teaching.schools, language=language)))
    return [text for _, lines in say_lesson(Work(state).lesson) for text in lines]


def held_lines(work: Work) -> list[str]:
    return [text for text in words_of(work) if text.startswith("Keep")]


def test_a_bass_that_lies_under_a_figure_is_told_once() -> None:
    assert held_lines(song_of(WALKS_OVER_BASS)) == ["Keep the lowest key of each bar down while the others move."]


def test_where_only_some_are_held_the_bars_are_named_and_bars_like_them_are_not() -> None:
    assert held_lines(song_of(ONE_HELD)) == ["Keep down while the others move: C3 in bar 1."]
    assert held_lines(song_of(TENOR)) == ["Keep down while the others move: C5 in bar 1 and B4 in bar 2."]  # bar 3 is held like bar 1


def test_what_is_held_until_the_next_key_or_by_the_pedal_needs_no_words() -> None:
    assert held_lines(song_of("L: | 1 C3=1 2 G3=1 3 E3=1 4 G3=1 | 1 B2=4 | 1 C3=2 3 G3=2 | 1 B2=4 |\n")) == []
    assert held_lines(song_of("")) == []  # what Valley proposes rings on by itself


def test_each_bar_is_said_only_where_it_is_each_of_them() -> None:
    """The second part comes back to a bar that the first part told without a hold: "each bar" would be wrong of it."""
    moving, lying = "1 C3=1 2 G3=1 3 E3=1 4 G3=1", "1 B2=4 2 G3=1 3 D3=1 4 G3=1"
    song = f"{HEAD}| C | C | C | C |\nL: | {moving} | {moving} | {moving} | {moving} |\n[Refrain]\n| C | G/B | G | C |\n"
    song += f"L: | {moving} | {lying} | 1 G2=4 2 D3=1 3 B2=1 4 D3=1 | {moving} |\n"
    assert held_lines(Work(read_any_song(song.encode(), "held.txt"))) == ["Keep down while the others move: B2 in bar 6 and G2 in bar 7."]


def test_keys_that_are_let_go_at_once_are_said_to_be_short() -> None:
    assert words_of(song_of(SHORT)).count("Play them short: let each key go at once.") == 1
    assert "Play them short: let each key go at once." not in words_of(song_of(WALKS_OVER_BASS))


@pytest.mark.parametrize(
    ("bar", "words"),
    [
        ("1 E4=1 G4=1 2 F4=1 A4=1 3 G4=1 B4=1 4 F4=1 A4=1", "In thirds."),
        ("1 E4=1 C5=1 2 F4=1 D5=1 3 G4=1 E5=1 4 F4=1 D5=1", "In sixths."),
        ("1 C4=1 C5=1 2 D4=1 D5=1 3 E4=1 E5=1 4 D4=1 D5=1", "In octaves."),
        ("1 C4=1 E5=1 2 D4=1 F5=1 3 E4=1 G5=1 4 D4=1 F5=1", "In tenths."),
        ("1 C4=1 F4=1 2 D4=1 G4=1 3 E4=1 A4=1 4 D4=1 G4=1", "In fourths."),
        ("1 C4=1 G4=1 2 D4=1 A4=1 3 E4=1 B4=1 4 D4=1 A4=1", "In fifths."),
        ("1 C4=1 E4=1 2 D4=1 F#4=1 3 Eb4=1 G4=1 4 D4=1 F4=1", "In thirds."),  # great and small alike: letters count, not half steps
    ],
)
def test_keys_in_pairs_have_the_name_of_their_interval(bar: str, words: str) -> None:
    told = words_of(song_of(f"R: | {bar} | - | - | - |\n"))
    assert [text for text in told if text.endswith(words)], told


def test_pairs_are_named_once_in_a_row_and_mixed_ones_not_at_all() -> None:
    thirds = "1 E4=1 G4=1 2 F4=1 A4=1 3 G4=1 B4=1 4 F4=1 A4=1"
    others = "1 C4=1 E4=1 2 F4=1 A4=1 3 E4=1 G4=1 4 D4=1 F4=1"
    told = words_of(song_of(f"R: | {thirds} | {others} | - | - |\n"))
    assert sum(text.endswith("In thirds.") for text in told) == 1
    mixed = "1 E4=1 G4=1 2 F4=1 C5=1 3 G4=1 B4=1 4 F4=1 A4=1"
    assert not [text for text in words_of(song_of(f"R: | {mixed} | - | - | - |\n")) if re.search(r"In \w+\.$", text)]


@pytest.mark.parametrize(
    ("language", "held", "pairs"),
    [("fr", "Garde enfoncé", "En octaves."), ("de", "Lass liegen", "In Oktaven."), ("es", "Mantén abajo", "En octavas.")],
)
def test_in_the_other_languages_as_well(language: str, held: str, pairs: str) -> None:
    told = words_of(song_of(ONE_HELD + "R: | 1 C4=1 C5=1 2 D4=1 D5=1 3 E4=1 E5=1 4 D4=1 D5=1 | - | - | - |\n"), language)
    assert any(text.startswith(held) for text in told) and any(text.endswith(pairs) for text in told), told


@given(random_songs())
@settings(max_examples=30, suppress_health_check=list(HealthCheck))
def test_every_key_that_is_said_to_stay_down_is_down_as_another_is_struck(song: SongState) -> None:
    try:
        work = Work(song)
        lines = [row for step in work.lesson.steps for row in step.lines if any(s.phrase.startswith("holds") for s in row.said)]
    except ValleyError:
        assume(False)
        return
    played = [n for p in (*work.arrangement.parts, *(work.plain.parts if work.plain else ())) for n in p.notes]
    for row in lines:
        for told in row.notes:
            mine = next(n for n in played if (n.start, n.hand, n.pitch) == (told.start, told.hand, told.pitch))
            assert mine.hand in HANDS and not mine.rings
            assert any(n.hand == mine.hand and mine.start < n.start < mine.start + mine.duration and n.midi != mine.midi for n in played)


def test_what_is_played_one_after_the_other_is_no_handful_for_smaller_or_bigger_hands() -> None:
    told = words_of(song_of(WALKS_OVER_BASS + TENOR))
    assert not [text for text in told if text.startswith(("For small hands", "For a bigger finish"))]
    song = song_of("").song
    proposed = Work(replace(song, choices=replace(song.choices, style="open-tenths")))
    assert [text for text in words_of(proposed) if text.startswith(("For small hands", "For a bigger finish"))]
