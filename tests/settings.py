"""The server's settings with a data folder of the test run's own."""

import os
import tempfile

os.environ.setdefault("HOLLOWSTACK_DATA", tempfile.mkdtemp(prefix="hollowstack-tests-"))

from hollowstack.server.settings import *  # noqa: F403

PASSWORD_HASHERS = ["django.contrib.auth.hashers.MD5PasswordHasher"]  # quick, and only for made-up users
