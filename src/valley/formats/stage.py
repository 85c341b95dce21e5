"""Where things stand on a screen beside the hands: keys, chord and next chord, bar and count, rail of parts, cue words.

A stage has a size and says of each thing where it goes, within margins that no screen cuts off; what stands there is drawn as SVG, the
keyboard by the same hand as everywhere in Valley. Two arrangements: a band at the foot of a film of the hands, or the whole screen.
"""

from __future__ import annotations

from dataclasses import dataclass, field
from typing import Final

from valley.errors import ParameterError
from valley.formats.keyboard_svg import GROUND, INK, LINE, draw_keys, escape_xml, measure_keys, pretty
from valley.model._rules import require, require_one_of
from valley.model.arrangement import HandNote

SHAPES: Final = {"1080p": (1920, 1080), "720p": (1280, 720), "upright": (1080, 1920)}
LAYERS: Final = {
    "ground": "paper under it all",
    "keys": "the keyboard with both hands' keys",
    "fingers": "finger numbers on the keys",
    "names": "names of the notes on the keys",
    "chord": "the chord",
    "next": "the chord that comes next",
    "count": "bar and count",
    "rail": "the parts, and where we are",
    "cue": "cue words",
}
USUAL: Final = ("ground", "keys", "fingers", "chord", "next", "count", "rail", "cue")
SERIF, SANS = 'font-family="Alegreya"', 'font-family="Alegreya Sans"'
QUIET = "#6B6152"


@dataclass(frozen=True)
class Lit:
    """A key that sounds: which hand plays it, its name, its finger, and whether it may be left out."""

    midi: int
    hand: str
    pitch: str
    finger: int | None = None
    optional: bool = False


@dataclass(frozen=True)
class Scene:
    """What stands on the stage at one moment. ``beat`` counts from 0 in the bar; ``bar`` 0 or less is counted in; ``place`` is how far the
    song is, 0 to 1.
    """

    keys: tuple[Lit, ...] = ()
    chord: str = ""
    then: str = ""
    bar: int = 0
    beat: int = 0
    beats: int = 4
    part: int = 0
    place: float = 0.0
    cue: str = ""


@dataclass(frozen=True)
class Box:
    """A rectangle in pixels."""

    x: int
    y: int
    width: int
    height: int

    def even(self) -> Box:
        """With its edges on even pixels, where films keep one colour for two by two of them; what adjoined adjoins."""
        x, y = self.x & ~1, self.y & ~1
        return Box(x, y, ((self.x + self.width) & ~1) - x, ((self.y + self.height) & ~1) - y)


