"""Made-up songs: whatever is drawn, the truth that is written down is the truth of what sounds."""

from __future__ import annotations

from itertools import pairwise
from random import Random

import pytest
from composer.band import BASSES, COMPS, SIXES, bass, close_voicing, comp, drums, low_note
from composer.compose import compose
from composer.genres import GENRES, GROUPS, QUARTERS, WEIGHTS
from composer.odd_bars import drop_beats
from composer.players import LEFT_HANDS, play_hymn, play_piano
from composer.song import Song
from composer.times import mark_lines, without_overlaps

from valley.theory.chord import Chord, parse_harte
from valley.theory.key import Key

SEEDS = (1, 2, 3)


def chord(label: str) -> Chord:
    found = parse_harte(label)
    assert found is not None
    return found


@pytest.fixture(scope="module", params=[(genre, seed) for genre in GENRES for seed in SEEDS], ids=lambda p: f"{p[0]}-{p[1]}")
def song(request: pytest.FixtureRequest) -> Song:
    genre, seed = request.param
    return compose(seed, genre)


def test_beats_ascend_and_bars_are_whole(song: Song) -> None:
    beats = QUARTERS[song.meter][0]
    assert song.beats == sorted(song.beats) and len(set(song.beats)) == len(song.beats)
    assert song.downbeats == song.beats[::beats]
    assert len(song.beats) % beats == 0
    assert song.beats[-1] < song.end
    assert 35 < song.bpm < (310 if song.meter in GROUPS else 260)


def test_chords_keys_and_sections_cover_the_song_without_gaps(song: Song) -> None:
    for rows, first in ((song.chords, 0.0), (song.keys, song.beats[0]), (song.sections, song.beats[0])):
        assert rows[0]["start"] == pytest.approx(first, abs=1e-3)
        assert all(a["end"] == b["start"] for a, b in zip(rows, rows[1:], strict=False))
        assert rows[-1]["end"] == pytest.approx(song.end, abs=1e-3)
    assert song.chords[0]["label"] == "N"
    assert all(parse_harte(c["label"]) for c in song.chords if c["label"] != "N")
    assert all(Key.of(k["tonic"], k["mode"]) for k in song.keys)
    assert all(s["same_as"] is None or song.sections[s["same_as"]]["label"] == s["label"] for s in song.sections)


def test_notes_sound_inside_the_song_and_no_key_twice_at_once_in_a_part(song: Song) -> None:
    assert song.notes
    last: dict[tuple[str, int], float] = {}
    for note in sorted(song.notes, key=lambda n: n.start):
        assert 0 <= note.start < note.end
        assert 0 < note.loud <= 1
        assert 20 <= note.midi <= 110 or note.part == "drums"
        assert last.get((note.part, note.midi), -1) <= note.start + 1e-6
        last[note.part, note.midi] = note.end


def test_the_bass_that_is_told_is_the_chords_bass(song: Song) -> None:
    """Where a chord begins and a bass note is struck with it, it is the chord's own bass, for styles that do not walk before it."""
    truth = song.truth()
    told = 0
    for row in truth["chords"]:
        here = parse_harte(row["label"])
        struck = [n for n in truth["bass"] if abs(n["start"] - row["start"]) < 0.04]
        if here is None or len(struck) != 1:
            continue
        told += struck[0]["midi"] % 12 == here.bass.pitch_class
    begun = sum(1 for row in truth["chords"] if row["label"] != "N")
    assert told >= 0.5 * begun or song.genre in ("jazz", "waltz")


def test_the_truth_has_what_a_listener_should_find(song: Song) -> None:
    truth = song.truth()
    for name in ("title", "group", "genre", "bpm", "meter", "end", "beats", "downbeats", "keys", "chords", "melody", "bass", "sections"):
        assert name in truth
    assert truth["melody"]
    assert ("notes" in truth) == (song.genre == "piano")
    every = truth["notes" if song.genre == "piano" else "all_notes"]
    assert [n["start"] for n in every] == sorted(n["start"] for n in every)


def test_the_same_seed_is_the_same_song_and_another_is_not() -> None:
    assert compose(5).truth() == compose(5).truth()
    assert compose(5).truth() != compose(6).truth()


@pytest.mark.parametrize("seed", range(12))
def test_beats_that_are_dropped_are_gone_from_sound_and_truth_alike(seed: int) -> None:
    before, song = compose(seed), drop_beats(compose(seed), Random(seed))
    gone = len(before.beats) - len(song.beats)
    assert song.details["dropped"] <= gone <= 2 * song.details["dropped"]
    assert before.end - song.end == pytest.approx(gone * 60 / song.bpm, rel=0.5)
    assert song.beats == sorted(song.beats) and min(b - a for a, b in pairwise(song.beats)) > 0.5 * 60 / song.bpm
    assert set(song.downbeats) <= set(song.beats)
    for rows in (song.chords, song.keys, song.sections):
        assert all(a["end"] == pytest.approx(b["start"], abs=1e-3) for a, b in pairwise(rows))
        assert rows[-1]["end"] == pytest.approx(song.end, abs=1e-3)
    assert all(0 <= n.start < n.end for n in song.notes)
    assert len(song.notes) <= len(before.notes)


def test_every_genre_is_drawn() -> None:
    assert set(WEIGHTS) == set(GENRES) - {"odd", "sixes", "uneven"}  # written only where they are asked for
    assert {compose(seed).genre for seed in range(60)} >= {"ballad", "pop", "hymn"}


