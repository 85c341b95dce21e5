"""Random values thrown from one seed each.

A song has hundreds of choices in it. Drawn one by one they cost more than what is then made of the song; thrown from a seed they cost next to nothing. A
failure names its seed.
"""

from __future__ import annotations

import functools
import random
from collections.abc import Callable, Sequence
from typing import Concatenate, ParamSpec, TypeVar

from hypothesis import strategies as st

T = TypeVar("T")
P = ParamSpec("P")


class Dice:
    """The throws of one seed."""

    def __init__(self, rng: random.Random) -> None:
        self._rng = rng

    def between(self, low: int, high: int) -> int:
        return self._rng.randint(low, high)

    def coin(self) -> bool:
        return self._rng.random() < 0.5

    def one_of(self, options: Sequence[T]) -> T:
        return self._rng.choice(options)

    def maybe(self, options: Sequence[T]) -> T | None:
        return self.one_of(options) if self.coin() else None

    def some_of(self, options: Sequence[T], at_most: int) -> list[T]:
        return self._rng.sample(options, min(len(options), self.between(0, at_most)))

    def shuffled(self, options: Sequence[T]) -> list[T]:
        return self._rng.sample(options, len(options))


def thrown(throw: Callable[Concatenate[Dice, P], T]) -> Callable[P, st.SearchStrategy[T]]:
    """A strategy of what is thrown by a function of the dice."""

    @functools.wraps(throw)
    def strategy(*args: P.args, **options: P.kwargs) -> st.SearchStrategy[T]:
        return st.integers(0, 2**48).map(lambda seed: throw(Dice(random.Random(seed)), *args, **options))

    return strategy
