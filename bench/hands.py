"""How long the choice of hands takes: a part of 64 chords in every style and level.

python bench/hands.py
"""

from __future__ import annotations

import sys
import time
from dataclasses import replace
from pathlib import Path

from valley.fraction import Fraction

ROOT = Path(__file__).parent.parent
sys.path[:0] = [str(ROOT / "src"), str(ROOT)]


def main() -> None:
    from valley.arranging import voicing
    from valley.arranging.arrange import _ask, _find_moments, arrange
    from valley.arranging.styles import LEVELS, STYLES
    from valley.arranging.tune import place_tune
    from valley.formats.chord_chart import parse_chord_chart
    from valley.model.chart import MelodyNote
    from valley.model.choices import Choices

    line = "| Eb | Cm7 | Abmaj7 | Bb7 | Gm | Fm7 | Db | Bbsus4 |\n"
    chart = parse_chord_chart("key: Eb major\n" + line * 8)
    chart = replace(chart, melody=tuple(MelodyNote(Fraction(2 * i), Fraction(2), 63 + (i * 7) % 13) for i in range(128)))
    part = chart.parts[0]
    whole = choice = 0.0
    for name in STYLES:
        for level in LEVELS:
            choices = Choices(style=name, level=level)
            began = time.perf_counter()
            arrange(chart, choices)
            whole += time.perf_counter() - began
    voicing._choose.cache_clear()
    voicing.pool_shapes.cache_clear()
    voicing._measure_ways.cache_clear()
    for style in STYLES.values():
        for level in LEVELS:
            ask = _ask(chart, Choices(style=style.name, level=level), voicing.USUAL, ())[0]
            sounding = [(c, chord) for c in chart.chords_of(part) if (chord := c.chord)]
            tune = place_tune(chart.melody, ask.octaves, 21, 108) if style.melody != "none" else ()
            moments = _find_moments(ask, sounding, tune)
            began = time.perf_counter()
            voicing.choose_shapes(moments, style, ask.limits(), level=level)
            choice += time.perf_counter() - began
    count = len(STYLES) * len(LEVELS)
    print(f"64 chords, {len(STYLES)} styles, {len(LEVELS)} levels: the choice takes {choice:.2f} s, {1000 * choice / count:.0f} ms each;")
    print(f"with spelling, fingers, patterns and notes in time {whole:.2f} s, {1000 * whole / count:.0f} ms each")


if __name__ == "__main__":
    main()
