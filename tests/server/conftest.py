"""The server's own data stays out of the checkout's."""

import pytest


@pytest.fixture(autouse=True)
def _own_files(settings, tmp_path):
    settings.FILES = tmp_path / "builds"
