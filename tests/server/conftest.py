"""The server's own data stays out of the checkout's."""

import pytest
from django.core.cache import caches


@pytest.fixture(autouse=True)
def _own_files(settings, tmp_path):
    settings.WHITENOISE_AUTOREFRESH = True  # each client would list all files of the interface
    settings.STORAGES = {
        **settings.STORAGES,
        "jobs": {
            "BACKEND": "django.core.files.storage.FileSystemStorage",
            "OPTIONS": {"location": str(tmp_path / "builds")},
        },
    }


@pytest.fixture
def handed(monkeypatch):
    """The jobs that wait for a worker, since there is none."""
    waiting = []
    monkeypatch.setattr("jobs.tasks.run_job", lambda *job, priority: waiting.append(job))
    return waiting


@pytest.fixture
def team(settings):
    """Team mode, with passwords that are quick to check and nobody kept out."""
    settings.TEAM = True
    settings.PASSWORD_HASHERS = ["django.contrib.auth.hashers.MD5PasswordHasher"]
    caches["limits"].clear()
