"""Correcting a chart: saved, versioned, undone, never lost between two windows."""

import json
from dataclasses import replace
from pathlib import Path
from typing import Any

import pytest

from tests.core.charting.test_from_hearing import HEARING
from tests.web.conftest import PageClient, hear
from valley.formats.hearing_json import dump_hearing
from valley.theory.chord import parse_harte
from valley_web.songs import jobs
from valley_web.songs.listening import keep_hearing, start_listening
from valley_web.songs.models import Deed, ListeningJob, Revision, Song
from valley_web.songs.presenters import explain_reading
from valley_web.songs.tasks import LISTENING


def set_chord(site: PageClient, song: Song, text: str, *, start: str = "2", revision: int = 1) -> Any:
    return correct(site, song, {"kind": "set_chord", "start": start, "text": text}, revision=revision)


def correct(site: PageClient, song: Song, edit: dict[str, Any], *, revision: int = 1, spread: tuple[int, ...] = ()) -> Any:
    return site.call("POST", f"songs/{song.pk}/edits", {"revision": revision, "edit": edit, "spread": spread})


def test_a_chart_arrives_ready_to_show(site: PageClient, heard_song: Song) -> None:
    chart = site.get(f"/api/songs/{heard_song.pk}/chart").json()
    assert chart["headline"].startswith("C major, then D major · 4/4 · 120 to the minute")
    assert [b["number"] for b in chart["bars"]] == list(range(9))
    first = chart["chords"][1]
    assert (first["bar"], first["beat"], first["symbol"], first["notes"]) == (1, 1.0, "C", ["C", "E", "G"])
    assert first["readings"][1]["symbol"] == "Am7"
    assert first["readings"][1]["why"] == "with A"
    assert chart["chords"][2]["spoken"] == "F major, first inversion"
    assert chart["chords"][2]["notes"][0] == "A"
    assert chart["keys"][1]["signature"] == "2 sharps"
    assert {v["symbol"] for v in chart["vocabulary"]} == {"C", "F/A", "D"}
    assert chart["parts"][1]["words"].startswith("part 1 again")


def test_a_typed_chord_is_kept_and_flows_on(site: PageClient, heard_song: Song) -> None:
    chart = set_chord(site, heard_song, "Cmaj7/E").json()["chart"]
    assert chart["revision"] == 2
    assert chart["last_change"] == "bar 1, beat 1: Cmaj7/E instead of C"
    changed = chart["chords"][1]
    assert (changed["label"], changed["locked"], changed["doubtful"]) == ("C:maj7/3", True, False)
    again = site.get(f"/api/songs/{heard_song.pk}/chart").json()
    assert again == chart
    grips = site.get(f"/api/songs/{heard_song.pk}/arrangement").json()["parts"][0]["grips"]
    assert grips[0]["symbol"] == "Cmaj7/E"
    assert grips[0]["left"][0]["pitch"].startswith("E")
    assert b"major-seventh" in site.get(f"/api/songs/{heard_song.pk}/handouts/score.musicxml").content
    assert "Cmaj7/E" in site.get(f"/api/songs/{heard_song.pk}/handouts/lesson.txt").content.decode()


def test_undo_and_redo_go_through_every_version(site: PageClient, heard_song: Song) -> None:
    for i, text in enumerate(["Dm", "Em", "Fm"], 1):
        set_chord(site, heard_song, text, revision=i)
    path = f"songs/{heard_song.pk}"
    symbols = [site.call("POST", f"{path}/undo", {}).json()["chart"]["chords"][1]["symbol"] for _ in range(4)]
    assert symbols == ["Em", "Dm", "C", "C"]
    assert [site.call("POST", f"{path}/redo", {}).json()["chart"]["chords"][1]["symbol"] for _ in range(4)] == ["Dm", "Em", "Fm", "Fm"]
    site.call("POST", f"{path}/undo", {})
    branch = set_chord(site, heard_song, "G7", revision=3).json()
    assert branch["revision"] == 5
    assert not branch["can_redo"]
    versions = site.get(f"/api/songs/{heard_song.pk}/revisions").json()["versions"]
    assert [v["number"] for v in versions] == [5, 4, 3, 2, 1]
    assert [v["number"] for v in versions if v["current"]] == [5]


