"""Teach where sentences begin in words without stops, and which "a" is the note, from the talks whose sentences are known.

    python training/train_captions.py src/valley/lesson/proof/captions.json

Needs scikit-learn; half a minute. Prints how it does on each fifth of the talks with the weights of the others, then writes those of all.
"""

from __future__ import annotations

import json
import re
import sys
from collections.abc import Iterable
from pathlib import Path

import numpy as np
from scipy.sparse import csr_matrix
from sklearn.linear_model import LogisticRegression

ROOT = Path(__file__).parent.parent
sys.path[:0] = [str(ROOT / "src"), str(ROOT)]
from bench.free_speech import SETS, SPEECH, load

from valley.lesson.proof import _captions as captions

WITHOUT_STOPS = "talk/firth.shut.flow.txt"  # as a machine wrote it down: kept to be looked at
TALKS = [name for name in SETS if ".flow." in name and name != WITHOUT_STOPS]
SENTENCES = [name for name in SETS if ".flow." not in name]  # told one by one: taught, but not looked at afterwards
Row = tuple[list[str], bool]
_NOTE, _SIGN = re.compile(r"[A-G](?:\d|m7?)?"), ("flat", "sharp", "natural", "minor", "major", "and", "over", "seven")


def read(name: str) -> list[tuple[str, str, bool, bool]]:
    """Every word of a talk's right lines: in lower case, the stops behind it, whether a sentence begins with it, or a clause with a hand of its own, and
    whether it is the note A."""
    out = list[tuple[str, str, bool, bool]]()
    for line in load(SPEECH / name):
        if line.wrong:
            continue
        text = re.sub(r"\b([A-G])b\b", r"\1 flat", re.sub(r"\b([A-G])#", r"\1 sharp", line.text))
        for sentence in re.split(r"(?<=[.!?;])\s+", text):
            words = re.findall(r"([^\s.,;:!?…–—()\"“”-]+)([^\s\w'’]*)", sentence)
            for i, (word, stops) in enumerate(words):
                begins = i == 0 or captions.begins_clause([w.lower() for w, _ in words], i)
                out.append((word.lower(), stops, begins, word == "A" and (i > 0 or _is_listed([w for w, _ in words], stops))))
    return out


def _is_listed(words: list[str], stops: str) -> bool:
    """Whether the "A" that begins a sentence is the note: it is told by itself, or two more follow."""
    return bool(stops) or words[1:2] in ([w] for w in _SIGN) or sum(_NOTE.fullmatch(w) is not None for w in words[1:6]) > 1


def beginnings(name: str) -> list[Row]:
    talk = read(name)
    words = [w for w, *_ in talk]
    kinds = [captions.kind_of(words, i) for i in range(len(words))]
    rows, last = list[Row](), 0
    for i, (_, _, begins, _) in enumerate(talk):
        if i:
            rows.append(([*captions.signs_of_beginning(kinds, i, i - last)], begins))
        last = i if begins else last
    return rows


def notes(name: str) -> list[Row]:
    """Each "a" as it is written, and without any stops."""
    talk = read(name)
    words = [w for w, *_ in talk]
    here = [i for i, w in enumerate(words) if w == "a" and captions.kind_of(words, i) == "a"]
    told = [[s for _, s, *_ in talk], [""] * len(talk)]
    return [([*captions.signs_of_note(words, stops, i)], talk[i][3]) for stops in told for i in here]


def teach(rows: list[Row], freedom: float) -> dict[str, float]:
    """Weights of signs, most of them none (L1)."""
    index: dict[str, int] = {}
    places = [(k, index.setdefault(sign, len(index))) for k, (signs, _) in enumerate(rows) for sign in signs]
    at, of = zip(*places, strict=True)
    seen = csr_matrix((np.ones(len(at)), (at, of)), shape=(len(rows), len(index)))
    model = LogisticRegression(C=freedom, l1_ratio=1, solver="liblinear", max_iter=1000, random_state=1).fit(seen, [answer for _, answer in rows])
    weights = {sign: round(float(model.coef_[0][j]), 2) for sign, j in index.items()}
    return {"": round(float(model.intercept_[0]), 2)} | {sign: w for sign, w in sorted(weights.items()) if w}


def check(question: str, rows: dict[str, list[Row]], freedom: float) -> None:
    right = false = missed = 0
    for k in range(5):
        weights = teach([row for name in (*SENTENCES, *(t for i, t in enumerate(TALKS) if i % 5 != k)) for row in rows[name]], freedom)
        for signs, answer in (row for name in TALKS[k::5] for row in rows[name]):
            said = weights[""] + sum(weights.get(sign, 0.0) for sign in signs) > 0
            right += said and answer
            false += said and not answer
            missed += answer and not said
    print(f"{question}: {right} found, {false} falsely, {missed} missed", flush=True)


def main(out: Iterable[str]) -> None:
    found = {}
    for question, make, freedom in (("sentence", beginnings, 3.0), ("note a", notes, 1.0)):
        rows = {name: make(name) for name in (*TALKS, *SENTENCES)}
        check(question, rows, freedom)
        found[question] = teach([row for told in rows.values() for row in told], freedom)
    for path in out:
        Path(path).write_text(json.dumps(found, indent=0, ensure_ascii=False) + "\n", "utf-8")


if __name__ == "__main__":
    main(sys.argv[1:])
