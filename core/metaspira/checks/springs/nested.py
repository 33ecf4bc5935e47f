"""Springs one in the other: can they catch?"""

from __future__ import annotations

import itertools
import math
from collections.abc import Iterator

from metaspira.checks.check import Check, Window
from metaspira.checks.question import Question
from metaspira.checks.springs.kinds import spring_as
from metaspira.parts import AnyPart, Part
from metaspira.recipe.fields import Parts
from metaspira.springs.nested import Nested


def check_hands(part: Part, window: Window) -> Check:
    """Neighbours wound by opposite hands, which keeps their turns from catching (common practice, no
    source)."""
    springs = sorted(spring_as(part, Nested).alone, key=lambda one: float(one.turns.radii.mean()))
    same = sum(a.turns.hand == b.turns.hand for a, b in itertools.pairwise(springs))
    why = "Each spring is wound by the other hand than the one around it"
    if same:
        return Check(
            "spring-hands",
            "Opposite hands",
            "watch",
            float(same),
            0.0,
            "",
            "Two springs that stand one in the other are wound by the same hand, so that their turns "
            "can catch; wind one the "
            "other way",
            -float(same),
        )
    return Check("spring-hands", "Opposite hands", "clear", 0.0, 0.0, "", why, math.inf)


def _is_nest(part: AnyPart) -> bool:
    return part.spring is not None and len(part.spring.members) > 1


def _other_hands(part: Part) -> Iterator[tuple[Parts, str, str]]:
    paths = [("path",), *(("wires", k, "path") for k in range(len(part.recipe.wires)))]
    for body, wire, at in zip(part.bodies, (part.recipe, *part.recipe.wires), paths, strict=True):
        hand = "left" if getattr(wire.path, "hand", "right") == "right" else "right"
        yield (*at, "hand"), hand, f"{body.name} wound {hand}-handed"


QUESTIONS = (
    Question(
        "spring-hands",
        check_hands,
        _is_nest,
        "spring",
        39,
        "neighbours in a nest wound by the same hand",
        "",
        "where there are any (common practice)",
        kinds="a nest",
        choices=_other_hands,
    ),
)
