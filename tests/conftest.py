"""Recipes that many tests start from."""

import copy
from typing import Any

import pytest
from metaspira.processes import warm

SPRING: dict[str, Any] = {
    "format": "metaspira/1",
    "name": "Test spring",
    "unit": "mm",
    "variables": {"wire": 2.5, "mean": "8 * wire"},
    "path": {"kind": "coil", "diameter": "mean", "turns": 8, "pitch": "2.4 * wire"},
    "section": {"kind": "round", "diameter": "wire"},
    "stance": {"kind": "outward"},
}


@pytest.fixture(scope="session", autouse=True)
def _children_loaded(request):
    """What is built, read or traced in a child starts at once, as in a worker; what has a server of its own
    has its children there."""
    from jobs.tasks import NEEDED

    elsewhere = ("browser", "processes")
    if not all(any(map(item.get_closest_marker, elsewhere)) for item in request.session.items):
        warm(*NEEDED)


@pytest.fixture
def spring() -> dict[str, Any]:
    """A clear spring of 2.5 mm wire on a 20 mm mean diameter, 8 turns at a pitch of 6 mm."""
    return copy.deepcopy(SPRING)
