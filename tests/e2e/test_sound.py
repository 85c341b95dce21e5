"""What is heard, measured on the sound that leaves the player."""

import math
import re

import pytest
from playwright.sync_api import Page, expect

from tests.e2e.controls import choose, seek
from tests.e2e.test_interface import open_view

TAP = """
    const make = AudioContext.prototype.createMediaElementSource;
    AudioContext.prototype.createMediaElementSource = function (media) {
        const source = make.call(this, media);
        const tap = this.createAnalyser();
        tap.fftSize = 16384;
        tap.smoothingTimeConstant = 0;
        source.connect(tap);
        window.__tap = tap;
        window.__media = media;
        return source;
    };
    window.__listen = async (from, to) => {
        const power = new Float64Array(window.__tap.frequencyBinCount), now = new Float32Array(power.length);
        const patience = Date.now() + 60000;
        while (window.__media.currentTime < to && Date.now() < patience) {
            await new Promise((go) => setTimeout(go, 40));
            if (window.__media.currentTime < from) continue;
            window.__tap.getFloatFrequencyData(now);
            now.forEach((level, i) => { if (level > -200) power[i] += 10 ** (level / 10); });
        }
        return {power: [...power.slice(0, 1200)], width: window.__tap.context.sampleRate / window.__tap.fftSize};
    };
"""
STEPS = 8  # of a half step


def by_pitch(heard: dict[str, object]) -> list[float]:
    """Loudness at each eighth of a half step from A2 to A5, in decibels."""
    power, width = heard["power"], heard["width"]
    assert isinstance(power, list) and isinstance(width, float | int)
    rows = []
    for step in range(36 * STEPS):
        at = 110 * 2 ** (step / (12 * STEPS)) / width
        low = int(at)
        rows.append(10 * math.log10(power[low] + (at - low) * (power[low + 1] - power[low]) + 1e-20))
    return rows


def best_shift(one: list[float], other: list[float]) -> int:
    """By how many eighths of a half step the second has to be moved to look most like the first."""

    def likeness(shift: int) -> float:
        pairs = [(one[i], other[i + shift]) for i in range(40, len(one) - 40)]
        a, b = (sum(row) / len(pairs) for row in zip(*pairs, strict=True))
        over = sum((x - a) * (y - b) for x, y in pairs)
        return over / math.sqrt(sum((x - a) ** 2 for x, _ in pairs) * sum((y - b) ** 2 for _, y in pairs))

    return max(range(-40, 41), key=likeness)


@pytest.mark.parametrize("speed", ["0.7", "0.5"])
def test_the_recording_keeps_its_pitch_when_it_is_slowed(page: Page, charted: str, speed: str) -> None:
    """Half as quick without keeping pitch would lie an octave lower, at 70 % six half steps."""
    page.add_init_script(TAP)
    open_view(page, charted, "survey")
    choose(page, "hear", "recording")
    heard = []
    for rate in ("1", speed):
        choose(page, "speed", f"{100 * float(rate):.0f}")
        seek(page, 10)
        page.get_by_role("button", name="Play", exact=True).click()
        heard.append(by_pitch(page.evaluate("window.__listen(10.3, 14)")))
        page.get_by_role("button", name="Stop", exact=True).click()
        expect(page.get_by_role("button", name="Play", exact=True)).to_be_visible()
    assert max(heard[0]) > -150, "nothing was heard"
    assert abs(best_shift(*heard)) <= 1


def test_the_valley_goes_on_with_what_sounds_and_comes_back_for_a_key(page: Page, charted: str) -> None:
    page.goto(charted)
    parts = page.request.get(f"/api{charted}/chart").json()["parts"]
    page.goto(f"{charted}/valley?bar={parts[0]['end_bar']}")
    drawing = page.get_by_role("group", name=re.compile("^Both hands in part"))
    expect(drawing).to_have_attribute("aria-label", re.compile("part 1,"))
    page.keyboard.press("Space")
    expect(drawing).to_have_attribute("aria-label", re.compile("part 2,"))  # it plays on
    page.keyboard.press("k")  # the player's own keys leave it there
    expect(drawing).to_have_attribute("aria-label", re.compile("part 2,"))
    page.keyboard.press("k")
    page.keyboard.press("ArrowUp")  # meant for the grip that was in hand
    expect(drawing).to_have_attribute("aria-label", re.compile("part 1,"))
    page.keyboard.press("Space")
    expect(page.get_by_role("button", name="Play", exact=True)).to_be_visible()
    expect(drawing).to_have_attribute("aria-label", re.compile("part 1,"))
