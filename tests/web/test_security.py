"""The floor: loopback only, CSRF, sign-in from elsewhere, deployment check."""

import os
import subprocess
import sys
from typing import Any

import pytest
from django.contrib.auth import get_user_model
from django.core.management import CommandError, call_command
from django.test import Client

from tests.web.conftest import PageClient
from valley_web.common.auth import is_loopback
from valley_web.songs.models import Song


def test_changes_without_the_token_are_refused(site: PageClient, heard_song: Song) -> None:
    for method, path in (("POST", f"songs/{heard_song.pk}/undo"), ("DELETE", f"songs/{heard_song.pk}"), ("POST", "songs")):
        response = site.generic(method, f"/api/{path}", "{}", content_type="application/json")
        assert response.status_code == 403, path
        assert "out of date" in response.json()["title"]
    assert Song.objects.filter(deleted_at=None).count() == 1


@pytest.mark.parametrize("path", ["/api/shelf", "/recordings/1", "/songs/1/survey", "/"])
def test_other_machines_must_sign_in(site: PageClient, path: str) -> None:
    response = site.get(path, REMOTE_ADDR="192.0.2.7")
    assert response.status_code == (401 if path.startswith(("/api", "/rec")) else 302)


def test_signing_in_opens_the_door(site: PageClient, db: None) -> None:
    get_user_model().objects.create_user("ida", password="quiet harbour 7")
    assert site.get("/sign-in", REMOTE_ADDR="192.0.2.7").status_code == 200
    wrong = site.post("/sign-in", {"username": "ida", "password": "guess", "csrfmiddlewaretoken": site.token}, REMOTE_ADDR="192.0.2.7")
    assert b"do not match" in wrong.content
    right = site.post("/sign-in", {"username": "ida", "password": "quiet harbour 7", "csrfmiddlewaretoken": site.token}, REMOTE_ADDR="192.0.2.7")
    assert right.status_code == 302
    assert site.get("/api/session", REMOTE_ADDR="192.0.2.7").json()["name"] == "ida"


def test_signing_out_leads_back_to_the_door(site: PageClient, db: None) -> None:
    site.force_login(get_user_model().objects.create_user("ida", password="quiet harbour 7"))
    out = site.post("/sign-out", {"csrfmiddlewaretoken": site.token})
    assert (out.status_code, out["Location"]) == (302, "/sign-in")
    assert site.get("/api/session").json()["signed_in"] is False


def test_who_guesses_has_to_wait_and_nobody_else(db: None) -> None:
    for name in ("ida", "otto"):
        get_user_model().objects.create_user(name, password="quiet harbour 7")

    def try_in(name: str, password: str, address: str = "192.0.2.7") -> int:
        return int(Client(enforce_csrf_checks=False).post("/sign-in", {"username": name, "password": password}, REMOTE_ADDR=address).status_code)

    assert [try_in("ida", f"guess {i}") for i in range(5)] == [200] * 5
    assert try_in("ida", "quiet harbour 7") == 429
    assert try_in("otto", "quiet harbour 7") == 302
    assert try_in("ida", "quiet harbour 7", "192.0.2.8") == 302


def test_the_setting_asks_everyone(site: PageClient, settings: Any) -> None:
    settings.REQUIRE_LOGIN = True
    assert site.get("/api/shelf").status_code == 401


def test_other_host_names_are_refused(client: Client, db: None) -> None:
    assert client.get("/api/shelf", headers={"host": "evil.example"}).status_code == 400


def test_binding_beyond_loopback_needs_an_account(db: None) -> None:
    with pytest.raises(CommandError, match="createsuperuser"):
        call_command("serve", bind="0.0.0.0:8000")
    assert [is_loopback(a) for a in ("127.0.0.1", "::1", "[::1]", "localhost", "192.0.2.1", "", "example.org")] == [True] * 4 + [False] * 3


def test_pages_say_where_scripts_may_come_from(site: PageClient) -> None:
    response = site.get("/")
    assert "script-src" not in response["Content-Security-Policy"]  # so default-src 'self' holds for scripts
    assert "default-src 'self'" in response["Content-Security-Policy"]
    assert response["X-Frame-Options"] == "DENY"
    assert response["X-Content-Type-Options"] == "nosniff"


def test_djangos_deployment_check_is_clean_in_production(tmp_path: Any) -> None:
    environment = os.environ | {"DJANGO_SETTINGS_MODULE": "valley_web.config.production", "VALLEY_DATA": str(tmp_path)}
    run = subprocess.run([sys.executable, "-m", "django", "check", "--deploy", "--fail-level", "WARNING"], env=environment, capture_output=True, text=True)
    assert run.returncode == 0, run.stderr
    assert (tmp_path / "secret_key").stat().st_mode & 0o077 == 0


def test_server_errors_do_not_show_their_insides(site: PageClient, heard_song: Song, monkeypatch: pytest.MonkeyPatch) -> None:
    from valley_web.songs import selectors

    monkeypatch.setattr(selectors, "get_song", lambda i: (_ for _ in ()).throw(RuntimeError("secret place")))
    response = site.get(f"/api/songs/{heard_song.pk}")
    assert response.status_code == 500
    assert b"secret place" not in response.content
