"""Requests, the way, times, corrections, the post and the calendar, through the API as the page uses it."""

from datetime import date, timedelta
from typing import Any

import pytest
from django.utils import timezone
from pytest_django import DjangoAssertNumQueries

from tests.web.conftest import PageClient
from valley.records.way import CHARTED, CHOSEN, CORRECTED, FILMED, PUBLISHED
from valley_web.records import services, site
from valley_web.records.models import Asking, Correction, ViewerComment
from valley_web.songs.models import Deed, LogEntry, Song
from valley_web.songs.way import mark_stage


def shelf(site_: PageClient, **ask: object) -> dict:
    body: dict = site_.get("/api/shelf", ask).json()
    return body


def titles(site_: PageClient, **ask: object) -> list[str]:
    return [row["song"]["title"] for row in shelf(site_, **ask)["rows"]]


def test_a_request_is_noted_and_a_misspelled_one_votes_for_it(site: PageClient) -> None:
    made = site.call("POST", "requests", {"title": "Lantern Street", "handle": "@moss", "note": "the verse"}).json()
    again = site.call("POST", "requests", {"title": "lantern stret!", "handle": "@fern"}).json()
    twice = site.call("POST", "requests", {"title": "LANTERN STREET", "handle": "@moss"}).json()
    assert made["id"] == again["id"] == twice["id"]
    assert (twice["votes"], twice["stage_name"], twice["standing"], twice["next_step"]) == (2, "asked", "wanted", "choose it, or leave it")
    apart = site.call("POST", "requests", {"title": "Lantern Street", "handle": "@tarn", "apart": True}).json()
    assert apart["id"] != made["id"]
    assert titles(site, q="verse") == ["Lantern Street"]
    assert titles(site, q="@fern stréet") == ["Lantern Street"]
    assert site.call("POST", "requests", {"title": " ", "handle": "@x"}).status_code == 422


def test_the_shelf_is_searched_filtered_and_sorted(site: PageClient, heard_song: Song) -> None:
    for title, votes in (("Blue Kettle", 3), ("Amber Staircase", 7)):
        services.note_request(title, "@a", votes=votes, actor="t")
    assert titles(site, order="votes") == ["Amber Staircase", "Blue Kettle", "my take"]
    assert titles(site, order="title")[0] == "Amber Staircase"
    assert titles(site, order="furthest")[0] == "my take"
    assert titles(site, stage="asked", order="title") == ["Amber Staircase", "Blue Kettle"]
    assert titles(site, q="c major take") == ["my take"]
    found = shelf(site, q="kettle")
    assert (found["total"], found["stages"][0]) == (1, {"name": "asked", "songs": 1})
    assert titles(site, offset=1, limit=1, order="title") == ["Blue Kettle"]
    assert site.get("/api/shelf", {"order": "luck"}).status_code == 422
    assert site.get("/api/shelf", {"stage": "sung"}).status_code == 422


def test_the_shelf_says_how_long_each_song_will_take(site: PageClient, heard_song: Song) -> None:
    row = shelf(site)["rows"][0]
    assert row["minutes_left"] > 30
    assert row["time_left"].startswith("about ")


def test_the_way_is_marked_by_valley_and_by_hand(site: PageClient, heard_song: Song) -> None:
    path = f"songs/{heard_song.pk}"
    records = site.get(f"/api/{path}/records").json()
    assert [w["name"] for w in records["way"] if w["reached_at"]][:2] == ["chosen", "listened"]
    filmed = site.call("POST", f"{path}/way", {"stage": FILMED}).json()
    assert filmed["song"]["stage_name"] == "filmed"
    back = site.call("POST", f"{path}/way", {"stage": CHARTED, "reached": False, "seen": FILMED}).json()
    assert back["song"]["stage_name"] == "listened"
    assert [e.text for e in LogEntry.objects.filter(song=heard_song)] == ["not charted after all", "filmed"]
    assert site.call("POST", f"{path}/way", {"stage": 12}).status_code == 422


def test_a_ready_lesson_is_scripted_until_it_is_not(site: PageClient, heard_song: Song) -> None:
    path = f"songs/{heard_song.pk}"
    site.call("POST", f"{path}/lesson/ready", {"ready": True, "despite": True})
    assert site.get(f"/api/{path}").json()["stage_name"] == "scripted"
    site.call("POST", f"{path}/lesson/ready", {"ready": False, "despite": False})
    assert site.get(f"/api/{path}").json()["stage_name"] in ("listened", "charted")


