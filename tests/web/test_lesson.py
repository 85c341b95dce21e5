"""The lesson over the API: steps and schools, findings and their mends, the proof-reader, sheet music, everything in one file."""

import io
import json
import zipfile
from typing import Any
from urllib.parse import unquote

import pytest

from tests.web.conftest import PageClient
from valley_web.songs.models import Recording, Revision, Song


@pytest.fixture
def teach(site: PageClient, heard_song: Song) -> Any:
    def send(edit: dict[str, Any], revision: int | None = None) -> Any:
        now = Song.objects.get(pk=heard_song.pk).revision if revision is None else revision
        return site.call("POST", f"songs/{heard_song.pk}/edits", {"revision": now, "edit": edit, "show": "lesson"})

    return send


def test_the_lesson_has_steps_schools_and_findings(site: PageClient, heard_song: Song) -> None:
    lesson = site.get(f"/api/songs/{heard_song.pk}/lesson").json()
    assert lesson["steps"][0]["title"] == "What you will learn" and lesson["seconds"] > 30
    assert {m["name"] for m in lesson["matters"]} >= {"naming", "order", "octaves"}
    assert lesson["lessons"][0]["steps"] == [s["key"] for s in lesson["steps"]]
    assert lesson["lessons"][0]["minutes"] == round(lesson["seconds"] / 60, 1)
    assert lesson["tempi"][-1] == 120 and lesson["errors"] == 0


def test_steps_are_rewritten_left_out_moved_added_and_undone(site: PageClient, heard_song: Song, teach: Any) -> None:
    lesson = teach({"kind": "write_step", "key": "chords", "lines": ["Only three chords."]}).json()["lesson"]
    chords = next(s for s in lesson["steps"] if s["key"] == "chords")
    assert chords["edited"] and not chords["stale"] and [line["text"] for line in chords["lines"]] == ["Only three chords."]
    lesson = teach({"kind": "write_step", "key": "closing", "left_out": True}).json()["lesson"]
    assert lesson["left_out"] == [{"key": "closing", "title": "All of it"}]
    lesson = teach({"kind": "write_step", "key": "own-1", "title": "Sit well", "lines": ["Both feet on the floor."], "added": True, "after": ""}).json()[
        "lesson"
    ]
    assert lesson["steps"][0]["title"] == "Sit well"
    assert teach({"kind": "write_step", "key": "nowhere", "lines": ["x"]}).status_code == 422
    site.call("POST", f"songs/{heard_song.pk}/undo", {})
    assert site.get(f"/api/songs/{heard_song.pk}/lesson").json()["steps"][0]["key"] == "opening"
    lesson = teach({"kind": "forget_step", "key": "chords"}).json()["lesson"]
    assert not next(s for s in lesson["steps"] if s["key"] == "chords")["edited"]


def test_words_go_stale_when_the_music_changes(site: PageClient, heard_song: Song, teach: Any) -> None:
    teach({"kind": "write_step", "key": "chords", "lines": ["Only three chords."]})
    now = Song.objects.get(pk=heard_song.pk).revision
    edit = {"kind": "set_chord", "start": "2", "text": "Ebm7"}
    assert site.call("POST", f"songs/{heard_song.pk}/edits", {"revision": now, "edit": edit}).status_code == 200
    lesson = site.get(f"/api/songs/{heard_song.pk}/lesson").json()
    assert next(s for s in lesson["steps"] if s["key"] == "chords")["stale"]
    assert any(f["check"] == "stale" and f["step"] == "chords" for f in lesson["findings"])


def test_schools_are_followed(teach: Any, site: PageClient, heard_song: Song) -> None:
    lesson = teach({"kind": "set_school", "matter": "naming", "school": "syllables"}).json()["lesson"]
    assert "do re mi fa sol la si" in " ".join(line["text"] for line in lesson["steps"][0]["lines"])
    assert teach({"kind": "set_school", "matter": "naming", "school": "tonic"}).status_code == 422
    assert teach({"kind": "set_school", "matter": "taste", "school": "good"}).status_code == 422


