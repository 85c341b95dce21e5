"""Part numbers on an engraved page stand in the line of the chord symbols: the engraver sets them close above the staff, on top of fingers."""

from __future__ import annotations

import re

_MARK = re.compile(
    r'(?P<a>class="reh"[^>]*>\s*<rect [^>]*?x=")(?P<x>-?\d+)" y="(?P<top>-?\d+)'
    r'(?P<b>" height="(?P<high>\d+)" width="(?P<wide>\d+)"[^>]*>\s*<text x=")(?P<middle>-?\d+)" y="(?P<base>-?\d+)"'
)
_SYMBOL = re.compile(r'class="harm">\s*<text x="(-?\d+)" y="(-?\d+)"[^>]*>(.*?)</text>', re.DOTALL)
_LETTER = 230  # width of a letter of a chord symbol on the engraver's canvas, on the safe side
_GAP = 60
_SYSTEM = re.compile(r'(?=<g id="[^"]*" class="system")')


def lift_marks(svg: str) -> str:
    """A page with its part numbers lifted: before the chord symbol of their bar, or above it where another symbol is in the way."""
    return "".join(_lift(system) for system in _SYSTEM.split(svg))


def _lift(system: str) -> str:
    symbols = [(int(x), int(y), len(re.sub(r"<[^>]*>|\s", "", inside)) * _LETTER) for x, y, inside in _SYMBOL.findall(system)]

    begins = [own[0] for mark in _MARK.finditer(system) if (own := _own(int(mark["middle"]), symbols))]

    def lifted(mark: re.Match[str]) -> str:
        x, wide, top, base, high, middle = (int(mark[name]) for name in ("x", "wide", "top", "base", "high", "middle"))
        own = _own(middle, symbols)
        if own is None:
            return mark[0]
        left, line = min(x, own[0] - wide - _GAP), own[1]
        free = not any(abs(y - line) < high and at < left + wide and at + width > left for at, y, width in symbols)
        beside = free and base > line - high // 2  # what stands higher was set above the symbols, and stays there
        if not beside:
            left, line = own[0] - _GAP, min(base, line - high)
            if any(own[0] < other < left + wide for other in begins):
                return mark[0]  # the next part's mark stands there
        return f'{mark["a"]}{left}" y="{top + line - base}{mark["b"]}{middle + left - x}" y="{line}"'

    return _MARK.sub(lifted, system)


def _own(middle: int, symbols: list[tuple[int, int, int]]) -> tuple[int, int] | None:
    """Place of the chord symbol of a mark's bar: a mark is set with its middle over the bar line."""
    return min(((at, y) for at, y, _ in symbols if at >= middle), default=None)
