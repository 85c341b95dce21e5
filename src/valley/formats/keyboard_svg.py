"""Keyboard pictures of grips as SVG: squares for the left hand, rounds for the right, hollow where a note may be left out."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Final

from valley.model.arrangement import LEFT, RIGHT, Grip, HandNote
from valley.theory.pitch import BLACK_KEYS

COLOURS: Final = {LEFT: "#5A2D5C", RIGHT: "#A8650C"}
GROUND, INK, LINE, _WHITE_KEY, _BLACK_KEY = "#F5F0E6", "#29241D", "#7A7060", "#FFFDF7", "#3A342B"
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
    rows.append(f"<title>{escape_xml(said)}</title>")
    if not transparent:
        rows.append(f'<rect width="100%" height="100%" fill="{GROUND}"/>')
    if title:
        look = f'font-family="Alegreya, serif" font-weight="700" font-size="30" fill="{INK}"'
        rows.append(f'<text x="12" y="34" {look}>{escape_xml(pretty(grip.symbol))}</text>')
        for hand, notes, y in ((LEFT, grip.left, 22), (RIGHT, grip.right, 46)):
            if notes:
                x = width - 4
                rows.append(
                    f'<text x="{x:g}" y="{y}" text-anchor="end" font-family="Alegreya Sans, sans-serif" font-size="18" fill="{COLOURS[hand]}">'
                    f"{hand} {escape_xml(pretty(_names(notes)))}</text>"
                )
    held = {n.midi: (hand, n) for hand, notes in ((LEFT, grip.left), (RIGHT, grip.right)) for n in notes}
    rows.append(f'<g transform="translate(12 {top:g})">')
    rows += draw_keys(low, high, held, fingers=fingers)
    rows += ["</g>", "</svg>"]
    return "\n".join(rows) + "\n"


def measure_keys(low: int, high: int) -> tuple[float, float]:
    """Width and height of a stretch of keys as ``draw_keys`` draws it.

    Parameters
    ----------
    low, high : MIDI numbers of the white keys at its ends
    """
    return sum(m % 12 not in BLACK_KEYS for m in range(low, high + 1)) * _WHITE_W, _WHITE_H


def find_mark(midi: int, low: int) -> tuple[float, float, float]:
    """Where a key is marked on what ``draw_keys`` draws: the middle of the mark and half its width.

    Parameters
    ----------
    midi : the key, MIDI number
    low : the white key at the left end
    """
    black = midi % 12 in BLACK_KEYS
    x, w, h = _left_edge(midi, low), _BLACK_W if black else _WHITE_W, _BLACK_H if black else _WHITE_H
    return x + w / 2, h - (20 if black else 28), 9.0 if black else 14.0


def draw_keys(low: int, high: int, held: Mapping[int, tuple[str, HandNote]], *, fingers: bool = True, names: bool = False, mirrored: bool = False) -> list[str]:
    """A stretch of keys from (0, 0) with what the hands hold marked on it, as elements of an SVG.

    Parameters
    ----------
    low, high : MIDI numbers of the white keys at its ends
    held : hand and note of each key that is held, by MIDI number
    names : each held key's name above its mark
    mirrored : the low keys at the right, as a camera sees them that looks from over the piano at the player
    """
    whole = measure_keys(low, high)[0] if mirrored else None
    return [
        row
        for black in (False, True)
        for midi in range(low, high + 1)
        if (midi % 12 in BLACK_KEYS) is black
        for row in _draw_key(midi, low, held.get(midi), fingers=fingers, names=names, whole=whole)
    ]


def _draw_key(midi: int, low: int, held: tuple[str, HandNote] | None, *, fingers: bool, names: bool, whole: float | None) -> list[str]:
    black = midi % 12 in BLACK_KEYS
    x, w, h = _left_edge(midi, low), _BLACK_W if black else _WHITE_W, _BLACK_H if black else _WHITE_H
    if whole is not None:
        x = whole - x - w
    fill = _BLACK_KEY if black else _WHITE_KEY
    rows = [f'<rect x="{x:g}" y="0" width="{w:g}" height="{h:g}" rx="2" fill="{fill}" stroke="{LINE}"/>']
    middle = x + w / 2
    if held is None:
        if midi % 12 == 0:
            place = f'x="{middle:g}" y="{h - 8:g}" text-anchor="middle"'
            rows.append(f'<text {place} font-family="Alegreya Sans, sans-serif" font-size="13" fill="{LINE}">C{midi // 12 - 1}</text>')
        return rows
    hand, note = held
    _, y, half = find_mark(midi, low)
    colour = COLOURS[hand]
    look = f'fill="{fill}" stroke="{colour}" stroke-width="3"' if note.optional else f'fill="{colour}" stroke="{fill}" stroke-width="1"'
    if hand == LEFT:
        rows.append(f'<rect class="left" x="{middle - half:g}" y="{y - half:g}" width="{2 * half:g}" height="{2 * half:g}" rx="2" {look}/>')
    else:
        rows.append(f'<circle class="right" cx="{middle:g}" cy="{y:g}" r="{half + 0.5:g}" {look}/>')
    text = f'x="{middle:g}" text-anchor="middle" font-family="Alegreya Sans, sans-serif" font-weight="700"'
    if fingers and note.finger:
        ink = ("#FFFDF7" if black else colour) if note.optional else "#FFFDF7"
        rows.append(f'<text {text} y="{y + (4.5 if black else 6):g}" font-size="{12 if black else 17}" fill="{ink}">{note.finger}</text>')
    if names:
        ink = "#FFFDF7" if black else colour
        rows.append(f'<text {text} y="{y - (14 if black else 21):g}" font-size="{10 if black else 15}" fill="{ink}">{escape_xml(pretty(note.pitch))}</text>')
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


def escape_xml(text: str) -> str:
    return text.replace("&", "&amp;").replace("<", "&lt;").replace(">", "&gt;").replace('"', "&quot;")
