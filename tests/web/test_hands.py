"""What the hands play, over the API: settings, grips, patterns, links; every change is a revision that can be undone."""

from typing import Any

import pytest
from django.utils import timezone

from tests.web.conftest import PageClient
from valley_web.songs.models import Revision, Song


@pytest.fixture
def hands(site: PageClient, heard_song: Song) -> Any:
    """Send one change on the current revision; gives the response."""

    def send(edit: dict[str, Any], revision: int | None = None) -> Any:
        now = Song.objects.get(pk=heard_song.pk).revision if revision is None else revision
        return site.call("POST", f"songs/{heard_song.pk}/edits", {"revision": now, "edit": edit, "show": "hands"})

    return send


def test_choices_list_everything_there_is(site: PageClient) -> None:
    choices = site.get("/api/choices").json()
    assert len(choices["styles"]) >= 12
    assert len(choices["patterns"]) >= 16
    assert choices["keyboards"] == ["49", "61", "73", "76", "88"]
    assert choices["levels"] == ["easier", "standard", "fuller"]


def test_settings_hold_for_the_song_or_a_part_and_are_undone(site: PageClient, heard_song: Song, hands: Any) -> None:
    made = hands({"kind": "set_hands", "style": "root-and-chord", "level": "fuller", "hand": "small", "keyboard": "61", "frame": "C2-C7"}).json()["arrangement"]
    assert (made["settings"]["style"], made["settings"]["hand"], made["lowest"], made["frame_low"]) == ("root-and-chord", "small", 36, 36)
    assert all(g["reach_left_mm"] <= 168 for p in made["parts"] for g in p["grips"])
    one = hands({"kind": "set_hands", "part": 1, "style": "shell", "pattern": "every-beat"}).json()["arrangement"]
    assert [p["style"] for p in one["parts"]][:1] == ["shell"]
    assert site.call("POST", f"songs/{heard_song.pk}/undo", {}).status_code == 200
    assert {p["style"] for p in site.get(f"/api/songs/{heard_song.pk}/arrangement").json()["parts"]} == {"root-and-chord"}
    chart = site.get(f"/api/songs/{heard_song.pk}/chart").json()
    assert chart["last_change"].startswith("voicing “Root below, chord above”, level fuller, small hands, a keyboard of 61 keys, the camera shows C2-C7")


@pytest.mark.parametrize(
    ("edit", "words"),
    [
        ({"kind": "set_hands", "style": "grand"}, "style='grand' must be one of"),
        ({"kind": "set_hands", "hand": "huge"}, "hand='huge'"),
        ({"kind": "set_hands", "keyboard": "50"}, "keyboard=50"),
        ({"kind": "set_hands", "frame": "C3-C4"}, "two octaves"),
        ({"kind": "set_hands", "part": 1, "hand": "small"}, "hold for the whole song"),
        ({"kind": "set_hands"}, "nothing was chosen"),
        ({"kind": "vary_part", "part": 99, "drop_last": True}, "part 99 is not in this song"),
        ({"kind": "change_grip", "start": "1/7", "action": "invert"}, "no grip begins at the pickup, beat 3 + 1/7"),
        ({"kind": "change_grip", "start": "2", "action": "drop", "hand": "left", "midi": 3}, "does not hold key 3"),
        ({"kind": "take_link", "start": "0", "link": "jump"}, "link='jump'"),
        ({"kind": "write_pattern", "name": "held", "left": "all@4"}, "Valley's own patterns"),
        ({"kind": "write_pattern", "name": "mine", "left": "low@3"}, "a bar of 4/4 has 4"),
    ],
)
def test_what_makes_no_sense_is_refused_and_changes_nothing(hands: Any, heard_song: Song, edit: dict[str, Any], words: str) -> None:
    response = hands(edit)
    assert response.status_code == 422
    assert words in response.json()["title"]
    assert Revision.objects.count() == 1


