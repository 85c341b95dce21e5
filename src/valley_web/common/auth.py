"""Who may use the API: the owner at this machine, or someone signed in; CSRF is checked either way."""

import ipaddress

from django.conf import settings
from django.http import HttpRequest
from ninja.security import APIKeyCookie


def is_loopback(address: str) -> bool:
    """True for an address of this machine alone.

    >>> is_loopback("127.0.0.1"), is_loopback("10.0.0.7"), is_loopback("")
    (True, False, False)
    """
    try:
        return ipaddress.ip_address(address.strip("[]")).is_loopback
    except ValueError:
        return address == "localhost"


def needs_login(request: HttpRequest) -> bool:
    """Login is demanded by setting, and of every request that comes from elsewhere."""
    if request.user.is_authenticated:
        return False
    return bool(settings.REQUIRE_LOGIN) or not is_loopback(str(request.META.get("REMOTE_ADDR", "")))


def name_actor(request: HttpRequest) -> str:
    """Who did it, for the record."""
    return request.user.get_username() if request.user.is_authenticated else "owner"


class OwnerAuth(APIKeyCookie):
    """A cookie scheme, because it is the one for which ninja checks CSRF."""

    param_name = "sessionid"

    def __init__(self) -> None:
        super().__init__(csrf=True)

    def authenticate(self, request: HttpRequest, key: str | None) -> str | None:
        return None if needs_login(request) else name_actor(request)