def test_a_stale_window_keeps_its_words_aside(teach: Any) -> None:
    assert teach({"kind": "set_school", "matter": "octaves", "school": "c3"}, revision=1).status_code == 200
    late = teach({"kind": "write_step", "key": "chords", "lines": ["Late."]}, revision=1)
    assert late.status_code == 409 and Revision.objects.get(number=late.json()["data"]["kept"]).kept_aside


def test_errors_are_found_mended_and_stand_in_the_way_of_ready(site: PageClient, heard_song: Song, teach: Any) -> None:
    path = f"songs/{heard_song.pk}"
    site.call("POST", f"{path}/edits", {"revision": 1, "edit": {"kind": "set_hands", "style": "root-and-chord", "level": "easier"}})
    grip = site.get(f"/api/{path}/arrangement").json()["parts"][0]["grips"][0]
    spoiled = {"kind": "change_grip", "start": grip["start"], "action": "move", "hand": "right", "midi": grip["right"][1]["midi"], "by": 1}
    site.call("POST", f"{path}/edits", {"revision": 2, "edit": spoiled})
    lesson = site.get(f"/api/{path}/lesson").json()
    error = next(f for f in lesson["findings"] if f["severity"] == "error")
    assert error["check"] == "name" and error["mend"]["words"] == "take Valley's grip" and error["about"] == "hands"
    refused = site.call("POST", f"{path}/lesson/ready", {"ready": True})
    assert refused.status_code == 409 and "still open" in refused.json()["title"]
    known = site.call("POST", f"{path}/lesson/ready", {"ready": True, "despite": True}).json()
    assert known["ready"] and known["ready_despite"] >= 1
    mended = site.call("POST", f"{path}/edits", {"revision": 3, "edit": error["mend"]["edit"], "show": "lesson"}).json()["lesson"]
    assert mended["errors"] == 0
    assert site.call("POST", f"{path}/lesson/ready", {"ready": True}).json()["ready_despite"] == 0
    assert not site.call("POST", f"{path}/lesson/ready", {"ready": False}).json()["ready"]


def test_words_are_proof_read(site: PageClient, heard_song: Song) -> None:
    claims = site.call("POST", f"songs/{heard_song.pk}/proof", {"text": "In bar 1 we play C minor."}).json()["claims"]
    assert claims[0]["verdict"] == "contradicts" and claims[0]["expected"]
    captions = "WEBVTT\n\n00:01:02.000 --> 00:01:04.000\nIn bar 1 we play\nC minor.\n"
    film = site.call("POST", f"songs/{heard_song.pk}/proof", {"text": captions}).json()
    assert (film["text"], film["timed"]) == ("In bar 1 we play C minor.", True)
    assert 62 <= film["claims"][0]["seconds"] <= 64
    assert site.call("POST", f"songs/{heard_song.pk}/proof", {"text": "x", "naming": "tonic"}).status_code == 422


def test_sheet_music_is_drawn_whole_and_part_by_part(site: PageClient, heard_song: Song) -> None:
    whole = site.get(f"/api/songs/{heard_song.pk}/score").json()
    part = site.get(f"/api/songs/{heard_song.pk}/score", {"part": 1}).json()
    assert whole[0].startswith("<svg") and len(part[0]) <= len(whole[0])
    assert site.get(f"/api/songs/{heard_song.pk}/score", {"part": 99}).status_code == 404


def test_everything_comes_in_one_file(site: PageClient, heard_song: Song) -> None:
    response = site.get(f"/api/songs/{heard_song.pk}/handouts/all.zip")
    archive = zipfile.ZipFile(io.BytesIO(response.getvalue()))
    assert {"manifest.json", "score.pdf", "lesson.json", "hearing.json"} <= set(archive.namelist())
    assert archive.testzip() is None
    assert zipfile.ZipFile(io.BytesIO(site.get(f"/api/songs/{heard_song.pk}/handouts/frames-1.zip").content)).namelist()[-1] == "frames.json"
    assert site.get(f"/api/songs/{heard_song.pk}/handouts/score.pdf", {"look": "true"})["Content-Disposition"].startswith("inline")


