"""Settings: one person on this machine, unless the environment says otherwise.

METASPIRA_DATA   folder of the database, the task queue and the built files (default: var/)
METASPIRA_HOSTS  names under which the server may be asked for, comma-separated
METASPIRA_DEBUG  1 only while developing
"""

import contextlib
import os
import secrets
from pathlib import Path

ROOT = Path(__file__).resolve().parents[2]
DATA = Path(os.environ.get("METASPIRA_DATA", ROOT / "var")).resolve()
DATA.mkdir(parents=True, exist_ok=True)


def _secret() -> str:
    file = DATA / "secret"
    if not file.exists():
        draft = DATA / f"secret.{os.getpid()}"
        draft.touch(mode=0o600)
        draft.write_text(secrets.token_urlsafe(48))
        with contextlib.suppress(FileExistsError):
            os.link(draft, file)
        draft.unlink()
    return file.read_text()


SECRET_KEY = _secret()
DEBUG = os.environ.get("METASPIRA_DEBUG") == "1"
ALLOWED_HOSTS = os.environ.get("METASPIRA_HOSTS", "localhost,127.0.0.1,[::1]").split(",")

INSTALLED_APPS = [
    "django.contrib.contenttypes",
    "huey.contrib.djhuey",
    "ninja",
    "designs",
    "library",
    "builds",
]
MIDDLEWARE = [
    "django.middleware.security.SecurityMiddleware",
    "metaspira_server.middleware.same_origin",
    "whitenoise.middleware.WhiteNoiseMiddleware",
    "django.middleware.gzip.GZipMiddleware",
    "django.middleware.clickjacking.XFrameOptionsMiddleware",
    "django.middleware.common.CommonMiddleware",
]
ROOT_URLCONF = "metaspira_server.urls"
WSGI_APPLICATION = "metaspira_server.wsgi.application"

DATABASES = {
    "default": {
        "ENGINE": "django.db.backends.sqlite3",
        "NAME": DATA / "metaspira.sqlite3",
        "OPTIONS": {
            "timeout": 20,
            "transaction_mode": "IMMEDIATE",
            "init_command": "PRAGMA journal_mode=WAL; PRAGMA synchronous=NORMAL; PRAGMA foreign_keys=ON;",
        },
    }
}
DEFAULT_AUTO_FIELD = "django.db.models.BigAutoField"
USE_TZ = True
TIME_ZONE = "UTC"

DATA_UPLOAD_MAX_MEMORY_SIZE = 1_000_000
WEB = ROOT / "web" / "dist"
WHITENOISE_ROOT = WEB
WHITENOISE_INDEX_FILE = True
STATIC_URL = "static/"
FILES = DATA / "builds"
CACHES = {
    "default": {
        "BACKEND": "django.core.cache.backends.filebased.FileBasedCache",
        "LOCATION": DATA / "pictures",
        "TIMEOUT": None,
        "OPTIONS": {"MAX_ENTRIES": 5000},
    }
}

HUEY = {
    "huey_class": "huey.SqliteHuey",
    "name": "metaspira",
    "filename": str(DATA / "tasks.sqlite3"),
    "immediate": False,
    "consumer": {"workers": 2, "worker_type": "thread"},
}

LOGGING = {
    "version": 1,
    "disable_existing_loggers": False,
    "handlers": {"console": {"class": "logging.StreamHandler"}},
    "root": {"handlers": ["console"], "level": "WARNING"},
}
