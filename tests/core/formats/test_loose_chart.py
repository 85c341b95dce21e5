"""Chord charts as people write them: by hand on examples, and any chart in any way of writing it."""

from __future__ import annotations

import pytest
from hypothesis import given

from tests.dice import Dice, thrown
from valley.errors import FormatError
from valley.fraction import Fraction
from valley.pipeline.readers import read_any_song
from valley.song.state import SongState


def read(text: str) -> SongState:
    return read_any_song(text.encode(), "song.txt")


def told(song: SongState) -> str:
    """The parts with their chords, lengths where a chord does not last a bar: "Verse: C Am F:2 G:2"."""
    rows = []
    for part in song.chart.parts:
        bar = song.chart.grid.meter_of(part.start_bar).beats
        chords = song.chart.chords_of(part)
        names = [(c.chord.to_symbol() if c.chord else "N") + ("" if c.duration == bar else f":{c.duration}") for c in chords]
        rows.append(f"{part.name}: {' '.join(names)}".removeprefix(": "))
    return "; ".join(rows)


@pytest.mark.parametrize(
    ("text", "wanted"),
    [
        ("Am - F - C - G", "Am F C G"),
        ("Am, F, C, G", "Am F C G"),
        ("Am-F-C-G", "Am F C G"),
        ("[Am] [F] [C] [E7]", "Am F C E7"),
        ("Am F C G (x2)", "Am F C G Am F C G"),
        ("| C | % | F | ./. |", "C C F F"),
        ("| Bb . . . | Eb . F . | Bb / / / |", "Bb Eb:2 F:2 Bb"),
        ("C / / / G / Am / F / / /", "C G:2 Am:2 F"),
        ("F G Am Am / F G C C", "F G Am Am F G C C"),
        ("|: C | Am :|", "C Am C Am"),
        ("|: C | Am |\n| F | G :|", "C Am F G C Am F G"),
        ("|: C | Am |\n| F | 1. G :|\n| 2. C |\n| Dm |", "C Am F G C Am F C Dm"),
        ("Verse:\nC | F\nG | C :|", "Verse: C F G C C F G C"),
        ("|: C | F :|: G | Am :|", "C F C F G Am G Am"),
        ("||: C | Am :|| x3", "C Am C Am C Am"),
        ("|: Dm7 G7 | Cmaj7 | 1. Em7 A7 :| 2. C |", "Dm7:2 G7:2 Cmaj7 Em7:2 A7:2 Dm7:2 G7:2 Cmaj7 C"),
        ("Em7-5 A7b9 Dm(maj7) G13 C6/9 N.C. Bb°7 F#ø B+", "Em7b5 A7b9 Dm(maj7) G13 C69 N Bbdim7 F#m7b5 Baug"),
        ("Verse 1\nC  G\nChorus:\nF  C\nVERSE 2\nC  G", "Verse 1: C G; Chorus: F C; Verse 2: C G"),
        ("Intro: Em C x2\nVerse: G D", "Intro: Em C Em C; Verse: G D"),
        ("CHORUS (2x)\nC D | G", "Chorus: C:2 D:2 G C:2 D:2 G"),
        ("A:\n| C | F |\nB:\n| G | Am |\nForm: A A B A", "A: C F; A: C F; B: G Am; A: C F"),
        ("V1: Eb Bb\nCH: Ab Bb\nV2: same as V1\nCH", "V1: Eb Bb; CH: Ab Bb; V2: Eb Bb; CH: Ab Bb"),
        ("Verse: Am F\nBridge: Dm E7\nRepeat verse", "Verse: Am F; Bridge: Dm E7; Verse: Am F"),
        ("I - V - vi - IV in D major", "D A Bm G"),
        ("ii V7 I\nkey of Bb", "Cm F7 Bb"),
        ("1 5 6m 4 in G", "G D Em C"),
        ("Tonalité : Sol majeur\nCouplet\nSol Mim Do Ré7", "Couplet: G Em C D7"),
        ("Strophe: Hm G D A\nB7 | Es | H7 | Em", "Strophe: Bm G D A Bb7 Eb B7 Em"),
        ("Chords used: Am, F, C\n\nAm F C Am", "Am F C Am"),
        ("Verse (8 bars)\nF . C . | Dm\nChorus x2:\n| G | C |\nOutro: G (hold)", "Verse: F:2 C:2 Dm; Chorus: G C G C; Outro: G"),
        ("1. Am  Dm\n2. F  E7", "Am Dm F E7"),
        ("Dm7 - G7 || Em7 - A7 || C6", "Dm7 G7 Em7 A7 C6"),
        ("Em7 (4 beats) A7 (2 beats) G (2 beats)", "Em7 A7:2 G:2"),
        ("C(add9) (softly) Am(maj7)", "Cadd9 Am(maj7)"),
        ("Verse\nAm  F\nHe said: come with me\nC  G\nand then she said:\n", "Verse: Am F C G"),
    ],
)
def test_each_way_of_writing_means_what_its_writer_meant(text: str, wanted: str) -> None:
    assert told(read(text)) == wanted