def test_a_grip_is_changed_kept_spread_and_released(site: PageClient, heard_song: Song, hands: Any) -> None:
    hands({"kind": "set_hands", "style": "root-and-chord", "level": "easier"})
    before = site.get(f"/api/songs/{heard_song.pk}/arrangement").json()["parts"][0]["grips"][0]
    top = before["right"][-1]["midi"]
    here = {"kind": "change_grip", "start": before["start"]}
    widen = {**here, "action": "move", "hand": "right", "midi": top, "by": 12, "reason": "wider"}
    moved = hands(widen | {"everywhere": "chord"})
    grips = [g for p in moved.json()["arrangement"]["parts"] for g in p["grips"] if g["symbol"] == before["symbol"]]
    assert len(grips) == before["twins"] + 1
    assert all(g["locked"] and g["right"][-1]["midi"] == top + 12 and g["why"] == "Set by you: wider." for g in grips)
    given = hands({**here, "action": "other-hand", "hand": "right", "midi": before["right"][0]["midi"]}).json()["arrangement"]
    first = given["parts"][0]["grips"][0]
    assert before["right"][0]["midi"] in [n["midi"] for n in first["left"]]
    starred = hands({**here, "action": "star", "hand": "left", "midi": first["left"][-1]["midi"]}).json()["arrangement"]
    assert starred["parts"][0]["grips"][0]["left"][-1]["optional"]
    fingered = hands({**here, "action": "finger", "hand": "left", "midi": first["left"][-1]["midi"], "by": 2}).json()["arrangement"]
    assert fingered["parts"][0]["grips"][0]["left"][-1]["finger"] == 2
    turned = hands({**here, "action": "invert", "hand": "right", "by": 1}).json()["arrangement"]["parts"][0]["grips"][0]
    assert turned["right"][0]["midi"] > fingered["parts"][0]["grips"][0]["right"][0]["midi"]
    free = hands({**here, "action": "release", "everywhere": "chord"}).json()["arrangement"]
    assert free["parts"][0]["grips"][0]["right"] == before["right"]


def test_candidates_stand_side_by_side_and_can_be_taken(site: PageClient, heard_song: Song, hands: Any) -> None:
    start = site.get(f"/api/songs/{heard_song.pk}/arrangement").json()["parts"][0]["grips"][0]["start"]
    rows = site.get(f"/api/songs/{heard_song.pk}/hands/candidates", {"start": start}).json()
    assert len(rows) > 1 and all(r["movement"] >= 0 and r["why"] for r in rows)
    other = rows[-1]
    left, right = ([n["midi"] for n in other[h]] for h in ("left", "right"))
    taken = hands({"kind": "change_grip", "start": start, "action": "take", "left": left, "right": right}).json()["arrangement"]["parts"][0]["grips"][0]
    assert ([n["midi"] for n in taken["left"]], [n["midi"] for n in taken["right"]]) == (left, right)


def test_another_voicing_is_compared_without_being_chosen(site: PageClient, heard_song: Song) -> None:
    other = site.get(f"/api/songs/{heard_song.pk}/arrangement", {"style": "shell", "level": "easier"}).json()
    assert {p["style"] for p in other["parts"]} == {"shell"}
    assert {p["style"] for p in site.get(f"/api/songs/{heard_song.pk}/arrangement").json()["parts"]} == {"block-and-melody"}


def test_patterns_are_checked_written_used_and_taken_away(site: PageClient, hands: Any) -> None:
    bad = site.call("POST", "patterns/check", {"meter": "4/4", "left": "low@1/2 top@1", "right": ""}).json()
    assert not bad["ok"] and "1 1/2 beats; a bar of 4/4 has 4" in bad["message"]
    good = site.call("POST", "patterns/check", {"meter": "4/4", "left": "low@2 upper@1 upper@1", "right": ""}).json()
    assert good["ok"] and [s["count"] for s in good["strokes"]] == ["1", "3", "4"]
    assert not site.call("POST", "patterns/check", {"meter": "4/4", "left": "pinky@4", "right": ""}).json()["ok"]
    hands({"kind": "write_pattern", "name": "Slow Step", "left": "low@2 upper@1 upper@1"})
    used = hands({"kind": "set_hands", "pattern": "slow-step"}).json()["arrangement"]
    assert used["settings"]["own_patterns"][0]["title"] == "Slow Step" and used["parts"][0]["pattern"] == "slow-step"
    assert "is in use" in hands({"kind": "write_pattern", "name": "slow-step"}).json()["title"]
    hands({"kind": "set_hands", "pattern": "held"})
    assert hands({"kind": "write_pattern", "name": "slow-step"}).json()["arrangement"]["settings"]["own_patterns"] == []


