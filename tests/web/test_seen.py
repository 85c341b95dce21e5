"""What another window has written meanwhile is never written over: the later change is refused, kept and told."""

from tests.web.conftest import PageClient
from valley.records.way import FILMED, LISTENED
from valley_web.records import services
from valley_web.records.models import Asking
from valley_web.songs.models import Deed, LogEntry, Song


def lines(song: Song) -> str:
    return " / ".join(LogEntry.objects.filter(song=song).values_list("text", flat=True))


def test_permission_noted_in_two_windows(site: PageClient, heard_song: Song) -> None:
    path = f"songs/{heard_song.pk}"
    first = site.call("PATCH", path, {"rights": "asked the writer", "seen": {"rights": ""}})
    assert first.json()["rights"] == "asked the writer"
    late = site.call("PATCH", path, {"rights": "my own song", "wanted": "the refrain", "seen": {"rights": "", "wanted": ""}})
    assert (late.status_code, late.json()["kind"]) == (409, "overtaken")
    assert "“asked the writer”" in late.json()["detail"]
    now = site.get(f"/api/{path}").json()
    assert (now["rights"], now["wanted"]) == ("asked the writer", ""), "of one change all is written, or nothing"
    assert "my own song" in lines(heard_song)


def test_the_same_words_twice_are_no_quarrel(site: PageClient, heard_song: Song) -> None:
    path = f"songs/{heard_song.pk}"
    for _ in range(2):
        assert site.call("PATCH", path, {"wanted": "the refrain", "seen": {"wanted": ""}}).status_code == 200


def test_two_fields_do_not_quarrel(site: PageClient, heard_song: Song) -> None:
    path = f"songs/{heard_song.pk}"
    site.call("PATCH", path, {"rights": "asked", "seen": {"rights": ""}})
    assert site.call("PATCH", path, {"wanted": "the refrain", "seen": {"wanted": ""}}).json()["rights"] == "asked"


def test_a_change_that_saw_nothing_is_refused(site: PageClient, heard_song: Song) -> None:
    answer = site.call("PATCH", f"songs/{heard_song.pk}", {"rights": "mine"})
    assert (answer.status_code, answer.json()["kind"]) == (422, "blind")
    assert site.get(f"/api/songs/{heard_song.pk}").json()["rights"] == ""


def test_a_title_given_in_two_windows(site: PageClient, heard_song: Song) -> None:
    path = f"songs/{heard_song.pk}"
    site.call("PATCH", path, {"title": "Evening", "seen": {"title": heard_song.title}})
    assert site.call("PATCH", path, {"title": "Morning", "seen": {"title": heard_song.title}}).status_code == 409
    assert site.get(f"/api/{path}/chart").json()["title"] == site.get(f"/api/{path}").json()["title"] == "Evening"


def test_a_promise_made_in_two_windows(site: PageClient) -> None:
    song = services.note_request("Blue Kettle", "@a", actor="t")
    path = f"askings/{Asking.objects.get().pk}"
    site.call("PATCH", path, {"promise": "in May", "seen": {"promise": ""}})
    late = site.call("PATCH", path, {"promise": "in June", "seen": {"promise": ""}})
    assert (late.status_code, Asking.objects.get().promise) == (409, "in May")
    assert "in June" in lines(song)


def test_a_report_answered_in_two_windows(site: PageClient, heard_song: Song) -> None:
    report = services.note_correction(heard_song, "bar 2 is wrong", actor="t")
    path = f"corrections/{report.pk}"
    site.call("PATCH", path, {"state": "mended", "seen": "open"})
    late = site.call("PATCH", path, {"state": "kept", "answer": "the recording has it", "seen": "open"})
    report.refresh_from_db()
    assert (late.status_code, report.state) == (409, "mended")
    assert "the recording has it" in lines(heard_song)


