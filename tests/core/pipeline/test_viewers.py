"""The page for viewers: whole in one file, nothing in it reaches out, and what lights up is what is played."""

import base64
import json
import re
from dataclasses import replace

import av
import pytest

from tests.charts import chart_of, make_work
from valley.formats.shot_list import clock, dump_shots_csv, dump_shots_pdf, list_shots
from valley.formats.stills import draw_stills
from valley.model.choices import Choices
from valley.model.schools import Schools
from valley.pipeline.viewers import dump_viewers_page
from valley.song.work import Work

CHART = chart_of(["C", "Am", "F", "Bb"], tune=[(0, 2, 67), (4, 1, 69), (6, 2, 72), (8, 4, 69), (12, 4, 70)], parts=[(1, 2, None), (3, 2, None)])
WORK = make_work(replace(CHART, title="</script><b>Barley & Rye"), Choices(style="root-and-chord", pattern="every-beat"))
PAGE = dump_viewers_page(WORK).decode()


def data() -> dict[str, object]:
    found = re.search(r'<script id="data" type="application/json">(.*?)</script>', PAGE, re.DOTALL)
    assert found
    read: dict[str, object] = json.loads(found[1])
    return read


def test_nothing_in_it_reaches_out() -> None:
    assert not re.search(r'(src|href)="(?!data:|#)', PAGE)
    assert not re.search(r"url\((?!data:)", PAGE)
    assert "default-src 'none'" in PAGE
    assert not re.search(r"\b(fetch|XMLHttpRequest|WebSocket|sendBeacon|localStorage|cookie)\b", PAGE)


def test_a_title_is_text_and_nothing_else() -> None:
    assert "</script><b>" not in PAGE
    assert "&lt;/script&gt;&lt;b&gt;Barley &amp; Rye" in PAGE


def test_the_keys_that_light_up_are_those_that_are_played() -> None:
    lit = {k["m"] for s in data()["scenes"] for k in s["keys"]}  # type: ignore[attr-defined]
    assert lit == {n.midi for p in WORK.arrangement.parts for n in p.notes}
    assert all(str(m) in data()["places"] for m in lit)  # type: ignore[operator]


def test_its_sound_lasts_as_long_as_the_song(tmp_path: object) -> None:
    import io

    sound = base64.b64decode(re.search(r"data:audio/mpeg;base64,([^\"]+)", PAGE)[1])  # type: ignore[index]
    with av.open(io.BytesIO(sound)) as source:
        seconds = float(source.duration) / 1e6
    assert seconds == pytest.approx(float(data()["end"]) + 2.5, abs=0.2)  # type: ignore[arg-type]


@pytest.mark.parametrize(("language", "word"), [("de", "Abspielen"), ("fr", "Jouer"), ("es", "Tocar")])
def test_it_speaks_the_language_of_the_lesson(language: str, word: str) -> None:
    teaching = replace(WORK.song.teaching, schools=Schools(language=language))  # type: ignore[arg-type]
    page = dump_viewers_page(Work(replace(WORK.song, teaching=teaching))).decode()
    assert f'<html lang="{language}">' in page
    assert f">{word}<" in page


def test_the_shot_list_goes_through_the_whole_lesson_without_a_gap() -> None:
    shots = list_shots(WORK)
    assert len(shots) == len(WORK.lesson.steps)
    assert shots[0].begins == 0
    assert all(a.ends == b.begins for a, b in zip(shots, shots[1:], strict=False))
    cards = {c.name for c in draw_stills(WORK)}
    assert all(name in cards for s in shots for name in s.show if re.match(r"\d\d-", name))
    assert shots[0].show[0] == "01-title"
    played = [s for s, step in zip(shots, WORK.lesson.steps, strict=True) if step.playing_seconds]
    assert played
    assert all("hand" in s.plays and "%" in s.plays for s in played)
    assert dump_shots_csv(WORK).count("\n") >= len(shots) + 1
    assert dump_shots_pdf(WORK).startswith(b"%PDF")
    assert clock(59.7) == "1:00"
