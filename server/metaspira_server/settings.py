"""Settings: one person on this machine, unless the environment says otherwise.

METASPIRA_DATA   folder of the database, the task queue and the built files (default: var/)
METASPIRA_HOSTS  names under which the server may be asked for, comma-separated
METASPIRA_DEBUG  1 only while developing
METASPIRA_TEAM   1: people sign in, designs have owners; people are added by `manage.py person NAME`
METASPIRA_RATE   requests a minute and person (default 6000: a bench asks often)
METASPIRA_HTTPS  1 behind a proxy that speaks HTTPS: cookies and addresses for it alone, and HSTS
METASPIRA_PROXIES
                 addresses of the proxies whose forwarding headers are believed, comma-separated (default:
                 none; with HTTPS that of this machine)
METASPIRA_KEEP_DELETED, METASPIRA_KEEP_JOBS
                 days after which designs off the shelf (default 90) and ended jobs with their files (30) are
                 taken out
METASPIRA_MOST_JOBS
                 how many jobs of one person may wait or run at a time (default 100)
REDIS_URL        moves the tasks to any number of machines, each of which runs `manage.py run_huey`; they
                 share this address and the storage below, and need no database
METASPIRA_LOGS   json: a line of JSON for each request and each fault, on standard error
METASPIRA_TITLE_BLOCK
                 what title blocks say where a design says nothing, as JSON: owner, number, revision, creator,
                 approver, tolerances, licence
METASPIRA_STORAGE, METASPIRA_STORAGE_OPTIONS
                 class (dotted) of the Django storage for built files and its options as JSON (default: a
                 folder, METASPIRA_DATA/builds)
"""

import contextlib
import json
import os
import secrets
from pathlib import Path
from typing import Any

from metaspira.problems import RecipeError
from metaspira.recipe.title_block import workshop_block

ROOT = Path(__file__).resolve().parents[2]
DATA = Path(os.environ.get("METASPIRA_DATA", ROOT / "var")).resolve()
os.umask(0o077)
DATA.mkdir(parents=True, exist_ok=True)
for _file in DATA.glob("*.sqlite3*"):
    with contextlib.suppress(OSError):
        _file.chmod(0o600)


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

TEAM = os.environ.get("METASPIRA_TEAM") == "1"
RATE = int(os.environ.get("METASPIRA_RATE", "6000"))
HTTPS = os.environ.get("METASPIRA_HTTPS") == "1"
PROXIES = frozenset(
    filter(None, os.environ.get("METASPIRA_PROXIES", "127.0.0.1,::1" if HTTPS else "").split(","))
)
FORCE_SCRIPT_NAME = ""
NINJA_NUM_PROXIES = 0
MOST_UPLOAD = 66_000_000
KEEP_DELETED = float(os.environ.get("METASPIRA_KEEP_DELETED", "90"))
KEEP_JOBS = float(os.environ.get("METASPIRA_KEEP_JOBS", "30"))
MOST_JOBS = int(os.environ.get("METASPIRA_MOST_JOBS", "100"))

INSTALLED_APPS = [
    "metaspira_server",
    "django.contrib.contenttypes",
    "django.contrib.auth",
    "django.contrib.sessions",
    "django.contrib.messages",
    "django.contrib.staticfiles",
    "django.contrib.admin.apps.SimpleAdminConfig",
    "huey.contrib.djhuey",
    "ninja",
    "designs",
    "library",
    "jobs",
    "builds",
    "surveys",
    "traces",
    "people",
]
MIDDLEWARE = [
    "metaspira_server.middleware.forwarded",
    "metaspira_server.middleware.told",
    "django.middleware.security.SecurityMiddleware",
    "metaspira_server.middleware.same_origin",
    "metaspira_server.middleware.bounded",
    "whitenoise.middleware.WhiteNoiseMiddleware",
    "metaspira_server.middleware.LocalPlainGZip",
    "django.middleware.clickjacking.XFrameOptionsMiddleware",
    "django.middleware.common.CommonMiddleware",
    "django.contrib.sessions.middleware.SessionMiddleware",
    "django.contrib.auth.middleware.AuthenticationMiddleware",
    "django.middleware.csrf.CsrfViewMiddleware",
    "django.contrib.messages.middleware.MessageMiddleware",
    "people.middleware.TeamMiddleware",
]
TEMPLATES = [
    {
        "BACKEND": "django.template.backends.django.DjangoTemplates",
        "DIRS": [Path(__file__).parent / "templates"],
        "APP_DIRS": True,
        "OPTIONS": {
            "context_processors": [
                "django.template.context_processors.request",
                "django.contrib.auth.context_processors.auth",
                "django.contrib.messages.context_processors.messages",
            ]
        },
    }
]
AUTH_PASSWORD_VALIDATORS = [
    {"NAME": f"django.contrib.auth.password_validation.{name}"}
    for name in (
        "UserAttributeSimilarityValidator",
        "MinimumLengthValidator",
        "CommonPasswordValidator",
    )
]
SESSION_COOKIE_SAMESITE = CSRF_COOKIE_SAMESITE = "Lax"
SESSION_COOKIE_SECURE = CSRF_COOKIE_SECURE = HTTPS
SECURE_PROXY_SSL_HEADER = ("HTTP_X_FORWARDED_PROTO", "https") if HTTPS else None
SECURE_HSTS_SECONDS = 31_536_000 if HTTPS else 0
SECURE_SSL_REDIRECT = HTTPS
SECURE_REDIRECT_EXEMPT = [r"^health/", r"^metrics$"]
# what the whole domain promises is for its owner to say
SILENCED_SYSTEM_CHECKS = ["security.W005", "security.W021"]
ROOT_URLCONF = "metaspira_server.urls"
WSGI_APPLICATION = "metaspira_server.wsgi.application"

