"""Signing in, with patience for slips and none for guessing."""

from typing import Any

from django.contrib.auth.views import LoginView
from django.core.cache import cache
from django.http import HttpRequest, HttpResponse
from django.template.response import TemplateResponse

FREE_TRIES = 5
_FIRST_WAIT, _LONGEST_WAIT = 15, 900  # seconds


def _key(request: HttpRequest) -> str:
    """Tries are counted for a name from an address, so that nobody can lock out another."""
    name = str(request.POST.get("username", ""))[:80].casefold()
    return f"sign-in:{request.META.get('REMOTE_ADDR', '')}:{name.encode().hex()}"


class PatientLoginView(LoginView):
    """After some wrong passwords the next try has to wait, each time twice as long."""

    template_name = "accounts/sign_in.html"

    def post(self, request: HttpRequest, *args: Any, **kwargs: Any) -> HttpResponse:
        key = _key(request)
        if cache.get(f"{key}:waits"):
            context = self.get_context_data(form=self.get_form_class()(request), waits=True)
            return TemplateResponse(request, self.template_name, context, status=429)
        return super().post(request, *args, **kwargs)

    def form_invalid(self, form: Any) -> HttpResponse:
        key = _key(self.request)
        tries = int(cache.get(key, 0)) + 1
        cache.set(key, tries, 24 * 3600)
        if tries >= FREE_TRIES:
            cache.set(f"{key}:waits", True, min(_LONGEST_WAIT, _FIRST_WAIT * 2 ** (tries - FREE_TRIES)))
        return super().form_invalid(form)

    def form_valid(self, form: Any) -> HttpResponse:
        cache.delete(_key(self.request))
        return super().form_valid(form)
