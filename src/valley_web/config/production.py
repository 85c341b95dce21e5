"""For a studio's server behind HTTPS: ``DJANGO_SETTINGS_MODULE=valley_web.config.production``."""

from valley_web.config.settings import *  # noqa: F403 - the one place where settings build on settings

REQUIRE_LOGIN = True
SECURE_SSL_REDIRECT = True
SECURE_HSTS_SECONDS = 31_536_000
SECURE_HSTS_INCLUDE_SUBDOMAINS = True
SECURE_HSTS_PRELOAD = True
SECURE_PROXY_SSL_HEADER = ("HTTP_X_FORWARDED_PROTO", "https")
SESSION_COOKIE_SECURE = True
CSRF_COOKIE_SECURE = True
