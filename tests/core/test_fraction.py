"""The compiled fraction is the standard one, and leaves the interpreter as it was."""

import fractions
import pickle

import pytest
from hypothesis import given
from hypothesis import strategies as st

from valley.fraction import Fraction

numbers = st.fractions(min_value=-1000, max_value=1000, max_denominator=96)


@given(numbers, numbers)
def test_it_reckons_as_the_standard_one(a: fractions.Fraction, b: fractions.Fraction) -> None:
    x, y = Fraction(a.numerator, a.denominator), Fraction(b)
    assert (x, y) == (a, b) and hash(x) == hash(a) and str(x) == str(a) and repr(x) == repr(a)
    assert (x + y, x - y, x * y, -x, abs(x), x // 1, x % 1) == (a + b, a - b, a * b, -a, abs(a), a // 1, a % 1)
    assert (x < y, x <= y, x == y, round(x), int(x), float(x)) == (a < b, a <= b, a == b, round(a), int(a), float(a))
    assert x + b == a + y == a + b and (not b or x / y == a / b)
    assert x.limit_denominator(48) == a.limit_denominator(48)
    assert pickle.loads(pickle.dumps(x)) == a  # noqa: S301 - our own


@given(numbers)
def test_texts_are_read_and_nothing_else_changes(a: fractions.Fraction) -> None:
    """Reading a text with the compiled class itself would write into the text that bytes([0]) gives everyone."""
    assert Fraction(str(a)) == a
    assert [bytes([n])[0] for n in range(256)] == list(range(256))


def test_what_is_no_number_is_refused() -> None:
    with pytest.raises(ValueError, match="Invalid literal for Fraction"):
        Fraction("a bar")
    with pytest.raises(ZeroDivisionError):
        Fraction(1, 0)
