"""Accounts and links: who may do what, what ends when, and what a viewer sees without an account."""

import pytest
from django.contrib.auth import get_user_model

from tests.web.conftest import PageClient
from valley_web.songs.models import Song

AWAY = {"REMOTE_ADDR": "192.0.2.7"}


@pytest.fixture
def signed_in(site: PageClient) -> PageClient:
    """Ida, the owner, signed in from another machine."""
    assert site.call("POST", "people", {"name": "ida", "password": "quiet harbour 7"}).json()["owner"]  # the first always is
    enter(site, "ida", "quiet harbour 7")
    return site


def enter(client: PageClient, name: str, password: str) -> int:
    done = client.post("/sign-in", {"username": name, "password": password, "csrfmiddlewaretoken": client.token}, **AWAY)
    client.token = client.cookies["csrftoken"].value
    return int(done.status_code)


def test_the_first_makes_accounts_and_who_has_one_signs_in(signed_in: PageClient, built_page: None) -> None:
    assert signed_in.call("POST", "people", {"name": "per", "password": "oak and barley 3"}, **AWAY).status_code == 201
    told = signed_in.get("/api/people", **AWAY).json()
    assert told["own"] and [(p["name"], p["owner"]) for p in told["people"]] == [("ida", True), ("per", False)]
    other = PageClient()
    assert other.get("/api/people", **AWAY).status_code == 401
    assert enter(other, "per", "oak and barley 3") == 302
    assert other.get("/api/people", **AWAY).json()["own"] is False
    refused = other.call("POST", "people", {"name": "x", "password": "another one 9"}, **AWAY)
    assert (refused.status_code, refused.json()["title"]) == (403, "Only the owner can do this.")


def test_who_is_shut_out_is_out_at_once_and_let_in_again(signed_in: PageClient) -> None:
    signed_in.call("POST", "people", {"name": "per", "password": "oak and barley 3"}, **AWAY)
    other = PageClient()
    enter(other, "per", "oak and barley 3")
    assert other.get("/api/session", **AWAY).status_code == 200
    assert signed_in.call("PATCH", "people/per", {"active": False}, **AWAY).status_code == 204
    assert other.get("/api/people", **AWAY).status_code == 401
    assert enter(other, "per", "oak and barley 3") == 200  # the page again, with what is wrong
    signed_in.call("PATCH", "people/per", {"active": True}, **AWAY)
    assert enter(other, "per", "oak and barley 3") == 302
    alone = signed_in.call("PATCH", "people/ida", {"active": False}, **AWAY)
    assert (alone.status_code, alone.json()["kind"]) == (409, "last owner")


def test_a_password_is_changed_by_whom_it_belongs_to(signed_in: PageClient) -> None:
    elsewhere = PageClient()
    enter(elsewhere, "ida", "quiet harbour 7")
    for old, new in (("wrong", "a longer way 12"), ("quiet harbour 7", "12345678"), ("quiet harbour 7", "short")):
        assert signed_in.call("POST", "own-password", {"old": old, "new": new}, **AWAY).status_code == 422
    assert signed_in.call("POST", "own-password", {"old": "quiet harbour 7", "new": "a longer way 12"}, **AWAY).status_code == 204
    assert elsewhere.get("/api/people", **AWAY).status_code == 401  # every other session ended
    assert enter(PageClient(), "ida", "quiet harbour 7") == 200
    assert enter(PageClient(), "ida", "a longer way 12") == 302


@pytest.mark.parametrize(
    ("body", "status"),
    [
        ({"name": "ida", "password": "another one 9"}, 409),
        ({"name": "two words!", "password": "another one 9"}, 422),
        ({"name": "per", "password": "per"}, 422),
        ({"name": "", "password": "another one 9"}, 422),
    ],
)
def test_what_makes_no_account_is_refused(signed_in: PageClient, body: dict[str, str], status: int) -> None:
    assert signed_in.call("POST", "people", body, **AWAY).status_code == status
    assert get_user_model().objects.count() == 1


def test_a_link_shows_the_page_for_viewers_and_nothing_else_until_it_is_taken_back(site: PageClient, heard_song: Song) -> None:
    made = site.call("POST", f"songs/{heard_song.pk}/share-links").json()
    path = made["address"].removeprefix("http://testserver")
    stranger = PageClient()
    seen = stranger.get(path, **AWAY)
    assert seen.status_code == 200 and b"<audio" in seen.content
    assert "sandbox" in seen["Content-Security-Policy"] and "connect-src 'none'" in seen["Content-Security-Policy"]
    assert stranger.get(f"/api/songs/{heard_song.pk}", **AWAY).status_code == 401
    assert stranger.get(f"{path}x", **AWAY).status_code == 404
    assert [link["id"] for link in site.get(f"/api/songs/{heard_song.pk}/share-links").json()] == [made["id"]]
    assert site.call("DELETE", f"share-links/{made['id']}").status_code == 204
    assert stranger.get(path, **AWAY).status_code == 404
    assert site.call("DELETE", f"share-links/{made['id']}").status_code == 404
    assert site.get(f"/api/songs/{heard_song.pk}/share-links").json() == []


def test_no_link_is_made_to_a_page_that_cannot_be(site: PageClient, heard_song: Song, monkeypatch: pytest.MonkeyPatch) -> None:
    made = site.call("POST", f"songs/{heard_song.pk}/share-links").json()
    monkeypatch.setattr("valley.pipeline.practice._LONGEST", 1)
    assert site.get(f"/api/songs/{heard_song.pk}/handouts/viewers.html").status_code == 422
    refused = site.call("POST", f"songs/{heard_song.pk}/share-links")
    assert refused.status_code == 422 and "choose one part" in refused.json()["title"]
    assert PageClient().get(made["address"].removeprefix("http://testserver"), **AWAY).status_code == 404
