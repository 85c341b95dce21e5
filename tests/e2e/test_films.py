"""What viewers get, in the browser: a film that is looked at, made and watched; the page for viewers, driven without a network."""

import urllib.request
from pathlib import Path

from playwright.sync_api import Page, expect

from tests.e2e.controls import choose
from tests.e2e.test_interface import open_view


def test_a_film_is_looked_at_made_and_watched(page: Page, charted: str) -> None:
    open_view(page, charted, "hand-outs")
    choose(page, "Kind of film", "on paper, with sound")
    look = page.get_by_role("img", name="The film at")
    expect(look).to_be_visible()
    page.wait_for_function("() => { const i = document.querySelector('img.hands'); return i.complete && i.naturalWidth === 1920 }")
    choose(page, "Size of the film", "1280")
    page.wait_for_function("() => { const i = document.querySelector('img.hands'); return i.complete && i.naturalWidth === 1280 }")
    choose(page, "Part that is filmed", "part 1")
    page.get_by_role("button", name="make the film").click()
    films = page.get_by_role("region", name="Films").get_by_role("status")
    expect(films).to_contain_text("film-part1-720p-100.mp4")
    films.get_by_role("button", name="watch").click(timeout=90_000)
    seen = page.locator("video")
    expect(seen).to_be_visible()
    page.wait_for_function("() => document.querySelector('video').videoWidth === 1280 || document.querySelector('video').error")
    films.get_by_role("button", name="Clear away").click()
    expect(films).not_to_contain_text("film-part1")


def test_the_page_for_viewers_plays_without_a_network(page: Page, charted: str, base_url: str, tmp_path: Path) -> None:
    song = charted.rsplit("/", 1)[-1]
    content = urllib.request.urlopen(f"{base_url}/api/songs/{song}/handouts/viewers.html").read()  # noqa: S310 - our own server
    assert len(content) < 6_000_000
    (tmp_path / "viewers.html").write_bytes(content)
    asked: list[str] = []
    page.on("request", lambda r: asked.append(r.url) if not r.url.startswith(("file:", "data:")) else None)
    page.goto((tmp_path / "viewers.html").as_uri())
    expect(page.get_by_role("heading", level=1)).to_contain_text("ast tram waltz")
    page.locator("#speed").select_option("0.5")
    page.get_by_role("button", name="Play", exact=True).click()
    page.wait_for_function("() => document.getElementById('audio').currentTime > 0.4")
    assert page.evaluate("() => [document.getElementById('audio').playbackRate, document.querySelectorAll('#marks > *').length > 0]") == [0.5, True]
    page.locator("#hands").select_option("left")
    page.get_by_role("button", name="Stop", exact=True).click()
    before = page.evaluate("() => document.getElementById('audio').currentTime")
    page.get_by_role("button", name="Bar →").click()
    assert page.evaluate("() => document.getElementById('audio').currentTime") > before
    page.get_by_text("Every chord in words").click()
    expect(page.get_by_role("row").nth(1)).to_be_visible()
    assert not asked
