"""Settings, all from the environment; every one has a default that works on one machine."""

import secrets
from datetime import timedelta
from ipaddress import ip_network
from pathlib import Path
from urllib.parse import urlsplit

import environ

env = environ.Env()
_HERE = Path(__file__).resolve()

DATA = Path(env.str("HOLLOWSTACK_DATA", default="var")).resolve()
"""Masters, results, documents and the database."""
DATA.mkdir(parents=True, exist_ok=True)
WEB = Path(env.str("HOLLOWSTACK_WEB", default=str(_HERE.parents[4] / "web/dist")))
"""The built front end."""
SCHEDULER = env.str("HOLLOWSTACK_SCHEDULER", default="")
"""Address of a Dask scheduler (tls://…), started with the keys in the data folder; empty starts a local cluster."""
WORKERS = env.int("HOLLOWSTACK_WORKERS", default=0)
"""Processes of the local cluster; 0 takes one for each core."""
PAGE_SECONDS = env.float("HOLLOWSTACK_PAGE_SECONDS", default=300.0)
"""Time limit of one page in one step."""
INCOMING = Path(env.str("HOLLOWSTACK_INCOMING", default=str(DATA / "incoming")))
"""Where the watched folders are, one for each stack that has one."""
LEAST_FREE_MB = env.int("HOLLOWSTACK_LEAST_FREE_MB", default=300)
"""Free space on the data folder's disk below which nothing new is captured or uploaded: what is there can go on."""
STACK_GB = env.int("HOLLOWSTACK_STACK_GB", default=200)
"""How much the files of one stack may come to; 0 for any."""
DEMO = env.bool("HOLLOWSTACK_DEMO", default=False)
"""Made-up boxes are shown, and the interface offers a short way through them."""
PERSON_GB = env.int("HOLLOWSTACK_PERSON_GB", default=0)
"""How much the files that one person has taken in may come to; 0 for any."""
STATION_NETWORKS = [ip_network(text) for text in env.list("HOLLOWSTACK_STATION_NETWORKS", default=[])]
"""Networks that are nobody else's (private, link-local, this machine) in which stations may be, as 192.168.1.0/24."""
DELIVERY_NETWORKS = [ip_network(text) for text in env.list("HOLLOWSTACK_DELIVERY_NETWORKS", default=[])]
"""Such networks in which destinations may be."""
DELIVERY_FOLDERS = [Path(text) for text in env.list("HOLLOWSTACK_DELIVERY_FOLDERS", default=[str(DATA / "outgoing")])]
"""Folders of this machine in which destinations may be, and in folders of these."""
RECEIVERS = DATA / "receivers"
"""Of the simulated receivers: their keys, and what comes by SFTP."""
_CERTIFICATES = env.str("HOLLOWSTACK_DELIVERY_CERTIFICATES", default=str(RECEIVERS / "mail.pem") if DEMO else "")
DELIVERY_CERTIFICATES = Path(_CERTIFICATES) if _CERTIFICATES else None
"""A file of certificates (PEM) by which destinations are trusted, beside the system's."""
DELIVERY_SECONDS = env.float("HOLLOWSTACK_DELIVERY_SECONDS", default=5.0)
"""After so long a delivery that did not succeed is tried a second time; each wait is three times the one before."""
RECEIPT_DAYS = env.float("HOLLOWSTACK_RECEIPT_DAYS", default=7.0)
"""How often what was delivered is looked at again where it lies; 0 for never."""
FIND_STATIONS = env.bool("HOLLOWSTACK_FIND_STATIONS", default=True)
"""Whether stations that announce themselves in those networks are offered."""
STATION_SECONDS = env.float("HOLLOWSTACK_STATION_SECONDS", default=120.0)
"""How long a station may take over the next piece of an image."""


def _secret() -> str:
    path = DATA / "secret"
    if not path.exists():
        path.write_text(secrets.token_urlsafe(50))
        path.chmod(0o600)
    return path.read_text()