def test_times_add_up_by_day_and_teach_the_estimates(site: PageClient, heard_song: Song) -> None:
    path = f"songs/{heard_song.pk}"
    before = site.get(f"/api/{path}/records").json()["way"][FILMED]["estimate_minutes"]
    for _ in range(3):
        assert site.call("POST", f"{path}/time", {"stage": CHARTED, "minutes": 4.0}).status_code == 204
    assert site.get(f"/api/{path}/records").json()["way"][CHARTED]["spent"] == pytest.approx(12)
    for n in range(6):
        song = services.note_request(f"Past number {n}", "@a", actor="t", apart=True)
        Song.objects.filter(pk=song.pk).update(bars=40, bars_to_learn=20)
        services.spend_time(song, FILMED, 300, by_hand=True, actor="owner")
        mark_stage(song, PUBLISHED, actor="t")
    now = site.get(f"/api/{path}/records").json()["way"][FILMED]
    assert now["estimate_minutes"] > 2 * before
    assert now["looked_back"] == 6
    for bad in ({"stage": CHARTED, "minutes": 1e9}, {"stage": 0, "minutes": 5}):
        assert site.call("POST", f"{path}/time", bad).status_code == 422
    site.call("POST", f"{path}/time", {"stage": CHARTED, "minutes": -99, "by_hand": False})
    assert site.get(f"/api/{path}/records").json()["way"][CHARTED]["spent"] == 0


def test_requests_are_merged_and_parted_again(site: PageClient) -> None:
    one = services.note_request("Oats and Iron", "@a", actor="t")
    other = services.note_request("That song with the oats", "@b", actor="t")
    services.add_asking(other, "@a", actor="owner")
    merged = site.call("POST", f"songs/{other.pk}/merge", {"into": one.pk}).json()
    assert (merged["song"]["votes"], len(merged["askings"])) == (2, 2)
    assert titles(site) == ["Oats and Iron"]
    parted = site.call("POST", f"songs/{one.pk}/part/{other.pk}").json()
    assert parted["song"]["votes"] == 1
    assert sorted(titles(site)) == ["Oats and Iron", "That song with the oats"]
    assert site.call("POST", f"songs/{one.pk}/merge", {"into": one.pk}).status_code == 422


def test_a_song_with_a_chart_is_not_merged_away(site: PageClient, heard_song: Song) -> None:
    other = services.note_request("Something else", "@a", actor="t")
    response = site.call("POST", f"songs/{heard_song.pk}/merge", {"into": other.pk})
    assert response.status_code == 422
    assert "of its own" in response.json()["title"]
    assert site.call("POST", f"songs/{other.pk}/merge", {"into": heard_song.pk}).json()["song"]["votes"] == 1


def test_promises_are_kept_with_the_viewer(site: PageClient) -> None:
    song = services.note_request("Oats and Iron", "@a", actor="t")
    asking = Asking.objects.get()
    records = site.call("PATCH", f"askings/{asking.pk}", {"promise": "before the summer", "seen": {"promise": ""}}).json()
    assert records["askings"][0]["promise"] == "before the summer"
    added = site.call("POST", f"songs/{song.pk}/askings", {"handle": "@b", "note": "the end"}).json()
    assert added["song"]["votes"] == 2
    gone = site.call("DELETE", f"askings/{asking.pk}").json()
    assert [a["handle"] for a in gone["askings"]] == ["@b"]
    assert "no longer asks" in LogEntry.objects.get(song=song).text
    assert site.call("DELETE", f"askings/{asking.pk}").status_code == 404


def test_reports_are_attached_to_bar_and_step_and_answered(site: PageClient, heard_song: Song) -> None:
    path = f"songs/{heard_song.pk}"
    mark_stage(heard_song, PUBLISHED, actor="t")
    made = site.call("POST", f"{path}/corrections", {"text": "bar 2 should be Ebm, step 4 says so wrongly", "handle": "@pedal"}).json()
    (report,) = made["corrections"]
    lesson = site.get(f"/api/{path}/lesson").json()
    assert (report["bar"], report["step"]) == (2, lesson["steps"][3]["key"])
    assert report["step_title"] == lesson["steps"][3]["title"]
    assert report["weighed"].startswith("Bar 2 has ")
    assert (made["song"]["corrections"], made["song"]["next_step"]) == (1, "answer 1 correction")
    closed = site.call("PATCH", f"corrections/{report['id']}", {"state": "kept", "seen": "open", "answer": "the recording has it so"}).json()
    assert (closed["song"]["stage_name"], closed["song"]["corrections"]) == ("corrected", 0)
    assert "kept as it is; the recording has it so" in LogEntry.objects.filter(song=heard_song)[0].text
    opened = site.call("PATCH", f"corrections/{report['id']}", {"state": "open", "seen": "kept"}).json()
    assert opened["song"]["stage_name"] == "published"
    assert site.call("POST", f"{path}/corrections", {"text": "  "}).status_code == 422
    assert site.call("PATCH", "corrections/999", {"state": "mended", "seen": "open"}).status_code == 404


