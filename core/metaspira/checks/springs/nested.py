"""Springs one in the other: each is asked on its own at the lengths that they share, and whether they can catch."""

from __future__ import annotations

import itertools
import math
from collections.abc import Callable
from dataclasses import replace
from typing import Any

from metaspira.checks.check import WHOLE, Check, Window, worst
from metaspira.checks.springs.kinds import spring_as
from metaspira.part import Part
from metaspira.springs.nested import Nested


def of_each(check: Callable[[Any, Window], Check]) -> Callable[[Part, Window], Check]:
    """The check of each spring of a nest: the gravest answer, with the name of the spring that it is of."""

    def checked(part: Part, window: Window) -> Check:
        found = [check(member, WHOLE) for member in part.members]
        gravest = worst([one.verdict for one in found])
        at = min(
            (k for k, one in enumerate(found) if one.verdict == gravest), key=lambda k: found[k].margin
        )
        why = f"{part.bodies[at].name}: {found[at].why}"
        return replace(found[at], why=why, where=found[at].where if at == 0 else ())

    return checked


def check_hands(part: Part, window: Window) -> Check:
    """Neighbours wound by opposite hands, which keeps their turns from catching (common practice, no source)."""
    springs = sorted(spring_as(part, Nested).alone, key=lambda one: float(one.turns.radii.mean()))
    same = sum(a.turns.hand == b.turns.hand for a, b in itertools.pairwise(springs))
    why = "Each spring is wound by the other hand than the one around it"
    if same:
        return Check(
            "spring-hands", "Opposite hands", "watch", float(same), 0.0, "",
            "Two springs that stand one in the other are wound by the same hand, so that their turns can catch; wind one the "
            "other way", -float(same),
        )  # fmt: skip
    return Check("spring-hands", "Opposite hands", "clear", 0.0, 0.0, "", why, math.inf)