def test_undoing_a_rename_takes_the_title_back_everywhere(site: PageClient, heard_song: Song) -> None:
    path = f"songs/{heard_song.pk}"
    before = site.get(f"/api/{path}").json()["title"]
    site.change(path, {"title": "Evening"})

    def titles() -> tuple[str, str, str]:
        header = site.get(f"/api/{path}/handouts/lesson.txt")
        return site.get(f"/api/{path}").json()["title"], site.get(f"/api/{path}/chart").json()["title"], header.content.decode().splitlines()[0]

    assert titles() == ("Evening",) * 3
    site.call("POST", f"{path}/undo", {})
    assert titles() == (before,) * 3
    site.call("POST", f"{path}/redo", {})
    assert titles() == ("Evening",) * 3


def test_two_windows_get_a_conflict_and_both_changes_are_kept(site: PageClient, heard_song: Song) -> None:
    assert set_chord(site, heard_song, "Dm").status_code == 200
    stale = set_chord(site, heard_song, "Em")
    assert stale.status_code == 409
    problem = stale.json()
    assert problem["kind"] == "conflict"
    kept = Revision.objects.get(song=heard_song, number=problem["data"]["kept"])
    assert kept.state["chart"]["chords"][1]["chord"] == "E:min"
    assert site.get(f"/api/songs/{heard_song.pk}/chart").json()["chords"][1]["symbol"] == "Dm"
    versions = site.get(f"/api/songs/{heard_song.pk}/revisions").json()["versions"]
    assert [v["number"] for v in versions if v["kept_aside"]] == [problem["data"]["kept"]]
    resolved = set_chord(site, heard_song, "Em", revision=problem["data"]["current"])
    assert resolved.json()["chart"]["chords"][1]["symbol"] == "Em"


def test_any_correction_arrives_by_its_kind_and_spreads(site: PageClient, heard_song: Song) -> None:
    chart = correct(site, heard_song, {"kind": "set_bass", "start": "2", "note": "G"}, spread=(2,)).json()["chart"]
    assert chart["chords"][1]["symbol"] == "C/G"
    assert chart["last_change"].endswith("also in part 2")
    chart = correct(site, heard_song, {"kind": "set_meter", "bar": 3, "meter": "3/4"}, revision=2).json()["chart"]
    assert [b["meter"] for b in chart["bars"]][2:4] == ["4/4", "3/4"]
    chart = correct(site, heard_song, {"kind": "set_cue", "start": "7/2", "text": "turn"}, revision=3).json()["chart"]
    assert chart["cues"] == [{"start": "7/2", "start_beats": 3.5, "text": "turn"}]


def test_a_change_is_offered_to_its_repeats_and_spread_afterwards(site: PageClient, heard_song: Song) -> None:
    chart = set_chord(site, heard_song, "Cm").json()
    assert [t["part"] for t in chart["offer"]] == [2]
    path = f"songs/{heard_song.pk}"
    spread = site.call("POST", f"{path}/spread", {"revision": 2, "parts": [2]}).json()
    assert spread["last_change"] == "bar 1, beat 1: Cm instead of C; also in part 2"
    assert sum(c["locked"] for c in spread["chart"]["chords"]) == 2
    assert spread["offer"] == []
    assert site.call("POST", f"{path}/spread", {"revision": 2, "parts": [2]}).status_code == 409
    assert sum(c["locked"] for c in site.call("POST", f"{path}/undo", {}).json()["chart"]["chords"]) == 1


