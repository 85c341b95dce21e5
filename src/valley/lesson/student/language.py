"""What a learner must know of a language: its sentences as patterns, and its words for counts, lengths and places."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass


@dataclass(frozen=True)
class Language:
    """``patterns`` by what a sentence asks for; ``{keys}`` and ``{strokes}`` in them stand for names of keys and for what is struck.

    Groups that every language fills alike: bar, first, last, pickup, part, model, from, to, way, size, chord, chords, times, length, hand, strokes, count.
    """

    title: str
    patterns: Mapping[str, str]
    stroke: str
    right: tuple[str, ...]  # what the right hand is called where a hand is named
    left: tuple[str, ...]
    if_you_like: str
    also: str
    up: str
    values: Mapping[str, tuple[int, int]]
    intervals: Mapping[str, int]
    places: Mapping[int, tuple[str, ...]]
    numbered: tuple[str, ...]
    all_keys: str
    each_chord: str
    between: Mapping[str, tuple[int, int]]
    share_after: str  # groups share, beat
    shares: Mapping[str, tuple[int, int]]  # as they stand after a whole number
    halves: Mapping[str, str]  # unit: half of one
    share_of: str  # groups share, unit
    with_share: str  # groups whole, share
    units: Mapping[str, str]  # unit: pattern of one or several
    one_bar: str
    run_each: str  # groups chords, length
    run_one: str  # groups chord, length
    then: str
    octaves: Mapping[str, int]  # the octave of a key in words, "{}" for its name
    signs: Mapping[str, str]  # spoken signs and syllables, as in English
