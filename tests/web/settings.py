"""Settings for the tests: everything in a folder of their own, cheap passwords."""

import atexit
import os
import shutil
import tempfile

if folder := os.environ.get("VALLEY_TEST_DATA"):
    os.environ["VALLEY_DATA"] = folder
else:
    os.environ["VALLEY_DATA"] = folder = tempfile.mkdtemp(prefix="valley-tests-")
    for made in (folder, f"{folder}-copies"):  # who made them takes them away
        atexit.register(shutil.rmtree, made, ignore_errors=True)

from valley_web.config.settings import *  # noqa: F403 - the folder must be named before settings are read
from valley_web.config.settings import DATA_DIR

PASSWORD_HASHERS = ["django.contrib.auth.hashers.MD5PasswordHasher"]

# A worker that a test starts works on the test's own database: a file, not memory, so that both can use it.
DATABASES["default"]["NAME"] = os.environ.get("VALLEY_TEST_DATABASE", DATABASES["default"]["NAME"])  # noqa: F405
DATABASES["default"]["TEST"] = {"NAME": str(DATA_DIR / "test.sqlite3")}  # noqa: F405

# Where a test starts a broker; nobody is called there unless a test says so.
RQ_QUEUES = {"listening": {"URL": f"unix://{DATA_DIR}/broker.sock", "DEFAULT_TIMEOUT": 600}}
WHITENOISE_AUTOREFRESH = True  # files are looked for when asked for: every client of a test would read the whole folder anew
