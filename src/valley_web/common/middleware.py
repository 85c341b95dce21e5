"""Walls around every request: who may look, how much may be sent."""

from collections.abc import Callable

from django.conf import settings
from django.contrib.auth.views import redirect_to_login
from django.http import HttpRequest, HttpResponse, HttpResponseBase
from django.middleware.gzip import GZipMiddleware

from valley_web.common.auth import needs_login
from valley_web.common.problems import problem_response

GetResponse = Callable[[HttpRequest], HttpResponseBase]


class GzipAnswersMiddleware(GZipMiddleware):
    """Compresses what is text. Sound, pictures and zips are so already, and a piece of a recording must stay the piece that was asked for."""

    def process_response(self, request: HttpRequest, response: HttpResponseBase) -> HttpResponseBase:
        kind = response.get("Content-Type", "")
        text = kind.startswith(("application/json", "application/problem+json", "text/", "image/svg"))
        return super().process_response(request, response) if text and not response.streaming else response


class LoginWallMiddleware:
    """Everything but the sign-in page itself is behind it."""

    def __init__(self, get_response: GetResponse) -> None:
        self.get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponseBase:
        if not needs_login(request) or request.path == "/sign-in" or request.path.startswith(("/look/", "/api/listeners/")):  # the last have keys of their own
            return self.get_response(request)
        if request.path.startswith(("/api/", "/recordings/")):
            return problem_response(401, "Sign in first.", "Open the start page and sign in.")
        return redirect_to_login(request.get_full_path())


class UploadLimitMiddleware:
    """Refuses a body that says it is too large before a byte of it is stored.

    A body that says nothing about its length is read as empty by Django, so this is enough.
    """

    slack = 1024 * 1024  # for the form around the file

    def __init__(self, get_response: GetResponse) -> None:
        self.get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponseBase:
        try:
            length = int(request.META.get("CONTENT_LENGTH") or 0)
        except ValueError:
            return HttpResponse(status=400)
        if length > settings.MAX_UPLOAD_BYTES + self.slack:
            limit = settings.MAX_UPLOAD_BYTES // (1024 * 1024)
            return problem_response(
                413,
                f"The file is larger than {limit} MB.",
                "Export it as mp3 or m4a, or raise VALLEY_MAX_UPLOAD_MB. Nothing was changed.",
            )
        return self.get_response(request)
