"""The catalogue and the code that speaks: every phrase that is said is in it, with the values it wants, and nothing stands in it for nobody."""

from __future__ import annotations

import ast
import re
import string
from pathlib import Path

import pytest

import valley
from valley.phrases.en import PHRASES

CORE = Path(valley.__file__).parent
_ANY = re.compile(r"\{[^}]*\}")


def sayings() -> list[tuple[str, str, set[str] | None]]:
    """Every ``say(phrase, …)`` of the core: place, phrase (a pattern where parts of it are filled in), names of its values (None where they are spread)."""
    found = []
    for path in sorted(CORE.rglob("*.py")):
        if path.parent.name == "commands":  # what the command line prints is no part of a lesson
            continue
        for node in ast.walk(ast.parse(path.read_text("utf-8"))):
            if not (isinstance(node, ast.Call) and isinstance(node.func, ast.Name) and node.func.id == "say" and node.args):
                continue
            names = None if any(k.arg is None for k in node.keywords) else {k.arg or "" for k in node.keywords}
            for text in _texts(node.args[0]):
                found.append((f"{path.relative_to(CORE)}:{node.lineno}", text, names))
    return found


def _texts(node: ast.expr) -> list[str]:
    """The phrases that an argument can be, as regular expressions."""
    if isinstance(node, ast.Constant) and isinstance(node.value, str):
        return [re.escape(node.value)]
    if isinstance(node, ast.IfExp):
        return [*_texts(node.body), *_texts(node.orelse)]
    if isinstance(node, ast.JoinedStr):
        return ["".join(re.escape(str(v.value)) if isinstance(v, ast.Constant) else ".*" for v in node.values)]
    return [".*"]


def wanted(phrase: str) -> set[str]:
    return {name for way in PHRASES[phrase] for _, name, _, _ in string.Formatter().parse(way) if name}


@pytest.mark.parametrize(("place", "pattern", "names"), sayings(), ids=[f"{place} {pattern}" for place, pattern, _ in sayings()])
def test_what_is_said_is_in_the_catalogue_with_its_values(place: str, pattern: str, names: set[str] | None) -> None:
    fitting = [phrase for phrase in PHRASES if re.fullmatch(pattern, phrase)]
    assert fitting, f"{place} says {pattern!r}, which no phrase is"
    if pattern == ".*" or names is None:
        return
    assert any(wanted(phrase) <= names for phrase in fitting), (place, {p: wanted(p) for p in fitting}, names)


def test_every_phrase_is_said_somewhere() -> None:
    """By name, or by a name put together; a phrase that only ``.*`` could be is looked for as a text."""
    patterns = [pattern for _, pattern, _ in sayings() if pattern != ".*"]
    texts = "\n".join(p.read_text("utf-8") for p in CORE.rglob("*.py") if p.parent.name != "phrases")
    unsaid = [p for p in PHRASES if p != "own" and not any(re.fullmatch(x, p) for x in patterns) and f'"{p}"' not in texts]
    assert unsaid == []


@pytest.mark.parametrize("phrase", PHRASES)
def test_a_phrase_reads_as_a_sentence_or_a_part_of_one(phrase: str) -> None:
    ways = PHRASES[phrase]
    assert isinstance(ways, tuple) and ways
    assert len({*ways}) == len(ways), "two ways that are one"
    assert len({frozenset(name for _, name, _, _ in string.Formatter().parse(way) if name) for way in ways}) == 1, "ways that want other values"
    for way in ways:
        bare = _ANY.sub("x", way)
        assert bare == bare.strip() and "  " not in bare
        assert not bare.endswith((",", ";"))
