"""Edits as plain data, told apart by their ``kind``: how they are kept with the versions they made, and sent back with findings."""

from __future__ import annotations

from functools import cache
from typing import Annotated, Any

from pydantic import Field, TypeAdapter, ValidationError

from valley.edits import Edit
from valley.errors import FormatError


@cache
def _adapter() -> TypeAdapter[Edit]:
    return TypeAdapter(Annotated[Edit, Field(discriminator="kind")])


def dump_edit(edit: Edit) -> dict[str, Any]:
    """Plain data; beats are exact fractions written as texts."""
    plain: dict[str, Any] = _adapter().dump_python(edit, mode="json")
    return plain


def read_edit(data: object) -> Edit:
    """An edit from plain data; FormatError names the place that is wrong."""
    try:
        return _adapter().validate_python(data)
    except ValidationError as error:
        first = error.errors(include_url=False)[0]
        place = ".".join(str(p) for p in first["loc"]) or "the edit"
        raise FormatError(f"edit is malformed at {place}: {first['msg']}") from error
