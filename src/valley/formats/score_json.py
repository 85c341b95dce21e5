"""The notes of a score as they are played, as one document: handed from the process that reads a long file to the one that asked for it."""

from __future__ import annotations

from valley.formats._codec import read_document, write_document
from valley.model.score import Score

FORMAT, VERSION = "valley-score", 1


def write_score(score: Score) -> str:
    return write_document(score, Score, FORMAT, VERSION)


def read_score(data: object) -> Score:
    """A score from plain data; FormatError names the place that is wrong."""
    return read_document(data, Score, FORMAT, VERSION)