def test_links_and_variations(hands: Any) -> None:
    made = hands({"kind": "set_hands", "style": "root-and-chord", "level": "easier"}).json()["arrangement"]
    link = next(k for p in made["parts"] for k in p["links"])
    taken = hands({"kind": "take_link", "start": link["start"], "link": link["kind"]}).json()["arrangement"]
    assert any(n["link"] for p in taken["parts"] for n in p["notes"])
    varied = hands({"kind": "vary_part", "part": 1, "drop_last": True, "ending": "octaves"}).json()["arrangement"]["parts"][0]
    assert varied["drop_last"] and varied["ending"] == "octaves" and len(varied["grips"]) < len(made["parts"][0]["grips"])


def test_a_change_in_a_stale_window_is_kept_aside(site: PageClient, heard_song: Song, hands: Any) -> None:
    assert hands({"kind": "set_hands", "style": "shell"}, revision=1).status_code == 200
    late = hands({"kind": "set_hands", "style": "thirds"}, revision=1)
    assert late.status_code == 409
    assert late.json()["data"]["kept"] == 3
    assert site.get(f"/api/songs/{heard_song.pk}/arrangement").json()["settings"]["style"] == "shell"
    site.call("POST", f"songs/{heard_song.pk}/revisions/3/bring-back", {})
    assert site.get(f"/api/songs/{heard_song.pk}/arrangement").json()["settings"]["style"] == "thirds"


def test_voicing_that_cannot_be_is_said_with_a_way_out(site: PageClient, heard_song: Song) -> None:
    revision = Revision.objects.get(song=heard_song)
    revision.state["choices"] |= {"style": "root-and-chord", "keyboard": "61", "frame": "C6-C8"}
    revision.made_at = timezone.now()  # as another version: one that was made never changes
    revision.save()
    response = site.get(f"/api/songs/{heard_song.pk}/arrangement")
    assert response.status_code == 422
    assert "choose a wider hand" in response.json()["title"] and response.json()["title"].startswith("Bar ")


def test_a_bar_is_seen_close_and_its_notes_are_law(site: PageClient, heard_song: Song, hands: Any) -> None:
    address = f"/api/songs/{heard_song.pk}/hands/bar"
    start = site.get(f"/api/songs/{heard_song.pk}/arrangement").json()["parts"][0]["grips"][0]["start"]
    bar = site.get(address, {"start": start}).json()
    assert bar["before"] is None or bar["bar"] > 0
    left = bar["hands"][0]
    assert left["hand"] == "left" and not left["written"] and left["text"].startswith(bar["counts"][0])
    note = left["notes"][0]
    place = {"kind": "change_played", "hand": "left", "start": note["start"], "midi": note["midi"]}
    assert hands({**place, "finger": 2}).status_code == 200
    now = site.get(address, {"start": start}).json()["hands"][0]
    assert now["written"] and now["holds"] == "written by you, here only" and now["notes"][0]["finger"] == 2
    assert hands({"kind": "write_passage", "hand": "left", "start": bar["start"], "duration": bar["duration"], "text": now["text"]}).status_code == 200
    assert site.get(address, {"start": start}).json()["hands"][0]["notes"] == now["notes"]
    assert site.get(address, {"start": bar["after"]}).json()["bar"] == bar["bar"] + 1
    refused = hands({**place, "midi": 108, "finger": 1})
    assert refused.status_code == 422 and "does not strike in bar" in refused.json()["title"]
