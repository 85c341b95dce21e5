"""Settings for the tests: everything in a folder of their own, cheap passwords."""

import os
import tempfile

os.environ["VALLEY_DATA"] = tempfile.mkdtemp(prefix="valley-tests-")

from valley_web.config.settings import *  # noqa: E402, F403 - the folder must be named before settings are read

PASSWORD_HASHERS = ["django.contrib.auth.hashers.MD5PasswordHasher"]
