"""Engraved pages as SVG and print-quality PDF: Verovio draws the notes, Typst sets the pages; fonts ship with Valley."""

from __future__ import annotations

import re
import tempfile
import threading
from collections.abc import Sequence
from pathlib import Path
from typing import Any, Final

from valley.errors import FormatError
from valley.formats.engraved_marks import lift_marks

_ENGRAVING: Final = threading.Lock()
FONTS: Final = Path(__file__).parent / "fonts"
# Signs that Verovio writes as letters of its music font, by what Valley's text fonts have.
_SIGNS = {"\uea64": "♭", "\uea65": "♮", "\uea66": "♯", **{c: c for c in "\ueca3\ueca5\ueca7\uecb7"}}
_PAGE = {"pageWidth": 2100, "pageHeight": 2870, "scale": 40, "pageMarginLeft": 80, "pageMarginRight": 80, "pageMarginTop": 60, "pageMarginBottom": 60}

_NO_END = 60000  # all music on one page


def engrave(musicxml: bytes, *, width: int | None = None, height: int = _NO_END) -> tuple[str, ...]:
    """The pages of a score as SVG.

    Parameters
    ----------
    width : of a page in tenths of a millimetre; A4 without it. With it a page is as high as its music.
    height : the most that a page of such a width may have
    """
    import verovio  # slow to import, so only where it is needed

    with _ENGRAVING:  # Verovio keeps its fonts where all threads share them
        return _engrave(verovio, musicxml, width, height)


def _engrave(verovio: Any, musicxml: bytes, width: int | None, height: int) -> tuple[str, ...]:
    resources = Path(verovio.__file__).parent / "data"
    verovio.setDefaultResourcePath(str(resources))
    toolkit: Any = verovio.toolkit(False)  # its fonts are named next, whatever the working folder
    toolkit.setResourcePath(str(resources))
    options = _PAGE | {"font": "Leipzig", "header": "none", "footer": "none", "svgViewBox": True, "smuflTextFont": "none", "breaks": "auto", "xmlIdSeed": 1}
    if width:
        options |= {"pageWidth": width, "adjustPageHeight": True, "pageHeight": height}
    toolkit.setOptions(options)
    if not toolkit.loadData(_said_once(musicxml.decode("utf-8"))):
        raise FormatError("the score could not be engraved; its MusicXML was not read")
    return tuple(lift_marks(_with_own_fonts(toolkit.renderToSVG(page))) for page in range(1, toolkit.getPageCount() + 1))


def _said_once(musicxml: str) -> str:
    """The score without what an engraver would print twice: degrees beside a text that names them, a natural behind a plain root."""
    return re.sub(r"<degree>.*?</degree>|<(root|bass)-alter>0</\1-alter>", "", musicxml, flags=re.DOTALL)


def _with_own_fonts(svg: str) -> str:
    def in_ours(match: re.Match[str]) -> str:
        return f'<tspan font-family="Signs, Alegreya" font-size="405px">{"".join(_SIGNS.get(c, "") for c in match[1])}</tspan>'

    svg = re.sub(rf'<tspan[^>]*font-family="Leipzig"[^>]*>([{"".join(_SIGNS)} ]+)</tspan>', in_ours, svg)
    return svg.replace('font-family="Times, serif"', 'font-family="Alegreya"')


_HEAD = """#set page(paper: "a4", margin: (x: 15mm, top: 16mm, bottom: 18mm), footer: [
  #align(center, text(size: 9pt, fill: luma(90))[{title} · #context counter(page).display()])
])
#set text(font: ("Alegreya Sans", "DejaVu Sans"), size: 11pt, lang: "en")
#show heading: set text(font: ("Alegreya", "DejaVu Sans"))
#set document(title: "{title}")
"""


def typeset(source: str, pictures: dict[str, bytes] | None = None, *, png: bool = False, ppi: float = 144.0) -> Any:
    """A Typst source with its pictures as PDF bytes, or as PNG bytes page by page."""
    import typst

    with tempfile.TemporaryDirectory() as folder:
        for name, content in (pictures or {}).items():
            (Path(folder) / name).write_bytes(content)
        main = Path(folder) / "main.typ"
        main.write_text(source, "utf-8")
        common: dict[str, Any] = {"root": folder, "font_paths": [str(FONTS)], "ignore_system_fonts": True}
        if not png:
            return typst.compile(str(main), **common)
        pages = typst.compile(str(main), format="png", ppi=ppi, **common)
        return [pages] if isinstance(pages, bytes) else pages


def escape(text: str) -> str:
    """Text as Typst takes it literally.

    >>> escape("C# * [x]")
    'C\\\\# \\\\* \\\\[x\\\\]'
    """
    return re.sub(r"([\\#*_`$<>@\[\]~=/\-+])", r"\\\1", text)


def head(title: str) -> str:
    return _HEAD.replace("{title}", escape(title).replace('"', "'"))


def dump_score_pdf(musicxml: bytes, title: str) -> bytes:
    """The sheet music as PDF, A4."""
    pages = engrave(musicxml)
    body = [head(title), f"#align(center)[= {escape(title)}]"]
    body += [f'#image("page{i}.svg", width: 100%)' + ("" if i == len(pages) - 1 else "\n#pagebreak()") for i in range(len(pages))]
    pdf: bytes = typeset("\n".join(body), {f"page{i}.svg": page.encode() for i, page in enumerate(pages)})
    return pdf


def dump_pngs(svgs: Sequence[str], *, ppi: float = 144.0) -> list[bytes]:
    """SVG pictures as PNG with a transparent ground, in one go."""
    if not svgs:
        return []
    lines = ["#set page(width: auto, height: auto, margin: 0pt, fill: none)"]
    lines += [f'#image("p{i}.svg")' + ("\n#pagebreak()" if i + 1 < len(svgs) else "") for i in range(len(svgs))]
    pages: list[bytes] = typeset("\n".join(lines), {f"p{i}.svg": s.encode() for i, s in enumerate(svgs)}, png=True, ppi=ppi)
    return pages
