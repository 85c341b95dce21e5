"""The same recording in another way gives the same chart, moved; and the bench that measures it does its sums right."""

from dataclasses import replace
from functools import cache
from pathlib import Path

import numpy as np
import pytest
from bench.steady import WAYS, Way, compare, find_recordings, hear, measure

from tests.sounds import SR, Samples, save, song
from valley.model.hearing import HeardChord, Hearing

LOOP = ["C", "Am", "F", "G7", "Em", "Am", "Dm", "G"] * 2
BY_NAME = {way.name: way for way in WAYS}


@cache
def sound() -> Samples:
    return song(LOOP, bpm=104)


@cache
def plain() -> Hearing:
    return hear(sound(), SR)


def test_a_quarter_as_loud_is_heard_the_same() -> None:
    way = BY_NAME["a quarter as loud"]
    softer = hear(way.change(sound(), SR), SR)
    assert compare(plain(), softer, way) == dict.fromkeys(("root", "major/minor", "beats", "downbeats", "tempo"), 1.0)
    assert [(n.midi, n.start) for n in softer.melody] == [(n.midi, n.start) for n in plain().melody]


@pytest.mark.parametrize("name", ["+2 half steps", "4 % slower", "with noise", "at 64 kbit/s"])
def test_another_way_gives_the_same_chart_moved(name: str) -> None:
    way = BY_NAME[name]
    agreement = compare(plain(), hear(way.change(sound(), SR), SR), way)
    assert {field: round(share, 2) for field, share in agreement.items() if share < 0.95} == {}


def _moved(hearing: Hearing, way: Way) -> Hearing:
    """What would be heard in another way, if nothing else changed."""

    def at(seconds: float) -> float:
        return max(0.0, (seconds - way.cut) / way.speed)

    def raised(chord: HeardChord) -> HeardChord:
        fifths = (7 * way.half_steps + 5) % 12 - 5
        label = replace(chord.chord, root=chord.chord.root.up(fifths)).to_harte() if chord.chord else "N"
        return replace(chord, start=at(chord.start), end=at(chord.end), label=label, alternatives=())

    return replace(
        hearing,
        duration=at(hearing.duration),
        bpm=hearing.bpm * way.speed,
        beats=tuple(at(t) for t in hearing.beats if t > way.cut),
        downbeats=tuple(at(t) for t in hearing.downbeats if t > way.cut),
        chords=tuple(raised(c) for c in hearing.chords if c.end > way.cut),
    )


@pytest.mark.parametrize("way", [replace(way, cut=min(way.cut, 10.0)) for way in WAYS], ids=lambda way: way.name)
def test_what_is_only_moved_agrees_wholly(way: Way) -> None:
    agreement = compare(plain(), _moved(plain(), way), way)
    assert min(agreement.values()) > 0.99


def test_what_differs_is_counted() -> None:
    way, heard = BY_NAME["with noise"], plain()
    half = heard.chords[: len(heard.chords) // 2]
    other = replace(heard, chords=(*half, replace(heard.chords[-1], start=half[-1].end, label="F#:min", alternatives=())))
    agreement = compare(heard, other, way)
    assert 0.4 < agreement["root"] < 0.65
    assert agreement["beats"] == 1
    fast = replace(heard, bpm=2 * heard.bpm, beats=tuple(sorted([*heard.beats, *(np.array(heard.beats[:-1]) + 0.28)])))
    assert compare(heard, fast, way)["tempo"] == 0
    assert compare(heard, fast, way)["beats"] == pytest.approx(2 / 3, abs=0.02)


def test_what_cannot_be_heard_is_said_and_the_rest_goes_on(tmp_path: Path) -> None:
    save(sound()[: 12 * SR], tmp_path / "a.wav")
    (tmp_path / "b.wav").write_bytes(b"no sound at all")
    (tmp_path / "notes.txt").write_text("not a recording")
    found = find_recordings(tmp_path, 5)
    assert [p.name for p in found] == ["a.wav", "b.wav"]
    rows = [(path.name, name, result) for path, name, result in measure(found, 12.0, (BY_NAME["a quarter as loud"],))]
    assert rows[0][:2] == ("a.wav", "a quarter as loud")
    assert isinstance(rows[0][2], dict)
    assert rows[0][2]["root"] == 1
    assert rows[1][:2] == ("b.wav", "as it is")
    assert isinstance(rows[1][2], str)
