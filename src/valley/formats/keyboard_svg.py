"""Keyboard pictures of grips as SVG: squares for the left hand, rounds for the right, hollow where a note may be left out."""

from __future__ import annotations

from typing import Final

from valley.model.arrangement import LEFT, RIGHT, Grip, HandNote
from valley.theory.pitch import BLACK_KEYS

COLOURS: Final = {LEFT: "#5A2D5C", RIGHT: "#A8650C"}
_GROUND, _INK, _LINE, _WHITE_KEY, _BLACK_KEY = "#F5F0E6", "#29241D", "#7A7060", "#FFFDF7", "#3A342B"
_WHITE_W, _WHITE_H, _BLACK_W, _BLACK_H = 36.0, 170.0, 21.0, 104.0
_WHITE_BEFORE = (0, 1, 1, 2, 2, 3, 4, 4, 5, 5, 6, 6)
_BLACK_SHIFT = {1: -0.09, 3: 0.09, 6: -0.14, 8: 0.0, 10: 0.14}


def _left_edge(midi: int, low: int) -> float:
    def white(m: int) -> int:
        return 7 * (m // 12) + _WHITE_BEFORE[m % 12]

    x = (white(midi) - white(low)) * _WHITE_W
    return x - _BLACK_W / 2 + _BLACK_SHIFT[midi % 12] * _WHITE_W if midi % 12 in BLACK_KEYS else x


def picture_range(grips: tuple[Grip, ...] | list[Grip], *, least: int = 24) -> tuple[int, int]:
    """The stretch from a C to a B that holds every note of some grips: lowest and highest MIDI number."""
    keys = [n.midi for g in grips for n in g.notes] or [60]
    low, high = min(keys) // 12 * 12, max(keys) // 12 * 12 + 11
    while high - low + 1 < least:
        high += 12
    return low, high


def dump_keyboard_svg(
    grip: Grip, *, low: int | None = None, high: int | None = None, title: bool = True, fingers: bool = True, transparent: bool = False
) -> str:
    """One grip on its stretch of keyboard.

    Parameters
    ----------
    low, high : MIDI numbers of the white keys at the ends; an own stretch without them
    title : the chord's symbol and the hands' notes above the keys
    transparent : no ground, for laying over a video
    """
    first, last = picture_range([grip])
    low, high = first if low is None else low, last if high is None else high
    whites = [m for m in range(low, high + 1) if m % 12 not in BLACK_KEYS]
    width, top = len(whites) * _WHITE_W, 64.0 if title else 6.0
    size = f"{width + 24:g}", f"{top + _WHITE_H + 14:g}"
    rows = [f'<svg xmlns="http://www.w3.org/2000/svg" width="{size[0]}" height="{size[1]}" viewBox="0 0 {size[0]} {size[1]}" role="img">']
    said = f"{grip.symbol}: left {_names(grip.left) or 'rests'}, right {_names(grip.right) or 'rests'}"
    rows.append(f"<title>{_escape(said)}</title>")
    if not transparent:
        rows.append(f'<rect width="100%" height="100%" fill="{_GROUND}"/>')
    if title:
        look = f'font-family="Alegreya, serif" font-weight="700" font-size="30" fill="{_INK}"'
        rows.append(f'<text x="12" y="34" {look}>{_escape(pretty(grip.symbol))}</text>')
        for hand, notes, y in ((LEFT, grip.left, 22), (RIGHT, grip.right, 46)):
            if notes:
                x = width - 4
                rows.append(
                    f'<text x="{x:g}" y="{y}" text-anchor="end" font-family="Alegreya Sans, sans-serif" font-size="18" fill="{COLOURS[hand]}">'
                    f"{hand} {_escape(pretty(_names(notes)))}</text>"
                )
    held = {n.midi: (hand, n) for hand, notes in ((LEFT, grip.left), (RIGHT, grip.right)) for n in notes}
    for black in (False, True):
        for midi in range(low, high + 1):
            if (midi % 12 in BLACK_KEYS) is black:
                rows += _draw_key(midi, low, top, held.get(midi), fingers=fingers)
    rows.append("</svg>")
    return "\n".join(rows) + "\n"


def _draw_key(midi: int, low: int, top: float, held: tuple[str, HandNote] | None, *, fingers: bool) -> list[str]:
    black = midi % 12 in BLACK_KEYS
    x, w, h = 12 + _left_edge(midi, low), _BLACK_W if black else _WHITE_W, _BLACK_H if black else _WHITE_H
    fill = _BLACK_KEY if black else _WHITE_KEY
    rows = [f'<rect x="{x:g}" y="{top:g}" width="{w:g}" height="{h:g}" rx="2" fill="{fill}" stroke="{_LINE}"/>']
    middle = x + w / 2
    if held is None:
        if midi % 12 == 0:
            place = f'x="{middle:g}" y="{top + h - 8:g}" text-anchor="middle"'
            rows.append(f'<text {place} font-family="Alegreya Sans, sans-serif" font-size="13" fill="{_LINE}">C{midi // 12 - 1}</text>')
        return rows
    hand, note = held
    y, half = top + h - (20 if black else 28), 9.0 if black else 14.0
    colour = COLOURS[hand]
    look = f'fill="{fill}" stroke="{colour}" stroke-width="3"' if note.optional else f'fill="{colour}" stroke="{fill}" stroke-width="1"'
    if hand == LEFT:
        rows.append(f'<rect class="left" x="{middle - half:g}" y="{y - half:g}" width="{2 * half:g}" height="{2 * half:g}" rx="2" {look}/>')
    else:
        rows.append(f'<circle class="right" cx="{middle:g}" cy="{y:g}" r="{half + 0.5:g}" {look}/>')
    if fingers and note.finger:
        ink = ("#FFFDF7" if black else colour) if note.optional else "#FFFDF7"
        rows.append(
            f'<text x="{middle:g}" y="{y + (4.5 if black else 6):g}" text-anchor="middle" font-family="Alegreya Sans, sans-serif" font-weight="700" '
            f'font-size="{12 if black else 17}" fill="{ink}">{note.finger}</text>'
        )
    return rows


def _names(notes: tuple[HandNote, ...]) -> str:
    return " ".join(n.pitch for n in notes)


def pretty(text: str) -> str:
    """Signs as printed: Bb2 becomes B♭2.

    >>> pretty("Bb2 F#3 Ebmaj7/Bb")
    'B♭2 F♯3 E♭maj7/B♭'
    """
    out: list[str] = []
    for i, letter in enumerate(text):
        before = text[i - 1] if i else ""
        out.append({"#": "♯", "b": "♭"}[letter] if letter in "#b" and before and (before in "ABCDEFG" or out[-1] in "♯♭") else letter)
    return "".join(out)


def _escape(text: str) -> str:
    return text.replace("&", "&amp;").replace("<", "&lt;").replace(">", "&gt;").replace('"', "&quot;")
