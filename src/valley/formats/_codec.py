"""JSON in and out of the model's frozen values, by their own type hints (pydantic does the checking)."""

from __future__ import annotations

import json
import os
import re
import tempfile
from collections.abc import Callable, Hashable, Mapping
from functools import cache
from pathlib import Path
from types import MappingProxyType
from typing import Any, TypeVar, cast

from pydantic import TypeAdapter, ValidationError

from valley.errors import FormatError
from valley.theory.amounts import require_plain_numbers

T = TypeVar("T")
# Half of a pair of surrogates: Python reads it, no database or file can keep it.
_LONE = re.compile(r"\\u[dD][89abAB][0-9a-fA-F]{2}(?!\\u[dD][c-fC-F])|(?<!\\u[dD][89abAB][0-9a-fA-F]{2})\\u[dD][c-fC-F][0-9a-fA-F]{2}")


@cache
def _cached_adapter(kind: Any) -> TypeAdapter[Any]:
    return TypeAdapter(kind)


def _adapter(kind: type[Any]) -> TypeAdapter[Any]:
    return _cached_adapter(cast(Hashable, kind))  # classes are hashable, which mypy does not see of type[Any]


def to_plain(value: object, kind: type[Any]) -> dict[str, Any]:
    """A value as JSON-ready dicts and lists; fractions become texts such as "7/2"."""
    plain: dict[str, Any] = _adapter(kind).dump_python(value, mode="json")
    return plain


def from_plain(data: object, kind: type[T], what: str) -> T:
    """Build a value from plain data, or say in one sentence where it is wrong."""
    try:
        value: T = _adapter(kind).validate_python(data)
    except ValidationError as error:
        first = error.errors(include_url=False)[0]
        place = ".".join(str(p) for p in first["loc"]) or "the document"
        raise FormatError(f"{what} is malformed at {place}: {first['msg'].removeprefix('Value error, ')}") from error
    return value


def dump_document(value: object, kind: type[Any], name: str, version: int) -> dict[str, Any]:
    """A document: its format's name and version, then the value's fields."""
    return {"format": name, "version": version} | to_plain(value, kind)


def write_document(value: object, kind: type[Any], name: str, version: int) -> str:
    """What ``dump_document`` gives, written as JSON at once: several times as quick as by way of dicts and lists."""
    head = json.dumps({"format": name, "version": version})[:-1]
    fields = _adapter(kind).dump_json(value).decode()
    return f"{head}, {fields[1:]}" if fields != "{}" else head + "}"


Fold = Callable[[dict[str, Any]], dict[str, Any]]
"""From the fields of an older version of a document to those of the next."""


def open_document(data: object, name: str, version: int, folds: Mapping[int, Fold] = MappingProxyType({})) -> dict[str, Any]:
    """A document's fields as this version has them, after its name and version are checked; older ones are folded over, step by step."""
    if not isinstance(data, dict) or data.get("format") != name:
        found = data.get("format") if isinstance(data, dict) else type(data).__name__
        raise FormatError(f"format={found!r} must be {name!r}; this is another kind of file")
    found = data.get("version")
    if not isinstance(found, int) or (found != version and found not in folds):
        readable = ", ".join(str(v) for v in (*sorted(folds), version))
        raise FormatError(f"version={found!r} of {name} cannot be read here; this Valley reads version {readable}")
    fields = {k: v for k, v in data.items() if k not in ("format", "version")}
    for old in range(found, version):
        try:
            fields = folds[old](fields)
        except (AttributeError, KeyError, TypeError, IndexError) as error:
            raise FormatError(f"{name} of version {old} is malformed: {type(error).__name__} {error}") from error
    return fields


def read_document(data: object, kind: type[T], name: str, version: int, folds: Mapping[int, Fold] = MappingProxyType({})) -> T:
    """The value of a document of this version or an older one."""
    return from_plain(open_document(data, name, version, folds), kind, name)


def parse_json(text: str) -> object:
    """Parse JSON, or say where it breaks."""
    require_plain_numbers(text)
    if lone := _LONE.search(text):
        raise FormatError(f"it holds half a letter, {lone[0]}, which no text can be written with")
    try:
        return json.loads(text)
    except json.JSONDecodeError as error:
        raise FormatError(f"it is not JSON: line {error.lineno}, {error.msg}") from error
    except (RecursionError, ValueError) as error:
        raise FormatError("it is not JSON that can be read: brackets stand too deep in each other") from error


def load_json(path: str | Path) -> object:
    """Parse a JSON file, or say where it breaks."""
    try:
        return parse_json(Path(path).read_text("utf-8-sig"))
    except (FormatError, UnicodeDecodeError) as error:
        raise FormatError(f"{Path(path).name!r} cannot be read: {error}") from error


def save_bytes(data: bytes, path: str | Path) -> None:
    """Write a file whole or not at all: into a temporary neighbour, synced, then renamed."""
    target = Path(path)
    handle, temporary = tempfile.mkstemp(dir=target.parent, prefix=f".{target.name[:40]}.")
    try:
        with os.fdopen(handle, "wb") as file:
            file.write(data)
            file.flush()
            os.fsync(file.fileno())
        os.chmod(temporary, 0o644)
        os.replace(temporary, target)
    except BaseException:
        Path(temporary).unlink(missing_ok=True)
        raise


def save_json(data: object, path: str | Path) -> None:
    save_bytes((json.dumps(data, ensure_ascii=False, indent=1) + "\n").encode(), path)
