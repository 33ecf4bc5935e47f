"""The shape under the hardest load: does the wire touch itself there, fold, or meet its bore or rod?"""

from __future__ import annotations

import math

from metaspira.checks.bend import check_bend
from metaspira.checks.check import Check, Verdict, Window, worst
from metaspira.checks.contact import check_contact
from metaspira.checks.springs.kinds import EVERY_KIND, spring_question
from metaspira.parts import Part
from metaspira.problems import RecipeError
from metaspira.springs.working import WoundSpring

_ID, _TITLE = "spring-shape", "Shape under load"


def check_shape(part: Part, window: Window) -> Check:
    """The least air at the working point furthest from free: of the wire to itself, to the bore and to the
    rod."""
    spring: WoundSpring | None = part.spring
    assert spring is not None
    fit = part.recipe.fit
    if not spring.points:
        return Check(_ID, _TITLE, "clear", None, 0.0, "mm", "It has no working point", math.inf)
    low, high = sorted(spring.span)
    place = min(max(max(spring.points, key=lambda point: abs(point.way)).place, low), high)
    at = f"At {place:.5g} {spring.units[0]}".replace(" °", "°")
    try:
        state = part.worked_to(place)
    except RecipeError as error:
        return Check(_ID, _TITLE, "stop", None, 0.0, "mm", f"{at} {error.problems[0].reason}", -1.0)
    contact, bend = check_contact(state, window), check_bend(state, window)
    air: dict[str, float] = {}
    if fit.bore is not None or fit.rod is not None:
        box = state.extents
        if fit.bore is not None:
            air["bore"] = fit.bore / 2 - box.outside_radius
        if fit.rod is not None:
            air["rod"] = box.inside_radius - fit.rod / 2
    tight = min(air, key=lambda name: air[name], default=None)
    meets = tight is not None and air[tight] < 0
    graver = contact if worst([contact.verdict, bend.verdict]) == contact.verdict else bend
    verdict: Verdict = "stop" if meets else graver.verdict
    why = f"{at}: {graver.why}"
    if tight is not None:
        why += f"; {air[tight]:.4g} mm of air to the {tight}"
    values = [*air.values(), *([] if contact.value is None else [contact.value])]
    margin = min([contact.margin, bend.margin, *air.values()])
    return Check(
        _ID,
        _TITLE,
        verdict,
        min(values, default=None),
        0.0,
        "mm",
        why,
        margin,
        graver.where,
        graver.points,
    )


QUESTIONS = (
    spring_question(
        "spring-shape",
        check_shape,
        EVERY_KIND,
        38,
        "least air at the point furthest from free, mm: of the wire to itself, to bore and rod",
        "where it meets itself or them, or folds",
        "where it just touches itself",
        whole=True,
    ),
)