def test_played_keys_are_named_in_the_key_of_their_place(site: PageClient, heard_song: Song) -> None:
    path = f"/api/songs/{heard_song.pk}/chart/named"
    named = site.get(path, {"midi": "52,60,67", "beat": "2"}).json()
    assert named[0]["symbol"] == "C/E"
    assert "C is the root" in named[0]["why"]
    assert site.get(path, {"midi": "x", "beat": "2"}).status_code == 422
    assert site.get(path, {"midi": "", "beat": "2"}).json() == []


def test_versions_are_named_compared_and_brought_back(site: PageClient, heard_song: Song) -> None:
    path = f"songs/{heard_song.pk}"
    set_chord(site, heard_song, "Dm")
    set_chord(site, heard_song, "Em", revision=2)
    assert site.call("PATCH", f"{path}/revisions/1", {"name": " first  hearing "}).status_code == 204
    changes = site.get(f"/api/{path}/revisions/1/changes", {"to": 3}).json()
    assert changes == [{"bar": 1, "what": "Em instead of C"}]
    back = site.call("POST", f"{path}/revisions/1/bring-back", {}).json()
    assert (back["revision"], back["chart"]["chords"][1]["symbol"], back["last_change"]) == (4, "C", "version 1 brought back: first hearing")
    assert site.call("POST", f"{path}/undo", {}).json()["chart"]["chords"][1]["symbol"] == "Em"
    assert site.get(f"/api/{path}/revisions").json()["versions"][-1]["name"] == "first hearing"
    assert site.call("POST", f"{path}/revisions/99/bring-back", {}).status_code == 404


def test_listening_again_keeps_the_creators_chords(site: PageClient, heard_song: Song) -> None:
    set_chord(site, heard_song, "Cm7")
    job = ListeningJob.objects.get(pk=site.call("POST", f"songs/{heard_song.pk}/listen").json()["id"])
    hear(job)
    chart = site.get(f"/api/songs/{heard_song.pk}/chart").json()
    assert chart["last_change"] == "Listened again; what you set is kept; it hears 1 of your chords otherwise"
    assert (chart["chords"][1]["symbol"], chart["chords"][1]["heard_otherwise"]) == ("Cm7", "C")


@pytest.mark.parametrize(
    ("change", "words"),
    [
        ({"text": "Zm"}, "no chord that Valley can read"),
        ({"start": "1"}, "no chord begins"),
        ({"start": "x"}, "start"),
        ({"start": "1/0"}, "start"),
        ({"kind": "paint"}, "kind"),
        ({"revision": "new"}, "revision"),
    ],
)
def test_changes_that_make_no_sense_change_nothing(site: PageClient, heard_song: Song, change: dict[str, str], words: str) -> None:
    edit = {"kind": "set_chord", "start": "2", "text": "C"} | change
    response = site.call("POST", f"songs/{heard_song.pk}/edits", {"revision": edit.pop("revision", 1), "edit": edit})
    assert response.status_code == 422
    assert words in response.json()["title"]
    assert Revision.objects.count() == 1


def test_readings_say_what_sets_them_apart() -> None:
    assert explain_reading(parse_harte("C:min7"), parse_harte("C:min7/b7")) == "the same chord with C in the bass"
    assert explain_reading(parse_harte("A:min7/b3"), parse_harte("C:maj6")) == "the same notes, named from another root"
    assert explain_reading(parse_harte("C:7"), parse_harte("C:maj")) == "with Bb"
    assert explain_reading(parse_harte("N"), parse_harte("C:maj")) == "nothing but noise or silence"
    assert explain_reading(parse_harte("C:maj"), parse_harte("C:maj")) == "bass and notes fit best"


def test_a_typed_chord_is_answered_while_typing(site: PageClient) -> None:
    good = site.get("/api/chord", {"text": "F#m7b5/C"}).json()
    assert (good["ok"], good["symbol"], good["notes"]) == (True, "F#m7b5/C", ["F#", "A", "C", "E"])
    assert good["midi"][0] % 12 == 0
    bad = site.get("/api/chord", {"text": "Qm"}).json()
    assert not bad["ok"]
    assert "Cm7" in bad["message"]
    assert site.get("/api/chord", {"text": "N"}).json()["symbol"] == "no chord"


