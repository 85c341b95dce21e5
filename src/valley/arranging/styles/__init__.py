"""Voicing styles. A new one is one file with a ``STYLE`` and one line here."""

from valley.arranging.styles import block_and_melody, fifth_and_melody, root_and_chord
from valley.arranging.styles._style import Limits, Moment, Shape, Style
from valley.errors import ParameterError

STYLES: dict[str, Style] = {
    style.name: style for style in (root_and_chord.STYLE, block_and_melody.STYLE, fifth_and_melody.STYLE)
}


def style_named(name: str) -> Style:
    if name not in STYLES:
        raise ParameterError(f"style={name!r} must be one of {', '.join(STYLES)}")
    return STYLES[name]


__all__ = ["STYLES", "Limits", "Moment", "Shape", "Style", "style_named"]
