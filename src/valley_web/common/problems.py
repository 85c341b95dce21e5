"""Errors as the browser gets them: a title that says what happened, a detail that says what to do (RFC 9457)."""

import errno
from typing import Any

from django.db import OperationalError
from django.http import Http404, HttpRequest, HttpResponse, JsonResponse
from ninja import NinjaAPI, Schema
from ninja.errors import AuthenticationError, HttpError, ValidationError

from valley.errors import FormatError, ParameterError, ValleyError
from valley_web.common.errors import Conflict, Empty, Forbidden, Gone, Refusal, TooMuch, Unfit


class Problem(Schema):
    """What every failed call answers."""

    title: str
    detail: str = ""
    kind: str = "error"
    data: dict[str, Any] = {}


_STATUS: dict[type[Refusal], int] = {Empty: 400, Forbidden: 403, Gone: 404, Conflict: 409, TooMuch: 413, Unfit: 422}


def problem_response(status: int, title: str, detail: str = "", kind: str = "error", data: dict[str, Any] | None = None) -> JsonResponse:
    body = {"title": title, "detail": detail, "kind": kind, "data": data or {}}
    return JsonResponse(body, status=status, content_type="application/problem+json")


def full_disk() -> JsonResponse:
    """There is no room for what was asked."""
    return problem_response(507, "The disk is full.", "Free some space and try again; nothing that was saved is lost.", "disk-full")


def _install_disk_handlers(api: NinjaAPI) -> None:
    """What the disk and the database refuse."""

    @api.exception_handler(OSError)
    def on_os_error(request: HttpRequest, error: OSError) -> HttpResponse:
        if error.errno in (errno.ENOSPC, errno.EDQUOT):
            return full_disk()
        raise error

    @api.exception_handler(OperationalError)
    def on_database_error(request: HttpRequest, error: OperationalError) -> HttpResponse:
        if "disk is full" in str(error):
            return full_disk()
        if "locked" in str(error):
            return problem_response(503, "Valley is busy writing something else.", "Try again in a moment; nothing that was saved is lost.", "busy")
        raise error


def install_problem_handlers(api: NinjaAPI) -> None:
    """One map from errors of the core and of Django to problems."""
    _install_disk_handlers(api)

    @api.exception_handler(Refusal)
    def on_refusal(request: HttpRequest, error: Refusal) -> HttpResponse:
        return problem_response(_STATUS[type(error)], error.title, error.detail, error.kind, error.data)

    @api.exception_handler(ValleyError)
    def on_valley_error(request: HttpRequest, error: ValleyError) -> HttpResponse:
        status = 422 if isinstance(error, FormatError | ParameterError) else 400
        return problem_response(status, str(error))

    @api.exception_handler(OverflowError)
    def on_endless_number(request: HttpRequest, error: OverflowError) -> HttpResponse:
        return problem_response(422, "A number in this is larger than any that is kept.", "Check what was entered.", "number")

    @api.exception_handler(Http404)
    def on_missing(request: HttpRequest, error: Http404) -> HttpResponse:
        return problem_response(404, "This is not here any more.", "Go back to the shelf; deleted songs can be brought back there.")

    @api.exception_handler(AuthenticationError)
    def on_stranger(request: HttpRequest, error: AuthenticationError) -> HttpResponse:
        return problem_response(401, "Sign in first.", "Open the start page and sign in.")

    @api.exception_handler(HttpError)
    def on_http_error(request: HttpRequest, error: HttpError) -> HttpResponse:
        forged = error.status_code == 403
        return problem_response(error.status_code, "This page is out of date." if forged else str(error), "Load the page again." if forged else "")

    @api.exception_handler(ValidationError)
    def on_invalid(request: HttpRequest, error: ValidationError) -> HttpResponse:
        first = error.errors[0]
        place = ".".join(str(p) for p in first["loc"][1:])
        return problem_response(422, f"{place}: {first['msg']}", "Check what was entered.")
