"""Every edit through the one endpoint, on one song: done, told, undone exactly, done again; and what is refused changes nothing."""

from __future__ import annotations

import json
from typing import Any, get_args

import pytest

from tests.web.conftest import PageClient
from valley.edits import Edit
from valley.formats.chart_json import dump_chart
from valley_web.songs.models import Revision, Song
from valley_web.songs.selectors import get_state

SCORE = """<?xml version="1.0"?><score-partwise version="4.0"><work><work-title>Slow Wheel</work-title></work><part-list><score-part id="P1">
<part-name>P</part-name></score-part></part-list><part id="P1">{bars}</part></score-partwise>"""
CHORDS = ["C", "F", "G", "C", "A", "F", "G", "C"] * 2
SHORT: dict[str, list[dict[str, Any]]] = {
    "set_chord": [{"start": "4", "text": "Dm7"}, {"start": "0", "text": "N"}],
    "set_bass": [{"start": "0", "note": "E"}],
    "insert_chord": [{"start": "2", "text": "Am"}],
    "split_chord": [{"at": "2"}],
    "write_bars": [{"start": "4", "text": "C | Am F"}],
    "write_tune": [{"start": "4", "text": "E5 D | C _"}],
    "copy_bars": [{"start": "0", "end": "4", "to": "4"}],
    "join_chord": [{"start": "4"}],
    "delete_chord": [{"start": "4"}],
    "move_change": [{"start": "4", "to": "3"}],
    "add_note": [{"start": "7/2", "duration": "1/2", "midi": 76}],
    "change_note": [{"start": "0", "midi": 74}, {"start": "0", "duration": "1/2"}],
    "delete_note": [{"start": "0"}],
    "split_note": [{"start": "0", "at": "1/2"}],
    "join_note": [{"start": "1"}],
    "transpose_notes": [{"start": "0", "end": "16", "semitones": -12}],
    "snap_notes": [{"start": "0", "end": "16", "step": "1"}],
    "double_tempo": [{}],
    "halve_tempo": [{}],
    "set_feel": [{"feel": "swing"}],
    "set_meter": [{"bar": 1, "meter": "2/4"}],
    "set_bar_one": [{"beat": 1}],
    "nudge_beat": [{"beat": 4, "seconds": 0.05, "follow": False}],
    "tap_tempo": [{"taps": [0.2, 0.7, 1.2, 1.7, 2.2]}],
    "set_key": [{"start": "16", "tonic": "Eb", "mode": "major"}],
    "set_cue": [{"start": "8", "text": "river"}],
    "split_part": [{"bar": 5}],
    "rename_part": [{"number": 1, "name": "the mill"}],
    "set_hands": [{"style": "octaves", "level": "easier"}, {"part": 1, "pattern": "broken"}, {"pedal": False}, {"keyboard": "61"}],
    "vary_part": [{"part": 1, "ending": "rolled"}],
    "change_grip": [{"start": "0", "action": "take", "left": [48], "right": [60, 64, 67], "reason": "low enough"}],
    "take_played": [{"grips": [{"start": "0", "label": "C:maj", "left": [48], "right": [64, 67]}]}],
    "write_passage": [
        {"start": "0", "hand": "left", "duration": "4", "text": "1 C2 G2:2 3 E3*"},
        {"start": "4", "hand": "right", "duration": "2", "notes": [{"start": "0", "duration": "1", "midi": 67}]},
    ],
    "change_played": [
        {"start": "0", "hand": "right", "midi": 91, "finger": 4, "add": True},
        {"start": "1/2", "hand": "right", "midi": 93, "lasting": "1/2", "add": True},
    ],
    "mean_this": [{"start": "0", "check": "bass", "says": "Bar 1, C: G3 sounds lowest.", "reason": "on purpose"}],
    "take_pass": [{"start": "0", "duration": "4", "keys": [{"at": "0.02", "lasting": "0.9", "midi": 48}, {"at": "1.05", "lasting": "0.4", "midi": 67}]}],
    "take_link": [{"start": "4", "link": "walk", "form": "easier"}],
    "set_chord_pattern": [{"start": "0", "pattern": "broken"}],
    "write_pattern": [{"name": "mine", "left": "low@2 upper@2"}],
    "set_school": [{"matter": "naming", "school": "german"}],
    "write_step": [{"key": "opening", "title": "Hello", "lines": ["We begin."]}, {"key": "chords", "left_out": True}],
    "time_steps": [{"took": [{"key": "opening", "seconds": 31.5}, {"key": "chords", "seconds": 40}]}],
    "rename_song": [{"title": "Slower Wheel"}],
    "plan_lessons": [{"minutes": 12}, {"thanks": "@fern"}],
    "transpose_song": [{"half_steps": 2}, {"half_steps": -3, "hands": "carried"}],
}
# What needs something before it.
AFTER: dict[str, tuple[dict[str, Any], dict[str, Any]]] = {
    "remove_key": ({"kind": "set_key", "start": "16", "tonic": "Eb", "mode": "major"}, {"start": "16"}),
    "three_as_one": ({"kind": "set_meter", "bar": 1, "meter": "3/4"}, {}),
    "one_as_three": ({"kind": "set_meter", "bar": 1, "meter": "6/8"}, {}),
    "merge_part": ({"kind": "split_part", "bar": 9}, {"number": 2}),
    "move_part": ({"kind": "split_part", "bar": 9}, {"number": 2, "bar": 8}),
    "mark_repeat": ({"kind": "split_part", "bar": 9}, {"number": 2, "same_as": 1}),
    "declare_repeats": ({"kind": "split_part", "bar": 9}, {}),
    "forget_passage": (
        {"kind": "write_passage", "start": "0", "hand": "left", "duration": "4", "text": "1 C2"},
        {"start": "0", "hand": "left", "duration": "2"},
    ),
    "forget_step": ({"kind": "write_step", "key": "opening", "title": "Hello", "lines": ["We begin."]}, {"key": "opening"}),
}