@pytest.mark.parametrize("style", SIXES)
def test_chords_in_compound_time_go_in_threes(style: str) -> None:
    hits = comp(Random(1), style, [60, 64, 67], 2.0, 2, 1.5)
    assert all(2.0 <= t < 4.0 and t + d <= 4.5 for t, d, *_ in hits)
    assert all(abs(3 * t - round(3 * t)) < 1e-9 for t, *_ in hits)
    strongest = {t for t, _, _, v in hits if v == max(v for *_, v in hits)}
    assert strongest == ({2 + 2 / 3, 3 + 2 / 3} if style == "upbeats" else {2.0, 3.0})


@pytest.mark.parametrize("style", COMPS)
@pytest.mark.parametrize("seed", SEEDS)
def test_no_accompaniment_plays_halves_of_a_compound_beat(style: str, seed: int) -> None:
    lows = [hit for low in BASSES for hit in bass(Random(seed), low, chord("C:maj"), chord("G:maj"), 0.0, 2, 1.5, 36)]
    for t, *_ in comp(Random(seed), style, [60, 64, 67], 0.0, 2, 1.5) + lows:
        assert abs(t % 1 - 0.5) > 0.1 or style == "tremolo"  # which goes in sixths of the beat


@pytest.mark.parametrize("meter", ["7/8", "5/8"])
def test_odd_eighths_are_struck_where_their_groups_begin(meter: str) -> None:
    for seed in range(12):
        song = compose(seed, "uneven")
        if song.meter != meter:
            continue
        struck = {_beat_of(song, n.start) % QUARTERS[meter][0] for n in song.notes if n.part == "chords"}
        assert any({sum(groups[:k]) for k in range(len(groups))} <= struck for groups in GROUPS[meter])


def _beat_of(song: Song, t: float) -> int:
    return min(range(len(song.beats)), key=lambda i: abs(song.beats[i] - t))


@pytest.mark.parametrize("left", LEFT_HANDS)
def test_a_left_hand_plays_the_chord_over_its_bass(left: str) -> None:
    c = chord("A:min7")
    hits = list(play_piano(Random(3), left, 0.9, c, 8.0, 4, 1.0, 80))
    assert min(t for t, *_ in hits) == 8.0
    assert all(8.0 <= t < 12.0 and d > 0 for t, d, *_ in hits)
    low = min(hits, key=lambda h: (h[2], h[0]))
    assert low[4] == "bass"
    if left != "alberti":  # whose figure begins on the lowest note of the close position, whichever that is
        assert low[2] % 12 == c.bass.pitch_class
    assert {m % 12 for _, _, m, _, _ in hits} <= {n.pitch_class for n in c.members()} | {c.bass.pitch_class}
    assert all(m < 80 for *_, m, _, part in ((t, d, m, v, p) for t, d, m, v, p in hits) if part == "right")


def test_a_hymn_moves_in_four_voices_that_do_not_cross() -> None:
    chords = [chord(x) for x in ("F:maj", "C:maj/3", "D:min", "Bb:maj")] * 4
    hits = list(play_hymn(Random(2), list(chords), 4, Key.of("F", "major")))
    for beat in range(16):
        here = {part: m for t, _, m, _, part in hits if t == beat}
        if len(here) == 4:
            assert here["bass"] < here["tenor"] <= here["alto"] <= here["melody"]
            assert here["bass"] % 12 == chords[beat].bass.pitch_class


@pytest.mark.parametrize("style", COMPS)
def test_a_comp_plays_the_voicing_inside_its_chord(style: str) -> None:
    close = [60, 64, 67]
    hits = comp(Random(1), style, close, 4.0, 4, 1.0)
    assert hits
    assert {m for _, _, m, _ in hits} <= set(close)
    assert all(4.0 <= t < 8.1 and d > 0 and 0 < v <= 1 for t, d, _, v in hits)


@pytest.mark.parametrize("style", BASSES)
def test_a_bass_line_stays_inside_its_chord(style: str) -> None:
    hits = bass(Random(1), style, chord("C:maj"), chord("F:maj"), 0.0, 4, 1.0, 31)
    assert hits and hits[0][2] % 12 == 0
    assert all(0 <= t < 4 and d > 0 and 28 <= m < 60 for t, d, m, _ in hits)


def test_voicings_lie_near_each_other() -> None:
    first = close_voicing(chord("C:maj"), 60)
    second = close_voicing(chord("F:maj"), 60, first)
    assert max(abs(a - b) for a, b in zip(first, second, strict=True)) <= 4
    assert low_note(chord("C:maj/3"), 31) == 40
    assert drums(Random(1), "none", 4, 1.0, first=True) == []


def test_overlaps_are_cut_and_doubles_sound_once() -> None:
    from composer.song import Note

    cut = without_overlaps([Note(0.0, 2.0, 60, 0.5, "chords"), Note(1.0, 2.0, 60, 0.5, "chords"), Note(1.01, 2.0, 60, 0.5, "chords")])
    assert [(n.start, round(n.end, 2)) for n in cut] == [(0.0, 0.99), (1.0, 2.0)]
    double = [Note(0.0, 1.0, 60, 0.5, "left"), Note(0.01, 1.0, 60, 0.8, "melody")]
    mark_lines(double)
    assert [n.part for n in double] == ["melody"] or len(double) == 1
