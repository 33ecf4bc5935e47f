"""Checks of a spring under load. A new check is one function and one line in SPRING_CHECKS."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from metaspira.checks.check import Check, Window
from metaspira.checks.springs.making import check_index, check_wire
from metaspira.checks.springs.strength import check_block, check_fatigue, check_stress
from metaspira.checks.springs.travel import check_bore, check_buckling, check_travel

SPRING_CHECKS: dict[str, Callable[[Any, Window], Check]] = {
    "spring-travel": check_travel,
    "spring-stress": check_stress,
    "spring-block": check_block,
    "spring-fatigue": check_fatigue,
    "spring-buckling": check_buckling,
    "spring-bore": check_bore,
    "spring-index": check_index,
    "spring-wire": check_wire,
}
