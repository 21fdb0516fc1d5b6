"""Settings that do not go together, each said in one sentence."""

import json
import os
import subprocess
import sys
from pathlib import Path

import pytest

from hollowstack.server.upkeep.checks import check_settings

HTTPS = ("HTTP_X_FORWARDED_PROTO", "https")


def test_the_settings_as_they_come_go_together():
    assert check_settings() == []


@pytest.mark.parametrize(
    ("wrong", "number", "says"),
    [
        ({"PUBLIC_URL": "papers.example.org"}, "E001", "an address without a path"),
        ({"PUBLIC_URL": "ftp://papers.example.org", "TLS": True}, "E001", "an address without a path"),
        ({"PUBLIC_URL": "https://papers.example.org/stacks", "TLS": True}, "E001", "an address without a path"),
        ({"PUBLIC_URL": "http://papers.example.org"}, "W001", "has no TLS"),
        ({"SECURE_PROXY_SSL_HEADER": HTTPS}, "E002", "set HOLLOWSTACK_PUBLIC_URL to its https address too"),
        ({"SCHEDULER": "tcp://127.0.0.1:8786"}, "E003", "is reached over TLS"),
        ({"WORKERS": -1}, "E004", "HOLLOWSTACK_WORKERS is -1: set 0 or more"),
        ({"LEAST_FREE_MB": -1}, "E004", "HOLLOWSTACK_LEAST_FREE_MB is -1: set 0 or more"),
        ({"PAGE_SECONDS": 0.0}, "E005", "HOLLOWSTACK_PAGE_SECONDS is 0: set more than 0"),
        ({"STATION_SECONDS": -2.5}, "E005", "HOLLOWSTACK_STATION_SECONDS is -2.5: set more than 0"),
    ],
)
def test_what_does_not_go_together_is_said(settings, wrong, number, says):
    for name, value in wrong.items():
        setattr(settings, name, value)
    (found,) = check_settings()
    assert (found.id, says in found.msg) == (f"hollowstack.{number}", True)


@pytest.mark.parametrize("right", [{"WORKERS": 0}, {"LEAST_FREE_MB": 0}, {"PAGE_SECONDS": 0.1}, {"SCHEDULER": "tls://a:1"}])
def test_what_is_just_right(settings, right):
    for name, value in right.items():
        setattr(settings, name, value)
    assert check_settings() == []


@pytest.mark.parametrize("proxy", [None, HTTPS])
def test_a_served_installation_goes_together(settings, proxy):
    settings.PUBLIC_URL, settings.TLS, settings.SECURE_PROXY_SSL_HEADER = "https://papers.example.org", True, proxy
    assert check_settings() == []


@pytest.mark.parametrize(("inside", "wrong"), [("masters/in", True), ("", True), ("..", True), ("incoming", False)])
def test_watched_folders_lie_beside_the_programs_own(settings, tmp_path: Path, inside, wrong):
    settings.DATA = tmp_path
    settings.INCOMING = tmp_path / inside
    assert [found.id for found in check_settings()] == ["hollowstack.E006"] * wrong


@pytest.mark.parametrize(("address", "prefix", "secure"), [("", "", False), ("https://papers.example.org", "__Host-", True)])
def test_over_tls_cookies_are_secure_and_of_this_host_alone(tmp_path: Path, address, prefix, secure):
    names = ("SESSION_COOKIE_NAME", "CSRF_COOKIE_NAME", "SESSION_COOKIE_SECURE", "CSRF_COOKIE_SECURE", "SECURE_HSTS_SECONDS")
    code = f"import json; from hollowstack.server.config import settings as s; print(json.dumps([getattr(s, n) for n in {names}]))"
    env = {**os.environ, "HOLLOWSTACK_DATA": str(tmp_path), "HOLLOWSTACK_PUBLIC_URL": address}
    told = json.loads(subprocess.run([sys.executable, "-c", code], env=env, capture_output=True, check=True).stdout)
    assert told == [f"{prefix}sessionid", f"{prefix}csrftoken", secure, secure, 31_536_000 if secure else 0]
