"""Settings for the tests: everything in a folder of their own, cheap passwords."""

import os
import tempfile

os.environ["VALLEY_DATA"] = os.environ.get("VALLEY_TEST_DATA") or tempfile.mkdtemp(prefix="valley-tests-")

from valley_web.config.settings import *  # noqa: F403 - the folder must be named before settings are read
from valley_web.config.settings import DATA_DIR

PASSWORD_HASHERS = ["django.contrib.auth.hashers.MD5PasswordHasher"]

# A worker that a test starts works on the test's own database: a file, not memory, so that both can use it.
DATABASES["default"]["NAME"] = os.environ.get("VALLEY_TEST_DATABASE", DATABASES["default"]["NAME"])  # noqa: F405
DATABASES["default"]["TEST"] = {"NAME": str(DATA_DIR / "test.sqlite3")}  # noqa: F405

# Where a test starts a broker; nobody is called there unless a test says so.
RQ_QUEUES = {"listening": {"URL": f"unix://{DATA_DIR}/broker.sock", "DEFAULT_TIMEOUT": 600}}
