"""Scores of one estimate against one truth, by mir_eval, the field's reference.

Conventions: chord intervals cover the song from 0 to its last chord's end; melody is compared every 10 ms;
notes match within 50 ms and half a semitone; sections are read from the first to the last true one.
"""

from __future__ import annotations

import warnings
from typing import Any

import mir_eval
import numpy as np

Row = dict[str, Any]
warnings.filterwarnings("ignore", module="mir_eval")
METRICS = (
    "beat F",
    "beat CMLt",
    "beat AMLt",
    "downbeat F",
    "tempo",
    "tuning cents off",
    "key mirex",
    "key exact",
    "chord root",
    "chord majmin",
    "chord majmin inv",
    "chord sevenths",
    "chord sevenths inv",
    "chord seg",
    "melody accuracy",
    "melody pitch",
    "melody false alarms",
    "melody onset F1",
    "bass onset F1",
    "played notes F1",
    "played notes recall",
    "played notes with ends",
    "section F 0.5 s",
    "section F 3 s",
    "section pairwise",
)


def score(truth: Row, found: Row) -> dict[str, float]:
    """Every metric whose truth is there; a field that was not found counts as 0."""
    out: dict[str, float] = {}
    out |= _beats(truth, found)
    out |= _keys(truth, found)
    out |= _chords(truth, found)
    out |= _notes(truth, found)
    out |= _sections(truth, found)
    return out


def _beats(truth: Row, found: Row) -> dict[str, float]:
    def trimmed(times: list[float]) -> np.ndarray:
        return np.asarray(mir_eval.beat.trim_beats(np.unique(np.array(times, float))))

    reference, estimate = trimmed(truth["beats"]), trimmed(found["beats"])
    out = {"beat F": 0.0, "beat CMLt": 0.0, "beat AMLt": 0.0, "downbeat F": 0.0}
    if len(estimate) > 1:
        out["beat F"] = mir_eval.beat.f_measure(reference, estimate)
        _, out["beat CMLt"], _, out["beat AMLt"] = mir_eval.beat.continuity(reference, estimate)
    if len(found["downbeats"]) > 1:
        out["downbeat F"] = mir_eval.beat.f_measure(trimmed(truth["downbeats"]), trimmed(found["downbeats"]))
    out["tempo"] = float(abs(found["bpm"] / truth["bpm"] - 1) <= 0.04)
    if truth.get("tuning_cents") is not None:
        out["tuning cents off"] = abs((found["tuning_cents"] - truth["tuning_cents"] + 50) % 100 - 50)
    return out


def _keys(truth: Row, found: Row) -> dict[str, float]:
    weighted = exact = total = 0.0
    for r in truth["keys"]:
        total += r["end"] - r["start"]
        for e in found["keys"]:
            overlap = min(r["end"], e["end"]) - max(r["start"], e["start"])
            if overlap > 0:
                s = mir_eval.key.weighted_score(f"{r['tonic']} {r['mode']}", f"{e['tonic']} {e['mode']}")
                weighted += overlap * s
                exact += overlap * (s == 1)
    return {"key mirex": min(1.0, weighted / total), "key exact": min(1.0, exact / total)} if total else {}


def cover(rows: list[Row], start: float, end: float, fill: str) -> tuple[np.ndarray, list[str]]:
    """Intervals without gaps from start to end, and their labels."""
    intervals, labels, now = [], [], start
    for r in sorted(rows, key=lambda row: row["start"]):
        a, b = max(now, r["start"]), min(end, r["end"])
        if b - a < 1e-4:
            continue
        if a - now > 1e-4:
            intervals.append((now, a))
            labels.append(fill)
        intervals.append((a if a - now > 1e-4 else now, b))
        labels.append(str(r["label"]))
        now = b
    if end - now > 1e-4:
        intervals.append((now, end))
        labels.append(fill)
    return np.array(intervals), labels


def _chords(truth: Row, found: Row) -> dict[str, float]:
    end = truth["chords"][-1]["end"]
    result = mir_eval.chord.evaluate(*cover(truth["chords"], 0, end, "N"), *cover(found["chords"], 0, end, "N"))
    names = {"root": "root", "majmin": "majmin", "majmin inv": "majmin_inv", "sevenths": "sevenths", "sevenths inv": "sevenths_inv", "seg": "seg"}
    return {f"chord {k}": float(result[v]) for k, v in names.items()}


def _hertz(notes: list[Row], frames: int) -> np.ndarray:
    out = np.zeros(frames)
    for n in notes:
        out[max(0, round(n["start"] * 100)) : max(0, round(n["end"] * 100))] = 440 * 2 ** ((n["midi"] - 69) / 12)
    return out


def onset_f1(truth: list[Row], found: list[Row]) -> float:
    if not found:
        return 0.0

    result = mir_eval.transcription.precision_recall_f1_overlap(*_spans(truth), *_spans(found), offset_ratio=None)
    return float(result[2])


def _spans(notes: list[Row]) -> tuple[np.ndarray, np.ndarray]:
    spans = np.array([[n["start"], max(n["end"], n["start"] + 1e-3)] for n in notes], float)
    return spans, np.array([440 * 2 ** ((n["midi"] - 69) / 12) for n in notes])


def _notes(truth: Row, found: Row) -> dict[str, float]:
    out: dict[str, float] = {}
    if truth.get("melody"):
        frames = int(truth["end"] * 100) + 1
        times = np.arange(frames) / 100
        result = mir_eval.melody.evaluate(times, _hertz(truth["melody"], frames), times, _hertz(found["melody"], frames))
        out |= {"melody accuracy": result["Overall Accuracy"], "melody pitch": result["Raw Pitch Accuracy"]}
        out["melody false alarms"] = result["Voicing False Alarm"]  # how often a tune is said to sound where there is none: the less the better
        out["melody onset F1"] = onset_f1(truth["melody"], found["melody"])
    if truth.get("bass"):
        out["bass onset F1"] = onset_f1(truth["bass"], found["bass"])
    if truth.get("notes"):
        out |= _played(truth["notes"], found.get("notes", []))
    return out


def _played(truth: list[Row], found: list[Row]) -> dict[str, float]:
    """Every note of a piano: by its beginning, and by its end as well."""
    if not found:
        return {"played notes F1": 0.0, "played notes recall": 0.0, "played notes with ends": 0.0}
    by_onset = mir_eval.transcription.precision_recall_f1_overlap(*_spans(truth), *_spans(found), offset_ratio=None)
    whole = mir_eval.transcription.precision_recall_f1_overlap(*_spans(truth), *_spans(found))
    return {"played notes F1": float(by_onset[2]), "played notes recall": float(by_onset[1]), "played notes with ends": float(whole[2])}


def _sections(truth: Row, found: Row) -> dict[str, float]:
    if not truth.get("sections"):
        return {}
    start, end = truth["sections"][0]["start"], truth["sections"][-1]["end"]
    reference, labels = cover(truth["sections"], start, end, "gap")
    estimate, found_labels = cover(found["sections"], start, end, "gap")
    reference, estimate = reference - start, estimate - start
    return {
        "section F 0.5 s": mir_eval.segment.detection(reference, estimate, window=0.5, trim=True)[2],
        "section F 3 s": mir_eval.segment.detection(reference, estimate, window=3.0, trim=True)[2],
        "section pairwise": mir_eval.segment.pairwise(reference, labels, estimate, found_labels)[2],
    }