def bar(number: int, root: str) -> str:
    head = "<attributes><divisions>1</divisions><time><beats>4</beats><beat-type>4</beat-type></time></attributes>" if number == 1 else ""
    harmony = f"<harmony><root><root-step>{root}</root-step></root><kind>{'minor' if root == 'A' else 'major'}</kind></harmony>"
    notes = "".join(f"<note><pitch><step>{step}</step><octave>5</octave></pitch><duration>1</duration></note>" for step in "CCEG")
    return f'<measure number="{number}">{head}{harmony}{notes}</measure>'


@pytest.fixture
def song(site: PageClient) -> int:
    made = site.upload("slow_wheel.musicxml", SCORE.format(bars="".join(bar(n, root) for n, root in enumerate(CHORDS, 1))).encode())
    assert made.status_code == 201, made.content
    number: int = made.json()["id"]
    return number


def post(site: PageClient, song: int, edit: dict[str, Any], **more: Any) -> Any:
    revision = Song.objects.get(pk=song).revision
    return site.call("POST", f"songs/{song}/edits", {"revision": revision, "edit": edit} | more)


def state(song: int) -> Any:
    return get_state(Song.objects.get(pk=song))


def test_every_edit_is_tried() -> None:
    kinds = {kind.__dataclass_fields__["kind"].default for kind in get_args(Edit)}
    assert kinds == set(SHORT) | set(AFTER)


CASES = [(None, {"kind": kind} | fields) for kind, rows in SHORT.items() for fields in rows]
CASES += [(first, {"kind": kind} | fields) for kind, (first, fields) in AFTER.items()]


@pytest.mark.parametrize(("first", "edit"), CASES, ids=[f"{edit['kind']}-{i}" for i, (_, edit) in enumerate(CASES)])
def test_an_edit_is_done_told_undone_and_done_again(site: PageClient, song: int, first: dict[str, Any] | None, edit: dict[str, Any]) -> None:
    if first:
        assert post(site, song, first).status_code == 200
    before, version = state(song), Song.objects.get(pk=song).revision
    answer = post(site, song, edit)
    assert answer.status_code == 200, answer.content
    body = answer.json()
    after = state(song)
    assert body["revision"] == version + 1 and body["can_undo"]
    assert body["last_change"] == Revision.objects.get(song=song, number=version + 1).what != ""
    assert after != before or edit["kind"] in ("declare_repeats", "snap_notes"), "nothing was changed"
    undone = site.call("POST", f"songs/{song}/undo", {}).json()
    assert undone["revision"] == version and undone["can_redo"]
    assert state(song) == before
    assert site.call("POST", f"songs/{song}/redo", {}).json()["revision"] == version + 1
    assert state(song) == after
    for address in ("chart", "arrangement", "lesson", "findings"):
        assert site.get(f"/api/songs/{song}/{address}").status_code == 200, address