def test_waymarks_set_in_two_windows(site: PageClient, heard_song: Song) -> None:
    path = f"songs/{heard_song.pk}"
    assert site.call("POST", f"{path}/way", {"stage": FILMED}).status_code == 200
    late = site.call("POST", f"{path}/way", {"stage": LISTENED, "reached": False, "seen": LISTENED})
    assert (late.status_code, late.json()["kind"]) == (409, "overtaken") and "“filmed”" in late.json()["detail"]
    assert site.get(f"/api/{path}").json()["stage_name"] == "filmed"
    assert "not listened after all" in lines(heard_song)
    assert site.call("POST", f"{path}/way", {"stage": FILMED, "reached": False}).json()["kind"] == "blind"
    assert site.call("POST", f"{path}/way", {"stage": FILMED, "reached": False, "seen": FILMED}).status_code == 200


def test_the_week_set_in_two_windows(site: PageClient) -> None:
    seen = site.get("/api/calendar").json()["week"]
    hours, days = seen | {"minutes": [30] * 7}, seen | {"film": [2]}
    assert site.call("PUT", "calendar/week", hours | {"seen": seen}).status_code == 200
    both = site.call("PUT", "calendar/week", days | {"seen": seen}).json()["week"]
    assert (both["minutes"], both["film"]) == ([30] * 7, [2]), "days and hours are changed beside each other"
    late = site.call("PUT", "calendar/week", seen | {"minutes": [90] * 7, "seen": seen})
    assert late.status_code == 409
    assert site.get("/api/calendar").json()["week"]["minutes"] == [30] * 7
    assert "90" in Deed.objects.first().what


def test_a_version_named_in_two_windows(site: PageClient, heard_song: Song) -> None:
    path = f"songs/{heard_song.pk}/revisions/1"
    assert site.call("PATCH", path, {"name": "first", "seen": ""}).status_code == 204
    assert site.call("PATCH", path, {"name": "raw", "seen": ""}).status_code == 409
    assert site.get(f"/api/songs/{heard_song.pk}/revisions").json()["versions"][-1]["name"] == "first"


def test_a_file_for_a_song_that_has_moved_on(site: PageClient, heard_song: Song) -> None:
    site.change(f"songs/{heard_song.pk}", {"title": "Evening"})
    late = site.upload("chart.txt", b"| C | G | Am | F |", to=str(heard_song.pk), base="1")
    assert (late.status_code, late.json()["kind"]) == (409, "moved")
    assert site.upload("chart.txt", b"| C | G | Am | F |", to=str(heard_song.pk), base="2").status_code == 201


def test_a_window_learns_what_another_has_written(site: PageClient, heard_song: Song) -> None:
    before = site.get(f"/api/songs/{heard_song.pk}/revision").json()
    site.change(f"songs/{heard_song.pk}", {"rights": "asked"})
    after = site.get(f"/api/songs/{heard_song.pk}/revision").json()
    assert after["revision"] == before["revision"]
    assert after["changed_at"] > before["changed_at"]


def test_long_lists_come_in_pages(site: PageClient, heard_song: Song) -> None:
    path = f"songs/{heard_song.pk}"
    for i in range(12):
        site.change(path, {"title": f"Evening {i}"})
    site.call("PATCH", f"{path}/revisions/4", {"name": "good", "seen": ""})
    page = site.get(f"/api/{path}/revisions?limit=5").json()
    assert page["total"] == 13
    assert [v["number"] for v in page["versions"]] == [13, 12, 11, 10, 9, 4, 1], "the first, and one that has a name, are always there"
    site.call("POST", f"{path}/log", [{"kind": "note", "text": f"line {i}"} for i in range(9)])
    site.call("POST", f"{path}/log", [{"kind": "slip", "text": "slipped", "bar": bar, "count": 2} for bar in (3, 2, 3)])
    log = site.get(f"/api/{path}/log?limit=4").json()
    assert (len(log["lines"]), log["total"]) == (4, 12)
    assert log["slips"] == [{"bar": 3, "times": 4}, {"bar": 2, "times": 2}], "slips are counted over all of it"
    assert site.get(f"/api/{path}/log?limit=0").status_code == 422
    site.call("POST", "post/fetch")
    post, whole = (site.get(f"/api/post?limit={n}").json() for n in (3, 2000))
    for name in ("groups", "corrections", "others"):
        assert len(post[name]) == min(3, post[f"total_{name}"])
        assert len(whole[name]) == post[f"total_{name}"]