def test_a_sheet_with_words_gives_chords_cues_and_what_is_said_of_the_song() -> None:
    song = read(
        "Autumn Path - key of Em (3/4, 90 bpm)\n\nVerse 1\nEm            C\nWalking down the morning road\nG             D\nLeaves are falling slow\n"
        "\nChorus\nC   D   Em\nla la la\n"
    )
    chart = song.chart
    assert (chart.title, str(chart.keys[0].key), chart.grid.main_meter.name, chart.bpm) == ("Autumn Path", "E minor", "3/4", 90)
    assert told(song) == "Verse 1: Em C G D; Chorus: C D Em"
    assert [(chart.grid.place(c.start)[0], c.text) for c in chart.cues][:4] == [(1, "Walking"), (2, "the"), (3, "Leaves"), (4, "falling")]


def test_a_key_that_changes_holds_from_there() -> None:
    song = read("Verse: C G\nC F\nKey change: D\nD A D G\nBridge\nkey of Bm\nBm F#")
    assert [(song.chart.grid.place(k.start)[0], str(k.key)) for k in song.chart.keys] == [(1, "C major"), (5, "D major"), (9, "B minor")]


def test_a_capo_sounds_higher() -> None:
    assert told(read("Capo 2\nAm F C G")) == "Bm G D A"
    assert told(read("Capo: 3\n[Verse]\n| Am | F |")) == "Verse: Cm Ab"


def test_lines_of_hands_may_stand_under_loose_bars() -> None:
    song = read("Part 1: | C . . . | G . C . |\nR: 1 C5 2 D5 3 E5 | 1 B4")
    assert [(str(n.start), n.pitch) for p in song.choices.passages for n in p.notes] == [("0", "C5"), ("1", "D5"), ("2", "E5"), ("4", "B4")]


@pytest.mark.parametrize(
    ("text", "said"),
    [
        ("Am F C G\nAm F C Gx", "line 2: 'Gx' is no chord"),
        ("Verse: Am F C Hello G", "line 1: 'Hello' is no chord"),
        ("A: C F\nForm: A C", "the form names 'C'"),
        ("C G x99", "up to 32"),
        ("Dear reader, there is nothing here.", "neither a header"),
    ],
)
def test_a_slip_is_told_with_its_place(text: str, said: str) -> None:
    with pytest.raises(FormatError) as error:
        read(text)
    assert said in str(error.value)


def test_chords_in_brackets_among_the_words_are_bars_with_cues() -> None:
    song = read("Key: G\n[Verse 1]\n[G]Lantern by the [D/F#]door, [Em]nobody [C]home\n\nChorus: [C]Turn it [D]low\n")
    assert [(p.name, p.bars) for p in song.chart.parts] == [("Verse 1", 4), ("Chorus", 2)]
    assert [c.chord.to_symbol() for c in song.chart.chords if c.chord] == ["G", "D/F#", "Em", "C", "C", "D"]
    assert [(c.start, c.text) for c in song.chart.cues] == [(0, "Lantern"), (4, "door"), (8, "nobody"), (12, "home"), (16, "Turn"), (20, "low")]


