"""Still pictures to cut into a film: title, scale, grips, board, count, and what comes next; of the sizes that screens have.

Each is an SVG on Valley's paper, in the school of names that the lesson speaks.
"""

from __future__ import annotations

import re
from collections.abc import Iterator
from dataclasses import dataclass
from typing import Final

from valley.formats.keyboard_svg import COLOURS, GROUND, INK, LINE, draw_keys, escape_xml, find_mark, measure_keys, picture_range, pretty
from valley.formats.stage import QUIET, SANS, SERIF, SHAPES
from valley.fraction import Fraction
from valley.model._rules import require_one_of
from valley.model.arrangement import HANDS, LEFT, RIGHT, Grip, HandNote
from valley.model.chart import Part
from valley.model.saying import KeyName, Names, Pitches, Sound, say
from valley.phrases import Words
from valley.song.work import Work
from valley.theory.key import Key
from valley.theory.pitch import BLACK_KEYS

GAP = "\u2003"  # an em space: plain ones next to each other are drawn as one
_SAFE = 0.07  # of the shorter side, free at every edge; upright screens have more at both ends
_BOARD_LINES = 6  # of four bars on one board
_DIVISIONS: Final = (1, 2, 3, 4, 6)  # of a beat, that a count card can show


@dataclass(frozen=True)
class Still:
    """A picture with the name of its file."""

    name: str
    svg: str


def draw_stills(work: Work, shape: str = "1080p") -> list[Still]:
    """Every card of a song, in the order in which a lesson would show them.

    Parameters
    ----------
    work : the song
    shape : a key of ``SHAPES``
    """
    require_one_of("shape", shape, tuple(SHAPES))
    return list(_Cards(work, shape).all())


