"""The logs: one line of JSON an event, in files that are turned over, without anything personal.

A request is told by its address as the application has it (``songs/{song_id}/edits``), never by the one that was asked for: that may hold a
title, a search or the key of a shared page. No user, no network address, no contents.
"""

import logging
from pathlib import Path
from time import perf_counter
from typing import Any

from django.http import HttpRequest, HttpResponseBase

MOST_BYTES, MOST_FILES = 2_000_000, 5
_requests = logging.getLogger("valley.requests")
_SLOW = 1.0  # seconds, from which an answer is worth a line of its own


def describe_logging(folder: Path, part: str, level: str) -> dict[str, Any]:
    """Settings for one process of Valley; ``part`` is its name, and each writes a file of its own, as two must not turn over the same one."""
    lines = {"()": "pythonjsonlogger.json.JsonFormatter", "fmt": "%(asctime)s %(levelname)s %(name)s %(message)s"}
    plain = {"filters": ["impersonal"]}
    file = {"class": "logging.handlers.RotatingFileHandler", "filename": folder / f"{part}.log", "maxBytes": MOST_BYTES, "backupCount": MOST_FILES}
    return {
        "version": 1,
        "disable_existing_loggers": False,
        "filters": {"impersonal": {"()": "valley_web.common.logs.Impersonal"}},
        "formatters": {"lines": lines},
        "handlers": {
            "console": plain | {"class": "logging.StreamHandler", "level": level},
            "file": plain | file | {"formatter": "lines", "delay": True, "encoding": "utf-8", "level": "INFO"},
        },
        # Refusals have their line from the middleware; here only faults, with where they happened.
        "loggers": {"django.request": {"level": "ERROR"}, "django.security": {"level": "ERROR"}},
        "root": {"handlers": ["console", "file"], "level": min(level, "INFO", key=logging.getLevelNamesMapping().__getitem__)},
    }


class Impersonal(logging.Filter):
    """Tells a request by its pattern."""

    def filter(self, record: logging.LogRecord) -> bool:
        """Rewrites what Django says of a request; everything else passes."""
        request = getattr(record, "request", None)
        if request is not None:
            record.msg, record.args = f"{getattr(record, 'status_code', '')} {route_of(request)}".strip(), ()
            delattr(record, "request")
        return True


def route_of(request: Any) -> str:
    """The pattern that a request's address fell under; nothing of what was asked for where it fell under none."""
    match = getattr(request, "resolver_match", None)
    return f"{getattr(request, 'method', '?')} {match.route if match else '(no such address)'}"


class RequestLogMiddleware:
    """One line for each change, each refusal and each slow answer: pattern, status, milliseconds."""

    def __init__(self, get_response: Any) -> None:
        self.get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponseBase:
        began = perf_counter()
        response: HttpResponseBase = self.get_response(request)
        took = perf_counter() - began
        if request.method not in ("GET", "HEAD") or response.status_code >= 400 or took > _SLOW:
            _requests.info("request", extra={"route": route_of(request), "status": response.status_code, "ms": round(1000 * took)})
        return response
