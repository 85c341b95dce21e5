"""The logbook as Valley fills it: decisions with reasons, one line a matter, without what was undone; and parts cut out of folded scores."""

from pathlib import Path

from tests.web.conftest import PageClient
from valley_web.songs.models import LogEntry, Song


def lines(site: PageClient, song: Song) -> list[str]:
    return [e["text"] for e in site.get(f"/api/songs/{song.pk}/log").json()["lines"]]


def edit(site: PageClient, song: Song, what: dict) -> None:
    revision = site.get(f"/api/songs/{song.pk}/chart").json()["revision"]
    response = site.call("POST", f"songs/{song.pk}/edits", {"revision": revision, "edit": what})
    assert response.status_code == 200, response.content


def test_decisions_are_kept_with_their_reasons(site: PageClient, heard_song: Song) -> None:
    edit(site, heard_song, {"kind": "set_hands", "style": "big-finish"})
    edit(site, heard_song, {"kind": "set_hands", "style": "low-safe"})
    assert len(lines(site, heard_song)) == 2
    grip = site.get(f"/api/songs/{heard_song.pk}/arrangement").json()["parts"][0]["grips"][1]
    edit(
        site,
        heard_song,
        {"kind": "change_grip", "start": grip["start"], "action": "drop", "hand": "left", "midi": grip["left"][0]["midi"], "reason": "too low"},
    )
    top = site.get(f"/api/songs/{heard_song.pk}/log").json()["lines"][0]
    assert top["text"].endswith(", too low")
    assert top["bar"] is not None
    edit(site, heard_song, {"kind": "set_school", "matter": "naming", "school": "german"})
    assert lines(site, heard_song)[0] == "notes: German letters"


def test_a_corrected_chord_is_a_decision(site: PageClient, heard_song: Song) -> None:
    chord = site.get(f"/api/songs/{heard_song.pk}/chart").json()["chords"][1]
    edit(site, heard_song, {"kind": "set_chord", "start": chord["start"], "text": "Ebm7"})
    assert "Ebm7 instead of" in lines(site, heard_song)[0]
    assert "% sure of" in lines(site, heard_song)[0]


def test_what_was_undone_is_not_told_and_returns_with_redo(site: PageClient, heard_song: Song) -> None:
    edit(site, heard_song, {"kind": "set_hands", "level": "easier"})
    assert lines(site, heard_song)
    site.call("POST", f"songs/{heard_song.pk}/undo", {})
    assert lines(site, heard_song) == []
    site.call("POST", f"songs/{heard_song.pk}/redo", {})
    assert lines(site, heard_song)


def test_tries_at_one_matter_make_one_line(site: PageClient, heard_song: Song) -> None:
    grip = site.get(f"/api/songs/{heard_song.pk}/arrangement").json()["parts"][0]["grips"][0]
    for _ in range(3):
        edit(site, heard_song, {"kind": "change_grip", "start": grip["start"], "action": "star", "hand": "left", "midi": grip["left"][0]["midi"]})
    assert LogEntry.objects.filter(song=heard_song).count() == 1


def test_ready_is_a_decision_with_the_errors_that_were_known(site: PageClient, heard_song: Song) -> None:
    site.call("POST", f"songs/{heard_song.pk}/lesson/ready", {"ready": True, "despite": True})
    assert lines(site, heard_song)[0].startswith("ready to film")


def test_a_part_of_a_folded_score_is_the_part_that_was_asked_for(site: PageClient) -> None:
    """Bars were once counted in the folded score, so that parts after a repeat showed the music of others."""
    path = Path(__file__).parents[2] / "demo/charts/oats_and_iron.txt"
    song = site.upload(path.name, path.read_bytes()).json()["id"]
    score = "".join(site.get(f"/api/songs/{song}/score").json())
    assert score.count("1 Opening") == 1
    part = "".join(site.get(f"/api/songs/{song}/score", {"part": 4}).json())
    assert "4 Refrain" in part
    assert ">Bm<" in part
    last = "".join(site.get(f"/api/songs/{song}/score", {"part": 6}).json())
    assert "6 Close" in last
    assert ">Bm<" not in last