@dataclass(frozen=True)
class Stage:
    """``parts``: number of each part and where it begins, 0 to 1 of the song. ``low``, ``high``: white keys at the ends of the keyboard."""

    shape: str = "1080p"
    low: int = 36
    high: int = 83
    layers: tuple[str, ...] = USUAL
    whole: bool = False
    mirrored: bool = False
    parts: tuple[tuple[int, float], ...] = ()
    boxes: dict[str, Box] = field(init=False, repr=False, compare=False)

    def __post_init__(self) -> None:
        require_one_of("shape", self.shape, tuple(SHAPES))
        for layer in self.layers:
            require_one_of("layers", layer, tuple(LAYERS))
        require(self.low < self.high, "low", self.low, f"lie below the highest key, {self.high}")
        if not {"keys", "chord", "next", "count", "rail", "cue"} & set(self.layers):
            raise ParameterError(f"layers={self.layers} would show nothing; choose at least one of keys, chord, next, count, rail and cue")
        boxes = self._lay_whole() if self.whole else self._lay_band()
        object.__setattr__(self, "boxes", {name: box.even() for name, box in boxes.items()})

    @property
    def size(self) -> tuple[int, int]:
        """Width and height in pixels."""
        return SHAPES[self.shape]

    def _safe(self) -> Box:
        """What every screen shows: players lay their own signs over the ends of an upright one."""
        w, h = self.size
        top, foot = (0.12, 0.16) if h > w else (0.05, 0.05)
        return Box(round(0.05 * w), round(top * h), round(0.9 * w), round((1 - top - foot) * h))

    def _keyboard(self, width: int, most: float) -> tuple[int, int]:
        """Width and height of the keyboard, as large as both allow."""
        w, h = measure_keys(self.low, self.high)
        scale = min(width / w, most / h)
        return round(w * scale), round(h * scale)

    def _lay_band(self) -> dict[str, Box]:
        w, h = self.size
        safe, pad = self._safe(), round(0.012 * max(w, h))
        unit = h if w > h else w
        key_w, key_h = self._keyboard(safe.width - 2 * pad, 0.26 * unit) if "keys" in self.layers else (0, 0)
        words = round(0.105 * unit) if {"chord", "next", "count"} & set(self.layers) else 0
        rail = round(0.055 * unit) if "rail" in self.layers else 0
        foot = safe.y + safe.height
        top = foot - 2 * pad - words - key_h - rail
        line = Box(safe.x + pad, top + pad, safe.width - 2 * pad, words)
        boxes = {"ground": Box(safe.x, top, safe.width, foot - top)} | self._share(line)
        boxes["keys"] = Box(safe.x + (safe.width - key_w) // 2, top + pad + words, key_w, key_h)
        boxes["rail"] = Box(safe.x + pad, foot - pad - rail, safe.width - 2 * pad, rail)
        boxes["cue"] = Box(safe.x, top - round(0.085 * unit), safe.width, round(0.075 * unit))
        return boxes

    def _share(self, line: Box) -> dict[str, Box]:
        """The line of words: chord, what comes next, bar and count."""
        chord, then = round(0.34 * line.width), round(0.28 * line.width)
        return {
            "chord": Box(line.x, line.y, chord, line.height),
            "next": Box(line.x + chord, line.y, then, line.height),
            "count": Box(line.x + chord + then, line.y, line.width - chord - then, line.height),
        }

    def _lay_whole(self) -> dict[str, Box]:
        w, h = self.size
        safe = self._safe()
        tall = h > w
        key_w, key_h = self._keyboard(safe.width, (0.3 if tall else 0.36) * h)
        step = safe.height / 100
        y = [round(safe.y + n * step) for n in range(101)]
        return {
            "ground": Box(0, 0, w, h),
            "rail": Box(safe.x, safe.y, safe.width, y[9] - y[0]),
            "chord": Box(safe.x, y[12], safe.width, y[32] - y[12]),
            "next": Box(safe.x, y[33], safe.width, y[42] - y[33]),
            "count": Box(safe.x + round(0.1 * safe.width), y[43], round(0.8 * safe.width), y[52] - y[43]),
            "cue": Box(safe.x, y[53], safe.width, y[60] - y[53]),
            "keys": Box(safe.x + (safe.width - key_w) // 2, safe.y + safe.height - key_h, key_w, key_h),
        }

    def pictures(self, scene: Scene) -> list[tuple[Box, str]]:
        """What stands where, as SVG of just the size of its place. Equal scenes give equal texts, so that each need be drawn once."""
        drawn = {
            "keys": self._keys(scene),
            "chord": self._words("chord", scene.chord, 0.86, bold=True),
            "next": self._words("next", f"→ {scene.then}" if scene.then else "", 0.5, bold=False),
            "count": self._count(scene),
            "rail": self._rail(scene),
            "cue": self._words("cue", scene.cue, 0.8, bold=False, middle=True, halo=not self.whole),
        }
        return [(self.boxes[name], svg) for name, svg in drawn.items() if svg and name in self.layers]

    def ground(self) -> str:
        """The paper that everything stands on; "" where it is left out."""
        if "ground" not in self.layers and not self.whole:
            return ""
        box = self.boxes["ground"]
        look = "" if self.whole else f' rx="{round(0.014 * max(self.size))}" fill-opacity="0.94"'
        return self._svg("ground", f'<rect width="{box.width}" height="{box.height}" fill="{GROUND}"{look}/>')

    def _svg(self, name: str, inside: str) -> str:
        box = self.boxes[name]
        return f'<svg xmlns="http://www.w3.org/2000/svg" width="{box.width}" height="{box.height}" viewBox="0 0 {box.width} {box.height}">{inside}</svg>'

    def _keys(self, scene: Scene) -> str:
        box = self.boxes["keys"]
        if not box.width:
            return ""
        w, h = measure_keys(self.low, self.high)
        held = {k.midi: (k.hand, HandNote(k.pitch, k.midi, "", k.finger, k.optional)) for k in scene.keys}
        keys = draw_keys(self.low, self.high, held, fingers="fingers" in self.layers, names="names" in self.layers, mirrored=self.mirrored)
        return self._svg("keys", f'<g transform="scale({box.width / w:.5f} {box.height / h:.5f})">{"".join(keys)}</g>')

    def _words(self, name: str, text: str, share: float, *, bold: bool, middle: bool = False, halo: bool = False) -> str:
        if not text:
            return ""
        box = self.boxes[name]
        size = min(share * box.height, box.width / (0.52 * len(text) + 0.2))
        place = f'x="{box.width / 2:g}" text-anchor="middle"' if middle or self.whole else 'x="0"'
        place += f' y="{(0.5 * box.height + 0.34 * size):.1f}" font-size="{size:.1f}"'
        font = f'{SERIF} font-weight="700"' if bold else SERIF
        ink = INK if bold or name == "cue" else QUIET
        said = escape_xml(pretty(text))
        edge = f'<text {place} {font} fill="none" stroke="{GROUND}" stroke-width="{size / 5:.1f}" stroke-linejoin="round">{said}</text>' if halo else ""
        return self._svg(name, f'{edge}<text {place} {font} fill="{ink}">{said}</text>')

    def _count(self, scene: Scene) -> str:
        """The bar's number in a box, and its beats as figures, the one that is now on a dark ground."""
        box = self.boxes["count"]
        size = min(0.62 * box.height, box.width / (scene.beats + 2) / 1.15)
        room, y, radius = 1.15 * size, 0.5 * box.height, 0.5 * size
        wide = 1.5 * size if scene.bar > 0 else 0.0
        x = (box.width - wide - scene.beats * room) / (2 if self.whole else 1)
        rows = []
        if scene.bar > 0:
            rows.append(
                f'<rect x="{x:.1f}" y="{y - 0.5 * size:.1f}" width="{1.25 * size:.1f}" height="{size:.1f}" fill="none" stroke="{LINE}" stroke-width="2"/>'
            )
            rows.append(self._figure(f"{scene.bar}", x + 0.625 * size, y, 0.62 * size, QUIET))
        for i in range(scene.beats):
            middle = x + wide + (i + 0.5) * room
            if i == scene.beat:
                rows.append(f'<circle cx="{middle:.1f}" cy="{y:.1f}" r="{radius:.1f}" fill="{INK}"/>')
            rows.append(self._figure(f"{i + 1}", middle, y, 0.72 * size, GROUND if i == scene.beat else QUIET))
        return self._svg("count", "".join(rows))

    def _figure(self, text: str, x: float, y: float, size: float, ink: str) -> str:
        place = f'x="{x:.1f}" y="{y + 0.33 * size:.1f}" text-anchor="middle"'
        return f'<text {place} {SANS} font-weight="700" font-size="{size:.1f}" fill="{ink}">{text}</text>'

    def _rail(self, scene: Scene) -> str:
        """Parts along a line, the one that is played with its number on a dark ground, and a point for where we are."""
        box = self.boxes["rail"]
        size = 0.62 * box.height
        y, room = 0.5 * box.height, box.width - 2 * size
        rows = [f'<line x1="{size:.1f}" y1="{y:.1f}" x2="{size + room:.1f}" y2="{y:.1f}" stroke="{LINE}" stroke-width="3"/>']
        rows.append(f'<circle cx="{size + scene.place * room:.1f}" cy="{y:.1f}" r="{0.16 * box.height:.1f}" fill="{INK}"/>')
        last = -size
        for number, at in self.parts:
            x = size + at * room
            now = number == scene.part
            if x - last < 0.9 * size and not now:
                continue  # no room between its neighbours
            last = x
            rows.append(f'<circle cx="{x:.1f}" cy="{y:.1f}" r="{0.56 * size:.1f}" fill="{INK if now else GROUND}" stroke="{LINE}" stroke-width="2"/>')
            rows.append(self._figure(f"{number}", x, y, 0.66 * size, GROUND if now else QUIET))
        return self._svg("rail", "".join(rows))
