"""Can it be wound, and of this wire?"""

from __future__ import annotations

from metaspira.checks.check import Check, Verdict, Window
from metaspira.part import Part

_LEAST, _MOST = 4.0, 20.0
_LEAST_TURNS = 2.0


def check_index(part: Part, window: Window) -> Check:
    """The spring index against 4 to 20, and at least two active turns (EN 13906-1, cold coiled)."""
    spring = part.spring
    assert spring is not None
    value, active = spring.index, spring.active
    margin = min(value - _LEAST, _MOST - value, active - _LEAST_TURNS)
    verdict: Verdict = "clear" if margin >= 0 else "watch"
    limit = _MOST if value > _MOST else _LEAST
    why = f"w = D / d = {value:.4g}; {_LEAST:g} to {_MOST:g} can be wound well. {active:.4g} turns are active"
    if active < _LEAST_TURNS:
        why += ", and at least two are wanted"
    return Check("spring-index", "Spring index", verdict, value, limit, "", why, margin)


def check_wire(part: Part, window: Window) -> Check:
    """The wire's diameter against those it is made in."""
    spring = part.spring
    assert spring is not None
    wire, d = spring.wire, spring.diameter
    margin = min(d - wire.least, wire.most - d)
    verdict: Verdict = "clear" if wire.has(d) else "watch"
    limit = wire.least if d < wire.least else wire.most
    why = f"{wire.name} is made from {wire.least:g} to {wire.most:g} mm; its strength at {d:.4g} mm is {spring.strength:.4g} MPa"
    return Check("spring-wire", "Wire diameter", verdict, d, limit, "mm", why, margin)
