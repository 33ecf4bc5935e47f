"""Checks of a spring under load, by its kind. A new check is one function and one line in SPRING_CHECKS."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from metaspira.checks.check import Check, Window
from metaspira.checks.springs.making import check_index, check_wire
from metaspira.checks.springs.nested import check_hands, of_each
from metaspira.checks.springs.pulling import check_hooks, check_initial, check_pull
from metaspira.checks.springs.shape import check_shape
from metaspira.checks.springs.strength import (
    check_bending,
    check_block,
    check_body,
    check_fatigue,
    check_stress,
)
from metaspira.checks.springs.travel import check_bore, check_buckling, check_travel
from metaspira.checks.springs.turning import check_arbor, check_rod, check_way
from metaspira.part import Part
from metaspira.springs.nested import Nested

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
        "spring-shape": check_shape,
    },
    "extension": {
        "spring-travel": check_pull,
        "spring-stress": check_body,
        "spring-fatigue": check_fatigue,
        "spring-hooks": check_hooks,
        "spring-initial": check_initial,
        "spring-index": check_index,
        "spring-wire": check_wire,
        "spring-shape": check_shape,
    },
    "torsion": {
        "spring-travel": check_way,
        "spring-stress": check_bending,
        "spring-fatigue": check_fatigue,
        "spring-rod": check_rod,
        "spring-index": check_index,
        "spring-wire": check_wire,
        "spring-shape": check_shape,
    },
    "spiral": {
        "spring-travel": check_arbor,
        "spring-stress": check_bending,
        "spring-fatigue": check_fatigue,
        "spring-index": check_index,
        "spring-wire": check_wire,
        "spring-shape": check_shape,
    },
}


_WHOLE_NEST = ("spring-shape",)


def spring_checks_of(part: Part) -> dict[str, Callable[[Any, Window], Check]]:
    """The checks of the spring that a part is; none where it is no spring."""
    if part.spring is None:
        return {}
    checks = SPRING_CHECKS[part.spring.asked.kind]
    if not isinstance(part.spring, Nested):
        return checks
    each = {name: check if name in _WHOLE_NEST else of_each(check) for name, check in checks.items()}
    return {**each, "spring-hands": check_hands}