@pytest.mark.parametrize(
    ("text", "parts", "chords"),
    [
        ("[C] [G] [Am] [F]", [("", 4)], "C G Am F"),
        ("[A] C G\n[B] F C", [("A", 2), ("B", 2)], "C G F C"),
        ("[A] softly\nC G\n[B]\nF C", [("A", 2), ("B", 2)], "C G F C"),
        ("Intro: [C] [G] x2\nVerse: [Am]Wheels are [F]turning", [("Intro", 4), ("Verse", 2)], "C G C G Am F"),
        ("[C][G]both on a [Am]word", [("", 3)], "C G Am"),
        ("[Am]Abend [H7]kommt [Em]leise", [("", 3)], "Am B7 Em"),
    ],
)
def test_brackets_around_chords_parts_and_words_are_told_apart(text: str, parts: list[tuple[str, int]], chords: str) -> None:
    song = read(text)
    assert [(p.name, p.bars) for p in song.chart.parts] == parts
    assert [c.chord.to_symbol() for c in song.chart.chords if c.chord] == chords.split()


@pytest.mark.parametrize(
    ("text", "parts", "chords"),
    [
        ("C(4) G(4) Am(2) F(2) C(4)", [("", 4)], "C:4 G:4 Am:2 F:2 C:4"),  # beats, not fourths that are added
        ("| C(4) | Am(add9) | G(4) |", [("", 3)], "Cadd4:4 Am(add9):4 Gadd4:4"),
        ("C major, F sharp minor, G major, D minor", [("", 4)], "C:4 F#m:4 G:4 Dm:4"),
        ("CΔ7 | A-7 | C△7 | G7", [("", 4)], "Cmaj7:4 Am7:4 Cmaj7:4 G7:4"),
        ("C/// G/// Am/ F/ C///", [("", 4)], "C:4 G:4 Am:2 F:2 C:4"),
        ("Verse   C G Am F\nChorus 2  F G C C", [("Verse", 4), ("Chorus 2", 4)], "C:4 G:4 Am:4 F:4 F:4 G:4 C:4 C:4"),
        ("Verse A  C G Am F\nVerse B  F G", [("Verse A", 4), ("Verse B", 2)], "C:4 G:4 Am:4 F:4 F:4 G:4"),
        ("Bridge Am\nF G", [("Bridge", 3)], "Am:4 F:4 G:4"),
        ("Outro C\nC G", [("Outro C", 2)], "C:4 G:4"),
        ("[C]Evening [G]slow (x2)", [("", 4)], "C:4 G:4 C:4 G:4"),
        ("Verse,C,G,Am,F\nChorus,F,G", [("Verse", 4), ("Chorus", 2)], "C:4 G:4 Am:4 F:4 F:4 G:4"),
    ],
)
def test_chords_written_out_are_read_as_they_are_meant(text: str, parts: list[tuple[str, int]], chords: str) -> None:
    song = read(text)
    assert [(p.name, p.bars) for p in song.chart.parts] == parts
    assert [f"{c.chord.to_symbol()}:{c.duration}" for c in song.chart.chords if c.chord] == chords.split()


def test_words_that_sound_like_chords_stay_words() -> None:
    song = read("C   G   Am   F\nA major storm and a minor flood\nF   G\nThe end of A and B\n")
    assert [c.chord.to_symbol() for c in song.chart.chords if c.chord] == ["C", "G", "Am", "F", "F", "G"]


_NAMES = ("C", "Dm7", "G/B", "F#m7b5", "Bb", "E7b9", "Asus4", "Cmaj7", "Ebm", "Abadd9")
_WAYS = ("bars", "dots", "row", "dashes", "repeat sign", "section", "brackets")


@thrown
def rows(dice: Dice) -> tuple[list[str], str]:
    return [dice.one_of(_NAMES) for _ in range(dice.between(4, 12))], dice.one_of(_WAYS)


@given(rows())
def test_any_row_of_chords_comes_back_in_any_way_of_writing_it(row: tuple[list[str], str]) -> None:
    names, way = row
    text = {
        "bars": "| " + " | ".join(names) + " |",
        "dots": "| " + " | ".join(f"{n} . . ." for n in names) + " |",
        "row": "   ".join(names),
        "dashes": " - ".join(names),
        "repeat sign": "|: " + " | ".join(names) + " :|",
        "section": "Chorus:\n" + "\n".join("  ".join(names[i : i + 4]) for i in range(0, len(names), 4)),
        "brackets": " ".join(f"[{n}]" for n in names),
    }[way]
    song = read(text)
    played = names * (2 if way == "repeat sign" else 1)
    assert [c.chord.to_symbol() for c in song.chart.chords if c.chord] == played
    assert all(c.duration == Fraction(4) for c in song.chart.chords)