DATABASES = {
    "default": {
        "ENGINE": "django.db.backends.sqlite3",
        "NAME": DATA / "metaspira.sqlite3",
        "OPTIONS": {
            "timeout": 3,
            "transaction_mode": "IMMEDIATE",
            "init_command": "PRAGMA journal_mode=WAL; PRAGMA synchronous=FULL; PRAGMA foreign_keys=ON;",
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
WHITENOISE_USE_FINDERS = True
STATIC_URL = "static/"
STORAGES = {
    "jobs": {
        "BACKEND": os.environ.get("METASPIRA_STORAGE", "django.core.files.storage.FileSystemStorage"),
        "OPTIONS": json.loads(
            os.environ.get("METASPIRA_STORAGE_OPTIONS") or json.dumps({"location": str(DATA / "builds")})
        ),
    },
    "staticfiles": {"BACKEND": "django.contrib.staticfiles.storage.StaticFilesStorage"},
}
REDIS = os.environ.get("REDIS_URL")


def _shared(name: str, most: int) -> dict[str, Any]:
    """A cache that all processes of the server share, and with Redis all machines."""
    if REDIS:
        return {
            "BACKEND": "metaspira_server.caches.SteadyRedisCache",
            "LOCATION": REDIS,
            "OPTIONS": {"socket_connect_timeout": 0.5, "socket_timeout": 2},
            "KEY_PREFIX": f"metaspira-{name}",
        }
    return {
        "BACKEND": "django.core.cache.backends.filebased.FileBasedCache",
        "LOCATION": DATA / name,
        "OPTIONS": {"MAX_ENTRIES": most},
    }


CACHES = {
    "default": {**_shared("pictures", 5000), "TIMEOUT": 30 * 86_400},
    "verdicts": _shared("verdicts", 1000),
    "limits": _shared("limits", 1000),
}

HUEY = {
    "huey_class": "huey.PriorityRedisHuey" if REDIS else "huey.SqliteHuey",
    "name": "metaspira-fair",
    **({"url": REDIS} if REDIS else {"filename": str(DATA / "tasks.sqlite3"), "timeout": 20}),
    "immediate": False,
    "consumer": {"workers": 2, "worker_type": "thread"},
}

LOGS = os.environ.get("METASPIRA_LOGS") == "json"
LOGGING = {
    "version": 1,
    "disable_existing_loggers": False,
    "formatters": {
        "json": {
            "()": "pythonjsonlogger.json.JsonFormatter",
            "format": "{asctime}{levelname}{name}{message}",
            "style": "{",
            "rename_fields": {"asctime": "at", "levelname": "level", "name": "logger"},
        }
    },
    "handlers": {"console": {"class": "logging.StreamHandler", **({"formatter": "json"} if LOGS else {})}},
    "loggers": {"metaspira_server.requests": {"level": "INFO" if LOGS else "WARNING"}},
    "root": {"handlers": ["console"], "level": "WARNING"},
}

try:
    workshop_block()
except RecipeError as error:
    raise SystemExit(f"metaspira: {error}") from None
