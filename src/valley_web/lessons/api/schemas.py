"""Arrangements, lessons and hand-outs for the browser."""

from ninja import Schema


class StyleOut(Schema):
    name: str
    title: str
    summary: str


class ChoicesOut(Schema):
    styles: list[StyleOut]
    hands: list[str]
    keyboards: list[int]


class HandNoteOut(Schema):
    pitch: str
    midi: int
    member: str
    kept: bool


class GripOut(Schema):
    start_beats: float
    duration_beats: float
    bar: int
    beat: float
    count: str
    symbol: str
    inversion: str
    left: list[HandNoteOut]
    right: list[HandNoteOut]
    reach_left_mm: float
    reach_right_mm: float
    strained: bool
    omits: list[str]
    why: str
    move: str


class PlayedNoteOut(Schema):
    hand: str
    start_beats: float
    duration_beats: float
    midi: int
    pitch: str
    melody: bool


class PartArrangementOut(Schema):
    part: int
    grips: list[GripOut]
    notes: list[PlayedNoteOut]


class ArrangementOut(Schema):
    revision: int
    style: str
    hand: str
    comfort_mm: float
    most_mm: float
    lowest: int
    highest: int
    parts: list[PartArrangementOut]


class StepOut(Schema):
    title: str
    lines: list[str]
    part: int | None


class HandoutOut(Schema):
    name: str
    title: str
    summary: str
    address: str


class HandoutsOut(Schema):
    files: list[HandoutOut]
    steps: list[StepOut]
    caution: str
