"""Rows of things that follow each other."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from typing import TypeVar

T = TypeVar("T")


def with_next(rows: Sequence[T]) -> Iterator[tuple[T, T | None]]:
    """Each with the one after it, the last with None; nothing of nothing.

    >>> list(with_next("ab")), list(with_next(""))
    ([('a', 'b'), ('b', None)], [])
    """
    for i, row in enumerate(rows):
        yield row, rows[i + 1] if i + 1 < len(rows) else None
