"""Exact numbers: the standard library's Fraction, compiled.

Every time in Valley is an exact fraction of a beat, and comparing those is what most of its work consists of. The compiled class prints, hashes, compares
and mixes with the standard one and is three to ten times as quick (arranging takes 40 % less, a lesson half).
"""

import fractions
from collections.abc import Callable
from typing import TYPE_CHECKING

if TYPE_CHECKING:
    from fractions import Fraction
else:
    from quicktions import Fraction as _Compiled

    _STANDARD = {"type": "fraction"}
    _WRITTEN = {"type": "to-string", "when_used": "always"}

    class Fraction(_Compiled):
        """Makes compiled fractions; the only door to them, and the name that documents know them by."""

        __slots__ = ()

        def __new__(cls, numerator: object = 0, denominator: object = None) -> _Compiled:
            # Texts are read by the standard class: up to version 1.24 the compiled one writes into the interpreter's own one-byte texts while it reads.
            if isinstance(numerator, str):
                numerator = fractions.Fraction(numerator)
            return _Compiled(numerator, denominator)

        @classmethod
        def __get_pydantic_core_schema__(cls, source: object, handler: object) -> dict[str, object]:
            """In documents it stands as the standard one does; the codec asks for it by this method, nothing is imported for it."""
            made = {"type": "no-info", "function": _Compiled}
            return {"type": "function-after", "function": made, "schema": _STANDARD, "serialization": _WRITTEN}

        @classmethod
        def __get_pydantic_json_schema__(cls, schema: object, handler: Callable[[object], dict[str, object]]) -> dict[str, object]:
            return handler(_STANDARD)


__all__ = ["Fraction"]
