"""Files of notes and chords as songs, and performances beside the arrangement, through the API."""

import io
from pathlib import Path

import pytest
from django.core.files.uploadedfile import SimpleUploadedFile

from tests.web.conftest import PageClient
from valley_web.songs.models import Song

CHART = b"title: Small Hours\nkey: G major\n\n[One]\n| G | Em | C | D |\n[Two]\n| G | Em | C | G |\n"


def get_file(site: PageClient, song: int, name: str) -> bytes:
    content: bytes = site.get(f"/api/songs/{song}/handouts/{name}").content
    return content


def test_a_chord_chart_becomes_a_song_with_hands_lesson_and_files(site: PageClient) -> None:
    made = site.upload("small_hours.txt", CHART).json()
    assert (made["title"], made["recording_id"], made["charted"], made["facts"]) == ("Small Hours", None, True, "G major · 4/4 · 100 to the minute")
    chart = site.get(f"/api/songs/{made['id']}/chart").json()
    assert [c["symbol"] for c in chart["chords"]][:4] == ["G", "Em", "C", "D"]
    assert site.get(f"/api/songs/{made['id']}/loudness").json() == []
    grips = site.get(f"/api/songs/{made['id']}/arrangement").json()["parts"][0]["grips"]
    assert grips[0]["left"]
    assert grips[0]["right"]
    names = [f["name"] for f in site.get(f"/api/songs/{made['id']}/handouts").json()["files"]]
    assert "hearing.json" not in names
    assert get_file(site, made["id"], "lesson.pdf").startswith(b"%PDF")
    assert site.call("POST", f"songs/{made['id']}/listen").status_code == 422


@pytest.mark.parametrize("name", ["score.musicxml", "hands.mid", "chords.txt", "chords.csv", "chords.lab", "chart.json", "lesson.json"])
def test_every_hand_out_that_can_be_read_comes_back_as_a_song(site: PageClient, heard_song: Song, name: str) -> None:
    made = site.upload(f"again.{name.rsplit('.', 1)[1]}" if name != "lesson.json" else name, get_file(site, heard_song.pk, name))
    assert made.status_code == 201, made.content
    song = made.json()
    assert song["charted"]
    mine = site.get(f"/api/songs/{heard_song.pk}/chart").json()
    again = site.get(f"/api/songs/{song['id']}/chart").json()
    if name != "chords.lab":  # seconds alone do not tell one beat from two
        assert len(again["bars"]) >= len(mine["bars"]) - 1
    assert {c["symbol"] for c in again["chords"]} & {c["symbol"] for c in mine["chords"]}


def test_our_own_lesson_brings_its_choices_back(site: PageClient, heard_song: Song) -> None:
    path = f"songs/{heard_song.pk}"
    revision = site.get(f"/api/{path}/chart").json()["revision"]
    site.call("POST", f"{path}/edits", {"revision": revision, "edit": {"kind": "set_hands", "style": "octaves", "level": "easier"}})
    site.call("POST", f"{path}/edits", {"revision": revision + 1, "edit": {"kind": "set_school", "matter": "naming", "school": "german"}})
    made = site.upload("lesson.json", get_file(site, heard_song.pk, "lesson.json")).json()
    arrangement = site.get(f"/api/songs/{made['id']}/arrangement").json()
    assert (arrangement["settings"]["style"], arrangement["settings"]["level"]) == ("octaves", "easier")
    matters = site.get(f"/api/songs/{made['id']}/lesson").json()["matters"]
    assert next(m for m in matters if m["name"] == "naming")["school"] == "german"


@pytest.mark.parametrize(
    ("name", "data", "words"),
    [
        ("broken.txt", b"| G | Qx7 |", "line 1"),
        ("broken.musicxml", b"<score-partwise><part>", "MusicXML"),
        ("broken.mid", b"MThd\x00\x00", "MIDI"),
        ("broken.json", b'{"format": "valley-chart"', "line 1"),
        ("other.json", b'{"format": "recipe"}', "recipe"),
        ("broken.csv", b"a;b\n1", "line"),
        ("broken.lab", b"0.0 x C", "line 1"),
        ("empty.txt", b"", "empty"),
    ],
)
def test_malformed_files_name_the_place_and_change_nothing(site: PageClient, name: str, data: bytes, words: str) -> None:
    response = site.upload(name, data)
    assert response.status_code in (400, 422), response.content
    assert words in response.json()["title"]
    assert Song.objects.count() == 0


