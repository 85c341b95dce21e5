"""arrangement.json: what both hands play, grip by grip and note by note. See docs/formats/arrangement.md."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from valley.errors import FormatError, ValleyError
from valley.formats._codec import from_plain, open_document, to_plain
from valley.fraction import Fraction
from valley.model.arrangement import Arrangement, Grip, HandNote, Link, PartArrangement, Pedal, PlayedNote
from valley.model.saying import Saying, own_words
from valley.theory.chord import Chord, parse_harte

FORMAT, VERSION = "valley-arrangement", 3


def dump_arrangement(arrangement: Arrangement) -> dict[str, Any]:
    """Plain data; beats are exact fractions written as texts ("7/2")."""
    return {
        "format": FORMAT,
        "version": VERSION,
        "style": arrangement.style,
        "level": arrangement.level,
        "hand": arrangement.hand,
        "keyboard": arrangement.keyboard,
        "frame": arrangement.frame,
        "parts": [_dump_part(p) for p in arrangement.parts],
    }


def _dump_part(part: PartArrangement) -> dict[str, Any]:
    around = zip((None, *part.grips), part.grips, (*part.grips[1:], None), strict=False)
    return {
        "part": part.part,
        "style": part.style,
        "level": part.level,
        "pattern": part.pattern,
        "grips": [_dump_grip(before, grip, after) for before, grip, after in around],
        "notes": [_dump_note(n) for n in part.notes],
        "links": [_dump_link(k) for k in part.links],
        "pedals": [{"start_beat": str(p.start), "end_beat": str(p.end)} | ({"written": True} if p.written else {}) for p in part.pedals],
        "notices": list(part.notices),
    }


def _dump_grip(before: Grip | None, grip: Grip, after: Grip | None) -> dict[str, Any]:
    return {
        "start_beat": str(grip.start),
        "duration_beat": str(grip.duration),
        "chord": grip.label,
        "symbol": grip.symbol,
        "inversion": grip.inversion,
        "left": [_dump_hand_note(n) for n in grip.left],
        "right": [_dump_hand_note(n) for n in grip.right],
        "reach_mm": {"left": grip.reach_left_mm, "right": grip.reach_right_mm},
        "omits": list(grip.omits),
        "kept_before": _shared(before, grip),
        "kept_after": _shared(after, grip),
        "why": grip.why,
        "hint": to_plain(grip.hint, Saying) if grip.hint else None,
        "caution": grip.caution,
        "locked": grip.locked,
    }


def _shared(other: Grip | None, grip: Grip) -> list[str]:
    held = {n.midi for n in other.notes} if other else set()
    return [n.pitch for n in grip.notes if n.midi in held]


def _dump_hand_note(note: HandNote) -> dict[str, Any]:
    return {"pitch": note.pitch, "midi": note.midi, "member": note.member, "finger": note.finger, "optional": note.optional}


_FLAGS = ("melody", "accent", "rings", "link", "grace", "optional", "crosses", "finger_set")


def _dump_note(note: PlayedNote) -> dict[str, Any]:
    plain = {
        "hand": note.hand,
        "start_beat": str(note.start),
        "duration_beat": str(note.duration),
        "midi": note.midi,
        "pitch": note.pitch,
        "finger": note.finger,
        "voice": note.voice,
    }
    source = {"source": note.source} if note.source != "proposed" else {}
    return plain | {flag: True for flag in _FLAGS if getattr(note, flag)} | source


def _dump_link(link: Link) -> dict[str, Any]:
    return {
        "kind": link.kind,
        "start_beat": str(link.start),
        "duration_beat": str(link.duration),
        "hand": link.hand,
        "notes": [_dump_note(n) for n in link.notes],
        "words": to_plain(link.words, Saying),
        "easier": [_dump_note(n) for n in link.easier],
        "easy_words": to_plain(link.easy_words, Saying),
        "taken": link.taken,
    }


def read_arrangement(data: object) -> Arrangement:
    """An Arrangement from plain data; FormatError names the place that is wrong."""
    data = open_document(data, FORMAT, VERSION, {2: lambda old: old})  # version 2 had sentences as texts, which are read as they stand
    where = "the document"
    try:
        parts = []
        for i, part in enumerate(data["parts"]):
            where = f"parts.{i}"
            parts.append(_read_part(part))
        return Arrangement(data["style"], data["hand"], str(data["keyboard"]), tuple(parts), data["level"], data.get("frame", ""))
    except (AttributeError, KeyError, OverflowError, TypeError, ValueError, ZeroDivisionError, ValleyError) as error:
        said = f"{error} is missing" if isinstance(error, KeyError) else str(error)
        raise FormatError(f"{FORMAT} is malformed at {where}: {said}") from error


def _read_part(data: dict[str, Any]) -> PartArrangement:
    return PartArrangement(
        int(data["part"]),
        data["style"],
        tuple(_read_grip(g) for g in data["grips"]),
        _read_notes(data["notes"]),
        data["level"],
        data["pattern"],
        tuple(_read_link(k) for k in data.get("links", [])),
        tuple(Pedal(Fraction(p["start_beat"]), Fraction(p["end_beat"]), bool(p.get("written"))) for p in data.get("pedals", [])),
        tuple(data.get("notices", [])),
    )


def _chord(label: object) -> Chord:
    chord = parse_harte(label) if isinstance(label, str) else None
    if chord is None:
        raise FormatError(f"chord={label!r} must be a chord; a rest has no grip")
    return chord


def _saying(data: object) -> Saying:
    return own_words(data) if isinstance(data, str) else from_plain(data, Saying, "the sentence")


def _read_grip(data: dict[str, Any]) -> Grip:
    def hand(notes: list[dict[str, Any]]) -> tuple[HandNote, ...]:
        return tuple(HandNote(n["pitch"], int(n["midi"]), n.get("member", ""), n.get("finger"), bool(n.get("optional"))) for n in notes)

    return Grip(
        Fraction(data["start_beat"]),
        Fraction(data["duration_beat"]),
        _chord(data["chord"]),
        hand(data["left"]),
        hand(data["right"]),
        float(data["reach_mm"]["left"]),
        float(data["reach_mm"]["right"]),
        tuple(data["omits"]),
        data["why"],
        _saying(data["hint"]) if data.get("hint") else None,
        data.get("caution", ""),
        data.get("inversion", ""),
        bool(data.get("locked")),
    )


def _flags(data: dict[str, Any]) -> dict[str, Any]:
    return {flag: bool(data.get(flag)) for flag in _FLAGS}


def _read_notes(rows: Sequence[dict[str, Any]]) -> tuple[PlayedNote, ...]:
    return tuple(
        PlayedNote(
            n["hand"],
            Fraction(n["start_beat"]),
            Fraction(n["duration_beat"]),
            int(n["midi"]),
            n["pitch"],
            finger=n.get("finger"),
            voice=int(n.get("voice", 1)),
            source=str(n.get("source", "proposed")),
            **_flags(n),
        )
        for n in rows
    )


def _read_link(data: dict[str, Any]) -> Link:
    return Link(
        data["kind"],
        Fraction(data["start_beat"]),
        Fraction(data["duration_beat"]),
        data["hand"],
        _read_notes(data["notes"]),
        _saying(data["words"]),
        _read_notes(data["easier"]),
        _saying(data["easy_words"]),
        data["taken"],
    )