def test_a_time_in_the_film_leads_to_the_step_that_runs_then(site: PageClient, heard_song: Song) -> None:
    chapters = site.get(f"/api/songs/{heard_song.pk}/handouts/chapters.txt").content.decode().splitlines()
    clock, _, title = chapters[3].partition(" ")
    minutes, seconds = clock.split(":")
    made = services.note_correction(heard_song, f"at {minutes}:{int(seconds) + 1:02d} that is wrong", actor="t")
    records = site.get(f"/api/songs/{heard_song.pk}/records").json()
    assert records["corrections"][0]["step_title"] == title
    assert made.step
    assert services.note_correction(heard_song, "step 999 is wrong", actor="t").step == ""


def test_the_post_is_sorted_taken_and_brought_back(site: PageClient, heard_song: Song) -> None:
    Song.objects.filter(pk=heard_song.pk).update(title="Paper Harbour")
    assert site.call("POST", "post/fetch").json()["fetched"] == 30
    post = site.get("/api/post").json()
    everything = sum(len(g["comments"]) for g in post["groups"]) + len(post["corrections"]) + len(post["others"])
    assert everything >= 30  # a comment may ask for two songs
    new = next(g for g in post["groups"] if g["known_id"] is None)
    comments = [c["id"] for c in new["comments"]]
    left = site.call("POST", "post/take", {"title": new["title"], "comments": comments, "song": None}).json()
    assert new["title"] not in [g["title"] for g in left["groups"]]
    song = Song.objects.get(title=new["title"])
    assert (song.votes, song.stage) == (new["votes"], 0)
    assert Asking.objects.filter(song=song, comment__in=comments).count() == new["viewers"]
    back = site.call("POST", "post/back", {"comments": comments}).json()
    assert new["title"] in [g["title"] for g in back["groups"]]
    song.refresh_from_db()
    assert (song.votes, song.deleted_at is not None) == (0, True)


def test_a_reported_mistake_goes_to_its_song_and_back(site: PageClient, heard_song: Song) -> None:
    comment = ViewerComment.objects.create(site_id="x", handle="@tarn", text="bar 3 should be Ebm not C", song=heard_song)
    (shown,) = site.get("/api/post").json()["corrections"]
    assert (shown["bar"], shown["under_id"]) == (3, heard_song.pk)
    assert "Bar 3 has" in shown["weighed"]
    site.call("POST", f"songs/{heard_song.pk}/corrections", {"text": shown["text"], "handle": "@tarn", "bar": 3, "comment": comment.pk})
    assert site.get("/api/post").json()["corrections"] == []
    assert Correction.objects.get().comment == comment
    site.call("POST", "post/back", {"comments": [comment.pk]})
    assert Correction.objects.count() == 0
    heard_song.refresh_from_db()
    assert heard_song.corrections == 0


def test_comments_are_set_aside_and_fetched_only_once(site: PageClient) -> None:
    for _ in range(8):
        site.call("POST", "post/fetch")
    everything = len(site_feed())
    assert ViewerComment.objects.count() == everything
    assert site.call("POST", "post/fetch").json()["fetched"] == 0
    others = [c["id"] for c in site.get("/api/post?limit=2000").json()["others"]]
    assert site.call("POST", "post/aside", {"comments": others}).json()["others"] == []
    assert site.call("POST", "post/take", {"title": "X", "comments": [10**6]}).status_code == 404
    assert ViewerComment.objects.filter(reply_to__isnull=False).exists()


def site_feed() -> tuple[site.Posted, ...]:
    return site.fetch(0, 10_000)


def test_a_broken_feed_says_so(monkeypatch: pytest.MonkeyPatch, tmp_path, site: PageClient) -> None:
    broken = tmp_path / "feed.json"
    broken.write_text('{"comments": [{"id": 1}]}')
    monkeypatch.setattr("valley_web.records.site.FEED", broken)
    response = site.call("POST", "post/fetch")
    assert response.status_code == 422
    assert "feed.json" in response.json()["title"]


def set_week(site: PageClient, week: dict[str, Any]) -> Any:
    return site.call("PUT", "calendar/week", week | {"seen": site.get("/api/calendar").json()["week"]})


