"""Whether everyone can use a page: all rules on light paper; on dark paper, which changes nothing but colours, those about colour."""

from __future__ import annotations

from typing import Literal

from axe_playwright_python.sync_playwright import Axe
from playwright.sync_api import Page

_PAPERS: tuple[Literal["light", "dark"], ...] = ("light", "dark")
_RULES = {
    "light": {"runOnly": ["wcag2a", "wcag2aa", "wcag21a", "wcag21aa", "best-practice"]},
    "dark": {"runOnly": {"type": "rule", "values": ["color-contrast", "link-in-text-block"]}},
}

DESK = "[role=tabpanel]"  # the page around a desk is the same at each of them
_DRAWN = {"exclude": [[".paper svg"]]}  # a page of notes is one picture with a name; its thousand strokes have nothing to say for themselves


def hindrances(page: Page, within: str = "") -> list[str]:
    """What hinders somebody on a page, or in the one part of it that has changed since it was looked at, on either paper; each with its place and reason."""
    if within:
        assert page.locator(within).is_visible()
    context = _DRAWN | ({"include": [[within]]} if within else {})
    found = []
    for paper in _PAPERS:
        page.emulate_media(color_scheme=paper)
        page.wait_for_function("document.getAnimations().length === 0")  # colours on their way from one paper to the other are neither's
        results = Axe().run(page, context=context, options=_RULES[paper])
        found += [f"{paper} {v['id']}: {v['nodes'][0]['html'][:160]} {v['nodes'][0].get('failureSummary', '')[:300]}" for v in results.response["violations"]]
    page.emulate_media(color_scheme=_PAPERS[0])
    return found
