"""Settings for one creator on their own machine. Every VALLEY_… variable is optional; README lists them."""

import os
import secrets
from pathlib import Path

from csp.constants import NONE, SELF, UNSAFE_INLINE
from platformdirs import user_data_path

from valley_web.common.logs import describe_logging

ROOT = Path(__file__).resolve().parents[3]
PACKAGE = Path(__file__).resolve().parents[1]
# A wheel carries the page and the demo songs inside; in a working copy they lie where they are made.
INSTALLED = (PACKAGE / "page").is_dir()
DEMO_DIR = PACKAGE / "demo" if INSTALLED else ROOT / "demo"
# Installed, the data lie where this computer keeps those of its users; in a working copy beside it.
DATA_DIR = Path(os.environ.get("VALLEY_DATA") or (user_data_path("valley", appauthor=False) if INSTALLED else ROOT / "var")).resolve()
RECORDINGS_DIR = DATA_DIR / "recordings"
UPLOAD_DIR = DATA_DIR / "uploads"
FILMS_DIR = DATA_DIR / "films"
BACKUPS_DIR = Path(os.environ.get("VALLEY_BACKUPS", DATA_DIR.with_name(f"{DATA_DIR.name}-copies"))).resolve()
for _folder in (DATA_DIR, RECORDINGS_DIR, UPLOAD_DIR, FILMS_DIR):
    _folder.mkdir(parents=True, exist_ok=True)


def _load_secret_key() -> str:
    """A key of this installation's own, made at first use and readable by its owner only."""
    path = DATA_DIR / "secret_key"
    if not path.exists():
        handle = os.open(path, os.O_WRONLY | os.O_CREAT | os.O_TRUNC, 0o600)
        with os.fdopen(handle, "w") as file:
            file.write(secrets.token_urlsafe(64))
    return path.read_text()


SECRET_KEY = os.environ.get("VALLEY_SECRET_KEY") or _load_secret_key()
DEBUG = False
BIND = os.environ.get("VALLEY_BIND", "127.0.0.1:8000")
ALLOWED_HOSTS = ["localhost", "127.0.0.1", "[::1]", *filter(None, os.environ.get("VALLEY_HOSTS", "").split(","))]
# Asked for always, not only from other machines: `serve` sets it when bound beyond loopback.
REQUIRE_LOGIN = os.environ.get("VALLEY_REQUIRE_LOGIN") == "1"

# Limits on what is taken in; all can be raised.
MAX_UPLOAD_BYTES = int(os.environ.get("VALLEY_MAX_UPLOAD_MB", "300")) * 1024 * 1024
MAX_RECORDING_SECONDS = float(os.environ.get("VALLEY_MAX_MINUTES", "30")) * 60

# Listening on other machines: the broker by which listeners are called, the key that they show, and, on theirs, the server they work for.
BROKER = os.environ.get("VALLEY_BROKER", "")
LISTENER_KEY = os.environ.get("VALLEY_LISTENER_KEY", "")
SERVER = os.environ.get("VALLEY_SERVER", "")
_HOURS = 3600  # seconds
RQ_QUEUES = {"listening": {"URL": BROKER, "DEFAULT_TIMEOUT": 6 * _HOURS}} if BROKER else {}
TASKS = {
    "default": {
        "BACKEND": "django_tasks_rq.RQBackend" if BROKER else "valley_web.common.embedded_tasks.Embedded",
        "QUEUES": ["listening"],
    }
}