def test_the_one_file_holds_what_was_chosen_and_comes_as_it_is_made(site: PageClient, heard_song: Song) -> None:
    address = f"/api/songs/{heard_song.pk}/handouts/all.zip"
    response = site.get(address, {"only": "hands.mid,chords.txt"})
    assert response.streaming
    pieces = [bytes(piece) for piece in response]  # one a file, the manifest, and the list of them all
    assert len(pieces) == 4
    archive = zipfile.ZipFile(io.BytesIO(b"".join(pieces)))
    assert sorted(archive.namelist()) == ["chords.txt", "hands.mid", "manifest.json"]
    assert archive.read("hands.mid") == site.get(f"/api/songs/{heard_song.pk}/handouts/hands.mid").content
    assert [row["name"] for row in json.loads(archive.read("manifest.json"))["files"]] == ["chords.txt", "hands.mid"]
    assert site.get(address, {"only": "hands.mid,nothing.xyz"}).status_code == 404


def test_findings_are_given_for_every_margin_and_mended_there(site: PageClient, heard_song: Song) -> None:
    path = f"songs/{heard_song.pk}"
    grip = site.get(f"/api/{path}/arrangement").json()["parts"][0]["grips"][1]
    edit = {"kind": "change_grip", "start": grip["start"], "action": "take", "left": [grip["left"][0]["midi"]], "right": [60, 76]}
    revision = site.get(f"/api/{path}/chart").json()["revision"]
    assert site.call("POST", f"{path}/edits", {"revision": revision, "edit": edit}).status_code == 200
    found = site.get(f"/api/{path}/findings").json()
    assert found == site.get(f"/api/{path}/lesson").json()["findings"]
    here = [f for f in found if f["start"] == grip["start"] and f["mend"] and f["mend"]["edit"]["action"] == "release"]
    assert here
    site.call("POST", f"{path}/edits", {"revision": revision + 1, "edit": here[0]["mend"]["edit"]})
    assert not [f for f in site.get(f"/api/{path}/findings").json() if f["start"] == grip["start"] and f["check"] == here[0]["check"]]


def test_the_recording_is_slowed_for_rehearsal_and_is_no_hand_out(site: PageClient, heard_song: Song) -> None:
    address = f"/api/songs/{heard_song.pk}/slowed"
    answer = site.get(address, {"part": 1, "speed": 0.5, "kind": "flac"})
    assert (answer.status_code, answer["Content-Type"], answer.content[:4]) == (200, "audio/flac", b"fLaC")
    assert "part 1 of the recording, 50 %" in unquote(answer["Content-Disposition"])
    assert site.get(address, {"part": 77}).status_code == 422
    assert site.get(address, {"speed": 0.1}).status_code == 422
    assert not [f["name"] for f in site.get(f"/api/songs/{heard_song.pk}/handouts").json()["files"] if "record" in f["name"]]
    Recording.objects.filter(song=heard_song).delete()
    gone = site.get(address, {"part": 1})
    assert (gone.status_code, gone.json()["title"]) == (404, "This song has no recording.")


def test_a_practice_track_is_sound_to_keep(site: PageClient, heard_song: Song) -> None:
    address = f"/api/songs/{heard_song.pk}/practice"
    answer = site.get(address, {"mix": "left", "part": 1, "speed": 0.5, "kind": "mp3"})
    assert (answer.status_code, answer["Content-Type"]) == (200, "audio/mpeg")
    assert "left hand alone, 50 %" in unquote(answer["Content-Disposition"]) and answer["Content-Disposition"].startswith("attachment")
    assert answer.content[:3] == b"ID3"
    assert site.get(address, {"part": 1, "look": "true"})["Content-Disposition"].startswith("inline")
    refused = site.get(address, {"part": 77})
    assert refused.status_code == 422 and "part=77" in refused.json()["title"]
    assert site.get(address, {"mix": "tune"}).status_code == 422
