"""Answers that our own page may show in a frame: hand-outs that are looked at."""

from typing import Any, cast

from csp.constants import NONE, SELF, UNSAFE_INLINE
from csp.decorators import csp_replace
from django.http import HttpRequest, HttpResponse
from django.views.decorators.clickjacking import xframe_options_sameorigin

# A page for viewers runs what is in it, as an origin of its own that sees nothing of ours, and asks nobody for anything.
_SHUT_IN: dict[str, Any] = {
    "sandbox": ["allow-scripts", "allow-modals"],
    "default-src": [NONE],
    "script-src": [UNSAFE_INLINE],
    "style-src": [UNSAFE_INLINE],
    "media-src": ["data:"],
    "font-src": ["data:"],
    "img-src": ["data:"],
    "connect-src": [NONE],
}


def shut_in(request: HttpRequest, response: HttpResponse) -> HttpResponse:
    """A page that is shown by itself, and sees nothing of ours."""

    def answer(_: HttpRequest) -> HttpResponse:
        return response

    return cast(HttpResponse, csp_replace(_SHUT_IN)(answer)(request))


def let_be_framed(request: HttpRequest, response: HttpResponse) -> HttpResponse:
    """The same answer, which pages of ours may put in a frame; pages of others still may not. A whole page is shut in."""
    shut = _SHUT_IN if response["Content-Type"].startswith("text/html") else {}

    def answer(_: HttpRequest) -> HttpResponse:
        return response

    framed = xframe_options_sameorigin(csp_replace({"frame-ancestors": [SELF], **shut})(answer))(request)
    return cast(HttpResponse, framed)
