"""Genres: how metre, tempo, harmony, instruments and feel go together."""

from __future__ import annotations

from dataclasses import dataclass


@dataclass(frozen=True)
class Genre:
    meters: tuple[str, ...]
    bpm: tuple[int, int]  # quarters (dotted quarters in 6/8) a minute
    rhythm: tuple[float, ...]  # bars a chord
    richness: str
    comps: tuple[str, ...]
    basses: tuple[str, ...]
    drums: tuple[str, ...]
    programs: tuple[int, ...]  # of the chord instrument
    leads: tuple[int, ...]
    drift: float = 0.006
    swing: float = 0.0  # chance of a swung feel
    rubato: float = 0.0


_PIANOS = (0, 0, 1, 2, 4, 5)
_GUITARS = (24, 25, 26, 27)
_LEADS = (0, 11, 22, 26, 40, 42, 52, 53, 54, 56, 60, 64, 65, 66, 68, 71, 73, 74, 75, 79, 80, 81, 82, 85)
GENRES: dict[str, Genre] = {
    "ballad": Genre(
        ("4/4", "4/4", "6/8"),
        (56, 84),
        (1, 1, 0.5, 2),
        "pop",
        ("held", "beats", "eighths", "arpeggio"),
        ("held", "held", "pushed", "dotted"),
        ("none", "backbeat", "half time", "shaker"),
        _PIANOS,
        _LEADS,
    ),
    "pop": Genre(
        ("4/4",),
        (84, 132),
        (1, 1, 0.5, 2),
        "pop",
        ("eighths", "beats", "strum", "syncopated", "arpeggio", "offbeat"),
        ("held", "eighths", "root and fifth", "dotted", "pushed", "beats"),
        ("backbeat", "four", "busy", "half time"),
        (0, 4, 24, 25, 26, 27, 48, 89, 90),
        _LEADS,
    ),
    "rock": Genre(
        ("4/4", "4/4", "2/4"),
        (96, 172),
        (1, 1, 2, 0.5),
        "plain",
        ("eighths", "beats", "held", "strum"),
        ("eighths", "beats", "dotted", "octaves"),
        ("backbeat", "busy"),
        (25, 26, 27, 28, 29, 30, 16, 18),
        _LEADS,
    ),
    "soul": Genre(
        ("4/4",),
        (66, 116),
        (1, 1, 0.5),
        "rich",
        ("charleston", "offbeat", "beats", "held", "syncopated"),
        ("dotted", "walking", "pushed", "root and fifth"),
        ("backbeat", "busy", "brush"),
        (4, 5, 26, 0, 16),
        _LEADS,
        swing=0.5,
    ),
    "folk": Genre(
        ("3/4", "3/4", "6/8", "4/4", "2/4"),
        (66, 150),
        (1, 1, 2, 0.5),
        "plain",
        ("strum", "arpeggio", "second half", "alberti", "beats"),
        ("held", "root and fifth", "beats"),
        ("none", "shaker", "brush", "none"),
        (*_GUITARS, 15, 21, 46, 0),
        _LEADS,
        0.01,
    ),
    "electronic": Genre(
        ("4/4",),
        (100, 140),
        (1, 2, 1),
        "pop",
        ("held", "eighths", "arpeggio", "offbeat", "syncopated"),
        ("eighths", "octaves", "held"),
        ("four", "four", "busy"),
        (50, 51, 62, 63, 81, 89, 90, 91),
        _LEADS,
        0.0,
    ),
    "swing": Genre(
        ("4/4", "3/4"),
        (80, 180),
        (1, 0.5, 0.5),
        "rich",
        ("charleston", "held", "offbeat"),
        ("walking", "root and fifth", "walking"),
        ("brush", "none"),
        (0, 4, 26),
        _LEADS,
        swing=0.9,
    ),
    "waltz": Genre(
        ("3/4",),
        (84, 180),
        (1, 1, 2),
        "plain",
        ("second half", "second half", "arpeggio", "held"),
        ("held",),
        ("none", "brush"),
        (0, 21, 24, 46, 48),
        _LEADS,
        0.012,
    ),
    "chamber": Genre(
        ("4/4", "3/4", "6/8"),
        (54, 120),
        (1, 0.5),
        "romantic",
        ("held", "arpeggio", "alberti", "tremolo", "beats"),
        ("held", "beats"),
        ("none",),
        (48, 49, 46, 19, 6, 68, 52),
        _LEADS,
        0.012,
    ),
    "leadsheet": Genre(
        ("4/4", "3/4"),
        (70, 190),
        (1, 0.5, 1),
        "rich",
        ("beats", "held", "charleston", "second half"),
        ("held", "walking", "root and fifth"),
        ("none", "brush"),
        (0, 0, 4, 24),
        (0, 65, 66, 56, 73, 71, 40, 11),
        swing=0.4,
    ),
    "artsong": Genre(
        ("4/4", "3/4", "6/8", "2/4"),
        (56, 112),
        (1, 0.5, 0.5),
        "romantic",
        ("arpeggio", "eighths", "beats", "alberti", "tremolo"),
        ("held", "beats"),
        ("none",),
        (0, 1),
        (52, 53, 54, 40, 42, 68),
        0.015,
        rubato=0.5,
    ),
    "fast": Genre(
        ("4/4",),
        (140, 206),
        (1, 2, 0.5),
        "plain",
        ("eighths", "beats", "held", "strum", "offbeat"),
        ("eighths", "beats", "octaves", "held"),
        ("backbeat", "half time", "busy"),
        (26, 27, 28, 29, 30, 18, 0),
        _LEADS,
    ),
    "slow": Genre(
        ("4/4", "4/4", "3/4", "6/8"),
        (44, 68),
        (1, 0.5, 1),
        "romantic",
        ("held", "beats", "arpeggio", "second half"),
        ("held", "held", "beats"),
        ("none", "none", "half time"),
        (0, 0, 4, 24, 48, 89),
        _LEADS,
        0.012,
        rubato=0.3,
    ),
    "groove": Genre(
        ("4/4",),
        (70, 112),
        (1, 2, 1),
        "rich",
        ("syncopated", "offbeat", "charleston", "held"),
        ("dotted", "pushed", "octaves", "held"),
        ("busy", "half time", "backbeat"),
        (4, 5, 26, 27, 16, 7, 89),
        _LEADS,
        swing=0.25,
    ),
    "march": Genre(
        ("2/4", "2/4", "4/4", "6/8"),
        (92, 132),
        (1, 1, 0.5),
        "plain",
        ("offbeat", "offbeat", "beats", "second half"),
        ("root and fifth", "beats", "held"),
        ("backbeat", "brush", "none"),
        (0, 0, 61, 21, 48, 60),
        _LEADS,
    ),
    "hymn": Genre(("4/4", "4/4", "3/4"), (60, 112), (0.25,), "hymn", (), (), ("none",), (19, 16, 52, 48, 0, 20, 53, 61), (), 0.006, rubato=0.15),
    "odd": Genre(
        ("5/4", "5/4", "7/4", "9/8", "12/8"),
        (70, 150),
        (1, 1, 2),
        "pop",
        ("beats", "held", "arpeggio", "eighths", "strum"),
        ("held", "beats", "eighths"),
        ("backbeat", "busy", "none", "shaker"),
        (0, 4, 24, 26, 48),
        _LEADS,
    ),
    "piano": Genre(("4/4", "4/4", "3/4", "6/8", "2/4"), (56, 148), (1, 1, 0.5), "romantic", (), (), ("none",), (0, 0, 0, 1, 2), (), 0.012, rubato=0.4),
}
WEIGHTS = {  # "odd" is written only where it is asked for
    "ballad": 3,
    "pop": 4,
    "rock": 3,
    "soul": 3,
    "folk": 3,
    "electronic": 3,
    "swing": 2,
    "waltz": 2,
    "chamber": 2,
    "leadsheet": 2,
    "artsong": 3,
    "hymn": 4,
    "piano": 7,
    "fast": 4,
    "slow": 4,
    "groove": 2,
    "march": 2,
}
QUARTERS = {"4/4": (4, 1.0), "3/4": (3, 1.0), "2/4": (2, 1.0), "6/8": (2, 1.5), "5/4": (5, 1.0), "7/4": (7, 1.0), "9/8": (3, 1.5), "12/8": (4, 1.5)}
