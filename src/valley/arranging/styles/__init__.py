"""Voicing styles. A new one is one file with a ``STYLE`` and one line here."""

from valley.arranging.styles import (
    as_recorded,
    big_finish,
    block_and_melody,
    fifth_and_melody,
    full_melody,
    held_right,
    left_thirds,
    low_safe,
    octaves,
    open_tenths,
    ostinato,
    root_and_chord,
    root_blocks,
    shared_chord,
    shell,
    sixths,
    thirds,
    turned_blocks,
)
from valley.arranging.styles._style import (
    EASIER,
    FULLER,
    LEVELS,
    STANDARD,
    Hold,
    Limits,
    Moment,
    Shape,
    Style,
    ease,
)
from valley.errors import ParameterError

# In the order in which they are offered: plain ones first.
STYLES: dict[str, Style] = {
    module.STYLE.name: module.STYLE
    for module in (
        root_and_chord,
        root_blocks,
        block_and_melody,
        turned_blocks,
        fifth_and_melody,
        thirds,
        sixths,
        octaves,
        full_melody,
        ostinato,
        left_thirds,
        open_tenths,
        shared_chord,
        shell,
        low_safe,
        held_right,
        big_finish,
        as_recorded,
    )
}


def style_named(name: str) -> Style:
    if name not in STYLES:
        raise ParameterError(f"style={name!r} must be one of {', '.join(STYLES)}")
    return STYLES[name]


def check_level(level: str) -> str:
    if level not in LEVELS:
        raise ParameterError(f"level={level!r} must be one of {', '.join(LEVELS)}")
    return level


__all__ = [
    "EASIER",
    "FULLER",
    "LEVELS",
    "STANDARD",
    "STYLES",
    "Hold",
    "Limits",
    "Moment",
    "Shape",
    "Style",
    "check_level",
    "ease",
    "style_named",
]
