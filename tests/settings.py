"""The server's settings with a data folder of the test run's own."""

import os
import tempfile

if "HOLLOWSTACK_DATA" not in os.environ:
    os.environ["HOLLOWSTACK_DATA"] = tempfile.mkdtemp(prefix="hollowstack-tests-")
if worker := os.environ.get("PYTEST_XDIST_WORKER"):  # tests side by side have each their own
    os.environ["HOLLOWSTACK_DATA"] += f"/{worker}"

from hollowstack.server.config.settings import *  # noqa: F403

PASSWORD_HASHERS = ["django.contrib.auth.hashers.MD5PasswordHasher"]  # quick, and only for made-up users