def test_every_handout_is_made_from_the_chart(site: PageClient, heard_song: Song) -> None:
    listed = site.get(f"/api/songs/{heard_song.pk}/handouts").json()
    assert "permission" in listed["caution"]
    for file in listed["files"]:
        response = site.get(file["address"])
        assert response.status_code == 200, file
        assert response.content
        assert file["name"] in response["Content-Disposition"]
    assert site.get(f"/api/songs/{heard_song.pk}/handouts/poster.gif").status_code == 404


def test_file_names_survive_any_title(site: PageClient, heard_song: Song) -> None:
    site.change(f"songs/{heard_song.pk}", {"title": 'Über "den"\r\nFluss ♪'})
    header = site.get(f"/api/songs/{heard_song.pk}/handouts/lesson.txt")["Content-Disposition"]
    assert "\n" not in header
    assert "%E2%99%AA" in header


def test_an_edit_that_comes_twice_is_done_once(site: PageClient, heard_song: Song) -> None:
    """Its answer was lost on the way, and the page sends it again when it is opened next."""
    body = {"revision": 1, "edit": {"kind": "set_chord", "start": "2", "text": "Dm"}, "key": "k-1"}
    first = site.call("POST", f"songs/{heard_song.pk}/edits", body).json()
    again = site.call("POST", f"songs/{heard_song.pk}/edits", body | {"revision": 2})
    assert again.status_code == 200
    assert (first["revision"], again.json()["revision"], Revision.objects.count()) == (2, 2, 2)


def test_only_who_holds_a_job_may_keep_its_hearing(heard_song: Song) -> None:
    job = start_listening(heard_song, actor="owner")
    ListeningJob.objects.filter(pk=job.pk).update(state="running", attempts=2)
    job.attempts = 1
    assert not keep_hearing(job, dump_hearing(HEARING), [0.5], "")
    assert (Revision.objects.count(), ListeningJob.objects.get(pk=job.pk).state) == (1, "running")
    ListeningJob.objects.filter(pk=job.pk).update(state="cancelled", attempts=1)
    assert not keep_hearing(job, dump_hearing(HEARING), [0.5], "")


def test_a_hearing_that_cannot_be_charted_ends_the_job_with_a_sentence(heard_song: Song, tmp_path: Path) -> None:
    """The worker died of it, was started again, and died again."""
    job = start_listening(heard_song, actor="owner")
    ListeningJob.objects.filter(pk=job.pk).update(state="running", attempts=1)
    job.refresh_from_db()
    document = dump_hearing(replace(HEARING, beats=(1.0,), downbeats=()))
    (tmp_path / "hearing.json").write_text(json.dumps(document))
    (tmp_path / "loudness.json").write_text("[]")
    (tmp_path / "evidence.npz").write_bytes(b"")
    ListeningJob.objects.exclude(pk=job.pk).delete()
    Song.objects.filter(pk=heard_song.pk).update(revision=0)
    jobs.LocalHold(LISTENING, job).keep(tmp_path, "")
    job.refresh_from_db()
    assert job.state == "failed"
    assert job.error.startswith("It was heard, but no chart can be made of it: beats=1")


def test_who_did_it_is_kept_with_every_change(site: PageClient, heard_song: Song) -> None:
    path = f"songs/{heard_song.pk}"
    set_chord(site, heard_song, "Dm")
    site.call("POST", f"{path}/undo", {})
    site.call("PATCH", f"{path}/revisions/2", {"name": "one"})
    site.change(path, {"rights": "mine"})
    site.call("DELETE", path)
    site.call("POST", f"{path}/restore")
    assert Revision.objects.get(number=2).actor == "owner"
    deeds = [(d.actor, d.what.split(" ")[0]) for d in Deed.objects.filter(song=heard_song).order_by("id")]
    assert deeds == [("owner", w) for w in ("undid", "called", "changed", "took", "put")]