def test_a_request_gets_its_notes_and_then_its_recording(site: PageClient, wav_bytes: bytes) -> None:
    song = site.call("POST", "requests", {"title": "Small hours, please", "handle": "@a"}).json()
    noted = site.upload("x.txt", CHART, to=str(song["id"])).json()
    assert (noted["id"], noted["title"], noted["charted"]) == (song["id"], "Small hours, please", True)
    heard = site.upload("x.wav", wav_bytes, to=str(song["id"])).json()
    assert heard["id"] == song["id"]
    assert heard["recording_id"]
    assert heard["standing"] == "waiting"
    again = site.upload("y.wav", wav_bytes + b"\0\0", to=str(song["id"]))
    assert again.status_code == 409
    assert "has a recording already" in again.json()["title"]


def test_notes_for_a_song_that_is_charted_are_its_next_version(site: PageClient, heard_song: Song) -> None:
    site.upload("new.txt", CHART, to=str(heard_song.pk))
    chart = site.get(f"/api/songs/{heard_song.pk}/chart").json()
    assert (chart["last_change"], chart["title"]) == ("read from new.txt", "my take")
    back = site.call("POST", f"songs/{heard_song.pk}/undo", {}).json()
    assert back["last_change"] == "Heard in the recording"


def perform(site: PageClient, song: int, data: bytes, name: str = "me.mid", **fields: str) -> object:
    return site.post(f"/api/songs/{song}/hands/performance", {"file": SimpleUploadedFile(name, data), **fields}, headers={"X-CSRFToken": site.token})


def test_a_performance_is_compared_and_its_grips_are_taken(site: PageClient, heard_song: Song) -> None:
    import mido

    played = get_file(site, heard_song.pk, "hands.mid")
    held = perform(site, heard_song.pk, played).json()
    assert held["found"] > 0.95
    assert not held["taken"]
    file = mido.MidiFile(file=io.BytesIO(played))
    for track in file.tracks:
        if "left" in track.name.lower():
            for message in track:
                if message.type in ("note_on", "note_off"):
                    message.note -= 12
    lower = io.BytesIO()
    file.save(file=lower)
    worse = perform(site, heard_song.pk, lower.getvalue()).json()
    assert worse["found"] < held["found"]
    assert "left" in worse["faults"][0]["words"]
    before = site.get(f"/api/songs/{heard_song.pk}/arrangement").json()["parts"][0]["grips"][0]
    taken = perform(site, heard_song.pk, lower.getvalue(), take="true").json()
    assert taken["taken"]
    after = site.get(f"/api/songs/{heard_song.pk}/arrangement").json()["parts"][0]["grips"][0]
    assert [n["midi"] + 12 for n in after["left"]] == [n["midi"] for n in before["left"]]
    assert after["locked"]
    site.call("POST", f"songs/{heard_song.pk}/undo", {})
    assert site.get(f"/api/songs/{heard_song.pk}/arrangement").json()["parts"][0]["grips"][0] == before


@pytest.mark.parametrize(("name", "data"), [("me.mid", b"nothing"), ("me.wav", b"RIFF"), ("me.mid", b"")])
def test_what_is_no_performance_is_refused(site: PageClient, heard_song: Song, name: str, data: bytes) -> None:
    assert perform(site, heard_song.pk, data, name).status_code == 422


def test_the_demo_charts_are_read(site: PageClient) -> None:
    for path in sorted((Path(__file__).parents[2] / "demo/charts").glob("*.txt")):
        assert site.upload(path.name, path.read_bytes()).json()["charted"]


def test_a_part_without_chords_is_shown_and_handed_out(site: PageClient) -> None:
    """Arrangement, lesson, checks, score and hand-outs answered 500."""
    made = site.upload("quiet_mill.chords", b"key: G major\n[Opening]\n| N | N | N | N |\n[Verse]\n| G | Em | C | D |\n").json()
    for address in ("chart", "arrangement", "lesson", "findings", "score", "handouts"):
        answer = site.get(f"/api/songs/{made['id']}/{address}")
        assert answer.status_code == 200, (address, answer.content[:300])
    for file in site.get(f"/api/songs/{made['id']}/handouts").json()["files"]:
        assert site.get(file["address"]).status_code == 200, file["name"]