@pytest.mark.parametrize(
    "edit",
    [
        {"kind": "dream"},
        {"kind": "set_chord"},
        {"kind": "set_chord", "start": "0", "text": "H#dim"},
        {"kind": "set_chord", "start": "1/7", "text": "C"},
        {"kind": "set_chord", "start": "x", "text": "C"},
        {"kind": "add_note", "start": "0", "duration": "-1", "midi": 60},
        {"kind": "add_note", "start": "0", "duration": "1", "midi": 900},
        {"kind": "set_meter", "bar": 99, "meter": "4/4"},
        {"kind": "set_meter", "bar": 1, "meter": "5/16"},
        {"kind": "set_key", "start": "0", "tonic": "G#", "mode": "major"},
        {"kind": "split_part", "bar": 1},
        {"kind": "move_part", "number": 7, "bar": 2},
        {"kind": "mark_repeat", "number": 1, "same_as": 1},
        {"kind": "set_hands", "style": "no-such"},
        {"kind": "set_hands", "keyboard": "12"},
        {"kind": "vary_part", "part": 9, "ending": "rolled"},
        {"kind": "change_grip", "start": "0", "action": "take", "left": [], "right": []},
        {"kind": "change_grip", "start": "0", "action": "take", "left": [1], "right": []},
        {"kind": "change_grip", "start": "1/3", "action": "star"},
        {"kind": "take_link", "start": "0", "link": "leap"},
        {"kind": "write_pattern", "name": "broken", "left": "low@4"},
        {"kind": "write_pattern", "name": "mine", "left": "low@3"},
        {"kind": "set_school", "matter": "naming", "school": "runes"},
        {"kind": "write_step", "key": "opening", "lines": [" "]},
        {"kind": "time_steps", "took": [{"key": "nowhere", "seconds": 9}]},
        {"kind": "time_steps", "took": [{"key": "opening", "seconds": 0}]},
        {"kind": "rename_song", "title": " "},
        {"kind": "plan_lessons", "minutes": -1},
        {"kind": "plan_lessons", "order": [1, 1]},
    ],
    ids=json.dumps,
)
def test_what_makes_no_sense_is_refused_in_words_and_changes_nothing(site: PageClient, song: int, edit: dict[str, Any]) -> None:
    before, versions = state(song), Revision.objects.filter(song=song).count()
    answer = post(site, song, edit)
    assert answer.status_code == 422, answer.content
    problem = answer.json()
    assert problem["title"].strip() and problem["kind"]
    assert "Traceback" not in json.dumps(problem)
    assert state(song) == before
    assert Revision.objects.filter(song=song).count() == versions


def test_a_stale_edit_is_kept_aside_and_can_be_brought_back(site: PageClient, song: int) -> None:
    first = Song.objects.get(pk=song).revision
    assert post(site, song, {"kind": "set_chord", "start": "0", "text": "Am"}).status_code == 200
    late = site.call("POST", f"songs/{song}/edits", {"revision": first, "edit": {"kind": "set_chord", "start": "4", "text": "Bb"}})
    assert late.status_code == 409
    assert late.json()["data"]["current"] == first + 1
    aside = Revision.objects.get(song=song, kept_aside=True)
    assert aside.number == first + 2
    back = site.call("POST", f"songs/{song}/revisions/{aside.number}/bring-back", {})
    assert back.status_code == 200
    assert [c["chord"] for c in dump_chart(state(song).chart)["chords"]][:2] == ["C:maj", "Bb:maj"]


def test_an_edit_that_is_sent_again_is_done_once(site: PageClient, song: int) -> None:
    edit = {"kind": "transpose_notes", "start": "0", "end": "8", "semitones": 12}
    once = post(site, song, edit, key="mine-1").json()
    again = post(site, song, edit, key="mine-1").json()
    assert once["revision"] == again["revision"]
    assert state(song).chart.melody[0].midi == 84


@pytest.mark.parametrize(("show", "part"), [("hands", "arrangement"), ("lesson", "lesson"), ("chart", "chart")])
def test_the_answer_brings_what_is_looked_at(site: PageClient, song: int, show: str, part: str) -> None:
    body = post(site, song, {"kind": "set_chord", "start": "0", "text": "Am"}, show=show).json()
    assert body[part]
    assert body["chart"]["chords"][0]["symbol"] == "Am"
    silent = post(site, song, {"kind": "set_hands", "pedal": True}, show=show).json()
    assert (silent["chart"] is None) == (show != "chart")


@pytest.mark.parametrize("step", ["undo", "redo", "revisions/1/bring-back"])
def test_a_step_that_was_meant_for_another_version_is_not_taken(site: PageClient, song: int, step: str) -> None:
    seen = Song.objects.get(pk=song).revision
    post(site, song, {"kind": "transpose_song", "half_steps": 2})
    if step == "redo":
        site.call("POST", f"songs/{song}/undo", {"revision": seen + 1})
        seen += 1
    before = state(song)
    refused = site.call("POST", f"songs/{song}/{step}", {"revision": seen})
    assert (refused.status_code, refused.json()["kind"]) == (409, "moved")
    assert state(song) == before
    now = site.get(f"/api/songs/{song}/revision").json()["revision"]
    assert now == Song.objects.get(pk=song).revision
    assert site.call("POST", f"songs/{song}/{step}", {"revision": now}).status_code == 200
