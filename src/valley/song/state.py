"""Everything that a creator has made of a song, as one value: what every edit changes, what every version keeps.

Each part checks its own fields when it is built; here they are held against each other and against the names that Valley knows, so that
a state that could not be arranged or taught cannot be built, whatever way it comes: from a file, the database, or an edit.
"""

from __future__ import annotations

from dataclasses import dataclass, field

from valley.arranging.links import KINDS
from valley.arranging.pattern_library import pattern_named
from valley.arranging.patterns import check_pattern
from valley.arranging.reach import hand_named, key_range, keyboard_range
from valley.arranging.styles import check_level, style_named
from valley.errors import ParameterError
from valley.model._rules import require, require_one_of
from valley.model.chart import Chart
from valley.model.choices import Choices
from valley.model.lesson import Settings, Teaching


@dataclass(frozen=True)
class SongState:
    """The chart, what was chosen for the hands, how it is taught, and what its lessons hold."""

    chart: Chart
    choices: Choices = field(default_factory=Choices)
    teaching: Teaching = field(default_factory=Teaching)
    settings: Settings = field(default_factory=Settings)

    def __post_init__(self) -> None:
        _check_names(self.choices)
        parts = len(self.chart.parts)
        for own in self.choices.parts:
            require(own.part <= parts, "part", own.part, f"be one of the song's {parts} parts")
        for number in self.settings.order:
            require(number <= parts, "order", self.settings.order, f"name parts 1 to {parts}, each once")


def _check_names(choices: Choices) -> None:
    """Styles, levels, hands, keyboards, frames, patterns and links are ones that Valley knows."""
    style_named(choices.style)
    check_level(choices.level)
    hand_named(choices.hand)
    keyboard_range(choices.keyboard)
    if choices.frame:
        key_range(choices.frame)
    for pattern in choices.patterns:
        if wrong := check_pattern(pattern):
            raise ParameterError(f"pattern {pattern.name!r}: {wrong[0]}")
    for name in (choices.pattern, *(p.pattern for p in choices.parts if p.pattern), *(p.pattern for p in choices.chord_patterns)):
        pattern_named(name, choices.patterns)
    for own in choices.parts:
        if own.style is not None:
            style_named(own.style)
        if own.level is not None:
            check_level(own.level)
    for link in choices.taken_links:
        require_one_of("link", link.kind, KINDS)
