"""A made-up song with the truth a listener should find."""

from __future__ import annotations

from dataclasses import dataclass, field
from typing import Any


@dataclass
class Note:
    """A sounding note; times in seconds."""

    start: float
    end: float
    midi: int
    loud: float
    part: str


@dataclass
class Song:
    name: str
    genre: str
    seed: int
    meter: str
    bpm: float
    beats: list[float]
    downbeats: list[float]
    end: float
    keys: list[dict[str, Any]]
    chords: list[dict[str, Any]]
    sections: list[dict[str, Any]]
    notes: list[Note]
    programs: dict[str, int]
    levels: dict[str, float]
    sung: bool
    swing: float
    details: dict[str, Any] = field(default_factory=dict)

    def truth(self) -> dict[str, Any]:
        """What a perfect listener would hear, in the fields of hearing.json."""

        def rows(part: str) -> list[dict[str, Any]]:
            return [{"start": round(n.start, 4), "end": round(n.end, 4), "midi": n.midi} for n in self.notes if n.part == part]

        pitched = [n for n in self.notes if n.part != "drums"]
        group = {
            "hymn": "chorales",
            "piano": "piano",
            "leadsheet": "leadsheets",
            "artsong": "artsongs",
            "quartet": "quartets",
            "choir": "choirs",
            "dance": "dances",
        }.get(self.genre, "sung" if self.sung else "synthetic")
        out = {
            "title": self.name,
            "group": group,
            "genre": self.genre,
            "bpm": round(self.bpm, 3),
            "meter": self.meter,
            "end": round(self.end, 4),
            "beats": [round(b, 4) for b in self.beats],
            "downbeats": [round(b, 4) for b in self.downbeats],
            "keys": self.keys,
            "chords": self.chords,
            "melody": rows("melody") or rows("top"),
            "bass": rows("bass"),
            "sections": self.sections,
            "swing": self.swing,
            **self.details,
        }
        everything = [{"start": round(n.start, 4), "end": round(n.end, 4), "midi": n.midi} for n in sorted(pitched, key=lambda n: (n.start, n.midi))]
        return out | {"notes" if self.genre == "piano" else "all_notes": everything}