INSTALLED_APPS = [
    "django.contrib.auth",
    "django.contrib.contenttypes",
    "django.contrib.sessions",
    "django.contrib.staticfiles",
    "csp",
    "django_tasks",
    "ninja",  # for export_openapi_schema
    "valley_web.common",
    "valley_web.accounts",
    "valley_web.songs",
    "valley_web.lessons",
    "valley_web.records",
    "valley_web.keeping",
    *(["django_rq"] if BROKER else []),
]
MIDDLEWARE = [
    "valley_web.common.logs.RequestLogMiddleware",
    "django.middleware.security.SecurityMiddleware",
    "whitenoise.middleware.WhiteNoiseMiddleware",
    "valley_web.common.middleware.GzipAnswersMiddleware",  # the page's own files are compressed when they are built
    "csp.middleware.CSPMiddleware",
    "django.contrib.sessions.middleware.SessionMiddleware",
    "django.middleware.common.CommonMiddleware",
    "django.middleware.csrf.CsrfViewMiddleware",
    "django.contrib.auth.middleware.AuthenticationMiddleware",
    "valley_web.common.middleware.LoginWallMiddleware",
    "valley_web.common.middleware.UploadLimitMiddleware",
    "django.middleware.clickjacking.XFrameOptionsMiddleware",
]
ROOT_URLCONF = "valley_web.config.urls"
WSGI_APPLICATION = "valley_web.config.wsgi.application"
TEMPLATES = [
    {
        "BACKEND": "django.template.backends.django.DjangoTemplates",
        "APP_DIRS": True,
        "OPTIONS": {"context_processors": ["django.template.context_processors.request", "django.contrib.auth.context_processors.auth"]},
    }
]

# IMMEDIATE and a long timeout: Django's default loses writes to "database is locked" under two processes.
DATABASES = {
    "default": {
        "ENGINE": "django.db.backends.sqlite3",
        "NAME": DATA_DIR / "valley.sqlite3",
        "OPTIONS": {
            "transaction_mode": "IMMEDIATE",
            "timeout": 20,
            "init_command": "PRAGMA journal_mode=WAL; PRAGMA synchronous=FULL; PRAGMA foreign_keys=ON;",
        },
    }
}
DEFAULT_AUTO_FIELD = "django.db.models.BigAutoField"
AUTH_PASSWORD_VALIDATORS = [
    {"NAME": "django.contrib.auth.password_validation.MinimumLengthValidator"},
    {"NAME": "django.contrib.auth.password_validation.CommonPasswordValidator"},
]
LOGIN_URL = "login"
LOGIN_REDIRECT_URL = "/"

FILE_UPLOAD_TEMP_DIR = UPLOAD_DIR
FILE_UPLOAD_HANDLERS = ["django.core.files.uploadhandler.TemporaryFileUploadHandler"]

STATIC_URL = "/static/"
FRONTEND_DIR = PACKAGE / "page" if INSTALLED else ROOT / "frontend" / "dist"
STATICFILES_DIRS = [FRONTEND_DIR] if FRONTEND_DIR.is_dir() else []
# Vite's names carry a hash, so they may be kept for ever; the page that names them may not.
WHITENOISE_USE_FINDERS = True
WHITENOISE_AUTOREFRESH = False


def WHITENOISE_IMMUTABLE_FILE_TEST(path: str, url: str) -> bool:  # noqa: N802 - the setting's own name
    return "/assets/" in url


LANGUAGE_CODE = "en"
TIME_ZONE = "UTC"
USE_TZ = True
SECURE_CONTENT_TYPE_NOSNIFF = True
SECURE_REFERRER_POLICY = "same-origin"
X_FRAME_OPTIONS = "DENY"
# Where anything on a page may come from. styled-components writes style elements, so styles may be inline; scripts may not.
CONTENT_SECURITY_POLICY = {
    "DIRECTIVES": {
        "default-src": [SELF],
        "style-src": [SELF, UNSAFE_INLINE],
        "img-src": [SELF, "data:", "blob:"],
        "media-src": [SELF, "blob:"],
        "font-src": [SELF, "data:"],
        "connect-src": [SELF],
        "frame-ancestors": [NONE],
        "base-uri": [NONE],
        "form-action": [SELF],
    }
}
SESSION_COOKIE_SAMESITE = "Lax"
CSRF_COOKIE_SAMESITE = "Lax"
LOGS_DIR = DATA_DIR / "logs"
LOGS_DIR.mkdir(exist_ok=True)
LOGGING = describe_logging(LOGS_DIR, os.environ.get("VALLEY_PART", "commands"), os.environ.get("VALLEY_LOG", "WARNING"))
