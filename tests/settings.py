"""The server's settings with a data folder of the test run's own."""

import os
import tempfile
from ipaddress import ip_network

import environ

if "HOLLOWSTACK_DATA" not in os.environ:
    os.environ["HOLLOWSTACK_DATA"] = tempfile.mkdtemp(prefix="hollowstack-tests-")
if worker := os.environ.get("PYTEST_XDIST_WORKER"):  # tests side by side have each their own
    os.environ["HOLLOWSTACK_DATA"] += f"/{worker}"

from hollowstack.server.config.settings import *  # noqa: F403

ALLOWED_HOSTS = [*ALLOWED_HOSTS, "testserver"]  # noqa: F405
STATION_NETWORKS = [ip_network("127.0.0.0/8")]  # where the simulated ones are
FIND_STATIONS = environ.Env().bool("HOLLOWSTACK_FIND_STATIONS", default=False)  # those of other tests would be found
PASSWORD_HASHERS = ["django.contrib.auth.hashers.MD5PasswordHasher"]  # quick, and only for made-up users
