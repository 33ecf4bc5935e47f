"""How each kind of part is drawn: a module a kind, whose `plan_of` gives None for what is not of its kind. A
new one is a module, listed before those that would take its parts."""

from __future__ import annotations

from metaspira.drawings.kinds import compression, extension, spiral, swept, thread, torsion
from metaspira.drawings.plan import Plan
from metaspira.parts import AnyPart

_KINDS = (thread, compression, extension, torsion, spiral, swept)


def plan_of(part: AnyPart) -> Plan:
    """What the drawing of a part shows."""
    return next(plan for kind in _KINDS if (plan := kind.plan_of(part)) is not None)
