"""Whether everyone can use a page: all rules on light paper; on dark paper, which changes nothing but colours, those about colour."""

from __future__ import annotations

from axe_playwright_python.sync_playwright import Axe
from playwright.sync_api import Page

_RULES = {
    "light": {"runOnly": ["wcag2a", "wcag2aa", "wcag21a", "wcag21aa", "best-practice"]},
    "dark": {"runOnly": {"type": "rule", "values": ["color-contrast", "link-in-text-block"]}},
}

DESK = "[role=tabpanel]"  # the page around a desk is the same at each of them
_DRAWN = {"exclude": [[".paper svg"]]}  # a page of notes is one picture with a name; its thousand strokes have nothing to say for themselves


def hindrances(page: Page, scheme: str = "light", within: str = "") -> list[str]:
    """What hinders somebody on a page, or in the one part of it that has changed since it was looked at; each with its place and reason."""
    if within:
        assert page.locator(within).is_visible()
    context = _DRAWN | ({"include": [[within]]} if within else {})
    results = Axe().run(page, context=context, options=_RULES[scheme])
    return [f"{v['id']}: {v['nodes'][0]['html'][:160]} {v['nodes'][0].get('failureSummary', '')[:300]}" for v in results.response["violations"]]
