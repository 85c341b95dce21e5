"""Answers that our own page may show in a frame: hand-outs that are looked at."""

from typing import cast

from csp.constants import SELF
from csp.decorators import csp_replace
from django.http import HttpRequest, HttpResponse
from django.views.decorators.clickjacking import xframe_options_sameorigin


def let_be_framed(request: HttpRequest, response: HttpResponse) -> HttpResponse:
    """The same answer, which pages of ours may put in a frame; pages of others still may not."""

    def answer(_: HttpRequest) -> HttpResponse:
        return response

    framed = xframe_options_sameorigin(csp_replace({"frame-ancestors": [SELF]})(answer))(request)
    return cast(HttpResponse, framed)
