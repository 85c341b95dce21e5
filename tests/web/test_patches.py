"""After a correction only what is another is sent: laid on what was shown, it makes the same chart."""

from collections.abc import Callable
from typing import Any

import pytest
from pytest_django import DjangoAssertNumQueries

from tests.web.conftest import PageClient
from valley_web.songs.models import Song

Change = Callable[[dict[str, Any]], dict[str, Any]]
# Each of the chart as it then is.
EDITS: list[Change] = [
    lambda c: {"kind": "set_chord", "start": c["chords"][1]["start"], "text": "Dm7"},
    lambda c: {"kind": "set_cue", "start": c["chords"][1]["start"], "text": "river"},
    lambda c: {"kind": "split_chord", "at": str(int(c["chords"][0]["start_beats"]) + 1)},
    lambda c: {"kind": "delete_chord", "start": c["chords"][2]["start"]},
    lambda c: {"kind": "change_note", "start": c["melody"][0]["start"], "midi": 74},
    lambda c: {"kind": "transpose_song", "half_steps": 2},
    lambda c: {"kind": "set_key", "start": c["chords"][1]["start"], "tonic": "Eb", "mode": "major"},
    lambda c: {"kind": "double_tempo"},
    lambda c: {"kind": "rename_song", "title": "Other"},
]


def lay(chart: dict[str, Any], patch: dict[str, Any]) -> dict[str, Any]:
    """As the page does it."""
    assert patch["base"] == chart["revision"]
    made = chart | patch["fields"]
    for name, splice in patch["rows"].items():
        made[name] = made[name][: splice["at"]] + splice["rows"] + made[name][splice["at"] + splice["gone"] :]
    return made


def test_patches_make_the_chart_that_is_shown(site: PageClient, heard_song: Song) -> None:
    path = f"songs/{heard_song.pk}"
    chart = site.get(f"/api/{path}/chart").json()
    for make in EDITS:
        edit = make(chart)
        body = {"revision": chart["revision"], "have": chart["revision"], "edit": edit}
        response = site.call("POST", f"{path}/edits", body)
        assert response.status_code == 200, (edit, response.json())
        answer = response.json()
        assert answer["chart"] is None and answer["patch"], edit
        chart = lay(chart, answer["patch"])
        assert chart == site.get(f"/api/{path}/chart").json(), edit


def test_a_chart_that_the_server_does_not_remember_comes_whole(site: PageClient, heard_song: Song) -> None:
    for have in (0, 1):
        body = {"revision": 1 + have, "have": have, "edit": {"kind": "rename_song", "title": f"Name {have}"}}
        answer = site.call("POST", f"songs/{heard_song.pk}/edits", body).json()
        assert answer["patch"] is None and answer["chart"]["revision"] == 2 + have


@pytest.mark.parametrize("show", ["hands", "lesson"])
def test_a_change_of_the_hands_leaves_the_chart_and_the_next_patch_fits(site: PageClient, heard_song: Song, show: str) -> None:
    path = f"songs/{heard_song.pk}"
    chart = site.get(f"/api/{path}/chart").json()
    body = {"revision": 1, "have": 1, "show": show, "edit": {"kind": "set_hands", "level": "easier"}}
    answer = site.call("POST", f"{path}/edits", body).json()
    assert answer["chart"] is None and answer["patch"] is None
    body = {"revision": 2, "have": 2, "edit": EDITS[0](chart)}
    patch = site.call("POST", f"{path}/edits", body).json()["patch"]
    assert lay(chart | {"revision": 2}, patch) == site.get(f"/api/{path}/chart").json()


def test_a_correction_of_a_heard_song_asks_the_database_little(
    site: PageClient, heard_song: Song, django_assert_max_num_queries: DjangoAssertNumQueries
) -> None:
    path = f"songs/{heard_song.pk}"
    seen = site.get(f"/api/{path}/chart").json()["revision"]
    body = {"revision": seen, "have": seen, "edit": {"kind": "set_chord", "start": "0", "text": "Am7"}}
    with django_assert_max_num_queries(21):  # with the marks of its way and the line in its log
        assert site.call("POST", f"{path}/edits", body).status_code == 200
