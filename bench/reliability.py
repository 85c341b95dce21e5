"""Is a confidence worth its name? For every kind of item: how sure it was said to be, and how often it was right."""

from __future__ import annotations

from typing import Any

import numpy as np

Row = dict[str, Any]
Pairs = dict[str, list[tuple[float, bool]]]
KINDS = ("chords", "keys", "melody notes", "bass notes", "played notes", "section starts", "beats", "downbeats")


def pair_items(truth: Row, found: Row) -> Pairs:
    """Confidence and rightness of every item that has both."""
    out: Pairs = {kind: [] for kind in KINDS}
    out["chords"] = _chords(truth, found)
    for key in found["keys"]:
        middle = (key["start"] + key["end"]) / 2
        right = next((k for k in truth["keys"] if k["start"] <= middle < k["end"]), None)
        if right:
            out["keys"].append((key["confidence"], (key["tonic"], key["mode"]) == (right["tonic"], right["mode"])))
    for kind, ours, theirs in (("melody notes", "melody", "melody"), ("bass notes", "bass", "bass"), ("played notes", "notes", "notes")):
        if truth.get(theirs) and found.get(ours):
            out[kind] = _notes(truth[theirs], found[ours])
    if truth.get("sections"):
        starts = np.array([s["start"] for s in truth["sections"]])
        out["section starts"] = [(s["confidence"], bool(np.abs(starts - s["start"]).min() < 3)) for s in found["sections"][1:]]
    for kind, field, sure, within in (("beats", "beats", "beat_confidence", 0.07), ("downbeats", "downbeats", "meter_confidence", 0.07)):
        if found.get(sure) is not None and truth.get(field):
            times = np.array(truth[field])
            out[kind] = [(found[sure], bool(np.abs(times - t).min() < within)) for t in found[field] if times[0] - 0.5 < t < times[-1] + 0.5]
    return out


def _chords(truth: Row, found: Row) -> list[tuple[float, bool]]:
    from valley.theory.chord import parse_harte

    pairs = []
    for chord in found["chords"]:
        middle = (chord["start"] + chord["end"]) / 2
        label = next((c["label"] for c in truth["chords"] if c["start"] <= middle < c["end"]), "N")
        if "confidence" not in chord or label in ("N", "X"):
            continue
        ours, theirs = parse_harte(chord["label"]), parse_harte(label)
        right = (
            ours is not None and theirs is not None and ours.pitch_classes() == theirs.pitch_classes() and (ours.bass.pitch_class == theirs.bass.pitch_class)
        )
        pairs.append((chord["confidence"], right))
    return pairs


def _notes(truth: list[Row], found: list[Row]) -> list[tuple[float, bool]]:
    """A note is right if a true one of its pitch begins within 50 ms; each true one counts once."""
    free: dict[int, list[float]] = {}
    for note in truth:
        free.setdefault(note["midi"], []).append(note["start"])
    pairs = []
    for note in found:
        places = free.get(note["midi"], [])
        near = min(places, key=lambda t: abs(t - note["start"]), default=None)
        right = near is not None and abs(near - note["start"]) <= 0.05
        if right and near is not None:
            places.remove(near)
        pairs.append((note.get("confidence", 1.0), right))
    return pairs


def tabulate(pairs: list[tuple[float, bool]]) -> list[Row]:
    """Shares in steps of ten per cent."""
    table = []
    for low in np.arange(0, 1, 0.1):
        inside = [(c, right) for c, right in pairs if low <= c < low + 0.1 or (low > 0.85 and c >= 1)]
        if inside:
            table.append(
                {
                    "said": f"{100 * low:.0f}–{100 * low + 10:.0f} %",
                    "items": len(inside),
                    "mean": float(np.mean([c for c, _ in inside])),
                    "right": float(np.mean([r for _, r in inside])),
                }
            )
    return table


def calibration_error(pairs: list[tuple[float, bool]]) -> float:
    """Mean distance between said and true frequency, weighted by items."""
    table = tabulate(pairs)
    total = sum(r["items"] for r in table)
    return sum(r["items"] * abs(r["mean"] - r["right"]) for r in table) / total if total else 0.0