SECRET_KEY = env.str("HOLLOWSTACK_SECRET", default="") or _secret()
DEBUG = False
PUBLIC_URL = env.str("HOLLOWSTACK_PUBLIC_URL", default="").rstrip("/")
"""Where browsers reach a served installation, for example https://papers.example.org; empty on one's own machine."""
TLS = PUBLIC_URL.startswith("https://")
_PUBLIC_HOST = urlsplit(PUBLIC_URL).hostname
ALLOWED_HOSTS = [
    *env.list("HOLLOWSTACK_HOSTS", default=["127.0.0.1", "localhost", "[::1]"]),
    *([_PUBLIC_HOST] if _PUBLIC_HOST else []),
]
CSRF_TRUSTED_ORIGINS = [PUBLIC_URL] if PUBLIC_URL else []
# Cookies go over TLS alone where there is TLS, and browsers remember that there is.
SESSION_COOKIE_SECURE = CSRF_COOKIE_SECURE = SECURE_SSL_REDIRECT = TLS
# Over TLS no other site beside this one, and nobody without TLS, can set them (RFC 6265bis, 4.1.3.2).
SESSION_COOKIE_NAME = "__Host-sessionid" if TLS else "sessionid"
CSRF_COOKIE_NAME = "__Host-csrftoken" if TLS else "csrftoken"
SECURE_HSTS_SECONDS = 31_536_000 if TLS else 0
SECURE_HSTS_INCLUDE_SUBDOMAINS = SECURE_HSTS_PRELOAD = TLS
SECURE_PROXY_SSL_HEADER = ("HTTP_X_FORWARDED_PROTO", "https") if env.bool("HOLLOWSTACK_PROXY", default=False) else None
"""Whether a proxy in front speaks TLS and says so; only then its header is believed."""
INSTALLED_APPS = [
    "django.contrib.auth",
    "django.contrib.contenttypes",
    "django.contrib.sessions",
    "axes",
    "hollowstack.server.accounts",
    "hollowstack.server.results",
    "hollowstack.server.treatments",
    "hollowstack.server.collections",
    "hollowstack.server.stacks",
    "hollowstack.server.inspection",
    "hollowstack.server.reading",
    "hollowstack.server.intake",
    "hollowstack.server.engine",
    "hollowstack.server.documents",
    "hollowstack.server.capture",
    "hollowstack.server.sharing",
    "hollowstack.server.dispatch",
    "hollowstack.server.search",
    "hollowstack.server.shelf",
    "hollowstack.server.upkeep",
]
MIDDLEWARE = [
    "hollowstack.server.config.headers.headers",
    "hollowstack.server.config.refusals.refusals",
    "django.middleware.clickjacking.XFrameOptionsMiddleware",
    "django.middleware.security.SecurityMiddleware",
    "whitenoise.middleware.WhiteNoiseMiddleware",
    "django.contrib.sessions.middleware.SessionMiddleware",
    "django.middleware.common.CommonMiddleware",
    "django.middleware.csrf.CsrfViewMiddleware",
    "django.contrib.auth.middleware.AuthenticationMiddleware",
]
ROOT_URLCONF = "hollowstack.server.config.urls"
DATABASES = {
    "default": {
        "ENGINE": "django.db.backends.sqlite3",
        "NAME": DATA / "hollowstack.sqlite3",
        "OPTIONS": {
            # Readers never wait for the engine's writes; writers queue instead of failing.
            "init_command": "PRAGMA journal_mode=WAL; PRAGMA synchronous=FULL;",
            "transaction_mode": "IMMEDIATE",
            "timeout": 30,
        },
        # Tests run server and engine as processes of their own, so their database must be a file too.
        "TEST": {"NAME": DATA / "test.sqlite3"},
    }
}
DEFAULT_AUTO_FIELD = "django.db.models.BigAutoField"
PASSWORD_HASHERS = ["django.contrib.auth.hashers.ScryptPasswordHasher", "django.contrib.auth.hashers.PBKDF2PasswordHasher"]
AUTHENTICATION_BACKENDS = ["axes.backends.AxesStandaloneBackend", "django.contrib.auth.backends.ModelBackend"]
AUTH_PASSWORD_VALIDATORS = [
    {"NAME": "django.contrib.auth.password_validation.UserAttributeSimilarityValidator"},
    {"NAME": "django.contrib.auth.password_validation.MinimumLengthValidator", "OPTIONS": {"min_length": 12}},
    {"NAME": "django.contrib.auth.password_validation.CommonPasswordValidator"},
]
AXES_FAILURE_LIMIT = 8
"""Wrong passwords of one person, or from one address, before the next is not even looked at."""
AXES_COOLOFF_TIME = timedelta(minutes=10)
AXES_LOCKOUT_PARAMETERS = ["username", "ip_address"]
AXES_RESET_ON_SUCCESS = True
AXES_DISABLE_ACCESS_LOG = True
AXES_VERBOSE = False
SILENCED_SYSTEM_CHECKS = ["axes.W002"]
"""Its middleware would answer a locked sign-in with a page; ours does it in a sentence."""
AXES_RESET_COOL_OFF_ON_FAILURE_DURING_LOCKOUT = False
USE_TZ = True
TIME_ZONE = "UTC"
USE_I18N = False
# Kept in memory besides; only whose session it is, and whether they may still come in, is asked each time.
SESSION_ENGINE = "django.contrib.sessions.backends.cached_db"
SESSION_COOKIE_AGE = 12 * 3600
"""A day's work; after that one signs in anew."""
SESSION_COOKIE_SAMESITE = "Strict"
CSRF_COOKIE_SAMESITE = "Strict"
FILE_UPLOAD_TEMP_DIR = DATA / "uploads"
FILE_UPLOAD_TEMP_DIR.mkdir(exist_ok=True)
WHITENOISE_ROOT = WEB if WEB.is_dir() else None
WHITENOISE_INDEX_FILE = True
WHITENOISE_MAX_AGE = 3600
LOGGING = {
    "version": 1,
    "disable_existing_loggers": False,
    "formatters": {"line": {"format": "%(asctime)s %(name)s %(levelname)s %(message)s"}},
    "handlers": {"stderr": {"class": "logging.StreamHandler", "formatter": "line"}},
    "root": {"handlers": ["stderr"], "level": "WARNING"},
    "loggers": {
        "hollowstack": {"level": "INFO"},
        "distributed": {"level": "ERROR"},
        # The record tells of wrong passwords.
        "axes": {"level": "ERROR"},
        # A refusal is an answer, not an event.
        "django.request": {"level": "ERROR"},
    },
}
