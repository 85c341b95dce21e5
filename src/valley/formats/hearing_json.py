"""hearing.json: what was heard, versioned. Documented in docs/formats/hearing.md."""

from __future__ import annotations

from pathlib import Path
from typing import Any

from valley.formats._codec import dump_document, load_json, read_document, save_json
from valley.model.hearing import Hearing

FORMAT, VERSION = "valley-hearing", 1


def dump_hearing(hearing: Hearing) -> dict[str, Any]:
    """Plain data, ready for JSON."""
    return dump_document(hearing, Hearing, FORMAT, VERSION)


def read_hearing(data: object) -> Hearing:
    """A Hearing from plain data; FormatError names the place that is wrong."""
    return read_document(data, Hearing, FORMAT, VERSION)


def load_hearing(path: str | Path) -> Hearing:
    return read_hearing(load_json(path))


def find_hearing(file: Path) -> Hearing | None:
    """The hearing in a file that is one; None for any other."""
    data = load_json(file) if file.suffix == ".json" else None
    return read_hearing(data) if isinstance(data, dict) and data.get("format") == FORMAT else None


def save_hearing(hearing: Hearing, path: str | Path) -> None:
    save_json(dump_hearing(hearing), path)