class _Cards:
    def __init__(self, work: Work, shape: str) -> None:
        self.work, self.chart = work, work.chart
        self.words = Words(work.song.teaching.schools)
        self.width, self.height = SHAPES[shape]
        self.tall = self.height > self.width
        short = min(self.width, self.height)
        self.left = round(_SAFE * short)
        self.top = round((0.13 if self.tall else _SAFE / self.height * short) * self.height)
        self.right, self.foot = self.width - self.left, self.height - self.top
        self.unit = short / 100  # a hundredth of the shorter side

    def all(self) -> Iterator[Still]:
        yield Still("01-title", self._title())
        for i, key in enumerate(dict.fromkeys(a.key for a in self.chart.keys), 1):
            yield Still(f"02-scale-{i}-{key.tonic}-{key.mode}".replace("#", "s"), self._scale(key))
        taught = [p for p in self.chart.parts if not (p.same_as and p.kinship == "same")]
        for part in taught:
            for i, bars in enumerate(self._boards(part), 1):
                yield Still(f"03-board-part{part.number}" + (f"-{i}" if i > 1 else ""), self._board(part, bars))
        for part in taught:
            if count := self._count(part):
                yield Still(f"04-count-part{part.number}", count)
        seen: set[tuple[str, tuple[int, ...]]] = set()
        for arranged in self.work.arrangement.parts:
            for grip in arranged.grips:
                known = (grip.symbol, tuple(n.midi for n in grip.notes))
                if grip.notes and known not in seen:
                    seen.add(known)
                    chord = re.sub(r"[^A-Za-z0-9]+", "-", grip.symbol.replace("#", "s")).strip("-")
                    yield Still(f"05-grip-{len(seen):02d}-{chord}", self._grip(grip))
        for part, after in zip(self.chart.parts, [*self.chart.parts[1:], None], strict=True):
            yield Still(f"06-after-part{part.number}", self._next(after))

    # ---- drawing -----------------------------------------------------------------------------------------------------------

    def _card(self, *rows: str) -> str:
        size = f'width="{self.width}" height="{self.height}" viewBox="0 0 {self.width} {self.height}"'
        return f'<svg xmlns="http://www.w3.org/2000/svg" {size}><rect width="100%" height="100%" fill="{GROUND}"/>{"".join(rows)}</svg>\n'

    def _text(self, text: str, x: float, y: float, size: float, *, ink: str = INK, bold: bool = False, font: str = SERIF, anchor: str = "middle") -> str:
        """One line, its middle at ``y``; smaller where it would not fit between the margins."""
        room = {"middle": 2 * min(x - self.left, self.right - x), "start": self.right - x, "end": x - self.left}[anchor]
        size = min(size, room / max(1.0, 0.53 * len(text)))
        look = f'{font} font-size="{size:.1f}" fill="{ink}" text-anchor="{anchor}"' + (' font-weight="700"' if bold else "")
        return f'<text x="{x:.1f}" y="{y + 0.34 * size:.1f}" {look}>{escape_xml(pretty(text))}</text>'

    def _at(self, share: float) -> float:
        """A height between the margins, 0 at the top and 1 at the foot."""
        return self.top + share * (self.foot - self.top)

    def _keyboard(self, low: int, high: int, held: dict[int, tuple[str, HandNote]], foot: float, most: float, marks: dict[int, str] | None = None) -> str:
        """Keys that end at a height, as wide as there is room; ``marks`` are names on dark points, of no hand."""
        w, h = measure_keys(low, high)
        scale = min((self.right - self.left) / w, most / h)
        x, y = (self.width - w * scale) / 2, foot - h * scale
        rows = draw_keys(low, high, held, names=True)
        for midi, name in (marks or {}).items():
            mx, my, half = find_mark(midi, low)
            ink, edge = (GROUND, INK) if midi % 12 in BLACK_KEYS else (INK, GROUND)
            rows.append(f'<circle cx="{mx:g}" cy="{my:g}" r="{half:g}" fill="{ink}"/>')
            size = 1.0 * half if len(name) < 3 else 0.75 * half
            look = f'{SANS} font-weight="700" font-size="{size:.1f}" fill="{edge}" text-anchor="middle"'
            rows.append(f'<text x="{mx:g}" y="{my + 0.34 * size:.1f}" {look}>{escape_xml(pretty(name))}</text>')
        return f'<g transform="translate({x:.1f} {y:.1f}) scale({scale:.4f})">{"".join(rows)}</g>'

    def _named(self, part: Part) -> str:
        return self.words.say(say("title named part", number=part.number, name=part.name) if part.name else say("title part", number=part.number))

    def _key_name(self, key: Key) -> str:
        return self.words.say(say("named", chord=KeyName(str(key.tonic), key.mode)))

    # ---- cards -------------------------------------------------------------------------------------------------------------

    def _title(self) -> str:
        keys = ", ".join(self._key_name(k) for k in dict.fromkeys(a.key for a in self.chart.keys))
        facts = f"{keys} · {self.chart.grid.meter} · ♩ = {round(self.chart.bpm)}"
        if self.chart.grid.main_meter.quarters_per_beat != 1:
            facts = f"{keys} · {self.chart.grid.meter} · {round(self.chart.bpm)}"
        middle, u = self.width / 2, self.unit
        rows = [self._text(self.chart.title, middle, self._at(0.36), 15 * u, bold=True), self._text(facts, middle, self._at(0.54), 5 * u, ink=QUIET)]
        y, parts = self._at(0.86), self.chart.parts
        room, radius = self.right - self.left - 6 * u, 2.6 * u
        rows.append(
            f'<line x1="{self.left + 3 * u:.1f}" y1="{y:.1f}" x2="{self.right - 3 * u:.1f}" y2="{y:.1f}" stroke="{LINE}" stroke-width="{0.3 * u:.1f}"/>'
        )
        step = room / max(len(parts) - 1, 1)
        for i, part in enumerate(parts):
            x = middle if len(parts) == 1 else self.left + 3 * u + i * step
            again = bool(part.same_as)
            look = f'fill="{GROUND if again else INK}" stroke="{LINE}" stroke-width="{0.25 * u:.1f}"'
            rows.append(f'<circle cx="{x:.1f}" cy="{y:.1f}" r="{min(radius, 0.45 * step):.1f}" {look}/>')
            rows.append(self._text(f"{part.same_as or part.number}", x, y, 3 * u, ink=QUIET if again else GROUND, bold=True, font=SANS))
            if part.name and step > 12 * u:
                size = min(3.2 * u, step / max(1, 0.53 * len(part.name)))
                anchor = "middle" if 0 < i < len(parts) - 1 or len(parts) == 1 else "start" if i == 0 else "end"
                edge = {"start": x - radius, "end": x + radius}.get(anchor, x)
                rows.append(self._text(part.name, edge, y + 5.5 * u, size, ink=QUIET, anchor=anchor))
        return self._card(*rows)

    def _scale(self, key: Key) -> str:
        low = 60 + key.tonic.pitch_class - (12 if key.tonic.pitch_class > 5 else 0)
        marks, midi = {}, low
        for name in (*key.scale(), key.tonic):
            while midi % 12 != name.pitch_class:
                midi += 1
            marks[midi] = self.words.say(say("named", chord=Names((str(name),))))
        ends = low - 2 - ((low - 2) % 12 in BLACK_KEYS), midi + 2 + ((midi + 2) % 12 in BLACK_KEYS)
        named = GAP.join(list(marks.values())[:7])
        title = self.words.say(say("still scale", key=KeyName(str(key.tonic), key.mode)))
        middle, u = self.width / 2, self.unit
        return self._card(
            self._text(title, middle, self._at(0.12), 9 * u, bold=True),
            self._text(named, middle, self._at(0.32), 6 * u, ink=QUIET, font=SANS),
            self._keyboard(*ends, {}, self._at(0.98), 0.55 * (self.foot - self.top), marks),
        )

    def _grip(self, grip: Grip) -> str:
        held = {n.midi: (hand, n) for hand, notes in ((LEFT, grip.left), (RIGHT, grip.right)) for n in notes}
        middle, u = self.width / 2, self.unit
        rows = [self._text(self.words.say(say("named", chord=Sound(grip.chord))), middle, self._at(0.13), 16 * u, bold=True)]
        hands = [(hand, notes) for hand, notes in ((LEFT, grip.left), (RIGHT, grip.right)) if notes]
        for i, (hand, notes) in enumerate(hands):
            named = GAP.join(self._star(n) for n in notes)
            x = middle if len(hands) == 1 or self.tall else (self.left + middle, middle + self.right)[i] / 2
            rows.append(self._text(named, x, self._at(0.34 + (0.07 * i if self.tall else 0)), 5.5 * u, ink=COLOURS[hand], bold=True, font=SANS))
        low, high = picture_range([grip])
        return self._card(*rows, self._keyboard(low, high, held, self._at(1.0), 0.55 * (self.foot - self.top)))

    def _star(self, note: HandNote) -> str:
        said = self.words.say(say("named", chord=Pitches((note.pitch,))))
        return f"({said})" if note.optional else said

    def _boards(self, part: Part) -> Iterator[range]:
        """The bars of a part, as many as one board holds."""
        last = min(part.end_bar, self.chart.grid.bars)
        step = 4 * _BOARD_LINES
        for first in range(part.start_bar, last + 1, step):
            yield range(first, min(first + step, last + 1))

    def _board(self, part: Part, bars: range) -> str:
        """Chords in bars, four a line (two on an upright screen)."""
        across, u = 2 if self.tall else 4, self.unit
        lines = -(-len(bars) // across)
        top, foot = self._at(0.2), self._at(1.0)
        wide, high = (self.right - self.left) / across, min((foot - top) / lines, 24 * u)
        top += (foot - top - lines * high) / 3
        rows = [self._text(self._named(part), self.width / 2, self._at(0.08), 8 * u, bold=True)]
        for i, bar in enumerate(bars):
            x, y = self.left + i % across * wide, top + i // across * high
            start = self.chart.grid.bar_start(bar)
            here = [self.words.say(say("named", chord=Sound(c.chord))) if c.start >= start else "–" for c in self.chart.sounding_in(bar)]
            rows.append(
                f'<line x1="{x:.1f}" y1="{y + 0.12 * high:.1f}" x2="{x:.1f}" y2="{y + 0.88 * high:.1f}" stroke="{LINE}" stroke-width="{0.25 * u:.1f}"/>'
            )
            rows.append(self._text(f"{bar}", x + u, y + 0.16 * high, 2.6 * u, ink=QUIET, font=SANS, anchor="start"))
            text = GAP.join(here)
            size = min(0.42 * high, (wide - 5 * u) / max(1.0, 0.55 * len(text)))
            rows.append(self._text(text, x + 1.6 * u, y + 0.56 * high, size, bold=True, anchor="start"))
        return self._card(*rows)

    def _count(self, part: Part) -> str:
        """The part's first whole bar: its counts, and which hand strikes on which; "" where it has too many to be seen."""
        arranged, grid = self.work.arrangement.of_part(part.number), self.chart.grid
        start, meter = grid.bar_start(part.start_bar), grid.meter_of(part.start_bar)
        struck = [n for n in arranged.notes if start <= n.start < start + meter.beats and not n.grace]
        places = {n.start - start for n in struck}
        by = next((d for d in _DIVISIONS if all((p * d).denominator == 1 for p in places)), 0)
        if not by or not struck or meter.beats * by > 24:
            return ""
        counts = [Fraction(i, by) for i in range(meter.beats * by)]
        u, wide = self.unit, (self.right - self.left) / len(counts)
        size = min(9 * u, 0.62 * wide / (1 if by == 1 else 0.9))
        rows = [self._text(self._named(part), self.width / 2, self._at(0.1), 8 * u, bold=True)]
        lanes = {RIGHT: self._at(0.45), LEFT: self._at(0.85)}
        for hand in HANDS:
            y = lanes[hand]
            rows.append(f'<line x1="{self.left}" y1="{y:.1f}" x2="{self.right}" y2="{y:.1f}" stroke="{LINE}" stroke-width="{0.2 * u:.1f}"/>')
        for i, at in enumerate(counts):
            x = self.left + (i + 0.5) * wide
            said = meter.count(at).split()[-1]
            on = at.denominator == 1
            rows.append(self._text(said if by <= 4 or on else "·", x, self._at(0.65), size if on else 0.7 * size, ink=INK if on else QUIET, bold=on, font=SANS))
            for hand in HANDS:
                if any(n.hand == hand and n.start - start == at for n in struck):
                    y, half = lanes[hand], min(0.36 * wide, 3.4 * u)
                    look = f'fill="{COLOURS[hand]}"'
                    box = f'x="{x - half:.1f}" y="{y - half:.1f}" width="{2 * half:.1f}" height="{2 * half:.1f}" rx="{0.15 * half:.1f}"'
                    rows.append(f"<rect {box} {look}/>" if hand == LEFT else f'<circle cx="{x:.1f}" cy="{y:.1f}" r="{half:.1f}" {look}/>')
        return self._card(*rows)

    def _next(self, after: Part | None) -> str:
        middle, u = self.width / 2, self.unit
        if after is None:
            rows = [self._text(self.chart.title, middle, self._at(0.4), 13 * u, bold=True)]
            return self._card(*rows, self._text(self.words.say(say("still whole")), middle, self._at(0.58), 5 * u, ink=QUIET))
        start, _ = self.chart.span(after)
        names = [self.words.say(say("named", chord=Sound(c.chord))) for c in self.chart.chords if c.chord and c.start >= start][:4]
        return self._card(
            self._text(self.words.say(say("still next")), middle, self._at(0.22), 6 * u, ink=QUIET),
            self._text(self._named(after), middle, self._at(0.42), 12 * u, bold=True),
            self._text(GAP.join(names), middle, self._at(0.66), 8 * u),
        )
