"""Checks of a spring under load, by its kind. A new check is one function and one line in SPRING_CHECKS."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from metaspira.checks.check import Check, Window
from metaspira.checks.springs.making import check_index, check_wire
from metaspira.checks.springs.pulling import check_body, check_hooks, check_initial, check_pull
from metaspira.checks.springs.strength import check_block, check_fatigue, check_stress
from metaspira.checks.springs.travel import check_bore, check_buckling, check_travel
from metaspira.checks.springs.turning import check_bending, check_rod, check_way
from metaspira.part import Part

SPRING_CHECKS: dict[str, dict[str, Callable[[Any, Window], Check]]] = {
    "compression": {
        "spring-travel": check_travel,
        "spring-stress": check_stress,
        "spring-block": check_block,
        "spring-fatigue": check_fatigue,
        "spring-buckling": check_buckling,
        "spring-bore": check_bore,
        "spring-index": check_index,
        "spring-wire": check_wire,
    },
    "extension": {
        "spring-travel": check_pull,
        "spring-stress": check_body,
        "spring-hooks": check_hooks,
        "spring-initial": check_initial,
        "spring-index": check_index,
        "spring-wire": check_wire,
    },
    "torsion": {
        "spring-travel": check_way,
        "spring-stress": check_bending,
        "spring-rod": check_rod,
        "spring-index": check_index,
        "spring-wire": check_wire,
    },
}


def spring_checks_of(part: Part) -> dict[str, Callable[[Any, Window], Check]]:
    """The checks of the spring that a part is; none where it is no spring."""
    return {} if part.spring is None else SPRING_CHECKS[part.spring.asked.kind]
