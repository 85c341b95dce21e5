"""Put the notes of a tempo mark into the font of signs, from the music font that Verovio ships (Leipzig, SIL Open Font License).

    python tools/make_signs.py

Run once after a change of the list; the fonts are kept in the repository.
"""

from __future__ import annotations

import re
from pathlib import Path

import verovio
from fontTools.pens.cu2quPen import Cu2QuPen
from fontTools.pens.transformPen import TransformPen
from fontTools.pens.ttGlyphPen import TTGlyphPen
from fontTools.svgLib.path import parse_path
from fontTools.ttLib import TTFont

ROOT = Path(__file__).parent.parent
FONTS = (ROOT / "src/valley/formats/fonts/Signs.ttf", ROOT / "frontend/src/app/signs.woff")
SIGNS = ("ECA3", "ECA5", "ECA7", "ECB7")  # half, quarter and eighth note of a tempo mark, and its dot (SMuFL)
_UNITS = 1000  # of Leipzig's em


def main() -> None:
    """Write the fonts."""
    source = Path(verovio.__file__).parent / "data/Leipzig"
    for path in FONTS:
        font = TTFont(path)
        scale = font["head"].unitsPerEm / _UNITS
        order = font.getGlyphOrder()
        for code in SIGNS:
            outline = re.search(r' d="(M[^"]+)"', (source / f"{code}.xml").read_text("utf-8"))
            if outline is None:
                raise ValueError(f"{code}.xml of Leipzig holds no outline; the files of Verovio have changed")
            pen = TTGlyphPen(None)
            parse_path(outline[1], TransformPen(Cu2QuPen(pen, max_err=1.0, reverse_direction=True), (scale, 0, 0, scale, 0, 0)))
            glyph = pen.glyph()
            name = f"uni{code}"
            if name not in order:
                font.setGlyphOrder([*font.getGlyphOrder(), name])
            font["glyf"][name] = glyph
            glyph.recalcBounds(font["glyf"])
            font["hmtx"][name] = (round(glyph.xMax + 60 * scale), glyph.xMin)
            for table in font["cmap"].tables:
                table.cmap[int(code, 16)] = name
        font.save(path)


if __name__ == "__main__":
    main()