def test_the_calendar_follows_the_hours_and_the_promises(site: PageClient, heard_song: Song) -> None:
    today = timezone.localdate()
    other = services.note_request("Blue Kettle", "@a", votes=40, actor="t")
    mark_stage(other, CHOSEN, actor="t")
    services.note_request("Only asked for", "@a", actor="t")
    site.call("PATCH", f"songs/{heard_song.pk}", {"promised_for": (today + timedelta(1)).isoformat(), "seen": {"promised_for": None}})
    week = {"minutes": [600] * 7, "film": list(range(7)), "publish": list(range(7)), "off": [(today + timedelta(9)).isoformat()]}
    calendar = set_week(site, week).json()
    assert {s["title"] for s in calendar["songs"]} == {"my take", "Blue Kettle"}
    mine = next(s for s in calendar["songs"] if s["title"] == "my take")
    assert mine["late_days"] == 0
    assert mine["out_on"] <= mine["promised_for"]
    assert len(calendar["days"]) == 42
    assert calendar["days"][9]["off"]
    assert calendar["week"]["minutes"] == [600] * 7
    idle = set_week(site, week | {"minutes": [0] * 7}).json()
    assert all(not d["slots"] for d in idle["days"])
    assert idle["songs"][0]["out_on"] is None
    assert set_week(site, week | {"minutes": [9999] * 7}).status_code == 422
    assert set_week(site, week | {"film": [9]}).status_code == 422
    set_week(site, week)
    text = site.get("/api/calendar.ics").content.decode()
    assert "SUMMARY:Film: my take" in text


def test_work_that_was_begun_is_not_planned_again(site: PageClient, heard_song: Song) -> None:
    before = site.get("/api/calendar").json()["minutes_total"]
    services.spend_time(heard_song, heard_song.stage + 1, 5, actor="owner")
    assert site.get("/api/calendar").json()["minutes_total"] < before


def test_a_promise_is_taken_back(site: PageClient, heard_song: Song) -> None:
    path = f"songs/{heard_song.pk}"
    assert site.change(path, {"promised_for": "2030-05-01"}).json()["promised_for"] == "2030-05-01"
    assert site.change(path, {"wanted": "  the  refrain "}).json()["promised_for"] == "2030-05-01"
    kept = site.change(path, {"promised_for": None}).json()
    assert (kept["promised_for"], kept["wanted"]) == (None, "the refrain")


def test_five_thousand_songs_are_searched_in_few_queries(site: PageClient, django_assert_num_queries: DjangoAssertNumQueries) -> None:
    Song.objects.bulk_create(Song(title=f"Song {i}", sought=f"song {i} eb major\n @v{i % 97}", stage=i % 9, votes=i % 13) for i in range(5000))
    with django_assert_num_queries(5):  # none of them has a recording whose jobs are asked for
        found = shelf(site, q="@v5 major", order="votes", stage="filmed")
    assert found["total"] == sum(1 for i in range(5000) if i % 9 == FILMED and f"@v{i % 97}".startswith("@v5"))
    assert sum(s["songs"] for s in shelf(site)["stages"]) == 5000


def test_a_corrected_song_is_done(site: PageClient) -> None:
    song = services.note_request("Blue Kettle", "@a", actor="t")
    mark_stage(song, CORRECTED, actor="t")
    row = shelf(site)["rows"][0]
    assert (row["song"]["next_step"], row["time_left"]) == ("done", "")
    assert date.fromisoformat(site.get(f"/api/songs/{song.pk}/records").json()["way"][8]["reached_at"][:10])


def test_who_did_it_is_kept_with_every_change(site: PageClient, heard_song: Song) -> None:
    week = site.get("/api/calendar").json()["week"]
    path = f"songs/{heard_song.pk}"
    changes = (
        ("POST", "requests", {"title": "Tin Weathervane", "handle": "@moss"}),
        ("POST", f"{path}/askings", {"handle": "@fern", "note": "slowly"}),
        ("POST", f"{path}/time", {"stage": CHARTED, "minutes": 4.0, "by_hand": True}),
        ("POST", f"{path}/corrections", {"text": "bar 2 is wrong", "handle": "@tarn"}),
        ("PUT", "calendar/week", week | {"seen": site.get("/api/calendar").json()["week"]}),
        ("POST", "post/fetch", None),
    )
    for method, address, body in changes:
        before = Deed.objects.count()
        assert site.call(method, address, body).status_code < 300, address
        assert Deed.objects.count() > before, address
    assert set(Deed.objects.values_list("actor", flat=True)) == {"owner"}
